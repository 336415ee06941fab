"""What a test or a station asks for: how much, of which part of the body, and where."""

from __future__ import annotations

from enum import StrEnum
from typing import Final

from lauf.messages import say


class EffortLevel(StrEnum):
    """How much a test asks of a child."""

    REST = "rest"
    LOW = "low"
    HIGH = "high"
    MAXIMAL = "maximal"


#: What asks for a warm-up before it and a cool-down after it.
HARD: Final = (EffortLevel.HIGH, EffortLevel.MAXIMAL)
EFFORT_WORDS: Final[dict[EffortLevel, str]] = {
    EffortLevel.REST: say("at rest"),
    EffortLevel.LOW: say("low effort"),
    EffortLevel.HIGH: say("high effort"),
    EffortLevel.MAXIMAL: say("maximal effort"),
}


class Load(StrEnum):
    """A part of the body, or what else a test or a station asks for."""

    WHOLE_BODY = "whole body"
    LEGS = "legs"
    PUSH = "push"
    PULL = "pull"
    CORE = "core"
    FLEXIBILITY = "flexibility"
    BALANCE = "balance"
    SKILL = "skill"
    AEROBIC = "aerobic"


class Place(StrEnum):
    """Where a test can be done."""

    HALL = "hall"
    PLAYGROUND = "playground"
    GRASS = "grass"
