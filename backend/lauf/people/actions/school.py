"""Writes of a school and who signs in."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import date
from itertools import pairwise
from typing import Final
from uuid import UUID

from django.db import transaction
from django.db.models import ProtectedError

from lauf.errors import NotFound, Refused
from lauf.messages import say, say_many
from lauf.people.actions.audit_log import log
from lauf.people.models import Change, House, School, Staff, Term, TermKind, YearGroup
from lauf.people.models.school import MOST_IDLE_DAYS
from lauf.people.permissions import May, demand
from lauf.people.queries import setup_needed
from lauf.people.queries.school import SchemeEntry, scheme_kept
from lauf.people.usernames import written_plainly
from lauf.rules.body.ages import YEAR_GROUP_WAYS
from lauf.rules.contests.schemes import SchemeError, read_scheme, scheme_words

FIRST_YEAR_GROUPS: Final = YEAR_GROUP_WAYS["Years"]


@transaction.atomic
def set_up_school(*, school_name: str, name: str, username: str, password: str) -> Staff:
    """Create the first school and its head of PE, whose password comes hashed. Raises Refused when
    there is a school already or a field is missing."""
    # Two people pressing at once: the lock makes the second see the first one's school.
    with transaction.get_connection().cursor() as cursor:
        cursor.execute("LOCK TABLE people_school IN EXCLUSIVE MODE")
    if not setup_needed():
        raise Refused(say("This Lauf already has a school. Sign in instead."))
    if not (school_name.strip() and name.strip() and username.strip()):
        raise Refused(say("Give the school's name, your name and a user name."))
    if (
        len(school_name.strip()) > 120
        or len(name.strip()) > 120
        or len(written_plainly(username)) > 60
    ):
        raise Refused(say("A name can have up to 120 letters, a user name up to 60."))
    return Staff.objects.create(
        school=create_school(school_name.strip()),
        username=written_plainly(username),
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
def set_details(staff: Staff, *, name: str, cut_off_month: int, cut_off_day: int) -> School:
    """The school's name, and the day on which year groups change. Raises Denied or Refused."""
    demand(staff, May.MANAGE_SCHOOL)
    school = staff.school
    if not 1 <= len(name.strip()) <= 120:
        raise Refused(say("Give the school's name in up to 120 letters."))
    if not (1 <= cut_off_month <= 12 and 1 <= cut_off_day <= 28):
        raise Refused(say("Year groups must change between the 1st and the 28th of a month."))
    school.name, school.cut_off_month, school.cut_off_day = name.strip(), cut_off_month, cut_off_day
    school.save(update_fields=["name", "cut_off_month", "cut_off_day"])
    words = say(
        "{name}: year groups change on {cut_off_day}/{cut_off_month}.",
        name=school.name,
        cut_off_day=f"{cut_off_day:02}",
        cut_off_month=f"{cut_off_month:02}",
    )
    log(staff, Change.What.SCHOOL, words, school.id)
    return school


@transaction.atomic
def set_year_groups(staff: Staff, rows: Sequence[tuple[UUID | None, str, int]]) -> None:
    """The school's year groups from the youngest on: id (None for a new one), name, and age in
    completed years when the school year begins. One with classes or benchmarks stays. Raises
    Denied, NotFound or Refused."""
    demand(staff, May.MANAGE_SCHOOL)
    school = School.objects.select_for_update().get(pk=staff.school_id)
    held = {one.id: one for one in school.year_groups.all()}
    names = _names([name for _, name, _ in rows], say("year group"))
    if not rows:
        raise Refused(say("A school needs at least one year group."))
    if any(not 3 <= age <= 14 for _, _, age in rows):
        raise Refused(say("A year group must be for ages 3 to 14."))
    if {given for given, _, _ in rows if given} - held.keys():
        raise NotFound(say("year group"))
    _remove([one for one in held.values() if one.id not in {given for given, _, _ in rows}])
    # Names and places may be exchanged: first out of each other's way.
    for number, one in enumerate(school.year_groups.all()):
        one.name, one.position = f"\u2063{number}", 1000 + number
        one.save()
    for position, ((given, _, age), name) in enumerate(zip(rows, names, strict=True)):
        one = held[given] if given else YearGroup(school=school)
        one.name, one.position, one.age = name, position, age
        one.save()
    log(
        staff,
        Change.What.SCHOOL,
        say("Year groups are now {names}", names=", ".join(names)),
        school.id,
    )


@transaction.atomic
def set_houses(staff: Staff, rows: Sequence[tuple[UUID | None, str]]) -> None:
    """The school's houses: id (None for a new one) and name. One with children stays. Raises
    Denied, NotFound or Refused."""
    demand(staff, May.MANAGE_SCHOOL)
    school = School.objects.select_for_update().get(pk=staff.school_id)
    held = {one.id: one for one in school.houses.all()}
    names = _names([name for _, name in rows], "house")
    if {given for given, _ in rows if given} - held.keys():
        raise NotFound(say("house"))
    _remove([one for one in held.values() if one.id not in {given for given, _ in rows}])
    for one in school.houses.all():
        one.name = f"\u2063{one.id}"[:40]
        one.save()
    for (given, _), name in zip(rows, names, strict=True):
        one = held[given] if given else House(school=school)
        one.name = name
        one.save()
    log(
        staff,
        Change.What.SCHOOL,
        say("Houses are now {names}", names=", ".join(names) or say("none")),
        school.id,
    )


