"""Change and progress: typical error, the day-to-day band, verdicts and bests."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from statistics import stdev
from typing import Final

from lauf.rules.quantities import Better, Measure, format_difference

#: Pairs of attempts further apart than this say something about growth, not about noise.
PAIR_WINDOW: Final = timedelta(days=14)
PAIRS_NEEDED: Final = 10


@dataclass(frozen=True, slots=True)
class TypicalError:
    """Day-to-day variation of a test, in canonical units.

    pairs is the number of pairs it was computed from; 0 means the protocol's own default.
    """

    value: float
    pairs: int = 0

    @property
    def source(self) -> str:
        if self.pairs:
            return f"from {self.pairs} repeat tests in this school"
        return "a starting value: fewer than 10 repeat tests in this school"


def typical_error(differences: Sequence[float], default: float) -> TypicalError:
    """SD of paired differences / √2 (Hopkins 2000, Sports Med 30:1–15), from 10 pairs or more.

    >>> typical_error([1.0, 2.0], default=2.5)
    TypicalError(value=2.5, pairs=0)
    """
    if len(differences) < PAIRS_NEEDED:
        return TypicalError(default)
    return TypicalError(stdev(differences) / math.sqrt(2), len(differences))


def pair_differences(series: Iterable[Sequence[tuple[date, int]]]) -> list[int]:
    """Later minus earlier of neighbouring attempts of one child within the window.

    `series` holds one sequence a child and key, oldest first. No attempt is used in two pairs,
    so that the differences are independent.
    """
    differences: list[int] = []
    for attempts in series:
        index = 1
        while index < len(attempts):
            (earlier_day, earlier), (day, value) = attempts[index - 1], attempts[index]
            if day - earlier_day <= PAIR_WINDOW:
                differences.append(value - earlier)
                index += 1
            index += 1
    return differences


def smallest_change(error: float) -> float:
    """MDC90 = 1.645·√2·TE (Weir 2005, J Strength Cond Res 19:231–240), canonical units."""
    return 1.645 * math.sqrt(2) * error


def band_steps(mdc90: float, resolution: int) -> int:
    """The largest change that is still steady: what "within ±n" shows, in canonical units."""
    return max(0, math.ceil(mdc90 / resolution - 1e-9) - 1) * resolution


class Verdict(StrEnum):
    """What a score says beside an earlier one."""

    FIRST = "first"
    BETTER = "better"
    STEADY = "steady"
    LOWER = "lower"
    AT_THE_TOP = "at_the_top"
    REACHED_THE_TOP = "reached_the_top"
    MOVED_UP = "moved_up"
    NOT_COMPARABLE = "not_comparable"


@dataclass(frozen=True, slots=True)
class Change:
    """A verdict, the signed change in the better direction, and the day-to-day band (MDC90)."""

    verdict: Verdict
    gain: int = 0
    band: float = 0.0


def compare(value: int, earlier: int | None, measure: Measure, mdc90: float) -> Change:
    """Compare a score with an earlier one under the same key.

    The cap is the top only where higher is better. With `earlier` None it is a first score.
    """
    if earlier is None:
        return Change(Verdict.FIRST, band=mdc90)
    gain = (value - earlier) * measure.better.sign
    if measure.cap is not None and measure.better is Better.UP and value >= measure.cap:
        top = Verdict.AT_THE_TOP if earlier >= measure.cap else Verdict.REACHED_THE_TOP
        return Change(top, gain, mdc90)
    if gain == 0 or abs(gain) < mdc90:
        return Change(Verdict.STEADY, gain, mdc90)
    return Change(Verdict.BETTER if gain > 0 else Verdict.LOWER, gain, mdc90)


def verdict_words(change: Change, measure: Measure) -> str:
    """The verdict in short, kind words: "better, +6", "steady, within ±3", "first score"."""
    amount = format_difference(abs(change.gain), measure)
    steps = band_steps(change.band, measure.resolution)
    band = format_difference(steps, measure)
    match change.verdict:
        case Verdict.FIRST:
            return "first score"
        case Verdict.BETTER:
            sign = "+" if measure.better is Better.UP else "−"
            return f"better, {sign}{amount}"
        case Verdict.LOWER:
            sign = "−" if measure.better is Better.UP else "+"
            return f"lower than last time, {sign}{amount}"
        case Verdict.STEADY:
            return f"steady, within ±{band}" if steps else "the same as last time"
        case Verdict.AT_THE_TOP:
            return "at the top of this test: it cannot show more"
        case Verdict.REACHED_THE_TOP:
            return f"reached the top, at least +{amount}"
        case Verdict.MOVED_UP:
            return "moved up a variant"
        case Verdict.NOT_COMPARABLE:
            return "not compared"


def personal_best(values: Iterable[tuple[int, bool]], better: Better) -> int | None:
    """The best of (value, estimate) pairs under one key; estimates never win. None without one."""
    measured = [value for value, estimate in values if not estimate]
    if not measured:
        return None
    return max(measured) if better is Better.UP else min(measured)
