"""Rival marks and retry windows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lauf.rules.comparability import Key, why_not_comparable
from lauf.rules.kinds import format_difference
from lauf.rules.quantities import Measure


@dataclass(frozen=True, slots=True)
class RivalResult:
    """A score beside a rival's mark: `ahead` is positive when beaten, in the better direction."""

    ahead: int | None
    words: str


def against_rival(
    value: int, key: Key, mark: int, mark_key: Key, measure: Measure, rival: str
) -> RivalResult:
    """Beaten, equalled, or short by how much; under the same key only."""
    if reason := why_not_comparable(key, mark_key, f"{rival}'s mark"):
        return RivalResult(None, f"not compared: {reason}")
    ahead = (value - mark) * measure.better.sign
    amount = format_difference(abs(ahead), measure)
    if ahead > 0:
        return RivalResult(ahead, f"beat {rival} by {amount}")
    if ahead == 0:
        return RivalResult(0, f"level with {rival}")
    return RivalResult(ahead, f"{amount} short of {rival}")


def window_gain(scores: Sequence[int], measure: Measure) -> int | None:
    """Best of a retry window against the first score in it, in the better direction; None for a
    window without scores."""
    if not scores:
        return None
    sign = measure.better.sign
    return max(score * sign for score in scores) - scores[0] * sign
