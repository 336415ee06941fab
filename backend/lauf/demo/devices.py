"""Stand-ins for devices: a pulse belt on every child, and a timing gate across the lap. They speak
as the real ones do, and misbehave on request."""

from __future__ import annotations

import random
from collections.abc import Iterator
from fractions import Fraction
from typing import Final, Literal
from uuid import UUID

from lauf.lessons.queries import activity_of, lesson_of
from lauf.people.models import Staff
from lauf.records.sensors import BeltMessage
from lauf.rules.body.sensors import BeltReading, write_belt

BeltTrouble = Literal["none", "silent", "contact", "impossible", "disagree"]
GateTrouble = Literal["none", "doubled", "unknown", "garbled"]

#: One belt in so many is the one that misbehaves.
_ODD_ONE: Final = 5
_RESTING: Final = (78, 98)
_HARDEST: Final = (178, 200)


def belt_messages(
    staff: Staff, lesson_id: UUID, second: int, effort: int, trouble: BeltTrouble
) -> list[BeltMessage]:
    """What the belts of a class send in one second at an effort of 0 to 100 %. Two queries. Raises
    NotFound."""
    lesson = lesson_of(staff, lesson_id)
    found: list[BeltMessage] = []
    for number, pupil_id in enumerate(lesson.school_class.pupils.values_list("id", flat=True)):
        odd = trouble != "none" and number % _ODD_ONE == 2
        if odd and trouble == "silent":
            continue
        reading = _reading(pupil_id, second, effort)
        if odd:
            reading = _troubled(reading, trouble)
        found.append({"pupil_id": pupil_id, "hex": write_belt(reading).hex()})
    return found


def _reading(pupil_id: UUID, second: int, effort: int) -> BeltReading:
    child = random.Random(f"belt of {pupil_id}")
    rest, hardest = child.randint(*_RESTING), child.randint(*_HARDEST)
    now = random.Random(f"{pupil_id} in second {second}")
    bpm = rest + (hardest - rest) * effort // 100 + now.randint(-3, 3)
    interval = Fraction(60, bpm) * Fraction(now.randint(970, 1030), 1000)
    return BeltReading(bpm, contact=True, intervals=(interval, interval))


def _troubled(reading: BeltReading, trouble: BeltTrouble) -> BeltReading:
    match trouble:
        case "contact":
            return BeltReading(0, contact=False)
        case "impossible":
            return BeltReading(290, contact=True)
        case "disagree":
            return BeltReading(reading.bpm // 2, contact=True, intervals=reading.intervals)
        case _:
            return reading


def gate_lines(
    staff: Staff, activity_id: UUID, since_ms: int, until_ms: int, trouble: GateTrouble
) -> list[str]:
    """What the gate sends for passages after `since_ms` up to `until_ms` of its clock, in the order
    they happen. Two queries. Raises NotFound."""
    activity = activity_of(staff, activity_id)
    runners = activity.lesson.school_class.pupils.count()
    passages = sorted(
        (at, runner)
        for runner in range(1, runners + 1)
        for at in _passages(activity_id, runner, until_ms)
        if at > since_ms
    )
    return [line for at, runner in passages for line in _lines(runner, at, trouble)]


def _passages(activity_id: UUID, runner: int, until_ms: int) -> Iterator[int]:
    chance = random.Random(f"runner {runner} of {activity_id}")
    lap = chance.randint(26_000, 42_000)
    at = 0
    while True:
        at += round(lap * chance.uniform(0.94, 1.08))
        if at > until_ms:
            return
        yield at


def _lines(runner: int, at: int, trouble: GateTrouble) -> Iterator[str]:
    odd = trouble != "none" and at % _ODD_ONE == 0
    if odd and trouble == "unknown":
        yield f"P,?,{at}"
        return
    if odd and trouble == "garbled":
        yield f"P,{runner},{at}"[:3]
        return
    yield f"P,{runner},{at}"
    if odd and trouble == "doubled":
        yield f"P,{runner},{at + 140}"
