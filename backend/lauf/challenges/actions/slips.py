"""Writes about how children come to a challenge: the code of a class, and the slip of each."""

from __future__ import annotations

from datetime import date, datetime
from typing import Final
from uuid import UUID

from django.db import transaction

from lauf.challenges.actions.sittings import class_in_turn
from lauf.challenges.models import ChallengeCode, ChallengeWeek, Slip
from lauf.challenges.queries.entering import SLIP_SIGNS
from lauf.challenges.queries.weeks import class_of_week, week_of
from lauf.errors import IdTaken, NotFound, Refused
from lauf.messages import say
from lauf.people.actions import create_with_code, log
from lauf.people.models import Change, SchoolClass, Staff
from lauf.people.tokens import new_code

#: Signs of the code of a class, of which wrong ones are counted. A slip has more.
_CODE_SIGNS: Final = 6


@transaction.atomic
def publish(staff: Staff, week_id: UUID, class_id: UUID, today: date) -> ChallengeCode:
    """Let the children of a class enter their own goes of a week: the code there is, or a new one;
    and a slip for every child that has none. Raises NotFound, or Refused where the week is over or
    has no challenge."""
    week = week_of(staff, week_id)
    if today > week.ends_on:
        raise Refused(say("This week is over."))
    if not week.challenges.exists():
        raise Refused(say("Choose a test for this week first."))
    # In turn, so that no two children have one picture.
    school_class = class_in_turn(staff, week, class_id)
    _give_slips(staff, week, school_class)
    there = ChallengeCode.objects.filter(week=week, school_class=school_class).first()
    if there is not None:
        return there
    words = say("{week}: open to the children of {name}", week=week.name, name=school_class.name)
    log(staff, Change.What.CHALLENGE, words, week.id)
    return create_with_code(
        ChallengeCode, _CODE_SIGNS, week=week, school_class=school_class, by=staff
    )


def _give_slips(staff: Staff, week: ChallengeWeek, school_class: SchoolClass) -> None:
    """A slip for every child of the class that has none now; a picture stays a child's own."""
    pupils = list(school_class.pupils.values_list("id", flat=True))
    before = list(Slip.objects.filter(week=week, pupil__in=pupils).order_by("made_at"))
    mine = {one.pupil_id: one.picture for one in before}
    held = {one.pupil_id for one in before if one.withdrawn_at is None}
    free = (place for place in range(2 * len(pupils) + 1) if place not in mine.values())
    Slip.objects.bulk_create(
        Slip(
            week=week,
            pupil_id=pupil,
            picture=mine[pupil] if pupil in mine else next(free),
            code=new_code(SLIP_SIGNS),
            by=staff,
        )
        for pupil in pupils
        if pupil not in held
    )


@transaction.atomic
def unpublish(staff: Staff, week_id: UUID, class_id: UUID) -> None:
    """Neither the code of a class nor a slip of its children opens the week any more, until it is
    published again; what was entered stays. Raises NotFound."""
    week = week_of(staff, week_id)
    school_class = class_of_week(staff, week, class_id)
    if ChallengeCode.objects.filter(week=week, school_class=school_class).delete()[0]:
        words = say("{week}: closed to the children of {name}", week=week, name=school_class.name)
        log(staff, Change.What.CHALLENGE, words, week.id)


@transaction.atomic
def replace_slip(staff: Staff, week_id: UUID, pupil_id: UUID, now: datetime, slip_id: UUID) -> Slip:
    """Withdraw the slip of a child and give it a new one with the same picture. The same `slip_id`
    again is that slip. Raises NotFound, or IdTaken for an id that is another's."""
    there = Slip.objects.filter(pk=slip_id).first()
    if there is not None:
        if (there.week_id, there.pupil_id) != (week_of(staff, week_id).id, pupil_id):
            raise IdTaken
        return there
    slip = withdraw_slip(staff, week_id, pupil_id, now)
    return Slip.objects.create(
        id=slip_id,
        week=slip.week,
        pupil=slip.pupil,
        picture=slip.picture,
        code=new_code(SLIP_SIGNS),
        by=staff,
    )


@transaction.atomic
def withdraw_slip(staff: Staff, week_id: UUID, pupil_id: UUID, now: datetime) -> Slip:
    """The slip of a child opens nothing any more; what was entered with it stays. Raises
    NotFound."""
    week = week_of(staff, week_id)
    slip = (
        Slip.objects.select_for_update(of=("self",))
        .filter(week=week, pupil=pupil_id, withdrawn_at=None)
        .select_related("week", "pupil__school_class")
        .first()
    )
    group = slip.pupil.school_class if slip else None
    if slip is None or group is None:
        raise NotFound(say("slip"))
    class_of_week(staff, week, group.id)
    slip.withdrawn_at, slip.code = now, None
    slip.save()
    words = say("{week}: a slip withdrawn", week=week.name)
    log(staff, Change.What.CHALLENGE, words, slip.pupil_id)
    return slip
