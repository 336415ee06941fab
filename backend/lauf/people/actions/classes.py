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
from lauf.people.actions.audit_log import log
from lauf.people.models import Change, Pupil, SchoolClass, Staff, YearGroup
from lauf.people.permissions import May, demand
from lauf.people.queries import class_of
from lauf.rules.body.ages import age_on_cut_off, is_odd_age
from lauf.rules.reading.words import plural

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
        raise NotFound("year group")
    label = class_label(name)
    if SchoolClass.objects.filter(school_id=staff.school_id, name=label).exists():
        raise Refused(f"There is a class “{label}” already.")
    lines = enumerate(children.splitlines(), 1)
    rows = [_read_child(n, line, year_group) for n, line in lines if line.strip()]
    if not 1 <= len(rows) <= LARGEST_CLASS:
        raise Refused(f"Paste 1 to {LARGEST_CLASS} children, one a line.")
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
    words = f"Class {label} added with {plural(len(rows), 'child', 'children')}"
    log(staff, Change.What.CLASS, words, made.id)
    return made


def _read_child(number: int, line: str, year: YearGroup) -> tuple[str, str, date | None]:
    found = _CHILD.fullmatch(line.strip())
    if found is None:
        raise Refused(f"Line {number}: write “Given Family” or “Given Family, 2018-05-31”.")
    given, _, family = found["name"].strip().partition(" ")
    if len(given) > 60 or len(family) > 60:
        raise Refused(f"Line {number}: names have up to 60 letters.")
    try:
        born = date.fromisoformat(found["born"]) if found["born"] else None
    except ValueError as error:
        raise Refused(f"Line {number}: write the birth date as 2018-05-31.") from error
    if born is not None:
        age = age_on_cut_off(born, timezone.localdate(), year.school.cut_off)
        if is_odd_age(age, year.age):
            raise Refused(
                f"Line {number}: born {born}, this child was {age} when the school year began; "
                f"{year.name} is about {year.age}. Look at the year of birth."
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
        raise Refused("The order names every child of the class once: reload to see who is in it.")
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
        raise NotFound("child in this class")
    for pupil_id, name in groups.items():
        pupils[pupil_id].group = name.strip()
        if len(name.strip()) > 40:
            raise Refused("Names of groups have up to 40 letters.")
    if len({pupil.group for pupil in pupils.values()} - {""}) > MOST_GROUPS:
        raise Refused(f"A class has up to {MOST_GROUPS} groups.")
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
        raise NotFound("year group")
    if len(teachers) < len(set(teacher_ids)):
        raise NotFound("person")
    same = SchoolClass.objects.filter(school_id=staff.school_id, name=label)
    if same.exclude(pk=found.pk).exists():
        raise Refused(f"There is a class “{label}” already.")
    before = found.name
    found.name, found.year_group = label, year_group
    found.save(update_fields=["name", "year_group"])
    found.teachers.set(teachers)
    whose = ", ".join(sorted(one.name for one in teachers)) or "nobody"
    renamed = f" (was {before})" if before != label else ""
    words = f"Class {label}{renamed}: {year_group}, taught by {whose}"
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
        raise Refused(f"{found.name} has children or lessons: it stays.") from error
    log(staff, Change.What.CLASS, f"Class {found.name} taken away", class_id)


def class_label(name: str) -> str:
    """A class's name as it is kept. Raises Refused."""
    label = name.strip()
    if not label or len(label) > 40:
        raise Refused("Give the class a name of up to 40 letters.")
    return label
