"""Change and progress: typical error, the day-to-day band, verdicts and bests."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from statistics import NormalDist
from typing import Final

from lauf.messages import say, say_many
from lauf.rules.reading.kinds import KINDS, format_difference
from lauf.rules.reading.quantities import Better, Measure

#: Pairs of attempts further apart than this say something about growth, not about noise.
PAIR_WINDOW: Final = timedelta(days=14)
#: How many pairs the protocol's own value weighs as much as (our choice).
PRIOR_PAIRS: Final = 10
#: A difference beyond so many of the present √2·TE counts as so many: winsorised (Huber 1981,
#: Robust Statistics, Wiley). With 2.7 one outlier among twenty pairs widens the band by less than a
#: tenth: √((29 + 2.7²) / 30) = 1.0999; with three it would be 1.125.
OUTLIER: Final = 2.7
_NORMAL: Final = NormalDist()
_Z90: Final = 1.645


@dataclass(frozen=True, slots=True)
class TypicalError:
    """Day-to-day variation of a test.

    value   in canonical units; or, where `share` is set, of the score (0.06: 6 %), from logarithms
    pairs   how many repeat tests of this school it was weighed with; 0 for the starting value
    """

    value: float
    pairs: int = 0
    share: bool = False
    resolution: int = 1

    def at(self, level: float) -> float:
        """In canonical units at a level of score, never under half the protocol's resolution."""
        exact = self.value * abs(level) if self.share else self.value
        return max(exact, self.resolution / 2)

    @property
    def interval(self) -> tuple[float, float]:
        """90 % interval of the value: ν·TE²/χ² with ν = prior + pairs, χ² by the cube root of
        Wilson & Hilferty (1931, PNAS 17:684–688)."""
        free = PRIOR_PAIRS + self.pairs
        low, high = (self.value * math.sqrt(free / _chi_square(free, p)) for p in (0.95, 0.05))
        return low, high

    @property
    def source(self) -> str:
        if self.pairs:
            known = say_many("{n} repeat test", "{n} repeat tests", self.pairs)
            return say("from {known} in this school, combined with a starting value", known=known)
        return say("a starting value, as this school has no repeat tests yet")


def _chi_square(free: int, share: float) -> float:
    part = 2 / (9 * free)
    return free * float(1 - part + _NORMAL.inv_cdf(share) * math.sqrt(part)) ** 3


@dataclass(frozen=True, slots=True)
class PairSum:
    """What repeat tests under one key add up to: how many pairs, Σd² of their differences, and Σd²
    of the differences of their logarithms (of the pairs of which both are above nought)."""

    pairs: int = 0
    squares: float = 0.0
    log_pairs: int = 0
    log_squares: float = 0.0

    def __add__(self, other: PairSum) -> PairSum:
        return PairSum(
            self.pairs + other.pairs,
            self.squares + other.squares,
            self.log_pairs + other.log_pairs,
            self.log_squares + other.log_squares,
        )

    def with_pair(
        self, earlier: int, later: int, most: float = math.inf, most_log: float = math.inf
    ) -> PairSum:
        """The sum with one more pair, whose difference counts as `most` (canonical units) at the
        most, that of its logarithms as `most_log`."""
        logs = abs(math.log(later / earlier)) if earlier > 0 and later > 0 else None
        return PairSum(
            self.pairs + 1,
            self.squares + min(float(abs(later - earlier)), most) ** 2,
            self.log_pairs + (logs is not None),
            self.log_squares + min(logs or 0.0, most_log) ** 2,
        )


def typical_error(sums: PairSum, default: float, measure: Measure, *, share: bool) -> TypicalError:
    """TE² = (ν₀·TE₀² + Σd²/2) / (ν₀ + n): the school's repeat tests weighed with the protocol's own
    value, which counts as ν₀ = 10 pairs (a conjugate prior; each pair's SD is TE·√2, Hopkins 2000,
    Sports Med 30:1–15).

    default   the protocol's value: canonical units, or a share of the score where `share` is set

    >>> typical_error(PairSum(10, 80.0), 2.0, Measure(Kind.COUNT), share=False).value
    2.0
    """
    pairs, squares = (sums.log_pairs, sums.log_squares) if share else (sums.pairs, sums.squares)
    weighed = (PRIOR_PAIRS * default**2 + squares / 2) / (PRIOR_PAIRS + pairs)
    return TypicalError(math.sqrt(weighed), pairs, share, measure.resolution)


