"""A file or pasted cells as a table of text, whatever its encoding, separator and line ends.

Only the table that was chosen is read. `read_for_list` runs in a process of its own
(`lauf.sandbox`), so nothing here knows Django; every bound that is met is said.
"""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import islice
from typing import Final

from lauf.errors import Refused
from lauf.plain_json import JsonObject

MOST_ROWS: Final = 5_000
MOST_COLUMNS: Final = 60
#: Letters of one cell, and of all cells together.
MOST_LETTERS: Final = 5_000
MOST_TEXT: Final = 5_000_000
#: Files of a zip, and tables of a file.
MOST_MEMBERS: Final = 500
MOST_SHEETS: Final = 100
#: Bytes that a packed file unpacks to.
LARGEST: Final = 20_000_000
#: Letters or rows from which one sees that a table is not empty.
_BEGINNING: Final = 4_000
_SEPARATORS: Final = "\t;,|"
Table = list[list[str]]


class Unreadable(Refused):
    """No table can be read from it; the message says what is accepted."""


@dataclass(frozen=True, slots=True)
class ListFile:
    """The names of a file's tables that are not empty, and the cells of the one that was chosen:
    text, rows of equal length."""

    sheets: Sequence[str]
    cells: Table

    def sheet_name(self, sheet: int) -> str:
        """What the chosen table is called, "" where it has no name."""
        return self.sheets[sheet] if sheet < len(self.sheets) else ""


def read_for_list(data: bytes, *, name: str, sheet: int, pasted: bool) -> JsonObject:
    """`read_file` as it is asked for from outside the process."""
    from lauf.exchange.lists.roster import read_any  # it reads its files by this module

    found = ListFile([""], read_text(data.decode())) if pasted else read_any(data, name, sheet)
    return {"sheets": list(found.sheets), "cells": found.cells}


def read_file(data: bytes, name: str = "", sheet: int = 0) -> ListFile:
    """The tables of a file: XLSX, a zip of CSV files, or text with separators. Raises
    Unreadable."""
    if data[:4] == b"PK\x03\x04":
        return _packed(data, sheet)
    if data[:8] == b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1":
        raise Unreadable("This is a spreadsheet of the old kind: save it as XLSX or CSV.")
    return ListFile([name], read_text(decoded(data)))


def chosen(names: Sequence[str], sheet: int) -> int:
    """Which of the tables that are not empty is read. Raises Unreadable."""
    if not names:
        raise Unreadable("The list is empty: paste cells, or choose a CSV or XLSX file.")
    if not 0 <= sheet < len(names):
        raise Unreadable(f"The file has no sheet {sheet + 1}: it has {len(names)}.")
    return sheet


def decoded(data: bytes) -> str:
    """Text from bytes: by its mark, as UTF-8, as UTF-16 where every other byte is nought, or as
    Windows-1252, in which every byte that remains is a letter or sign."""
    for mark, encoding in ((b"\xef\xbb\xbf", "utf-8"), (b"\xff\xfe", "utf-16"),
                           (b"\xfe\xff", "utf-16")):  # fmt: skip
        if data.startswith(mark):
            return _decode(data, encoding).removeprefix("\ufeff")
    pairs = len(data) // 2
    if pairs and len(data) % 2 == 0:
        for place, encoding in ((1, "utf-16-le"), (0, "utf-16-be")):
            if data[place::2].count(0) > 0.4 * pairs:
                return _decode(data, encoding)
    try:
        return data.decode()
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace")


def _decode(data: bytes, encoding: str) -> str:
    try:
        return data.decode(encoding)
    except UnicodeDecodeError as error:
        raise Unreadable("The file is cut off, or is no text: save it again as CSV.") from error


def read_text(text: str) -> Table:
    """Pasted cells or the text of a CSV file as a table. Raises Unreadable."""
    if "\0" in text:
        raise Unreadable("This is no list: paste cells, or choose a CSV or XLSX file.")
    # A first line may name the separator for spreadsheets.
    first, _, rest = text.partition("\n")
    if first.strip().lower() in {f"sep={one}" for one in _SEPARATORS}:
        text, separator = rest, first.strip()[4]
    else:
        separator = _separator(text)
    try:
        rows = list(csv.reader(io.StringIO(text, newline=None), delimiter=separator))
    except csv.Error as error:
        raise Unreadable(f"This is no table of cells: {error}.") from error
    return squared(rows)


