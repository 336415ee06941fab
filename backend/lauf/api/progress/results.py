"""What a lesson still lacks."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.progress import waiting

router = Router(tags=["progress"])


class TestWaits(Schema):
    """A test of a lesson: how many children have a score, have none, and want a look."""

    activity_id: UUID
    test: str
    kind: str
    # Of body measurements: on no wall and in no file.
    private: bool
    recorded: int
    missing: int
    odd: int


class PulseBlanks(Schema):
    """Who has no pulse at a moment at which others have one."""

    moment: str
    names: list[str]


class LessonResults(Schema):
    lesson_id: UUID
    tests: list[TestWaits]
    missing: int
    odd: int
    pulses: int
    pulse_blanks: list[PulseBlanks]


@router.get("/lessons/{lesson_id}/results", response=LessonResults)
def get_results(request: HttpRequest, lesson_id: UUID) -> dict[str, Any]:
    return waiting.lesson_results(asker(request), lesson_id)
