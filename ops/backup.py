"""Backups: everything in one file, made while Lauf serves; and back again, whole or not at all.

A backup is a zip of two: `backup.json` says what it is, `database.dump` is PostgreSQL's own archive
of the database, without anybody's session. It is put under its name only once it was read again.
"""

from __future__ import annotations

import hashlib
import json
import os
import subprocess
import sys
import tempfile
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import IO, Any, Final

from ops import build, databases
from ops.databases import Database
from ops.machine import ROOT, STATE, Lacking, say, secret_file

FOLDER: Final = STATE / "backups"
#: How many of the nightly ones are kept.
KEPT: Final = int(os.environ.get("LAUF_BACKUPS_KEPT", "14"))
#: The hour of the night, by the machine's clock, from which one is made.
_HOUR: Final = 2
_FORMAT: Final = 1
_PARTS: Final = {"backup.json", "database.dump"}


@dataclass(frozen=True, slots=True)
class Backup:
    """What a backup says of itself. `school` is its name; `changes` the last migration of each
    part."""

    made_at: datetime
    school: str
    demo: bool
    changes: dict[str, str]
    sha256: str


def back_up(database: Database, file: Path) -> Backup:
    """Write everything of a database into a file. Raises Lacking; a file that was there under that
    name is replaced only by a whole one."""
    if not file.parent.is_dir():
        raise Lacking(f"There is no folder {file.parent} to put the backup into.")
    made_at = datetime.now(UTC)  # before what it holds
    with tempfile.TemporaryDirectory(dir=file.parent, prefix=".lauf-backup-") as room:
        dump = Path(room) / "database.dump"
        database.dump(dump)
        about = {
            "lauf_backup": _FORMAT,
            "made_at": made_at.isoformat(timespec="seconds"),
            "school": database.school,
            "demo": database.is_demo,
            "changes": database.changes,
            "sha256": _digest(dump),
        }
        whole = Path(room) / "whole.zip"
        with zipfile.ZipFile(whole, "w") as archive:
            archive.writestr("backup.json", json.dumps(about, indent=1))
            archive.write(dump, "database.dump")
        whole.chmod(0o600)
        with _opened(whole) as (backup, _):
            os.replace(whole, file)
    return backup


def look_at(file: Path) -> Backup:
    """What a backup says of itself. Raises Lacking for a file that is none or is damaged."""
    with _opened(file) as (backup, _):
        return backup


def restore(file: Path, database: Database) -> str:
    """Put a backup in the place of what a database holds, which stays beside it under another name
    until the next time: that name. It is brought to this version first; nothing is touched unless
    all of that went well. Raises Lacking."""
    with _opened(file) as (_, dump), databases.beside(database) as fresh:
        try:
            fresh.restore(dump)
        except Lacking as lacking:
            raise Lacking(f"{file} could not be restored: {lacking}") from lacking
        _bring_to_this_version(fresh)
        return fresh.take_the_place_of(database)


def _bring_to_this_version(fresh: Database) -> None:
    done = subprocess.run(
        [str(build.PYTHON), "backend/manage.py", "prepare", "--schema-only"],
        env=build.environment(
            LAUF_DATABASE_URL=fresh.url, LAUF_SECRET_KEY_FILE=str(secret_file("secret-key"))
        ),
        cwd=ROOT, capture_output=True, text=True,
    )  # fmt: skip
    if done.returncode:
        raise Lacking(done.stderr.strip()[-2000:])


