"""A file or pasted cells as a table of text, whatever its encoding, separator and line ends.

Only the table that was chosen is read. Lists are read in a process of their own
(`lauf.sandbox`), so nothing here knows Django; every bound that is met is said.
"""

from __future__ import annotations

import csv
import io
import zipfile
from typing import Final

from lauf.exchange.lists.tables import MOST_SHEETS, ListFile, Table, Unreadable, chosen, squared
from lauf.messages import say
from lauf.rules.reading.separated import cells_of

#: Files of a zip, and tables of a file.
MOST_MEMBERS: Final = 500
#: Bytes that a packed file unpacks to.
LARGEST: Final = 20_000_000
#: Letters or rows from which one sees that a table is not empty.
_BEGINNING: Final = 4_000


def read_file(data: bytes, name: str = "", sheet: int = 0) -> ListFile:
    """The tables of a file: XLSX, a zip of CSV files, or text with separators. Raises
    Unreadable."""
    if data[:4] == b"PK\x03\x04":
        return _packed(data, sheet)
    if data[:8] == b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1":
        raise Unreadable(say("This is an old kind of spreadsheet. Save it as XLSX or CSV."))
    return ListFile([name], read_text(decoded(data)))


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
        raise Unreadable(
            say("The file is cut off or is not text. Save it again as CSV.")
        ) from error


def read_text(text: str) -> Table:
    """Pasted cells or the text of a CSV file as a table. Raises Unreadable."""
    if "\0" in text:
        raise Unreadable(say("This is not a list. Paste cells, or choose a CSV or XLSX file."))
    try:
        rows = cells_of(text)
    except csv.Error as error:
        raise Unreadable(say("This is not a table of cells ({error}).", error=error)) from error
    return squared(rows)


def _packed(data: bytes, sheet: int) -> ListFile:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            names = names_in(packed)
            if any(one.startswith("xl/") for one in names):
                return _workbook(data, sheet)
            lists = [one for one in names if one.lower().endswith((".csv", ".txt"))]
            if len(lists) > MOST_SHEETS:
                raise Unreadable(
                    say("A zip can have at most {most_sheets} lists.", most_sheets=MOST_SHEETS)
                )
            lists = [one for one in lists if _begins(packed, one)]
            one = lists[chosen(lists, sheet)]
            titles = [one.rpartition("/")[2] for one in lists]
            return ListFile(titles, read_text(decoded(packed.read(one))))
    except (zipfile.BadZipFile, KeyError, NotImplementedError, RuntimeError, EOFError) as error:
        raise Unreadable(say("The zip file is damaged or has a password.")) from error


def names_in(packed: zipfile.ZipFile) -> list[str]:
    """The files of a zip. Raises Unreadable for too many, or for more than they may unpack to:
    a member never gives more bytes than the zip says it has."""
    members = packed.infolist()
    if len(members) > MOST_MEMBERS:
        raise Unreadable(
            say(
                "A zip can have at most {most_members} files. Pack only the lists.",
                most_members=MOST_MEMBERS,
            )
        )
    if sum(one.file_size for one in members) > LARGEST:
        raise Unreadable(
            say(
                "The zip file holds more than {largest} MB. Pack only the lists.",
                largest=LARGEST // 1000000,
            )
        )
    return [one.filename for one in members]


def _begins(packed: zipfile.ZipFile, name: str) -> bool:
    with packed.open(name) as member:
        return bool(member.read(_BEGINNING).strip(b"\0\xff\xfe\xef\xbb\xbf \t\r\n;,|"))


def _workbook(data: bytes, sheet: int) -> ListFile:
    # Half of all that is read for a list is this library.
    from lauf.exchange.lists.workbook import read_workbook

    return read_workbook(data, sheet)
