"""Rival marks and retry windows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from statistics import median
from typing import Final

from lauf.messages import say
from lauf.rules.judging.comparability import Key, why_not_comparable
from lauf.rules.reading.kinds import format_difference
from lauf.rules.reading.quantities import Measure


class RivalKind(StrEnum):
    """Whose mark it is."""

    PERSON = "person"
    GROUP = "group"
    RUNG = "rung"
    SELF = "self"


RIVAL_WORDS: Final[dict[RivalKind, str]] = {
    RivalKind.PERSON: say("a person"),
    RivalKind.GROUP: say("a class or house"),
    RivalKind.RUNG: say("a rung of the ladder"),
    RivalKind.SELF: say("myself last time"),
}
#: A group's mark says nothing of one child: it needs so many scores.
LEAST_GROUP: Final = 5
#: Rungs are counted from 1 up to this where one is named as a rival.
HIGHEST_RUNG: Final = 12


@dataclass(frozen=True, slots=True)
class RivalResult:
    """A score beside a rival's mark: `ahead` is positive when it is the better one, in the better
    direction, None where they are not compared; `beaten` says whether that is enough."""

    ahead: int | None
    words: str
    beaten: bool = False


def against_rival(
    value: int,
    key: Key,
    mark: int,
    mark_key: Key,
    measure: Measure,
    rival: str,
    *,
    level_counts: bool = False,
) -> RivalResult:
    """Beaten, equalled, or short by how much; under the same key only.

    level_counts  a mark that is reached, such as a rung, and need not be passed
    """
    if reason := why_not_comparable(key, mark_key, say("{rival}'s score", rival=rival)):
        return RivalResult(None, say("not compared: {reason}", reason=reason))
    ahead = (value - mark) * measure.better.sign
    amount = format_difference(abs(ahead), measure)
    if level_counts and ahead >= 0:
        return RivalResult(
            ahead,
            say("passed {rival} by {amount}", rival=rival, amount=amount)
            if ahead
            else say("reached {rival}", rival=rival),
            True,
        )
    if ahead > 0:
        return RivalResult(ahead, say("beat {rival} by {amount}", rival=rival, amount=amount), True)
    if ahead == 0:
        return RivalResult(0, say("level with {rival}", rival=rival))
    return RivalResult(ahead, say("{amount} short of {rival}", amount=amount, rival=rival))


def group_mark(values: Sequence[int], measure: Measure, *, best: bool) -> int:
    """A group's best, or its middle score: rounded to what the test can measure, in the group's
    favour, so that who passes it has passed it. Raises ValueError for too few.

    >>> from lauf.rules.reading.quantities import Kind
    >>> group_mark([18, 20, 25, 31, 24, 23], Measure(Kind.COUNT, highest=99), best=False)
    24
    """
    if len(values) < LEAST_GROUP:
        raise ValueError(
            say("A group average needs {least_group} scores.", least_group=LEAST_GROUP)
        )
    sign = measure.better.sign
    if best:
        return max(values, key=lambda value: value * sign)
    middle = Fraction(median(values)) / measure.resolution
    steps = -(-middle.numerator // middle.denominator) if sign > 0 else int(middle)
    return steps * measure.resolution


def window_gain(scores: Sequence[int], measure: Measure) -> int | None:
    """Best of a retry window against the first score in it, in the better direction; None for a
    window without scores."""
    if not scores:
        return None
    sign = measure.better.sign
    return max(score * sign for score in scores) - scores[0] * sign
