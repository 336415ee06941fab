"""Writes of lessons and the tests in them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from datetime import datetime
from typing import cast
from uuid import UUID, uuid4

from django.db import IntegrityError, transaction
from django.db.models import Max
from django.utils import timezone

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import battery_of, battery_protocols, newest_protocol
from lauf.errors import NotFound, Refused
from lauf.lessons.actions.plans import keep_revision, save_plan
from lauf.lessons.models import Activity, Lesson, PlanBlock, Run
from lauf.lessons.queries.entries import kept_entry, saved_entries, tests_alone
from lauf.lessons.queries.lessons import activity_of, conditions_of, is_used, lesson_of
from lauf.messages import say
from lauf.people.actions import log, save_once
from lauf.people.models import Change, Staff
from lauf.people.queries import class_of
from lauf.rules.judging.comparability import FreeConditions
from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.blocks import BlockEntry, BlockKind, TestEntry

MOST_TESTS = 12


@transaction.atomic
def plan_lesson(
    staff: Staff,
    *,
    class_id: UUID,
    test_ids: Sequence[UUID],
    starts_at: datetime,
    minutes: int,
    place: str,
    pulses: bool = False,
    lesson_id: UUID | None = None,
    activity_ids: Sequence[UUID] = (),
) -> Lesson:
    """A lesson of one class with its tests in their order, if any yet; with `pulses` it has a plan,
    in which the pulse is taken at rest and after the last of them. The same `lesson_id` again is
    that lesson. `activity_ids`, in the order of the tests, are those under which a device has taken
    scores already: they are in the lesson then, whoever made it. Raises NotFound or Refused."""
    school_class = class_of(staff, class_id)
    wanted = dict.fromkeys(test_ids)
    if len(wanted) > MOST_TESTS:
        raise Refused(say("A lesson can have up to {most_tests} tests.", most_tests=MOST_TESTS))
    protocols = [newest_protocol(staff, test) for test in wanted]
    chosen = dict(zip(test_ids, activity_ids, strict=False))
    lesson = Lesson(
        id=lesson_id or uuid4(),
        school_id=staff.school_id,
        school_class=school_class,
        teacher=staff,
        place=_where(place),
        starts_at=starts_at,
        minutes=_minutes(minutes),
    )
    if not save_once(lesson, ("school_class_id", "starts_at", "place", "minutes")):
        lesson = lesson_of(staff, lesson.id)
        _add_missing(
            lesson, {one: chosen[one.test_id] for one in protocols if one.test_id in chosen}
        )
        return lesson
    if Activity.objects.filter(id__in=activity_ids).exists():
        raise Refused(say("These tests are in another lesson already."))
    Activity.objects.bulk_create(
        Activity(
            id=chosen.get(protocol.test_id) or uuid4(),
            lesson=lesson,
            position=place,
            protocol=protocol,
        )
        for place, protocol in enumerate(protocols)
    )
    if pulses:
        pulse = BLOCK_KINDS[BlockKind.PULSE].new
        tests: list[TestEntry] = [{**one, "id": None} for one in tests_alone(lesson)]
        first, last = (
            cast("BlockEntry", {**pulse, "label": say("Pulse {when}", when=when)})
            for when in (say("at rest"), say("at the end"))
        )
        save_plan(staff, lesson.id, based_on=0, entries=[first, *tests, last])
    return lesson


def _add_missing(lesson: Lesson, wanted: Mapping[ProtocolVersion, UUID]) -> None:
    """Tests of a lesson that another device begins at the same time. Raises Refused."""
    Lesson.objects.select_for_update().get(pk=lesson.pk)
    held = dict(Activity.objects.filter(id__in=wanted.values()).values_list("id", "lesson_id"))
    if set(held.values()) - {lesson.id}:
        raise Refused(say("These tests are in another lesson already."))
    free = (lesson.activities.aggregate(last=Max("position"))["last"] or 0) + 1
    missing = [(protocol, given) for protocol, given in wanted.items() if given not in held]
    Activity.objects.bulk_create(
        Activity(id=given, lesson=lesson, position=free + place, protocol=protocol)
        for place, (protocol, given) in enumerate(missing)
    )


@contextmanager
def lesson_for_a_look(staff: Staff, class_id: UUID, test_id: UUID) -> Iterator[Activity]:
    """The test of a lesson that would be begun now, for as long as its pages are read: nothing of
    it is kept. Raises NotFound; who looks at a private test is on record, so none is shown so."""
    with transaction.atomic():
        now = timezone.now()
        lesson = plan_lesson(
            staff,
            class_id=class_id,
            test_ids=[test_id],
            starts_at=now,
            minutes=45,
            place=say("hall"),
        )
        activity = lesson.activities.select_related("protocol__test").get()
        if activity.protocol.test.private:
            raise NotFound(say("test"))
        yield activity
        transaction.set_rollback(True)


def _where(place: str) -> str:
    where = place.strip()
    if not where or len(where) > 60:
        raise Refused(
            say("Give the place of the lesson in up to 60 letters, such as hall or playground.")
        )
    return where


def _minutes(minutes: int) -> int:
    if not 10 <= minutes <= 180:
        raise Refused(say("A lesson must last 10 to 180 minutes."))
    return minutes


@transaction.atomic
def change_lesson(
    staff: Staff,
    lesson_id: UUID,
    *,
    class_id: UUID,
    starts_at: datetime,
    minutes: int,
    place: str,
) -> Lesson:
    """Change when and where a lesson is, and whose it is. The class and the day stay once something
    was kept in it: scores carry both. Raises NotFound or Refused."""
    lesson_of(staff, lesson_id)
    lesson = Lesson.objects.select_for_update().get(pk=lesson_id)
    school_class = class_of(staff, class_id)
    moved = timezone.localdate(starts_at) != timezone.localdate(lesson.starts_at)
    if (moved or school_class.pk != lesson.school_class_id) and is_used(lesson):
        raise Refused(say("This lesson has scores, so its class and date can no longer change."))
    if school_class.pk != lesson.school_class_id:
        # Groups are made of the children of one class.
        for block in lesson.blocks.filter(settings__has_key="groups"):
            block.settings.pop("groups")
            block.save(update_fields=["settings"])
        lesson.year_group = school_class.year_group
    lesson.school_class, lesson.starts_at = school_class, starts_at
    lesson.minutes, lesson.place = _minutes(minutes), _where(place)
    changed = ["school_class", "year_group", "starts_at", "minutes", "place", "changed_at"]
    lesson.save(update_fields=changed)
    log(
        staff,
        Change.What.LESSON,
        say("Lesson of {lesson} changed: {place}", lesson=lesson, place=lesson.place),
        lesson.id,
    )
    return lesson


@transaction.atomic
def delete_lesson(staff: Staff, lesson_id: UUID) -> None:
    """Delete a lesson in which nothing was kept. Raises NotFound or Refused."""
    lesson_of(staff, lesson_id)
    lesson = Lesson.objects.select_for_update().get(pk=lesson_id)
    if is_used(lesson):
        raise Refused(say("This lesson has records, so it cannot be deleted. Close it instead."))
    log(
        staff,
        Change.What.LESSON,
        say("Lesson of {lesson} deleted, it had no records", lesson=lesson),
        lesson_id,
    )
    Run.objects.filter(activity__lesson=lesson).delete()
    lesson.blocks.all().delete()
    lesson.activities.all().delete()
    lesson.delete()


@transaction.atomic
def close_lesson(staff: Staff, lesson_id: UUID) -> Lesson:
    """Close a lesson; closing a closed one changes nothing. Scores that arrive late from a
    device without network are still taken. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    if lesson.closed_at is None:
        lesson.closed_at, lesson.closed_by = timezone.now(), staff
        lesson.save(update_fields=["closed_at", "closed_by"])
        log(staff, Change.What.LESSON, say("Lesson of {lesson} closed", lesson=lesson), lesson.id)
    return lesson


