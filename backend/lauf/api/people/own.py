"""Routes for what a child sees of itself."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.people import actions
from lauf.people.queries import pupil_of
from lauf.progress.pupil.own_page import OwnPage, own_page

router = Router(tags=["progress"])


@router.get("/pupils/{pupil_id}/own", response=OwnPage)
def get_own_page(request: HttpRequest, pupil_id: UUID) -> OwnPage:
    """The child's own page, on the teacher's device."""
    staff = signed_in_staff(request)
    return own_page(pupil_of(staff, pupil_id), staff, timezone.localdate())


class OwnCode(Schema):
    """A code that opens a child's own page; it is shown once."""

    code: str
    until: datetime


@router.post("/pupils/{pupil_id}/own-code", response=OwnCode)
def open_own_page(request: HttpRequest, pupil_id: UUID) -> OwnCode:
    """A new code; the one before opens nothing any more."""
    made = actions.open_own_page(signed_in_staff(request), pupil_id, timezone.now())
    return OwnCode(code=made.code, until=made.until)


@router.delete("/pupils/{pupil_id}/own-code", response={204: None})
def close_own_page(request: HttpRequest, pupil_id: UUID) -> Any:
    """No code opens the page any more."""
    actions.close_own_page(signed_in_staff(request), pupil_id)
    return Status(204, None)
