"""Laps, courses and the mile. Lengths in millimetres, times in milliseconds, exact."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Final

from lauf.rules.quantities import MILLIMETRES

MILE_MM: Final = MILLIMETRES["mile"]
KM_MM: Final = 1_000_000
#: A big step of a child, where nothing was measured (common practice).
DEFAULT_STEP_MM: Final = 1000
#: Halves closer than this share of the whole count as even (our choice).
EVEN_SHARE: Final = Fraction(1, 50)


def step_length(known_mm: int, steps: Fraction | int) -> Fraction:
    """Length of one step from counting steps over a known distance. Raises ValueError for none."""
    if steps <= 0 or known_mm <= 0:
        raise ValueError("count at least one step over a distance")
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
        raise ValueError("a distance and a lap are more than nothing")
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
        raise ValueError("a pace needs a distance")
    return Fraction(time_ms) * per_mm / Fraction(distance_mm)


@dataclass(frozen=True, slots=True)
class Splits:
    """What the times at the end of each lap say.

    laps        the time of each lap
    halves      time of the first and of the second half of the laps, the middle lap shared out
    words       "even", "faster second half", "slower second half"
    projected   finish time at the average pace so far, when laps are still to run
    """

    laps: tuple[int, ...]
    halves: tuple[Fraction, Fraction]
    words: str
    projected: Fraction | None


def read_splits(ends_ms: Sequence[int], total_laps: Fraction | int | None = None) -> Splits:
    """Lap times, halves and projected finish from the clock at the end of each lap. Raises
    ValueError for none or times that do not rise."""
    if not ends_ms:
        raise ValueError("no lap times")
    laps = [end - before for before, end in zip((0, *ends_ms), ends_ms, strict=False)]
    if min(laps) <= 0:
        raise ValueError("each lap ends later than the one before")
    middle, odd = divmod(len(laps), 2)
    first = Fraction(sum(laps[:middle])) + Fraction(laps[middle] if odd else 0, 2)
    second = Fraction(ends_ms[-1]) - first
    if abs(second - first) <= EVEN_SHARE * ends_ms[-1]:
        words = "even"
    else:
        words = "faster second half" if second < first else "slower second half"
    projected = None
    if total_laps is not None and total_laps > len(laps):
        projected = Fraction(ends_ms[-1], len(laps)) * Fraction(total_laps)
    return Splits(tuple(laps), (first, second), words, projected)
