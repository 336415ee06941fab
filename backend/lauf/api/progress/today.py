"""The page that a teacher begins with."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from lauf.api.asker import asker
from lauf.api.progress.results import TestWaits
from lauf.api.shape import Schema
from lauf.progress import today

router = Router(tags=["progress"])


class LessonCard(Schema):
    id: UUID
    class_name: str
    year_group: str
    teacher: str
    place: str
    starts_at: datetime
    minutes: int
    closed: bool
    children: int
    medical_notes: int
    scored: int
    battery: bool
    tests: list[str]


class WaitingLesson(Schema):
    id: UUID
    class_name: str
    starts_at: datetime
    battery: bool
    tests: list[TestWaits]


class ToCome(Schema):
    """A lesson that the timetable makes: it is begun under this id, on whichever device."""

    lesson_id: UUID
    class_id: UUID
    class_name: str
    year_group: str
    teacher: str
    place: str
    starts_at: datetime
    minutes: int
    children: int
    medical_notes: int


class DueTest(Schema):
    id: UUID
    name: str
    last: date


class DueAgain(Schema):
    """What a class has not been tested in for so long."""

    class_id: UUID
    class_name: str
    last: date
    tests: list[DueTest]


class Today(Schema):
    date: date
    to_come: list[ToCome]
    due: list[DueAgain]
    lessons: list[LessonCard]
    coming: list[LessonCard]
    waiting: list[WaitingLesson]


@router.get("/today", response=Today)
def get_today(request: HttpRequest) -> dict[str, Any]:
    return today.today_page(asker(request), timezone.now())
