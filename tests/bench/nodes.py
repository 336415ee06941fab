"""Machines of a cluster on one machine: network namespaces on a bridge, each with etcd, Patroni and
PostgreSQL, and before them PgBouncer, Lauf and HAProxy, all by the files of `deploy/cluster`."""

from __future__ import annotations

import contextlib
import json
import os
import pwd
import secrets
import shutil
import signal
import socket
import string
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Any, Final, LiteralString

import psycopg
from psycopg.conninfo import make_conninfo

from ops.machine import postgres_programs
from ops.network import free_port
from ops.processes import postgres_on
from ops.serving import server_command
from tests.support.served import ROOT, wait_for
from tests.support.waits import LIMIT_S

FILES: Final = ROOT / "deploy" / "cluster"
_USER: Final = "postgres"
#: Seconds that a cluster may take to come up.
_COMES_UP_S: Final = 120.0
HOST: Final = "hill.lauf.test"


def filled(file: str, /, **values: object) -> str:
    """A file of `deploy/cluster` for one machine, as `fill` writes it."""
    words = {key: str(value) for key, value in values.items()}
    return string.Template((FILES / file).read_text()).substitute(words)


def _own(path: Path, text: str, mode: int = 0o600) -> Path:
    path.write_text(text)
    path.chmod(mode)
    shutil.chown(path, _USER, _USER)
    return path


class Running:
    """A program that can be killed and started again; what it prints goes into a file."""

    def __init__(self, command: list[str], log: Path, **variables: str) -> None:
        self._command, self._log, self._variables = command, log, variables
        self._process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        with self._log.open("ab") as log:
            self._process = subprocess.Popen(
                self._command, stdin=subprocess.DEVNULL, stdout=log, stderr=log, cwd=ROOT,
                env={**os.environ, **self._variables}, start_new_session=True,
            )  # fmt: skip

    @property
    def runs(self) -> bool:
        return self._process is not None and self._process.poll() is None

    def kill(self) -> None:
        """SIGKILL to it and to all it has started."""
        self._end(signal.SIGKILL)

    def stop(self) -> None:
        self._end(signal.SIGTERM)

    def _end(self, how: signal.Signals) -> None:
        if self._process is None:
            return
        with contextlib.suppress(ProcessLookupError):
            os.killpg(self._process.pid, how)
        with contextlib.suppress(subprocess.TimeoutExpired):
            self._process.wait(10)
            return
        with contextlib.suppress(ProcessLookupError):
            os.killpg(self._process.pid, signal.SIGKILL)
        self._process.wait()


@dataclass
class Node:
    """One database machine."""

    name: str
    address: str
    state: Path
    etcd: Running
    patroni: Running

    def role(self) -> str:
        """What Patroni says of it: "leader", "sync", "replica", or "" where it does not answer."""
        for role in ("leader", "sync", "replica"):
            try:
                with urllib.request.urlopen(f"http://{self.address}:8008/{role}", timeout=1):
                    return role
            except OSError:
                continue
        return ""

    def kill_database(self) -> None:
        """A power cut of what keeps scores: Patroni, and PostgreSQL with all its processes."""
        self.patroni.kill()
        while found := postgres_on(self.state / "data"):
            for one in found:
                with contextlib.suppress(ProcessLookupError):
                    os.kill(one, signal.SIGKILL)

    def cut(self) -> None:
        """Its cable is out."""
        _ip("link", "set", f"v-{self.name}", "down")

    def mend(self) -> None:
        _ip("link", "set", f"v-{self.name}", "up")


def _ip(*words: str) -> None:
    subprocess.run(["ip", *words], check=True, capture_output=True, text=True)


@dataclass
class Front:
    """Where devices go, and the database that leads."""

    url: str
    database: str
    headers: Mapping[str, str] = field(default_factory=lambda: {"Host": HOST})

    def sql(self, query: LiteralString, *values: Any) -> list[tuple[Any, ...]]:
        with psycopg.connect(self.database, connect_timeout=5) as connection:
            return connection.execute(query, values).fetchall()


