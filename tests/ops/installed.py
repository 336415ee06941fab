"""A Lauf installed in a folder of its own, started by its one command, for a test to be hard on."""

from __future__ import annotations

import json
import os
import shutil
import signal
import subprocess
import threading
import urllib.error
import urllib.request
from pathlib import Path
from typing import Any

from lauf import __version__
from ops.network import free_port
from ops.processes import postgres_on
from tests.support.served import ROOT, wait_for
from tests.support.waits import LIMIT_S

#: Seconds a first start may take where everything else is busy too; waiting ends when it is there.


def own_environment() -> dict[str, str]:
    """The variables of this process without those of the checks."""
    of_checks = ("LAUF_", "DJANGO_", "PYTHONPATH")
    return {k: v for k, v in os.environ.items() if not k.startswith(of_checks)}


class Installed:
    """The project's own files, in another folder: what takes long to install is linked."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        folder.mkdir()
        folder.chmod(0o755)
        shutil.copytree(ROOT / "ops", folder / "ops")
        shutil.copy(ROOT / "lauf", folder / "lauf")
        for name in ("backend", "frontend", "requirements", ".venv"):
            (folder / name).symlink_to(ROOT / name)
        self.state.mkdir()
        shutil.copy(ROOT / ".lauf" / "stamps.json", self.state)
        self.port = free_port()
        self.lines: list[str] = []
        self._process: subprocess.Popen[str] | None = None

    @property
    def state(self) -> Path:
        return self.folder / ".lauf"

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self, *words: str, wait: bool = True) -> None:
        """Until it says where it is, or why it is not."""
        self.lines = []
        self._process = subprocess.Popen(
            [str(self.folder / "lauf"), "start", "--port", str(self.port), *words],
            stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, env=own_environment(),
            start_new_session=True,
        )  # fmt: skip
        threading.Thread(target=self._listen, args=(self._process,), daemon=True).start()
        if wait:
            self.heard("open http://")

    def _listen(self, process: subprocess.Popen[str]) -> None:
        assert process.stdout is not None
        for line in process.stdout:
            self.lines.append(line.rstrip())

    @property
    def said(self) -> str:
        return "\n".join(self.lines)

    def heard(self, words: str, times: int = 1) -> None:
        found = wait_for(
            lambda: self.said.count(words) >= times or self.ended, bool, seconds=LIMIT_S
        )
        assert found and self.said.count(words) >= times, self.said

    @property
    def ended(self) -> bool:
        return self._process is not None and self._process.poll() is not None

    def refused(self, *words: str) -> str:
        """What it says when it does not start."""
        self.start(*words, wait=False)
        assert self._process is not None
        assert self._process.wait(LIMIT_S) == 1, self.said
        wait_for(lambda: self.said, bool)
        return self.said

    def stop(self) -> None:
        if self._process is not None and not self.ended:
            self._process.send_signal(signal.SIGTERM)
            self._process.wait(LIMIT_S)

    def kill(self) -> None:
        """The launcher alone, and nothing gets a chance to tidy up."""
        assert self._process is not None
        self._process.kill()
        self._process.wait()

    def server(self) -> int | None:
        """The process that answers: the one that was forked by the one that keeps it."""
        keeper = self.keeper()
        return next((pid for pid, parent in self._servers().items() if parent == keeper), None)

    def keeper(self) -> int | None:
        """The process that the launcher has started to serve."""
        servers = self._servers()
        return next((pid for pid, parent in servers.items() if parent not in servers), None)

    def _servers(self) -> dict[int, int]:
        """The processes that serve, found by their port on the command line, and their parents."""
        found = {}
        for folder in Path("/proc").glob("[0-9]*"):
            try:
                words = (folder / "cmdline").read_text().split("\0")
                parent = (folder / "stat").read_text().rpartition(")")[2].split()[1]
            except OSError:
                continue
            if "lauf.serving.serve" in words and str(self.port) in words:
                found[int(folder.name)] = int(parent)
        return found

    def database(self) -> int:
        """The server process of its PostgreSQL."""
        file = self.home / "data" / "postmaster.pid"
        return int(file.read_text().split("\n", 1)[0])

    @property
    def home(self) -> Path:
        return self.state / str(json.loads((self.state / "postgres.json").read_text())["home"])

    def ask(self, path: str) -> tuple[int, Any]:
        """Status and answer; 0 where nobody answers."""
        try:
            with urllib.request.urlopen(self.url + path, timeout=LIMIT_S) as answer:
                return answer.status, json.loads(answer.read())
        except urllib.error.HTTPError as error:
            return error.code, json.loads(error.read() or b"{}")
        except OSError:
            return 0, None

    def is_well(self) -> None:
        health = wait_for(
            lambda: self.ask("/api/health"), lambda found: found[0] == 200, seconds=60
        )
        well = {"version": __version__, "database": True, "writing": True}
        assert health == (200, well), self.said

    def remove(self) -> None:
        self.stop()
        for data in self.folder.rglob("data"):
            for process in postgres_on(data):
                os.kill(process, signal.SIGKILL)
        home = self.home if (self.state / "postgres.json").exists() else self.state
        for place in (home, self.folder):
            shutil.rmtree(place, ignore_errors=True)
