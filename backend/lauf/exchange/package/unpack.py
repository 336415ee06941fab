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
from lauf.messages import say
from lauf.plain_json import JsonObject
from lauf.sandbox.bounds import Bounds

#: Grows when a package of before could no longer be read.
FORMAT: Final = 1
#: Says of a package that it holds what lets people in, too.
MOVING: Final = "lauf_moving"
NONE: Final = say("This is not a school saved by Lauf. Choose the zip file of the whole school.")
_MOVES: Final = say(
    "This file moves a school to another Lauf. Ask the person who runs that server."
)
#: Files of a package, bytes of all of them, and of what says what they are.
MOST_MEMBERS: Final = 200
MOST: Final = 400_000_000
_MOST_ABOUT: Final = 4_000_000
_PIECE: Final = 1 << 20
#: A school of many years may have a large table.
BOUNDS: Final = Bounds(cpu=60, wall=120.0, written=MOST)
#: One that is moved by who looks after the machine may have the scores of many.
MOST_MOVED: Final = 100 * MOST
BOUNDS_MOVED: Final = Bounds(cpu=3600, wall=7200.0, written=MOST_MOVED)


def unpack(data: bytes, *, folder: str, moved: bool = False) -> list[str]:
    """Write each file that the package describes into a folder, under its place in the answer
    ("0", "1", …), and check that it is what was saved: their paths. `moved`: a package of a school
    that moves, which is no other's. Raises Refused."""
    most = MOST_MOVED if moved else MOST
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            members = archive.infolist()
            if len(members) > MOST_MEMBERS:
                raise Refused(
                    say(
                        "A saved school can have at most {most_members} files.",
                        most_members=MOST_MEMBERS,
                    )
                )
            if sum(one.file_size for one in members) > most:
                raise Refused(
                    say("A saved school can hold at most {most} MB.", most=most // 1000000)
                )
            about = _about(archive)
            if bool(about.get(MOVING)) != moved:
                raise Refused(NONE if moved else _MOVES)
            hashes = {str(one["path"]): str(one["hash"]) for one in about["resources"]}
            for place, path in enumerate(hashes):
                if _copied(archive, path, Path(folder) / str(place)) != hashes[path]:
                    raise Refused(
                        say(
                            "{path} was changed after it was saved. Nothing was restored.",
                            path=path,
                        )
                    )
    except (zipfile.BadZipFile, KeyError, ValueError, TypeError, AttributeError,
            NotImplementedError, RuntimeError, EOFError) as error:  # fmt: skip
        raise Refused(NONE) from error
    return list(hashes)


def _about(archive: zipfile.ZipFile) -> JsonObject:
    if archive.getinfo("datapackage.json").file_size > _MOST_ABOUT:
        raise Refused(NONE)
    about = dict(json.loads(archive.read("datapackage.json")))
    if about.get("lauf_format") is None:
        raise Refused(NONE)
    if about["lauf_format"] > FORMAT:
        raise Refused(
            say("This school was saved by a newer version of Lauf. Update this Lauf first.")
        )
    return about


def _copied(archive: zipfile.ZipFile, path: str, to: Path) -> str:
    digest = hashlib.sha256()
    with archive.open(path) as packed, to.open("wb") as plain:
        while piece := packed.read(_PIECE):
            digest.update(piece)
            plain.write(piece)
    return f"sha256:{digest.hexdigest()}"
