"""What pulse belts and timing gates sent, read and checked. Reads only: what is taken from it goes
the way of every other entry."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated
from uuid import UUID

from annotated_types import MaxLen
from typing_extensions import TypedDict

from lauf.errors import NotFound
from lauf.lessons.queries import activity_of, lesson_of
from lauf.messages import say
from lauf.people.models import Staff
from lauf.rules.body.sensors import belt_problem, read_belt, read_gate


class BeltMessage(TypedDict):
    """One Heart Rate Measurement of a child's belt, its bytes in hexadecimal."""

    pupil_id: UUID
    hex: Annotated[str, MaxLen(80)]


class BeltPulse(TypedDict):
    """The rate, or why the message is no pulse."""

    pupil_id: UUID
    bpm: int | None
    problem: str | None


class GatePassage(TypedDict):
    """Who passed (None: the gate does not know) and when, or why the line is left out."""

    pupil_id: UUID | None
    at_ms: int | None
    problem: str | None


def belt_readings(
    staff: Staff, lesson_id: UUID, messages: Sequence[BeltMessage]
) -> list[BeltPulse]:
    """Each belt's message as a pulse, or why it is none. Two queries.
    Raises NotFound, so for a child of another class."""
    lesson = lesson_of(staff, lesson_id)
    here = set(lesson.school_class.pupils.values_list("id", flat=True))
    found: list[BeltPulse] = []
    for message in messages:
        pupil_id = message["pupil_id"]
        if pupil_id not in here:
            raise NotFound(say("child in this class"))
        try:
            reading = read_belt(bytes.fromhex(message["hex"]))
            problem = belt_problem(reading)
        except ValueError as error:
            reading, problem = None, str(error)
        found.append(
            {
                "pupil_id": pupil_id,
                "bpm": reading.bpm if reading and problem is None else None,
                "problem": problem,
            }
        )
    return found


def gate_passages(staff: Staff, activity_id: UUID, lines: Sequence[str]) -> list[GatePassage]:
    """All lines a gate sent since the start: for each, who passed when, or why it is left out.
    Runners are the children's numbers in the class's list. Two queries. Raises NotFound."""
    activity = activity_of(staff, activity_id)
    children = list(activity.lesson.school_class.pupils.values_list("id", flat=True))
    return [
        {
            "pupil_id": children[one.passage.runner - 1]
            if one.passage and one.passage.runner is not None
            else None,
            "at_ms": one.passage.at_ms if one.passage else None,
            "problem": one.problem,
        }
        for one in read_gate(lines, len(children))
    ]
