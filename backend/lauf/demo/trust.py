"""The demo school is in a trust: its office, and two schools beside it that have begun."""

from __future__ import annotations

import random
from datetime import date, datetime, time, timedelta
from typing import Final

from django.utils import timezone

from lauf.catalogue.actions import install_ready
from lauf.catalogue.models import ProtocolVersion
from lauf.demo.names import BOYS, FAMILIES, GIRLS
from lauf.demo.terms import attempt_of
from lauf.lessons.models import Activity, Lesson
from lauf.people.actions import create_school, found_trust
from lauf.people.models import Pupil, School, SchoolClass, Staff
from lauf.records.models import Attempt
from lauf.rules.body.ages import school_year

#: School, its head of PE, and its classes: name, year group position, children.
_BESIDE: Final = (
    (
        "Quarry Lane School",
        "Noor Vale",
        (("3 Slate", 3, 22), ("4 Flint", 4, 25), ("5 Chalk", 5, 24)),
    ),
    ("Weir Meadow School", "Kit Marsh", (("2 Reed", 2, 19), ("4 Rush", 4, 21))),
)
#: Days before today on which those classes were tested.
_TESTED: Final = (30, 9)


def load_trust(password: str, today: date) -> None:
    """The office and its other schools; `password` hashed, for everybody in them."""
    trust = found_trust(
        trust_name="Riverside Trust", name="Lee Farrow", username="office", password=password
    )
    chance = random.Random("the trust")
    for name, head, classes in _BESIDE:
        school = create_school(name)
        school.trust = trust
        school.most_children = 240
        school.save()
        install_ready(school)
        username = head.split()[0].lower()
        staff = Staff.objects.create(
            school=school, name=head, username=username, role=Staff.Role.HEAD, password=password
        )
        for label, position, size in classes:
            _a_class(chance, school, staff, label, position, size, today)


def _a_class(
    chance: random.Random, school: School, staff: Staff, label: str, position: int, size: int,
    today: date,
) -> None:  # fmt: skip
    year = school.year_groups.get(position=position)
    group = SchoolClass.objects.create(school=school, name=label, year_group=year)
    group.teachers.add(staff)
    begins = date(school_year(today) - year.age - 1, 9, 1)
    pupils = Pupil.objects.bulk_create(
        Pupil(
            school=school, school_class=group, given_name=chance.choice(BOYS if n % 2 else GIRLS),
            family_name=chance.choice(FAMILIES), sex="male" if n % 2 else "female",
            born=begins + timedelta(days=chance.randrange(365)),
        )
        for n in range(size)
    )  # fmt: skip
    versions = ProtocolVersion.objects.filter(test__school=school, test__slug="speed-bounce-30")
    for days in _TESTED:
        day = datetime.combine(today - timedelta(days=days), time(10, 0))
        starts = timezone.make_aware(day)
        lesson = Lesson.objects.create(
            school=school, school_class=group, teacher=staff, place="Hall", starts_at=starts,
            closed_at=starts + timedelta(minutes=45), closed_by=staff,
        )  # fmt: skip
        activity = Activity.objects.create(lesson=lesson, protocol=versions.latest("number"))
        Attempt.objects.bulk_create(
            attempt_of(activity, one, str(chance.randint(14, 40)), staff, starts)
            for one in pupils
            if chance.random() < 0.8
        )
