"""Writes of children."""

from __future__ import annotations

from datetime import date
from uuid import UUID

from django.db import IntegrityError, transaction
from django.utils import timezone

from lauf.errors import Confirm, NotFound, Refused
from lauf.messages import say
from lauf.people.actions.audit_log import log
from lauf.people.actions.room import demand_room
from lauf.people.models import Change, House, Pupil, SchoolClass, Staff
from lauf.people.permissions import May, demand
from lauf.people.queries import class_of, pupil_of
from lauf.rules.body.ages import age_on_cut_off, is_odd_age


@transaction.atomic
def add_pupil(
    staff: Staff, class_id: UUID, *, given: str, family: str, born: date | None, sex: str,
    house_id: UUID | None, note: str, number: str, sure: bool = False,
) -> Pupil:  # fmt: skip
    """Add a child to a class. Raises Denied, NotFound, or Refused: for a missing name, a birth date
    that hardly can be (unless one is `sure`), or a child of that name and birth date that there is
    already."""
    demand(staff, May.MANAGE_SCHOOL)
    group = class_of(staff, class_id)
    pupil = Pupil(school_id=staff.school_id, school_class=group)
    _fill(pupil, given, family, born, sex, house_id, note, number, group, sure=sure)
    same = Pupil.objects.filter(
        school_id=staff.school_id, given_name__iexact=pupil.given_name,
        family_name__iexact=pupil.family_name, born=born,
    ).first()  # fmt: skip
    if same is not None and not sure:
        where = (
            say("in {school_class}", school_class=same.school_class)
            if same.school_class
            else say("left, from {left_from}", left_from=same.left_from)
        )
        raise Confirm(
            say(
                "There is already a child called {name} ({where}). Add another?",
                name=same.name,
                where=where,
            )
        )
    _save(pupil)
    demand_room(staff.school_id)
    log(
        staff,
        Change.What.PUPIL,
        say("{name} added to {group}", name=pupil.name, group=group),
        pupil.id,
    )
    return pupil


@transaction.atomic
def change_pupil(
    staff: Staff, pupil_id: UUID, *, given: str, family: str, born: date | None, sex: str,
    house_id: UUID | None, note: str, number: str, sure: bool = False,
) -> Pupil:  # fmt: skip
    """Change what is known about a child; scores are judged by it from now on, earlier ones too.
    Raises Denied, NotFound or Refused, as `add_pupil`."""
    demand(staff, May.MANAGE_SCHOOL)
    pupil = pupil_of(staff, pupil_id)
    before = pupil.name
    _fill(pupil, given, family, born, sex, house_id, note, number, pupil.last_class, sure=sure)
    _save(pupil)
    log(
        staff,
        Change.What.PUPIL,
        say(
            "{name} changed" if before == pupil.name else "{name} (was {before}) changed",
            name=pupil.name,
            before=before,
        ),
        pupil.id,
    )
    return pupil


def _fill(
    pupil: Pupil, given: str, family: str, born: date | None, sex: str, house_id: UUID | None,
    note: str, number: str, group: SchoolClass, *, sure: bool,
) -> None:  # fmt: skip
    pupil.given_name, pupil.family_name = given.strip(), family.strip()
    if not pupil.given_name:
        raise Refused(say("Give the child's first name."))
    if max(len(pupil.given_name), len(pupil.family_name)) > 60:
        raise Refused(say("A name can have up to 60 letters."))
    if born is not None and not sure:
        age = age_on_cut_off(born, timezone.localdate(), pupil.school.cut_off)
        if is_odd_age(age, group.year_group.age):
            raise Confirm(
                say(
                    "A child born {born} was {age} when the school year began, but "
                    "{name} is about {age2}. Is that right?",
                    born=born,
                    age=age,
                    name=group.year_group.name,
                    age2=group.year_group.age,
                )
            )
    houses = House.objects.filter(school_id=pupil.school_id)
    if house_id is not None and not houses.filter(pk=house_id).exists():
        raise NotFound(say("house"))
    pupil.born, pupil.sex, pupil.house_id = born, sex, house_id
    pupil.medical_note, pupil.number = note.strip()[:240], number.strip()[:40]


def _save(pupil: Pupil) -> None:
    try:
        with transaction.atomic():
            pupil.save()
    except IntegrityError as error:
        raise Refused(
            say("The number {number} belongs to another child.", number=pupil.number)
        ) from error


@transaction.atomic
def leave(staff: Staff, pupil_id: UUID, *, on: date) -> Pupil:
    """A child leaves the school: it is in no list any more, its scores stay. Raises Denied or
    NotFound; a child that has left already stays as it is."""
    demand(staff, May.MANAGE_SCHOOL)
    pupil = pupil_of(staff, pupil_id)
    if pupil.school_class is None:
        return pupil
    pupil.left_from, pupil.left_on, pupil.school_class = pupil.school_class, on, None
    pupil.save(update_fields=["left_from", "left_on", "school_class"])
    log(
        staff,
        Change.What.PUPIL,
        say("{name} has left {left_from}", name=pupil.name, left_from=pupil.left_from),
        pupil.id,
    )
    return pupil


@transaction.atomic
def move(staff: Staff, pupil_id: UUID, class_id: UUID) -> Pupil:
    """A child goes to a class, or comes back to one. Raises Denied or NotFound."""
    demand(staff, May.MANAGE_SCHOOL)
    pupil, to = pupil_of(staff, pupil_id), class_of(staff, class_id)
    if pupil.school_class_id == to.id:
        return pupil
    words = say("{name} has come back to {to}", name=pupil.name, to=to)
    if pupil.school_class is not None:
        words = say(
            "{name} has moved from {school_class} to {to}",
            name=pupil.name,
            school_class=pupil.school_class,
            to=to,
        )
    came_back = pupil.left_on is not None
    pupil.school_class, pupil.left_from, pupil.left_on, pupil.place = to, None, None, 0
    pupil.save(update_fields=["school_class", "left_from", "left_on", "place"])
    if came_back:
        demand_room(staff.school_id)
    log(staff, Change.What.PUPIL, words, pupil.id)
    return pupil
