"""Reads of the weekly timetable: the lessons that it makes."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import NamedTuple
from uuid import UUID, uuid5

from django.utils import timezone
from typing_extensions import TypedDict

from lauf.lessons.models import Lesson, Slot
from lauf.lessons.queries.lessons import day_bounds, lessons_of
from lauf.people.models import School, Staff, TermKind
from lauf.people.queries import children_in, class_of, classes_of
from lauf.rules.planning.school_days import Span, days_of


class ToCome(NamedTuple):
    """A lesson that the timetable makes, on one day: nothing of it is kept yet. `lesson_id` is the
    one it gets when it is begun, on whichever device."""

    lesson_id: UUID
    slot: Slot
    starts_at: datetime


class Calendar(NamedTuple):
    """When a school has lessons."""

    terms: tuple[Span, ...]
    holidays: tuple[Span, ...]


def calendar_of(school: School) -> Calendar:
    """The school's terms and holidays. One query."""
    kept = list(school.terms.all())
    terms = (Span(one.starts, one.ends) for one in kept if one.kind == TermKind.TERM)
    free = (Span(one.starts, one.ends) for one in kept if one.kind == TermKind.HOLIDAY)
    return Calendar(tuple(terms), tuple(free))


def to_come(
    staff: Staff, first: date, last: date, calendar: Calendar, *, own: bool = False
) -> list[ToCome]:
    """What the timetable makes on these days for the classes in scope (or the own lessons), without
    those that were begun, and those a class has another lesson at the time of. Two queries."""
    slots = (
        Slot.objects.filter(school_class__in=classes_of(staff).filter(closed_on=None))
        .select_related("school_class__year_group", "teacher")
        .annotate(**children_in("school_class"))
    )
    if own:
        slots = slots.filter(teacher=staff)
    start, _ = day_bounds(first)
    _, end = day_bounds(last)
    begun = list(lessons_of(staff).filter(starts_at__gte=start, starts_at__lt=end))
    made = [
        ToCome(uuid5(slot.id, day.isoformat()), slot, _moment(day, slot))
        for slot in slots
        for day in days_of(slot.weekday, Span(first, last), *calendar)
    ]
    free = [one for one in made if not any(_meets(one, lesson) for lesson in begun)]
    return sorted(free, key=lambda one: (one.starts_at, str(one.lesson_id)))


def _moment(day: date, slot: Slot) -> datetime:
    return datetime.combine(day, slot.at, tzinfo=timezone.get_current_timezone())


def _meets(one: ToCome, lesson: Lesson) -> bool:
    if lesson.id == one.lesson_id:
        return True
    if lesson.school_class_id != one.slot.school_class_id or lesson.battery_id is not None:
        return False
    ends = one.starts_at + timedelta(minutes=one.slot.minutes)
    return lesson.starts_at < ends and one.starts_at < lesson.starts_at + timedelta(
        minutes=lesson.minutes
    )


class SlotRow(TypedDict):
    """A lesson of every week; 0 is Monday. `at` is the time of the clock, as 09:05."""

    class_id: UUID
    class_name: str
    weekday: int
    at: str
    minutes: int
    place: str
    teacher_id: UUID
    teacher: str


def timetable(staff: Staff, class_id: UUID | None = None) -> list[SlotRow]:
    """The weekly lessons of the classes in scope, or of one of them. Two queries at most. Raises
    NotFound."""
    slots = Slot.objects.filter(school_class__in=classes_of(staff).filter(closed_on=None))
    if class_id is not None:
        slots = slots.filter(school_class=class_of(staff, class_id))
    return [
        {
            "class_id": slot.school_class_id,
            "class_name": slot.school_class.name,
            "weekday": slot.weekday,
            "at": slot.at.strftime("%H:%M"),
            "minutes": slot.minutes,
            "place": slot.place,
            "teacher_id": slot.teacher_id,
            "teacher": slot.teacher.name,
        }
        for slot in slots.select_related("school_class", "teacher")
    ]
