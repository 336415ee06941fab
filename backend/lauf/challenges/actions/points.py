"""Writes of the ledger of points."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import transaction

from lauf.challenges.models import Challenge, Point
from lauf.challenges.queries import challenge_of, ledgers, standings_of, week_of
from lauf.errors import NotFound, Refused
from lauf.messages import say, say_many
from lauf.people.actions import log
from lauf.people.models import Change, Staff
from lauf.people.queries import classes_of
from lauf.rules.contests.points import PointRule


@transaction.atomic
def give_points(staff: Staff, challenge_id: UUID) -> int:
    """Give what was earned and not given yet, each rule at most once a child; returns how many
    lines were written. Twice gives nothing more. Raises NotFound."""
    return _give(staff, [challenge_of(staff, challenge_id)])


@transaction.atomic
def give_all_points(staff: Staff, week_id: UUID) -> int:
    """The same for every challenge of a week at once. Raises NotFound."""
    week = week_of(staff, week_id)
    found = week.challenges.select_related("week", "protocol__test__school")
    return _give(staff, [one for one in found if not one.protocol.test.private])


def _give(staff: Staff, challenges: list[Challenge]) -> int:
    ids = [one.id for one in challenges]
    # In one order everywhere, so that two who give at once wait for each other.
    list(Challenge.objects.select_for_update().filter(pk__in=ids).order_by("id"))
    found = standings_of(staff, challenges)
    lines = ledgers(ids)
    made = [
        Point(
            school_id=staff.school_id,
            challenge=challenge,
            pupil=one.pupil,
            rule=earned.rule.value,
            points=earned.points,
            why=_why(challenge, one, earned.rule, earned.why),
            by=staff,
        )
        for challenge in challenges
        for one in found[challenge.id]
        for earned in one.earned
        if earned.rule.value not in {line.rule for line in lines[challenge.id, one.pupil.id]}
    ]
    Point.objects.bulk_create(made)
    for challenge in challenges:
        count = sum(point.challenge_id == challenge.id for point in made)
        if count:
            words = say(
                "{challenge}: {lines} of points given",
                challenge=challenge,
                lines=say_many("{n} line", "{n} lines", count),
            )
            log(staff, Change.What.POINTS, words, challenge.id)
    return len(made)


def _why(challenge: Challenge, one: Any, rule: PointRule, words: str) -> str:
    """The reason with the score it was given for: a ledger can be read alone."""
    test = challenge.protocol.test.name
    match rule:
        case PointRule.TOOK_PART:
            return f"{words}: {test}"
        case PointRule.BEAT_RIVAL:
            return say("{rival}: {best} in {test}", rival=one.rival, best=one.best, test=test)
        case _:
            return say("{words}: {best} in {test}", words=words, best=one.best, test=test)


@transaction.atomic
def reverse_point(staff: Staff, point_id: UUID, why: str) -> Point:
    """Take the newest line of a child's rule back (or give it again, where that was a taking
    back), with a reason. The same line twice is reversed once. Raises NotFound or Refused."""
    line = Point.objects.filter(pk=point_id, school_id=staff.school_id).first()
    if line is None:
        raise NotFound(say("award of points"))
    challenge_of(staff, line.challenge_id)
    if not classes_of(staff).filter(pupils=line.pupil_id).exists():
        raise NotFound(say("award of points"))
    reason = why.strip()[:240]
    if not reason:
        raise Refused(say("Give a reason in a few words."))
    Challenge.objects.select_for_update().get(pk=line.challenge_id)
    found = Point.objects.filter(reverses=line).first()
    if found is not None:
        return found
    done = say("undone") if line.points > 0 else say("restored")
    words = say(
        "{points} for {name} {done}: {reason}",
        points=abs(line.points),
        name=line.pupil.name,
        done=done,
        reason=reason,
    )
    log(staff, Change.What.POINTS, words, line.pupil_id)
    return Point.objects.create(
        school_id=line.school_id,
        challenge_id=line.challenge_id,
        pupil_id=line.pupil_id,
        rule=line.rule,
        points=-line.points,
        why=reason,
        reverses=line,
        by=staff,
    )
