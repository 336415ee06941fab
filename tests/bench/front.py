"""What devices reach: HAProxy before the databases of each cell and before their Laufs."""

from __future__ import annotations

import json
import socket
import subprocess
import time
import urllib.request
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path
from typing import Any, Final, LiteralString

import psycopg

from ops.network import free_port
from tests.bench.cells import Cell
from tests.bench.nodes import COMES_UP_S, Running, filled
from tests.support.served import wait_for
from tests.support.waits import LIMIT_S

#: The name that the school of the bench is opened by.
HOST: Final = "hill.lauf.test"


@dataclass
class Front:
    """Where devices go, and the database that leads."""

    url: str
    database: str
    headers: Mapping[str, str] = field(default_factory=lambda: {"Host": HOST})

    def sql(self, query: LiteralString, *values: Any) -> list[tuple[Any, ...]]:
        with psycopg.connect(self.database, connect_timeout=5) as connection:
            return connection.execute(query, values).fetchall()


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
            wait_for(partial(_answers, cell.address()), bool, seconds=COMES_UP_S)

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


def wait_until_serves(url: str) -> None:
    def answers() -> bool:
        try:
            request = urllib.request.Request(f"{url}/api/ready", headers={"Host": HOST})
            with urllib.request.urlopen(request, timeout=LIMIT_S) as answer:
                return bool(json.load(answer)["ready"])
        except OSError:
            time.sleep(0.2)
            return False

    wait_for(answers, bool, seconds=COMES_UP_S)