class Cell:
    """A cluster of `size` database machines (two at least: one alone acknowledges nothing) and
    `fronts` application servers, each with a PgBouncer
    of its own; `number` keeps two of them apart."""

    def __init__(self, number: int, folder: Path, size: int = 3, fronts: int = 2) -> None:
        self.number, self.folder = number, folder
        self.network = f"10.77.{number}"
        self.here = f"{self.network}.1"
        self.password, self._secret = secrets.token_hex(16), secrets.token_hex(32)
        self._superuser, self._replicator = secrets.token_hex(16), secrets.token_hex(16)
        names = [f"n{number}{place}" for place in range(1, size + 1)]
        self.nodes = [self._node(names, place) for place in range(size)]
        self.apps: list[Running] = []
        self.poolers: list[Running] = []
        self.ports: list[int] = []
        self._fronts = fronts

    @property
    def _bridge(self) -> str:
        return f"lauf-{self.number}"

    def _address(self, place: int) -> str:
        return f"{self.network}.{11 + place}"

    def _node(self, names: list[str], place: int) -> Node:
        name, address = names[place], self._address(place)
        state = self.folder / name
        state.mkdir()
        shutil.chown(state, _USER, _USER)
        members = ",".join(f"{one}=http://{self._address(at)}:2380" for at, one in enumerate(names))
        hosts = ",".join(f"{self._address(at)}:2379" for at in range(len(names)))
        programs = postgres_programs()
        words = {
            "name": name, "address": address, "state": state, "members": members, "etcd": hosts,
            "network": f"{self.network}.0/24", "programs": programs,
            "superuser_password": self._superuser, "replication_password": self._replicator,
            "lauf_password": self.password, "repository": self.folder / f"repository-{self.number}",
            "repository_key": self._secret,
        }  # fmt: skip
        for file in ("etcd.yml", "patroni.yml", "pgbackrest.conf"):
            _own(state / file, filled(file, **words))
        _own(state / "first-time", filled("first-time", **words), 0o700)
        inside = ["ip", "netns", "exec", name, "runuser", "-u", _USER, "--"]
        return Node(
            name, address, state,
            Running([*inside, "etcd", f"--config-file={state}/etcd.yml"], state / "etcd.log"),
            Running([*inside, "patroni", str(state / "patroni.yml")], state / "patroni.log"),
        )  # fmt: skip

    def start(self) -> None:
        """Machines, cables, databases: until one leads and a second one is in step."""
        repository = self.folder / f"repository-{self.number}"
        repository.mkdir()
        shutil.chown(repository, _USER, _USER)
        self._unplug()
        _ip("link", "add", self._bridge, "type", "bridge")
        _ip("addr", "add", f"{self.here}/24", "dev", self._bridge)
        _ip("link", "set", self._bridge, "up")
        for node in self.nodes:
            _ip("netns", "add", node.name)
            _ip("link", "add", f"v-{node.name}", "type", "veth", "peer", "eth0",
                "netns", node.name)  # fmt: skip
            _ip("link", "set", f"v-{node.name}", "master", self._bridge, "up")
            _ip("-n", node.name, "addr", "add", f"{node.address}/24", "dev", "eth0")
            _ip("-n", node.name, "link", "set", "eth0", "up")
            _ip("-n", node.name, "link", "set", "lo", "up")
            node.etcd.start()
        for node in self.nodes:
            node.patroni.start()
        self.wait_until_whole()

    def roles(self) -> list[str]:
        return sorted(one.role() for one in self.nodes)

    def wait_until_whole(self) -> None:
        """One leads, one is in step with it, and the others follow."""
        whole = sorted(["leader", "sync", "replica"][: len(self.nodes)])
        wait_for(self.roles, lambda found: found == whole, seconds=_COMES_UP_S)

    @property
    def leader(self) -> Node:
        return next(one for one in self.nodes if one.role() == "leader")

    def address(self, *, superuser: bool = False) -> str:
        """The leading database, through HAProxy."""
        user, password = ("postgres", self._superuser) if superuser else ("lauf", self.password)
        return f"postgresql://{user}:{password}@{self.here}:5000/lauf"

    def variables(self, pooler: int | None = None) -> dict[str, str]:
        """Those of Lauf: past the pooler, or through one of its port."""
        through = self.address() if pooler is None else self._pooled(pooler)
        return {
            "DJANGO_SETTINGS_MODULE": "lauf.web.settings", "PYTHONPATH": str(ROOT / "backend"),
            "LAUF_DATABASE_URL": through, "LAUF_LISTEN_URL": self.address(),
            "LAUF_POOLER": "no" if pooler is None else "yes", "LAUF_HOSTS": ".lauf.test,127.0.0.1",
            "LAUF_DEMO": "1",
        }  # fmt: skip

    def _pooled(self, port: int) -> str:
        return f"postgresql://lauf:{self.password}@{self.here}:{port}/lauf"

    def prepare_fronts(self) -> None:
        """PgBouncer and Lauf, as many of each as there are to be; `serve` starts them."""
        for place in range(self._fronts):
            state = self.folder / f"front-{self.number}-{place}"
            state.mkdir()
            shutil.chown(state, _USER, _USER)
            port, pooler = free_port(), 6432 + place
            _own(state / "userlist.txt", f'"lauf" "{self.password}"\n')
            text = filled(
                "pgbouncer.ini", leader_host=self.here, leader_port=5000, here=self.here,
                port=pooler, state=state,
            )  # fmt: skip
            own = _own(state / "pgbouncer.ini", text)
            command = ["runuser", "-u", _USER, "--", "pgbouncer", "-q", str(own)]
            self.poolers.append(Running(command, state / "pgbouncer.out"))
            self.apps.append(
                Running(
                    server_command("127.0.0.1", port), state / "lauf.log", **self.variables(pooler)
                )
            )
            self.ports.append(port)

    def serve(self) -> None:
        for one in (*self.poolers, *self.apps):
            one.start()

    def lauf(self, *words: str) -> str:
        """A command of Lauf on this cluster, as who looks after it runs it."""
        done = subprocess.run(
            [sys.executable, "-m", "lauf.command", *words], capture_output=True, text=True,
            env={**os.environ, **self.variables(6432), "LAUF_DEMO": "0"}, cwd=ROOT,
        )  # fmt: skip
        assert done.returncode == 0, done.stderr
        return done.stdout.strip()

    def manage(self, *words: str) -> None:
        command = [sys.executable, str(ROOT / "backend/manage.py"), *words]
        environment = {**os.environ, **self.variables()}
        subprocess.run(command, env=environment, check=True, stdout=subprocess.DEVNULL)

    def pgbackrest(self, node: Node, *words: str) -> str:
        """One of its commands, as the database's user on a machine of the cluster."""
        config = f"--config={node.state / 'pgbackrest.conf'}"
        done = subprocess.run(
            ["runuser", "-u", _USER, "--", "pgbackrest", config, "--stanza=lauf", *words],
            capture_output=True, text=True, cwd="/",
        )  # fmt: skip
        assert done.returncode == 0, done.stdout + done.stderr
        return done.stdout

    def stop(self) -> None:
        for one in (*self.apps, *self.poolers):
            one.stop()
        for node in self.nodes:
            node.patroni.stop()
        for node in self.nodes:
            with contextlib.suppress(AssertionError, OSError):
                node.kill_database()
            node.etcd.kill()
        self._unplug()

    def _unplug(self) -> None:
        """Also what a run that was killed has left."""
        for node in self.nodes:
            for words in (["link", "del", f"v-{node.name}"], ["netns", "del", node.name]):
                subprocess.run(["ip", *words], capture_output=True)
        subprocess.run(["ip", "link", "del", self._bridge], capture_output=True)


