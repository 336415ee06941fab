"""Writing a data package."""

from __future__ import annotations

import csv
import hashlib
import io
import json
import os
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO, Final

from django.db import connection, transaction

from lauf.exchange.package.tables import Table, sessions, tables
from lauf.exchange.package.unpack import FORMAT, MOVING
from lauf.messages import say
from lauf.people.models import School
from lauf.plain_json import JsonObject

#: The same school is the same bytes: no file says when it was packed.
_NO_DAY: Final = (1980, 1, 1, 0, 0, 0)


def write_package(school: School) -> bytes:
    """The whole school as a zip: a CSV file (RFC 4180, UTF-8) a table and `datapackage.json`, all
    as of one moment. One query a table."""
    whole = io.BytesIO()
    with as_of_one_moment():
        _pack(whole, school, tables())
    return whole.getvalue()


def write_moving(school: School, file: Path) -> None:
    """The same with passwords, keys and sessions, for a school that moves to another Lauf. Whoever
    has the file can be anybody in it: it is readable by its owner only. Raises OSError."""
    opened = os.open(file, os.O_CREAT | os.O_RDWR | os.O_EXCL, 0o600)
    with os.fdopen(opened, "w+b") as whole, as_of_one_moment():
        _pack(whole, school, [*tables(moving=True), sessions()], moving=True)


@contextmanager
def as_of_one_moment() -> Iterator[None]:
    """Whatever is read within it is of the same moment."""
    on_its_own = not connection.in_atomic_block
    with transaction.atomic():
        if on_its_own:
            with connection.cursor() as cursor:
                cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
        yield


class _Digested(io.RawIOBase):
    """Hands on what is written, with its sum and its length."""

    def __init__(self, to: IO[bytes] | None = None) -> None:
        self._to = to
        self.sum = hashlib.sha256()
        self.length = 0

    def writable(self) -> bool:
        return True

    def write(self, piece: object) -> int:
        plain = bytes(piece)  # type: ignore[call-overload]
        self.sum.update(plain)
        self.length += len(plain)
        if self._to is not None:
            self._to.write(plain)
        return len(plain)


def _written(table: Table, school: School, to: IO[bytes] | None) -> _Digested:
    digested = _Digested(to)
    text = io.TextIOWrapper(io.BufferedWriter(digested, 1 << 20), encoding="utf-8", newline="")
    writer = csv.writer(text, lineterminator="\r\n")
    writer.writerow(table.columns)
    writer.writerows(table.lines(school))
    text.flush()
    return digested


def digest_of(table: Table, school: School) -> str:
    """The sum that a package of this moment would have of a table. One query."""
    return f"sha256:{_written(table, school, None).sum.hexdigest()}"


def _pack(to: IO[bytes], school: School, held: list[Table], *, moving: bool = False) -> None:
    resources = []
    with zipfile.ZipFile(to, "w", zipfile.ZIP_DEFLATED) as archive:
        for table in held:
            # As large as it may get: its length is not known before it is written.
            with archive.open(_entry(table.file), "w", force_zip64=moving) as packed:
                written = _written(table, school, packed)
            resources.append(_resource(table, written, moving=moving))
        about = {
            "profile": "tabular-data-package",
            "name": "lauf-school",
            "title": school.name,
            "description": say(
                "A school's children, tests, scores and everything around them. It holds "
                "names and health notes of children, so keep it as safe as the school's "
                "papers."
            ),
            "lauf_format": FORMAT,
            **({MOVING: True} if moving else {}),
            "resources": resources,
        }
        described = json.dumps(about, ensure_ascii=False, indent=1) + "\n"
        archive.writestr(_entry("datapackage.json"), described.encode())


def _entry(name: str) -> zipfile.ZipInfo:
    entry = zipfile.ZipInfo(name, _NO_DAY)
    entry.compress_type = zipfile.ZIP_DEFLATED
    entry.external_attr = 0o600 << 16
    return entry


def _resource(table: Table, written: _Digested, *, moving: bool) -> JsonObject:
    named = {
        "profile": "tabular-data-resource",
        "name": table.name,
        "path": table.file,
        "format": "csv",
        "mediatype": "text/csv",
        "encoding": "utf-8",
        "bytes": written.length,
        "hash": f"sha256:{written.sum.hexdigest()}",
    }
    if moving:  # from one Lauf to the other: nobody else is to make sense of it
        return named
    return {**named, "description": table.description, "schema": table.schema()}
