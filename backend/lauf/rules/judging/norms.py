"""Published and own norms: percentile tables, LMS tables, and a school's own records.

Every result says why when there is none: nothing is extrapolated and nothing guessed.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from statistics import NormalDist, median
from typing import Final

from lauf.messages import say, say_many
from lauf.rules.reading.quantities import Better
from lauf.rules.reading.rounding import fixed, whole

_NORMAL: Final = NormalDist()
#: The school's own norm needs this many children, one value each.
OWN_NORM_NEEDED: Final = 20
#: So many for the outermost two.
OUTER_NEEDED: Final = 50
_INTERVAL: Final = 0.9
#: The percentiles a school's own norm is kept at.
OWN_PERCENTILES: Final = (5, 10, 25, 50, 75, 90, 95)


@dataclass(frozen=True, slots=True)
class Standing:
    """Where a score stands: a percentile, or only a band in words; or why neither can be said.

    percentile  of the better direction: 85 means that 85 % did no better
    z           the standard score belonging to it
    words       "about P62", "between the median and the top 15 %", "above P95"
    """

    percentile: float | None = None
    z: float | None = None
    words: str = ""
    why_not: str | None = None


@dataclass(frozen=True, slots=True)
class PercentileTable:
    """Percentiles by sex and age.

    percentiles  ascending in the better direction, in per cent
    rows         (sex, age) -> one score a percentile, in canonical units; sex "" for both
    better       the better direction of the scores
    at_points    True when ages are points to interpolate between; False when an age means a whole
                 year of life (completed years)
    """

    percentiles: tuple[float, ...]
    rows: Mapping[tuple[str, float], tuple[float, ...]]
    better: Better = Better.UP
    at_points: bool = False

    def standing(self, value: float, age: float | None, sex: str) -> Standing:
        """A score's standing among those of its age (decimal years) and sex. With three or more
        percentiles it is interpolated linearly in the normal score; with two only bands."""
        scores = self.scores_at(age, sex)
        if isinstance(scores, str):
            return Standing(why_not=scores)
        return standing_among(value, self.percentiles, scores, self.better)

    def score_at(self, z: float, age: float | None, sex: str) -> float | None:
        """The score of a standing at an age: `standing` the other way round. None where it lies
        beyond the percentiles, or where there are too few."""
        scores = self.scores_at(age, sex)
        if isinstance(scores, str) or len(scores) < 3:
            return None
        places = [_NORMAL.inv_cdf(one / 100) for one in self.percentiles]
        if not places[0] <= z <= places[-1]:
            return None
        at = min(bisect_right(places, z), len(places) - 1)
        part = (z - places[at - 1]) / (places[at] - places[at - 1])
        return scores[at - 1] + (scores[at] - scores[at - 1]) * part

    def scores_at(self, age: float | None, sex: str) -> tuple[float, ...] | str:
        """The scores of the percentiles at an age, or why there are none."""
        if age is None:
            return say("the norm is by age, and there is no birth date")
        sexes = {known for known, _ in self.rows}
        group = "" if "" in sexes and sex not in sexes else sex
        if group not in sexes:
            return (
                say("the norm is by sex, and no sex is recorded")
                if not sex
                else say("no norm for this sex")
            )
        ages = sorted(known for known_sex, known in self.rows if known_sex == group)
        if not self.at_points:
            whole = math.floor(age)
            found = self.rows.get((group, float(whole)))
            return found if found is not None else say("no norm for age {whole}", whole=whole)
        if not ages[0] <= age <= ages[-1]:
            return say("no norm for age {age}", age=fixed(age, 1))
        after = bisect_right(ages, age)
        if after == len(ages):
            return self.rows[group, ages[-1]]
        young, old = ages[after - 1], ages[after]
        part = (age - young) / (old - young)
        pairs = zip(self.rows[group, young], self.rows[group, old], strict=True)
        return tuple(a + (b - a) * part for a, b in pairs)


def standing_among(
    value: float, percentiles: Sequence[float], scores: Sequence[float], better: Better
) -> Standing:
    """The standing of a score among the scores of ascending percentiles (better direction)."""
    sign = better.sign
    mine, marks = value * sign, [score * sign for score in scores]
    if len(marks) < 3:
        return Standing(words=_band_words(mine, marks, percentiles))
    # A hair beyond the last mark is the mark itself: sums of decimals are off by so much.
    mine = next((mark for mark in (marks[0], marks[-1]) if math.isclose(mine, mark)), mine)
    if mine < marks[0]:
        return Standing(words=say("below P{percentiles}", percentiles=f"{percentiles[0]:g}"))
    if mine > marks[-1]:
        return Standing(words=say("above P{percentiles}", percentiles=f"{percentiles[-1]:g}"))
    # Equal neighbours (a test with few whole scores) count as the middle of those percentiles.
    low = next(i for i, mark in enumerate(marks) if mark >= mine)
    if marks[low] == mine:
        high = max(i for i, mark in enumerate(marks) if mark == mine)
        z = (_NORMAL.inv_cdf(percentiles[low] / 100) + _NORMAL.inv_cdf(percentiles[high] / 100)) / 2
    else:
        below, above = marks[low - 1], marks[low]
        z_below = _NORMAL.inv_cdf(percentiles[low - 1] / 100)
        z_above = _NORMAL.inv_cdf(percentiles[low] / 100)
        z = z_below + (z_above - z_below) * (mine - below) / (above - below)
    percentile = 100 * _NORMAL.cdf(z)
    return Standing(percentile, z, say("about P{percentile}", percentile=whole(percentile)))


def _band_words(mine: float, marks: Sequence[float], percentiles: Sequence[float]) -> str:
    names = [_percentile_words(p) for p in percentiles]
    if mine < marks[0]:
        return say("up to {names}", names=names[0])
    if mine >= marks[-1]:
        return (
            say("in {names}", names=names[-1])
            if len(marks) > 1
            else say("at {names} or better", names=names[0])
        )
    return say("between {names} and {names2}", names=names[0], names2=names[-1])


def _percentile_words(percentile: float) -> str:
    return (
        say("the median")
        if percentile == 50
        else say("the top {value} %", value=f"{100 - percentile:g}")
    )


@dataclass(frozen=True, slots=True)
class LmsRow:
    """L, M, S at one age in years."""

    age: float
    l: float  # noqa: E741 — the method's own letter
    m: float
    s: float


@dataclass(frozen=True, slots=True)
class LmsTable:
    """An LMS table: rows by sex in order of age, in the table's own unit.

    Cole & Green 1992, Statistics in Medicine 11:1305–1319. L, M and S are linear in age.
    """

    rows: Mapping[str, tuple[LmsRow, ...]]

    def at(self, age: float, sex: str) -> LmsRow | str:
        """L, M and S at an age, or why there are none."""
        rows = self.rows.get(sex)
        if not rows:
            return (
                say("the table is by sex, and no sex is recorded")
                if not sex
                else say("no table for this sex")
            )
        if not rows[0].age <= age <= rows[-1].age:
            return say("no norm for age {age}", age=fixed(age, 1))
        after = bisect_right([row.age for row in rows], age)
        if after == len(rows):
            return rows[-1]
        young, old = rows[after - 1], rows[after]
        part = (age - young.age) / (old.age - young.age)
        return LmsRow(
            age,
            young.l + (old.l - young.l) * part,
            young.m + (old.m - young.m) * part,
            young.s + (old.s - young.s) * part,
        )

    def score_at(self, z: float, age: float | None, sex: str) -> float | None:
        """The measurement of a standing at an age, in the table's unit; None without one."""
        row = "" if age is None else self.at(age, sex)
        return None if isinstance(row, str) else lms_score(z, row.l, row.m, row.s)

    def standing(self, value: float, age: float | None, sex: str) -> Standing:
        """The centile of a measurement in the table's unit."""
        if age is None:
            return Standing(why_not=say("the norm is by age, and there is no birth date"))
        row = self.at(age, sex)
        if isinstance(row, str):
            return Standing(why_not=row)
        if value <= 0:
            return Standing(why_not=say("A measurement must be above zero."))
        z = lms_z(value, row.l, row.m, row.s)
        percentile = 100 * _NORMAL.cdf(z)
        if percentile < 0.4:
            return Standing(percentile, z, say("below the 0.4th centile"))
        if percentile > 99.6:
            return Standing(percentile, z, say("above the 99.6th centile"))
        return Standing(
            percentile,
            z,
            say("{value} centile", value=_ordinal(min(99, max(1, whole(percentile))))),
        )


