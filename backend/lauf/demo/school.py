"""The demo school, made up whole: children, lessons and scores, relative to today."""

from __future__ import annotations

import random
import uuid
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Final

from django.contrib.auth.hashers import make_password
from django.db import transaction
from django.utils import timezone
from typing_extensions import TypedDict

from lauf.catalogue.actions import install_ready
from lauf.catalogue.models import ProtocolVersion
from lauf.demo import living, terms
from lauf.demo.challenges import load_week
from lauf.demo.games import load_games
from lauf.demo.names import BOYS, FAMILIES, GIRLS
from lauf.demo.past import load_past
from lauf.demo.plans import SEED, plan_around, plan_from
from lauf.demo.trust import load_trust
from lauf.judgement.questions import ask_about_all
from lauf.lessons.models import Activity, Lesson, Run
from lauf.lessons.queries import suggested_wave
from lauf.people.actions import create_house, create_school
from lauf.people.models import House, Pupil, School, SchoolClass, Staff
from lauf.records.models import Attempt
from lauf.rules.body.ages import school_year
from lauf.rules.reading.entry import read_entry
from lauf.rules.reading.reasons import REASON_WORDS, NotDone

#: Known to everybody who reads this; accounts with it exist in the demo's database only.
DEMO_PASSWORD: Final = "painted-floor-7"


class DemoSignIn(TypedDict):
    """How somebody of the demo school signs in, and who that is."""

    username: str
    password: str
    who: str


DEMO_SIGN_INS: Final[list[DemoSignIn]] = [
    {"username": "demo", "password": DEMO_PASSWORD, "who": "Robin Ashgrove, teacher"},
    {"username": "head", "password": DEMO_PASSWORD, "who": "Sam Pellgrave, head of PE"},
    {"username": "other", "password": DEMO_PASSWORD, "who": "Jo Wintle, teacher of other classes"},
]
#: In the demo whole, which is in a trust.
OFFICE_SIGN_IN: Final[DemoSignIn] = {
    "username": "office", "password": DEMO_PASSWORD, "who": "Lee Farrow, the trust's office",
}  # fmt: skip
#: (class, year group position, children, teacher)
_CLASSES: Final = (
    ("Reception Robin", 0, 24, "other"),
    ("1 Wren", 1, 26, "other"),
    ("2 Dipper", 2, 27, "other"),
    ("3 Swift", 3, 29, "demo"),
    ("4 Heron", 4, 28, "demo"),
    ("5 Kestrel", 5, 30, "demo"),
    ("6 Osprey", 6, 28, "other"),
)
#: Days before today of the earlier occasions: two close together, one later.
_OCCASIONS: Final = (63, 56, 21)
_TESTED: Final = ("4 Heron", "5 Kestrel")
#: Odd scores of the years before were settled then.
_ASKED_DAYS: Final = 200
_REASONS: Final = (NotDone.ABSENT, NotDone.ABSENT, NotDone.SAT_OUT, NotDone.DID_NOT_WANT)
_NOTES: Final = (
    "Asthma: blue inhaler in the red bag",
    "Wrist strain: no weight on the left hand this week",
    "Hearing aid: face the child when you speak",
    "Diabetes: snack before, kit with the assistant",
    "Asthma: inhaler before running",
)


@dataclass(slots=True)
class _Body:
    """What a made-up child can do: press-ups a minute now, growth a week, noise, usual variant."""

    level: float
    growth: float
    noise: float
    variant: str


@transaction.atomic
def load(today: date, *, past: bool = True) -> School:
    """Make the demo school, with the years before this one or without. The same seed gives the same
    children and scores everywhere."""
    chance = random.Random(SEED)
    school = create_school("Larkmere Primary School (made up)", is_demo=True)
    install_ready(school)
    houses = [create_house(school, name) for name in ("Alder", "Birch", "Cedar", "Elm")]
    # Everybody knows it, and hashing it takes longer than most of the rest.
    password = make_password(DEMO_PASSWORD)
    staff = {
        entry["username"]: Staff.objects.create(
            school=school,
            username=entry["username"],
            name=entry["who"].partition(",")[0],
            role=Staff.Role.HEAD if entry["username"] == "head" else Staff.Role.TEACHER,
            password=password,
            may_see_growth=entry["username"] == "head",
        )
        for entry in DEMO_SIGN_INS
    }
    year_groups = list(school.year_groups.all())
    protocol = ProtocolVersion.objects.get(test__school=school, test__slug="press-ups-60")
    used: set[str] = set()
    for name, position, size, teacher in _CLASSES:
        made = SchoolClass.objects.create(
            school=school, name=name, year_group=year_groups[position]
        )
        made.teachers.add(staff[teacher])
        age = year_groups[position].age
        pupils = _pupils(chance, made, age, size, houses, used, today)
        if name in _TESTED:
            terms.load_terms(school, made, staff[teacher], today)
            _history(chance, made, pupils, staff[teacher], protocol, today, age)
    terms.load_courses(school)
    last = Lesson.objects.filter(school_class__name="4 Heron", battery=None, school=school)
    terms.load_pulses(last.latest("starts_at"), staff["demo"])
    living.load_living(school, today)
    if past:
        load_week(school, staff["demo"], today)
        load_past(school, today)
        load_trust(password, today)
    keep_up(school, today, asked=_ASKED_DAYS)
    return school


