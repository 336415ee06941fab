"""The demo school lives: terms, timetable, staff of each kind, care, leavers, and a year before
this one. Made up."""

from __future__ import annotations

import random
from collections.abc import Collection, Iterable
from datetime import date, datetime, time, timedelta
from typing import Final

from django.contrib.auth.hashers import make_password
from django.utils import timezone

from lauf.catalogue.models import ProtocolVersion
from lauf.lessons.models import Activity, Lesson, Slot
from lauf.people.actions import log
from lauf.people.models import (
    Change,
    Exclusion,
    MoveUp,
    Pupil,
    School,
    SchoolClass,
    Staff,
    Term,
    TermKind,
)
from lauf.records.models import Attempt
from lauf.rules.body.ages import school_year
from lauf.rules.planning.care import Care
from lauf.rules.reading.entry import read_entry

#: Kind, name, first and last day, as (months into the calendar year of September, day).
_YEAR: Final = (
    (TermKind.TERM, "Autumn", (9, 3), (12, 18)),
    (TermKind.HOLIDAY, "Autumn half-term", (10, 26), (10, 30)),
    (TermKind.TERM, "Spring", (13, 5), (15, 26)),
    (TermKind.HOLIDAY, "Spring half-term", (14, 15), (14, 19)),
    (TermKind.TERM, "Summer", (16, 13), (19, 20)),
    (TermKind.HOLIDAY, "Summer half-term", (17, 25), (17, 29)),
)
#: Class, days of the week, time, place.
_WEEK: Final = (
    ("3 Swift", range(5), time(14, 15), "Hall"),
    ("4 Heron", (0, 3), time(9, 30), "Hall"),
    ("5 Kestrel", (1, 4), time(13, 15), "Playground"),
    ("1 Wren", (2,), time(9, 30), "Hall"),
    ("6 Osprey", (0, 2), time(11, 0), "Playground"),
)
#: A test that nothing else in the demo uses.
_LAST_YEARS: Final = "burpees-30"


def load_living(school: School, today: date) -> None:
    """All of it, once, into a school that has its classes and staff."""
    chance = random.Random("a living school")
    head = Staff.objects.get(school=school, username="head")
    load_year(school, today)
    _load_staff(school)
    _load_week(school)
    _load_care(school, head, chance)
    _load_leavers(school, head, today)
    _load_last_year(school, head, today, chance)


def load_year(school: School, today: date) -> None:
    """The terms and holidays of this school year and the next, where they are not there yet."""
    first = school_year(today, school.cut_off)
    if school.terms.filter(starts__lte=date(first + 1, 9, 30), ends__gte=today).count() > 1:
        return
    make_terms(school, (first, first + 1))


def make_terms(
    school: School, years: Iterable[int], kinds: Collection[TermKind] = tuple(TermKind)
) -> None:
    """The terms and holidays of school years, those of these kinds that are not there yet."""
    Term.objects.bulk_create(
        Term(
            school=school,
            kind=kind,
            name=name,
            starts=day_in(year, starts),
            ends=day_in(year, ends),
        )
        for year in years
        for kind, name, starts, ends in _YEAR
        if kind in kinds and not school.terms.filter(starts=day_in(year, starts)).exists()
    )


