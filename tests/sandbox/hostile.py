"""Files that are made to exhaust whoever reads them, or to reach beyond themselves. Made up here;
the kinds are common knowledge of the trade (bombs, quines left out, lying sizes, entities)."""

from __future__ import annotations

import io
import json
import struct
import zipfile
from collections.abc import Callable
from typing import Final

import openpyxl

_MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"


def zipped(files: dict[str, bytes], *, stored: bool = False) -> bytes:
    held = io.BytesIO()
    how = zipfile.ZIP_STORED if stored else zipfile.ZIP_DEFLATED
    with zipfile.ZipFile(held, "w", how, compresslevel=None if stored else 9) as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    return held.getvalue()


def workbook(sheets: int = 1, **parts: bytes) -> bytes:
    """A small workbook, with some of its parts put in the place of its own."""
    book = openpyxl.Workbook()
    for number in range(1, sheets):
        book.create_sheet(f"Sheet {number}")
    for sheet in book.worksheets:
        sheet.append(["Name", "Class"])
        sheet.append(["Ada Abara", "4 Heron"])
    held = io.BytesIO()
    book.save(held)
    with zipfile.ZipFile(held) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    named = {name.replace("__", "/").replace("_", "."): part for name, part in parts.items()}
    return zipped({**files, **named})


def sheet_xml(body: str, dimension: str = "", head: str = "") -> bytes:
    size = f'<dimension ref="{dimension}"/>' if dimension else ""
    return (
        f'<?xml version="1.0"?>{head}<worksheet xmlns="{_MAIN}">{size}'
        f"<sheetData>{body}</sheetData></worksheet>"
    ).encode()


