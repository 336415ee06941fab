"""Reading a data package into an empty Lauf."""

from __future__ import annotations

import csv
import hashlib
import io
import json
import zipfile
from collections.abc import Mapping
from typing import Any

import psycopg
from django.contrib.auth.hashers import make_password
from django.db import IntegrityError, connection, transaction

from lauf.errors import Refused
from lauf.exchange.package.tables import Table, is_text, tables, written
from lauf.exchange.package.write import FORMAT
from lauf.people.models import Staff
from lauf.people.queries import setup_needed

_NONE = "This is no school from a Lauf: choose the zip that “the whole school” was saved as."
#: What a zip may grow to, in bytes: a file made to burst is not unpacked.
_MOST = 400_000_000


@transaction.atomic
def read_package(packed: bytes, *, username: str, password: str) -> Staff:
    """Put a packed school into a Lauf that has none, every row as it was, and give one of its heads
    of PE a password (as `hashed_password` makes it); everybody else comes by a link.

    Raises Refused: for a file that is none or was changed, one by a newer Lauf, a user name that is
    no head's of that school, or where there is a school already.
    """
    # Two at the same time: the second one sees the first one's school.
    with connection.cursor() as cursor:
        cursor.execute("LOCK TABLE people_school IN EXCLUSIVE MODE")
    if not setup_needed():
        raise Refused("This Lauf already has a school: a whole school goes into an empty one.")
    files = _unpacked(packed)
    with connection.cursor() as cursor:
        for table in tables():
            if table.file in files:
                _copy(cursor, table, files[table.file])
        _check_all(cursor)
    head = Staff.objects.filter(
        username=username.strip(), role=Staff.Role.HEAD, is_active=True
    ).first()
    if head is None:
        raise Refused(f"“{username.strip()}” is no head of PE in this school: who signs in first?")
    head.password = password
    head.save(update_fields=["password"])
    return head


def _unpacked(packed: bytes) -> dict[str, bytes]:
    try:
        with zipfile.ZipFile(io.BytesIO(packed)) as archive:
            if sum(one.file_size for one in archive.infolist()) > _MOST:
                raise Refused(_NONE)
            about = json.loads(archive.read("datapackage.json"))
            if about.get("lauf_format") is None:
                raise Refused(_NONE)
            if about["lauf_format"] > FORMAT:
                raise Refused("This school was saved by a newer Lauf than this one: use that one.")
            files = {one["path"]: archive.read(one["path"]) for one in about["resources"]}
            said = {one["path"]: one["hash"] for one in about["resources"]}
    except (zipfile.BadZipFile, KeyError, ValueError, TypeError, AttributeError, OSError) as error:
        raise Refused(_NONE) from error
    for path, content in files.items():
        if said[path] != f"sha256:{hashlib.sha256(content).hexdigest()}":
            raise Refused(f"{path} was changed after it was saved: nothing was kept.")
    return files


def _copy(cursor: Any, table: Table, content: bytes) -> None:
    known: Mapping[str, Any] = {str(one.column): one for one in table.fields}
    try:
        rows = csv.reader(io.StringIO(content.decode()))
        head = next(rows)
    except (UnicodeDecodeError, StopIteration, csv.Error) as error:
        raise Refused(f"{table.file} cannot be read: nothing was kept.") from error
    if unknown := [name for name in head if name not in known]:
        raise Refused(f"{table.file} has columns of a newer Lauf: {', '.join(unknown)}.")
    # Columns that the file does not have begin as in a new school.
    fields = table.model._meta.concrete_fields
    new = [one for one in fields if one.column not in head and not one.null]
    if new:
        begun = [_begun(one) for one in new]
        content = _lines([head, *rows], [str(one.column) for one in new], begun)
        head = [*head, *(str(one.column) for one in new)]
    quoted = ", ".join(f'"{name}"' for name in head)
    by_name = {str(one.column): one for one in fields}
    texts = ", ".join(f'"{name}"' for name in head if is_text(by_name[name]))
    options = f"FORMAT csv, HEADER true{f', FORCE_NOT_NULL ({texts})' if texts else ''}"
    try:
        with cursor.copy(f'COPY "{table.name}" ({quoted}) FROM STDIN WITH ({options})') as copy:
            copy.write(content)
    except (psycopg.DataError, psycopg.IntegrityError) as error:
        first = str(error).split("\n", 1)[0]
        raise Refused(f"{table.file} cannot be kept: {first}. Nothing was kept.") from error


def _lines(rows: list[list[str]], names: list[str], begun: list[str]) -> bytes:
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(rows[0] + names)
    writer.writerows(row + begun for row in rows[1:])
    return text.getvalue().encode()


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
        raise Refused(f"The files do not fit each other: {first}. Nothing was kept.") from error
    for table in tables():
        key = table.model._meta.pk
        if key.get_internal_type() in ("AutoField", "BigAutoField"):
            cursor.execute(
                f"""SELECT setval(pg_get_serial_sequence('"{table.name}"', '{key.column}'),
                    coalesce((SELECT max("{key.column}") FROM "{table.name}"), 0) + 1, false)"""
            )
