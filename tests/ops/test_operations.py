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

from lauf.command import _parser
from ops import build
from ops.machine import ROOT
from ops.network import free_port
from tests.support.served import admin, as_url, drop
from tests.support.waits import LIMIT_S

#: What the page's databases are called here.
DATABASES = {
    "lauf": "lauf_operations",
    "lauf_drill": "lauf_operations_drill",
    "another": "lauf_operations_again",
}


def commands(page: str) -> Iterator[str]:
    """The commands of a page, one a line, in their order."""
    for line in (ROOT / "docs" / "operations" / page).read_text().splitlines():
        if line.startswith("    ") and line.strip():
            yield line.strip()


DEPLOY = ROOT / "deploy"
UNITS = sorted(one for one in (DEPLOY / "systemd").iterdir() if one.suffix)


class Machine:
    """A folder that stands for the machine's root: what a page has done is done in it."""

    def __init__(self, root: Path) -> None:
        self.root = root
        self.heard = ""
        #: Variables that hold to the end of a page: another machine's.
        self._elsewhere: dict[str, str] = {}
        self.port = free_port()
        (root / "work").mkdir(parents=True)
        (root / "etc").mkdir()
        self._rules: list[tuple[str, Callable[[str], None]]] = [
            (r"apt-get install ", self._has_packages),
            (r"useradd |systemctl ", lambda _: None),
            (r"sudo -u postgres createuser", lambda _: None),
            (r"sudo -u postgres createdb", self._make_database),
            (
                r"(sudo -u lauf )?(/opt|tar|python3|install|rm -r /opt|lauf-VERSION/deploy)",
                self._run,
            ),
        ]

    def follow(self, page: str) -> None:
        for command in commands(page):
            rule = next((do for begins, do in self._rules if re.match(begins, command)), None)
            assert rule is not None, f"{page} asks for what this test does not know: {command}"
            rule(command)
            if "lauf.env.example" in command:
                self._write_variables()
            if "backup-key" in command:
                self._write({"LAUF_BACKUP_KEY": self.heard.split()[-1]})
        self._elsewhere = {}

    def _has_packages(self, command: str) -> None:
        for package in command.split()[3:]:
            found = subprocess.run(["dpkg", "-s", package], capture_output=True)
            assert found.returncode == 0, f"{package} is no package that Lauf is tested with"

    def _make_database(self, command: str) -> None:
        assert "--encoding=UTF8" in command
        name = DATABASES[command.split()[-1]]
        drop(name)
        with admin() as connection:
            connection.execute(f'CREATE DATABASE "{name}" ENCODING UTF8 TEMPLATE template0')

    def _write_variables(self) -> None:
        """What the page says to set."""
        self._write({
            "LAUF_SECRET_KEY": "of a test, 48 letters that nobody has to guess at all",
            "LAUF_DATABASE_URL": as_url(DATABASES["lauf"]),
            "LAUF_DRILL_DATABASE_URL": as_url(DATABASES["lauf_drill"]),
            "LAUF_BACKUPS": f"{self.root}/var/lib/lauf/backups/lauf-*.zip*",
        })  # fmt: skip

    def _write(self, own: dict[str, str]) -> None:
        file = self.root / "etc" / "lauf" / "lauf.env"
        text = file.read_text()
        for name, value in own.items():
            text, changed = re.subn(f"(?m)^#{name}=.*$", f"{name}={value}", text)
            assert changed == 1, name
        file.write_text(text)

    def _run(self, command: str) -> None:
        self.run(command)

    def here(self, command: str) -> str:
        plain = command.removeprefix("sudo -u lauf ").replace(" -g lauf", "")
        plain = plain.replace(" -o lauf", "")
        return re.sub(r"(?<![\w-])/(opt|etc|var)/", rf"{self.root}/\1/", plain)

    def run(self, command: str) -> str:
        """With nothing of this checkout, no compiler and no network in reach."""
        words = self.here(command)
        if "/bin/lauf " in words:
            program, _, rest = words.partition("/bin/lauf ")
            words = f"{program}/bin/lauf --variables {self.root}/etc/lauf/lauf.env {rest}"
        if " restore BACKUP" in words:
            words = words.replace("BACKUP", str(self.backups[-1]))
            self._make_database("createdb --encoding=UTF8 another")
            self._elsewhere = {"LAUF_DATABASE_URL": as_url(DATABASES["another"])}
        if "create-head" in words:
            (self.root / "word").write_text("painted-floor-of-the-hall")
            words += f" --password-file {self.root}/word"
        done = subprocess.run(
            ["bash", "-c", words], cwd=self.root / "work", env=self.variables,
            capture_output=True, text=True,
        )  # fmt: skip
        assert done.returncode == 0, f"{command}\n{done.stdout[-2000:]}{done.stderr[-3000:]}"
        self.heard += done.stdout
        return done.stdout + done.stderr

    @property
    def backups(self) -> list[Path]:
        return sorted((self.root / "var/lib/lauf/backups").glob("lauf-*"))

    @property
    def variables(self) -> dict[str, str]:
        return {
            **self._elsewhere,
            "PATH": "/usr/bin:/bin:/usr/sbin:/sbin",
            "HOME": str(self.root),
            "ROOT": str(self.root),
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
    for name in DATABASES.values():
        drop(name)


def test_lauf_is_installed_from_one_file_and_serves(machine: Machine) -> None:
    machine.follow("install.md")
    units = machine.root / "etc" / "systemd" / "system"
    assert {one.name for one in units.iterdir()} == {one.name for one in UNITS}
    follow_the_pages_after_it(machine)
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


def follow_the_pages_after_it(machine: Machine) -> None:
    """A key, a backup that proves itself, the machine lost, a new version beside the old one."""
    machine.follow("backups.md")
    machine.follow("upgrade.md")
    machine.run("sudo -u lauf /opt/lauf/bin/lauf drill")
    assert [one.suffix for one in machine.backups] == [".age", ".age"]
    note = json.loads((machine.root / "var/lib/lauf/backups/drill.json").read_text())
    assert (note["backup"], note["wrong"]) == (machine.backups[-1].name, "")


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


@pytest.mark.parametrize("unit", UNITS, ids=lambda one: one.name)
def test_the_units_are_such_as_systemd_takes(tmp_path: Path, unit: Path) -> None:
    for one in UNITS:
        # The program is not at its place here.
        text = one.read_text().replace("/opt/lauf/bin/lauf", "/bin/true")
        (tmp_path / one.name).write_text(text)
    file = tmp_path / unit.name
    done = subprocess.run(
        ["systemd-analyze", "verify", str(file)], capture_output=True, text=True,
    )  # fmt: skip
    told = [line for line in done.stderr.splitlines() if "lauf" in line]
    assert told == [], done.stderr
    if unit.suffix == ".service":
        security = subprocess.run(
            ["systemd-analyze", "security", "--offline=true", "--threshold=20", str(file)],
            capture_output=True, text=True,
        )  # fmt: skip
        assert security.returncode == 0, security.stdout[-400:]


def test_the_container_file_has_what_its_builder_reads() -> None:
    """Debian's archive here has no builder: its instructions, and the files they name, are read."""
    lines = (DEPLOY / "Containerfile").read_text().replace("\\\n", " ").splitlines()
    steps = [line.split(None, 1) for line in lines if line and not line.startswith("#")]
    assert [name for name, _ in steps] == [
        "FROM", "RUN", "COPY", "RUN", "USER", "EXPOSE", "HEALTHCHECK", "ENTRYPOINT", "CMD",
    ]  # fmt: skip
    by_name = dict(steps)
    assert by_name["USER"] == "lauf" and json.loads(by_name["ENTRYPOINT"])
    words = [*json.loads(by_name["ENTRYPOINT"])[1:], *json.loads(by_name["CMD"])]
    assert _parser().parse_args(words).command == "serve"
    packages = re.findall("--no-install-recommends (.*?)&&", " ".join(lines))
    for package in packages[0].split() if packages else []:
        assert subprocess.run(["apt-cache", "show", package], capture_output=True).returncode == 0
    assert packages, "what it installs was read"
