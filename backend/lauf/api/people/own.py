"""Addresses of what a child sees of itself."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Status

from lauf.api.asker import asker
from lauf.api.lessons.scores import Lane
from lauf.api.shape import Schema
from lauf.people import actions
from lauf.people.queries import pupil_of
from lauf.progress import child

router = Router(tags=["progress"])


class OwnLane(Schema):
    """A test on a child's own page: the lane, the latest score, the best and the next aim."""

    test: str
    variant: str
    lane: Lane
    shown: str
    best: str | None
    target: str | None
    rung_name: str


class OwnPage(Schema):
    """What a child sees: the given name, own lanes and next aims, and nobody else's."""

    name: str
    lanes: list[OwnLane]


@router.get("/pupils/{pupil_id}/own", response=OwnPage)
def get_own_page(request: HttpRequest, pupil_id: UUID) -> dict[str, Any]:
    """The child's own page, on the teacher's device."""
    staff = asker(request)
    return child.own_page(pupil_of(staff, pupil_id), staff, timezone.localdate())


class OwnCode(Schema):
    """A code that opens a child's own page; it is shown once."""

    code: str
    until: datetime


@router.post("/pupils/{pupil_id}/own-code", response=OwnCode)
def open_own_page(request: HttpRequest, pupil_id: UUID) -> dict[str, Any]:
    """A new code; the one before opens nothing any more."""
    return actions.open_own_page(asker(request), pupil_id, timezone.now())._asdict()


@router.delete("/pupils/{pupil_id}/own-code", response={204: None})
def close_own_page(request: HttpRequest, pupil_id: UUID) -> Any:
    """No code opens the page any more."""
    actions.close_own_page(asker(request), pupil_id)
    return Status(204, None)
