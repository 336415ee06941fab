"""Writes of challenge weeks and the challenges in them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date, timedelta
from enum import StrEnum
from typing import Final
from uuid import UUID, uuid4

from django.db import transaction
from django.db.models import QuerySet

from lauf.catalogue.actions import in_seconds
from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import newest_protocol
from lauf.challenges.models import Challenge, ChallengeWeek, Go, GoState, Point
from lauf.challenges.queries import challenge_of, week_of
from lauf.errors import NotFound, Refused
from lauf.messages import say
from lauf.people.actions import log, save_once
from lauf.people.models import Change, Staff
from lauf.people.permissions import demand_own
from lauf.people.queries import class_of
from lauf.rules.contests.points import MOST_POINTS, PointRule
from lauf.rules.contests.sets import MOST_IN_A_SET, WRITE_DOWN

LONGEST_WEEK: Final = timedelta(days=28)
LONGEST_PAUSE: Final = 300


class Spread(StrEnum):
    """How the tests of a new week are laid over its days."""

    ONE_DAY = "one_day"
    DAY_EACH = "day_each"


@transaction.atomic
def make_week(
    staff: Staff,
    *,
    name: str,
    starts_on: date,
    ends_on: date,
    class_ids: Sequence[UUID],
    points: Mapping[PointRule, int],
    test_ids: Sequence[UUID] = (),
    spread: Spread = Spread.DAY_EACH,
    seconds: int | None = None,
    pause: int = WRITE_DOWN,
    week_id: UUID | None = None,
) -> ChallengeWeek:
    """A week of challenges for some classes, with what each rule gives, and with tests if they are
    named: one a day, or all of the first day as a set. `seconds` and `pause`: see `add_challenges`.
    The same `week_id` again is that week. Raises NotFound for a class or test out of scope, or
    Refused."""
    label = name.strip()
    if not label or len(label) > 60:
        raise Refused(say("Give the week a name of up to 60 letters."))
    if not starts_on <= ends_on <= starts_on + LONGEST_WEEK:
        raise Refused(say("The last day must be within four weeks of the first."))
    if not class_ids:
        raise Refused(say("Choose at least one class."))
    if any(not 0 <= given <= MOST_POINTS for given in points.values()):
        raise Refused(say("A rule can give 0 to {most_points} points.", most_points=MOST_POINTS))
    classes = [class_of(staff, class_id) for class_id in dict.fromkeys(class_ids)]
    week = ChallengeWeek(
        id=week_id or uuid4(),
        school_id=staff.school_id,
        name=label,
        starts_on=starts_on,
        ends_on=ends_on,
        points={rule.value: given for rule, given in points.items()},
        pause=_pause(pause),
        by=staff,
    )
    if not save_once(week, ("name", "starts_on", "ends_on")):
        return week_of(staff, week.id)
    week.classes.set(classes)
    log(staff, Change.What.CHALLENGE, say("Challenge week {label} created", label=label), week.id)
    tests = list(dict.fromkeys(test_ids))
    if spread is Spread.ONE_DAY and tests:
        add_challenges(staff, week.id, on=starts_on, test_ids=tests, seconds=seconds)
    elif tests:
        days = (ends_on - starts_on).days + 1
        for place, test in enumerate(tests):
            # More tests than days: the last day has the rest.
            on = starts_on + timedelta(days=min(place, days - 1))
            add_challenges(staff, week.id, on=on, test_ids=[test], seconds=seconds)
    return week


def _pause(seconds: int) -> int:
    if not 0 <= seconds <= LONGEST_PAUSE:
        raise Refused(
            say("A pause must be 0 to {longest_pause} seconds.", longest_pause=LONGEST_PAUSE)
        )
    return seconds


@transaction.atomic
def add_challenges(
    staff: Staff,
    week_id: UUID,
    *,
    on: date,
    test_ids: Sequence[UUID],
    seconds: int | None = None,
) -> list[Challenge]:
    """Tests as challenges of a day, after those it has; one that it has stays as it is.

    seconds  the clock of all of them: a test counted against another clock is taken as the test of
             its own that it is then (made, if the school has none)

    Raises NotFound, Denied where a test is to be made by who may not, or Refused."""
    week = _own_week(staff, week_id)
    if not week.starts_on <= on <= week.ends_on:
        raise Refused(
            say(
                "The week is from {starts_on} to {ends_on}.",
                starts_on=f"{week.starts_on:%d %b}",
                ends_on=f"{week.ends_on:%d %b}",
            )
        )
    there = list(week.challenges.filter(on=on).select_related("protocol"))
    made: list[Challenge] = []
    for test_id in dict.fromkeys(test_ids):
        protocol = newest_protocol(staff, test_id)
        if protocol.test.private:
            raise Refused(say("Height and weight cannot be a challenge."))
        if seconds is not None:
            protocol = in_seconds(staff, protocol, seconds)
        if any(one.protocol.test_id == protocol.test_id for one in [*there, *made]):
            continue
        made.append(_challenge(week, on, protocol, there, made))
    if len(there) + len(made) > MOST_IN_A_SET:
        raise Refused(
            say("A day can have up to {most_in_a_set} challenges.", most_in_a_set=MOST_IN_A_SET)
        )
    Challenge.objects.bulk_create(made)
    if made:
        names = ", ".join(one.protocol.test.name for one in made)
        log(staff, Change.What.CHALLENGE, f"{week.name}, {on:%d %b}: {names}", week.id)
    return made


def _challenge(
    week: ChallengeWeek,
    on: date,
    protocol: ProtocolVersion,
    there: Sequence[Challenge],
    made: Sequence[Challenge],
) -> Challenge:
    after = max((one.position for one in [*there, *made]), default=-1) + 1
    return Challenge(week=week, on=on, position=after, protocol=protocol)


@transaction.atomic
def take_out_challenge(staff: Staff, challenge_id: UUID) -> ChallengeWeek:
    """Take a challenge out of its week; scores stay. Raises NotFound, or Refused once points were
    given for it."""
    found = challenge_of(staff, challenge_id)
    week = _own_week(staff, found.week_id)
    if found.points.exists():
        raise Refused(say("This challenge has points, so it cannot be removed."))
    _demand_none_waits(Go.objects.filter(challenge=found))
    words = say(
        "{name}, {on}: {name2} removed",
        name=week.name,
        on=f"{found.on:%d %b}",
        name2=found.protocol.test.name,
    )
    log(staff, Change.What.CHALLENGE, words, found.id)
    found.delete()
    return week


@transaction.atomic
def delete_week(staff: Staff, week_id: UUID) -> None:
    """Take a week away. Scores stay. Raises NotFound, or Refused once points were given."""
    week = _own_week(staff, week_id)
    if Point.objects.filter(challenge__week=week).exists():
        raise Refused(say("This week has points, so it cannot be deleted."))
    _demand_none_waits(Go.objects.filter(challenge__week=week))
    log(staff, Change.What.CHALLENGE, say("Challenge week {name} deleted", name=week.name), week.id)
    week.delete()


def _demand_none_waits(goes: QuerySet[Go]) -> None:
    """What children entered is not lost unseen. Raises Refused."""
    if goes.filter(state=GoState.WAITING).exists():
        raise Refused(say("Children have entered scores here. Accept or decline them first."))


def _own_week(staff: Staff, week_id: UUID) -> ChallengeWeek:
    """A week to be changed: by who made it or the head of PE."""
    week = week_of(staff, week_id)
    demand_own(staff, week.by_id, "week")
    return ChallengeWeek.objects.select_for_update().get(pk=week.pk)


def own_challenges(staff: Staff, week_id: UUID, ids: Sequence[UUID]) -> list[Challenge]:
    """Challenges of one week to be changed. Raises NotFound where one is of another."""
    week = _own_week(staff, week_id)
    found = {
        one.id: one
        for one in week.challenges.filter(pk__in=ids).select_related("protocol__test__school")
    }
    if len(found) < len(set(ids)):
        raise NotFound(say("challenge in this week"))
    return [found[one] for one in ids]
