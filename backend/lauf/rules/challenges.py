"""Rep targets, rival marks and retry windows."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction

from lauf.rules.comparability import Key, why_not_comparable
from lauf.rules.quantities import Measure, format_difference


@dataclass(frozen=True, slots=True)
class RepTarget:
    """Where a child stands in a rep target.

    total           carried in + the reps of all movements
    rung            index of the highest total reached, None for none
    needed          reps to the next total, None at the top
    a_minute        reps a minute still needed for it, None without time left
    projected       total at the end at the pace so far, None before any time has passed
    """

    total: int
    rung: int | None
    needed: int | None
    a_minute: Fraction | None
    projected: int | None


def rep_target(
    reps: Mapping[str, int],
    totals: Sequence[int],
    *,
    minutes: Fraction | int,
    elapsed: Fraction | int = 0,
    carried: int = 0,
    carried_from: str = "",
    carries: str = "",
) -> RepTarget:
    """Progress of one child towards ascending totals.

    carries       the one movement the plan lets be carried in; `carried_from` is where the carried
                  reps come from. Raises ValueError when they differ, or for negative reps.
    elapsed       minutes so far
    """
    if carried and (not carries or carried_from != carries):
        raise ValueError(f"only {carries or 'nothing'} is carried in")
    if carried < 0 or any(number < 0 for number in reps.values()):
        raise ValueError("reps are not negative")
    done = sum(reps.values())
    total = carried + done
    reached = [index for index, target in enumerate(totals) if total >= target]
    following = next((target for target in totals if total < target), None)
    needed = None if following is None else following - total
    left = Fraction(minutes) - Fraction(elapsed)
    return RepTarget(
        total=total,
        rung=reached[-1] if reached else None,
        needed=needed,
        a_minute=None if needed is None or left <= 0 else needed / left,
        projected=None
        if elapsed <= 0
        else carried + math.floor(Fraction(done) / Fraction(elapsed) * Fraction(minutes)),
    )


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
