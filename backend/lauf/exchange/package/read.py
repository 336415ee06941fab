"""Reading a data package into an empty Lauf."""

from __future__ import annotations

import csv
import io
import tempfile
from collections.abc import Iterator, Mapping
from datetime import date
from pathlib import Path
from typing import Any, Final

import psycopg
from django.contrib.auth.hashers import make_password
from django.db import IntegrityError, connection, transaction

from lauf.errors import Refused
from lauf.exchange.package.tables import Table, is_text, tables, written
from lauf.exchange.package.unpack import BOUNDS, unpack
from lauf.judgement.questions import ask_about_all
from lauf.messages import say
from lauf.people.models import School, Staff
from lauf.people.queries import setup_needed
from lauf.records.models import Question
from lauf.sandbox.run import read_apart

#: Bytes that are handed to the database at once.
_PIECE: Final = 1 << 20
_FULL: Final = say(
    "This Lauf already has a school. A whole school can only be restored into an empty Lauf."
)


def read_package(packed: bytes, *, username: str, password: str) -> Staff:
    """Put a packed school into a Lauf that has none, every row as it was, and give one of its heads
    of PE a password (hashed); everybody else comes by a link.

    Raises Refused: for a file that is none or was changed, one by a newer Lauf, a user name that is
    no head's of that school, or where there is a school already.
    """
    if not setup_needed():
        raise Refused(_FULL)
    with tempfile.TemporaryDirectory(prefix="lauf-package-") as folder:
        paths = read_apart(unpack, packed, BOUNDS, folder=folder)
        files = {path: Path(folder) / str(place) for place, path in enumerate(paths)}
        with transaction.atomic():
            return _kept(files, username, password)


def _kept(files: Mapping[str, Path], username: str, password: str) -> Staff:
    # Two at the same time: the second one sees the first one's school.
    with connection.cursor() as cursor:
        cursor.execute("LOCK TABLE people_school IN EXCLUSIVE MODE")
        if not setup_needed():
            raise Refused(_FULL)
        for table in tables():
            if table.file in files:
                _copy(cursor, table, files[table.file])
        _check_all(cursor)
    if School.objects.count() != 1:
        raise Refused(say("This file does not hold exactly one school. Nothing was saved."))
    head = Staff.objects.filter(
        username=username.strip(), role=Staff.Role.HEAD, is_active=True
    ).first()
    if head is None:
        raise Refused(
            say(
                "“{username}” is not a head of PE in this school. Give the user name of one "
                "who is.",
                username=username.strip(),
            )
        )
    if Table(Question).file not in files:  # packed before questions were kept
        ask_about_all(head.school, date.min)
    head.password = password
    head.save(update_fields=["password"])
    return head


def _copy(cursor: Any, table: Table, file: Path) -> None:
    known: Mapping[str, Any] = {str(one.column): one for one in table.fields}
    try:
        with file.open(encoding="utf-8", newline="") as text:
            head = next(csv.reader(text))
    except (UnicodeDecodeError, StopIteration, csv.Error) as error:
        raise Refused(say("{file} cannot be read. Nothing was saved.", file=table.file)) from error
    if unknown := [name for name in head if name not in known]:
        raise Refused(
            say(
                "{file} has columns from a newer version of Lauf: {unknown}.",
                file=table.file,
                unknown=", ".join(unknown),
            )
        )
    # Columns that the file does not have begin as in a new school.
    fields = table.model._meta.concrete_fields
    new = [one for one in fields if one.column not in head and not one.null]
    pieces = _lines(file, {str(one.column): _begun(one) for one in new}) if new else _pieces(file)
    head = [*head, *(str(one.column) for one in new)]
    quoted = ", ".join(f'"{name}"' for name in head)
    by_name = {str(one.column): one for one in fields}
    texts = ", ".join(f'"{name}"' for name in head if is_text(by_name[name]))
    options = f"FORMAT csv, HEADER true{f', FORCE_NOT_NULL ({texts})' if texts else ''}"
    try:
        with cursor.copy(f'COPY "{table.name}" ({quoted}) FROM STDIN WITH ({options})') as copy:
            for piece in pieces:
                copy.write(piece)
    except (UnicodeDecodeError, csv.Error) as error:
        raise Refused(say("{file} cannot be read. Nothing was saved.", file=table.file)) from error
    except (psycopg.DataError, psycopg.IntegrityError) as error:
        first = str(error).split("\n", 1)[0]
        raise Refused(
            say(
                "{file} cannot be saved ({first}). Nothing was saved.", file=table.file, first=first
            )
        ) from error


def _pieces(file: Path) -> Iterator[bytes]:
    with file.open("rb") as opened:
        while piece := opened.read(_PIECE):
            yield piece


def _lines(file: Path, new: Mapping[str, str]) -> Iterator[bytes]:
    """The lines of a file with columns that it does not have, by name and what stands in them."""
    text = io.StringIO()
    writer = csv.writer(text)
    with file.open(encoding="utf-8", newline="") as opened:
        for number, row in enumerate(csv.reader(opened)):
            writer.writerow([*row, *(new.values() if number else new)])
            if text.tell() > _PIECE:
                yield text.getvalue().encode()
                text.seek(0)
                text.truncate()
    yield text.getvalue().encode()


def _begun(field: Any) -> str:
    """What a column begins as, as it is written."""
    if field.name == "password":
        return make_password(None)
    return written(field.get_default())


def _check_all(cursor: Any) -> None:
    """Every key points to a row of the package, and new rows get numbers after those of it."""
    try:
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    except IntegrityError as error:
        first = str(error).split("\n", 1)[0]
        raise Refused(
            say("The files do not fit together ({first}). Nothing was saved.", first=first)
        ) from error
    for table in tables():
        key = table.model._meta.pk
        if key.get_internal_type() in ("AutoField", "BigAutoField"):
            cursor.execute(
                f"""SELECT setval(pg_get_serial_sequence('"{table.name}"', '{key.column}'),
                    coalesce((SELECT max("{key.column}") FROM "{table.name}"), 0) + 1, false)"""
            )
