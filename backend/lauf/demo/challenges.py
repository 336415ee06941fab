"""A week of challenges of the demo school: a rival, scores tried again, points given and due."""

from __future__ import annotations

import random
from datetime import date, datetime, time, timedelta
from typing import Final
from uuid import UUID, uuid4

from django.utils import timezone

from lauf.catalogue.models import Test
from lauf.challenges.actions import (
    Mark,
    RivalWish,
    Spread,
    add_challenges,
    enter_go,
    give_points,
    make_week,
    publish,
    set_rival,
)
from lauf.challenges.models import Challenge, ChallengeWeek, Slip
from lauf.challenges.queries.entering import Entrance
from lauf.demo.terms import attempt_of
from lauf.lessons.models import Activity, Lesson
from lauf.people.models import School, SchoolClass, Staff
from lauf.records.models import Attempt
from lauf.rules.contests.points import PointRule
from lauf.rules.contests.rivals import RivalKind
from lauf.rules.contests.sets import READY_SETS

POINTS: Final = {
    PointRule.TOOK_PART: 1,
    PointRule.BEAT_OWN_BEST: 2,
    PointRule.REACHED_RUNG: 2,
    PointRule.BEAT_RIVAL: 3,
}
#: Test, whose mark it is and the mark, by day from the first.
_DAYS: Final = (
    ("speed-bounce-30", "Sam Pellgrave", "34"),
    ("star-jumps-30", "", ""),
    ("squats-30", "Robin Ashgrove", "32"),
)
#: The marks of Robin Ashgrove in "Ten in a row", in its order.
_TEN: Final = ("31", "17", "26", "19", "38", "16", "41", "10", "47", "22")

#: What children have entered at home.
_AT_HOME: Final = ("31", "29", "33", "77", "27~", "35")


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
    made = []
    for place, (slug, rival, mark) in enumerate(_DAYS):
        on = week.starts_on + timedelta(days=place)
        made += add_challenges(teacher, week.id, on=on, test_ids=[tests[slug]])
        if rival:
            wish = RivalWish(RivalKind.PERSON, rival)
            variant = made[-1].protocol.variant_codes[-1]
            set_rival(teacher, week.id, wish, [Mark(made[-1].id, mark, variant)])
    heron = classes.get(name="4 Heron")
    _tried(heron, made[0], teacher, week.starts_on, everybody=True)
    give_points(teacher, made[0].id)
    # Some came back the day after; their points wait to be given.
    _tried(heron, made[0], teacher, week.starts_on + timedelta(days=1), everybody=False)
    _entered_at_home(heron, made[0], teacher, today)
    swift = SchoolClass.objects.filter(school=school, name="3 Swift").first()
    if swift is not None:
        _load_set(swift, teacher, week.starts_on, tests)


def load_past_week(school: School, head: Staff, first: int) -> None:
    """Last summer's week of challenges with its points; `first` is the year this school year began
    in."""
    monday = date(first, 6, 22)
    monday -= timedelta(days=monday.weekday())
    classes = list(school.classes.filter(name__in=("5 Kestrel", "6 Osprey")))
    week = make_week(
        head,
        name="Summer sports week",
        starts_on=monday,
        ends_on=monday + timedelta(days=4),
        class_ids=[one.id for one in classes],
        points=POINTS,
    )
    chance = random.Random("last summer's week")
    for place, slug in enumerate(("high-knees-20", "frog-jumps-30")):
        on = monday + timedelta(days=place)
        test = school.tests.get(slug=slug)
        (challenge,) = add_challenges(head, week.id, on=on, test_ids=[test.id])
        attempts = []
        for school_class in classes:
            lesson = _held(school_class, head, on, time(12, 30))
            position = school_class.year_group.position - 1
            lesson.year_group = school.year_groups.get(position=position)
            lesson.save(update_fields=["year_group"])
            activity = Activity.objects.create(lesson=lesson, protocol=challenge.protocol)
            for pupil in school_class.pupils.all():
                count = str(max(4, round(chance.gauss(24, 5))))
                attempts.append(attempt_of(activity, pupil, count, head, lesson.starts_at))
        Attempt.objects.bulk_create(attempts)
        give_points(head, challenge.id)


def _load_set(swift: SchoolClass, teacher: Staff, on: date, tests: dict[str, UUID]) -> None:
    """A set of ten that was held two days ago and can be tried again."""
    name = "Ten in a row"
    week = make_week(
        teacher,
        name=name,
        starts_on=on,
        ends_on=on + timedelta(days=6),
        class_ids=[swift.id],
        points=POINTS,
        test_ids=[tests[slug] for slug in READY_SETS[name]],
        spread=Spread.ONE_DAY,
    )
    ten = list(week.challenges.select_related("protocol"))
    marks = [
        Mark(one.id, typed, one.protocol.variant_codes[-1])
        for one, typed in zip(ten, _TEN, strict=True)
    ]
    set_rival(teacher, week.id, RivalWish(RivalKind.PERSON, "Robin Ashgrove"), marks)
    lesson = _held(swift, teacher, on, time(14, 0))
    activities = Activity.objects.bulk_create(
        Activity(lesson=lesson, position=place, protocol=one.protocol)
        for place, one in enumerate(ten)
    )
    starts = lesson.starts_at
    attempts = []
    for pupil in swift.pupils.all():
        chance = random.Random(f"ten in a row of {pupil.name}")
        level = chance.gauss(0.9, 0.12)
        for activity, mark in zip(activities, _TEN, strict=True):
            reps = max(2, round(int(mark) * (level + chance.gauss(0, 0.09))))
            attempts.append(attempt_of(activity, pupil, str(reps), teacher, starts))
    Attempt.objects.bulk_create(attempts)


def _tried(
    school_class: SchoolClass, challenge: Challenge, teacher: Staff, on: date, *, everybody: bool
) -> None:
    chance = random.Random(f"{school_class.name} tries again: {everybody}")
    lesson = _held(school_class, teacher, on, time(12, 30))
    starts = lesson.starts_at
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


def _entered_at_home(
    school_class: SchoolClass, challenge: Challenge, teacher: Staff, today: date
) -> None:
    """Some have tried again at home the evening before and entered it with their slips: it waits
    for the teacher, one of it with a finger too many."""
    publish(teacher, challenge.week_id, school_class.id, today)
    evening = timezone.make_aware(datetime.combine(today - timedelta(days=1), time(17, 40)))
    variant = challenge.protocol.usual_variant
    slips = Slip.objects.filter(week=challenge.week_id, pupil__school_class=school_class)
    related = slips.select_related("week", "pupil").order_by("picture")
    for slip, (number, typed) in zip(related, enumerate(_AT_HOME), strict=False):
        enter_go(
            Entrance(slip.id, slip.week, school_class, teacher, slip),
            slip.id,
            go_id=uuid4(),
            challenge_id=challenge.id,
            typed=typed,
            variant=variant,
            made_at=evening + timedelta(minutes=7 * number),
        )


def _held(school_class: SchoolClass, teacher: Staff, on: date, at: time) -> Lesson:
    """A lesson for challenges that is over."""
    starts = timezone.make_aware(datetime.combine(on, at))
    return Lesson.objects.create(
        school_id=teacher.school_id,
        school_class=school_class,
        teacher=teacher,
        place="challenge",
        starts_at=starts,
        minutes=20,
        closed_at=starts + timedelta(minutes=30),
        closed_by=teacher,
    )
