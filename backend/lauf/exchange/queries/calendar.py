"""A person's lessons as an iCalendar feed (RFC 5545)."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Final
from uuid import UUID

from django.utils import timezone
from icalendar import Calendar, Event

from lauf.catalogue.queries import for_everybody, sees
from lauf.lessons.models import Lesson
from lauf.lessons.queries import calendar_of, to_come
from lauf.messages import say
from lauf.people.models import Staff

_BACK: Final = timedelta(weeks=4)
_AHEAD: Final = timedelta(weeks=26)


def lessons_calendar(staff: Staff, now: datetime) -> bytes:
    """The own lessons of four weeks back and half a year ahead, those of the timetable with them:
    class, place and tests, no child and no body measurement. Six queries."""
    today = timezone.localdate(now)
    public = for_everybody(staff)
    kept = (
        Lesson.objects.filter(teacher=staff, starts_at__gte=now - _BACK, starts_at__lt=now + _AHEAD)
        .select_related("school_class")
        .prefetch_related("activities__protocol__test")
    )
    feed = Calendar()
    feed.add("prodid", "-//Lauf//Lessons//EN")
    feed.add("version", "2.0")
    feed.add("x-wr-calname", say("PE, {name}", name=staff.name))
    for lesson in kept:
        tests = [
            one.protocol.test.name
            for one in lesson.activities.all()
            if sees(public, one.protocol.test)
        ]
        about = (lesson.school_class.name, lesson.place, lesson.minutes)
        event = _event(lesson.id, lesson.starts_at, lesson.changed_at, about, ", ".join(tests))
        feed.add_component(event)
    ahead = to_come(staff, today, today + _AHEAD, calendar_of(staff.school), own=True)
    for one in ahead:
        slot = one.slot
        about = (slot.school_class.name, slot.place, slot.minutes)
        feed.add_component(_event(one.lesson_id, one.starts_at, slot.changed_at, about, ""))
    return bytes(feed.to_ical())


def _event(
    uid: UUID, starts_at: datetime, revised_at: datetime, about: tuple[str, str, int], tests: str
) -> Event:
    """The same lesson has the same id and stamp however often it is fetched: when it was last
    revised (RFC 5545, 3.8.7.2)."""
    name, place, minutes = about
    event = Event()
    event.add("uid", f"{uid}@lauf")
    event.add("dtstamp", revised_at)
    event.add("dtstart", starts_at)
    event.add("dtend", starts_at + timedelta(minutes=minutes))
    event.add("summary", say("PE {name}", name=name))
    event.add("location", place)
    if tests:
        event.add("description", tests)
    return event
