"""A browser that trusts an authority, as a tablet on which its certificate was installed."""

from __future__ import annotations

import os
import subprocess
from pathlib import Path

from tests.support.served import CHROMIUM, CHROMIUM_FLAGS
from tests.support.waits import LIMIT_S

#: Milliseconds of the page's own time: as much as its scripts and questions need.
_SETTLED_MS = 20_000


def page_of(address: str, home: Path, authority: Path | None, *more: str) -> str:
    """What a browser shows there, as HTML; with a home folder of its own."""
    store = home / ".pki" / "nssdb"
    store.mkdir(parents=True, exist_ok=True)
    at = f"sql:{store}"
    _run("certutil", "-N", "-d", at, "--empty-password")
    if authority is not None:
        _run("certutil", "-A", "-d", at, "-n", "lauf", "-t", "C,,", "-i", str(authority))
    done = subprocess.run(
        [CHROMIUM, *CHROMIUM_FLAGS, *more, f"--user-data-dir={home / 'browser'}",
         f"--virtual-time-budget={_SETTLED_MS}", "--dump-dom", address],
        env={**os.environ, "HOME": str(home)}, capture_output=True, text=True, timeout=LIMIT_S,
    )  # fmt: skip
    return done.stdout


def _run(*command: str) -> None:
    subprocess.run(command, check=True, capture_output=True)
