"""What is missing and what wants a look, before a lesson is closed."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from lauf.people.models import Staff
from lauf.progress.lanes import class_lanes
from lauf.records.models import Attempt


def check_list(staff: Staff, activity_id: UUID) -> dict[str, Any]:
    """Who is missing, what wants a look, and what was corrected by whom.

    Seven queries. Raises NotFound.
    """
    board = class_lanes(staff, activity_id)
    children = board["children"]
    open_flags = [c for c in children if any(not flag["settled"] for flag in c["flags"])]
    chain = Attempt.objects.filter(activity=activity_id, successor__isnull=False)
    corrections = [
        {
            "pupil_id": old.pupil_id,
            "name": old.pupil.name,
            "was": old.typed or "taken back",
            "now": old.successor.typed or "taken back",
            "by": old.successor.recorded_by.name,
            "at": old.successor.recorded_at,
            "why": old.successor.why,
        }
        for old in chain.select_related("pupil", "successor__recorded_by").order_by(
            "successor__recorded_at"
        )
    ]
    return {
        **{name: board[name] for name in ("activity_id", "lesson_id", "test", "closed_at")},
        "recorded": sum(1 for child in children if child["score"]),
        "children": children,
        "missing": [c["pupil_id"] for c in children if c["score"] is None],
        "odd": [c["pupil_id"] for c in open_flags],
        "corrections": corrections,
    }
