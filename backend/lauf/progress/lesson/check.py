"""What is missing and what wants a look, before a lesson is closed."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from typing_extensions import TypedDict

from lauf.messages import say
from lauf.people.models import Staff
from lauf.progress.lesson.lanes import Child, class_lanes
from lauf.records.models import Attempt
from lauf.records.queries import two_counts
from lauf.rules.judging.plausibility import FlagCode


class Correction(TypedDict):
    """An entry that another one took the place of."""

    pupil_id: UUID
    name: str
    was: str
    now: str
    by: str
    at: datetime
    why: str


class RecountRow(TypedDict):
    """What a helper counted of a try whose score says something else."""

    id: UUID
    pupil_id: UUID
    by: str
    typed: str
    variant: str
    try_number: int
    # The score that it is not.
    attempt_id: UUID


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
    recounts: list[RecountRow]


def check_list(staff: Staff, activity_id: UUID) -> CheckList:
    """Who is missing, what wants a look, and what was corrected by whom.

    Seven queries, and up to three more where a try was counted twice. Raises NotFound.
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
            "by": old.successor.entered_by,
            "at": old.successor.recorded_at,
            "why": old.successor.why,
        }
        for old in chain.select_related(
            "pupil", "successor__recorded_by", "successor__helper"
        ).order_by("successor__recorded_at")
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
        "recounts": _recounts(activity_id, children),
    }


def _recounts(activity_id: UUID, children: Sequence[Child]) -> list[RecountRow]:
    """What was counted beside scores of which that is asked."""
    asked = {
        child["pupil_id"]
        for child in children
        if any(one["code"] == FlagCode.TWO_COUNTS and not one["settled"] for one in child["flags"])
    }
    if not asked:
        return []
    return [
        {
            "id": one.id,
            "pupil_id": one.pupil_id,
            "by": one.name,
            "typed": one.typed,
            "variant": one.variant,
            "try_number": one.try_number,
            "attempt_id": twice.attempt_id,
        }
        for twice in two_counts(activity_id).values()
        for one in twice.others
        if one.pupil_id in asked
    ]