def lms_score(z: float, l: float, m: float, s: float) -> float | None:  # noqa: E741
    """M·(1 + L·S·z)^(1/L), and M·exp(S·z) at L = 0 (Cole & Green 1992); None beyond the curve."""
    if abs(l) < 1e-9:
        return m * math.exp(s * z)
    inner = 1 + l * s * z
    return None if inner <= 0 else float(m * inner ** (1 / l))


def lms_z(value: float, l: float, m: float, s: float) -> float:  # noqa: E741
    """z = ((x/M)^L − 1)/(L·S), and ln(x/M)/S at L = 0 (Cole & Green 1992)."""
    if abs(l) < 1e-9:
        return math.log(value / m) / s
    return float(((value / m) ** l - 1) / (l * s))


_ENDINGS: Final = {1: "st", 2: "nd", 3: "rd"}


def _ordinal(number: int) -> str:
    if number % 100 in (11, 12, 13):
        return f"{number}th"
    return f"{number}{_ENDINGS.get(number % 10, 'th')}"


def own_norm(values: Sequence[Sequence[int]], better: Better) -> tuple[float, ...] | str:
    """A school's own percentiles from its records: one sequence of scores a child, of which the
    median counts. The scores at `OWN_PERCENTILES`, ascending in the better direction; or how many
    children are still missing.

    Linear interpolation between order statistics (type 7 of Hyndman & Fan 1996, Am Stat 50:361).
    """
    children = sorted(median(scores) * better.sign for scores in values if scores)
    if len(children) < OWN_NORM_NEEDED:
        return say(
            "{childs} so far, {own_norm_needed} needed",
            childs=say_many("{n} child", "{n} children", len(children)),
            own_norm_needed=OWN_NORM_NEEDED,
        )
    return tuple(_between(children, percentile) * better.sign for percentile in OWN_PERCENTILES)


