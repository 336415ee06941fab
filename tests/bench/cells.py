"""A cluster with its application servers, and its database as it was at a moment."""

from __future__ import annotations

import contextlib
import os
import pwd
import secrets
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path
from typing import Any

import psycopg
from psycopg.conninfo import make_conninfo

from ops.machine import postgres_programs
from ops.network import free_port
from ops.serving import server_command
from tests.bench.nodes import COMES_UP_S, USER, Node, Running, filled, ip, own
from tests.support.served import ROOT, wait_for


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
        shutil.chown(state, USER, USER)
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
            own(state / file, filled(file, **words))
        own(state / "first-time", filled("first-time", **words), 0o700)
        inside = ["ip", "netns", "exec", name, "runuser", "-u", USER, "--"]
        return Node(
            name, address, state,
            Running([*inside, "etcd", f"--config-file={state}/etcd.yml"], state / "etcd.log"),
            Running([*inside, "patroni", str(state / "patroni.yml")], state / "patroni.log"),
        )  # fmt: skip

    def start(self) -> None:
        """Machines, cables, databases: until one leads and a second one is in step."""
        repository = self.folder / f"repository-{self.number}"
        repository.mkdir()
        shutil.chown(repository, USER, USER)
        self._unplug()
        ip("link", "add", self._bridge, "type", "bridge")
        ip("addr", "add", f"{self.here}/24", "dev", self._bridge)
        ip("link", "set", self._bridge, "up")
        for node in self.nodes:
            ip("netns", "add", node.name)
            ip("link", "add", f"v-{node.name}", "type", "veth", "peer", "eth0",
                "netns", node.name)  # fmt: skip
            ip("link", "set", f"v-{node.name}", "master", self._bridge, "up")
            ip("-n", node.name, "addr", "add", f"{node.address}/24", "dev", "eth0")
            ip("-n", node.name, "link", "set", "eth0", "up")
            ip("-n", node.name, "link", "set", "lo", "up")
            ip("netns", "exec", node.name, "sysctl", "-qw", "net.ipv4.tcp_syn_retries=2")
            node.etcd.start()
        for node in self.nodes:
            node.patroni.start()
        self.wait_until_whole()

    def roles(self) -> list[str]:
        return sorted(one.role() for one in self.nodes)

    def wait_until_whole(self) -> None:
        """One leads, one is in step with it, and the others follow: who says it is a replica may
        not have heard of the one that leads since."""
        whole = sorted(["leader", "sync", "replica"][: len(self.nodes)])
        wait_for(
            lambda: (self._followers(), self.roles()),
            lambda found: found == (len(whole) - 1, whole),
            seconds=COMES_UP_S,
        )

    def _followers(self) -> int:
        """The machines that the leader sends what it writes."""
        leading = [one.address for one in self.nodes if one.role() == "leader"]
        if not leading:
            return 0
        address = f"postgresql://postgres:{self._superuser}@{leading[0]}:5432/postgres"
        try:
            with psycopg.connect(address, connect_timeout=3) as connection:
                rows = connection.execute("SELECT state FROM pg_stat_replication").fetchall()
        except psycopg.OperationalError:
            return 0
        return sum(state == "streaming" for (state,) in rows)

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

    def newest(self, node: Node, pupil: str) -> list[tuple[Any, ...]] | str:
        """A child's newest scores as one machine has them."""
        address = f"postgresql://lauf:{self.password}@{node.address}:5432/lauf"
        try:
            with psycopg.connect(address, connect_timeout=3) as connection:
                return connection.execute(
                    "SELECT id::text, typed, succeeds_id::text, received_at::text"
                    " FROM records_attempt WHERE pupil_id = %s ORDER BY received_at DESC LIMIT 4",
                    [pupil],
                ).fetchall()
        except psycopg.Error as error:
            return str(error).strip()

    def _pooled(self, port: int) -> str:
        return f"postgresql://lauf:{self.password}@{self.here}:{port}/lauf"

    def prepare_fronts(self) -> None:
        """PgBouncer and Lauf, as many of each as there are to be; `serve` starts them."""
        for place in range(self._fronts):
            state = self.folder / f"front-{self.number}-{place}"
            state.mkdir()
            shutil.chown(state, USER, USER)
            port, pooler = free_port(), 6432 + place
            own(state / "userlist.txt", f'"lauf" "{self.password}"\n')
            text = filled(
                "pgbouncer.ini", leader_host=self.here, leader_port=5000, here=self.here,
                port=pooler, state=state,
            )  # fmt: skip
            settings = own(state / "pgbouncer.ini", text)
            command = ["runuser", "-u", USER, "--", "pgbouncer", "-q", str(settings)]
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
            ["runuser", "-u", USER, "--", "pgbackrest", config, "--stanza=lauf", *words],
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


@contextlib.contextmanager
def room() -> Iterator[Path]:
    """A folder that the database's user reaches, gone afterwards."""
    folder = Path(tempfile.mkdtemp(prefix="lauf-cluster-", dir="/var/tmp"))
    folder.chmod(0o755)
    try:
        pwd.getpwnam(USER)
        yield folder
    finally:
        shutil.rmtree(folder, ignore_errors=True)


@contextlib.contextmanager
def restored_to(cell: Cell, node: Node, moment: datetime, folder: Path) -> Iterator[str]:
    """The address of a database as a cell's was at a moment, from its repository."""
    data, port = folder / "restored", free_port()
    data.mkdir(mode=0o700)
    shutil.chown(data, USER, USER)
    target = f"--target={moment:%Y-%m-%d %H:%M:%S.%f}+00"
    how = ["--type=time", target, "--target-action=promote", f"--pg1-path={data}"]
    cell.pgbackrest(node, *how, "restore")
    trusting = own(folder / "trusting", "host all all 127.0.0.1/32 trust\n")
    settings = {
        "listen_addresses": "127.0.0.1", "port": port, "unix_socket_directories": data,
        "hba_file": trusting, "archive_mode": "off", "synchronous_standby_names": "",
    }  # fmt: skip
    words = [word for name, value in settings.items() for word in ("-c", f"{name}={value}")]
    command = ["runuser", "-u", USER, "--", f"{postgres_programs()}/postgres", "-D", str(data)]
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
        wait_for(is_through, bool, seconds=COMES_UP_S)
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
