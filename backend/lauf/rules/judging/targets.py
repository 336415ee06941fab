"""Targets: a total of reps in so many minutes, and the next score to go for."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction

from lauf.messages import say
from lauf.rules.reading.quantities import Better, Measure

#: Reps a second that no child keeps up, of any movement (our choice; skipping is the fastest).
MOST_A_SECOND = 4.0


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
        raise ValueError(
            say("Only {carries} can be carried in.", carries=carries or say("nothing"))
        )
    if carried < 0 or any(number < 0 for number in reps.values()):
        raise ValueError(say("Reps cannot be negative."))
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


def own_step(mdc90: float, measure: Measure) -> int:
    """What a next target adds to the own best: max(1 step, MDC90/2), in whole steps of the test."""
    return max(1, math.ceil(mdc90 / 2 / measure.resolution - 1e-9)) * measure.resolution


def stepped(best: int, mdc90: float, measure: Measure) -> int:
    """Own best and `own_step`, never beyond the test's end or what the test takes."""
    if measure.better is Better.UP:
        end = measure.ceiling if measure.top is None else measure.top
        return min(best + own_step(mdc90, measure), end)
    return max(best - own_step(mdc90, measure), measure.lowest)


def next_target(best: int, next_rung: int | None, mdc90: float, measure: Measure) -> int | None:
    """The nearer of the next rung's threshold and `stepped`. None at the top or at the end of what
    the test takes: offer the harder variant."""
    sign = measure.better.sign
    own = stepped(best, mdc90, measure)
    if (own - best) * sign <= 0:
        return None
    if next_rung is None or (next_rung - best) * sign <= 0:
        return own
    return min(own, next_rung) if sign > 0 else max(own, next_rung)
