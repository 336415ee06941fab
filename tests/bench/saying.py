"""What a bench prints, at once and in the same words everywhere."""

from __future__ import annotations

import sys
from collections.abc import Sequence

import numpy as np


def said(words: str) -> None:
    """Printed now, not when the bench ends."""
    sys.stdout.write(f"{words}\n")
    sys.stdout.flush()


def spread(seconds: Sequence[float]) -> str:
    """The 50th, 95th and 99th percentile in milliseconds."""
    low, high, most = (1000 * np.percentile(seconds, [50, 95, 99])).round()
    return f"{low:.0f}, {high:.0f}, {most:.0f} ms"
