"""What a lesson showed."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.progress import found

router = Router(tags=["progress"])


class FoundTest(Schema):
    """What a lesson found in one test: sentences to read aloud, and one for the teacher."""

    activity_id: UUID
    test: str
    aloud: list[str]
    teacher: str
    misfit: str


class LessonFound(Schema):
    """What a lesson found: a test each, and sentences about its pulses to read aloud."""

    lesson_id: UUID
    tests: list[FoundTest]
    pulses: list[str]


@router.get("/lessons/{lesson_id}/found", response=LessonFound)
def get_found(request: HttpRequest, lesson_id: UUID) -> dict[str, Any]:
    """What a lesson found, in sentences."""
    return found.lesson_found(asker(request), lesson_id)
