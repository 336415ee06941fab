"""What is due next in a class."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.progress.pupil.next_steps import NextSteps, next_steps

router = Router(tags=["progress"])


@router.get("/classes/{class_id}/next", response=NextSteps)
def get_next(request: HttpRequest, class_id: UUID) -> NextSteps:
    """What to test next, when, and for whom another form fits."""
    return next_steps(signed_in_staff(request), class_id, timezone.localdate())
