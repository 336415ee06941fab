"""Writes of targets of one's own."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final
from uuid import UUID

from django.db import transaction
from django.db.models import QuerySet

from lauf.catalogue.queries import check_variant
from lauf.errors import NotFound, Refused
from lauf.lessons.models import Activity
from lauf.lessons.queries import activity_of, conditions_of
from lauf.messages import say
from lauf.people.models import Pupil, Staff
from lauf.records.models import Aim, Attempt, GroupAim
from lauf.records.queries import counting
from lauf.rules.judging.aims import ADDS_UP, read_together
from lauf.rules.reading.entry import read_entry
from lauf.rules.reading.quantities import Kind

_LATE: Final = say("already has a score, so the target can no longer change.")


@transaction.atomic
def say_aim(
    staff: Staff, activity_id: UUID, pupil_id: UUID, typed: str, variant: str
) -> Aim | None:
    """What a child says it will do, in one form of the movement; nothing typed takes it back.
    Raises NotFound, EntryError for what is no score of this test, or Refused once it has one."""
    activity = activity_of(staff, activity_id)
    if activity.protocol.test.private:
        raise Refused(say("Height and weight cannot be a target."))
    pupil = Pupil.objects.filter(
        pk=pupil_id, school_class=activity.lesson.school_class_id
    ).select_for_update(of=("self",)).first()  # fmt: skip
    if pupil is None:
        raise NotFound(say("child in this class"))
    if _scored(activity).filter(pupil=pupil).exists():
        raise Refused(f"{pupil.name} {_LATE}")
    if not typed.strip():
        Aim.objects.filter(activity=activity, pupil=pupil).delete()
        return None
    value = _read(activity, typed, variant)
    kept, _ = Aim.objects.update_or_create(
        activity=activity,
        pupil=pupil,
        defaults={
            "typed": typed.strip()[:180], "value": value, "variant": variant, "proposed": False,
            "by": staff,
        },
    )  # fmt: skip
    return kept


@transaction.atomic
def accept_proposed(
    staff: Staff, activity_id: UUID, proposed: Mapping[UUID, tuple[str, int, str]]
) -> None:
    """Take the proposals (as shown, in canonical units, of which form) of those who have said
    nothing and have no score yet. Raises NotFound."""
    activity = activity_of(staff, activity_id)
    done = set(_scored(activity).values_list("pupil", flat=True))
    Aim.objects.bulk_create(
        [
            Aim(activity=activity, pupil_id=pupil, typed=shown, value=value, variant=variant,
                proposed=True, by=staff)
            for pupil, (shown, value, variant) in proposed.items()
            if pupil not in done
        ],
        ignore_conflicts=True,
    )  # fmt: skip


@transaction.atomic
def say_group_aim(staff: Staff, activity_id: UUID, group: str, typed: str) -> GroupAim | None:
    """What a group of the class ("" for all of it) says it will do together; nothing typed takes it
    back. Raises NotFound for no such group, or Refused once one of it has a score, for a test that
    does not add up, and for what is no number."""
    activity = activity_of(staff, activity_id)
    if activity.protocol.test.private or Kind(activity.protocol.kind) not in ADDS_UP:
        raise Refused(
            say(
                "Scores in {name} cannot be added up for a group.", name=activity.protocol.test.name
            )
        )
    pupils = Pupil.objects.filter(school_class=activity.lesson.school_class_id)
    if group:
        pupils = pupils.filter(group=group)
    members = list(pupils.select_for_update(of=("self",)).order_by("pk"))
    if not members:
        raise NotFound(say("group in this class"))
    if _scored(activity).filter(pupil__in=members).exists():
        raise Refused(
            say(
                "{group} already has scores, so its target can no longer change.",
                group=group or say("The class"),
            )
        )
    if not typed.strip():
        GroupAim.objects.filter(activity=activity, group=group).delete()
        return None
    try:
        value = read_together(typed)
    except ValueError as problem:
        raise Refused(str(problem)) from problem
    kept, _ = GroupAim.objects.update_or_create(
        activity=activity, group=group, defaults={"value": value, "by": staff}
    )
    return kept


def _scored(activity: Activity) -> QuerySet[Attempt]:
    return counting().filter(activity=activity)


def _read(activity: Activity, typed: str, variant: str) -> int:
    protocol = activity.protocol
    check_variant(protocol, variant)
    entry = read_entry(typed, protocol.measure_with(conditions_of(activity, {})))
    if entry.value is None:
        raise Refused(say("A target must be a score, such as how many, how long or how far."))
    return entry.value
