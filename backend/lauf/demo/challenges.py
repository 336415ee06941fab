"""A week of challenges of the demo school: a rival, scores tried again, points given and due."""

from __future__ import annotations

import random
from datetime import date, datetime, time, timedelta
from typing import Final

from django.utils import timezone

from lauf.catalogue.models import Test
from lauf.challenges.actions import give_points, make_week, set_day
from lauf.challenges.models import Challenge, ChallengeWeek
from lauf.demo.terms import attempt_of
from lauf.lessons.models import Activity, Lesson
from lauf.people.models import School, SchoolClass, Staff
from lauf.records.models import Attempt
from lauf.rules.points import PointRule

POINTS: Final = {
    PointRule.TOOK_PART: 1,
    PointRule.BEAT_OWN_BEST: 2,
    PointRule.REACHED_RUNG: 2,
    PointRule.BEAT_RIVAL: 3,
}
#: Test, whose mark it is, the mark and its variant, by day from the first.
_DAYS: Final = (
    ("speed-bounce-30", "Sam Pellgrave", "34", ""),
    ("star-jumps-30", "", "", ""),
    ("squats-30", "Robin Ashgrove", "32", ""),
)


def load_week(school: School, teacher: Staff, today: date) -> None:
    """A week that began two days ago, unless one is open already."""
    if ChallengeWeek.objects.filter(school=school, ends_on__gte=today).exists():
        return
    classes = SchoolClass.objects.filter(school=school, name__in=("4 Heron", "5 Kestrel"))
    week = make_week(
        teacher,
        name="Bounce and jump week",
        starts_on=today - timedelta(days=2),
        ends_on=today + timedelta(days=4),
        class_ids=[one.id for one in classes],
        points=POINTS,
    )
    tests = dict(Test.objects.filter(school=school).values_list("slug", "id"))
    made = [
        set_day(
            teacher,
            week.id,
            on=week.starts_on + timedelta(days=place),
            test_id=tests[slug],
            rival=rival,
            rival_typed=mark,
            rival_variant=variant if rival else "",
        )
        for place, (slug, rival, mark, variant) in enumerate(_DAYS)
    ]
    heron = classes.get(name="4 Heron")
    _tried(heron, made[0], teacher, week.starts_on, everybody=True)
    give_points(teacher, made[0].id)
    # Some came back the day after; their points wait to be given.
    _tried(heron, made[0], teacher, week.starts_on + timedelta(days=1), everybody=False)


def _tried(
    school_class: SchoolClass, challenge: Challenge, teacher: Staff, on: date, *, everybody: bool
) -> None:
    chance = random.Random(f"{school_class.name} tries again: {everybody}")
    starts = timezone.make_aware(datetime.combine(on, time(12, 30)))
    lesson = Lesson.objects.create(
        school_id=teacher.school_id,
        school_class=school_class,
        teacher=teacher,
        place="challenge",
        starts_at=starts,
        minutes=20,
        closed_at=starts + timedelta(minutes=30),
        closed_by=teacher,
    )
    activity = Activity.objects.create(lesson=lesson, protocol=challenge.protocol)
    attempts = []
    for number, pupil in enumerate(school_class.pupils.all()):
        steady = random.Random(f"bounces of {pupil.name}").gauss(28, 4)
        if not everybody and number % 3:
            continue
        count = max(8, round(steady + chance.gauss(0 if everybody else 3, 2)))
        word = "a" if everybody and chance.random() < 0.05 else str(count)
        attempts.append(attempt_of(activity, pupil, word, teacher, starts))
    Attempt.objects.bulk_create(attempts)
