"""What a lesson showed."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.progress.lesson.lesson_summary import LessonSummary, lesson_summary

router = Router(tags=["progress"])


@router.get("/lessons/{lesson_id}/found", response=LessonSummary)
def get_summary(request: HttpRequest, lesson_id: UUID) -> LessonSummary:
    """What a lesson showed, in sentences."""
    return lesson_summary(signed_in_staff(request), lesson_id)
