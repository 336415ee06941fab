"""Scores as flat rows for files."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from lauf.judgement.rows import scores
from lauf.lessons.models import Activity
from lauf.lessons.queries import activity_of
from lauf.people.models import Staff
from lauf.records.queries import counting, reason_words, rows
from lauf.rules.kinds import dimension_of
from lauf.rules.quantities import Dimension


def score_sheet(staff: Staff, activity_id: UUID) -> tuple[Activity, list[dict[str, Any]]]:
    """The class's scores as flat rows for a file: three queries. Raises NotFound."""
    activity = activity_of(staff, activity_id)
    measure = activity.protocol.measure
    kept = scores(rows(counting().filter(activity=activity)), staff.school_id)
    found = {row.pupil_id: row for row in kept}
    sheet = []
    pupils = activity.lesson.school_class.pupils.select_related("house")
    for number, pupil in enumerate(pupils, 1):
        attempt = found.get(pupil.id)
        if attempt is None:
            status = "not recorded"
        elif attempt.value is None:
            status = reason_words(attempt.reason) or "not comparable"
        else:
            status = "estimate" if attempt.estimate else "measured"
        sheet.append(
            {
                "number": number,
                "given_name": pupil.given_name,
                "family_name": pupil.family_name,
                "house": pupil.house.name if pupil.house else "",
                "variant": attempt.variant if attempt else "",
                "wave": attempt.wave if attempt else None,
                "raw": " ".join(one.typed for one in attempt.tries or (attempt,))
                if attempt
                else "",
                "value": attempt.value if attempt else None,
                "unit": measure.unit
                if dimension_of(measure.kind) is Dimension.NUMBER
                else dimension_of(measure.kind).value,
                "status": status,
                "corrected": "yes" if attempt and attempt.succeeds_id else "no",
            }
        )
    return activity, sheet
