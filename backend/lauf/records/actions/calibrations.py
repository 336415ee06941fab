"""Writes of how long an informal unit is."""

from __future__ import annotations

from uuid import UUID

from django.utils import timezone

from lauf.catalogue.courses import read_metres
from lauf.errors import Refused
from lauf.messages import say
from lauf.people.models import Staff
from lauf.people.queries import class_of, pupil_of
from lauf.records.models import Calibration
from lauf.rules.reading.readers.lengths import INFORMAL_UNITS


def calibrate(
    staff: Staff,
    *,
    class_id: UUID | None,
    pupil_id: UUID | None,
    unit: str,
    known: str,
    counted: float,
) -> Calibration:
    """How long a child's hand or a class's step is, from so many over a known distance. Earlier
    scores in that unit are judged by it. Raises NotFound or Refused."""
    if (class_id is None) == (pupil_id is None):
        raise Refused(say("A calibration must be for a child or a class."))
    if unit not in INFORMAL_UNITS:
        raise Refused(
            say(
                "An informal unit must be one of {informal_units}.",
                informal_units=", ".join(INFORMAL_UNITS),
            )
        )
    known_mm = read_metres(known, say("known distance"))
    if counted <= 0 or not 20 < known_mm / counted < 3000:
        raise Refused(
            say("One would be shorter than 2 cm or longer than 3 m. Count and measure again.")
        )
    return Calibration.objects.create(
        school_id=staff.school_id,
        school_class=class_of(staff, class_id) if class_id else None,
        pupil=pupil_of(staff, pupil_id) if pupil_id else None,
        unit=unit,
        millimetres=known_mm / counted,
        on=timezone.localdate(),
        by=staff,
    )