def _between(ordered: Sequence[float], percentile: float) -> float:
    place = (len(ordered) - 1) * percentile / 100
    low = math.floor(place)
    high = min(low + 1, len(ordered) - 1)
    return ordered[low] + (ordered[high] - ordered[low]) * (place - low)


def quantile_interval(
    values: Sequence[float], percentile: float, better: Better
) -> tuple[float, float] | None:
    """90 % interval of a percentile from the order statistics of a sample, without any assumption
    about its distribution: the narrowest pair of ranks of which the binomial law says so (Hahn &
    Meeker 1991, Statistical Intervals, 5.2). Where no pair does (P10 of 20 children), 1.645 of its
    standard errors after Maritz & Jarrett 1978 (J Am Stat Assoc 73:194–196) to both sides, as far
    as there are scores. None for fewer than `OWN_NORM_NEEDED`."""
    if len(values) < OWN_NORM_NEEDED:
        return None
    ordered = sorted(value * better.sign for value in values)
    n, share = len(ordered), percentile / 100
    mass = [math.comb(n, k) * share**k * (1 - share) ** (n - k) for k in range(n + 1)]
    found: tuple[int, int] | None = None
    for low in range(n):
        covered = 0.0
        for high in range(low + 1, n):
            covered += mass[high]
            if covered >= _INTERVAL and (found is None or high - low < found[1] - found[0]):
                found = low, high
                break
    if found is not None:
        one, other = (ordered[place] * better.sign for place in found)
    else:
        middle, error = _between(ordered, percentile), _standard_error(ordered, share)
        reach = _NORMAL.inv_cdf((1 + _INTERVAL) / 2) * error
        one = max(ordered[0], middle - reach) * better.sign
        other = min(ordered[-1], middle + reach) * better.sign
    return min(one, other), max(one, other)


def _standard_error(ordered: Sequence[float], share: float) -> float:
    """Of a quantile, after Maritz & Jarrett: the spread of an order statistic over the ranks that a
    sample like this could have put there, each as likely as the beta law says."""
    n = len(ordered)
    rank = math.floor(n * share + 0.5)
    # With whole parameters a beta law is a sum of the binomial.
    tails = [
        sum(math.comb(n - 2, k) * x**k * (1 - x) ** (n - 2 - k) for k in range(rank - 1, n - 1))
        for x in (place / n for place in range(n + 1))
    ]
    weights = [after - before for before, after in pairwise(tails)]
    mean = sum(w * one for w, one in zip(weights, ordered, strict=True))
    return math.sqrt(sum(w * (one - mean) ** 2 for w, one in zip(weights, ordered, strict=True)))


def change_of_standing(before: Standing, after: Standing) -> str | None:
    """Growing up is not getting fitter: how far the standing moved between two ages, in words;
    None unless both have a percentile."""
    if before.percentile is None or after.percentile is None:
        return None
    if before.z is None or after.z is None:
        return None
    moved = after.z - before.z
    was, now = f"P{whole(before.percentile)}", f"P{whole(after.percentile)}"
    if was == now:
        return say("for their age unchanged, at {now}", now=now)
    return say(
        "for their age {value}, {was} to {now}",
        value="up" if moved > 0 else say("down"),
        was=was,
        now=now,
    )
