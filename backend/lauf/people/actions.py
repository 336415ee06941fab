"""Every write about people."""

from __future__ import annotations

import re
from collections.abc import Sequence
from datetime import date
from typing import Final
from uuid import UUID

from django.contrib.auth.hashers import make_password
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.utils import timezone

from lauf.errors import NotFound, Refused
from lauf.people.models import Change, House, Pupil, School, SchoolClass, Staff, YearGroup
from lauf.people.permissions import May, demand
from lauf.people.queries import class_of, setup_needed
from lauf.rules.ages import age_on_cut_off
from lauf.rules.kinds import plural

#: Year groups of a new school: name and age in completed years when the school year begins.
FIRST_YEAR_GROUPS = [("Reception", 4)] + [(f"Year {n}", n + 4) for n in range(1, 7)]
LARGEST_CLASS = 60


def hashed_password(password: str, *, school_name: str, name: str, username: str) -> str:
    """The password as it is kept. Raises Refused for one that is too weak. Takes all of a processor
    for a while: not to be done inside a transaction."""
    person = Staff(school=School(name=school_name), name=name, username=username)
    try:
        validate_password(password, person)
    except ValidationError as error:
        raise Refused(" ".join(error.messages)) from error
    return make_password(password)


@transaction.atomic
def set_up_school(*, school_name: str, name: str, username: str, password: str) -> Staff:
    """Create the first school and its head of PE, whose password comes as `hashed_password` makes
    it. Raises Refused when there is a school already or a field is missing."""
    # Two people pressing at once: the lock makes the second see the first one's school.
    with transaction.get_connection().cursor() as cursor:
        cursor.execute("LOCK TABLE people_school IN EXCLUSIVE MODE")
    if not setup_needed():
        raise Refused("This Lauf already has a school: sign in instead.")
    if not (school_name.strip() and name.strip() and username.strip()):
        raise Refused("Give the school's name, your name and a user name.")
    if len(school_name.strip()) > 120 or len(name.strip()) > 120 or len(username.strip()) > 60:
        raise Refused("Names have up to 120 letters, a user name up to 60.")
    return Staff.objects.create(
        school=create_school(school_name.strip()),
        username=username.strip(),
        name=name.strip(),
        role=Staff.Role.HEAD,
        password=password,
    )


def create_school(name: str, *, is_demo: bool = False) -> School:
    """A school with the usual year groups, which it may rename later."""
    school = School.objects.create(name=name, is_demo=is_demo)
    YearGroup.objects.bulk_create(
        YearGroup(school=school, name=label, position=position, age=age)
        for position, (label, age) in enumerate(FIRST_YEAR_GROUPS)
    )
    return school


def log(staff: Staff, what: Change.What, words: str, about: UUID | None = None) -> Change:
    """Put on record who changed what. Called by the action that makes the change, in its
    transaction."""
    return Change.objects.create(
        school_id=staff.school_id,
        by=staff,
        what=what,
        words=words[:240],
        about=str(about) if about else "",
    )


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
    label = name.strip()
    if not label or len(label) > 40:
        raise Refused("Give the class a name of up to 40 letters.")
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


#: Years a child may be older or younger than its year group before the birth date is a slip.
_ODD_AGE: Final = 3


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
        if abs(age - year.age) > _ODD_AGE:
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


def create_house(school: School, name: str) -> House:
    """A house of the school."""
    return House.objects.create(school=school, name=name)


@transaction.atomic
def set_units(staff: Staff, *, imperial: bool) -> School:
    """The units the school's lengths and weights are shown in. Raises Denied."""
    demand(staff, May.MANAGE_SCHOOL)
    staff.school.imperial = imperial
    staff.school.save(update_fields=["imperial"])
    shown = "inches, feet and pounds" if imperial else "centimetres, metres and kilograms"
    log(staff, Change.What.UNITS, f"Units changed to {shown}", staff.school_id)
    return staff.school


@transaction.atomic
def grant_growth(staff: Staff, staff_id: UUID, *, may_see_growth: bool) -> Staff:
    """Let somebody see and enter height and weight, or no longer. Raises Denied or NotFound."""
    demand(staff, May.MANAGE_SCHOOL)
    person = Staff.objects.filter(pk=staff_id, school_id=staff.school_id).first()
    if person is None:
        raise NotFound("person")
    if person.may_see_growth == may_see_growth:
        return person
    person.may_see_growth = may_see_growth
    person.save(update_fields=["may_see_growth"])
    may_now = "may" if may_see_growth else "may no longer"
    whose = " (by their own hand)" if person == staff else ""
    words = f"{person.name} {may_now} see height and weight{whose}"
    log(staff, Change.What.PERMISSION, words, person.id)
    return person
