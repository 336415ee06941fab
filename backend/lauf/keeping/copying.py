"""A database copied as of one moment, and put back, by PostgreSQL's own programs."""

from __future__ import annotations

import os
import shutil
import subprocess
from datetime import UTC, datetime
from pathlib import Path
from typing import Final, LiteralString

import psycopg
from psycopg import sql
from psycopg.conninfo import conninfo_to_dict, make_conninfo

from lauf.keeping.archive import Contents, Unusable

#: Tables whose rows are not copied: who is signed in, on which key, is nobody's to take away.
_LEFT_OUT: Final = ("django_session",)
#: What is in it is named by its first school.
_FIRST: Final = "SELECT name, is_demo FROM people_school ORDER BY is_demo DESC, name LIMIT 1"
_TABLES: Final[LiteralString] = (
    "SELECT relname FROM pg_class WHERE relkind = 'r' AND relpersistence = 'p'"
    " AND relnamespace = 'public'::regnamespace ORDER BY relname"
)
_CHANGES: Final[LiteralString] = (
    "SELECT app, max(name) FROM django_migrations WHERE app IN"
    " ('people', 'catalogue', 'lessons', 'records', 'challenges') GROUP BY app ORDER BY app"
)
#: Says that a drill is under way in a database: it may be emptied.
_MARK: Final = "lauf_drill"


def copy(address: str, dump: Path) -> Contents:
    """Copy all of a database into a file, however much is written meanwhile; how many rows there
    are is counted in the same moment. Raises Unusable."""
    made_at = datetime.now(UTC)  # before what it holds
    try:
        with psycopg.connect(address) as connection:
            connection.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ")
            (moment,) = connection.execute("SELECT pg_export_snapshot()").fetchone() or ("",)
            left_out = [
                "--no-unlogged-table-data",
                *(f"--exclude-table-data={one}" for one in _LEFT_OUT),
            ]
            _run("pg_dump", address, "-Fc", "--no-owner", "--no-privileges",
                 f"--snapshot={moment}", *left_out, "-f", str(dump))  # fmt: skip
            school = connection.execute(_FIRST)
            name, demo = school.fetchone() or ("", False)
            return Contents(
                made_at, name, demo, dict(connection.execute(_CHANGES).fetchall()),
                rows(connection),
            )  # fmt: skip
    except psycopg.Error as error:
        raise Unusable(f"The database cannot be copied: {' '.join(str(error).split())}") from error


def rows(connection: psycopg.Connection) -> dict[str, int]:
    """How many rows there are, by table."""
    found = {}
    for (table,) in connection.execute(_TABLES).fetchall():
        if table not in _LEFT_OUT:
            count = sql.SQL("SELECT count(*) FROM public.{}").format(sql.Identifier(table))
            (found[table],) = connection.execute(count).fetchone() or (0,)
    return found


def fill(address: str, dump: Path) -> None:
    """Put such a copy into an empty database, whole or not at all. Raises Unusable."""
    try:
        with psycopg.connect(address) as connection:
            if connection.execute(_TABLES).fetchone() is not None:
                raise Unusable(
                    "The database of LAUF_DATABASE_URL is not empty: make another one, name that, "
                    "and restore into it."
                )
    except psycopg.Error as error:
        raise Unusable(f"The database cannot be filled: {' '.join(str(error).split())}") from error
    _run("pg_restore", address, "--no-owner", "--no-privileges", "--exit-on-error",
         "--single-transaction", str(dump))  # fmt: skip


def empty(address: str) -> None:
    """Empty a database for drills. Raises Unusable for one that holds anything else."""
    with psycopg.connect(address) as connection:
        marked = connection.execute("SELECT to_regnamespace(%s)", [_MARK]).fetchone() != (None,)
        if not marked and connection.execute(_TABLES).fetchone() is not None:
            raise Unusable(
                "The database of LAUF_DRILL_DATABASE_URL holds something: make an empty one for "
                "drills."
            )
        connection.execute("DROP SCHEMA public CASCADE")
        connection.execute("CREATE SCHEMA public")
        connection.execute(sql.SQL("CREATE SCHEMA IF NOT EXISTS {}").format(sql.Identifier(_MARK)))


def keep(address: str) -> None:
    """What a database holds is there to stay: it is none for drills any more."""
    with psycopg.connect(address) as connection:
        connection.execute(
            sql.SQL("DROP SCHEMA IF EXISTS {} CASCADE").format(sql.Identifier(_MARK))
        )


def _run(program: str, address: str, *words: str) -> None:
    """Run one of PostgreSQL's programs on a database. No password in a command line."""
    parts = conninfo_to_dict(address)
    password = parts.pop("password", None)
    secret = {} if password is None else {"PGPASSWORD": str(password)}
    done = subprocess.run(
        [_program(program), *words, "-d", make_conninfo("", **parts)],
        env={**os.environ, **secret}, capture_output=True, text=True, stdin=subprocess.DEVNULL,
    )  # fmt: skip
    if done.returncode:
        raise Unusable(f"{program} did not work: {done.stderr.strip()[-800:]}")


def _program(name: str) -> str:
    """The newest on this machine."""
    found = [
        one for one in Path("/usr/lib/postgresql").glob(f"*/bin/{name}")
        if one.parents[1].name.isdigit()
    ]  # fmt: skip
    if found:
        return str(max(found, key=lambda one: int(one.parents[1].name)))
    on_path = shutil.which(name)
    if on_path is None:
        raise Unusable(f"{name} is missing: install Debian's postgresql-client.")
    return on_path
