"""Writes of classes."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from datetime import date
from uuid import UUID

from django.db import transaction
from django.db.models import ProtectedError
from django.utils import timezone

from lauf.errors import NotFound, Refused
from lauf.messages import say, say_many
from lauf.people.actions.audit_log import log
from lauf.people.actions.room import demand_room
from lauf.people.models import Change, Pupil, SchoolClass, Staff, YearGroup
from lauf.people.permissions import May, demand
from lauf.people.queries import class_of
from lauf.rules.body.ages import age_on_cut_off, is_odd_age

LARGEST_CLASS = 60
_CHILD = re.compile(r"(?P<name>[^,\t;]+)(?:[,\t;]\s*(?P<born>\S+))?")


@transaction.atomic
def add_class(staff: Staff, *, name: str, year_group_id: UUID, children: str) -> SchoolClass:
    """Add a class from a pasted list: one child a line, "Given Family" and, after a comma,
    the birth date as 2018-05-31. Heads only. Raises Refused naming the line."""
    demand(staff, May.MANAGE_SCHOOL)
    years = YearGroup.objects.select_related("school")
    year_group = years.filter(school_id=staff.school_id, pk=year_group_id).first()
    if year_group is None:
        raise NotFound(say("year group"))
    label = class_label(name)
    if SchoolClass.objects.filter(school_id=staff.school_id, name=label).exists():
        raise Refused(say("A class is already called “{label}”.", label=label))
    lines = enumerate(children.splitlines(), 1)
    rows = [_read_child(n, line, year_group) for n, line in lines if line.strip()]
    if not 1 <= len(rows) <= LARGEST_CLASS:
        raise Refused(
            say(
                "Paste 1 to {largest_class} children, one on each line.",
                largest_class=LARGEST_CLASS,
            )
        )
    made = SchoolClass.objects.create(school_id=staff.school_id, name=label, year_group=year_group)
    Pupil.objects.bulk_create(
        Pupil(
            school_id=staff.school_id,
            school_class=made,
            given_name=given,
            family_name=family,
            born=born,
        )
        for given, family, born in rows
    )
    demand_room(staff.school_id)
    words = say(
        "Class {label} added with {childs}",
        label=label,
        childs=say_many("{n} child", "{n} children", len(rows)),
    )
    log(staff, Change.What.CLASS, words, made.id)
    return made


def _read_child(number: int, line: str, year: YearGroup) -> tuple[str, str, date | None]:
    found = _CHILD.fullmatch(line.strip())
    if found is None:
        raise Refused(
            say("Line {number}: write “Given Family” or “Given Family, 2018-05-31”.", number=number)
        )
    given, _, family = found["name"].strip().partition(" ")
    if len(given) > 60 or len(family) > 60:
        raise Refused(say("Line {number}: a name can have up to 60 letters.", number=number))
    try:
        born = date.fromisoformat(found["born"]) if found["born"] else None
    except ValueError as error:
        raise Refused(
            say("Line {number}: write the birth date as 2018-05-31.", number=number)
        ) from error
    if born is not None:
        age = age_on_cut_off(born, timezone.localdate(), year.school.cut_off)
        if is_odd_age(age, year.age):
            raise Refused(
                say(
                    "Line {number}: a child born {born} was {age} when the school year "
                    "began, but {name} is about {age2}. Check the year of birth.",
                    number=number,
                    born=born,
                    age=age,
                    name=year.name,
                    age2=year.age,
                )
            )
    return given, family.strip(), born


@transaction.atomic
def set_order(staff: Staff, class_id: UUID, pupil_ids: Sequence[UUID]) -> SchoolClass:
    """The order the children sit or line up in, which every list of the class then keeps; none at
    all goes back to the order of names. Raises NotFound, or Refused unless each child is in it
    once."""
    found = class_of(staff, class_id)
    pupils = {pupil.id: pupil for pupil in found.pupils.select_for_update()}
    if pupil_ids and sorted(pupil_ids) != sorted(pupils):
        raise Refused(say("The class has changed. Reload to see who is in it."))
    for pupil in pupils.values():
        pupil.place = pupil_ids.index(pupil.id) + 1 if pupil_ids else 0
    Pupil.objects.bulk_update(pupils.values(), ["place"])
    return found


#: As many groups as stations can be.
MOST_GROUPS = 12


@transaction.atomic
def set_groups(staff: Staff, class_id: UUID, groups: Mapping[UUID, str]) -> SchoolClass:
    """Which group of its class each child is in, by the group's name (empty: none); who is not
    named stays. Raises NotFound or Refused."""
    found = class_of(staff, class_id)
    pupils = {pupil.id: pupil for pupil in found.pupils.select_for_update()}
    if groups.keys() - pupils.keys():
        raise NotFound(say("child in this class"))
    for pupil_id, name in groups.items():
        pupils[pupil_id].group = name.strip()
        if len(name.strip()) > 40:
            raise Refused(say("The name of a group can have up to 40 letters."))
    if len({pupil.group for pupil in pupils.values()} - {""}) > MOST_GROUPS:
        raise Refused(say("A class can have up to {most_groups} groups.", most_groups=MOST_GROUPS))
    Pupil.objects.bulk_update(pupils.values(), ["group"])
    return found


@transaction.atomic
def change_class(
    staff: Staff, class_id: UUID, *, name: str, year_group_id: UUID, teacher_ids: Sequence[UUID]
) -> SchoolClass:
    """A class's name, year group and teachers. What was tested before stays in the year group of
    then. Raises Denied, NotFound or Refused."""
    demand(staff, May.MANAGE_SCHOOL)
    found, label = class_of(staff, class_id), class_label(name)
    year_group = YearGroup.objects.filter(school_id=staff.school_id, pk=year_group_id).first()
    teachers = list(Staff.objects.filter(school_id=staff.school_id, pk__in=set(teacher_ids)))
    if year_group is None:
        raise NotFound(say("year group"))
    if len(teachers) < len(set(teacher_ids)):
        raise NotFound(say("person"))
    same = SchoolClass.objects.filter(school_id=staff.school_id, name=label)
    if same.exclude(pk=found.pk).exists():
        raise Refused(say("A class is already called “{label}”.", label=label))
    before = found.name
    found.name, found.year_group = label, year_group
    found.save(update_fields=["name", "year_group"])
    found.teachers.set(teachers)
    whose = ", ".join(sorted(one.name for one in teachers)) or say("nobody")
    words = say(
        "Class {label}: {year_group}, taught by {whose}"
        if before == label
        else "Class {label} (was {before}): {year_group}, taught by {whose}",
        label=label,
        before=before,
        year_group=year_group,
        whose=whose,
    )
    log(staff, Change.What.CLASS, words, found.id)
    return found


@transaction.atomic
def remove_class(staff: Staff, class_id: UUID) -> None:
    """Take a class away that nobody is in and nothing was kept in. Raises Denied, NotFound or
    Refused."""
    demand(staff, May.MANAGE_SCHOOL)
    found = class_of(staff, class_id)
    try:
        with transaction.atomic():
            found.delete()
    except ProtectedError as error:
        raise Refused(
            say("{name} has children or lessons, so it cannot be deleted.", name=found.name)
        ) from error
    log(staff, Change.What.CLASS, say("Class {name} deleted", name=found.name), class_id)


def class_label(name: str) -> str:
    """A class's name as it is kept. Raises Refused."""
    label = name.strip()
    if not label or len(label) > 40:
        raise Refused(say("Give the class a name of up to 40 letters."))
    return label
