"""Unpacking a data package into a folder: in a process of its own (`lauf.sandbox`), without
Django."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from pathlib import Path
from typing import Final

from lauf.errors import Refused
from lauf.plain_json import JsonObject
from lauf.sandbox.bounds import Bounds

#: Grows when a package of before could no longer be read.
FORMAT: Final = 1
NONE: Final = "This is no school from a Lauf: choose the zip that “the whole school” was saved as."
#: Files of a package, bytes of all of them, and of what says what they are.
MOST_MEMBERS: Final = 200
MOST: Final = 400_000_000
_MOST_ABOUT: Final = 4_000_000
_PIECE: Final = 1 << 20
#: A school of many years may have a large table.
BOUNDS: Final = Bounds(cpu=60, wall=120.0, written=MOST)


def unpack(data: bytes, *, folder: str) -> list[str]:
    """Write each file that the package describes into a folder, under its place in the answer
    ("0", "1", …), and check that it is what was saved: their paths. Raises Refused."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            members = archive.infolist()
            if len(members) > MOST_MEMBERS:
                raise Refused(f"A school's package has at most {MOST_MEMBERS} files.")
            if sum(one.file_size for one in members) > MOST:
                raise Refused(f"A school's package unpacks to at most {MOST // 1_000_000} MB.")
            about = _about(archive)
            said = {str(one["path"]): str(one["hash"]) for one in about["resources"]}
            for place, path in enumerate(said):
                if _copied(archive, path, Path(folder) / str(place)) != said[path]:
                    raise Refused(f"{path} was changed after it was saved: nothing was kept.")
    except (zipfile.BadZipFile, KeyError, ValueError, TypeError, AttributeError,
            NotImplementedError, RuntimeError, EOFError) as error:  # fmt: skip
        raise Refused(NONE) from error
    return list(said)


def _about(archive: zipfile.ZipFile) -> JsonObject:
    if archive.getinfo("datapackage.json").file_size > _MOST_ABOUT:
        raise Refused(NONE)
    about = dict(json.loads(archive.read("datapackage.json")))
    if about.get("lauf_format") is None:
        raise Refused(NONE)
    if about["lauf_format"] > FORMAT:
        raise Refused("This school was saved by a newer Lauf than this one: use that one.")
    return about


def _copied(archive: zipfile.ZipFile, path: str, to: Path) -> str:
    digest = hashlib.sha256()
    with archive.open(path) as packed, to.open("wb") as plain:
        while piece := packed.read(_PIECE):
            digest.update(piece)
            plain.write(piece)
    return f"sha256:{digest.hexdigest()}"
