"""Points of a challenge: stated rules, each at most once a child, each with its reason."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Final

from lauf.messages import say
from lauf.rules.reading.kinds import format_difference, format_value
from lauf.rules.reading.quantities import Measure


class PointRule(StrEnum):
    """What earns points."""

    TOOK_PART = "took_part"
    BEAT_OWN_BEST = "beat_own_best"
    REACHED_RUNG = "reached_rung"
    BEAT_RIVAL = "beat_rival"


RULE_WORDS: Final[dict[PointRule, str]] = {
    PointRule.TOOK_PART: say("took part"),
    PointRule.BEAT_OWN_BEST: say("beat their own best"),
    PointRule.REACHED_RUNG: say("reached a new rung"),
    PointRule.BEAT_RIVAL: say("beat the rival"),
}
MOST_POINTS: Final = 20


@dataclass(frozen=True, slots=True)
class Deeds:
    """What one child has done in a challenge: the goes in the window under its key, oldest first,
    earlier best and rungs (index, −1 for none), and the rival's mark, which is to be passed, or
    reached where `level_counts`; `sign` is 1 where more is better."""

    values: tuple[int, ...]
    took_part: bool
    sign: int = 1
    best_before: int | None = None
    rung_before: int = -1
    rung_now: int = -1
    rival: int | None = None
    level_counts: bool = False


@dataclass(frozen=True, slots=True)
class Earned:
    """Points of one rule and why."""

    rule: PointRule
    points: int
    why: str


@dataclass(frozen=True, slots=True)
class Missed:
    """A rule that gives nothing yet, and why."""

    rule: PointRule
    why: str


def points_for(done: Deeds, rules: Mapping[PointRule, int]) -> tuple[Earned, ...]:
    """What a child has earned so far, each rule at most once. A first score ever beats no own best;
    a later go that beats the best so far does, whether that was made before the window or in it."""
    earned = {
        PointRule.TOOK_PART: done.took_part,
        PointRule.BEAT_OWN_BEST: _beat_own_best(done),
        PointRule.REACHED_RUNG: done.rung_now > done.rung_before,
        PointRule.BEAT_RIVAL: _beat_rival(done),
    }
    return tuple(
        Earned(rule, rules[rule], RULE_WORDS[rule])
        for rule in PointRule
        if earned[rule] and rules.get(rule, 0) > 0
    )


def _beat_rival(done: Deeds) -> bool:
    """Whether one of the goes is better than the rival's mark."""
    if done.rival is None:
        return False
    least = done.rival * done.sign + (0 if done.level_counts else 1)
    return any(value * done.sign >= least for value in done.values)


def _beat_own_best(done: Deeds) -> bool:
    best = None if done.best_before is None else done.best_before * done.sign
    for value in done.values:
        ahead = value * done.sign
        if best is not None and ahead > best:
            return True
        best = ahead if best is None else max(best, ahead)
    return False


def missed_points(
    done: Deeds, rules: Mapping[PointRule, int], measure: Measure, *, guess: int | None = None
) -> tuple[Missed, ...]:
    """Every rule that gives points and gave this child none, with why: nobody has to ask.

    guess   the last estimate, where nothing was measured
    """
    given = {one.rule for one in points_for(done, rules)}
    why = {
        PointRule.TOOK_PART: say("no attempt in this period"),
        PointRule.BEAT_OWN_BEST: _why_no_best(done, measure, guess),
        PointRule.REACHED_RUNG: say("no new rung"),
        PointRule.BEAT_RIVAL: _why_not_beaten(done, measure),
    }
    if not done.values and done.took_part:
        estimate = (
            say("nothing measured")
            if guess is None
            else (say("{guess} ~ is an estimate", guess=format_value(guess, measure)))
        )
        why |= dict.fromkeys(
            (PointRule.BEAT_OWN_BEST, PointRule.REACHED_RUNG, PointRule.BEAT_RIVAL), estimate
        )
    return tuple(
        Missed(rule, why[rule] if done.took_part else why[PointRule.TOOK_PART])
        for rule in PointRule
        if rules.get(rule, 0) > 0 and rule not in given
    )


def _best(done: Deeds) -> int | None:
    return max(done.values, key=lambda value: value * done.sign, default=None)


def _why_no_best(done: Deeds, measure: Measure, guess: int | None) -> str:
    best = _best(done)
    if best is None:
        return say("nothing measured")
    before = [value for value in (done.best_before, *done.values[:-1]) if value is not None]
    if not before:
        first = format_value(best, measure)
        if guess is None:
            return say("{first} is a first score. Beat it with another attempt.", first=first)
        return say(
            "{first} is a first score, and {guess} ~ is an estimate. Beat it with another attempt.",
            first=first,
            guess=format_value(guess, measure),
        )
    mark = max(before, key=lambda value: value * done.sign)
    return say(
        "{values}, own best {mark}",
        values=format_value(done.values[-1], measure),
        mark=format_value(mark, measure),
    )


def _why_not_beaten(done: Deeds, measure: Measure) -> str:
    best = _best(done)
    if done.rival is None or best is None:
        return say("no rival score with the same form and course")
    if best == done.rival:
        return say("level with the rival, which does not count as beaten")
    return say("{best} short of the rival", best=format_difference(abs(best - done.rival), measure))
