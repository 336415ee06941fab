"""Writes of goes: children enter them, a teacher accepts or declines them."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Final
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from lauf.catalogue.queries import check_variant
from lauf.challenges.actions.sittings import demand_open, lesson_for
from lauf.challenges.models import Challenge, Go, GoState
from lauf.challenges.queries.entering import (
    Entrance,
    challenge_for,
    pupil_by,
    read_go,
)
from lauf.challenges.queries.goes import goes_of, odd
from lauf.challenges.queries.weeks import week_of
from lauf.errors import IdTaken, NotFound, Refused
from lauf.judgement.questions import asked_in
from lauf.lessons.models import Activity
from lauf.lessons.queries import one_test_in_turn
from lauf.messages import say
from lauf.people.models import Pupil, SchoolClass, Staff
from lauf.progress.lesson.lanes import child_after
from lauf.records.actions import confirm_flag, record_attempt
from lauf.records.models import WITHDRAWN, Attempt
from lauf.rules.judging.tries import SPARE_TRIES
from lauf.rules.reading.entry import LONGEST_ENTRY, EntryError

#: Goes of a child in one challenge that wait at once.
_MOST_WAITING: Final = 30


@transaction.atomic
def enter_go(
    entrance: Entrance,
    slip_id: UUID,
    *,
    go_id: UUID,
    challenge_id: UUID,
    typed: str,
    variant: str,
    made_at: datetime,
    counted_by: UUID | None = None,
) -> Go:
    """Keep what a child did in a challenge, for a teacher to accept.

    slip_id     whose go it is, as the device knows the child
    counted_by  the slip of the partner who counted

    Sending the same id again returns what is stored. Raises NotFound, EntryError for what is not a
    score, IdTaken for an id that came with another go, Refused outside the days of the challenge or
    where too many wait. Six queries at most.
    """
    challenge = challenge_for(entrance, challenge_id)
    pupil = Pupil.objects.select_for_update(of=("self",)).get(pk=pupil_by(entrance, slip_id).pk)
    stored = Go.objects.filter(pk=go_id).select_related("challenge").first()
    if stored is not None:
        if (stored.challenge_id, stored.pupil_id, stored.typed, stored.variant) != (
            challenge.id,
            pupil.id,
            typed.strip(),
            variant,
        ):
            raise IdTaken
        return stored
    check_variant(challenge.protocol, variant)
    entry = read_go(typed, challenge.protocol.measure)
    demand_open(challenge, timezone.localdate(made_at))
    waiting = Go.objects.filter(challenge=challenge, pupil=pupil, state=GoState.WAITING)
    if waiting.count() >= _MOST_WAITING:
        raise Refused(say("Your teacher looks at these goes first. Then enter more."))
    return Go.objects.create(
        id=go_id,
        school_id=entrance.week.school_id,
        challenge=challenge,
        pupil=pupil,
        by_slip=entrance.slip is not None,
        counted_by=pupil_by(entrance, counted_by) if counted_by else None,
        typed=entry.typed[:LONGEST_ENTRY],
        variant=variant,
        made_at=made_at,
    )


@transaction.atomic
def undo_go(entrance: Entrance, slip_id: UUID, go_id: UUID, now: datetime) -> Go:
    """A child undoes its own go while it waits; one that never got here is not kept. Twice changes
    nothing. Raises NotFound for a child of another device, or Refused once a teacher has
    decided about it."""
    pupil = pupil_by(entrance, slip_id)
    go = (
        Go.objects.select_for_update()
        .filter(pk=go_id, pupil=pupil, challenge__week=entrance.week)
        .first()
    )
    if go is None:  # it never got here
        return Go(id=go_id, state=GoState.UNDONE)
    if go.state not in (GoState.WAITING, GoState.UNDONE):
        raise Refused(say("Your teacher has already looked at this go."))
    go.state, go.decided_at = GoState.UNDONE, go.decided_at or now
    go.save()
    return go


@transaction.atomic
def accept_goes(
    staff: Staff, week_id: UUID, go_ids: Sequence[UUID], now: datetime, *, sure: bool
) -> list[str]:
    """Make goes the scores they are: each in the lesson of its day, as any other score.

    sure  the teacher has looked at what is odd about them; else those that are odd still wait

    A go that was decided about is left as it is. Returns why some still wait. Raises NotFound.
    Several queries a go.
    """
    week = week_of(staff, week_id)
    goes = list(goes_of(staff, week).filter(pk__in=go_ids).select_for_update(of=("self",)))
    if len(goes) != len(set(go_ids)):
        raise NotFound(say("go"))
    waiting = [go for go in goes if go.state == GoState.WAITING]
    flags = {} if sure else odd(waiting)
    left: list[str] = []
    for go in waiting:
        if go.id in flags:
            continue
        try:
            with transaction.atomic():
                go.attempt = _record(staff, go, sure=sure)
        except (Refused, EntryError) as error:
            left.append(error.message if isinstance(error, EntryError) else str(error))
            continue
        _decide(go, GoState.ACCEPTED, staff, now)
    return left


def _record(staff: Staff, go: Go, *, sure: bool) -> Attempt:
    """The score a go becomes. It has the id of the go."""
    group = go.pupil.school_class
    if group is None:
        raise Refused(say("{name} has left.", name=go.pupil.name))
    activity, number = _place(staff, go, group)
    taken = one_test_in_turn(staff, activity.id)
    kept = record_attempt(
        staff,
        taken,
        attempt_id=go.id,
        pupil_id=go.pupil_id,
        typed=go.typed,
        variant=go.variant,
        wave=None,
        recorded_at=go.made_at,
        try_number=number,
        why=say("entered with the slip of the family")
        if go.by_slip
        else say("entered by the child"),
        counted_by=go.counted_by_id if _is_listed(go, group) else None,
    )
    # What is asked of any score is asked of it too.
    child_after(taken, go.pupil_id)
    if sure:
        for asked in asked_in(activity.id).get(kept.id, []):
            confirm_flag(staff, kept.id, asked.flag)
    return kept


def _is_listed(go: Go, group: SchoolClass) -> bool:
    return go.counted_by is not None and go.counted_by.school_class_id == group.id


def _place(staff: Staff, go: Go, group: SchoolClass) -> tuple[Activity, int]:
    """Where a go is recorded: in an open lesson of its day that has room for one more of the child,
    or in a new one."""
    challenge = go.challenge
    most = challenge.protocol.tries + SPARE_TRIES
    for activity in _activities(challenge, group, go):
        held = Attempt.objects.filter(activity=activity, pupil=go.pupil_id, successor=None)
        taken = set(held.exclude(reason=WITHDRAWN).values_list("try_number", flat=True))
        free = next((number for number in range(1, most + 1) if number not in taken), None)
        if free is not None:
            return activity, free
    lesson = lesson_for(staff, group, challenge, go.made_at)
    return lesson.activities.get(), 1


def _activities(challenge: Challenge, group: SchoolClass, go: Go) -> Sequence[Activity]:
    found = Activity.objects.filter(
        lesson__school_class=group,
        lesson__starts_at__date=timezone.localdate(go.made_at),
        lesson__battery=None,
        lesson__closed_at=None,
        protocol=challenge.protocol_id,
    )
    return list(found.order_by("lesson__starts_at", "position"))


@transaction.atomic
def decline_go(staff: Staff, week_id: UUID, go_id: UUID, now: datetime) -> Go:
    """A go does not count. Twice changes nothing. Raises NotFound, or Refused for one that was
    accepted: its score is corrected where it is."""
    return _decide_one(staff, week_id, go_id, GoState.DECLINED, now)


@transaction.atomic
def let_wait(staff: Staff, week_id: UUID, go_id: UUID, now: datetime) -> Go:
    """A go that was declined waits again. Raises as `decline_go`."""
    return _decide_one(staff, week_id, go_id, GoState.WAITING, now)


def _decide_one(staff: Staff, week_id: UUID, go_id: UUID, state: GoState, now: datetime) -> Go:
    found = goes_of(staff, week_of(staff, week_id)).filter(pk=go_id)
    go = found.exclude(state=GoState.UNDONE).select_for_update(of=("self",)).first()
    if go is None:
        raise NotFound(say("go"))
    if go.state == GoState.ACCEPTED:
        raise Refused(say("This go has been accepted. Correct or undo its score in Results."))
    _decide(go, state, staff, now)
    return go


def _decide(go: Go, state: GoState, staff: Staff, now: datetime) -> None:
    is_open = state == GoState.WAITING
    go.state = state
    go.decided_by, go.decided_at = (None, None) if is_open else (staff, now)
    go.save()
