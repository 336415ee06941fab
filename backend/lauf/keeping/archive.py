"""A backup as a file: a zip of `backup.json`, which says what it is, and `database.dump`,
PostgreSQL's own archive of the database, without anybody's session. With a key it is encrypted as a
whole, in the open format age (https://age-encryption.org/v1). It is put under its name only once it
was read again.

Nothing here needs more than Python, but for a key.
"""

from __future__ import annotations

import hashlib
import json
import tempfile
import zipfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import datetime
from pathlib import Path
from typing import IO, Any, Final

_FORMAT: Final = 1
_PARTS: Final = {"backup.json", "database.dump"}
_SEALED: Final = b"age-encryption.org/v1"


class Unusable(Exception):
    """What is no backup, is damaged, or cannot be opened; the message says what to do."""


@dataclass(frozen=True, slots=True)
class Contents:
    """What is in a backup: `changes` the last migration of each part, `rows` how many there are by
    table, where they were counted."""

    made_at: datetime
    school: str
    demo: bool
    changes: Mapping[str, str]
    rows: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Backup:
    """What a backup says of itself."""

    contents: Contents
    sha256: str


def pack(dump: Path, contents: Contents, file: Path, key: str = "") -> Backup:
    """Make the file of a dump. One that was there under that name is replaced only by a whole one.
    Raises Unusable, OSError."""
    about = {
        "lauf_backup": _FORMAT,
        "made_at": contents.made_at.isoformat(timespec="seconds"),
        "school": contents.school,
        "demo": contents.demo,
        "changes": dict(contents.changes),
        "rows": dict(contents.rows),
        "sha256": _digest(dump),
    }
    with tempfile.TemporaryDirectory(dir=file.parent, prefix=".lauf-backup-") as room:
        whole = Path(room) / "whole.zip"
        with zipfile.ZipFile(whole, "w") as archive:
            archive.writestr("backup.json", json.dumps(about, indent=1))
            archive.write(dump, "database.dump")
        if key:
            whole = _sealed(whole, key)
        whole.chmod(0o600)
        with unpacked(whole, key) as (backup, _):
            whole.replace(file)
    return backup


def look_at(file: Path, key: str = "") -> Backup:
    """What a backup says of itself. Raises Unusable for a file that is none or is damaged."""
    with unpacked(file, key) as (backup, _):
        return backup


@contextmanager
def unpacked(file: Path, key: str = "") -> Iterator[tuple[Backup, Path]]:
    """What it says of itself, and its dump as a file, which is what it was when it was made."""
    none = Unusable(f"{file} is no backup of Lauf.")
    if not file.is_file():
        raise Unusable(f"There is no file {file}.")
    with tempfile.TemporaryDirectory(prefix="lauf-backup-") as folder:
        room = Path(folder)
        try:
            archive = zipfile.ZipFile(_opened(file, key, room))
        except (zipfile.BadZipFile, OSError) as error:
            raise none from error
        with archive:
            if set(archive.namelist()) != _PARTS:
                raise none
            dump = room / "database.dump"
            try:
                backup = _read(json.loads(archive.read("backup.json")), none)
                with archive.open("database.dump") as packed, dump.open("wb") as plain:
                    digest = _copied(packed, plain)
            except (zipfile.BadZipFile, ValueError, EOFError) as error:
                raise Unusable(f"{file} is damaged: use another backup.") from error
            if digest != backup.sha256:
                raise Unusable(
                    f"{file} is damaged: it is not what was backed up. Use another backup."
                )
            yield backup, dump


def _sealed(plain: Path, key: str) -> Path:
    from pyrage import encrypt_file
    from pyrage.x25519 import Identity

    try:
        identity = Identity.from_str(key)
    except Exception as error:
        raise Unusable("The backups' key is none: make one with lauf backup-key.") from error
    sealed = plain.with_suffix(".age")
    encrypt_file(str(plain), str(sealed), [identity.to_public()])
    return sealed


def _opened(file: Path, key: str, room: Path) -> Path:
    """The zip of a backup, decrypted where it is encrypted."""
    with file.open("rb") as opened:
        if opened.read(len(_SEALED)) != _SEALED:
            return file
    if not key:
        raise Unusable(f"{file} is encrypted: set LAUF_BACKUP_KEY to the key it was made with.")
    from pyrage import DecryptError, decrypt_file
    from pyrage.x25519 import Identity

    plain = room / "whole.zip"
    try:
        decrypt_file(str(file), str(plain), [Identity.from_str(key)])
    except (DecryptError, OSError) as error:
        words = f"{file} was made with another key than LAUF_BACKUP_KEY, or is damaged."
        raise Unusable(words) from error
    return plain


def _read(about: Any, none: Unusable) -> Backup:
    if not isinstance(about, dict) or "lauf_backup" not in about:
        raise none
    if about["lauf_backup"] != _FORMAT:
        raise Unusable("This backup was made by a newer Lauf than this one: use that one.")
    try:
        contents = Contents(
            datetime.fromisoformat(about["made_at"]),
            str(about["school"]),
            bool(about["demo"]),
            {str(part): str(last) for part, last in about["changes"].items()},
            # Older ones were not counted.
            {str(table): int(rows) for table, rows in about.get("rows", {}).items()},
        )
        return Backup(contents, about["sha256"])
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
