"""Writes of the weekly timetable."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import time
from typing import NamedTuple
from uuid import UUID

from django.db import transaction

from lauf.errors import NotFound, Refused
from lauf.lessons.models import Slot
from lauf.messages import say, say_many
from lauf.people.actions import log
from lauf.people.models import Change, SchoolClass, Staff
from lauf.people.queries import class_of
from lauf.rules.reading.words import fitting


class SlotEntry(NamedTuple):
    """A lesson of every week; `teacher_id` None is who asks."""

    weekday: int
    at: time
    minutes: int
    place: str
    teacher_id: UUID | None


@transaction.atomic
def set_timetable(staff: Staff, class_id: UUID, rows: Sequence[SlotEntry]) -> None:
    """The weekly lessons of a class; they replace those there were, lessons that were begun stay.
    Raises NotFound or Refused."""
    group = class_of(staff, class_id)
    SchoolClass.objects.select_for_update().get(pk=group.pk)
    people = set(Staff.objects.filter(school_id=staff.school_id).values_list("id", flat=True))
    held = {(slot.weekday, slot.at): slot for slot in group.slots.all()}
    wanted: dict[tuple[int, time], Slot] = {}
    for row in rows:
        if not (0 <= row.weekday <= 6 and 5 <= row.minutes <= 240):
            raise Refused(say("A lesson needs a day of the week and lasts 5 to 240 minutes."))
        if row.teacher_id is not None and row.teacher_id not in people:
            raise NotFound(say("person"))
        key = (row.weekday, row.at.replace(second=0, microsecond=0))
        if key in wanted:
            raise Refused(
                say("There are two lessons at {at} on the same day.", at=f"{row.at:%H:%M}")
            )
        slot = held.get(key) or Slot(school_class=group, weekday=key[0], at=key[1])
        try:
            place = fitting(row.place, 60, say("A place"))
        except ValueError as problem:
            raise Refused(str(problem)) from problem
        slot.minutes, slot.place = row.minutes, place or say("Hall")
        slot.teacher_id = row.teacher_id or staff.id
        wanted[key] = slot
    group.slots.exclude(pk__in=[slot.pk for slot in wanted.values()]).delete()
    for slot in wanted.values():
        slot.save()
    words = say(
        "{group} has {lessons} a week in the timetable",
        group=group,
        lessons=say_many("{n} lesson", "{n} lessons", len(wanted)),
    )
    log(staff, Change.What.CLASS, words, group.id)
