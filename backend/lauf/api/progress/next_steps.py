"""What is due next in a class."""

from __future__ import annotations

from datetime import date
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.progress import next_steps

router = Router(tags=["progress"])


class FormFor(Schema):
    """A child for whom another form of a test fits."""

    pupil_id: UUID
    name: str
    form: str
    why: str


class NextTest(Schema):
    test_id: UUID
    test: str
    last: date
    due: bool
    missing: int
    harder: list[FormFor]
    easier: list[FormFor]
    try_instead: str


class NextUp(Schema):
    class_id: UUID
    class_name: str
    tests: list[NextTest]


@router.get("/classes/{class_id}/next", response=NextUp)
def get_next(request: HttpRequest, class_id: UUID) -> dict[str, Any]:
    """What to test next, when, and for whom another form fits."""
    return next_steps.next_steps(asker(request), class_id, timezone.localdate())
