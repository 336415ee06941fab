"""What may be signalled: processes that are proved to be ours. Linux only, from /proc."""

from __future__ import annotations

import ctypes
import os
import signal
from pathlib import Path

_PR_SET_PDEATHSIG = 1


def postgres_on(data: Path) -> list[int]:
    """The ids of every PostgreSQL process that works in a data folder: a server never leaves it.
    Those of other users are not seen, unless one is root."""
    found = []
    place = os.path.realpath(data)
    for entry in Path("/proc").iterdir():
        if not entry.name.isdigit():
            continue
        try:
            program = os.readlink(entry / "exe").removesuffix(" (deleted)")
            if os.path.basename(program) == "postgres" and os.readlink(entry / "cwd") == place:
                found.append(int(entry.name))
        except OSError:
            continue  # gone meanwhile, or somebody else's
    return found


def end_with_parent() -> None:
    """For a child just before it begins: it is told to stop when who started it is gone, however
    that came about."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)