def _separator(text: str) -> str:
    """The separator that cuts the most rows into the same number of cells, more than one. Rows end
    as they do when the table is read: a line end of another kind stands inside a cell."""
    best, score = ",", 0.0
    for separator in _SEPARATORS:
        rows = csv.reader(io.StringIO(text, newline=None), delimiter=separator)
        try:
            widths = [len(row) for row in islice(filter(any, rows), 60)]
        except csv.Error:
            continue
        counts = {width: widths.count(width) for width in set(widths) if width > 1}
        if not counts:
            continue
        width = max(counts, key=lambda one: (counts[one], one))
        found = counts[width] + width / 100
        if found > score + 0.001:
            best, score = separator, found
    return best


def _packed(data: bytes, sheet: int) -> ListFile:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            names = names_in(packed)
            if any(one.startswith("xl/") for one in names):
                return _workbook(data, sheet)
            lists = [one for one in names if one.lower().endswith((".csv", ".txt"))]
            if len(lists) > MOST_SHEETS:
                raise Unreadable(f"A zip has at most {MOST_SHEETS} lists: give fewer.")
            lists = [one for one in lists if _begins(packed, one)]
            one = lists[chosen(lists, sheet)]
            titles = [one.rpartition("/")[2] for one in lists]
            return ListFile(titles, read_text(decoded(packed.read(one))))
    except (zipfile.BadZipFile, KeyError, NotImplementedError, RuntimeError, EOFError) as error:
        raise Unreadable("The packed file is broken, or asks for a password.") from error


def names_in(packed: zipfile.ZipFile) -> list[str]:
    """The files of a zip. Raises Unreadable for too many, or for more than they may unpack to:
    a member never gives more bytes than the zip says it has."""
    members = packed.infolist()
    if len(members) > MOST_MEMBERS:
        raise Unreadable(f"A zip has at most {MOST_MEMBERS} files: give the lists alone.")
    if sum(one.file_size for one in members) > LARGEST:
        raise Unreadable(
            f"The file unpacks to more than {LARGEST // 1_000_000} MB: give the lists alone."
        )
    return [one.filename for one in members]


def _begins(packed: zipfile.ZipFile, name: str) -> bool:
    with packed.open(name) as member:
        return bool(member.read(_BEGINNING).strip(b"\0\xff\xfe\xef\xbb\xbf \t\r\n;,|"))


def _workbook(data: bytes, sheet: int) -> ListFile:
    # Half of all that is read for a list is this library.
    from lauf.exchange.lists.workbook import read_workbook

    return read_workbook(data, sheet)


def squared(rows: Iterable[Sequence[str]]) -> Table:
    """Rows of equal length, without empty ones at the end and empty columns at the right; spaces of
    all kinds taken off the ends. Raises Unreadable for more than can be a list of a school."""
    found: Table = []
    letters = 0
    for row in rows:
        if len(found) > MOST_ROWS:
            raise Unreadable(f"A list has at most {MOST_ROWS} rows.")
        cells = row[:MOST_COLUMNS]
        if any(len(cell) > MOST_LETTERS for cell in cells):
            raise Unreadable(f"A cell has at most {MOST_LETTERS} letters.")
        letters += sum(map(len, cells))
        if letters > MOST_TEXT:
            raise Unreadable(f"A list has at most {MOST_TEXT:,} letters in all its cells.")
        found.append([_clean(cell) for cell in cells])
    while found and not any(found[-1]):
        found.pop()
    width = max((len(row) - _empty_end(row) for row in found), default=0)
    return [(row + [""] * width)[:width] for row in found]


def _clean(cell: str) -> str:
    return " ".join(cell.replace("\ufeff", "").replace("\u200b", "").split())


def _empty_end(row: list[str]) -> int:
    count = 0
    for cell in reversed(row):
        if cell:
            break
        count += 1
    return count