@dataclass(frozen=True, slots=True)
class Start:
    """What a test's typical error begins with: the protocol's value in canonical units, and as a
    share of the score where its noise grows with the level."""

    error: float
    share: float | None
    measure: Measure

    def pair(self, earlier: int, later: int, so_far: PairSum) -> PairSum:
        """The sum of one pair, which counts for no more than `OUTLIER` of what the pairs `so_far`
        and the protocol's value say."""
        plain = typical_error(so_far, self.error, self.measure, share=False).at(0)
        most_log = math.inf
        if self.share is not None:
            most_log = typical_error(so_far, self.share, self.measure, share=True).value
        bound = OUTLIER * math.sqrt(2)
        return PairSum().with_pair(earlier, later, bound * plain, bound * most_log)


def noise_grows(measure: Measure) -> bool:
    """Whether a test's noise grows with the level, so that it is kept as a share of the score."""
    return KINDS[measure.kind].noise_grows


#: An attempt as pairs are made of: its day and value.
Dated = tuple[date, int]


def couple_up(attempts: Sequence[Dated]) -> tuple[list[tuple[Dated, Dated]], Dated | None]:
    """Neighbouring attempts of one child under one key within the window, oldest first, none used
    twice, so that the pairs are independent; and the last one, where it may still be the first of
    a pair."""
    couples: list[tuple[Dated, Dated]] = []
    open_: Dated | None = None
    for one in attempts:
        if open_ is not None and one[0] - open_[0] <= PAIR_WINDOW:
            couples.append((open_, one))
            open_ = None
        else:
            open_ = one
    return couples, open_


def pair_up(attempts: Sequence[Dated], measure: Measure) -> list[tuple[date, int, int]]:
    """Pairs (day of the later, earlier value, later value) that say something of noise: one at the
    test's end or at a true zero does not."""
    ends = {measure.top, measure.floor} - {None}
    return [
        (day, earlier, value)
        for (_, earlier), (day, value) in couple_up(attempts)[0]
        if not ends & {earlier, value}
    ]


def smallest_change(error: float) -> float:
    """MDC90 = 1.645·√2·TE (Weir 2005, J Strength Cond Res 19:231–240), canonical units."""
    return _Z90 * math.sqrt(2) * error


def probability_better(gain: float, error: float) -> float:
    """Probability that a change in the better direction is a real one: Φ(gain / (√2·TE))."""
    return _NORMAL.cdf(gain / (math.sqrt(2) * error))


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

    The test's end is its cap, or the most its kind allows. With `earlier` None it is a first score.
    """
    if earlier is None:
        return Change(Verdict.FIRST, band=mdc90)
    gain = (value - earlier) * measure.better.sign
    if measure.top is not None and value >= measure.top:
        top = Verdict.AT_THE_TOP if earlier >= measure.top else Verdict.REACHED_THE_TOP
        return Change(top, gain, mdc90)
    if gain == 0 or abs(gain) < mdc90:
        return Change(Verdict.STEADY, gain, mdc90)
    return Change(Verdict.BETTER if gain > 0 else Verdict.LOWER, gain, mdc90)


def verdict_words(change: Change, measure: Measure) -> str:
    """The verdict in short, kind words: "better, +6", "steady, within ±3", "first score"."""
    amount = format_difference(abs(change.gain), measure)
    steps = band_steps(change.band, measure.resolution)
    match change.verdict:
        case Verdict.FIRST:
            return say("first score")
        case Verdict.BETTER:
            sign = "+" if measure.better is Better.UP else "−"
            return say("better, {sign}{amount}", sign=sign, amount=amount)
        case Verdict.LOWER:
            sign = "−" if measure.better is Better.UP else "+"
            return say("lower than last time, {sign}{amount}", sign=sign, amount=amount)
        case Verdict.STEADY:
            if change.gain == 0:
                return say("the same as last time")
            return say(
                "steady, within ±{steps}",
                steps=format_difference(max(steps, abs(change.gain)), measure),
            )
        case Verdict.AT_THE_TOP:
            return say("at the maximum of this test, which cannot show more")
        case Verdict.REACHED_THE_TOP:
            return (
                say("reached the maximum, at least +{amount}", amount=amount)
                if change.gain
                else say("reached the maximum")
            )
        case Verdict.MOVED_UP:
            return say("moved to a harder form")
        case Verdict.NOT_COMPARABLE:
            return say("not compared")


def personal_best(values: Iterable[tuple[int, bool]], better: Better) -> int | None:
    """The best of (value, estimate) pairs under one key; estimates never win. None without one."""
    measured = [value for value, estimate in values if not estimate]
    if not measured:
        return None
    return max(measured) if better is Better.UP else min(measured)