@contextmanager
def _opened(file: Path) -> Iterator[tuple[Backup, Path]]:
    """What it says of itself, and its archive as a file, which is what it was when it was made."""
    none = Lacking(f"{file} is no backup of Lauf: those are made by ./lauf backup.")
    if not file.is_file():
        raise Lacking(f"There is no file {file}.")
    try:
        archive = zipfile.ZipFile(file)
    except (zipfile.BadZipFile, OSError) as error:
        raise none from error
    with archive, tempfile.TemporaryDirectory(prefix="lauf-backup-") as room:
        if set(archive.namelist()) != _PARTS:
            raise none
        dump = Path(room) / "database.dump"
        try:
            about = json.loads(archive.read("backup.json"))
            backup = _read(about, none)
            with archive.open("database.dump") as packed, dump.open("wb") as plain:
                digest = _copied(packed, plain)
        except (zipfile.BadZipFile, ValueError, EOFError) as error:
            raise Lacking(f"{file} is damaged: use another backup.") from error
        if digest != backup.sha256:
            raise Lacking(f"{file} is damaged: it is not what was backed up. Use another backup.")
        yield backup, dump


def _read(about: Any, none: Lacking) -> Backup:
    if not isinstance(about, dict) or "lauf_backup" not in about:
        raise none
    if about["lauf_backup"] != _FORMAT:
        raise Lacking("This backup was made by a newer Lauf than this one: use that one.")
    try:
        return Backup(
            datetime.fromisoformat(about["made_at"]), str(about["school"]), bool(about["demo"]),
            {str(part): str(last) for part, last in about["changes"].items()}, about["sha256"],
        )  # fmt: skip
    except (KeyError, TypeError, AttributeError, ValueError) as error:
        raise none from error


def _copied(packed: IO[bytes], plain: IO[bytes]) -> str:
    digest = hashlib.sha256()
    while piece := packed.read(1 << 20):
        digest.update(piece)
        plain.write(piece)
    return digest.hexdigest()


def _digest(file: Path) -> str:
    with file.open("rb") as opened:
        return hashlib.file_digest(opened, "sha256").hexdigest()


# By itself, at night.


def kept(name: str) -> list[Path]:
    """The nightly backups of a database, the newest first."""
    return sorted(FOLDER.glob(f"{name}-????-??-??.zip"), reverse=True)


def is_due(name: str, now: datetime) -> bool:
    """Whether tonight's is still to be made: once a day from the hour of the night on, and at once
    where there is none from within a day."""
    newest = next(iter(kept(name)), None)
    if newest is None:
        return True
    made = datetime.fromtimestamp(newest.stat().st_mtime)
    return now - made > timedelta(hours=26) or (made.date() < now.date() and now.hour >= _HOUR)


def nightly(database: Database, now: datetime) -> Path:
    """Make the backup of a day, and let go of the oldest beyond those that are kept. Raises
    Lacking."""
    FOLDER.mkdir(mode=0o700, exist_ok=True)
    file = FOLDER / f"{database.name}-{now:%Y-%m-%d}.zip"
    back_up(database, file)
    for old in kept(database.name)[KEPT:]:
        old.unlink(missing_ok=True)
    return file


# The commands.


def command_backup(file: Path, *, demo: bool) -> int:
    with databases.at_work(demo=demo) as database:
        backup = back_up(database, file)
        say(f"{file} holds {backup.school} as it was at {backup.made_at.astimezone():%H:%M:%S}")
        say("whoever has this file has every name in it: keep it as you keep the school's papers")
    return 0


def command_restore(file: Path, *, demo: bool, sure: bool) -> int:
    backup = look_at(file)
    if demo != backup.demo:
        holds = "the demo school: add --demo" if backup.demo else "a real school: leave out --demo"
        raise Lacking(f"{file} holds {holds}.")
    with databases.at_work(demo=demo, may_begin=True) as database:
        now = database.school or "nothing yet"
        say(f"{file} holds {backup.school} as it was on {backup.made_at.astimezone():%d %B %H:%M}")
        say(f"it takes the place of {now}, with all that was kept since")
        if not sure and not _agreed():
            say("nothing was changed")
            return 1
        before = restore(file, database)
        say("restored; everybody signs in again")
        if before:
            say(f"what was there before stays in the database {before} until the next restore")
    return 0


def _agreed() -> bool:
    if not sys.stdin.isatty():
        raise Lacking("Nobody is there to ask: add --yes.")
    return input("lauf: type yes to go on: ").strip().lower() == "yes"
