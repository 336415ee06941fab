"""Points of a challenge: stated rules, each at most once a child, each with its reason."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Final


class PointRule(StrEnum):
    """What earns points."""

    TOOK_PART = "took_part"
    BEAT_OWN_BEST = "beat_own_best"
    REACHED_RUNG = "reached_rung"
    BEAT_RIVAL = "beat_rival"


RULE_WORDS: Final[dict[PointRule, str]] = {
    PointRule.TOOK_PART: "took part",
    PointRule.BEAT_OWN_BEST: "beat the own best",
    PointRule.REACHED_RUNG: "reached a new rung",
    PointRule.BEAT_RIVAL: "beat the rival",
}
MOST_POINTS: Final = 20


@dataclass(frozen=True, slots=True)
class Deeds:
    """What one child has done in a challenge: the tries in the window under its key, earlier best
    and rungs (index, −1 for none), and the rival's mark; `sign` is 1 where more is better."""

    values: tuple[int, ...]
    took_part: bool
    sign: int = 1
    best_before: int | None = None
    rung_before: int = -1
    rung_now: int = -1
    rival: int | None = None


@dataclass(frozen=True, slots=True)
class Earned:
    """Points of one rule and why."""

    rule: PointRule
    points: int
    why: str


def points_for(done: Deeds, rules: Mapping[PointRule, int]) -> tuple[Earned, ...]:
    """What a child has earned so far, each rule at most once. A first score beats no own best."""
    best = max((value * done.sign for value in done.values), default=None)
    earned = {
        PointRule.TOOK_PART: done.took_part,
        PointRule.BEAT_OWN_BEST: best is not None
        and done.best_before is not None
        and best > done.best_before * done.sign,
        PointRule.REACHED_RUNG: done.rung_now > done.rung_before,
        PointRule.BEAT_RIVAL: best is not None
        and done.rival is not None
        and best > done.rival * done.sign,
    }
    return tuple(
        Earned(rule, rules[rule], RULE_WORDS[rule])
        for rule in PointRule
        if earned[rule] and rules.get(rule, 0) > 0
    )
