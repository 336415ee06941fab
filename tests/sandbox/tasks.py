"""What runs in the process for the tests of its bounds."""

from __future__ import annotations

import os
import sys
from pathlib import Path


def endless(_: bytes) -> None:
    while True:
        pass


def greedy(_: bytes) -> int:
    return len([bytes(1_000_000) for _ in range(100_000)])


def talkative(_: bytes) -> str:
    return "x" * 30_000_000


def ended(_: bytes) -> None:
    os.abort()


def curious(_: bytes) -> dict[str, object]:
    """What a reader that was taken over would find."""
    return {
        "environment": sorted(os.environ),
        "django": any(name.startswith("django") for name in sys.modules),
        "files": len([*Path("/proc/self/fd").iterdir()]),
    }
