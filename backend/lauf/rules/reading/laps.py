"""Laps, courses and the mile. Lengths in millimetres, times in milliseconds, exact."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Final

from lauf.messages import say
from lauf.rules.reading.quantities import MILLIMETRES

MILE_MM: Final = MILLIMETRES["mile"]
KM_MM: Final = 1_000_000
#: A big step of a child, where nothing was measured (common practice).
DEFAULT_STEP_MM: Final = 1000
#: Halves closer than this share of the whole count as even (our choice).
EVEN_SHARE: Final = Fraction(1, 50)
#: A bit at the end of up to this share of a lap is run on with the last lap (our choice).
SHORT_BIT: Final = Fraction(1, 10)


def step_length(known_mm: int, steps: Fraction | int) -> Fraction:
    """Length of one step from counting steps over a known distance. Raises ValueError for none."""
    if steps <= 0 or known_mm <= 0:
        raise ValueError(say("Count at least one step over a distance."))
    return Fraction(known_mm) / Fraction(steps)


@dataclass(frozen=True, slots=True)
class LapPlan:
    """How a distance fits a course.

    exact      laps, exact
    whole      laps to run when only whole laps are run: rounded up
    beyond_mm  how much further than the distance those whole laps are
    finish_mm  where on the last lap the exact distance ends, from the start line; 0 is the line
    """

    exact: Fraction
    whole: int
    beyond_mm: Fraction
    finish_mm: Fraction


def plan_laps(distance_mm: Fraction | int, lap_mm: Fraction | int) -> LapPlan:
    """Laps for a distance. Raises ValueError for a distance or a lap of nothing."""
    if distance_mm <= 0 or lap_mm <= 0:
        raise ValueError(say("A distance and a lap must be above zero."))
    exact = Fraction(distance_mm) / Fraction(lap_mm)
    whole = math.ceil(exact)
    return LapPlan(
        exact, whole, whole * Fraction(lap_mm) - distance_mm, Fraction(distance_mm) % lap_mm
    )


def distance(laps: Fraction | int, lap_mm: Fraction | int, beyond_mm: int = 0) -> Fraction:
    """Millimetres in laps, part laps and what is beyond."""
    return Fraction(laps) * Fraction(lap_mm) + beyond_mm


def pace(time_ms: int, distance_mm: Fraction | int, per_mm: Fraction | int) -> Fraction:
    """Milliseconds per so many millimetres (a kilometre, a mile). Raises ValueError for no
    distance."""
    if distance_mm <= 0:
        raise ValueError(say("A pace needs a distance."))
    return Fraction(time_ms) * per_mm / Fraction(distance_mm)


@dataclass(frozen=True, slots=True)
class Splits:
    """What the times at the end of each lap say.

    laps        the time of each lap
    halves      time of the first and of the second half of the distance run
    words       "even", "faster second half", "slower second half"
    projected   finish time at the average pace so far, when some of the distance is still to run
    """

    laps: tuple[int, ...]
    halves: tuple[Fraction, Fraction]
    words: str
    projected: Fraction | None


def read_splits(
    ends_ms: Sequence[int],
    lap_mm: Fraction | int = 1,
    distance_mm: Fraction | int | None = None,
) -> Splits:
    """Lap times, halves and projected finish from the clock at the end of each lap. Raises
    ValueError for none or times that do not rise.

    distance_mm   the distance to be run: its last lap may be a part, which counts as its metres

    Halves are of the true distance; the lap that the middle falls into is shared out by its metres.
    """
    if not ends_ms:
        raise ValueError(say("no lap times"))
    laps = [end - before for before, end in zip((0, *ends_ms), ends_ms, strict=False)]
    if min(laps) <= 0:
        raise ValueError(say("each lap ends later than the one before"))
    lap = Fraction(lap_mm)
    lengths = [lap] * len(laps)
    whole = Fraction(len(laps)) * lap if distance_mm is None else Fraction(distance_mm)
    last = whole - (len(laps) - 1) * lap
    if 0 < last <= lap * (1 + SHORT_BIT):
        lengths[-1] = last
    run = sum(lengths, Fraction(0))
    first = _time_at(run / 2, laps, lengths)
    second = ends_ms[-1] - first
    if abs(second - first) <= EVEN_SHARE * ends_ms[-1]:
        words = "even"
    else:
        words = say("faster second half") if second < first else say("slower second half")
    projected = ends_ms[-1] * whole / run if whole > run else None
    return Splits(tuple(laps), (first, second), words, projected)


def _time_at(place: Fraction, laps: Sequence[int], lengths: Sequence[Fraction]) -> Fraction:
    """The clock at a place of the run, each lap at its own even pace."""
    clock = Fraction(0)
    for time, length in zip(laps, lengths, strict=True):
        if place <= length:
            return clock + time * place / length
        clock, place = clock + time, place - length
    return clock
