"""Backups of a Lauf that runs from a checkout: everything in one file, made while it serves; and
back again, whole or not at all. What makes and reads them is `lauf.keeping`."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from datetime import datetime, timedelta
from pathlib import Path
from typing import Final, NamedTuple

from ops import build, databases
from ops.databases import Database
from ops.machine import STATE, Lacking, say, secret_file

FOLDER: Final = STATE / "backups"
#: How many of the nightly ones are kept.
KEPT: Final = int(os.environ.get("LAUF_BACKUPS_KEPT", "14"))
#: The hour of the night, by the machine's clock, from which one is made.
_HOUR: Final = 2
_DRILLS: Final = timedelta(days=7)


class Contents(NamedTuple):
    """What is in a backup."""

    made_at: datetime
    school: str
    demo: bool


def pattern(name: str) -> str:
    """The nightly backups of a database."""
    return str(FOLDER / f"{name}-*.zip*")


def look_at(file: Path) -> Contents:
    """What a backup says of itself. Raises Lacking for a file that is none or is damaged."""
    about = json.loads(_lauf("look", str(file)))
    return Contents(datetime.fromisoformat(about["made_at"]), about["school"], about["demo"])


def restore(file: Path, database: Database) -> str:
    """Put a backup in the place of what a database holds, which stays beside it under another name
    until the next time: that name. It is brought to this version first; nothing is touched unless
    all of that went well. Raises Lacking."""
    with databases.beside(database) as fresh:
        _lauf("restore", str(file), LAUF_DATABASE_URL=fresh.url)
        return fresh.take_the_place_of(database)


def _lauf(*words: str, **variables: str) -> str:
    """What the installed Lauf says. Raises Lacking with its own words."""
    given = {"LAUF_DATABASE_URL": "postgresql:///nothing", **variables}
    done = subprocess.run(
        [str(build.PYTHON), "-m", "lauf.command", *words],
        env=build.environment(LAUF_SECRET_KEY_FILE=str(secret_file("secret-key")), **given),
        cwd=os.getcwd(), capture_output=True, text=True, stdin=subprocess.DEVNULL,
    )  # fmt: skip
    if done.returncode:
        raise Lacking(done.stderr.strip().removeprefix("lauf: ")[-2000:])
    return done.stdout


# By itself, at night.


def _age(file: Path | None, now: datetime) -> timedelta:
    return now - datetime.fromtimestamp(file.stat().st_mtime) if file else timedelta.max


def is_due(name: str, now: datetime) -> bool:
    """Whether tonight's is still to be made: once a day from the hour of the night on, and at once
    where there is none from within a day."""
    made = FOLDER.glob(f"{name}-????-??-??*.zip*")
    newest = max(made, key=lambda one: one.stat().st_mtime, default=None)
    age = _age(newest, now)
    return age > timedelta(hours=26) or ((now - age).date() < now.date() and now.hour >= _HOUR)


def is_drill_due(now: datetime) -> bool:
    """Whether a backup is to be restored to see that it can be: once a week."""
    note = FOLDER / "drill.json"
    return _age(note if note.exists() else None, now) > _DRILLS


def nightly(database: Database, now: datetime) -> None:
    """Make the backup of a night, and once a week restore it to see that it can be. Raises
    Lacking."""
    FOLDER.mkdir(mode=0o700, exist_ok=True)
    kept = {"LAUF_BACKUPS": pattern(database.name), "LAUF_BACKUPS_KEPT": str(KEPT)}
    _lauf("backup", LAUF_DATABASE_URL=database.url, **kept)
    if is_drill_due(now) and database.cluster is not None:
        with databases.beside(database, "drill") as fresh:
            _lauf("drill", LAUF_DRILL_DATABASE_URL=fresh.url, **kept)


# The commands.


def command_backup(file: Path, *, demo: bool) -> int:
    with databases.at_work(demo=demo) as database:
        _lauf("backup", str(file), LAUF_DATABASE_URL=database.url)
        backup = look_at(file)
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
