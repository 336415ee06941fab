"""Every write about lessons."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from django.db import IntegrityError, transaction
from django.utils import timezone

from lauf.catalogue.queries import battery_of, battery_protocols, newest_protocol
from lauf.lessons.models import Activity, Lesson, WaveRun
from lauf.lessons.queries import activity_of, conditions_of, lesson_of
from lauf.people.models import Staff
from lauf.people.queries import Refused, class_of


@transaction.atomic
def plan_lesson(
    staff: Staff,
    *,
    class_id: UUID,
    test_id: UUID,
    starts_at: datetime,
    minutes: int,
    place: str,
) -> Lesson:
    """A lesson of one class with one test. Raises NotFound or Refused."""
    school_class = class_of(staff, class_id)
    protocol = newest_protocol(staff, test_id)
    where = place.strip()
    if not where or len(where) > 60:
        raise Refused("Say where the lesson is, in up to 60 letters: hall, playground, …")
    if not 10 <= minutes <= 180:
        raise Refused("A lesson lasts 10 to 180 minutes.")
    lesson = Lesson.objects.create(
        school_id=staff.school_id,
        school_class=school_class,
        teacher=staff,
        place=where,
        starts_at=starts_at,
        minutes=minutes,
    )
    Activity.objects.create(lesson=lesson, protocol=protocol)
    return lesson


@transaction.atomic
def report_run(
    staff: Staff,
    activity_id: UUID,
    run_id: UUID,
    *,
    wave: int,
    revision: int,
    anchor_ms: int,
    paused_ms: int | None,
    ended: str,
    worked_seconds: int | None,
) -> WaveRun:
    """Keep the state of the clock of one wave. The same report twice, or an older one that comes
    late, changes nothing. Raises NotFound, or Refused when another run of the wave counts."""
    activity = activity_of(staff, activity_id)
    protocol = activity.protocol
    if not 1 <= wave <= protocol.waves:
        raise Refused(f"This test has {protocol.waves} waves.")
    if ended in (WaveRun.Ended.COMPLETE, WaveRun.Ended.EARLY):
        if protocol.seconds is None or not 0 <= (worked_seconds or 0) <= protocol.seconds:
            raise Refused(f"A wave of this test works 0 to {protocol.seconds} s.")
        if ended == WaveRun.Ended.COMPLETE:
            worked_seconds = protocol.seconds
        elif worked_seconds is None:
            raise Refused("An early stop says after how many seconds.")
    else:
        worked_seconds = None
    values = {
        "revision": revision,
        "anchor_ms": anchor_ms,
        "paused_ms": paused_ms,
        "ended": ended,
        "worked_seconds": worked_seconds,
        "by": staff,
    }
    try:
        with transaction.atomic():
            run, made = WaveRun.objects.select_for_update().get_or_create(
                id=run_id, defaults={**values, "activity": activity, "wave": wave}
            )
            if run.activity_id != activity.id or run.wave != wave:
                raise Refused("That clock belongs to another wave.")
            if not made and revision > run.revision:
                for name, value in values.items():
                    setattr(run, name, value)
                run.save()
    except IntegrityError as error:
        raise Refused("This wave was run already; restart it to run it again.") from error
    return run


def close_lesson(staff: Staff, lesson_id: UUID) -> Lesson:
    """Close a lesson; closing a closed one changes nothing. Scores that arrive late from a
    device without network are still taken. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    if lesson.closed_at is None:
        lesson.closed_at, lesson.closed_by = timezone.now(), staff
        lesson.save(update_fields=["closed_at", "closed_by"])
    return lesson


def reopen_lesson(staff: Staff, lesson_id: UUID) -> Lesson:
    """Open a closed lesson again. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    lesson.closed_at = lesson.closed_by = None
    lesson.save(update_fields=["closed_at", "closed_by"])
    return lesson


@transaction.atomic
def set_conditions(staff: Staff, activity_id: UUID, conditions: dict[str, Any]) -> Activity:
    """Set an activity's free conditions for the class; scores already taken keep theirs. Raises
    NotFound, or Refused for one the protocol does not have or a value that cannot be."""
    activity = activity_of(staff, activity_id)
    activity.conditions = conditions_of(activity, conditions)
    activity.save(update_fields=["conditions"])
    return activity


@transaction.atomic
def start_sitting(staff: Staff, battery_id: UUID, class_id: UUID) -> Lesson:
    """Give a battery to a class: one grid, filled over several days. A sitting that is still open
    is gone on with. Raises NotFound."""
    battery = battery_of(staff, battery_id)
    school_class = class_of(staff, class_id)
    running = Lesson.objects.filter(battery=battery, school_class=school_class, closed_at=None)
    found = running.order_by("-starts_at").first()
    if found is not None:
        return found
    lesson = Lesson.objects.create(
        school_id=staff.school_id,
        school_class=school_class,
        teacher=staff,
        place="several places",
        starts_at=timezone.now(),
        minutes=60,
        battery=battery,
    )
    Activity.objects.bulk_create(
        Activity(lesson=lesson, position=place, protocol=protocol)
        for place, protocol in enumerate(battery_protocols(battery))
    )
    return lesson
