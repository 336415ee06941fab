"""From what is to be done to cues with exact times.

Times are whole milliseconds from the start of the timeline. The browser plays these cues;
it never works out one of its own.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from typing import Final

#: Seconds of "get ready" before the count, long enough to find a place on the floor.
GET_READY: Final = 10
_COUNT: Final = (3, 2, 1)
_LAST: Final = (5, 4, 3, 2, 1)


class CueKind(StrEnum):
    """What the clock does at a cue."""

    GET_READY = "get_ready"
    COUNT = "count"
    GO = "go"
    HALF_WAY = "half_way"
    LAST = "last"
    STOP = "stop"


@dataclass(frozen=True, slots=True)
class Cue:
    """One thing to say, show and sound at `at_ms` from the start."""

    at_ms: int
    kind: CueKind
    say: str


@dataclass(frozen=True, slots=True)
class Wave:
    """The cues of one timed wave, in order; ends with its stop at `total_ms`."""

    cues: tuple[Cue, ...]
    go_ms: int
    total_ms: int


def timed_wave(seconds: int, get_ready: int = GET_READY) -> Wave:
    """Cues for one wave of `seconds` of work: get ready, 3-2-1, go, half-way, last five, stop.

    Half-way is left out under 12 s, where it would crowd the last five. Raises ValueError for
    less than one second of work or less than the three of the count.
    """
    if seconds < 1:
        raise ValueError("a wave lasts at least one second")
    if get_ready < len(_COUNT):
        raise ValueError("get ready lasts at least the three seconds of the count")
    return Wave(tuple(_cues(seconds, get_ready)), get_ready * 1000, (get_ready + seconds) * 1000)


def _cues(seconds: int, get_ready: int) -> Iterator[Cue]:
    if get_ready > len(_COUNT):
        yield Cue(0, CueKind.GET_READY, "Get ready")
    for left in _COUNT:
        yield Cue((get_ready - left) * 1000, CueKind.COUNT, str(left))
    go = get_ready * 1000
    yield Cue(go, CueKind.GO, "Go")
    if seconds >= 12:
        yield Cue(go + seconds * 500, CueKind.HALF_WAY, "Half-way")
    for left in _LAST:
        if left < seconds:
            yield Cue(go + (seconds - left) * 1000, CueKind.LAST, str(left))
    yield Cue(go + seconds * 1000, CueKind.STOP, "Stop")
