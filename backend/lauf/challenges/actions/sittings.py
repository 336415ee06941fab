"""Where the scores of challenges are taken: lessons made for them."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime
from typing import Final
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from lauf.catalogue.models import ProtocolVersion
from lauf.challenges.models import Challenge, ChallengeWeek
from lauf.challenges.queries import challenge_of, class_of_week, week_of
from lauf.errors import Refused
from lauf.lessons.actions import save_plan
from lauf.lessons.models import Activity, Lesson
from lauf.lessons.queries import tests_alone
from lauf.messages import say
from lauf.people.models import SchoolClass, Staff
from lauf.records.models import Attempt
from lauf.rules.judging.comparability import FreeConditions
from lauf.rules.planning.blocks import GET_READY, TestEntry

#: Minutes a lesson for one challenge is down for, and the most for many.
_ONE: Final = 20
_MOST: Final = 120


@transaction.atomic
def open_challenge(staff: Staff, challenge_id: UUID, class_id: UUID) -> Activity:
    """Where a class's scores of a challenge are taken today: today's lesson that has the test under
    the same protocol, or a new one. Raises NotFound, or Refused outside the window."""
    challenge = challenge_of(staff, challenge_id)
    today = timezone.localdate()
    demand_open(challenge, today)
    school_class = class_in_turn(staff, challenge.week, class_id)
    found = Activity.objects.filter(
        lesson__school_class=school_class,
        lesson__starts_at__date=today,
        lesson__battery=None,
        protocol_id=challenge.protocol_id,
    ).first()
    if found is not None:
        return found
    lesson = _lesson(staff, school_class, challenge.week, [challenge.protocol], _ONE)
    return lesson.activities.get()


def demand_open(challenge: Challenge, on: date) -> None:
    """Raises Refused on a day on which a challenge cannot be tried."""
    if not challenge.on <= on <= challenge.week.ends_on:
        raise Refused(
            say(
                "This challenge is open from {on} to {ends_on}.",
                on=f"{challenge.on:%d %b}",
                ends_on=f"{challenge.week.ends_on:%d %b}",
            )
        )


@transaction.atomic
def try_all_again(staff: Staff, week_id: UUID, class_id: UUID) -> Lesson:
    """Where a class tries all of a week's challenges again today, each under its own protocol: a
    new lesson, or the one that was begun for it. Goes made in it stand beside the earlier ones.
    Raises NotFound, or Refused outside the week or without a challenge."""
    week = week_of(staff, week_id)
    protocols = _open_protocols(week, week.starts_on, timezone.localdate())
    school_class = class_in_turn(staff, week, class_id)
    begun = _begun(school_class, protocols)
    minutes = max(_ONE, 10 * len(protocols))
    return begun or _lesson(staff, school_class, week, protocols, minutes)


@transaction.atomic
def hold_set(staff: Staff, week_id: UUID, class_id: UUID, on: date) -> Lesson:
    """Where a class does the challenges of a day one after the other today, led by the clock: each
    exercise, a pause to write it down, the next. A new lesson with that plan, or the one that was
    begun for it. Raises NotFound, or Refused outside the week or without a challenge."""
    week = week_of(staff, week_id)
    protocols = _open_protocols(week, on, on)
    school_class = class_in_turn(staff, week, class_id)
    begun = _begun(school_class, protocols, planned=True)
    if begun is not None:
        return begun
    seconds = sum(_seconds(one, week.pause) for one in protocols)
    minutes = min(_MOST, max(_ONE, -(-seconds // 60)))
    lesson = _lesson(staff, school_class, week, protocols, minutes)
    entries = [_in_a_row(one, week.pause, place) for place, one in enumerate(tests_alone(lesson))]
    save_plan(staff, lesson.id, based_on=0, entries=entries)
    return lesson


def _in_a_row(entry: TestEntry, pause: int, place: int) -> TestEntry:
    """A test's block as one exercise of a set: nothing waits for a press."""
    spoken = (
        say("Write it down. Next: {get}", get=entry.get("label", ""))
        if place
        else say("First: {get}", get=entry.get("label", ""))
    )
    return {
        **entry,
        "id": None,
        "setup": pause,
        "say": spoken,
        "get_ready": GET_READY,
        "waits": False,
    }


