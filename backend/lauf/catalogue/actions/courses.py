"""Courses: lengths that laps and shuttles are run on."""

from __future__ import annotations

from uuid import UUID

from django.db import IntegrityError, transaction

from lauf.catalogue.models import Course
from lauf.catalogue.queries import course_of
from lauf.errors import Refused
from lauf.messages import say
from lauf.people.actions import log
from lauf.people.models import Change, Staff
from lauf.people.permissions import demand_own
from lauf.rules.reading.rounding import whole


def save_course(staff: Staff, *, course_id: UUID | None, name: str, lap_mm: int,
                steps: float | None, step_mm: int | None) -> Course:  # fmt: skip
    """A measured course of the school. With steps, the lap is steps × step. Raises NotFound, Denied
    for one that somebody else made, or Refused."""
    if not 2 <= len(name.strip()) <= 60:
        raise Refused(say("Give the course a name of 2 to 60 letters."))
    if steps is not None:
        if not step_mm or not 100 <= step_mm <= 2500 or not 1 <= steps <= 20_000:
            raise Refused(say("A step must be 10 cm to 2.5 m, and a course at least 1 step."))
        lap_mm = whole(steps * step_mm)
    if not 1000 <= lap_mm <= 5_000_000:
        raise Refused(say("A lap must be 1 m to 5 km long."))
    course = Course(school_id=staff.school_id, by=staff)
    if course_id:
        course = course_of(staff, course_id)
        demand_own(staff, course.by_id, "course")
    course.name, course.lap_mm = name.strip(), lap_mm
    course.steps, course.step_mm = steps, step_mm if steps is not None else None
    try:
        with transaction.atomic():
            course.save()
    except IntegrityError as error:
        raise Refused(say("A course already has that name.")) from error
    return course


@transaction.atomic
def delete_course(staff: Staff, course_id: UUID) -> None:
    """Take a course away, one's own or any for the head of PE; scores keep the length they were run
    on. Raises NotFound or Denied."""
    course = course_of(staff, course_id)
    demand_own(staff, course.by_id, "course")
    log(staff, Change.What.COURSE, say("Course {name} deleted", name=course.name), course.id)
    course.delete()
