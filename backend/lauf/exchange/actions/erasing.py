"""Erasing what is kept of a child."""

from __future__ import annotations

from collections.abc import Collection
from datetime import date
from typing import NamedTuple
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from lauf.challenges.models import Go, Point, Slip
from lauf.errors import Refused
from lauf.lessons.models import Allowed
from lauf.messages import say, say_many
from lauf.people.models import Change, Exclusion, Merge, OwnPage, Pupil, Staff
from lauf.people.permissions import May, demand
from lauf.people.queries import pupil_of
from lauf.records.models import (
    Aim,
    Attempt,
    Calibration,
    FamilyLine,
    PulseReading,
    Question,
    Recount,
    RepeatSummary,
    SetAside,
    Settlement,
)
from lauf.records.rewriting import rewriting

_NOBODY = say("Erased child")


class Erased(NamedTuple):
    """How many entries went, or stay as numbers of nobody."""

    entries: int
    stay: bool


@transaction.atomic
def erase_pupil(staff: Staff, pupil_id: UUID) -> Erased:
    """Erase a child: everything that says who it was, its doubles and its lines in the log with it.
    Scores go too, or stay as numbers of nobody where the school has chosen so. It cannot be taken
    back. Raises Denied or NotFound."""
    demand(staff, May.MANAGE_SCHOOL)
    pupil = Pupil.objects.select_for_update(of=("self",)).get(pk=pupil_of(staff, pupil_id).pk)
    records = [pupil, *Pupil.objects.filter(merged_into=pupil)]
    ids = [one.id for one in records]
    entries = Attempt.objects.filter(pupil__in=ids).count()
    entries += PulseReading.objects.filter(pupil__in=ids).count()
    stay = staff.school.scores_outlive and entries > 0
    with rewriting(
        staff,
        say_many(
            "A child was erased. {n} entry stays as an anonymous number.",
            "A child was erased. {n} entries stay as anonymous numbers.",
            entries,
        )
        if stay
        else say_many(
            "A child was erased with {n} entry.", "A child was erased with {n} entries.", entries
        ),
    ):
        about = Change.objects.filter(school_id=staff.school_id, about__in=[str(i) for i in ids])
        about.update(words=_NOBODY, about="")
        for model in (
            Exclusion,
            Allowed,
            Aim,
            Calibration,
            SetAside,
            FamilyLine,
            OwnPage,
            Slip,
            Go,
        ):
            model._default_manager.filter(pupil__in=ids).delete()
        Merge.objects.filter(kept__in=ids).delete()
        if stay:
            _make_nobody(records, ids)
        else:
            _delete(ids)
    return Erased(entries, stay)


def _make_nobody(records: Collection[Pupil], ids: Collection[UUID]) -> None:
    """Numbers stay; what somebody wrote beside them does not."""
    Attempt.objects.filter(pupil__in=ids).exclude(why="").update(why="")
    today = timezone.localdate()
    for one in records:
        if one.school_class is not None:
            one.left_from, one.left_on, one.school_class = one.school_class, today, None
        one.given_name = one.family_name = one.number = one.medical_note = ""
        one.group = ""
        one.sex, one.born, one.house, one.measuring = "", None, None, ""
        one.merged_into, one.erased_on = None, today
        one.save()


def _delete(ids: Collection[UUID]) -> None:
    """Rows name the ones they succeed: all of a child's go in one statement each."""
    attempts = Attempt.objects.filter(pupil__in=ids)
    tests = set(attempts.values_list("protocol__test", flat=True))
    Attempt.objects.filter(counted_by__in=ids).exclude(pupil__in=ids).update(counted_by=None)
    for rows in (
        Settlement.objects.filter(attempt__in=attempts),
        Question.objects.filter(attempt__in=attempts),
        Recount.objects.filter(pupil__in=ids),
        attempts,
        PulseReading.objects.filter(pupil__in=ids),
        Point.objects.filter(pupil__in=ids),
    ):
        rows._raw_delete(rows.db)
    RepeatSummary.objects.filter(test__in=tests).delete()
    Pupil.objects.filter(pk__in=ids, merged_into__isnull=False).delete()
    Pupil.objects.filter(pk__in=ids).delete()


def due_to_go(staff: Staff, today: date) -> list[Pupil]:
    """Leavers whose record was kept as long as the school keeps one. Two queries. Raises
    Denied."""
    demand(staff, May.MANAGE_SCHOOL)
    years = staff.school.keep_years
    if years is None:
        return []
    try:
        before = today.replace(year=today.year - years)
    except ValueError:  # 29 February
        before = today.replace(year=today.year - years, day=28)
    leavers = Pupil.objects.filter(
        school_id=staff.school_id, left_on__lte=before, merged_into=None, erased_on=None
    )
    return list(leavers.select_related("left_from").order_by("left_on", "given_name"))


@transaction.atomic
def erase_due(staff: Staff, pupil_ids: Collection[UUID], today: date) -> int:
    """Erase leavers that are due, those that were shown; how many. Raises Denied, or Refused for
    one that is not due."""
    due = {one.id for one in due_to_go(staff, today)}
    if set(pupil_ids) - due:
        raise Refused(say("The list has changed. Look at it again. Nothing was erased."))
    for pupil_id in set(pupil_ids):
        erase_pupil(staff, pupil_id)
    return len(set(pupil_ids))
