"""A PostgreSQL cluster of Lauf's own: on loopback, on a free port, with passwords of its own.

Where its data lies and what opens it is written down in `.lauf/<name>.json` before the data is
made, and asked there ever after: a folder that was renamed or copied finds its data again, or says
that it does not. Nothing empty is begun beside data that cannot be opened.

The server refuses to run as root, so root hands it to the `postgres` user of Debian's package.
Where that user cannot reach the project's folder, the data lies under /var/lib/lauf.
"""

from __future__ import annotations

import fcntl
import hashlib
import json
import os
import pwd
import secrets
import shutil
import socket
import subprocess
import tempfile
import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path
from typing import IO, Any, Final

from ops import roles
from ops.machine import ROOT, STATE, Lacking, name_of, postgres_programs
from ops.network import free_port
from ops.processes import postgres_on

_SERVICE_USER: Final = "postgres"
_ELSEWHERE: Final = Path("/var/lib/lauf")
#: Logs say what went wrong, and never with the values of a row.
_LOGGING: Final = (
    "-c log_error_verbosity=terse -c log_min_error_statement=panic -c log_statement=none "
    "-c log_parameter_max_length=0 -c log_parameter_max_length_on_error=0"
)
_FULL: Final = "No space left on device"
DISK_FULL: Final = "The disk is full: make room, then start again. What was kept is still there."

_FAST: Final = (
    "-c fsync=off -c full_page_writes=off -c synchronous_commit=off -c wal_level=minimal "
    "-c max_wal_senders=0 -c checkpoint_timeout=1h -c max_wal_size=4GB "
    # Every process that shares the tests serves a Lauf or two of its own.
    "-c max_connections=200"
)


