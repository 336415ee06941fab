"""Routes for today, of one child, and of the whole class in a lesson."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.messages import say
from lauf.people.actions import look_at
from lauf.progress.pupil import growth, record
from lauf.progress.pupil.growth import GrowthRecord
from lauf.progress.pupil.record import PupilRecord

router = Router(tags=["progress"])


@router.get("/pupils/{pupil_id}", response=PupilRecord)
def get_pupil(request: HttpRequest, pupil_id: UUID) -> PupilRecord:
    return record.pupil_record(signed_in_staff(request), pupil_id, timezone.localdate())


@router.get("/pupils/{pupil_id}/growth", response=GrowthRecord)
def get_growth(request: HttpRequest, pupil_id: UUID) -> GrowthRecord:
    staff = signed_in_staff(request)
    found = growth.growth_record(staff, pupil_id)
    look_at(staff, pupil_id, say("height and weight"))
    return found
