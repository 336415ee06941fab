"""Routes for the weekly timetable, and of the teacher's word over what a child is kept from."""

from __future__ import annotations

from datetime import time
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.lessons import actions, queries
from lauf.lessons.queries.timetable import SlotRow
from lauf.rules.planning.care import Care

router = Router(tags=["timetable"])


class SlotEntry(Schema):
    weekday: int = Field(ge=0, le=6)
    at: time
    minutes: int
    place: str = Field("", max_length=100)
    # Who asks, if nobody is named.
    teacher_id: UUID | None = None


class ClassTimetable(Schema):
    rows: list[SlotEntry] = Field(max_length=30)


@router.get("/timetable", response=list[SlotRow])
def get_timetable(request: HttpRequest) -> list[SlotRow]:
    """The weekly lessons of every class in scope."""
    return queries.timetable(signed_in_staff(request))


@router.get("/classes/{class_id}/timetable", response=list[SlotRow])
def get_class_timetable(request: HttpRequest, class_id: UUID) -> list[SlotRow]:
    return queries.timetable(signed_in_staff(request), class_id)


@router.put("/classes/{class_id}/timetable", response=list[SlotRow])
def set_timetable(request: HttpRequest, class_id: UUID, entry: ClassTimetable) -> list[SlotRow]:
    """All weekly lessons of a class."""
    staff = signed_in_staff(request)
    rows = [actions.SlotEntry(**one.model_dump()) for one in entry.rows]
    actions.set_timetable(staff, class_id, rows)
    return queries.timetable(staff, class_id)


class AllowEntry(Schema):
    pupil_id: UUID
    what: list[Care] = Field(max_length=10)
    allowed: bool


@router.put("/lessons/{lesson_id}/allowed", response={204: None})
def allow(request: HttpRequest, lesson_id: UUID, entry: AllowEntry) -> Any:
    """The teacher's word that a child does, in this lesson, what it is otherwise kept from."""
    actions.allow(
        signed_in_staff(request), lesson_id, entry.pupil_id, entry.what, allowed=entry.allowed
    )
    return Status(204, None)