class Cluster:
    """One cluster, made when first asked for. Use as a context manager to start and stop it."""

    def __init__(self, name: str, *, throwaway: bool = False) -> None:
        self._name, self._throwaway = name, throwaway
        self._as_user: dict[str, Any] = {}
        if os.geteuid() == 0:
            self._as_user = {"user": _SERVICE_USER, "group": _group()}
        self._written = STATE / f"{name}.json"
        self._open = ExitStack()
        self._kept: dict[str, Any] = {}
        self._programs = Path()
        self._printed = ""
        self.port = 0

    def __enter__(self) -> Cluster:
        STATE.mkdir(exist_ok=True)
        with ExitStack() as until_it_runs:
            self._kept = self._find() or self._plan()
            self._demand_own_data()
            self._lock = until_it_runs.enter_context(self._only_user())
            if not self._kept["made"]:
                self._make()
            self._programs = self._fitting_programs()
            self._take_over()
            until_it_runs.callback(self._stop)
            self._begin()
            roles.provide_role(
                self.ask, self.application_password, may_make_databases=self._throwaway
            )
            self._open = until_it_runs.pop_all()
        return self

    def __exit__(self, *_: object) -> None:
        self._open.close()

    @classmethod
    @contextmanager
    def at_work(cls, name: str, *, may_begin: bool = False) -> Iterator[Cluster]:
        """The cluster as a `./lauf start` runs it at this moment; where none does, started for this
        once. Raises Lacking where there is none, unless it may begin."""
        cluster = cls(name)
        if cluster._meet():
            yield cluster
            return
        if not may_begin and not cluster._kept:
            raise Lacking("There is no school in this Lauf yet.")
        with cluster:
            yield cluster

    def _meet(self) -> bool:
        """Find the server that somebody else has started on this data."""
        self._kept = self._find() or {}
        if not self._kept or not self._kept["made"]:
            return False
        file = self.data / "postmaster.pid"
        if not file.exists() or not postgres_on(self.data):
            return False
        self.port = int(file.read_text().splitlines()[3])
        self._programs = self._fitting_programs()
        return self.runs

    @property
    def home(self) -> Path:
        """The folder of the data and the server's log."""
        return STATE / str(self._kept["home"])

    @property
    def data(self) -> Path:
        """PostgreSQL's own folder."""
        return self.home / "data"

    @property
    def runs(self) -> bool:
        """Whether its server is there and takes connections."""
        try:
            socket.create_connection(("127.0.0.1", self.port), 2).close()
        except OSError:
            return False
        return True

    def revive(self) -> bool:
        """Start a server again that has ended by itself; whether it is at the same address still.
        Raises Lacking."""
        port = self.port
        self._take_over()
        if self._start():
            return True
        self._begin()
        return self.port == port

    def url(self, database: str) -> str:
        """The address of a database of this cluster, with the application's role and password."""
        login = f"{roles.APPLICATION}:{self._kept['application']}"
        return f"postgresql://{login}@127.0.0.1:{self.port}/{database}"

    def ensure_database(self, database: str) -> None:
        """A database that belongs to the application's role, without that role being more."""
        roles.provide_database(self.ask, database)

    @property
    def programs(self) -> Path:
        """The folder of the programs that fit the data."""
        return self._programs

    @property
    def application_password(self) -> str:
        return str(self._kept["application"])

    def ask(self, database: str, sql: str, **variables: str) -> list[str]:
        """Lines of the answer to some SQL, asked as the superuser; `:'name'` stands for a variable.
        No password stands in a command line. Raises Lacking."""
        script = "".join(f"\\set {name} '{value}'\n" for name, value in variables.items()) + sql
        done = subprocess.run(
            [str(self._programs / "psql"), "-X", "-q", "-At", "-v", "ON_ERROR_STOP=1", "-h",
             "127.0.0.1", "-p", str(self.port), "-U", "lauf", "-d", database],
            input=script, capture_output=True, text=True,
            env={**os.environ, "PGPASSWORD": str(self._kept["superuser"])},
        )  # fmt: skip
        if done.returncode:
            raise Lacking(_plainly(f"PostgreSQL did not do as asked: {done.stderr.strip()}"))
        return done.stdout.splitlines()

    # Where it is.

    def _find(self) -> dict[str, Any] | None:
        """What was written down of this cluster, or of one from before that was done; None where
        there is none yet. Raises Lacking for data that is not where it was, or cannot be opened."""
        kept = self._read() or self._former()
        if kept is None or not kept["made"]:
            return kept
        home = STATE / kept["home"]
        if (home / "data" / "PG_VERSION").exists():
            return kept
        if (home / "data.new").exists():
            (home / "data.new").rename(home / "data")  # stopped between the last two steps
            return kept
        if self._throwaway:
            return None
        raise Lacking(
            f"The data of this Lauf should be in {home}, and is not. Put it back there and start "
            f"again; only to begin with an empty school, remove {self._written}."
        )

    def _read(self) -> dict[str, Any] | None:
        try:
            return dict(json.loads(self._written.read_text()))
        except FileNotFoundError:
            return None
        except ValueError as error:
            raise Lacking(
                f"{self._written} cannot be read; it says where the data is. Put a copy of it back."
            ) from error

    def _former(self) -> dict[str, Any] | None:
        """A cluster that was made before its place was written down: it followed from the folder's
        own, and a file held its one password."""
        if self._throwaway:
            return None
        password = STATE / f"{self._name}.password"
        hashed = hashlib.sha256(str(ROOT).encode()).hexdigest()[:12]
        for place in (STATE / self._name, _ELSEWHERE / hashed / self._name):
            if not (place / "data" / "PG_VERSION").exists():
                continue
            if password.exists():
                return self._write(
                    made=True, home=_from_here(place), superuser=password.read_text().strip()
                )
            raise Lacking(
                f"There is data of a Lauf in {place}, and what opens it, {password}, is not "
                "there. Put it back and start again; nothing was changed."
            )
        if not password.exists():
            return None
        found = sorted(map(str, _ELSEWHERE.glob(f"*/{self._name}/data")))
        others = f" There is data in {', '.join(found)}." if found else ""
        raise Lacking(
            f"This folder has a school's password ({password}) but not its data. Was the folder "
            f"renamed?{others} Move the folder of that data to {_ELSEWHERE / hashed / self._name} "
            f"and start again; only to begin with an empty school, remove {password}."
        )

    def _plan(self) -> dict[str, Any]:
        """Write down a place and passwords for a cluster that is still to be made."""
        place = self._place()
        return self._write(made=False, home=_from_here(place), superuser=secrets.token_urlsafe(24))

    def _place(self) -> Path:
        if self._as_user:
            reach = subprocess.run(["test", "-x", str(STATE)], cwd="/", **self._as_user)
            if reach.returncode:
                return _ELSEWHERE / secrets.token_hex(6) / self._name
        return STATE / self._name

    def _write(self, **kept: Any) -> dict[str, Any]:
        """In one go: what is there is whole, before and after."""
        kept = {"application": secrets.token_urlsafe(24), **kept}
        handle, name = tempfile.mkstemp(dir=STATE)  # readable by its owner only
        with os.fdopen(handle, "w") as file:
            json.dump(kept, file, indent=1)
            file.flush()
            os.fsync(file.fileno())
        os.replace(name, self._written)
        return kept

    def _demand_own_data(self) -> None:
        """PostgreSQL serves data of its own user alone; whose data they are is not changed. Raises
        Lacking."""
        if not self.data.exists():
            return
        owner = self.data.stat().st_uid
        wanted = pwd.getpwnam(_SERVICE_USER).pw_uid if self._as_user else os.geteuid()
        if owner != wanted:
            raise Lacking(
                f"The data in {self.data} belong to {name_of(owner)}, not to {name_of(wanted)}: "
                f"start Lauf as {'an ordinary user' if self._as_user else 'root'}, who has made "
                "them. Nothing was changed."
            )

    def _only_user(self) -> IO[str]:
        """Nobody else may work on the same data: a copy of this folder names the same place."""
        self.home.mkdir(parents=True, exist_ok=True)
        if self._as_user:
            os.chmod(self.home.parent, 0o755)
            shutil.chown(self.home, **self._as_user)
        lock = (self.home / "lauf.lock").open("w")
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            lock.close()
            raise Lacking(f"Another ./lauf works with the data in {self.home}.") from error
        return lock

    # Making it.

    def _make(self) -> None:
        """A new cluster, under its name only once it is whole."""
        self._programs = self._newest_programs()
        new = self.home / "data.new"
        self._take_over()  # of a throwaway one
        for left in (new, self.data):
            shutil.rmtree(left, ignore_errors=True)
        with tempfile.NamedTemporaryFile("w", dir=self.home) as handed:
            handed.write(str(self._kept["superuser"]))
            handed.flush()
            if self._as_user:
                shutil.chown(handed.name, **self._as_user)
            asked = ["-U", "lauf", "-E", "UTF8", "--locale=C.UTF-8", "-A", "scram-sha-256", "-k"]
            self._run("initdb", "-D", str(new), *asked, f"--pwfile={handed.name}")
        self._kept = self._write(**{**self._kept, "made": True})
        new.rename(self.data)

    def _newest_programs(self) -> Path:
        programs = postgres_programs()
        if programs is None:
            raise Lacking("PostgreSQL's server programs are missing.")
        return programs

    def _fitting_programs(self) -> Path:
        """The programs of the version that wrote the data. Raises Lacking."""
        version = (self.data / "PG_VERSION").read_text().strip()
        programs = postgres_programs(int(version))
        if programs is not None:
            return programs
        if self._throwaway:
            self._make()
            return self._programs
        raise Lacking(
            f"The data was written by PostgreSQL {version}, which this machine does not have. As "
            f"root, run: apt-get install postgresql-{version}. The data was not touched."
        )

    # Starting and stopping it.

    def _take_over(self) -> None:
        """Stop a server that a killed start has left, and clear away what one that was killed has.
        Only what is proved to work on this data is signalled. Raises Lacking."""
        file = self.data / "postmaster.pid"
        if not file.exists():
            return
        first = file.read_text().split("\n", 1)[0].strip()
        if first.isdigit() and int(first) in postgres_on(self.data):
            self._stop()
        deadline = time.monotonic() + 30
        while postgres_on(self.data):  # the rest of a killed server takes a moment to end
            if time.monotonic() > deadline:
                raise Lacking(f"A PostgreSQL that does not stop still works in {self.data}.")
            time.sleep(0.1)
        file.unlink(missing_ok=True)

    def _begin(self) -> None:
        log = self.home / "server.log"
        before = log.stat().st_size if log.exists() else 0
        for _ in range(5):
            self.port = free_port()
            if self._start():
                return
        output = log.read_bytes()[before:].decode(errors="replace") if log.exists() else ""
        # Where it could not even write its log, the program that starts it has said why.
        output = output.strip() or self._printed.strip() or "nothing"
        raise Lacking(_plainly(f"PostgreSQL did not start. It says:\n{output[-2000:]}"))

    def _start(self) -> bool:
        # A throwaway cluster trades safety at a power cut for speed.
        fast = _FAST if self._throwaway else ""
        options = (
            f"-p {self.port} -c listen_addresses=127.0.0.1 -c unix_socket_directories='' "
            f"-c max_connections=60 {_LOGGING} {fast}"
        )
        return self._run("pg_ctl", "-D", str(self.data), "-l", str(self.home / "server.log"),
                         "-w", "-o", options, "start", may_fail=True)  # fmt: skip

    def _stop(self) -> None:
        if (self.data / "postmaster.pid").exists() and postgres_on(self.data):
            self._run("pg_ctl", "-D", str(self.data), "-m", "fast", "-w", "stop", may_fail=True)

    def _run(self, program: str, *words: str, may_fail: bool = False) -> bool:
        # Output goes to a file: a pipe would be kept open by the server that pg_ctl leaves.
        with tempfile.TemporaryFile() as output:
            done = subprocess.run(
                [str(self._programs / program), *words],
                cwd="/", stdin=subprocess.DEVNULL, stdout=output, stderr=output,
                start_new_session=True, **self._as_user,
            )  # fmt: skip
            output.seek(0)
            self._printed = output.read().decode(errors="replace")[-2000:]
            if done.returncode and not may_fail:
                raise Lacking(_plainly(f"{program} did not work:\n{self._printed}"))
        return bool(done.returncode == 0)


def _plainly(words: str) -> str:
    return DISK_FULL if _FULL in words else words


def _from_here(place: Path) -> str:
    """A place as it is written down: what lies in this folder moves with it."""
    return str(place.relative_to(STATE)) if place.is_relative_to(STATE) else str(place)


def _group() -> int:
    try:
        return pwd.getpwnam(_SERVICE_USER).pw_gid
    except KeyError as error:
        raise Lacking("The postgres user of Debian's package is missing.") from error
