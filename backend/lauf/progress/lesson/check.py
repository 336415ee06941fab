"""What is missing and what wants a look, before a lesson is closed."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from typing_extensions import TypedDict

from lauf.messages import say
from lauf.people.models import Staff
from lauf.progress.lesson.lanes import Child, class_lanes
from lauf.records.models import Attempt


class Correction(TypedDict):
    """An entry that another one took the place of."""

    pupil_id: UUID
    name: str
    was: str
    now: str
    by: str
    at: datetime
    why: str


class CheckList(TypedDict):
    """Who is missing in a test, what wants a look, and what was corrected."""

    activity_id: UUID
    lesson_id: UUID
    test: str
    closed_at: datetime | None
    recorded: int
    children: list[Child]
    missing: list[UUID]
    odd: list[UUID]
    corrections: list[Correction]


def check_list(staff: Staff, activity_id: UUID) -> CheckList:
    """Who is missing, what wants a look, and what was corrected by whom.

    Seven queries. Raises NotFound.
    """
    board = class_lanes(staff, activity_id)
    children = board["children"]
    open_flags = [c for c in children if any(not flag["settled"] for flag in c["flags"])]
    chain = Attempt.objects.filter(activity=activity_id, successor__isnull=False)
    corrections: list[Correction] = [
        {
            "pupil_id": old.pupil_id,
            "name": old.pupil.name,
            "was": old.typed or say("undone"),
            "now": old.successor.typed or say("undone"),
            "by": old.successor.recorded_by.name,
            "at": old.successor.recorded_at,
            "why": old.successor.why,
        }
        for old in chain.select_related("pupil", "successor__recorded_by").order_by(
            "successor__recorded_at"
        )
    ]
    return {
        "activity_id": board["activity_id"],
        "lesson_id": board["lesson_id"],
        "test": board["test"],
        "closed_at": board["closed_at"],
        "recorded": sum(1 for child in children if child["score"]),
        "children": children,
        "missing": [c["pupil_id"] for c in children if c["score"] is None],
        "odd": [c["pupil_id"] for c in open_flags],
        "corrections": corrections,
    }
