"""What a process has to do with the one that started it. Linux only."""

from __future__ import annotations

import ctypes
import signal
from typing import Final

_PR_SET_PDEATHSIG: Final = 1


def end_with_parent(how: signal.Signals = signal.SIGKILL) -> None:
    """Have the kernel send this process a signal when its parent is gone, however that came."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, how)
