"""The database of a school, as PostgreSQL's own programs copy it and put it back."""

from __future__ import annotations

import os
import subprocess
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime
from typing import Final
from urllib.parse import unquote, urlsplit

from ops.cluster import Cluster
from ops.machine import Lacking, ensure_packages, postgres_programs

REAL: Final = "lauf"
DEMO: Final = "lauf_demo"


@dataclass(frozen=True, slots=True)
class Database:
    """A database that Lauf serves: in a cluster of its own, or elsewhere, by its address."""

    name: str
    url: str
    cluster: Cluster | None = None

    @property
    def school(self) -> str:
        """The name of the school in it; empty for none."""
        first = "SELECT name FROM people_school ORDER BY is_demo DESC, name LIMIT 1"
        return next(iter(self._asked(first)), "")

    def migrations(self) -> list[str]:
        """Those that were run in it, as app.name, in their order."""
        return self._asked("SELECT app || '.' || name FROM django_migrations ORDER BY id")

    def schema(self) -> str:
        """Its tables as SQL, without rows and without whose they are."""
        return self._run("pg_dump", "--schema-only", "--no-owner", "--no-privileges")

    def take_the_place_of(self, other: Database) -> str:
        """Get the other one's name, at once. The name it has from now on, empty if it held
        nothing. Raises Lacking."""
        cluster = _own(self)
        held = other.school
        before = f"{other.name}_before_{datetime.now():%Y%m%d_%H%M%S}"
        for old in cluster.ask(
            "postgres", f"SELECT datname FROM pg_database WHERE datname ~ '^{other.name}_before_';"
        ):
            cluster.ask("postgres", f'DROP DATABASE "{old}" WITH (FORCE);')
        cluster.ask(
            "postgres",
            f"""
            ALTER DATABASE "{other.name}" ALLOW_CONNECTIONS false;
            SELECT count(pg_terminate_backend(pid)) FROM pg_stat_activity
                WHERE datname IN ('{other.name}', '{self.name}');
            BEGIN;
            ALTER DATABASE "{other.name}" RENAME TO "{before}";
            ALTER DATABASE "{self.name}" RENAME TO "{other.name}";
            COMMIT;
            ALTER DATABASE "{before}" ALLOW_CONNECTIONS true;
            """,
        )
        if not held:
            cluster.ask("postgres", f'DROP DATABASE "{before}" WITH (FORCE);')
        return before if held else ""

    def _asked(self, sql: str) -> list[str]:
        """Lines of an answer; none where there are no such tables yet."""
        try:
            return self._run("psql", "-X", "-q", "-At", "-c", sql).splitlines()
        except Lacking as lacking:
            if "does not exist" in str(lacking):
                return []
            raise

    def _run(self, program: str, *words: str) -> str:
        """Run one of PostgreSQL's programs on this database. No password in a command line."""
        programs = self.cluster.programs if self.cluster else postgres_programs()
        if programs is None:
            raise Lacking(f"PostgreSQL's {program} is missing: install Debian's postgresql.")
        at = urlsplit(self.url)
        variables = {
            "PGHOST": at.hostname or "127.0.0.1",
            "PGPORT": str(at.port or 5432),
            "PGUSER": unquote(at.username or ""),
            "PGPASSWORD": unquote(at.password or ""),
            "PGDATABASE": at.path.lstrip("/"),
        }
        done = subprocess.run(
            [str(programs / program), *words], env={**os.environ, **variables},
            capture_output=True, text=True, stdin=subprocess.DEVNULL,
        )  # fmt: skip
        if done.returncode:
            raise Lacking(f"{program} did not work: {done.stderr.strip()[-800:]}")
        return done.stdout


@contextmanager
def at_work(*, demo: bool, may_begin: bool = False) -> Iterator[Database]:
    """The school's database as it is served at this moment, or with its cluster started for this
    once. Raises Lacking where there is none, unless it may begin."""
    name = DEMO if demo else REAL
    outside = os.environ.get("LAUF_DATABASE_URL")
    ensure_packages(checks=False)
    if outside:
        yield Database(urlsplit(outside).path.lstrip("/"), outside)
        return
    with Cluster.at_work("postgres", may_begin=may_begin) as cluster:
        there = cluster.ask(
            "postgres", "SELECT 1 FROM pg_database WHERE datname = :'name';", name=name
        )
        if not there and not may_begin:
            other = "" if demo else " For the demo school, add --demo."
            raise Lacking(f"There is no school in this Lauf yet.{other}")
        cluster.ensure_database(name)
        yield Database(name, cluster.url(name), cluster)


@contextmanager
def beside(database: Database, what: str = "restored") -> Iterator[Database]:
    """An empty database in the same cluster, gone afterwards unless it took another's place."""
    cluster, name = _own(database), f"{database.name}_{what}"
    cluster.ask("postgres", f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE);')
    cluster.ensure_database(name)
    try:
        yield Database(name, cluster.url(name), cluster)
    finally:
        cluster.ask("postgres", f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE);')


def _own(database: Database) -> Cluster:
    if database.cluster is None:
        raise Lacking(
            "LAUF_DATABASE_URL names a PostgreSQL that is not Lauf's own: put the database.dump of "
            "the backup (a zip) into an empty database there by pg_restore, and start with that."
        )
    return database.cluster
