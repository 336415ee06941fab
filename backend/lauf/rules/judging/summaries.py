"""A class as a whole in one test."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from statistics import fmean, median, quantiles, stdev
from typing import Final

from lauf.messages import say
from lauf.rules.judging.change import Change, Verdict
from lauf.rules.reading.kinds import format_difference, format_value
from lauf.rules.reading.quantities import Kind, Measure, decimal, to_step
from lauf.rules.reading.rounding import percent, whole

#: Share of a class at an end of a test from which it does not fit (Terwee et al. 2007, J Clin
#: Epidemiol 60:34–42).
MISFIT_SHARE: Final = 0.15
#: Fewer children than this are told together with their neighbours (the usual threshold of
#: statistical disclosure control, common practice).
FEWEST_TOLD: Final = 5
#: One child in ten who has not changed gets an arrow by chance: the bands are of 90 %.
CHANCE: Final = Fraction(1, 10)


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
    at_top: float | None = None
    at_floor: float | None = None
    compared: int = 0

    @property
    def misfit(self) -> str | None:
        """Why the test does not fit the class, or None."""
        if self.at_top is not None and self.at_top >= MISFIT_SHARE:
            return say(
                "{at_top} are at the maximum, so the test is too easy to show change",
                at_top=percent(self.at_top),
            )
        if self.at_floor is not None and self.at_floor >= MISFIT_SHARE:
            return say(
                "{at_floor} are at zero, so the test is too hard to show change",
                at_floor=percent(self.at_floor),
            )
        return None

    @property
    def chance_arrows(self) -> Fraction:
        """How many of those compared chance alone would call better or lower."""
        return CHANCE * self.compared

    @property
    def chance_shown(self) -> int:
        """The same as it is said: none where nothing was compared, else at least one."""
        return max(1, whole(self.chance_arrows)) if self.compared else 0


def told_together(counts: Sequence[int]) -> list[tuple[int, int, int]]:
    """Counts in order as (first, last, sum) of neighbours, each sum at least `FEWEST_TOLD`; none at
    all where there are fewer in all."""
    groups: list[tuple[int, int, int]] = []
    first, held = 0, 0
    for place, count in enumerate(counts):
        held += count
        if held >= FEWEST_TOLD:
            groups.append((first, place, held))
            first, held = place + 1, 0
    if groups and first < len(counts):
        begun, _, children = groups.pop()
        groups.append((begun, len(counts) - 1, children + held))
    return groups


def summarise_class(
    values: Sequence[int], changes: Sequence[Change], measure: Measure
) -> ClassSummary:
    """n, median, quartiles (inclusive method), verdict counts, mean paired change with its 90 %
    t-interval, and the shares at the test's end and at a true zero.

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
        at_top=_share(values, measure.top),
        at_floor=_share(values, measure.floor),
        compared=len(compared),
    )


def between_words(exact: float, measure: Measure) -> str:
    """A value between scores, such as a median, in whole steps of the test."""
    return format_value(to_step(Fraction(exact), measure.resolution), measure)


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


#: Counts, of which a few a month are told in tenths.
_IN_TENTHS: Final = (Kind.COUNT, Kind.STAGE, Kind.TOTAL)
#: Decimals of the protocol's step that a mean's words may go down to.
_FINEST: Final = 9


def mean_words(summary: ClassSummary, measure: Measure) -> str | None:
    """The class's mean change in words: "2 cm better (90 %: 0.5 cm to 3.5 cm)", "no different on
    average (…)"; None without a pair. Rounded so that an interval that leaves out nought never
    reads as if it held it, and one that holds it never as if it did not."""
    if summary.mean_change is None:
        return None
    ends = summary.change_interval or ()
    places = _places(ends, measure)
    mean = _rounded(summary.mean_change, places)
    words = say("no different on average")
    if mean:
        words = say(
            "{amount} better" if mean > 0 else "{amount} lower",
            amount=_shown(abs(mean), measure),
        )
    if not ends:
        return words
    low, high = (_rounded(end, places) for end in ends)
    return say(
        "{words} (90 %: {low} to {high})",
        words=words,
        low=_signed(low, measure),
        high=_signed(high, measure),
    )


def signed_words(amounts: Sequence[float], measure: Measure) -> list[str]:
    """Amounts of change beside each other, with their signs, in the child's units: none that is
    more than nothing reads as nought."""
    places = _places(amounts, measure)
    return [_signed(_rounded(one, places), measure) for one in amounts]


def amount_words(amount: float, measure: Measure) -> str:
    """An amount of change in the child's units, in tenths of a step where it is a few steps: "4.6",
    "12 s", "0.3 s"."""
    step = Fraction(measure.resolution)
    if measure.kind in _IN_TENTHS and abs(amount) < 10 * step:
        step /= 10
    while amount and _rounded(amount, step) == 0 and step > Fraction(measure.resolution, 10**6):
        step /= 10
    return _shown(abs(_rounded(amount, step)), measure)


def _places(amounts: Sequence[float], measure: Measure) -> Fraction:
    """The step that amounts beside each other are rounded to: the protocol's own, or as many tenths
    of it as it takes for the words to say on which side of nought each lies."""
    step = Fraction(measure.resolution)
    for _ in range(_FINEST):
        if all(_rounded(one, step) != 0 for one in amounts if one):
            break
        step /= 10
    return step


def _rounded(amount: float, step: Fraction) -> Fraction:
    return Fraction(to_step(Fraction(amount) / step, 1)) * step


def _signed(amount: Fraction, measure: Measure) -> str:
    return ("−" if amount < 0 else "+" if amount > 0 else "") + _shown(abs(amount), measure)


def _shown(amount: Fraction, measure: Measure) -> str:
    """An amount that may be a part of the canonical unit, in the child's units."""
    if amount.denominator == 1:
        return format_difference(int(amount), measure)
    scale = 10**_FINEST
    number, _, unit = format_difference(int(amount * scale), measure).partition(" ")
    return f"{decimal(Fraction(number) / scale, 3 + _FINEST)} {unit}".strip()