def keep_up(school: School, today: date, *, asked: int = 14) -> None:
    """See that the demo school has lessons today and in the days to come, whenever it is opened and
    whatever was done in it and whichever day it is: under the versions its tests have now. Scores
    of the last `asked` days are asked about."""
    versions = ProtocolVersion.objects.filter(test__school=school, test__slug="press-ups-60")
    protocol = versions.latest("number")
    demo = Staff.objects.get(school=school, username="demo")
    wanted = (
        ("4 Heron", 0, time(9, 30), "Hall"),
        ("5 Kestrel", 0, time(13, 15), "Playground"),
        ("3 Swift", 2, time(10, 40), "Hall"),
    )
    # A demo of an earlier version has tests that went away, and lacks those that came for them.
    install_ready(school)
    living.load_year(school, today)
    load_week(school, demo, today)
    load_games(school, today)
    for name, days, at, place in wanted:
        day = today + timedelta(days=days)
        starts = _moment(day, at)
        school_class = SchoolClass.objects.get(school=school, name=name)
        if not Lesson.objects.filter(
            school_class=school_class, starts_at__date=starts.date(), battery=None
        ).exists():
            activity = _lesson(school_class, demo, starts, place, protocol)
            if name == "3 Swift":
                plan_from(activity.lesson, demo, "stations")
            else:
                plan_around(activity)
    tomorrow = today + timedelta(days=1)
    _running_day(school, demo, tomorrow)
    # What is made here is kept past what asks about a score.
    ask_about_all(school, today - timedelta(days=asked))


