"""Two terms of a battery in the demo school, a course, and a lesson with pulses. Made up."""

from __future__ import annotations

import random
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Final

from django.utils import timezone

from lauf.catalogue.models import Battery, BatteryTest, Course, Test
from lauf.catalogue.queries import battery_protocols
from lauf.lessons.models import Activity, Lesson
from lauf.lessons.queries import conditions_of
from lauf.people.models import Pupil, School, SchoolClass, Staff
from lauf.records.models import Attempt, PulseReading
from lauf.rules.body.pulse import Moment
from lauf.rules.judging.comparability import FreeConditions
from lauf.rules.reading.entry import Entry, read_entry
from lauf.rules.reading.reasons import REASON_WORDS, NotDone

BATTERY: Final = "Term check"
#: What is in it, growth first and the longest run last.
TESTS: Final = (
    "height", "weight", "sit-reach-wall", "shoulder-reach", "long-jump", "vertical-jump",
    "underarm-10", "sit-ups-30-held", "plank-limit", "shuttles-180",
)  # fmt: skip
_TERM_AGO: Final = 84
_SITTING_DAYS: Final = 3


@dataclass(slots=True)
class _Child:
    """What a made-up child is like: talent and size as z-scores, and the age."""

    talent: float
    size: float
    age: float


def _typed(chance: random.Random, child: _Child, term: int) -> dict[str, str]:
    """One term's entries by test, as somebody typed them."""
    fit = child.talent + 0.25 * term
    height = 81 + 6.1 * child.age + 5.5 * child.size + 1.6 * term
    weight = 7.6 + 2.75 * child.age + 3.6 * child.size + 0.7 * term
    standing = round(height * 1.27)
    jump = max(8, round(21 + 3.5 * fit + chance.gauss(0, 1.8)))
    hits = min(10, max(0, round(5.5 + 1.6 * fit + chance.gauss(0, 1.4))))
    sides = chance.choice(["y y", "y y", "n y", "y n", "both", "none"])
    runs = max(18, round(31 + 3 * fit + chance.gauss(0, 1.5)))
    return {
        "height": f"{height:.1f}",
        "weight": f"{weight:.1f}",
        "sit-reach-wall": f"{min(0, round(-6 + 4 * chance.gauss(0, 1)))}",
        "shoulder-reach": sides,
        "long-jump": f"{max(60, round(118 + 14 * fit + chance.gauss(0, 6)))}",
        "vertical-jump": f"{standing} {standing + jump}",
        "underarm-10": f"{hits}/10",
        "sit-ups-30-held": f"{max(1, round(13 + 3 * fit + chance.gauss(0, 1.5)))}",
        "plank-limit": f"{max(8, 42 + 16 * fit + chance.gauss(0, 6)):.1f}",
        "shuttles-180": f"{runs}",
    }


