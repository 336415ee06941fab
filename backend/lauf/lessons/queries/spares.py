"""Lessons that could be begun without a network: what a device has of them beforehand."""

from __future__ import annotations

from datetime import timedelta
from typing import Final
from uuid import UUID

from django.utils import timezone
from typing_extensions import TypedDict

from lauf.catalogue.queries import sees
from lauf.lessons.models import Slot
from lauf.lessons.queries.lessons import lessons_of
from lauf.people.models import Staff

#: Weeks that are looked back on, and as many classes, and tests of one, as a device has at most.
_WEEKS: Final = 8
_MOST_CLASSES: Final = 8
_MOST_TESTS: Final = 4


class SpareRow(TypedDict):
    """A class and a test a lesson can be begun with."""

    class_id: UUID
    class_name: str
    test_id: UUID
    test: str


def spares(staff: Staff) -> list[SpareRow]:
    """The classes this person has had or has on the timetable, each with the tests it did last, and
    then those the others did: none that is private, because who looks at one is on record. Five
    queries at most."""
    since = timezone.now() - timedelta(weeks=_WEEKS)
    lessons = (
        lessons_of(staff)
        .filter(teacher=staff, starts_at__gte=since, school_class__closed_on=None)
        .select_related("school_class")
        .prefetch_related("activities__protocol__test")
        .order_by("-starts_at")
    )
    names: dict[UUID, str] = {}
    done: dict[UUID, dict[UUID, str]] = {}
    everywhere: dict[UUID, str] = {}
    for lesson in lessons:
        names.setdefault(lesson.school_class_id, lesson.school_class.name)
        own = done.setdefault(lesson.school_class_id, {})
        for activity in lesson.activities.all():
            test = activity.protocol.test
            if not test.private and sees(staff, test):
                own.setdefault(test.id, test.name)
                everywhere.setdefault(test.id, test.name)
    slots = Slot.objects.filter(teacher=staff, school_class__closed_on=None)
    for slot in slots.select_related("school_class"):
        names.setdefault(slot.school_class_id, slot.school_class.name)
    return [
        {"class_id": class_id, "class_name": name, "test_id": test_id, "test": test}
        for class_id, name in list(names.items())[:_MOST_CLASSES]
        for test_id, test in list({**done.get(class_id, {}), **everywhere}.items())[:_MOST_TESTS]
    ]
