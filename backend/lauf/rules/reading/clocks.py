"""What a clock showed at a moment, from where it was started and when it stood."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from enum import StrEnum
from typing import Final

#: Moments and days that are kept lie between these: every calendar and clock can count with them.
EARLIEST: Final = datetime(2000, 1, 1, tzinfo=UTC)
LATEST: Final = datetime(2099, 12, 31, tzinfo=UTC)
#: A hand on a stopwatch and a hand on a tablet differ by this much.
CLOCK_SLACK_MS: Final = 1_000


def can_be_counted_with(moment: datetime) -> bool:
    """Whether a moment may be compared and turned to other time zones: only its year is looked at,
    as it is said."""
    return EARLIEST.year <= moment.year < LATEST.year


def device_moment(device_time: datetime, now: datetime) -> tuple[datetime, bool]:
    """When something happened by what a device says, and whether that can be: a device whose clock
    was never set says 1970 or the like, and then it happened now."""
    return (device_time, True) if can_be_counted_with(device_time) else (now, False)


class Way(StrEnum):
    """What a clock is of: a wave of everybody, or a way of taking scores that has its own."""

    WAVE = "wave"
    TAPS = "taps"
    TALLY = "tally"
    BEEPS = "beeps"
    TARGET = "target"


class Wall(StrEnum):
    """What the projector may show of a lesson."""

    CLOCK = "clock"
    NAMES = "names"
    SCORES = "scores"
    # How helpers come in.
    CODE = "code"


#: A moment of the clock's wall time, or a stretch of it: milliseconds since 1970.
Pause = tuple[int, int]


def shown_at(
    moment_ms: int,
    anchor_ms: int,
    pauses: Sequence[Pause] = (),
    paused_ms: int | None = None,
    go_ms: int = 0,
) -> int:
    """Milliseconds of effort that a clock had shown at a moment; nought before its start.

    anchor_ms   as it stands now: the start, moved on by every pause that is over
    pauses      those that are over, apart from each other, in order
    paused_ms   what it shows while it stands now, or None
    go_ms       how much of it is get ready

    >>> shown_at(10_000, anchor_ms=3_000, pauses=[(4_000, 6_000)])
    7000
    >>> shown_at(5_000, anchor_ms=3_000, pauses=[(4_000, 6_000)])
    3000
    """
    begun = anchor_ms - sum(end - start for start, end in pauses)
    stood = sum(max(0, min(end, moment_ms) - start) for start, end in pauses if start < moment_ms)
    shown = moment_ms - begun - stood
    if paused_ms is not None:
        shown = min(shown, paused_ms)
    return max(0, shown - go_ms)