def day_in(year: int, at: tuple[int, int]) -> date:
    """A day of the school year that begins in `year`: its month counts on past December."""
    month, day = at
    return date(year + (month - 1) // 12, (month - 1) % 12 + 1, day)


def _load_staff(school: School) -> None:
    """Somebody who looks after the whole school, somebody who has gone, somebody still to come."""
    people: tuple[tuple[str, str, dict[str, bool]], ...] = (
        ("deputy", "Alex Marlowe", {"may_see_school": True, "may_edit_tests": False}),
        ("gone", "Toni Brack", {"is_active": False}),
        ("new", "Kim Osgood", {}),
    )
    for username, name, more in people:
        Staff.objects.create(
            school=school, username=username, name=name, role=Staff.Role.TEACHER,
            password=make_password(None), **more,
        )  # fmt: skip


def _load_week(school: School) -> None:
    for name, days, at, place in _WEEK:
        group = school.classes.get(name=name)
        teacher = group.teachers.order_by("username").first()
        assert teacher is not None
        Slot.objects.bulk_create(
            Slot(school_class=group, teacher=teacher, weekday=day, at=at, minutes=45, place=place)
            for day in days
        )


def _load_care(school: School, head: Staff, chance: random.Random) -> None:
    """Most families have agreed to measuring, two have not; two children are kept from
    something."""
    pupils = list(
        Pupil.objects.filter(school=school, school_class__isnull=False).order_by(
            "given_name", "family_name"
        )
    )
    for pupil in pupils:
        if chance.random() < 0.8:
            pupil.measuring = Pupil.Consent.GIVEN
    refused = [one for one in pupils if one.school_class and one.school_class.name == "2 Dipper"]
    for pupil in refused[:2]:
        pupil.measuring = Pupil.Consent.REFUSED
    Pupil.objects.bulk_update(pupils, ["measuring"])
    for name, care, until in (
        ("4 Heron", Care.HANGING, None),
        ("3 Swift", Care.HANDS, timezone.localdate() + timedelta(days=12)),
    ):
        pupil = Pupil.objects.filter(school=school, school_class__name=name).order_by(
            "given_name", "family_name"
        )[5]
        Exclusion.objects.create(pupil=pupil, what=care.value, until=until, by=head)


def _load_leavers(school: School, head: Staff, today: date) -> None:
    """One child that left this term, and two of a class that has gone, one of them long enough."""
    school.keep_years = 2
    school.save(update_fields=["keep_years"])
    year = school.year_groups.get(name="Year 6")
    gone = SchoolClass.objects.create(
        school=school, name="6 Grebe", year_group=year, closed_on=today - timedelta(days=800)
    )
    for given, days in (("Wilf", 800), ("Nessa", 440)):
        Pupil.objects.create(
            school=school, given_name=given, family_name="Holloway", left_from=gone,
            left_on=today - timedelta(days=days), sex="", born=today - timedelta(days=4500),
        )  # fmt: skip
    group = school.classes.get(name="1 Wren")
    left = Pupil.objects.create(
        school=school, given_name="Ottilie", family_name="Fenn", left_from=group,
        left_on=today - timedelta(days=9), born=today - timedelta(days=2300),
    )  # fmt: skip
    log(head, Change.What.PUPIL, f"{left.name} has left {group}", left.id)


def _load_last_year(school: School, head: Staff, today: date, chance: random.Random) -> None:
    """5 Kestrel was 4 Kestrel: what it did then stands in Year 4. It moved up before the year."""
    group = school.classes.get(name="5 Kestrel")
    teacher = group.teachers.get(username="demo")
    four = school.year_groups.get(name="Year 4")
    began = date(school_year(today, school.cut_off), school.cut_off_month, school.cut_off_day)
    starts = datetime.combine(
        began - timedelta(days=100), time(9, 30), tzinfo=timezone.get_current_timezone()
    )
    lesson = Lesson.objects.create(
        school=school, school_class=group, year_group=four, teacher=teacher, place="Hall",
        starts_at=starts, closed_at=starts + timedelta(minutes=50), closed_by=teacher,
    )  # fmt: skip
    protocol = ProtocolVersion.objects.get(test__school=school, test__slug=_LAST_YEARS)
    activity = Activity.objects.create(lesson=lesson, protocol=protocol)
    attempts = []
    for number, pupil in enumerate(group.pupils.all()):
        entry = read_entry(str(max(2, round(chance.gauss(11, 3)))), protocol.measure)
        attempts.append(
            Attempt(
                school=school, pupil=pupil, activity=activity, protocol=protocol,
                kind=protocol.kind, on=starts.date(), variant=protocol.variant_codes[0],
                typed=entry.typed, value=entry.value, recorded_by=teacher,
                recorded_at=starts + timedelta(minutes=20, seconds=6 * number),
            )
        )  # fmt: skip
    Attempt.objects.bulk_create(attempts)
    up = MoveUp.objects.create(
        school=school, by=head,
        before={"classes": {str(group.id): ["4 Kestrel", str(four.id)]}, "pupils": {}, "made": []},
    )  # fmt: skip
    MoveUp.objects.filter(pk=up.pk).update(at=starts + timedelta(days=90))
