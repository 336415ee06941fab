"""Database machines on one machine: network namespaces, each with etcd, Patroni and PostgreSQL by
the files of `deploy/cluster`."""

from __future__ import annotations

import contextlib
import os
import shutil
import signal
import string
import subprocess
import urllib.request
from dataclasses import dataclass
from pathlib import Path
from typing import Final

from ops.processes import postgres_on
from tests.support.served import ROOT

FILES: Final = ROOT / "deploy" / "cluster"
USER: Final = "postgres"
#: Seconds that a cluster may take to come up.
COMES_UP_S: Final = 120.0


def filled(file: str, /, **values: object) -> str:
    """A file of `deploy/cluster` for one machine, as `fill` writes it."""
    words = {key: str(value) for key, value in values.items()}
    return string.Template((FILES / file).read_text()).substitute(words)


def own(path: Path, text: str, mode: int = 0o600) -> Path:
    """A file that the database's user has for itself."""
    path.write_text(text)
    path.chmod(mode)
    shutil.chown(path, USER, USER)
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
        ip("link", "set", f"v-{self.name}", "down")

    def mend(self) -> None:
        ip("link", "set", f"v-{self.name}", "up")


def ip(*words: str) -> None:
    """A command of iproute2."""
    subprocess.run(["ip", *words], check=True, capture_output=True, text=True)
