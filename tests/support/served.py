"""A real Lauf for a test: a database of its own copied from a prepared one, and a uvicorn serving
it. The database is read and checked with plain SQL, past everything Lauf thinks."""

from __future__ import annotations

import os
import subprocess
import sys
import time
import urllib.request
import uuid
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import psycopg
from psycopg.conninfo import conninfo_to_dict, make_conninfo

from ops.network import free_port
from ops.serving import server_command
from tests.support.waits import LIMIT_S

ROOT = Path(__file__).resolve().parents[2]
CHROMIUM = "/usr/bin/chromium-headless-shell"
#: Debian's Chromium, kept from calling out over a closed network.
CHROMIUM_FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


def server_url() -> str:
    """The address of the throwaway cluster, as `./lauf test` hands it over."""
    return os.environ["LAUF_DATABASE_URL"]


def database_url(name: str) -> str:
    return make_conninfo(server_url(), dbname=name)


def as_url(name: str) -> str:
    given = conninfo_to_dict(server_url())
    login = f"{given['user']}:{given['password']}"
    return f"postgresql://{login}@{given['host']}:{given['port']}/{name}"


@contextmanager
def admin() -> Iterator[psycopg.Connection]:
    with psycopg.connect(server_url(), autocommit=True) as connection:
        yield connection


def make_template(name: str, *, demo: bool, past: bool = False) -> None:
    """A migrated database of that name, with the demo school and its past if asked, to copy
    from."""
    drop(name)
    with admin() as connection:
        connection.execute(f'CREATE DATABASE "{name}"')
    how = ([] if past else ["--without-past"]) if demo else ["--schema-only"]
    manage(["prepare", *how], name)


def manage(words: list[str], name: str) -> None:
    environment = _environment(name)
    command = [sys.executable, str(ROOT / "backend/manage.py"), *words]
    subprocess.run(command, env=environment, check=True, stdout=subprocess.DEVNULL)


def _environment(database: str, **more: str) -> dict[str, str]:
    """What is served in tests is what is served in life, settings included."""
    served_as = {
        "DJANGO_SETTINGS_MODULE": "lauf.web.settings",
        "LAUF_DATABASE_URL": as_url(database),
    }
    return {**os.environ, **served_as, **more}


def drop(name: str) -> None:
    with admin() as connection:
        connection.execute(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')


class ServerEnded(RuntimeError):
    """It ended instead of serving; what it printed stands above."""


class Served:
    """A running Lauf. `url` is where; `sql` asks the database; `kill` is a power cut."""

    def __init__(self, database: str, *, demo: bool = True, **variables: str) -> None:
        self.database = database
        self.variables = {"LAUF_DEMO": "1" if demo else "0", **variables}
        self.port = free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self._process: subprocess.Popen[bytes] | None = None
        self._connection: psycopg.Connection[Any] | None = None
        # Whether it has served at this address before.
        self._known = False

    def start(self) -> None:
        """Somebody else may have got the port since it was found free: then with another one, or,
        where devices know it already, once more."""
        environment = _environment(self.database, **self.variables)
        for tries_left in (4, 3, 2, 1, 0):
            command = server_command("127.0.0.1", self.port)
            self._process = subprocess.Popen(command, env=environment, cwd=ROOT)
            try:
                self._wait_until_healthy()
            except ServerEnded:
                if not tries_left:
                    raise
                if not self._known:
                    self.port = free_port()
                    self.url = f"http://127.0.0.1:{self.port}"
            else:
                self._known = True
                return

    def _wait_until_healthy(self) -> None:
        deadline = time.monotonic() + LIMIT_S
        while time.monotonic() < deadline:
            if not self.runs:
                raise ServerEnded("the server ended while starting")
            try:
                urllib.request.urlopen(f"{self.url}/api/health", timeout=LIMIT_S).close()
                return
            except OSError:
                time.sleep(0.05)
        raise RuntimeError("the server did not answer")

    @property
    def headers(self) -> Mapping[str, str]:
        """What a device sends along."""
        return {}

    @property
    def runs(self) -> bool:
        return self._process is not None and self._process.poll() is None

    def kill(self) -> None:
        """SIGKILL: nothing gets a chance to tidy up."""
        assert self._process is not None
        self._process.kill()
        self._process.wait()

    def stop(self) -> None:
        if self._process and self.runs:
            self._process.terminate()
            self._process.wait(LIMIT_S)

    def begin_anew(self, template: str) -> None:
        """Put a fresh copy of the template under the running server, which notices only that its
        connections were closed; start it again if a test has killed it."""
        fresh, name = f"{self.database}_fresh", self.database
        with admin() as connection:
            # The copy takes a while: it is made first, so that the server misses its database for
            # as short as can be.
            connection.execute(f'DROP DATABASE IF EXISTS "{fresh}" WITH (FORCE)')
            connection.execute(
                f'CREATE DATABASE "{fresh}" TEMPLATE "{template}" STRATEGY FILE_COPY'
            )
            connection.execute(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')
            connection.execute(f'ALTER DATABASE "{fresh}" RENAME TO "{name}"')
        if not self.runs:
            self.start()
        else:
            self._wait_until_healthy()

    def command(self, *words: str) -> str:
        """What `lauf` says, run by who looks after this Lauf."""
        done = subprocess.run(
            [sys.executable, "-m", "lauf.command", *words], cwd=ROOT, capture_output=True,
            env=_environment(self.database, **self.variables), text=True,
        )  # fmt: skip
        assert done.returncode == 0, done.stderr
        return done.stdout.strip()

    def sql(self, query: str, *values: Any) -> list[tuple[Any, ...]]:
        return self._execute(query, values).fetchall()

    def sql_do(self, statement: str, *values: Any) -> None:
        """Change the database behind Lauf's back: mostly to make it later."""
        self._execute(statement, values)

    def _execute(self, statement: str, values: tuple[Any, ...]) -> psycopg.Cursor[Any]:
        """On the one connection that is kept open, or on a new one where that was cut."""
        try:
            return self._asking().execute(statement, values)
        except psycopg.OperationalError:
            return self._asking().execute(statement, values)

    def _asking(self) -> psycopg.Connection[Any]:
        if self._connection is None or self._connection.closed:
            # A day in plain SQL is the day that the school has.
            zone = f"-c timezone={os.environ['LAUF_TIME_ZONE']}"
            self._connection = psycopg.connect(
                database_url(self.database), autocommit=True, options=zone
            )
        return self._connection


@contextmanager
def served(template: str, *, demo: bool = True, **variables: str) -> Iterator[Served]:
    """A Lauf on a fresh copy of the template with these LAUF_* variables, gone afterwards."""
    lauf = Served(f"lauf_copy_{uuid.uuid4().hex[:10]}", demo=demo, **variables)
    try:
        lauf.begin_anew(template)
        yield lauf
    finally:
        lauf.stop()
        drop(lauf.database)


def wait_for(ask: Any, good: Any, *, seconds: float = LIMIT_S) -> Any:
    """Ask until it is so. Fails where it is not in so many seconds."""
    deadline = time.monotonic() + seconds
    while not good(found := ask()):
        assert time.monotonic() < deadline, f"still {found!r}"
        time.sleep(0.02)  # between two looks, so that what is waited for gets the processor
    return found