def begin_lesson(school: School, now: datetime) -> None:
    """A lesson that is going on: it began a quarter of an hour ago, and half of the class has a
    score. Unless its class has had one today."""
    school_class = SchoolClass.objects.get(school=school, name="3 Swift")
    today = timezone.localdate(now)
    if Lesson.objects.filter(school_class=school_class, starts_at__date=today).exists():
        return
    teacher = Staff.objects.get(school=school, username="demo")
    versions = ProtocolVersion.objects.filter(test__school=school, test__slug="speed-bounce-30")
    minute = now.minute - now.minute % 5
    starts = now.replace(minute=minute, second=0, microsecond=0) - timedelta(minutes=15)
    activity = _lesson(school_class, teacher, starts, "Hall", versions.latest("number"))
    chance = random.Random(f"the lesson of {today}")
    pupils = list(school_class.pupils.all())
    before = dict(
        Attempt.objects.filter(
            pupil__in=pupils, protocol__test=activity.protocol.test, value__isnull=False
        )
        .order_by("on")
        .values_list("pupil_id", "value")
    )
    attempts = []
    for place, pupil in enumerate(pupils[: len(pupils) // 2]):
        count = max(4, round((before.get(pupil.id) or 25) + chance.gauss(1, 1.5)))
        at = starts + timedelta(minutes=10, seconds=6 * place)
        attempts.append(terms.attempt_of(activity, pupil, str(count), teacher, at))
    Attempt.objects.bulk_create(attempts)


def _moment(day: date, at: time) -> datetime:
    return timezone.make_aware(datetime.combine(day, at))


def _lesson(
    school_class: SchoolClass,
    teacher: Staff,
    starts: datetime,
    place: str,
    protocol: ProtocolVersion,
) -> Activity:
    lesson = Lesson.objects.create(
        school_id=teacher.school_id,
        school_class=school_class,
        teacher=teacher,
        place=place,
        starts_at=starts,
        minutes=45,
    )
    return Activity.objects.create(lesson=lesson, protocol=protocol)


def _running_day(school: School, teacher: Staff, day: date) -> None:
    """Tomorrow's lesson of the oldest class: a mile in laps, and the progressive shuttle run."""
    school_class = SchoolClass.objects.get(school=school, name="5 Kestrel")
    starts = _moment(day, time(10, 0))
    if Lesson.objects.filter(school_class=school_class, starts_at=starts).exists():
        return
    lesson = Lesson.objects.create(
        school=school, school_class=school_class, teacher=teacher, place="Playground",
        starts_at=starts, minutes=60,
    )  # fmt: skip
    for place, slug in enumerate(("mile-run", "shuttle-20m-even")):
        version = ProtocolVersion.objects.filter(test__school=school, test__slug=slug)
        Activity.objects.create(lesson=lesson, position=place, protocol=version.latest("number"))


def _pupils(
    chance: random.Random,
    school_class: SchoolClass,
    age: int,
    size: int,
    houses: list[House],
    used: set[str],
    today: date,
) -> list[Pupil]:
    born_from = date(school_year(today) - age - 1, 9, 1)
    made = []
    noted = set(chance.sample(range(size), 3))
    given_here: set[str] = set()
    for index in range(size):
        girl = index % 2 == 0
        while True:
            given = chance.choice(GIRLS if girl else BOYS)
            family = chance.choice(FAMILIES)
            if f"{given} {family}" not in used and given not in given_here:
                break
        used.add(f"{given} {family}")
        given_here.add(given)
        made.append(
            Pupil(
                school_id=school_class.school_id,
                school_class=school_class,
                given_name=given,
                family_name=family,
                sex=Pupil.Sex.FEMALE if girl else Pupil.Sex.MALE,
                born=born_from + timedelta(days=chance.randrange(365)),
                house=houses[index % len(houses)],
                medical_note=chance.choice(_NOTES) if index in noted else "",
            )
        )
    Pupil.objects.bulk_create(made)
    return sorted(made, key=lambda pupil: (pupil.given_name, pupil.family_name))


def _body(chance: random.Random, age: int) -> _Body:
    knees = chance.random() < 0.3
    middle = (age - 1) * 2.0 * (1.35 if knees else 1.0)
    return _Body(
        level=max(2.0, middle * chance.lognormvariate(0, 0.33)),
        growth=chance.gauss(0.28, 0.22),
        noise=chance.uniform(1.2, 2.4),
        variant="knees" if knees else "full",
    )


def _history(
    chance: random.Random,
    school_class: SchoolClass,
    pupils: list[Pupil],
    teacher: Staff,
    protocol: ProtocolVersion,
    today: date,
    age: int,
) -> None:
    bodies = [_body(chance, age) for _ in pupils]
    for number, days in enumerate(_OCCASIONS):
        starts = _moment(today - timedelta(days=days), time(9, 30))
        activity = _lesson(school_class, teacher, starts, "Hall", protocol)
        # The latest lesson of one class still waits for a check.
        if not (school_class.name == "5 Kestrel" and number == len(_OCCASIONS) - 1):
            activity.lesson.closed_at = starts + timedelta(minutes=50)
            activity.lesson.closed_by = teacher
            activity.lesson.save()
        _runs(activity, starts, teacher)
        attempts = []
        for index, (pupil, body) in enumerate(zip(pupils, bodies, strict=True)):
            typed, variant = _typed(chance, body, number, (63 - days) / 7)
            if school_class.name == "5 Kestrel" and index == 4:
                typed = ("57", "60", "60")[number]  # reaches the cap and stays there
            if school_class.name == "4 Heron" and index == 7 and number == 1:
                typed = "14~"
            if school_class.name == "5 Kestrel" and number == 2 and index == 11:
                continue  # missing: nobody wrote it down
            attempts.append(_attempt(activity, pupil, index, typed, variant, teacher, starts))
        Attempt.objects.bulk_create(attempts)
        if school_class.name == "4 Heron" and number == 2:
            _correct(attempts, teacher)


def _typed(chance: random.Random, body: _Body, occasion: int, weeks: float) -> tuple[str, str]:
    variant = body.variant
    if occasion and chance.random() < 0.07:
        return REASON_WORDS[chance.choice(_REASONS)], variant
    count = round(body.level + body.growth * weeks + chance.gauss(0, body.noise))
    return str(min(55, max(0, count))), variant


def _runs(activity: Activity, starts: datetime, teacher: Staff) -> None:
    Run.objects.bulk_create(
        Run(
            id=uuid.uuid4(),
            activity=activity,
            wave=wave,
            revision=2,
            anchor_ms=int((starts + timedelta(minutes=10 + 3 * wave)).timestamp() * 1000),
            ended=Run.Ended.COMPLETE,
            worked_seconds=60,
            by=teacher,
        )
        for wave in (1, 2)
    )


def _attempt(
    activity: Activity,
    pupil: Pupil,
    index: int,
    typed: str,
    variant: str,
    teacher: Staff,
    starts: datetime,
) -> Attempt:
    entry = read_entry(typed, activity.protocol.measure)
    return Attempt(
        school_id=teacher.school_id,
        pupil=pupil,
        activity=activity,
        protocol=activity.protocol,
        kind=activity.protocol.kind,
        on=timezone.localdate(starts),
        variant=variant,
        wave=suggested_wave(index, activity.protocol.waves),
        typed=typed,
        value=entry.value,
        reason=entry.reason.value if entry.reason else None,
        estimate=entry.estimate,
        recorded_by=teacher,
        recorded_at=starts + timedelta(minutes=20, seconds=6 * index),
    )


def _correct(attempts: list[Attempt], teacher: Staff) -> None:
    """One count was three short and was put right in the check."""
    first = next(a for a in attempts if a.value is not None and a.value >= 12)
    right = str((first.value or 0) + 3)
    entry = read_entry(right, first.protocol.measure)
    Attempt.objects.create(
        school_id=first.school_id,
        pupil=first.pupil,
        activity=first.activity,
        protocol=first.protocol,
        kind=first.kind,
        on=first.on,
        variant=first.variant,
        wave=first.wave,
        typed=right,
        value=entry.value,
        succeeds=first,
        why="partner had counted three more",
        recorded_by=teacher,
        recorded_at=first.recorded_at + timedelta(minutes=15),
    )
