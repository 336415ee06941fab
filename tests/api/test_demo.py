"""The demo school: made up, the same everywhere, with the cases a teacher meets."""

from __future__ import annotations

from datetime import date

import pytest
from django.db import transaction
from django.utils import timezone

from lauf.demo.school import keep_up, load
from lauf.lessons.models import Lesson
from lauf.people.models import Pupil, SchoolClass
from lauf.records.models import Attempt
from lauf.rules.ages import age_on_cut_off

pytestmark = pytest.mark.usefixtures("no_school")


def scores() -> list[tuple[object, ...]]:
    fields = ("pupil__given_name", "pupil__family_name", "on", "typed", "variant")
    return sorted(Attempt.objects.values_list(*fields), key=str)


def test_the_same_seed_gives_the_same_school() -> None:
    day = date(2026, 11, 24)
    found = []
    for _ in range(2):
        with transaction.atomic():
            load(day)
            found.append((scores(), sorted(Pupil.objects.values_list("given_name", "born"))))
            transaction.set_rollback(True)
    assert found[0] == found[1]
    assert len(found[0][0]) > 160


def test_it_has_every_year_group_and_the_cases_a_teacher_meets() -> None:
    today = timezone.localdate()
    load(today)
    classes = SchoolClass.objects.select_related("year_group").prefetch_related("pupils")
    assert {c.year_group.name for c in classes} >= {"Reception", "Year 1", "Year 6"}
    for school_class in classes:
        pupils = school_class.pupils.all()
        assert 24 <= len(pupils) <= 30
        ages = {age_on_cut_off(pupil.born, today) for pupil in pupils if pupil.born}
        assert ages == {school_class.year_group.age}
    attempts = Attempt.objects.filter(successor=None)
    assert attempts.filter(estimate=True).count() == 1
    assert attempts.filter(succeeds__isnull=False).count() == 1
    assert attempts.filter(reason="absent").exists()
    assert attempts.filter(value=60).count() == 2, "one child at the cap, and still there"
    for name in ("4 Heron", "5 Kestrel"):
        mine = attempts.filter(pupil__school_class__name=name, protocol__test__slug="press-ups-60")
        days = mine.values_list("on", flat=True)
        assert len(set(days)) == 3


def test_it_keeps_up_with_the_calendar() -> None:
    today = timezone.localdate()
    school = load(today)
    lessons = Lesson.objects.count()
    keep_up(school, today)
    assert Lesson.objects.count() == lessons
    keep_up(school, today.replace(year=today.year + 1, day=1))
    # Three lessons and tomorrow's run; a week of challenges, tried on two days.
    assert Lesson.objects.count() == lessons + 4 + 2
