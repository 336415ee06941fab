"""docs/operations/install.md, followed word by word in a folder of its own: from the built file
alone, without a network."""

from __future__ import annotations

import json
import os
import re
import shutil
import signal
import subprocess
import tarfile
import time
import urllib.request
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from ops import build
from ops.machine import ROOT
from ops.network import free_port
from tests.support.served import admin, as_url, drop
from tests.support.waits import LIMIT_S

NAME = "lauf_operations"


def commands(page: str) -> Iterator[str]:
    """The commands of a page, one a line, in their order."""
    for line in (ROOT / "docs" / "operations" / page).read_text().splitlines():
        if line.startswith("    ") and line.strip():
            yield line.strip()


class Machine:
    """A folder that stands for the machine's root: what a page has done is done in it."""

    def __init__(self, root: Path) -> None:
        self.root = root
        self.done: list[str] = []
        self.port = free_port()
        (root / "work").mkdir(parents=True)
        (root / "etc").mkdir()
        self._rules: list[tuple[str, Callable[[str], None]]] = [
            (r"apt-get install ", self._has_packages),
            (r"useradd |systemctl ", lambda _: None),
            (r"sudo -u postgres createuser", lambda _: None),
            (r"sudo -u postgres createdb", self._make_database),
            (r"(sudo -u lauf )?(/opt|tar|python3|install) ?", self._run),
        ]

    def follow(self, page: str) -> None:
        for command in commands(page):
            rule = next((do for begins, do in self._rules if re.match(begins, command)), None)
            assert rule is not None, f"{page} asks for what this test does not know: {command}"
            rule(command)
            self.done.append(command)
            if "lauf.env.example" in command:
                self._write_variables()

    def _has_packages(self, command: str) -> None:
        for package in command.split()[3:]:
            found = subprocess.run(["dpkg", "-s", package], capture_output=True)
            assert found.returncode == 0, f"{package} is no package that Lauf is tested with"

    def _make_database(self, command: str) -> None:
        assert "--encoding=UTF8" in command
        drop(NAME)
        with admin() as connection:
            connection.execute(f'CREATE DATABASE "{NAME}" ENCODING UTF8 TEMPLATE template0')

    def _write_variables(self) -> None:
        """What the page says to set."""
        file = self.root / "etc" / "lauf" / "lauf.env"
        own = {
            "LAUF_SECRET_KEY": "of a test, 48 letters that nobody has to guess at all",
            "LAUF_DATABASE_URL": as_url(NAME),
        }
        text = file.read_text()
        for name, value in own.items():
            text, changed = re.subn(f"(?m)^#{name}=.*$", f"{name}={value}", text)
            assert changed == 1, name
        file.write_text(text)

    def _run(self, command: str) -> None:
        self.run(command)

    def here(self, command: str) -> str:
        plain = command.removeprefix("sudo -u lauf ").replace(" -g lauf", "")
        return re.sub(r"(?<![\w-])/(opt|etc)/", rf"{self.root}/\1/", plain)

    def run(self, command: str) -> str:
        """With nothing of this checkout, no compiler and no network in reach."""
        words = self.here(command).split(" /opt/lauf/bin/lauf ")[0]
        if "/bin/lauf " in words:
            program, _, rest = words.partition("/bin/lauf ")
            words = f"{program}/bin/lauf --variables {self.root}/etc/lauf/lauf.env {rest}"
        if "create-head" in words:
            (self.root / "word").write_text("painted-floor-of-the-hall")
            words += f" --password-file {self.root}/word"
        done = subprocess.run(
            ["bash", "-c", words], cwd=self.root / "work", env=self.variables,
            capture_output=True, text=True,
        )  # fmt: skip
        assert done.returncode == 0, f"{command}\n{done.stdout[-2000:]}{done.stderr[-3000:]}"
        return done.stdout + done.stderr

    @property
    def variables(self) -> dict[str, str]:
        return {
            "PATH": "/usr/bin:/bin:/usr/sbin:/sbin",
            "HOME": str(self.root),
            "CC": "/bin/false",
            "PIP_NO_INDEX": "1",
            "PIP_CONFIG_FILE": os.devnull,
            "http_proxy": "http://127.0.0.1:9",
            "https_proxy": "http://127.0.0.1:9",
        }


@pytest.fixture(scope="module")
def built() -> Path:
    return build.make()


@pytest.fixture
def machine(built: Path, tmp_path: Path) -> Iterator[Machine]:
    found = Machine(tmp_path / "machine")
    shutil.copy(built, found.root / "work" / "lauf-VERSION.tar.gz")
    # The page says VERSION: so does the folder in the file, here.
    with tarfile.open(built) as archive:
        (inside,) = {one.name.split("/")[0] for one in archive}
    (found.root / "work" / "lauf-VERSION").symlink_to(inside)
    yield found
    drop(NAME)


def test_lauf_is_installed_from_one_file_and_serves(machine: Machine) -> None:
    machine.follow("install.md")
    assert any("lauf.service" in one for one in machine.done)
    unit = machine.root / "etc" / "systemd" / "system" / "lauf.service"
    assert "ExecStart=/opt/lauf/bin/lauf serve" in unit.read_text()
    serving = subprocess.Popen(
        [f"{machine.root}/opt/lauf/bin/lauf", "--variables", f"{machine.root}/etc/lauf/lauf.env",
         "serve", "--port", str(machine.port)],
        cwd=machine.root, env=machine.variables,
    )  # fmt: skip
    try:
        at = f"http://127.0.0.1:{machine.port}"
        ready = _until(f"{at}/api/ready")
        assert json.loads(ready) == {"ready": True}
        page = _until(f"{at}/")
        script = re.search(r'src="(/static/[^"]+\.js)"', page)
        assert script and len(_until(at + script.group(1))) > 1000
        assert "Jo" not in page
    finally:
        serving.send_signal(signal.SIGTERM)
        assert serving.wait(LIMIT_S) == 0


def _until(address: str) -> str:
    deadline = time.monotonic() + LIMIT_S
    while True:
        try:
            with urllib.request.urlopen(address, timeout=LIMIT_S) as answer:
                return str(answer.read().decode())
        except OSError:
            if time.monotonic() > deadline:
                raise
            time.sleep(0.1)


def test_the_unit_is_one_that_systemd_takes(tmp_path: Path) -> None:
    unit = (ROOT / "deploy" / "systemd" / "lauf.service").read_text()
    file = tmp_path / "lauf.service"
    # The program is not at its place here.
    file.write_text(unit.replace("/opt/lauf/bin/lauf", "/bin/true"))
    done = subprocess.run(
        ["systemd-analyze", "verify", str(file)], capture_output=True, text=True,
    )  # fmt: skip
    told = [line for line in done.stderr.splitlines() if "lauf.service" in line]
    assert told == [], done.stderr
