"""What reading one file may take, and what is said where it takes more."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from lauf.errors import Refused
from lauf.messages import say

_MB: Final = 1_000_000


class Exceeded(Refused):
    """A file takes more than a bound; the message says which, and what to do."""


@dataclass(frozen=True, slots=True)
class Bounds:
    """Of one process that reads one file.

    memory   bytes of address space (RLIMIT_AS)
    cpu      seconds of the processor (RLIMIT_CPU)
    wall     seconds by the clock, from its start
    written  bytes of a file it writes: its answer, or a part of a package (RLIMIT_FSIZE)
    """

    memory: int = 512 * _MB
    cpu: int = 10
    wall: float = 30.0
    written: int = 40 * _MB

    def exceeded(self, what: str) -> Exceeded:
        """What is said of "memory", "seconds" or "written"."""
        named = {
            "memory": say("more than {memory} MB of memory", memory=self.memory // _MB),
            "seconds": say("more than {cpu} seconds", cpu=self.cpu),
            "written": say("more than {written} MB of text", written=self.written // _MB),
        }
        return Exceeded(
            say(
                "Reading this file would take {named}. Save only the list as CSV and choose that.",
                named=named[what],
            )
        )


USUAL: Final = Bounds()
