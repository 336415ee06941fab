"""How far a test repeats itself in a school: from children who did it twice within two weeks."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean, stdev
from typing import Final

from lauf.messages import say

#: Fewer pairs say little about a test (our choice).
PAIRS_NEEDED: Final = 10


@dataclass(frozen=True, slots=True)
class Reliability:
    """What repeat tests say of a test.

    pairs           children who did it twice within two weeks under the same key
    icc             ICC(3,1): two-way mixed, single measures, consistency; None without spread
    typical_error   SD of the differences / √2, canonical units
    cv              typical error as a share of the score, from logarithms; None with a nought
    learning        mean of the second less the first, canonical units: practice shows here
    """

    pairs: int
    icc: float | None
    typical_error: float
    cv: float | None
    learning: float


def reliability(pairs: Sequence[tuple[int, int]]) -> Reliability | None:
    """ICC(3,1) = (MSr − MSe)/(MSr + MSe) for two sittings (Shrout & Fleiss 1979, Psychol Bull
    86:420–428); TE = SD(d)/√2 and CV = exp(SD(ln differences)/√2) − 1 (Hopkins 2000, Sports Med
    30:1–15). None for fewer than `PAIRS_NEEDED` pairs.

    >>> reliability([(1, 2)]) is None
    True
    """
    if len(pairs) < PAIRS_NEEDED:
        return None
    differences = [later - earlier for earlier, later in pairs]
    error = stdev(differences) / math.sqrt(2)
    # Two sittings: the mean square of children is twice the variance of their means, the mean
    # square of error half the variance of their differences.
    between = 2 * stdev([(a + b) / 2 for a, b in pairs]) ** 2
    within = error**2
    logs = [math.log(b / a) for a, b in pairs if a > 0 and b > 0]
    return Reliability(
        pairs=len(pairs),
        icc=(between - within) / (between + within) if between + within else None,
        typical_error=error,
        cv=math.exp(stdev(logs) / math.sqrt(2)) - 1 if len(logs) == len(pairs) else None,
        learning=fmean(differences),
    )


@dataclass(frozen=True, slots=True)
class Agreement:
    """What two counters of the same child say beside each other.

    pairs   children counted twice at once
    same    share of them of whom both say the same
    shift   mean of the second count less the first, canonical units
    spread  half the width of the 95 % limits of agreement: 1.96 SD of the differences (Bland &
            Altman 1986, Lancet 327:307–310)
    icc     ICC(A,1), absolute agreement of single counts: (MSr − MSe)/(MSr + MSe + 2(MSc − MSe)/n)
            (McGraw & Wong 1996, Psychol Methods 1:30–46); None without spread
    """

    pairs: int
    same: float
    shift: float
    spread: float
    icc: float | None


def agreement(pairs: Sequence[tuple[int, int]]) -> Agreement | None:
    """How far two counters agree. None for fewer than `PAIRS_NEEDED` children."""
    n = len(pairs)
    if n < PAIRS_NEEDED:
        return None
    differences = [other - one for one, other in pairs]
    shift, spread = fmean(differences), stdev(differences)
    between = 2 * stdev([(one + other) / 2 for one, other in pairs]) ** 2
    within = spread**2 / 2
    counters = n * shift**2 / 2
    total = between + within + 2 * (counters - within) / n
    return Agreement(
        pairs=n,
        same=sum(not one for one in differences) / n,
        shift=shift,
        spread=1.96 * spread,
        icc=(between - within) / total if total else None,
    )


def reliability_words(icc: float) -> str:
    """How far children keep their places from one sitting to the next, in words (bounds of Koo & Li
    2016, J Chiropr Med 15:155–163)."""
    if icc < 0.5:
        return say("the order of the children is not stable, so one lesson shows little")
    if icc < 0.75:
        return say("the order of the children is roughly stable")
    if icc < 0.9:
        return say("the order of the children is stable")
    return say("the order of the children is very stable")