def _seconds(protocol: ProtocolVersion, pause: int) -> int:
    goes = protocol.waves * protocol.tries
    each = (protocol.seconds or protocol.trial_seconds) + GET_READY
    return pause + goes * (each + protocol.changeover_seconds)


def _open_protocols(week: ChallengeWeek, first: date, last: date) -> list[ProtocolVersion]:
    """What the challenges of these days are done under, in their order. Raises Refused where there
    is none, or the week is over or not yet begun."""
    today = timezone.localdate()
    days = week.challenges.filter(on__range=(first, last)).select_related("protocol")
    protocols = {one.protocol_id: one.protocol for one in days}
    if not protocols or not first <= today <= week.ends_on:
        raise Refused(
            say(
                "There is nothing to do today. The week is from {starts_on} to {ends_on}.",
                starts_on=f"{week.starts_on:%d %b}",
                ends_on=f"{week.ends_on:%d %b}",
            )
        )
    return list(protocols.values())


def class_in_turn(staff: Staff, week: ChallengeWeek, class_id: UUID) -> SchoolClass:
    """A class of the week, held until the lesson is made: however often it is asked for at once,
    it is one lesson. Raises NotFound."""
    found = class_of_week(staff, week, class_id)
    return SchoolClass.objects.select_for_update().get(pk=found.pk)


def _begun(
    school_class: SchoolClass, protocols: Sequence[ProtocolVersion], *, planned: bool = False
) -> Lesson | None:
    """Today's open lesson that has all of these, or the one of them that has a plan."""
    with_a_plan = {"blocks__isnull": False} if planned else {}
    open_today = Lesson.objects.filter(
        school_class=school_class,
        starts_at__date=timezone.localdate(),
        battery=None,
        closed_at=None,
        **with_a_plan,
    )
    wanted = {one.id for one in protocols}
    for lesson in open_today.distinct().prefetch_related("activities"):
        if {one.protocol_id for one in lesson.activities.all()} >= wanted:
            return lesson
    return None


def _lesson(
    staff: Staff,
    school_class: SchoolClass,
    week: ChallengeWeek,
    protocols: Sequence[ProtocolVersion],
    minutes: int,
    starts_at: datetime | None = None,
) -> Lesson:
    """A lesson of these tests, now unless another time is named, each on the course that the class
    had in this week's last go."""
    lesson = Lesson.objects.create(
        school_id=staff.school_id,
        school_class=school_class,
        teacher=staff,
        place="challenge",
        starts_at=starts_at or timezone.now(),
        minutes=minutes,
    )
    before = _conditions_before(school_class, week, protocols)
    Activity.objects.bulk_create(
        Activity(
            lesson=lesson,
            position=place,
            protocol=protocol,
            conditions=before.get(protocol.id, {}),
        )
        for place, protocol in enumerate(protocols)
    )
    return lesson


def lesson_for(
    staff: Staff, school_class: SchoolClass, challenge: Challenge, starts_at: datetime
) -> Lesson:
    """A new lesson for goes of a challenge that were made without one."""
    return _lesson(staff, school_class, challenge.week, [challenge.protocol], _ONE, starts_at)


def _conditions_before(
    school_class: SchoolClass, week: ChallengeWeek, protocols: Sequence[ProtocolVersion]
) -> dict[UUID, FreeConditions]:
    """The free conditions of a class's newest scores in a week's challenges, by protocol: another
    go is made as the ones before, or it cannot stand beside them. One query."""
    made = Attempt.objects.filter(
        activity__protocol__in=protocols,
        activity__lesson__school_class=school_class,
        on__gte=week.starts_on,
        successor=None,
    ).order_by("recorded_at")
    return dict(made.values_list("activity__protocol_id", "activity__conditions"))
