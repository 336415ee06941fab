"""The whole school goes up a year, and back."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from datetime import date, datetime
from typing import NamedTuple
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from lauf.errors import Confirm, NotFound, Refused
from lauf.messages import say, say_many
from lauf.people.actions.audit_log import log
from lauf.people.actions.classes import class_label
from lauf.people.models import Change, MoveUp, Pupil, School, SchoolClass, Staff
from lauf.people.permissions import May, demand
from lauf.people.queries import is_scored_since, last_move_up
from lauf.rules.body.ages import school_year


class ClassMove(NamedTuple):
    """Where a class goes: into a year group under a name, or (None) its children leave."""

    class_id: UUID
    name: str
    year_group_id: UUID | None


class NewClass(NamedTuple):
    """A class that begins with the new year."""

    name: str
    year_group_id: UUID


@transaction.atomic
def move_up(
    staff: Staff, moves: Sequence[ClassMove], *, exceptions: Mapping[UUID, UUID | None],
    new: Sequence[NewClass], now: datetime, sure: bool = False,
) -> MoveUp:  # fmt: skip
    """Move every class of the school up at once, with its children. What was tested stays in the
    year group of then.

    moves       every class that is not closed, once
    exceptions  children who do not go with their class: into the class they are to be in then, or
                (None) they leave

    Raises Denied, NotFound, or Refused: for a class that is left out, two classes of one name, or a
    second time in one school year (unless one is `sure`).
    """
    demand(staff, May.MANAGE_SCHOOL)
    school = School.objects.select_for_update().get(pk=staff.school_id)
    today = timezone.localdate(now)
    if not sure:
        _demand_first_this_year(school, today)
    classes = {one.id: one for one in school.classes.filter(closed_on=None)}
    staying = {move.class_id for move in moves if move.year_group_id}
    _check_classes(school, classes, moves, new)
    pupils = list(
        Pupil.objects.select_for_update(of=("self",))
        .filter(school=school, school_class__in=classes)
        .order_by("id")
    )
    _check_exceptions(exceptions, {pupil.id for pupil in pupils}, staying)
    before = {
        "classes": {str(one.id): [one.name, str(one.year_group_id)] for one in classes.values()},
        "pupils": {str(one.id): [str(one.school_class_id), one.place] for one in pupils},
    }
    _out_of_the_way(school, classes, _names(moves, new), today.year)
    for move in sorted(moves, key=lambda move: move.year_group_id is None):
        _move(classes[move.class_id], move, today)
    made = [
        SchoolClass.objects.create(school=school, name=class_label(n), year_group_id=year)
        for n, year in new
    ]
    left = _move_pupils(pupils, exceptions, staying, today)
    up = MoveUp.objects.create(
        school=school, by=staff, before={**before, "made": [str(one.id) for one in made]}
    )
    words = say(
        "The school moved up: {classs}, {leavers}, {new_classs}",
        classs=say_many("{n} class", "{n} classes", len(staying)),
        leavers=say_many("{n} leaver", "{n} leavers", left),
        new_classs=say_many("{n} new class", "{n} new classes", len(made)),
    )
    log(staff, Change.What.SCHOOL, words, up.id)
    return up


def _demand_first_this_year(school: School, today: date) -> None:
    last = last_move_up(school)
    if last is None:
        return
    when = timezone.localdate(last.at)
    if school_year(when, school.cut_off) == school_year(today, school.cut_off):
        raise Confirm(
            say("The school already moved up on {when}. Move it up again?", when=f"{when:%d %B}")
        )


def _check_classes(
    school: School, classes: Collection[UUID], moves: Sequence[ClassMove], new: Sequence[NewClass]
) -> None:
    if sorted(move.class_id for move in moves) != sorted(classes):
        raise Refused(say("Choose where each class goes, once. Reload to see the classes."))
    wanted = {move.year_group_id for move in moves if move.year_group_id}
    wanted |= {one.year_group_id for one in new}
    if wanted - set(school.year_groups.values_list("id", flat=True)):
        raise NotFound(say("year group"))
    names = _names(moves, new)
    for name in names:
        if names.count(name) > 1:
            raise Refused(say("Two classes would be called “{name}”.", name=name))


def _names(moves: Sequence[ClassMove], new: Sequence[NewClass]) -> list[str]:
    """What the classes of the next year are called. Raises Refused."""
    staying = [class_label(move.name) for move in moves if move.year_group_id]
    return staying + [class_label(one.name) for one in new]


def _move_pupils(
    pupils: list[Pupil], exceptions: Mapping[UUID, UUID | None], staying: set[UUID], today: date
) -> int:
    """Everybody to where they are next year; how many leave."""
    left = 0
    for pupil in pupils:
        there = pupil.school_class_id
        assert there is not None
        to = exceptions.get(pupil.id, there if there in staying else None)
        if to is None:
            left += 1
            pupil.left_from_id, pupil.left_on, pupil.school_class_id = there, today, None
        elif to != there:
            pupil.school_class_id, pupil.place = to, 0
    Pupil.objects.bulk_update(pupils, ["school_class", "left_from", "left_on", "place"])
    return left


def _check_exceptions(
    exceptions: Mapping[UUID, UUID | None], here: set[UUID], staying: set[UUID]
) -> None:
    if exceptions.keys() - here:
        raise NotFound(say("child"))
    if {to for to in exceptions.values() if to} - staying:
        raise Refused(say("A child can only stay in a class that continues."))


def _out_of_the_way(
    school: School, classes: Mapping[UUID, SchoolClass], names: Sequence[str], year: int
) -> None:
    """No closed class keeps a name that one of the next year gets."""
    _without_names(classes.values())
    for old in school.classes.filter(closed_on__isnull=False, name__in=names):
        old.name = say("{name} (to {year}) {id}", name=old.name[:30], year=year, id=str(old.id)[:4])
        old.save(update_fields=["name"])


def _without_names(classes: Iterable[SchoolClass]) -> None:
    """Names go from class to class: each first gets one that nobody wants."""
    for number, one in enumerate(classes):
        SchoolClass.objects.filter(pk=one.pk).update(name=f"\u2063{number}")


def _move(group: SchoolClass, move: ClassMove, today: date) -> None:
    if move.year_group_id is None:
        group.closed_on = today
        taken = SchoolClass.objects.filter(school_id=group.school_id, name=group.name)
        if taken.exclude(pk=group.pk).exists():
            group.name = f"{group.name[:30]} {str(group.id)[:4]}"
    else:
        group.name, group.year_group_id = class_label(move.name), move.year_group_id
    group.save(update_fields=["name", "year_group", "closed_on"])


@transaction.atomic
def undo_move_up(staff: Staff) -> MoveUp:
    """Everybody back to where they were before the last move up. Raises Denied, NotFound, or
    Refused once a score of the new year is kept."""
    demand(staff, May.MANAGE_SCHOOL)
    school = School.objects.select_for_update().get(pk=staff.school_id)
    up = last_move_up(school)
    if up is None:
        raise NotFound(say("move up"))
    if is_scored_since(school, up.at):
        raise Refused(say("The new year already has scores, so the move up cannot be undone."))
    before = up.before
    made = SchoolClass.objects.filter(pk__in=before["made"])
    if Pupil.objects.filter(school_class__in=made).exists():
        raise Refused(say("A new class already has children. Move them first."))
    if school.lessons.filter(school_class__in=made).exists():
        raise Refused(say("A new class already has lessons. Delete them first."))
    made.delete()
    classes = {str(one.id): one for one in school.classes.filter(pk__in=before["classes"])}
    _without_names(classes.values())
    for key, (name, year_group) in before["classes"].items():
        one = classes[key]
        one.name, one.year_group_id, one.closed_on = name, UUID(year_group), None
        one.save(update_fields=["name", "year_group", "closed_on"])
    pupils = list(Pupil.objects.filter(pk__in=before["pupils"], erased_on=None, merged_into=None))
    for pupil in pupils:
        group, pupil.place = before["pupils"][str(pupil.id)]
        pupil.school_class_id, pupil.left_from, pupil.left_on = UUID(group), None, None
    Pupil.objects.bulk_update(pupils, ["school_class", "left_from", "left_on", "place"])
    up.undone_at = timezone.now()
    up.save(update_fields=["undone_at"])
    log(staff, Change.What.SCHOOL, say("The move up was undone"), up.id)
    return up
