"""Two records that turn out to be one child's, made one; and apart again."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Final
from uuid import UUID

from django.db import transaction
from django.db.models import Model, QuerySet
from django.utils import timezone
from typing_extensions import TypedDict

from lauf.challenges.models import Go, Point
from lauf.errors import NotFound, Refused
from lauf.messages import say, say_many
from lauf.people.models import Merge, Pupil, Staff
from lauf.people.permissions import May, demand
from lauf.people.queries import pupil_of
from lauf.records.models import Aim, Attempt, Calibration, PulseReading, Recount
from lauf.records.rewriting import rewriting

#: What belongs to a child, and the field that says so; under these names in `Merge.moved`.
_OF_A_CHILD: Final[dict[str, tuple[type[Model], str]]] = {
    "attempts": (Attempt, "pupil"),
    "counted": (Attempt, "counted_by"),
    "recounts": (Recount, "pupil"),
    "pulses": (PulseReading, "pupil"),
    "calibrations": (Calibration, "pupil"),
    "aims": (Aim, "pupil"),
    "points": (Point, "pupil"),
    "goes": (Go, "pupil"),
    "goes counted": (Go, "counted_by"),
}


def rows_of(name: str, **filters: Any) -> QuerySet[Any]:
    """The rows of one kind of what belongs to a child."""
    return _OF_A_CHILD[name][0]._default_manager.filter(**filters)


@transaction.atomic
def merge_pupils(staff: Staff, kept_id: UUID, double_id: UUID) -> Merge:
    """Make a second record of a child part of the first: scores, pulses and points go over, the
    double is in no list any more. Raises Denied, NotFound, or Refused where both have a score in
    the same test of a lesson: one of the two is wrong, and a person has to say which."""
    demand(staff, May.MANAGE_SCHOOL)
    if kept_id == double_id:
        raise Refused(say("Choose two records."))
    pupil_of(staff, kept_id), pupil_of(staff, double_id)
    first, second = sorted((kept_id, double_id))
    locked = {one.id: one for one in Pupil.objects.select_for_update(of=("self",)).filter(
        pk__in=(first, second)).order_by("id")}  # fmt: skip
    kept, double = locked[kept_id], locked[double_id]
    _demand_apart(kept, double)
    moved: dict[str, list[str]] = {}
    words = say("A second record, {name}, merged into {name2}", name=double.name, name2=kept.name)
    with rewriting(staff, words, kept.id):
        for name, (_, field) in _OF_A_CHILD.items():
            rows = rows_of(name, **{field: double})
            if name == "aims":  # one a test of a lesson: what the first record said stays
                rows = rows.exclude(activity__aims__pupil=kept)
            moved[name] = [str(one) for one in rows.values_list("pk", flat=True)]
            rows_of(name, pk__in=moved[name]).update(**{field: kept})
    merge = Merge.objects.create(
        kept=kept, double=double, moved=moved, by=staff, was_in=double.school_class
    )
    double.merged_into = kept
    if double.school_class is not None:
        double.left_from, double.left_on = double.school_class, timezone.localdate()
        double.school_class = None
    number, double.number = double.number, ""
    double.save()
    _take_what_is_missing(kept, double, number)
    return merge


def _demand_apart(kept: Pupil, double: Pupil) -> None:
    mine = set(Attempt.objects.filter(pupil=kept).values_list("activity_id", flat=True))
    both = Attempt.objects.filter(pupil=double, activity__in=mine).select_related(
        "activity__protocol__test", "activity__lesson"
    )
    if found := both.first():
        test, lesson = found.activity.protocol.test, found.activity.lesson
        raise Refused(
            say(
                "Both have a score in {test} on {starts_at}, so they cannot be the same "
                "child. Move one score to the right child first.",
                test=test,
                starts_at=f"{lesson.starts_at:%d %b %Y}",
            )
        )
    if PulseReading.objects.filter(
        pupil=double, lesson__in=PulseReading.objects.filter(pupil=kept).values("lesson")
    ).exists():
        raise Refused(say("Both have pulses in the same lesson, so they cannot be the same child."))
    given = set(Point.objects.filter(pupil=kept).values_list("challenge_id", flat=True))
    if Point.objects.filter(pupil=double, challenge__in=given).exists():
        raise Refused(
            say(
                "Both records have points in the same challenge. Remove the points from one "
                "of them first."
            )
        )


def _take_what_is_missing(kept: Pupil, double: Pupil, number: str) -> None:
    """What only the double knew: it is not lost with it."""
    for field in ("born", "sex", "house_id", "medical_note", "measuring"):
        if not getattr(kept, field) and getattr(double, field):
            setattr(kept, field, getattr(double, field))
    kept.number = kept.number or number
    kept.save()
    held = set(kept.exclusions.values_list("what", flat=True))
    double.exclusions.exclude(what__in=held).update(pupil=kept)


@transaction.atomic
def part_pupils(staff: Staff, merge_id: UUID) -> Pupil:
    """Undo a merge: exactly what was moved goes back, what was kept since stays where it is. What
    the first record took over from the second stays with it too. Raises Denied or NotFound."""
    demand(staff, May.MANAGE_SCHOOL)
    merge = (
        Merge.objects.select_for_update(of=("self",))
        .filter(pk=merge_id, kept__school_id=staff.school_id)
        .select_related("kept", "double", "was_in")
        .first()
    )
    if merge is None:
        raise NotFound(say("merge"))
    double = merge.double
    count = sum(len(ids) for ids in merge.moved.values())
    words = say(
        "{name} and {name2} were separated, and {rows} moved back",
        name=double.name,
        name2=merge.kept.name,
        rows=say_many("{n} row", "{n} rows", count),
    )
    with rewriting(staff, words, merge.kept.id):
        for name, (_, field) in _OF_A_CHILD.items():
            rows_of(name, pk__in=merge.moved.get(name, [])).update(**{field: double})
    double.merged_into = None
    if merge.was_in is not None and merge.was_in.closed_on is None:
        double.school_class, double.left_from, double.left_on = merge.was_in, None, None
    double.save()
    merge.delete()
    return double


class MergeRow(TypedDict):
    """A double that was made part of a child's record."""

    id: UUID
    name: str
    at: datetime


def merges_of(staff: Staff, pupil_id: UUID) -> list[MergeRow]:
    """The doubles that were made part of a child's record. Two queries. Raises NotFound."""
    pupil = pupil_of(staff, pupil_id)
    return [
        {"id": one.id, "name": one.double.name, "at": one.at}
        for one in pupil.merges.select_related("double").order_by("-at")
    ]