def one_string_in_many_cells(letters: int, cells: int) -> bytes:
    strings = (
        f'<?xml version="1.0"?><sst xmlns="{_MAIN}" count="{cells}" uniqueCount="1">'
        f"<si><t>{'x' * letters}</t></si></sst>"
    ).encode()
    rows = "".join(
        f'<row r="{row}">' + '<c t="s"><v>0</v></c>' * 26 + "</row>"
        for row in range(1, cells // 26 + 1)
    )
    parts = {"xl__sharedStrings_xml": strings, "xl__worksheets__sheet1_xml": sheet_xml(rows)}
    book = workbook(**parts)
    with zipfile.ZipFile(io.BytesIO(book)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    types = files["[Content_Types].xml"]
    if b"sharedStrings" not in types:
        part = (
            b'<Override PartName="/xl/sharedStrings.xml" ContentType="application/vnd.'
            b'openxmlformats-officedocument.spreadsheetml.sharedStrings+xml"/></Types>'
        )
        files["[Content_Types].xml"] = types.replace(b"</Types>", part)
    return zipped(files)


def lying(size: int) -> bytes:
    """A member that says it unpacks to little and goes on."""
    whole = bytearray(zipped({"list.csv": b"Name\n" + b"Ada Abara\n" * 3_000_000}))
    for mark, place in ((b"PK\x03\x04", 22), (b"PK\x01\x02", 24)):
        at = whole.find(mark)
        struct.pack_into("<I", whole, at + place, size)
    return bytes(whole)


def nested(depth: int) -> bytes:
    inner = zipped({"list.csv": b"Name\nAda\n" * 1000})
    for _ in range(depth):
        inner = zipped({f"{n}.zip": inner for n in range(10)})
    return inner


def entities(kind: str) -> bytes:
    laughs = "".join(f'<!ENTITY l{n} "{f"&l{n - 1};" * 10}">' for n in range(1, 10))
    head = {
        "laughs": f'<!DOCTYPE z [<!ENTITY l0 "ha">{laughs}]>',
        "file": '<!DOCTYPE z [<!ENTITY l9 SYSTEM "file:///etc/passwd">]>',
        "net": '<!DOCTYPE z [<!ENTITY l9 SYSTEM "http://127.0.0.1:9/x">]>',
        "blow": f'<!DOCTYPE z [<!ENTITY l9 "{"x" * 60_000}">]>',
    }[kind]
    cell = '<c t="inlineStr"><is><t>&l9;</t></is></c>' * (400 if kind == "blow" else 1)
    return workbook(xl__worksheets__sheet1_xml=sheet_xml(f'<row r="1">{cell}</row>', head=head))


def rows(number: int) -> bytes:
    return b"Name,Class\n" + b"Ada Abara,4 Heron\n" * number


def sheet_rows(number: int) -> bytes:
    cell = '<c t="inlineStr"><is><t>Ada</t></is></c>'
    body = "".join(f'<row r="{n}">{cell}</row>' for n in range(1, number + 1))
    return workbook(xl__worksheets__sheet1_xml=sheet_xml(body))


def on_every_sheet(sheets: int, part: bytes) -> bytes:
    names = {f"xl__worksheets__sheet{n}_xml": part for n in range(1, sheets + 1)}
    return workbook(sheets, **names)


def overlapping() -> bytes:
    """Two hundred names that all stand for one long member."""
    held = io.BytesIO()
    with zipfile.ZipFile(held, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("a.csv", b"Name\n" + b"Ada\n" * 400_000)
        first = archive.infolist()[0]
        for n in range(200):
            other = zipfile.ZipInfo(f"{n}.csv")
            for field in ("CRC", "compress_size", "file_size", "compress_type", "header_offset"):
                setattr(other, field, getattr(first, field))
            archive.filelist.append(other)
            archive.NameToInfo[other.filename] = other
    return held.getvalue()


_EMPTY_ROWS = '<row r="1048576"><c r="XFD1048576"><v>1</v></c></row>'
#: What it is, the file, and words of the answer ("" where reading it is all right).
LISTS: Final[tuple[tuple[str, Callable[[], bytes], str], ...]] = (
    ("one shared string of 4 MB in 127,400 cells",
     lambda: one_string_in_many_cells(4_000_000, 127_400), "5000 letters"),
    ("one shared string of 5,000 letters in 127,400 cells",
     lambda: one_string_in_many_cells(5_000, 127_400), "5,000,000 letters"),
    ("a sheet that says it has all cells there are",
     lambda: workbook(xl__worksheets__sheet1_xml=sheet_xml(
         '<row r="1"><c><v>1</v></c></row>', "A1:XFD1048576")), ""),
    ("60 such sheets", lambda: on_every_sheet(
        60, sheet_xml('<row r="1"><c><v>1</v></c></row>', "A1:XFD1048576")), ""),
    ("the last cell alone", lambda: workbook(
        xl__worksheets__sheet1_xml=sheet_xml(_EMPTY_ROWS)), "empty"),
    ("the last cell alone on 60 sheets",
     lambda: on_every_sheet(60, sheet_xml(_EMPTY_ROWS)), "empty"),
    ("120 sheets", lambda: workbook(120), "at most 100 sheets"),
    ("20,000 CSVs in a zip",
     lambda: zipped({f"{n}.csv": b"Name\nAda\n" for n in range(20_000)}), "at most 500 files"),
    ("300 CSVs in a zip",
     lambda: zipped({f"{n}.csv": b"Name\nAda\n" for n in range(300)}), "at most 100 lists"),
    ("a bomb of 200 MB", lambda: zipped({"a.csv": bytes(200_000_000)}), "more than 20 MB"),
    ("a bomb in a workbook", lambda: workbook(xl__media__a_bin=bytes(60_000_000)),
     "more than 20 MB"),
    ("a bomb of ten members", lambda: zipped(
        {f"{n}.csv": b"a,b\n" * 1_000_000 for n in range(10)}), "more than 20 MB"),
    ("zips in zips", lambda: nested(3), "empty"),
    ("a size that lies, small", lambda: lying(100), "damaged"),
    ("a size that lies, large", lambda: lying(2**31), "more than 20 MB"),
    ("members that overlap", overlapping, "more than 20 MB"),
    ("entities that multiply", lambda: entities("laughs"), "cannot be opened"),
    ("an entity that is a file", lambda: entities("file"), "cannot be opened"),
    ("an entity from elsewhere", lambda: entities("net"), "cannot be opened"),
    ("a long entity, often", lambda: entities("blow"), "letters|cannot be opened"),
    ("10^6 rows of CSV", lambda: rows(1_000_000), "5000 rows"),
    ("10^5 rows of XLSX", lambda: sheet_rows(100_000), "5000 rows"),
    ("10^6 columns", lambda: b"a," * 1_000_000, ""),
    ("one cell of 3 MB", lambda: b"Name\n" + b"x" * 3_000_000, "not a table of cells"),
    ("a quote that never ends", lambda: b'Name\n"' + b"Ada\n" * 700_000, "not a table of cells"),
    ("NUL bytes", lambda: b"Name\n\0\0\0Ada", "cut off|not a list"),
    ("half a zip", lambda: workbook()[:900], "damaged"),
    ("a zip that asks for a password", lambda: zipped({"a.csv": b"Name\n"}).replace(
        b"PK\x01\x02\x14\x03\x14\x00\x00\x00", b"PK\x01\x02\x14\x03\x14\x00\x01\x00", 1
     ).replace(b"PK\x03\x04\x14\x00\x00\x00", b"PK\x03\x04\x14\x00\x01\x00", 1),
     "password"),
    ("a workbook without a workbook", lambda: zipped({"xl/nothing": b""}), "cannot be opened"),
    ("XML that never closes", lambda: workbook(
        xl__worksheets__sheet1_xml=b"<worksheet>" + b"<a>" * 2_000_000),
     # Whichever of the two it comes to first on this machine.
     "512 MB of memory|more than 10 seconds"),
    ("a path out of the zip", lambda: zipped({"../../etc/x.csv": b"Name\nAda\n"}), ""),
    ("an old kind of spreadsheet", lambda: b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + bytes(900),
     "old kind"),
    ("a picture", lambda: b"\x89PNG\r\n\x1a\n" + bytes(range(256)) * 50,
     "not a list|not a table|cut off"),
)  # fmt: skip


def package(**files: bytes) -> bytes:
    about = {
        "lauf_format": 1,
        "resources": [{"path": name, "hash": "sha256:0"} for name in files],
    }
    return zipped({"datapackage.json": json.dumps(about).encode(), **files})


PACKAGES: Final[tuple[tuple[str, Callable[[], bytes], str], ...]] = (
    ("a package of 401 MB", lambda: package(**{"data/a.csv": bytes(401_000_000)}),
     "at most 400 MB"),
    ("300 members", lambda: package(**{f"{n}.csv": b"" for n in range(300)}), "at most 200 files"),
    ("a description of 10 MB", lambda: zipped({"datapackage.json": b" " * 10_000_000}),
     "not a school"),
    ("a description without an end", lambda: zipped({"datapackage.json": b"[" * 100_000}),
     "not a school|cannot be read|memory"),
    ("a path that is not there", lambda: zipped({"datapackage.json": json.dumps(
        {"lauf_format": 1, "resources": [{"path": "../x", "hash": ""}]}).encode()}),
     "not a school"),
)  # fmt: skip
