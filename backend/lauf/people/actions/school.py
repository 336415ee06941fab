"""Writes of a school and who signs in."""

from __future__ import annotations

from django.db import transaction

from lauf.errors import Refused
from lauf.people.actions.log import log
from lauf.people.models import Change, House, School, Staff, YearGroup
from lauf.people.permissions import May, demand
from lauf.people.queries import setup_needed

#: Year groups of a new school: name and age in completed years when the school year begins.
FIRST_YEAR_GROUPS = [("Reception", 4)] + [(f"Year {n}", n + 4) for n in range(1, 7)]


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
