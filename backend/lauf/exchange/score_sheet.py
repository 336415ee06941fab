"""Scores as flat rows for files."""

from __future__ import annotations

from fractions import Fraction
from typing import TypedDict
from uuid import UUID

from lauf.judgement.rows import scores
from lauf.lessons.models import Activity
from lauf.lessons.queries import activity_of, day_of
from lauf.messages import say
from lauf.people.models import Staff
from lauf.records.queries import counting, reason_words, rows
from lauf.rules.judging.comparability import conditions_words
from lauf.rules.reading.quantities import Kind, unit_size


def everyday(value: int, unit: str) -> int | float:
    """A score as a spreadsheet counts with it, in the unit its test is read in.

    >>> everyday(1270, "cm"), everyday(12_500, "s"), everyday(42, "reps")
    (127, 12.5, 42)
    """
    exact = Fraction(value) / unit_size(unit)
    return int(exact) if exact.denominator == 1 else float(exact)


def unit_of(kind: str, unit: str) -> str:
    """The unit of `everyday`; "" for a yes or no, which is said in words."""
    return "" if kind == Kind.SIDES else unit


class ScoreLine(TypedDict):
    """A child's score as a line of a file; the value in the test's unit."""

    date: str
    number: int
    given_name: str
    family_name: str
    house: str
    variant: str
    wave: int | None
    conditions: str
    raw: str
    value: int | float | None
    unit: str
    status: str
    corrected: str


def score_sheet(staff: Staff, activity_id: UUID) -> tuple[Activity, list[ScoreLine]]:
    """The class's scores as flat rows for a file, each with the day it is of: three queries. Raises
    NotFound."""
    activity = activity_of(staff, activity_id)
    measure, day = activity.protocol.measure, day_of(activity.lesson)
    kept = scores(rows(counting().filter(activity=activity)), staff.school_id)
    found = {row.pupil_id: row for row in kept}
    sheet: list[ScoreLine] = []
    pupils = activity.lesson.school_class.pupils.select_related("house")
    for number, pupil in enumerate(pupils, 1):
        attempt = found.get(pupil.id)
        if attempt is None:
            status = say("not recorded")
        elif attempt.is_open:
            status = "open"
        elif attempt.value is None:
            status = reason_words(attempt.reason) or say("not comparable")
        else:
            status = say("estimate") if attempt.estimate else say("measured")
        sheet.append(
            {
                "date": (attempt.on if attempt else day).isoformat(),
                "number": number,
                "given_name": pupil.given_name,
                "family_name": pupil.family_name,
                "house": pupil.house.name if pupil.house else "",
                "variant": attempt.variant if attempt else "",
                "wave": attempt.wave if attempt else None,
                "conditions": conditions_words(attempt.conditions) if attempt else "",
                "raw": " ".join(one.typed for one in attempt.tries or (attempt,))
                if attempt
                else "",
                "value": None
                if attempt is None or attempt.kept is None
                else everyday(attempt.kept, measure.unit),
                "unit": measure.unit,
                "status": status,
                "corrected": say("yes") if attempt and attempt.succeeds_id else "no",
            }
        )
    return activity, sheet