def load_terms(school: School, school_class: SchoolClass, teacher: Staff, today: date) -> None:
    """An earlier term's battery, complete, and this term's, half filled."""
    chance = random.Random(f"terms of {school_class.name}")
    battery = Battery.objects.filter(school=school, name=BATTERY).first()
    if battery is None:
        battery = Battery.objects.create(school=school, name=BATTERY)
        ids = dict(Test.objects.filter(school=school).values_list("slug", "id"))
        BatteryTest.objects.bulk_create(
            BatteryTest(battery=battery, test_id=ids[slug], position=place)
            for place, slug in enumerate(TESTS)
        )
    children = {
        pupil: _Child(chance.gauss(0, 1), chance.gauss(0, 1), school_class.year_group.age + 0.6)
        for pupil in school_class.pupils.all()
    }
    for term, days in enumerate((_TERM_AGO, _SITTING_DAYS)):
        day = today - timedelta(days=days)
        # Three school days in a row: from a Wednesday at the latest.
        day -= timedelta(days=max(0, day.weekday() - 2))
        starts = _moment(day, time(13, 30))
        lesson = Lesson.objects.create(
            school=school,
            school_class=school_class,
            teacher=teacher,
            place="several places",
            starts_at=starts,
            minutes=60,
            battery=battery,
            closed_at=starts + timedelta(days=4) if term == 0 else None,
            closed_by=teacher if term == 0 else None,
        )
        activities = [
            Activity(lesson=lesson, position=place, protocol=protocol)
            for place, protocol in enumerate(battery_protocols(battery))
        ]
        Activity.objects.bulk_create(activities)
        # This term's is not finished: the last tests and a few children are still to come.
        done = activities if term == 0 else activities[:7]
        entries = {pupil: _typed(chance, child, term) for pupil, child in children.items()}
        attempts = []
        for place, activity in enumerate(done):
            at = starts + timedelta(days=place // 4, minutes=5 + place)
            for number, (pupil, typed) in enumerate(entries.items()):
                if term == 1 and place == 6 and number > 11:
                    continue
                slug = activity.protocol.test.slug
                word = (
                    chance.choice([REASON_WORDS[NotDone.ABSENT], REASON_WORDS[NotDone.SAT_OUT]])
                    if chance.random() < 0.04
                    else typed[slug]
                )
                attempts.append(attempt_of(activity, pupil, word, teacher, at))
        Attempt.objects.bulk_create(attempts)


def _moment(day: date, at: time) -> datetime:
    return timezone.make_aware(datetime.combine(day, at))


def attempt_of(
    activity: Activity, pupil: Pupil, typed: str, teacher: Staff, at: datetime
) -> Attempt:
    """A score as the teacher would have typed it, in the hardest form, not saved yet."""
    protocol = activity.protocol
    conditions = conditions_of(activity, {})
    entry = read_entry(typed, protocol.measure_with(conditions))
    variant = protocol.variants[-1]["code"] if protocol.variants else ""
    return attempt_from(activity, pupil, entry, variant, conditions, teacher, at)


def attempt_from(
    activity: Activity,
    pupil: Pupil,
    entry: Entry,
    variant: str,
    conditions: FreeConditions,
    teacher: Staff,
    at: datetime,
) -> Attempt:
    """A score that was read, in its form and under its conditions, not saved yet."""
    protocol = activity.protocol
    return Attempt(
        school_id=teacher.school_id,
        pupil=pupil,
        activity=activity,
        protocol=protocol,
        kind=protocol.kind,
        on=timezone.localdate(at),
        variant=variant,
        typed=entry.typed,
        value=entry.value,
        reason=entry.reason.value if entry.reason else None,
        estimate=entry.estimate,
        parts=entry.parts,
        conditions=conditions,
        recorded_by=teacher,
        recorded_at=at,
    )


def load_courses(school: School) -> None:
    """A loop that was measured and one that was stepped."""
    Course.objects.create(school=school, name="Playground loop", lap_mm=84_000)
    Course.objects.create(school=school, name="Hall oval", lap_mm=20_800, steps=26, step_mm=800)


def load_pulses(lesson: Lesson, teacher: Staff) -> None:
    """A class that counted its pulse for 10 s at rest, after the warm-up, after the test and a
    minute later."""
    chance = random.Random(f"pulses of {lesson.school_class.name}")
    test = lesson.activities.first()
    label = test.protocol.test.name if test else ""
    moments: tuple[tuple[Moment, str, Callable[[], float]], ...] = (
        (Moment.REST, "", lambda: chance.gauss(14.5, 1.4)),
        (Moment.WARM_UP, "", lambda: chance.gauss(20.5, 1.8)),
        (Moment.ACTIVITY, label, lambda: chance.gauss(25.5, 2.2)),
        (Moment.RECOVERY, "", lambda: chance.gauss(18.5, 1.8)),
    )
    readings = []
    for number, pupil in enumerate(lesson.school_class.pupils.all()):
        if number % 9 == 4:
            continue
        for position, (moment, words, beats) in enumerate(moments):
            counted = min(38, max(10, round(beats())))
            if number == 2 and moment is Moment.ACTIVITY:
                counted = 12  # below the child's own resting pulse: asks for a look
            readings.append(
                PulseReading(
                    id=uuid.UUID(int=chance.getrandbits(128), version=4),
                    school_id=lesson.school_id,
                    lesson=lesson,
                    pupil=pupil,
                    position=position,
                    moment=moment,
                    label=words,
                    waited=60 if moment is Moment.RECOVERY else None,
                    typed=str(counted),
                    beats=counted,
                    seconds=10,
                    recorded_by=teacher,
                    recorded_at=lesson.starts_at + timedelta(minutes=3 + 9 * position),
                )
            )
    PulseReading.objects.bulk_create(readings)
