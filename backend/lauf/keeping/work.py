"""What keeps a school's data, done: a backup with its copies, a restore, a drill."""

from __future__ import annotations

import re
import shutil
import tempfile
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Final

import psycopg

from lauf.keeping.archive import Backup, Unusable, look_at, pack, unpacked
from lauf.keeping.copying import copy, empty, fill, keep, rows
from lauf.keeping.drills import Drill, note_drill

#: The table whose rows are the scores.
_SCORES: Final = "records_attempt"


@dataclass(frozen=True, slots=True)
class Place:
    """Where backups are kept: `pattern` is theirs on this machine, `copies` are folders elsewhere,
    `key` encrypts them, `kept` is how many there are at most."""

    pattern: Path
    copies: Sequence[Path] = ()
    key: str = ""
    kept: int = 14

    @property
    def folder(self) -> Path:
        return self.pattern.parent

    def found(self, folder: Path | None = None) -> list[Path]:
        """Those of the nights, the newest first; what somebody made by hand is not among them."""
        stem = self.pattern.name.partition("*")[0]
        made = re.compile(re.escape(stem) + r"\d{4}-\d\d-\d\d(_\d{6})?\.")
        there = (folder or self.folder).glob(self.pattern.name)
        return sorted((one for one in there if made.match(one.name)), reverse=True)

    def named(self, now: datetime) -> Path:
        stem, _, end = self.pattern.name.partition("*")
        end = end.rstrip("*") or ".zip"
        return self.folder / f"{stem}{now:%Y-%m-%d_%H%M%S}{end}{'.age' if self.key else ''}"


def back_up(address: str, file: Path, key: str = "") -> Backup:
    """Copy a database into a file. Raises Unusable."""
    if not file.parent.is_dir():
        raise Unusable(f"There is no folder {file.parent}: make it, or name another.")
    with tempfile.TemporaryDirectory(dir=file.parent, prefix=".lauf-backup-") as room:
        dump = Path(room) / "database.dump"
        contents = copy(address, dump)
        return pack(dump, contents, file, key)


def nightly(address: str, place: Place, now: datetime) -> tuple[Path, list[str]]:
    """Make the backup of a night, copy it to where copies are kept, and let go of the oldest. The
    file, and what is wrong with the copies. Raises Unusable where there is no backup."""
    if "*" not in place.pattern.name:
        raise Unusable("LAUF_BACKUPS is no pattern: write it as /var/lib/lauf/backups/lauf-*.zip*")
    file = place.named(now)
    back_up(address, file, place.key)
    wrong = []
    for folder in place.copies:
        try:
            _copy_whole(file, folder / file.name)
        except OSError as error:
            wrong.append(f"No copy in {folder}: {error.strerror}.")
    for folder in (place.folder, *place.copies):
        for old in place.found(folder)[place.kept :]:
            with suppress(OSError):
                old.unlink()
    return file, wrong


def _copy_whole(file: Path, to: Path) -> None:
    part = to.with_name(f".{to.name}.part")
    shutil.copyfile(file, part)
    part.chmod(0o600)
    part.replace(to)


def restore(address: str, file: Path, key: str = "") -> Backup:
    """Put a backup into an empty database. Raises Unusable."""
    with unpacked(file, key) as (backup, dump):
        keep(address)
        fill(address, dump)
        return backup


def drill(place: Place, address: str, now: datetime | None = None) -> Drill:
    """Restore the newest backup into a database for drills, count what is in it, and look at its
    copies; what came of it is noted beside the backups. The database is empty afterwards."""
    now = now or datetime.now(UTC)
    newest = next(iter(place.found()), None)
    scores, wrong = 0, ""
    try:
        if newest is None:
            raise Unusable("There is no backup.")
        if not address:
            raise Unusable("LAUF_DRILL_DATABASE_URL is not set: name an empty database for drills.")
        scores = _proved(newest, place.key, address)
        wrong = " ".join(_lacking_copies(newest, place))
    except (Unusable, psycopg.Error, OSError) as error:
        wrong = " ".join(str(error).split())
    found = Drill(now, newest.name if newest else "", scores, wrong)
    note_drill(place.folder, found)
    return found


def _proved(file: Path, key: str, address: str) -> int:
    """How many scores are in a database restored from a backup, which has every row that the backup
    was made of."""
    empty(address)
    try:
        with unpacked(file, key) as (backup, dump):
            fill(address, dump)
        with psycopg.connect(address) as connection:
            found = rows(connection)
    finally:
        empty(address)
        # At rest it is empty and nothing else: a school that is begun in it is safe from drills.
        keep(address)
    lost = {
        table: counted - found.get(table, 0)
        for table, counted in backup.contents.rows.items()
        if found.get(table, 0) != counted
    }
    if lost:
        raise Unusable(f"Not all of it is there again: {lost}.")
    return found.get(_SCORES, 0)


def _lacking_copies(file: Path, place: Place) -> list[str]:
    found = []
    whole = look_at(file, place.key)
    for folder in place.copies:
        try:
            if look_at(folder / file.name, place.key) != whole:
                found.append(f"The copy in {folder} is another one.")
        except Unusable as error:
            found.append(str(error))
    return found
