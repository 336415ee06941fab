"""Reading a data package: into an empty Lauf, or a moving school beside others."""

from __future__ import annotations

import csv
import io
import tempfile
from collections.abc import Iterator, Mapping, Sequence
from datetime import date
from pathlib import Path
from typing import Any, Final

import psycopg
from django.contrib.auth.hashers import make_password
from django.db import IntegrityError, connection, transaction

from lauf.errors import Refused
from lauf.exchange.package.tables import Table, is_text, sessions, tables, written
from lauf.exchange.package.unpack import BOUNDS, BOUNDS_MOVED, unpack
from lauf.judgement.questions import ask_about_all
from lauf.messages import say
from lauf.people.models import School, Staff, Trust
from lauf.people.queries import setup_needed
from lauf.people.usernames import key_of, written_plainly
from lauf.records.models import Question
from lauf.sandbox.run import read_apart

_NOTHING: Final[Mapping[str, Mapping[str, str]]] = {}
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


def read_moved(packed: bytes, *, ending: str = "") -> School:
    """Put a school that was written to be moved beside those that are here, every row as it was,
    with the passwords and sessions of its people. User names that are taken here get the ending.

    Raises Refused: for another file, a school that is here already, or user names that are taken.
    """
    with tempfile.TemporaryDirectory(prefix="lauf-package-") as folder:
        paths = read_apart(unpack, packed, BOUNDS_MOVED, folder=folder, moved=True)
        files = {path: Path(folder) / str(place) for place, path in enumerate(paths)}
        with transaction.atomic():
            return _kept_beside(files, ending)


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
        _number_on(cursor)
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


def _kept_beside(files: Mapping[str, Path], ending: str) -> School:
    ids = _column(files[Table(School).file], "id")
    if len(ids) != 1:
        raise Refused(say("This file does not hold exactly one school. Nothing was saved."))
    # Two at the same time: the second one sees the first one's school and user names.
    with connection.cursor() as cursor:
        cursor.execute("LOCK TABLE people_school, people_staff IN SHARE ROW EXCLUSIVE MODE")
        if School.objects.filter(pk=ids[0]).exists():
            raise Refused(say("This school is on this Lauf already. Nothing was saved."))
        names = _names_here(files[Table(Staff).file], ending)
        for table in [*tables(moving=True), sessions()]:
            if table.file in files:
                change = {"username": names} if table.model is Staff else {}
                _copy(cursor, table, files[table.file], change=change, beside=True)
        _check_all(cursor)
    school = School.objects.get(pk=ids[0])
    trusts = list(Trust.objects.all()[:2])
    if len(trusts) == 1:
        school.trust = trusts[0]
        school.save(update_fields=["trust"])
    return school


def _column(file: Path, name: str) -> list[str]:
    with file.open(encoding="utf-8", newline="") as text:
        return [row[name] for row in csv.DictReader(text)]


def _names_here(file: Path, ending: str) -> dict[str, str]:
    """What the user names that are taken here become. Raises Refused."""
    wanted = _column(file, "username")
    here = Staff.objects.annotate(key=key_of("username")).values_list("key", flat=True)
    keys = {written_plainly(one).lower(): one for one in wanted}
    taken = sorted(keys[one] for one in here.filter(key__in=keys))
    names = {one: one + ending for one in taken}
    again = {written_plainly(one).lower() for one in names.values()}
    if taken and (not ending or again & keys.keys() or here.filter(key__in=again).exists()):
        raise Refused(
            say(
                "These user names are taken on this Lauf: {taken}. Give an ending for them.",
                taken=", ".join(taken),
            )
        )
    return names


def _head(table: Table, file: Path) -> list[str]:
    """The columns of a file. Raises Refused for one that the table does not have."""
    known = set(table.columns)
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
    return head


def _copy(
    cursor: Any, table: Table, file: Path, *, change: Mapping[str, Mapping[str, str]] = _NOTHING,
    beside: bool = False,
) -> None:  # fmt: skip
    """Every row of a file into its table. `change`: by column, what some cells become. `beside`:
    there are rows already, so that those which are only numbered get numbers of their own."""
    head = _head(table, file)
    # Columns that the file does not have begin as in a new school.
    fields = table.model._meta.concrete_fields
    new = {
        str(one.column): _begun(one) for one in fields if one.column not in head and not one.null
    }
    pieces = _lines(file, head, new, change) if new or change else _pieces(file)
    head = [*head, *new]
    quoted = ", ".join(f'"{name}"' for name in head)
    by_name = {str(one.column): one for one in fields}
    texts = ", ".join(f'"{name}"' for name in head if is_text(by_name[name]))
    options = f"FORMAT csv, HEADER true{f', FORCE_NOT_NULL ({texts})' if texts else ''}"
    numbered = beside and _is_numbered(table)
    to = "arriving" if numbered else table.name
    try:
        if numbered:
            cursor.execute(f'CREATE TEMP TABLE ARRIVING (LIKE "{table.name}") ON COMMIT DROP')
        with cursor.copy(f'COPY "{to}" ({quoted}) FROM STDIN WITH ({options})') as copy:
            for piece in pieces:
                copy.write(piece)
        if numbered:
            key = str(table.model._meta.pk.column)
            others = ", ".join(f'"{name}"' for name in head if name != key)
            cursor.execute(
                f'INSERT INTO "{table.name}" ({others}) '
                f'SELECT {others} FROM ARRIVING ORDER BY "{key}"'
            )
            cursor.execute("DROP TABLE ARRIVING")
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


def _lines(
    file: Path, head: Sequence[str], new: Mapping[str, str],
    change: Mapping[str, Mapping[str, str]],
) -> Iterator[bytes]:  # fmt: skip
    """The lines of a file with columns that it does not have, by name and what stands in them, and
    with other words in some cells."""
    text = io.StringIO()
    writer = csv.writer(text)
    places = [(head.index(name), words) for name, words in change.items()]
    with file.open(encoding="utf-8", newline="") as opened:
        for number, row in enumerate(csv.reader(opened)):
            for place, words in places:
                row[place] = words.get(row[place], row[place])
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
    """Every key points to a row that is there."""
    try:
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    except IntegrityError as error:
        first = str(error).split("\n", 1)[0]
        raise Refused(
            say("The files do not fit together ({first}). Nothing was saved.", first=first)
        ) from error


def _is_numbered(table: Table) -> bool:
    """Whether its rows have a number of this database for a key, which no other row points to."""
    return table.model._meta.pk.get_internal_type() in ("AutoField", "BigAutoField")


def _number_on(cursor: Any) -> None:
    """New rows get numbers after those of the package."""
    for table in filter(_is_numbered, tables()):
        key = table.model._meta.pk
        cursor.execute(
            f"""SELECT setval(pg_get_serial_sequence('"{table.name}"', '{key.column}'),
                coalesce((SELECT max("{key.column}") FROM "{table.name}"), 0) + 1, false)"""
        )
