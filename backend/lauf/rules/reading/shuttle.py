"""The progressive 20 m shuttle run: schedules, shuttles, distance, speed and estimate.

Two schedules are in use. "even": 8.5 km/h, then +0.5 a minute (Léger, Mercier, Gadoury & Lambert
1988, J Sports Sci 6:93–101). "jump": 8.0, then 9.0, then +0.5 a minute.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from functools import cache
from itertools import accumulate
from typing import Final

from lauf.messages import say

SHUTTLE_MM: Final = 20_000


class Schedule(StrEnum):
    """How a staged run gets faster."""

    EVEN = "even"
    JUMP = "jump"


EVEN: Final = Schedule.EVEN
JUMP: Final = Schedule.JUMP
#: Nobody has come further; also stops endless tables.
STAGES: Final = 21


def stage_speed(stage: int, schedule: str = EVEN) -> float:
    """Running speed of a stage in km/h. Stages count from 1. Raises ValueError otherwise."""
    if stage < 1 or schedule not in list(Schedule):
        raise ValueError(say("stages count from 1, and schedules are even or jump"))
    if schedule == EVEN:
        return 8.0 + 0.5 * stage
    return 8.0 if stage == 1 else 8.0 + 0.5 * stage


def shuttles_in_stage(stage: int, schedule: str = EVEN) -> int:
    """How many 20 m shuttles make a stage.

    "even": the whole number nearest to 60 s, halves up. "jump": a stage ends with the first
    shuttle that ends after 60 s.
    """
    # 20 m at v km/h take 72/v s, so 60 s hold 60·v/72 = 5v/6 shuttles: exact in halves of a km/h.
    fits = Fraction(round(2 * stage_speed(stage, schedule)) * 5, 12)
    return math.floor(fits + Fraction(1, 2)) if schedule == EVEN else math.floor(fits) + 1


@cache
def shuttle_table(schedule: str = EVEN) -> tuple[int, ...]:
    """Shuttles of every stage, from stage 1."""
    return tuple(shuttles_in_stage(stage, schedule) for stage in range(1, STAGES + 1))


@cache
def _ends(schedule: str) -> tuple[int, ...]:
    return tuple(accumulate(shuttle_table(schedule)))


def stage_of(shuttles: int, schedule: str) -> tuple[int, int]:
    """Total shuttles -> the stage and the shuttle in it last completed; 0 is stage 1, shuttle 0."""
    table, before = shuttle_table(schedule or EVEN), 0
    for stage, number in enumerate(table, 1):
        if shuttles <= before + number or stage == len(table):
            return stage, shuttles - before
        before += number
    raise AssertionError("the table has stages")


def total_shuttles(stage: int, shuttle: int, schedule: str) -> int:
    """Stage and shuttle last completed -> total shuttles. Raises ValueError for a shuttle that the
    stage does not have."""
    table = shuttle_table(schedule or EVEN)
    if not 1 <= stage <= len(table):
        raise ValueError(say("stages run from 1 to {table}", table=len(table)))
    if not 0 <= shuttle <= table[stage - 1]:
        raise ValueError(
            say("stage {stage} has {table} shuttles", stage=stage, table=table[stage - 1])
        )
    return sum(table[: stage - 1]) + shuttle


def last_speed(shuttles: int, schedule: str) -> float | None:
    """Speed in km/h of the last completed stage, None when no stage was completed."""
    done = sum(1 for end in _ends(schedule or EVEN) if end <= shuttles)
    return stage_speed(done, schedule or EVEN) if done else None


#: Whole years of those the estimate was made from.
ESTIMATE_AGES: Final = (8, 19)


def estimated_vo2max(speed: float, age: int) -> float:
    """Estimated VO₂max in ml/kg/min for ages 8–19 from the speed in km/h of the last completed
    stage and age in whole years (Léger et al. 1988). Raises ValueError for other ages."""
    if not ESTIMATE_AGES[0] <= age <= ESTIMATE_AGES[1]:
        raise ValueError(say("the estimate holds for ages 8 to 19"))
    return 31.025 + 3.238 * speed - 3.248 * age + 0.1536 * speed * age


def beeps_ms(schedule: str = EVEN, stages: int = STAGES) -> tuple[int, ...]:
    """When each shuttle must end, in milliseconds from the start, to the nearest: 20 m at v km/h
    take 72/v s."""
    found = []
    at = Fraction(0)
    for stage in range(1, stages + 1):
        one = Fraction(72_000) / Fraction(str(stage_speed(stage, schedule)))
        for _ in range(shuttles_in_stage(stage, schedule)):
            at += one
            found.append(math.floor(at + Fraction(1, 2)))
    return tuple(found)


@dataclass(frozen=True, slots=True)
class Beep:
    """One beep of the run: the end of a shuttle at `at_ms`, run at `speed` km/h. `if_missed` is the
    score of a runner for whom this is the first of the two missed in a row, `so_far` that of one
    who stops having just made it: both as stage.shuttle."""

    at_ms: int
    stage: int
    shuttle: int
    speed: float
    if_missed: str
    so_far: str


@cache
def beeps(schedule: str = EVEN) -> tuple[Beep, ...]:
    """Every beep of a schedule, in order."""
    found = []
    for number, at in enumerate(beeps_ms(schedule), 1):
        stage, shuttle = stage_of(number, schedule)
        # Made all before, missed this one and the next.
        kept = score_after([False] * (number - 1) + [True, True])
        before = "{}.{}".format(*stage_of(kept, schedule))
        speed = stage_speed(stage, schedule)
        found.append(Beep(at, stage, shuttle, speed, before, f"{stage}.{shuttle}"))
    return tuple(found)


#: A runner is out after so many missed beeps in a row: one is a warning.
WARNINGS: Final = 2


def score_after(missed: list[bool] | tuple[bool, ...]) -> int:
    """Shuttles completed before the run ended: `missed` says of each beep whether the line was
    missed; the second miss in a row ends it, and neither of the two counts."""
    running = 0
    for place, late in enumerate(missed):
        running = running + 1 if late else 0
        if running == WARNINGS:
            return place + 1 - WARNINGS
    return len(missed) - running
