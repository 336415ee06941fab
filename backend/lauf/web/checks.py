"""Django's system checks of this installation: each says what is wrong in a sentence, with what to
do. They are run by `lauf check`, and before anything is served."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any, Final

import psycopg
from django.conf import settings
from django.core.checks import CheckMessage, Error, Tags, Warning, register
from django.db import DatabaseError, connection
from django.db.migrations.loader import MigrationLoader

OLDEST_POSTGRES: Final = 15
#: Says that a newer Lauf has been at the database.
NEWER: Final = "lauf.E107"
#: Seconds by which the clocks of this machine and of the database may differ.
_CLOCKS: Final = 60

#: Seconds in which the database answers.
_LONGEST_S: Final = 10

#: What PostgreSQL says where nobody gets in, and what to do; the first that fits.
_REFUSALS: Final = (
    ("password authentication failed", "set the right password in LAUF_DATABASE_URL"),
    ("no password supplied", "write the password into LAUF_DATABASE_URL"),
    ('database "', "make it: createdb --encoding=UTF8 --owner=lauf lauf"),
    ('role "', "make the user: createuser --pwprompt lauf"),
    ("no pg_hba.conf entry", "let this machine in by pg_hba.conf of the database's server"),
    ("does not support SSL", "switch TLS on at the database, or leave sslmode out"),
    ("certificate", "name the authority of the database's certificate: sslrootcert=FILE"),
    ("Name or service not known", "correct the host in LAUF_DATABASE_URL"),
    ("could not translate host name", "correct the host in LAUF_DATABASE_URL"),
    ("failed to resolve host", "correct the host in LAUF_DATABASE_URL"),
    ("Connection refused", "start PostgreSQL, or correct host and port in LAUF_DATABASE_URL"),
    ("timeout", "open the way to the database: a firewall may be between"),
    ("invalid", "correct LAUF_DATABASE_URL: this option or value is not known to PostgreSQL"),
)


@register(Tags.security)
def variables(app_configs: Any, **_: Any) -> list[CheckMessage]:  # noqa: ARG001
    """What is odd about the LAUF_* variables, though Lauf works with it."""
    return [
        Warning(f"{one.name} {one.words}.", hint=one.remedy, id="lauf.W001")
        for one in settings.CONFIGURATION.problems
    ]


@register(Tags.database)
def database(app_configs: Any, databases: Sequence[str] | None, **_: Any) -> list[CheckMessage]:  # noqa: ARG001
    """Whether the database is one that Lauf can work with."""
    if not databases:
        return []
    try:
        # By itself: the pool would ask again and again, and not say why it got none.
        asked = {"connect_timeout": _LONGEST_S, **connection.get_connection_params()}
        psycopg.connect(**asked).close()
        return [*_server(), *_tables()]
    except (DatabaseError, psycopg.Error) as error:
        return [_unreachable(error)]


def _asked(question: str) -> Any:
    with connection.cursor() as cursor:
        cursor.execute(question)
        return cursor.fetchone()


def _unreachable(error: Exception) -> Error:
    said = " ".join(str(error.__cause__ or error).split())
    remedy = next(
        (words for part, words in _REFUSALS if part in said),
        "correct LAUF_DATABASE_URL, and see what PostgreSQL's log says",
    )
    return Error(f"The database does not let Lauf in ({said[:200]}).", hint=remedy, id="lauf.E101")


def _server() -> list[CheckMessage]:
    found: list[CheckMessage] = []
    number, encoding, reading, told, powerful = _asked(
        "SELECT current_setting('server_version_num')::int, current_setting('server_encoding'),"
        " current_setting('transaction_read_only') = 'on', clock_timestamp(),"
        " (SELECT rolsuper FROM pg_roles WHERE rolname = current_user)"
    )
    if number // 10000 < OLDEST_POSTGRES:
        found.append(
            Error(
                f"PostgreSQL {number // 10000} is too old for Lauf.",
                hint=f"use PostgreSQL {OLDEST_POSTGRES} or newer",
                id="lauf.E102",
            )
        )
    if encoding != "UTF8":
        found.append(
            Error(
                f"The database is encoded in {encoding}, which has no room for every name.",
                hint="make another: createdb --encoding=UTF8 --template=template0",
                id="lauf.E103",
            )
        )
    if reading:
        found.append(
            Error(
                "The database can be read only.",
                hint="name the one that is written to: add target_session_attrs=read-write to "
                "LAUF_DATABASE_URL",
                id="lauf.E104",
            )
        )
    off = abs((datetime.now(UTC) - told).total_seconds())
    if off > _CLOCKS:
        found.append(
            Warning(
                f"The clocks of this machine and of the database are {off:.0f} s apart.",
                hint="let both keep time: timedatectl set-ntp true",
                id="lauf.W105",
            )
        )
    if powerful:
        found.append(
            Warning(
                "Lauf comes to the database as a superuser.",
                hint="give it a user of its own that owns its database and nothing else",
                id="lauf.W106",
            )
        )
    return found


def _tables() -> list[CheckMessage]:
    loader = MigrationLoader(connection)
    applied, known = set(loader.applied_migrations), set(loader.disk_migrations)
    ours = {"people", "catalogue", "lessons", "records", "challenges", "exchange", "web"}
    newer = sorted(f"{app}.{name}" for app, name in applied - known if app in ours)
    missing = known - applied
    if newer:
        return [
            Error(
                f"The database is of a newer Lauf than this one (it has {newer[-1]}).",
                hint="install that Lauf again, or go back one version: lauf serve --newer",
                id=NEWER,
            )
        ]
    if missing:
        words = (
            "The database is empty."
            if not applied
            else f"The database is of an older Lauf ({len(missing)} changes are missing)."
        )
        return [Error(words, hint="bring it to this version: lauf migrate", id="lauf.E108")]
    (may,) = _asked("SELECT has_table_privilege('records_attempt', 'SELECT, INSERT, UPDATE')")
    if not may:
        return [
            Error(
                "Lauf may not write into its tables.",
                hint="give them to its user: REASSIGN OWNED BY … TO lauf",
                id="lauf.E109",
            )
        ]
    return []
