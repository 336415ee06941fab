"""The first page: today's lessons, the coming ones, and those that wait."""

from __future__ import annotations

from collections import defaultdict
from datetime import date, datetime, timedelta
from typing import Any
from uuid import UUID

from django.db.models import Count
from django.utils import timezone
from typing_extensions import TypedDict

from lauf.lessons.models import Activity
from lauf.lessons.queries import (
    ToCome,
    calendar_of,
    day_bounds,
    lessons_between,
    lessons_of,
    to_come,
)
from lauf.people.models import Staff
from lauf.progress.due import DueAgain, due_again
from lauf.progress.lesson.results import TestWaits, waiting_in
from lauf.records.queries import counting


class LessonCard(TypedDict):
    """A lesson as Today shows it."""

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


class WaitingLesson(TypedDict):
    """A lesson in which something is missing."""

    id: UUID
    class_name: str
    starts_at: datetime
    battery: bool
    tests: list[TestWaits]


class LessonToCome(TypedDict):
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


class Today(TypedDict):
    """The day: its lessons, what waits, and what comes."""

    date: date
    to_come: list[LessonToCome]
    due: list[DueAgain]
    lessons: list[LessonCard]
    coming: list[LessonCard]
    waiting: list[WaitingLesson]


def _to_come(one: ToCome) -> LessonToCome:
    slot: Any = one.slot
    return {
        "lesson_id": one.lesson_id,
        "class_id": slot.school_class_id,
        "class_name": slot.school_class.name,
        "year_group": slot.school_class.year_group.name,
        "teacher": slot.teacher.name,
        "place": slot.place,
        "starts_at": one.starts_at,
        "minutes": slot.minutes,
        "children": slot.children,
        "medical_notes": slot.notes,
    }


def today_page(staff: Staff, now: datetime) -> Today:
    """Today's lessons, the coming ones, what the timetable makes of these days, those that wait
    with what waits in them, and what is due again. As many queries as `waiting_in`, and ten."""
    today = timezone.localdate(now)
    start, end = day_bounds(today)
    calendar = calendar_of(staff.school)
    lessons = lessons_between(staff, start, end + timedelta(days=7))
    waiting = (
        lessons_of(staff)
        .filter(starts_at__lt=start, closed_at=None)
        .select_related("school_class")
        .order_by("-starts_at")[:20]
    )
    waits = waiting_in(staff, list(waiting))
    ids = [lesson.id for lesson in lessons]
    scored = dict(
        counting()
        .filter(activity__lesson__in=ids)
        .values_list("activity__lesson")
        .annotate(n=Count("pupil", distinct=True))
    )
    tests: dict[UUID, list[str]] = defaultdict(list)
    for lesson_id, name in (
        Activity.objects.filter(lesson__in=ids)
        .order_by("position")
        .values_list("lesson_id", "protocol__test__name")
    ):
        tests[lesson_id].append(name)

    def card(lesson: Any) -> LessonCard:
        return {
            "id": lesson.id,
            "class_name": lesson.school_class.name,
            "year_group": lesson.year_group.name,
            "teacher": lesson.teacher.name,
            "place": lesson.place,
            "starts_at": lesson.starts_at,
            "minutes": lesson.minutes,
            "closed": lesson.closed_at is not None,
            "children": lesson.children,
            "medical_notes": lesson.notes,
            "scored": scored.get(lesson.id, 0),
            "battery": lesson.battery_id is not None,
            "tests": [lesson.battery.name] if lesson.battery else tests[lesson.id],
        }

    return {
        "date": today,
        "to_come": [
            _to_come(one) for one in to_come(staff, today, today + timedelta(days=7), calendar)
        ],
        "due": due_again(staff, today, calendar),
        "lessons": [card(lesson) for lesson in lessons if lesson.starts_at < end],
        "coming": [card(lesson) for lesson in lessons if lesson.starts_at >= end],
        "waiting": [
            {
                "id": row.id,
                "class_name": row.school_class.name,
                "starts_at": row.starts_at,
                "battery": row.battery_id is not None,
                "tests": waits[row.id],
            }
            for row in waiting
        ],
    }
