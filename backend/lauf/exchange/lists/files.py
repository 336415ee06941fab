"""A file or pasted cells as tables of text. Whatever the encoding, the separator and the line ends.

Spreadsheets come with their own dates and numbers: a date is written as ISO, a whole number without
a point, so that what is read is what the office saw.
"""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, Final

from openpyxl import load_workbook

MOST_ROWS: Final = 5_000
MOST_COLUMNS: Final = 60
#: Of what a packed file unpacks to.
LARGEST: Final = 20_000_000
_SEPARATORS: Final = "\t;,|"
Table = list[list[str]]


class Unreadable(Exception):
    """No table can be read from it; the message says what is accepted."""


@dataclass(frozen=True, slots=True)
class Sheet:
    """One table of a file: its name, and its cells as text, rows of equal length."""

    name: str
    cells: Table


def read_file(data: bytes, name: str = "") -> list[Sheet]:
    """The tables of a file: XLSX, a zip of CSV files, or text with separators. Raises
    Unreadable."""
    if data[:4] == b"PK\x03\x04":
        return _packed(data)
    if data[:8] == b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1":
        raise Unreadable("This is a spreadsheet of the old kind: save it as XLSX or CSV.")
    return [Sheet(name, read_text(decoded(data)))]


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
    return _squared(rows)


def _separator(text: str) -> str:
    """The separator that cuts the most lines into the same number of cells, more than one."""
    lines = [line for line in text.splitlines() if line.strip()][:60]
    best, score = ",", 0.0
    for separator in _SEPARATORS:
        try:
            widths = [len(row) for row in csv.reader(lines, delimiter=separator)]
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


def _packed(data: bytes) -> list[Sheet]:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if sum(one.file_size for one in packed.infolist()) > LARGEST:
                raise Unreadable("The file unpacks to more than 20 MB: give the lists alone.")
            names = packed.namelist()
            if any(one.startswith("xl/") for one in names):
                return _workbook(data)
            lists = [one for one in names if one.lower().endswith((".csv", ".txt"))]
            return [
                Sheet(one.rpartition("/")[2], read_text(decoded(packed.read(one)))) for one in lists
            ]
    except (zipfile.BadZipFile, KeyError, NotImplementedError, RuntimeError) as error:
        raise Unreadable("The packed file is broken, or asks for a password.") from error


def _workbook(data: bytes) -> list[Sheet]:
    try:
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        return [
            Sheet(sheet.title, _squared([_shown(cell) for cell in row]
                                        for row in sheet.iter_rows(values_only=True)))
            for sheet in book.worksheets
        ]  # fmt: skip
    except Unreadable:
        raise
    except Exception as error:  # a broken workbook breaks in any way
        raise Unreadable("The spreadsheet cannot be opened: save it again as XLSX.") from error


def _shown(cell: Any) -> str:
    if cell is None:
        return ""
    if isinstance(cell, datetime):
        return cell.date().isoformat()
    if isinstance(cell, date):
        return cell.isoformat()
    if isinstance(cell, float) and cell.is_integer():
        return str(int(cell))
    return str(cell)


def _squared(rows: Iterable[list[str]]) -> Table:
    """Rows of equal length, without empty ones at the end and empty columns at the right; spaces of
    all kinds taken off the ends. Raises Unreadable for more than can be a list of a school."""
    found: Table = []
    for row in rows:
        if len(found) > MOST_ROWS:
            raise Unreadable(f"A list has at most {MOST_ROWS} rows.")
        found.append([_clean(cell) for cell in row[:MOST_COLUMNS]])
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
