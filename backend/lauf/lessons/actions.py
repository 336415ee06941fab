"""Every write about lessons."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from django.db import IntegrityError, transaction
from django.utils import timezone

from lauf.catalogue.models import Test
from lauf.catalogue.queries import battery_of, battery_protocols, newest_protocol
from lauf.lessons.models import Activity, Conduct, Lesson, PlanBlock, PlanTemplate, WaveRun
from lauf.lessons.plans import read_plan, saved_entries, settings_of
from lauf.lessons.queries import activity_of, conditions_of, lesson_of
from lauf.lessons.templates import template_of
from lauf.people.models import Staff
from lauf.people.queries import Refused, class_of

MOST_BLOCKS = 40


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


@transaction.atomic
def save_plan(
    staff: Staff, lesson_id: UUID, *, based_on: int, entries: list[dict[str, Any]]
) -> Lesson:
    """Keep a lesson's plan whole. A test new to the lesson becomes an activity; one that is taken
    out goes, unless something was done in it. Raises NotFound, or Refused for a block that cannot
    be, or when somebody has changed the plan meanwhile."""
    lesson_of(staff, lesson_id)
    lesson = Lesson.objects.select_for_update().get(pk=lesson_id)
    if lesson.battery_id is not None:
        raise Refused("A battery is filled as a grid; plan a lesson of its own for the hall.")
    if lesson.plan_revision != based_on:
        raise Refused("Somebody has changed this plan meanwhile: reload to see it.")
    if not 1 <= len(entries) <= MOST_BLOCKS:
        raise Refused(f"A plan has 1 to {MOST_BLOCKS} blocks.")
    plan = read_plan(staff, entries, max(1, lesson.school_class.pupils.count()))
    left = {activity.id: activity for activity in lesson.activities.select_related("protocol")}
    kept: list[Activity | None] = []
    for one in plan:
        if one.version is None:
            kept.append(None)
            continue
        activity = left.get(one.entry.get("activity_id") or UUID(int=0))
        if activity is None or activity.protocol.test_id != one.version.test_id:
            activity = next(
                (a for a in left.values() if a.protocol.test_id == one.version.test_id), None
            )
        if activity is not None:
            left.pop(activity.id)
        kept.append(activity or Activity(lesson=lesson, protocol=one.version))
    lesson.blocks.all().delete()
    for activity in left.values():
        if activity.attempts.exists() or activity.runs.exists():
            name = activity.protocol.test.name
            raise Refused(f"{name} stays in the plan: something was done in it already.")
        activity.delete()
    _renumber([activity for activity in kept if activity])
    PlanBlock.objects.bulk_create(
        PlanBlock(
            lesson=lesson,
            position=place,
            kind=one.block.kind.value,
            label=one.block.label,
            settings=settings_of(one.entry),
            activity=activity,
        )
        for place, (one, activity) in enumerate(zip(plan, kept, strict=True))
    )
    lesson.plan_revision += 1
    lesson.save(update_fields=["plan_revision"])
    return lesson


def _renumber(activities: list[Activity]) -> None:
    """Give the activities their places; out of the way first, since each place is there once."""
    known = [activity for activity in activities if not activity._state.adding]
    for place, activity in enumerate(known):
        activity.position = 1000 + place
        activity.save(update_fields=["position"])
    for place, activity in enumerate(activities):
        activity.position = place
        activity.save()


@transaction.atomic
def add_activity(staff: Staff, lesson_id: UUID, test_id: UUID) -> Activity:
    """Another test in a lesson, decided on the spot; the plan stays as it was. One that is in the
    lesson already is that one. Raises NotFound, or Refused for a battery."""
    lesson_of(staff, lesson_id)
    lesson = Lesson.objects.select_for_update().get(pk=lesson_id)
    if lesson.battery_id is not None:
        raise Refused("A battery has the tests it was made of.")
    protocol = newest_protocol(staff, test_id)
    activities = lesson.activities.select_related("protocol__test")
    found = activities.filter(protocol__test=test_id).first()
    if found is not None:
        return found
    place = max((one.position for one in activities), default=-1) + 1
    return Activity.objects.create(lesson=lesson, position=place, protocol=protocol)


@transaction.atomic
def copy_lesson(staff: Staff, lesson_id: UUID, *, starts_at: datetime) -> Lesson:
    """The same lesson again, as a retest: the same blocks, protocol versions and conditions. Raises
    NotFound."""
    source = lesson_of(staff, lesson_id)
    copy = Lesson.objects.create(
        school_id=source.school_id,
        school_class=source.school_class,
        teacher=staff,
        place=source.place,
        starts_at=starts_at,
        minutes=source.minutes,
        plan_revision=1,
    )
    activities = {
        activity.id: Activity(
            lesson=copy,
            position=activity.position,
            protocol_id=activity.protocol_id,
            conditions=activity.conditions,
        )
        for activity in source.activities.all()
    }
    Activity.objects.bulk_create(activities.values())
    PlanBlock.objects.bulk_create(
        PlanBlock(
            lesson=copy,
            position=block.position,
            kind=block.kind,
            label=block.label,
            settings=block.settings,
            activity=activities[block.activity_id] if block.activity_id else None,
        )
        for block in source.blocks.all()
    )
    return copy


@transaction.atomic
def report_conduct(
    staff: Staff, lesson_id: UUID, *, run_id: UUID, revision: int, plan_revision: int,
    state: dict[str, Any],
) -> Conduct:  # fmt: skip
    """Keep the state of a lesson's conductor. The same report twice, or an older one of the same
    run that comes late, changes nothing; a new run takes over. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    values = {
        "run_id": run_id,
        "revision": revision,
        "plan_revision": plan_revision,
        "state": state,
        "by": staff,
    }
    conduct, made = Conduct.objects.select_for_update().get_or_create(
        lesson=lesson, defaults=values
    )
    if not made and (conduct.run_id != run_id or revision > conduct.revision):
        for name, value in values.items():
            setattr(conduct, name, value)
        conduct.save()
    return conduct


@transaction.atomic
def save_template(staff: Staff, lesson_id: UUID, name: str) -> PlanTemplate:
    """Keep a lesson's plan as a template, without its groups of children. Raises NotFound, or
    Refused for a name that is taken or missing."""
    lesson = lesson_of(staff, lesson_id)
    label = name.strip()
    if not label or len(label) > 60:
        raise Refused("Give the template a name of up to 60 letters.")
    entries = saved_entries(lesson)
    if not entries:
        raise Refused("This plan has no blocks yet.")
    ids = {entry["test_id"] for entry in entries if entry.get("test_id")}
    slugs: dict[UUID, str] = dict(Test.objects.filter(pk__in=ids).values_list("id", "slug"))
    blocks = []
    for entry in entries:
        kept = {key: value for key, value in settings_of(entry).items() if key != "groups"}
        block = {**kept, "kind": entry["kind"], "label": entry["label"]}
        if entry.get("test_id"):
            block["test"] = slugs[entry["test_id"]]
        blocks.append(block)
    try:
        with transaction.atomic():
            return PlanTemplate.objects.create(
                school_id=staff.school_id,
                name=label,
                minutes=lesson.minutes,
                blocks=blocks,
                by=staff,
            )
    except IntegrityError as error:
        raise Refused(f"There is a template “{label}” already: choose another name.") from error


@transaction.atomic
def delete_template(staff: Staff, code: str) -> None:
    """Take a template away: one's own, or any for the head of PE. Raises NotFound or Refused."""
    found = template_of(staff, code)
    if not staff.is_head and found.by_id != staff.id:
        raise Refused("Only who made a template, or the head of PE, takes it away.")
    found.delete()
