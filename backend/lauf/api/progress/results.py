"""What a lesson still lacks."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.progress.lesson import results
from lauf.progress.lesson.results import LessonResults

router = Router(tags=["progress"])


@router.get("/lessons/{lesson_id}/results", response=LessonResults)
def get_results(request: HttpRequest, lesson_id: UUID) -> LessonResults:
    return results.lesson_results(signed_in_staff(request), lesson_id)
