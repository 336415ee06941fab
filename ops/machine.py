"""The machine: Debian packages, and plain words when something is missing."""

from __future__ import annotations

import fcntl
import os
import pwd
import secrets
import shutil
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from ctypes.util import find_library
from datetime import UTC, datetime
from pathlib import Path
from typing import Final

ROOT = Path(__file__).resolve().parents[1]
STATE = ROOT / ".lauf"
OLDEST_PYTHON = (3, 11)
OLDEST_POSTGRES = 15


class Lacking(Exception):
    """Something is missing that Lauf cannot get by itself; the message says what to do."""


def say(words: str) -> None:
    print(f"lauf: {words}", flush=True)


def name_of(user: int) -> str:
    """A user's name, or its number where it has none."""
    try:
        return pwd.getpwuid(user).pw_name
    except KeyError:
        return str(user)


def check_place(root: Path = ROOT, me: int | None = None) -> None:
    """Whether this user may work in this folder; nothing in it is touched. Raises Lacking with what
    to do: what one user has begun goes on as that user, and root takes nothing over."""
    me = os.geteuid() if me is None else me
    state = root / STATE.name
    if not state.exists():
        if not os.access(root, os.W_OK | os.X_OK):
            raise Lacking(
                f"Lauf keeps its data in {root}, which {name_of(me)} cannot write to: copy Lauf "
                "into a folder of your own, or start it as the folder's owner, "
                f"{name_of(root.stat().st_uid)}."
            )
        return
    owner = state.stat().st_uid
    if owner != me:
        raise Lacking(
            f"The data of this Lauf belong to {name_of(owner)}, and you are {name_of(me)}: start "
            f"it as {name_of(owner)}, or copy Lauf into another folder without {state.name}. "
            "Nothing was changed."
        )
    if not os.access(state, os.W_OK | os.X_OK | os.R_OK):
        raise Lacking(
            f"{state} cannot be written to: is the disk mounted to be read only? Make it writable, "
            "then start again. Nothing was changed."
        )
    for file in sorted(state.iterdir()):
        if file.is_file() and not os.access(file, os.R_OK):
            raise Lacking(
                f"{file} cannot be read by {name_of(me)}: give it back to them "
                f"(chown {name_of(me)} {file}; chmod 600 {file}), then start again."
            )


def check_python() -> None:
    if sys.version_info < OLDEST_PYTHON:
        found = ".".join(map(str, sys.version_info[:3]))
        raise Lacking(f"Lauf needs Python 3.11 or later; this is {found}.")


def postgres_programs(version: int | None = None) -> Path | None:
    """The folder of a PostgreSQL server's programs: of that major version, or of the newest that is
    new enough."""
    found = [
        (int(path.parent.parent.name), path.parent)
        for path in Path("/usr/lib/postgresql").glob("*/bin/initdb")
        if path.parent.parent.name.isdigit()
    ]
    fitting = [one for one in found if one[0] >= OLDEST_POSTGRES and version in (None, one[0])]
    return max(fitting)[1] if fitting else None


def chromium() -> str | None:
    """Debian's Chromium without a window of its own: lighter than the whole browser."""
    return shutil.which("chromium-headless-shell")


def _can_make_venv() -> bool:
    probe = [sys.executable, "-c", "import ensurepip, venv"]
    return subprocess.run(probe, capture_output=True).returncode == 0


#: What lays out pages (WeasyPrint) by the library's name, and Debian's package of it.
_LIBRARIES: Final = {
    "pango-1.0": "libpango-1.0-0",
    "pangoft2-1.0": "libpangoft2-1.0-0",
    "harfbuzz-subset": "libharfbuzz-subset0",
}
#: Signs that the house's own fonts do not have: arrows, and letters of other scripts.
_SIGNS: Final = Path("/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf")


#: What a server's samples are checked with: programs, and Debian's packages of them.
_FOR_CHECKS: Final = {
    "nginx": "nginx",
    "caddy": "caddy",
    "certutil": "libnss3-tools",
    "systemd-analyze": "systemd",
    "age": "age",
}


#: What several machines work together by: programs, and Debian's packages of them.
_FOR_CLUSTERS: Final = {
    "patroni": "patroni",
    "etcd": "etcd-server",
    "haproxy": "haproxy",
    "pgbouncer": "pgbouncer",
    "pgbackrest": "pgbackrest",
    "ip": "iproute2",
}


def missing_packages(*, checks: bool, cluster: bool = False) -> list[str]:
    """The Debian packages that Lauf needs here and does not find."""
    missing = []
    if postgres_programs() is None:
        missing.append("postgresql")
    if not _can_make_venv():
        missing.append("python3-venv")
    missing += [package for name, package in _LIBRARIES.items() if not find_library(name)]
    if not _SIGNS.exists():
        missing.append("fonts-dejavu-core")
    if checks and chromium() is None:
        missing.append("chromium-headless-shell")
    programs = {**(_FOR_CHECKS if checks else {}), **(_FOR_CLUSTERS if cluster else {})}
    # Not everybody's PATH has the programs of those who look after a machine.
    there = os.environ.get("PATH", "") + ":/usr/sbin"
    missing += [name for one, name in programs.items() if shutil.which(one, path=there) is None]
    return missing


def ensure_packages(*, checks: bool, cluster: bool = False) -> None:
    """Install what is missing of Debian's packages. Raises Lacking with the command to run."""
    check_python()
    missing = missing_packages(checks=checks, cluster=cluster)
    if not missing:
        return
    command = ["apt-get", "install", "-y", "--no-install-recommends", *missing]
    by_hand = "apt-get update && " + " ".join(command)
    if shutil.which("apt-get") is None:
        raise Lacking(f"Lauf needs {', '.join(missing)}; this is not a Debian or Ubuntu machine.")
    prefix: list[str] = []
    if os.geteuid() != 0:
        if shutil.which("sudo") is None:
            raise Lacking(
                f"These Debian packages are missing here, and there is no sudo: "
                f"{', '.join(missing)}. As root, run: {by_hand}"
            )
        prefix = ["sudo"]
    say(f"installing Debian packages: {', '.join(missing)}")
    environment = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    for step in (["apt-get", "update", "-q"], command):
        done = subprocess.run(prefix + step, env=environment, stdout=subprocess.DEVNULL)
        if done.returncode:
            raise Lacking(f"Installing {', '.join(missing)} did not work. As root, run: {by_hand}")
    if postgres_programs() is None:
        raise Lacking(f"Lauf needs PostgreSQL {OLDEST_POSTGRES} or later.")


@contextmanager
def only_one(name: str) -> Iterator[None]:
    """Refuse to run the same thing twice in one folder."""
    STATE.mkdir(exist_ok=True)
    with (STATE / f"{name}.lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            raise Lacking(f"./lauf {name} is running in this folder already.") from error
        yield


def secret_file(name: str) -> Path:
    """A file with a fresh secret, made once and readable by its owner only."""
    STATE.mkdir(exist_ok=True)
    path = STATE / name
    if not path.exists():
        with os.fdopen(os.open(path, os.O_CREAT | os.O_WRONLY | os.O_EXCL, 0o600), "w") as file:
            file.write(secrets.token_urlsafe(48))
    return path


def zone_where_it_is_morning(now: datetime | None = None) -> str:
    """A time zone in which it is between nine and ten o'clock: a lesson of today that the checks
    make is still of today when they are through, whenever they were begun."""
    ahead = (9 - (now or datetime.now(UTC)).astimezone(UTC).hour + 12) % 24 - 12
    return f"Etc/GMT{-ahead:+d}"  # in these names the sign is the other way round
