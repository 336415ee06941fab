"""A class as a whole, and one child over many weeks."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean, median, quantiles, stdev
from typing import Final

from lauf.rules.change import Change, Verdict
from lauf.rules.quantities import Better, Measure

#: Share of a class at an end of a test from which it does not fit (Terwee et al. 2007, J Clin
#: Epidemiol 60:34–42).
MISFIT_SHARE: Final = 0.15
#: A trend needs this many attempts.
TREND_NEEDED: Final = 4


@dataclass(frozen=True, slots=True)
class ClassSummary:
    """A class in one test: canonical units; shares between 0 and 1; None where too few."""

    n: int
    median: float | None = None
    lower_quartile: float | None = None
    upper_quartile: float | None = None
    better: int = 0
    steady: int = 0
    lower: int = 0
    mean_change: float | None = None
    change_interval: tuple[float, float] | None = None
    at_cap: float | None = None
    at_zero: float | None = None

    @property
    def misfit(self) -> str | None:
        """Why the test does not fit the class, or None."""
        if self.at_cap is not None and self.at_cap >= MISFIT_SHARE:
            return f"{self.at_cap:.0%} are at the test's maximum: too easy to show change"
        if self.at_zero is not None and self.at_zero >= MISFIT_SHARE:
            return f"{self.at_zero:.0%} are at nought: too hard to show change"
        return None


def summarise_class(
    values: Sequence[int], changes: Sequence[Change], measure: Measure
) -> ClassSummary:
    """n, median, quartiles (inclusive method), verdict counts, mean paired change with its 90 %
    t-interval, and the shares at the cap and at zero.

    changes   one a child that has an earlier score; only compared ones count
    """
    if not values:
        return ClassSummary(0)
    low, high = (
        (
            quantiles(values, n=4, method="inclusive")[0],
            quantiles(values, n=4, method="inclusive")[2],
        )
        if len(values) > 1
        else (float(values[0]), float(values[0]))
    )
    up = (Verdict.BETTER, Verdict.REACHED_THE_TOP, Verdict.MOVED_UP)
    compared = [c for c in changes if c.verdict in
                (Verdict.BETTER, Verdict.STEADY, Verdict.LOWER, Verdict.REACHED_THE_TOP,
                 Verdict.AT_THE_TOP)]  # fmt: skip
    gains = [c.gain for c in compared]
    return ClassSummary(
        n=len(values),
        median=median(values),
        lower_quartile=low,
        upper_quartile=high,
        better=sum(1 for c in changes if c.verdict in up),
        steady=sum(1 for c in changes if c.verdict in (Verdict.STEADY, Verdict.AT_THE_TOP)),
        lower=sum(1 for c in changes if c.verdict is Verdict.LOWER),
        mean_change=fmean(gains) if gains else None,
        change_interval=mean_interval(gains),
        at_cap=_share(values, measure.cap) if measure.better is Better.UP else None,
        at_zero=_share(values, 0) if measure.better is Better.UP else None,
    )


def _share(values: Sequence[int], end: int | None) -> float | None:
    return None if end is None else sum(1 for value in values if value == end) / len(values)


#: t at 95 % one-sided for 1 … 30 degrees of freedom (Student's t table; checked against SciPy).
_T95: Final = (
    6.314, 2.920, 2.353, 2.132, 2.015, 1.943, 1.895, 1.860, 1.833, 1.812,
    1.796, 1.782, 1.771, 1.761, 1.753, 1.746, 1.740, 1.734, 1.729, 1.725,
    1.721, 1.717, 1.714, 1.711, 1.708, 1.706, 1.703, 1.701, 1.699, 1.697,
)  # fmt: skip


def mean_interval(gains: Sequence[float]) -> tuple[float, float] | None:
    """90 % t-interval of a mean, None for fewer than two. Beyond 30 degrees of freedom t is taken
    from Fisher's expansion in 1/df (Fisher & Cornish 1960), exact to three places there."""
    if len(gains) < 2:
        return None
    free = len(gains) - 1
    if free <= len(_T95):
        t = _T95[free - 1]
    else:
        z = 1.6448536269514722
        t = z + (z**3 + z) / (4 * free) + (5 * z**5 + 16 * z**3 + 3 * z) / (96 * free**2)
    middle, half = fmean(gains), t * stdev(gains) / math.sqrt(len(gains))
    return middle - half, middle + half


@dataclass(frozen=True, slots=True)
class Trend:
    """Theil–Sen slope in canonical units a week and Kendall's tau-b."""

    slope: float
    tau: float


def trend(points: Sequence[tuple[int, float]]) -> Trend | None:
    """Trend of (day number, value): the median of all slopes (Theil 1950; Sen 1968, J Am Stat
    Assoc 63:1379–1389) and Kendall's tau-b. None for fewer than four attempts or one day only."""
    if len(points) < TREND_NEEDED or len({day for day, _ in points}) < 2:
        return None
    slopes = []
    concordance = ties_day = ties_value = 0
    for index, (day, value) in enumerate(points):
        for other_day, other in points[:index]:
            if day != other_day:
                slopes.append((value - other) / (day - other_day))
            ties_day += day == other_day
            ties_value += value == other
            product = (day - other_day) * (value - other)
            concordance += (product > 0) - (product < 0)
    pairs = len(points) * (len(points) - 1) // 2
    spread = math.sqrt((pairs - ties_day) * (pairs - ties_value))
    return Trend(median(slopes) * 7, concordance / spread if spread else 0.0)


def next_target(best: int, next_rung: int | None, mdc90: float, measure: Measure) -> int | None:
    """The smaller step of the next rung's threshold and own best + max(1 step, MDC90/2), never
    beyond the cap. None at the top: offer the harder variant."""
    sign = measure.better.sign
    if measure.cap is not None and measure.better is Better.UP and best >= measure.cap:
        return None
    steps = max(1, math.ceil(mdc90 / 2 / measure.resolution - 1e-9))
    own = best + sign * steps * measure.resolution
    targets = [own] if next_rung is None or (next_rung - best) * sign <= 0 else [own, next_rung]
    target = min(targets, key=lambda value: (value - best) * sign)
    if measure.better is Better.UP:
        return min(target, measure.ceiling)
    return max(target, measure.lowest)
