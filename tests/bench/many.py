"""Much to measure with: a battery given six times, and a hundred thousand scores."""

from __future__ import annotations

import random
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

import numpy as np
from django.utils import timezone

from lauf.catalogue.actions import make_battery
from lauf.catalogue.models import ProtocolVersion, Test
from lauf.lessons.actions import start_sitting
from lauf.lessons.models import Activity, Lesson
from lauf.lessons.queries import conditions_of
from lauf.people.models import Pupil, SchoolClass, Staff
from lauf.records.models import Attempt
from lauf.rules.judging import batch
from lauf.rules.judging.ladders import Rung
from lauf.rules.reading.quantities import Better, Kind, Measure

SITTINGS = 6
BATTERY_CLASS = "Bench"
CHILDREN = 30


def battery_of_six(staff: Staff) -> Lesson:
    """The last of six sittings, a week apart, of twelve tests by thirty children."""
    chance = random.Random(6)
    school = staff.school
    years = school.year_groups.all()
    school_class = SchoolClass.objects.create(
        school=school, name=BATTERY_CLASS, year_group=years[4]
    )
    pupils = Pupil.objects.bulk_create(
        Pupil(school=school, school_class=school_class, given_name=f"Child {number:02d}",
              sex="female" if number % 2 else "male", born="2017-03-04")
        for number in range(CHILDREN)
    )  # fmt: skip
    tests = Test.objects.filter(school=school, family="timed_reps")[:12]
    battery = make_battery(staff, "Bench battery", [test.id for test in tests])
    lesson = None
    for sitting in range(SITTINGS):
        lesson = start_sitting(staff, battery.id, school_class.id)
        starts = timezone.now() - timedelta(weeks=SITTINGS - sitting)
        closed = {"closed_at": starts, "closed_by": staff} if sitting < SITTINGS - 1 else {}
        Lesson.objects.filter(pk=lesson.pk).update(starts_at=starts, **closed)
        Attempt.objects.bulk_create(
            Attempt(
                school=school, pupil=pupil, activity=activity, protocol=activity.protocol,
                kind="count", on=starts.date(), typed=str(value), value=value,
                variant=activity.protocol.variants[-1]["code"]
                if activity.protocol.variants
                else "",
                conditions=conditions_of(activity, {}), recorded_by=staff, recorded_at=starts,
            )
            for activity in lesson.activities.select_related("protocol__test__school")
            for pupil in pupils
            for value in [min(activity.protocol.cap or 99, max(0, round(chance.gauss(18, 5))))]
        )  # fmt: skip
    assert lesson is not None
    return lesson


def many_scores(staff: Staff, many: int) -> Activity:
    """A class's lesson today in a school that has done its test for years, a fortnight apart."""
    chance = random.Random(8)
    school = staff.school
    protocol = ProtocolVersion.objects.get(test__school=school, test__slug="star-jumps-30")
    year = school.year_groups.all()[4]
    lessons = 40
    classes = SchoolClass.objects.bulk_create(
        SchoolClass(school=school, name=f"Many {n}", year_group=year)
        for n in range(many // lessons // CHILDREN + 1)
    )
    pupils = Pupil.objects.bulk_create(
        Pupil(school=school, school_class=one, given_name=f"Child {n}")
        for one in classes
        for n in range(CHILDREN)
    )
    found: list[Activity] = []
    for one in classes:
        for n in range(lessons):
            at = timezone.now() - timedelta(days=14 * (lessons - n) // 2)
            lesson = Lesson.objects.create(
                school=school, school_class=one, teacher=staff, starts_at=at
            )
            found.append(Activity.objects.create(lesson=lesson, protocol=protocol))
    by_class: dict[Any, list[Pupil]] = {}
    for pupil in pupils:
        by_class.setdefault(pupil.school_class_id, []).append(pupil)
    Attempt.objects.bulk_create(
        (
            Attempt(
                school=school, pupil=pupil, activity=activity, protocol=protocol,
                kind=protocol.kind, on=activity.lesson.starts_at.date(), typed="20",
                value=chance.randint(14, 26), variant="", recorded_by=staff,
                recorded_at=activity.lesson.starts_at,
            )
            for activity in found
            for pupil in by_class[activity.lesson.school_class_id]
        ),
        batch_size=5_000,
    )  # fmt: skip
    today = Lesson.objects.create(
        school=school, school_class=classes[0], teacher=staff, starts_at=timezone.now()
    )
    return Activity.objects.create(lesson=today, protocol=protocol)


@dataclass
class Attempts:
    """Scores under one measure, each with its ladder, norm cell, an earlier score and a band."""

    measure: Measure
    values: Any
    earlier: Any
    has_earlier: Any
    ladder: Any
    table: Any
    norms: Any
    percentiles: tuple[float, ...]
    band: Any


def seeded_attempts(many: int) -> Attempts:
    chance = np.random.default_rng(7)
    measure = Measure(Kind.COUNT, Better.UP, highest=100, cap=60)
    ladders = [
        [Rung(f"rung {n}", 6 + year + 6 * n, beyond=n == 3) for n in range(4)] for year in range(14)
    ]
    percentiles = (5.0, 10.0, 25.0, 50.0, 75.0, 90.0, 95.0)
    norms = np.array([np.linspace(4, 30, 7) + year for year in range(14)])
    return Attempts(
        measure=measure,
        values=chance.integers(0, 61, many),
        earlier=chance.integers(0, 61, many),
        has_earlier=chance.random(many) < 0.8,
        ladder=chance.integers(0, 14, many),
        table=batch.thresholds(ladders, measure),
        norms=norms,
        percentiles=percentiles,
        band=np.full(many, 4.65),
    )


def judged_attempts(a: Attempts) -> tuple[Any, ...]:
    """Everything Lauf says of each score."""
    reached, to_next = batch.rungs_reached(a.values, a.ladder, a.table, a.measure.better)
    standing = batch.percentiles_of(a.values, a.ladder, a.norms, a.percentiles, a.measure.better)
    verdicts = batch.verdicts(a.values, a.earlier, a.has_earlier, a.band, a.measure)
    return reached, to_next, standing, verdicts


def plain_thresholds(a: Attempts) -> tuple[Any, ...]:
    """The same thresholds, each only counted: rungs, percentiles and band."""
    rungs = (a.values[:, None] >= a.table[a.ladder]).sum(axis=1)
    marks = (a.values[:, None] >= a.norms[a.ladder]).sum(axis=1)
    change = np.where(np.abs(a.values - a.earlier) >= a.band, np.sign(a.values - a.earlier), 0)
    return rungs, marks, change