@transaction.atomic
def set_terms(staff: Staff, rows: Sequence[tuple[str, str, date, date]]) -> None:
    """The school's terms and holidays: kind, name, first and last day. They replace those there
    were. Raises Denied, or Refused for terms that meet, or a day before another."""
    demand(staff, May.MANAGE_SCHOOL)
    school = School.objects.select_for_update().get(pk=staff.school_id)
    terms = [
        Term(
            school=school,
            kind=kind,
            name=name.strip()[:40] or say("Term"),
            starts=starts,
            ends=ends,
        )
        for kind, name, starts, ends in rows
    ]
    for one in terms:
        if one.ends < one.starts:
            raise Refused(say("{name} ends before it starts.", name=one.name))
    in_order = sorted((one for one in terms if one.kind == TermKind.TERM), key=lambda t: t.starts)
    for one, following in pairwise(in_order):
        if following.starts <= one.ends:
            raise Refused(
                say("{name} starts before {name2} has ended.", name=following.name, name2=one.name)
            )
    school.terms.all().delete()
    Term.objects.bulk_create(terms)
    words = say("Terms are now {name}", name=", ".join(one.name for one in in_order) or say("none"))
    log(staff, Change.What.SCHOOL, words, school.id)


@transaction.atomic
def set_keeping(staff: Staff, *, keep_years: int | None, scores_outlive: bool) -> School:
    """How long a leaver's record is kept, in years after leaving (None: nobody has said), and
    whether scores stay as numbers of nobody. Raises Denied or Refused."""
    demand(staff, May.MANAGE_SCHOOL)
    if keep_years is not None and not 0 <= keep_years <= 30:
        raise Refused(say("A leaver's record can be saved for 0 to 30 years."))
    school = staff.school
    school.keep_years, school.scores_outlive = keep_years, scores_outlive
    school.save(update_fields=["keep_years", "scores_outlive"])
    kept = (
        say("a time not chosen yet")
        if keep_years is None
        else say_many("{n} year", "{n} years", keep_years)
    )
    words = say(
        "Leavers' records are saved for {kept}, and their scores stay"
        if scores_outlive
        else "Leavers' records are saved for {kept}, and their scores go with them",
        kept=kept,
    )
    log(staff, Change.What.CARE, words, school.id)
    return school


def _names(given: Sequence[str], what: str) -> list[str]:
    names = [name.strip() for name in given]
    for name in names:
        if not 1 <= len(name) <= 40:
            raise Refused(say("Give each {what} a name of up to 40 letters.", what=what))
        if names.count(name) > 1:
            raise Refused(say("Two have the name “{name}”.", name=name))
    return names


def _remove(rows: Iterable[YearGroup | House]) -> None:
    for one in rows:
        try:
            with transaction.atomic():
                one.delete()
        except ProtectedError as error:
            held = (
                say("classes, lessons or benchmarks")
                if isinstance(one, YearGroup)
                else say("children")
            )
            raise Refused(
                say("{name} has {held}, so it cannot be deleted.", name=one.name, held=held)
            ) from error


@transaction.atomic
def set_idle(staff: Staff, *, idle_days: int, tablet_idle_days: int) -> School:
    """After how many days without use people are signed out, on tablets and elsewhere. Raises
    Denied or Refused."""
    demand(staff, May.MANAGE_SCHOOL)
    if not all(1 <= days <= MOST_IDLE_DAYS for days in (idle_days, tablet_idle_days)):
        raise Refused(
            say(
                "People can stay signed in for 1 to {most_idle_days} days.",
                most_idle_days=MOST_IDLE_DAYS,
            )
        )
    school = staff.school
    school.idle_days, school.tablet_idle_days = idle_days, tablet_idle_days
    school.save(update_fields=["idle_days", "tablet_idle_days"])
    words = say(
        "Signed out after {days} without use, on tablets after {tablet_days}",
        days=say_many("{n} day", "{n} days", idle_days),
        tablet_days=say_many("{n} day", "{n} days", tablet_idle_days),
    )
    log(staff, Change.What.SCHOOL, words, school.id)
    return school


@transaction.atomic
def set_units(staff: Staff, *, imperial: bool) -> School:
    """The units the school's lengths and weights are shown in. Raises Denied."""
    demand(staff, May.MANAGE_SCHOOL)
    staff.school.imperial = imperial
    staff.school.save(update_fields=["imperial"])
    shown = say("inches, feet and pounds") if imperial else say("centimetres, metres and kilograms")
    log(staff, Change.What.UNITS, say("Units changed to {shown}", shown=shown), staff.school_id)
    return staff.school


@transaction.atomic
def set_scheme(staff: Staff, entry: SchemeEntry | None) -> School:
    """How rungs become one statement over several tests; None for none. Raises Denied, or Refused
    for a scheme that cannot be used."""
    demand(staff, May.MANAGE_SCHOOL)
    kept = scheme_kept(entry)
    try:
        scheme = read_scheme(kept)
    except SchemeError as error:
        raise Refused(str(error)) from error
    school = School.objects.select_for_update().get(pk=staff.school_id)
    school.scheme = kept
    school.save(update_fields=["scheme"])
    words = say("The overall statement was removed") if scheme is None else scheme_words(scheme)
    log(staff, Change.What.SCHOOL, say("Overall statement: {words}", words=words))
    return school