@transaction.atomic
def reopen_lesson(staff: Staff, lesson_id: UUID) -> Lesson:
    """Open a closed lesson again. Raises NotFound, or Refused for a battery that has been begun
    anew."""
    lesson = lesson_of(staff, lesson_id)
    if lesson.closed_at is not None:
        lesson.closed_at = lesson.closed_by = None
        try:
            with transaction.atomic():
                lesson.save(update_fields=["closed_at", "closed_by"])
        except IntegrityError as error:
            raise Refused(
                say("The class has started this battery again. Close that lesson first.")
            ) from error
        log(
            staff,
            Change.What.LESSON,
            say("Lesson of {lesson} opened again", lesson=lesson),
            lesson.id,
        )
    return lesson


@transaction.atomic
def set_conditions(staff: Staff, activity_id: UUID, conditions: FreeConditions) -> Activity:
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
    found = running.first()
    if found is not None:
        return found
    try:
        with transaction.atomic():
            lesson = Lesson.objects.create(
                school_id=staff.school_id,
                school_class=school_class,
                teacher=staff,
                place=say("several places"),
                starts_at=timezone.now(),
                minutes=60,
                battery=battery,
            )
    except IntegrityError:
        # Begun in the same moment by another press.
        return running.get()
    Activity.objects.bulk_create(
        Activity(lesson=lesson, position=place, protocol=protocol)
        for place, protocol in enumerate(battery_protocols(battery))
    )
    return lesson


@transaction.atomic
def add_activity(staff: Staff, lesson_id: UUID, test_id: UUID) -> Activity:
    """Another test in a lesson, decided on the spot; the plan stays as it was. One that is in the
    lesson already is that one. Raises NotFound, or Refused for a battery."""
    lesson_of(staff, lesson_id)
    lesson = Lesson.objects.select_for_update().get(pk=lesson_id)
    if lesson.battery_id is not None:
        raise Refused(say("The tests of a battery cannot change in a lesson."))
    protocol = newest_protocol(staff, test_id)
    activities = lesson.activities.select_related("protocol__test")
    found = activities.filter(protocol__test=test_id).first()
    if found is not None:
        return found
    place = max((one.position for one in activities), default=-1) + 1
    return Activity.objects.create(lesson=lesson, position=place, protocol=protocol)


@transaction.atomic
def copy_lesson(
    staff: Staff, lesson_id: UUID, *, starts_at: datetime, copy_id: UUID | None = None
) -> Lesson:
    """The same lesson again, as a retest: the same blocks, protocol versions and conditions. The
    same `copy_id` again is that copy. Raises NotFound."""
    source = lesson_of(staff, lesson_id)
    copy = Lesson(
        id=copy_id or uuid4(),
        school_id=source.school_id,
        school_class=source.school_class,
        teacher=staff,
        place=source.place,
        starts_at=starts_at,
        minutes=source.minutes,
        plan_revision=1,
    )
    if not save_once(copy, ("school_class_id", "starts_at")):
        return lesson_of(staff, copy.id)
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
    blocks = [
        PlanBlock(
            lesson=copy,
            position=block.position,
            kind=block.kind,
            label=block.label,
            settings=block.settings,
            activity=activities[block.activity_id] if block.activity_id else None,
        )
        for block in source.blocks.all()
    ]
    PlanBlock.objects.bulk_create(blocks)
    if blocks:
        keep_revision(staff, copy, [
            kept_entry(entry, entry.get("activity_id")) for entry in saved_entries(copy)
        ])  # fmt: skip
    return copy