class Balancer:
    """HAProxy: before the databases of each cell, and before their application servers."""

    def __init__(self, folder: Path, cells: list[Cell]) -> None:
        self._state = folder / "balancer"
        self._state.mkdir()
        self.port = free_port()
        self._cells = cells
        parts = []
        for cell in cells:
            lines = "\n".join(f"    server {one.name} {one.address}:5432" for one in cell.nodes)
            parts.append((cell.here, lines))
        self._parts = parts
        self._running: Running | None = None

    def start(self) -> None:
        backends = []
        for cell in self._cells:
            backends.append(
                f"backend cell-{cell.number}\n    mode http\n    option httpchk GET /api/ready\n"
                "    http-check send hdr Host lauf.lauf.test\n"
                "    timeout server 12h\n    default-server inter 1s fall 2 rise 1"
            )
            backends += [
                f"    server lauf{place} 127.0.0.1:{port} check"
                for place, port in enumerate(cell.ports)
            ]
        first = self._cells[0]
        text = filled(
            "haproxy.cfg", state=self._state, here=first.here, front=f"127.0.0.1:{self.port}",
            databases=self._parts[0][1], cells="\n".join(backends), cell=f"cell-{first.number}",
        )  # fmt: skip
        for here, lines in self._parts[1:]:
            text += (
                text[text.index("listen leading_database") : text.index(self._parts[0][1])]
                .replace("leading_database", f"leading_database_{here.replace('.', '_')}")
                .replace(f"bind {first.here}", f"bind {here}")
                + lines
                + "\n"
            )
        (self._state / "schools.map").write_text("")
        file = self._state / "haproxy.cfg"
        file.write_text(text)
        checked = subprocess.run(["haproxy", "-c", "-f", str(file)], capture_output=True, text=True)
        assert checked.returncode == 0, checked.stderr
        self._running = Running(["haproxy", "-db", "-f", str(file)], self._state / "haproxy.log")
        self._running.start()
        for cell in self._cells:
            wait_for(partial(_answers, cell.address()), bool, seconds=_COMES_UP_S)

    def send_school_to(self, cell: Cell) -> None:
        """From now on the school's devices reach another cell, under the address they know."""
        with socket.socket(socket.AF_UNIX) as said:
            said.connect(str(self._state / "haproxy.sock"))
            table = self._state / "schools.map"
            said.sendall(f"add map {table} {HOST} cell-{cell.number}\n".encode())
            said.recv(1000)

    def stop(self) -> None:
        if self._running is not None:
            self._running.kill()


