"""Several tries of one test: which one counts."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from typing import Final

from lauf.messages import say
from lauf.rules.reading.quantities import Better, to_step

#: A fall is jumped again: tries beyond the protocol's own, for the void ones.
SPARE_TRIES: Final = 6


class Merge(StrEnum):
    """How the tries of a child become one score."""

    BEST = "best"
    LAST = "last"
    MEAN = "mean"
    SUM = "sum"


MERGE_WORDS: Final[dict[Merge, str]] = {
    Merge.BEST: say("the best"),
    Merge.LAST: say("the last"),
    Merge.MEAN: say("the average"),
    Merge.SUM: say("the sum"),
}


@dataclass(frozen=True, slots=True)
class Try:
    """One try: its value in canonical units (None for void or a reason), and whether it is a
    guess."""

    value: int | None
    estimate: bool = False


@dataclass(frozen=True, slots=True)
class Merged:
    """The score the tries make. `index` is the try that decides it, None for means and sums."""

    value: int
    estimate: bool
    index: int | None = None


def merge_tries(
    tries: Sequence[Try], how: Merge, better: Better, resolution: int = 1
) -> Merged | None:
    """One score from the tries in the order they were made; None when none of them measured.

    Void tries and blanks are left out. A mean is rounded to the resolution; means and
    sums are estimates when any try is. The best prefers a measured try over an equal estimate.
    """
    done = [(index, one.value, one.estimate) for index, one in enumerate(tries)
            if one.value is not None]  # fmt: skip
    if not done:
        return None
    if how in (Merge.MEAN, Merge.SUM):
        total = sum(value for _, value, _ in done)
        guessed = any(estimate for _, _, estimate in done)
        if how is Merge.SUM:
            return Merged(total, guessed)
        return Merged(to_step(Fraction(total, len(done)), resolution), guessed)
    if how is Merge.LAST:
        index, value, estimate = done[-1]
    else:
        sign = better.sign
        index, value, estimate = max(done, key=lambda one: (one[1] * sign, not one[2], -one[0]))
    return Merged(value, estimate, index)
