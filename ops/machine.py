"""The machine: Debian packages, and plain words when something is missing."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
STATE = ROOT / ".lauf"
OLDEST_PYTHON = (3, 11)
OLDEST_POSTGRES = 15


class Lacking(Exception):
    """Something is missing that Lauf cannot get by itself; the message says what to do."""


def say(words: str) -> None:
    print(f"lauf: {words}", flush=True)


def check_python() -> None:
    if sys.version_info < OLDEST_PYTHON:
        found = ".".join(map(str, sys.version_info[:3]))
        raise Lacking(f"Lauf needs Python 3.11 or later; this is {found}.")


def postgres_programs() -> Path | None:
    """The folder of the newest PostgreSQL server's programs that is new enough."""
    found = [
        (int(path.parent.parent.name), path.parent)
        for path in Path("/usr/lib/postgresql").glob("*/bin/initdb")
        if path.parent.parent.name.isdigit()
    ]
    fitting = [item for item in found if item[0] >= OLDEST_POSTGRES]
    return max(fitting)[1] if fitting else None


def chromium() -> str | None:
    """Debian's Chromium without a window of its own: lighter than the whole browser."""
    return shutil.which("chromium-headless-shell")


def _can_make_venv() -> bool:
    probe = [sys.executable, "-c", "import ensurepip, venv"]
    return subprocess.run(probe, capture_output=True).returncode == 0


def ensure_packages(*, browser: bool) -> None:
    """Install what is missing of Debian's packages. Raises Lacking with the command to run."""
    check_python()
    missing = []
    if postgres_programs() is None:
        missing.append("postgresql")
    if not _can_make_venv():
        missing.append("python3-venv")
    if browser and chromium() is None:
        missing.append("chromium-headless-shell")
    if not missing:
        return
    command = ["apt-get", "install", "-y", "--no-install-recommends", *missing]
    by_hand = "apt-get update && " + " ".join(command)
    if shutil.which("apt-get") is None:
        raise Lacking(f"Lauf needs {', '.join(missing)}; this is not a Debian or Ubuntu machine.")
    prefix: list[str] = []
    if os.geteuid() != 0:
        if shutil.which("sudo") is None:
            raise Lacking(f"Lauf needs Debian packages. As root, run: {by_hand}")
        prefix = ["sudo"]
    say(f"installing Debian packages: {', '.join(missing)}")
    environment = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    for step in (["apt-get", "update", "-q"], command):
        done = subprocess.run(prefix + step, env=environment, stdout=subprocess.DEVNULL)
        if done.returncode:
            raise Lacking(f"Installing Debian packages did not work. As root, run: {by_hand}")
    if postgres_programs() is None:
        raise Lacking(f"Lauf needs PostgreSQL {OLDEST_POSTGRES} or later.")