def _answers(address: str) -> bool:
    try:
        psycopg.connect(address, connect_timeout=5).close()
    except psycopg.OperationalError:
        return False
    return True


@contextlib.contextmanager
def room() -> Iterator[Path]:
    """A folder that the database's user reaches, gone afterwards."""
    folder = Path(tempfile.mkdtemp(prefix="lauf-cluster-", dir="/var/tmp"))
    folder.chmod(0o755)
    try:
        pwd.getpwnam(_USER)
        yield folder
    finally:
        shutil.rmtree(folder, ignore_errors=True)


@contextlib.contextmanager
def restored_to(cell: Cell, node: Node, moment: datetime, folder: Path) -> Iterator[str]:
    """The address of a database as a cell's was at a moment, from its repository."""
    data, port = folder / "restored", free_port()
    data.mkdir(mode=0o700)
    shutil.chown(data, _USER, _USER)
    target = f"--target={moment:%Y-%m-%d %H:%M:%S.%f}+00"
    how = ["--type=time", target, "--target-action=promote", f"--pg1-path={data}"]
    cell.pgbackrest(node, *how, "restore")
    trusting = _own(folder / "trusting", "host all all 127.0.0.1/32 trust\n")
    settings = {
        "listen_addresses": "127.0.0.1", "port": port, "unix_socket_directories": data,
        "hba_file": trusting, "archive_mode": "off", "synchronous_standby_names": "",
    }  # fmt: skip
    words = [word for name, value in settings.items() for word in ("-c", f"{name}={value}")]
    command = ["runuser", "-u", _USER, "--", f"{postgres_programs()}/postgres", "-D", str(data)]
    running = Running([*command, *words], folder / "restored.log")
    running.start()
    address = f"postgresql://postgres@127.0.0.1:{port}/lauf"

    def is_through() -> bool:
        try:
            with psycopg.connect(address) as connection:
                row = connection.execute("SELECT pg_is_in_recovery()").fetchone()
                return row == (False,)
        except psycopg.OperationalError:
            return False

    try:
        wait_for(is_through, bool, seconds=_COMES_UP_S)
        yield address
    finally:
        running.stop()


def digests(address: str) -> dict[str, tuple[int, str]]:
    """Of each table how many rows, and one sum over all of them, row by row."""
    found = {}
    with psycopg.connect(make_conninfo(address, connect_timeout=10)) as connection:
        names = connection.execute(
            "SELECT relname FROM pg_class WHERE relkind = 'r' AND relpersistence = 'p'"
            " AND relnamespace = 'public'::regnamespace ORDER BY 1"
        ).fetchall()
        for (name,) in names:
            row = connection.execute(
                "SELECT count(*), coalesce(md5(string_agg(h, '' ORDER BY h)), '') FROM "
                f'(SELECT md5(t::text) AS h FROM "{name}" t) rows'  # type: ignore[arg-type]
            ).fetchone()
            assert row is not None
            found[name] = (int(row[0]), str(row[1]))
    return found


def wait_until_serves(url: str) -> None:
    def answers() -> bool:
        try:
            request = urllib.request.Request(f"{url}/api/ready", headers={"Host": HOST})
            with urllib.request.urlopen(request, timeout=LIMIT_S) as answer:
                return bool(json.load(answer)["ready"])
        except OSError:
            time.sleep(0.2)
            return False

    wait_for(answers, bool, seconds=_COMES_UP_S)
