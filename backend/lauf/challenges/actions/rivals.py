"""Writes of rivals and their marks."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final
from uuid import UUID

from django.db import transaction

from lauf.catalogue.queries import check_variant, read_condition
from lauf.challenges.actions.weeks import own_challenges
from lauf.challenges.models import Challenge, ChallengeWeek
from lauf.challenges.queries import Group, group_of, group_values, performing, weeks_of
from lauf.errors import NotFound, Refused
from lauf.lessons.queries import activity_of, conditions_of, longest_run_ms
from lauf.messages import say
from lauf.people.actions import log
from lauf.people.models import Change, Staff
from lauf.rules.contests.rivals import HIGHEST_RUNG, LEAST_GROUP, RivalKind, group_mark
from lauf.rules.judging.comparability import COURSE
from lauf.rules.reading.entry import EntryError, read_entry
from lauf.rules.reading.kinds import format_value


@dataclass(frozen=True, slots=True)
class Mark:
    """A person's mark in one challenge as typed, "" while it is still to be made; the form and the
    course it was set with, "" for the usual ones."""

    challenge_id: UUID
    typed: str = ""
    variant: str = ""
    course: str = ""


@dataclass(frozen=True, slots=True)
class RivalWish:
    """Whose mark: `name` of a person, a class or house and whether its best or its middle, a rung
    counted from 1. Without a kind there is no rival."""

    kind: RivalKind | None = None
    name: str = ""
    class_id: UUID | None = None
    house_id: UUID | None = None
    best: bool = False
    rung: int | None = None


_NO_MARK: Final[Mapping[str, object]] = {
    "rival_kind": "", "rival": "", "rival_typed": "", "rival_value": None, "rival_variant": "",
    "rival_rung": None, "rival_conditions": {},
}  # fmt: skip


@transaction.atomic
def set_rival(staff: Staff, week_id: UUID, wish: RivalWish, marks: Sequence[Mark]) -> ChallengeWeek:
    """One rival for those challenges of a week that `marks` names, whole or not at all: a person's
    marks are read as any score of the test is, a group's are its scores of today and stay as they
    are (in a test in which it has too few it is no rival), a rung and "last time" are each child's
    own. Raises NotFound, EntryError for an unreadable mark (with the test it is of), or Refused."""
    challenges = own_challenges(staff, week_id, [one.challenge_id for one in marks])
    if not challenges:
        raise Refused(say("Choose at least one challenge."))
    name = wish.name.strip()[:60]
    if wish.kind is RivalKind.PERSON and not name:
        raise Refused(say("Choose the rival."))
    group = group_of(staff, wish.class_id, wish.house_id) if wish.kind is RivalKind.GROUP else None
    values = _values_of(staff, group, challenges) if group else {}
    for challenge, mark in zip(challenges, marks, strict=True):
        for field, nothing in _NO_MARK.items():
            setattr(challenge, field, nothing)
        challenge.rival_kind = wish.kind.value if wish.kind else ""
        if group is not None:
            _set_group(challenge, group, values.get(challenge.id, []), best=wish.best)
        else:
            _set_one(challenge, wish, name, mark)
    Challenge.objects.bulk_update(challenges, list(_NO_MARK))
    week = challenges[0].week
    rival = next((one.rival for one in challenges if one.rival), "nobody")
    words = say(
        "{name}: rival of {challenges} is {rival}",
        name=week.name,
        challenges=len(challenges),
        rival=rival,
    )
    words += "".join(f", {one.protocol.test.name} {one.rival_typed}"
                     for one in challenges if one.rival_typed)  # fmt: skip
    log(staff, Change.What.CHALLENGE, words[:240], week.id)
    return week


def _set_one(challenge: Challenge, wish: RivalWish, name: str, mark: Mark) -> None:
    match wish.kind:
        case RivalKind.PERSON:
            challenge.rival = name
            _set_mark(challenge, mark)
        case RivalKind.RUNG:
            _set_rung(challenge, wish.rung)
        case RivalKind.SELF:
            challenge.rival = say("last time")
        case _:
            if mark.typed.strip():
                raise Refused(say("Choose the rival."))


@transaction.atomic
def make_mark(
    staff: Staff, activity_id: UUID, challenge_id: UUID, *, typed: str, variant: str, sure: bool
) -> None:
    """The mark of a person who performs with a class, made in an activity: in the form that is
    said, under the activity's own conditions, and held against its clock unless the teacher is
    `sure`; "" takes it back. Raises NotFound, EntryError, or Refused."""
    activity = activity_of(staff, activity_id)
    challenge = performing(activity, weeks_of(staff)).filter(pk=challenge_id).first()
    if challenge is None:
        raise NotFound(say("rival in this test"))
    _set_mark(
        challenge,
        Mark(challenge_id, typed, variant or challenge.rival_variant),
        under=conditions_of(activity, {}),
        ran_ms=longest_run_ms(activity_id),
        sure=sure,
    )
    challenge.save(update_fields=list(_NO_MARK))
    words = say(
        "{rival} in {name}: {rival_typed}",
        rival=challenge.rival,
        name=challenge.protocol.test.name,
        rival_typed=challenge.rival_typed or "none",
    )
    log(staff, Change.What.CHALLENGE, words[:240], challenge.week_id)


def _set_mark(
    challenge: Challenge,
    mark: Mark,
    *,
    under: Mapping[str, Any] | None = None,
    ran_ms: int | None = None,
    sure: bool = False,
) -> None:
    """A person's mark in its form and under its conditions: the test's usual ones where none are
    said. One that is still to be made has them already."""
    protocol, test = challenge.protocol, challenge.protocol.test.name
    variant = mark.variant or protocol.usual_variant
    check_variant(protocol, variant)
    conditions = dict(protocol.conditions if under is None else under)
    if mark.course.strip():
        if COURSE not in conditions:
            raise Refused(say("{test} has no course, so leave the course out.", test=test))
        conditions[COURSE] = read_condition(COURSE, mark.course)
    challenge.rival_variant, challenge.rival_conditions = variant, conditions
    challenge.rival_typed, challenge.rival_value = "", None
    if not mark.typed.strip():
        return
    measure = protocol.measure_with(conditions)
    try:
        entry = read_entry(mark.typed, measure, ran_ms=ran_ms, sure=sure)
    except EntryError as error:
        words = f"{test}: {error.message}"
        raise EntryError(words, error.accepted, error.choices, sure=error.sure) from error
    if entry.value is None or entry.estimate:
        raise Refused(say("{test}: the rival's score cannot be an estimate.", test=test))
    challenge.rival_typed = entry.typed[:180]
    challenge.rival_value = entry.value


def _values_of(
    staff: Staff, group: Group, challenges: Sequence[Challenge]
) -> dict[UUID, list[int]]:
    """The scores of a group by challenge. Raises Refused where they are too few in all of them."""
    values = group_values(staff, group, challenges)
    first = challenges[0]
    if all(len(values.get(one.id, [])) < LEAST_GROUP for one in challenges):
        raise Refused(
            say(
                "{name} has only {get} scores in the usual form of {name2}. "
                "{least_group} are needed, so that nobody's score can be guessed.",
                name=group.name,
                get=len(values.get(first.id, [])),
                name2=first.protocol.test.name,
                least_group=LEAST_GROUP,
            )
        )
    return values


def _set_group(challenge: Challenge, group: Group, values: list[int], *, best: bool) -> None:
    protocol = challenge.protocol
    if len(values) < LEAST_GROUP:
        challenge.rival_kind = ""  # a rival in the others all the same
        return
    value = group_mark(values, protocol.measure, best=best)
    if best:
        name = say("{group}'s best", group=group.name)
    else:
        name = say("{group}'s median", group=group.name)
    challenge.rival = name[:60]
    challenge.rival_value = value
    challenge.rival_typed = format_value(value, protocol.measure)[:180]
    challenge.rival_variant = protocol.usual_variant
    challenge.rival_conditions = dict(protocol.conditions)


def _set_rung(challenge: Challenge, rung: int | None) -> None:
    if rung is None or not 1 <= rung <= HIGHEST_RUNG:
        raise Refused(
            say(
                "Choose a rung from 1 to {highest_rung}, counted from the lowest.",
                highest_rung=HIGHEST_RUNG,
            )
        )
    challenge.rival = say("rung {rung}", rung=rung)
    challenge.rival_rung = rung - 1
