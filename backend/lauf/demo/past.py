"""The demo school's past: what its children did since Reception, made from a model with a seed."""

from __future__ import annotations

import random
import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from typing import Final

from django.db import connection
from django.utils import timezone

from lauf.catalogue.actions import save_ladder
from lauf.catalogue.models import ProtocolVersion
from lauf.demo.challenges import load_past_week
from lauf.demo.living import day_in, make_terms
from lauf.demo.names import BOYS, FAMILIES, GIRLS
from lauf.demo.terms import attempt_from, load_pulses
from lauf.lessons.models import Activity, Lesson
from lauf.lessons.queries import conditions_of
from lauf.people.models import Pupil, School, SchoolClass, Staff, TermKind, YearGroup
from lauf.records.models import Attempt
from lauf.rules.body.ages import school_year
from lauf.rules.judging.comparability import FreeConditions
from lauf.rules.reading.entry import Entry, read_entry
from lauf.rules.reading.quantities import Measure
from lauf.rules.reading.reasons import REASON_WORDS, NotDone

#: A school tests each class in autumn, spring and summer: (months into the calendar year, day).
ROUNDS: Final = ((10, 7), (14, 4), (18, 9))
#: As many rounds as a child takes part in from Reception to Year 6.
_YEARS: Final = 7
#: The class that left last summer, at the end of its Year 6.
_GONE: Final = ("6 Plover", 26)
#: Classes whose rounds of this year the demo has already, score by score.
_THIS_YEAR_ELSEWHERE: Final = ("4 Heron", "5 Kestrel")


@dataclass(frozen=True, slots=True)
class _Skill:
    """How a test's scores grow with age: the middle child's at an age in years, the spread among
    children, the noise from day to day, decimal places, the least and most that are taken, and what
    of a child it goes by."""

    at_nought: float
    a_year: float
    spread: float
    noise: float
    places: int
    least: float
    most: float
    by: str
    from_age: int = 4
    to_age: int = 11

    def middle(self, age: float) -> float:
        return self.at_nought + self.a_year * age


#: Made up, of the size that teachers see (common practice).
_SKILLS: Final = {
    "height": _Skill(81, 6.1, 5.5, 0.3, 1, 85, 175, "size"),
    "weight": _Skill(7.6, 2.75, 3.4, 0.3, 1, 12, 70, "size"),
    "long-jump": _Skill(50, 8, 14, 3, 0, 30, 210, "legs"),
    "sit-reach-wall": _Skill(-7, 0.1, 3.5, 1.2, 0, -25, 0, "reach"),
    "star-jumps-30": _Skill(1, 2.8, 3.2, 1.6, 0, 3, 60, "legs", to_age=6),
    "speed-bounce-30": _Skill(2.2, 3, 4, 2, 0, 4, 70, "legs", from_age=5),
    "shuttles-180": _Skill(14, 2, 3, 1.5, 0, 10, 55, "wind", from_age=5),
    "underarm-10": _Skill(0, 0.64, 1.5, 1.2, 0, 0, 10, "hand", from_age=5),
    "sit-ups-30-held": _Skill(1, 1.4, 3, 1.5, 0, 1, 40, "trunk", from_age=6),
    "plank-limit": _Skill(-14, 6.5, 15, 6, 1, 5, 240, "trunk", from_age=6),
    "press-ups-60": _Skill(-2, 2, 4.5, 1.8, 0, 0, 60, "trunk", from_age=6),
}
#: Growth is measured where the family has agreed.
_GROWTH: Final = ("height", "weight")
#: The number that an entry of these tests begins with.
_NUMBER: Final = re.compile(r"-?\d+(\.\d+)?")
_TRAITS: Final = ("size", "legs", "wind", "trunk", "reach", "hand")
_CHEERS: Final = ("plank-limit", "shuttles-180")


@dataclass(slots=True)
class _Test:
    """A test as the school has it: entries that were read once are not read again."""

    protocol: ProtocolVersion
    conditions: FreeConditions
    measure: Measure
    entries: dict[str, Entry] = field(default_factory=dict)

    def read(self, typed: str) -> Entry:
        if typed not in self.entries:
            self.entries[typed] = read_entry(typed, self.measure)
        return self.entries[typed]


def _as_given(protocol: ProtocolVersion) -> _Test:
    conditions = conditions_of(Activity(protocol=protocol), {})
    return _Test(protocol, conditions, protocol.measure_with(conditions))


@dataclass(slots=True)
class _Child:
    """A made-up child through its years: talents as z-scores, how it grows, and what happens."""

    pupil: Pupil
    talents: dict[str, float]
    #: Rounds since Reception in which the child was not here, or not well.
    away: frozenset[int]
    unwell: frozenset[int]
    #: What it can do in a test that it has a score in already, as a z-score, by the test's slug.
    known: dict[str, float] = field(default_factory=dict)
    #: From this round on it grows no further in what it can do; 99 never.
    plateau: int = 99
    #: What each of the last five rounds adds, in spreads: a child that improves, or falls back.
    lately: float = 0.0


def load_past(school: School, today: date) -> None:
    """Seven years of rounds for each class now at the school, and for the class that left last
    summer. The same seed gives the same past everywhere. Into a school that has its classes."""
    head = Staff.objects.get(school=school, username="head")
    first = school_year(today, school.cut_off)
    make_terms(school, range(first - _YEARS + 1, first), (TermKind.TERM,))
    versions = {
        one.test.slug: _as_given(one)
        for one in ProtocolVersion.objects.filter(test__school=school, test__slug__in=_SKILLS)
        .select_related("test__school")
        .order_by("number")
    }
    classes = [
        (one, one.year_group.position, first)
        for one in school.classes.filter(closed_on=None).select_related("year_group")
    ]
    gone = _make_gone(school, first)
    classes.append((gone, _YEARS - 1, first - 1))
    attempts: list[Attempt] = []
    for school_class, position, year in classes:
        attempts += _of_class(school_class, position, year, today, versions, head)
    Attempt.objects.bulk_create(attempts, batch_size=2000)
    # The database plans by what it knows of its tables: of these rows it knows nothing yet.
    with connection.cursor() as cursor:
        cursor.execute("ANALYZE")
    _load_gap(school, head)
    load_past_week(school, head, first)


def _make_gone(school: School, first: int) -> SchoolClass:
    """The children who left at the end of last year's Year 6."""
    name, size = _GONE
    chance = random.Random(name)
    left = date(first, 7, 20)
    gone = SchoolClass.objects.create(
        school=school,
        name=name,
        year_group=school.year_groups.get(position=_YEARS - 1),
        closed_on=left,
    )
    houses = list(school.houses.all())
    families = chance.sample(FAMILIES, size)
    givens = chance.sample(GIRLS, size // 2) + chance.sample(BOYS, size - size // 2)
    Pupil.objects.bulk_create(
        Pupil(
            school=school, given_name=given, family_name=family, left_from=gone, left_on=left,
            sex=Pupil.Sex.FEMALE if n < size // 2 else Pupil.Sex.MALE,
            born=date(first - 12, 9, 1) + timedelta(days=chance.randrange(365)),
            house=houses[n % len(houses)], measuring=Pupil.Consent.GIVEN,
        )
        for n, (given, family) in enumerate(zip(givens, families, strict=True))
    )  # fmt: skip
    return gone


def _of_class(
    school_class: SchoolClass,
    position: int,
    year: int,
    today: date,
    versions: dict[str, _Test],
    head: Staff,
) -> Iterator[Attempt]:
    """All rounds of a class that is in the year group at `position` in the school year `year`."""
    chance = random.Random(f"the past of {school_class.name}")
    school = school_class.school
    teacher = school_class.teachers.order_by("username").first() or head
    groups = list(school.year_groups.order_by("position"))
    children = _children(chance, school_class, position)
    _know(children, groups[position].age + 0.33)
    for place in range(position + 1):
        for part, at in enumerate(ROUNDS):
            day = day_in(year - position + place, at)
            latest = place == position
            if day > today - timedelta(days=4):
                return
            if latest and school_class.name in _THIS_YEAR_ELSEWHERE:
                return
            # A school day: the Tuesday of that week, and the Thursday.
            day -= timedelta(days=day.weekday() - 1)
            yield from _round(
                chance, school_class, groups[place].age, 3 * place + part, day, versions, teacher,
                groups[place], children,
            )  # fmt: skip


def _children(chance: random.Random, school_class: SchoolClass, position: int) -> list[_Child]:
    """Most are here from the first day and grow steadily; the others are why records are kept."""
    rounds = 3 * position + 3
    pupils = list(
        (school_class.pupils if school_class.closed_on is None else school_class.leavers).all()
    )
    made = []
    for number, pupil in enumerate(pupils):
        talents = {trait: chance.gauss(0, 1) for trait in _TRAITS}
        joined = chance.randrange(1, rounds) if rounds > 3 and chance.random() < 0.1 else 0
        away = set(range(joined))
        if number == 9 and rounds > 9:  # gone for a year, and back
            away |= set(range(rounds - 8, rounds - 5))
        hurt = {chance.randrange(rounds)} if chance.random() < 0.12 else set()
        made.append(
            _Child(
                pupil, talents, frozenset(away), frozenset(hurt),
                plateau=rounds - 5 if number in (4, 15) and rounds > 9 else 99,
                lately=0.55 if number == 3 else -0.5 if number == 7 else 0.0,
            )
        )  # fmt: skip
    return made


def _know(children: list[_Child], age: float) -> None:
    """Children who have scores of this term grew up to them."""
    by_pupil = {child.pupil.id: child for child in children}
    scores = Attempt.objects.filter(
        pupil__in=by_pupil, value__isnull=False, protocol__test__slug__in=_SKILLS
    )
    for pupil, slug, typed in scores.order_by("on").values_list(
        "pupil_id", "protocol__test__slug", "typed"
    ):
        number = _NUMBER.match(typed)
        if number:
            skill = _SKILLS[slug]
            z = (float(number[0]) - skill.middle(age)) / skill.spread
            by_pupil[pupil].known.setdefault(slug, z)


def _round(
    chance: random.Random,
    school_class: SchoolClass,
    age: int,
    number: int,
    day: date,
    versions: dict[str, _Test],
    teacher: Staff,
    year_group: YearGroup,
    children: list[_Child],
) -> Iterator[Attempt]:
    """One round of a class: two lessons in a week, and their scores, not saved yet."""
    slugs = [one for one, skill in _SKILLS.items() if skill.from_age <= age <= skill.to_age]
    half = (len(slugs) + 1) // 2
    for lesson_number, mine in enumerate((slugs[:half], slugs[half:])):
        starts = timezone.make_aware(
            datetime.combine(day + timedelta(days=2 * lesson_number), time(9, 30))
        )
        lesson = Lesson.objects.create(
            school=school_class.school, school_class=school_class, year_group=year_group,
            teacher=teacher, place="Hall", starts_at=starts, minutes=45,
            closed_at=starts + timedelta(hours=1), closed_by=teacher,
        )  # fmt: skip
        activities = Activity.objects.bulk_create(
            Activity(lesson=lesson, position=place, protocol=versions[slug].protocol)
            for place, slug in enumerate(mine)
        )
        if lesson_number and age >= 9 and number % 3 == 1:
            load_pulses(lesson, teacher)
        for activity, slug in zip(activities, mine, strict=True):
            yield from _scores(
                chance, activity, versions[slug], slug, age, number, starts, children, teacher
            )


def _scores(
    chance: random.Random,
    activity: Activity,
    test: _Test,
    slug: str,
    age: int,
    number: int,
    starts: datetime,
    children: list[_Child],
    teacher: Staff,
) -> Iterator[Attempt]:
    skill = _SKILLS[slug]
    codes = test.protocol.variant_codes
    # The youngest begin with the easiest form.
    variant = codes[0] if slug == "press-ups-60" else codes[-1] if codes else ""
    last = max(number, 3 * (children[0].pupil.last_class.year_group.position + 1) - 1)
    for place, child in enumerate(children):
        if number in child.away:
            continue
        if slug in _GROWTH and child.pupil.measuring != Pupil.Consent.GIVEN:
            continue
        typed = _typed(chance, skill, slug, age + 0.33 * (number % 3), number, last, child)
        at = starts + timedelta(minutes=15, seconds=5 * place)
        yield attempt_from(
            activity, child.pupil, test.read(typed), variant, test.conditions, teacher, at
        )


def _typed(
    chance: random.Random,
    skill: _Skill,
    slug: str,
    age: float,
    number: int,
    last: int,
    child: _Child,
) -> str:
    """What was typed for a child in a round."""
    if number in child.unwell:
        return REASON_WORDS[NotDone.SAT_OUT]
    if chance.random() < 0.03:
        return REASON_WORDS[NotDone.ABSENT]
    grown = age
    if number > child.plateau and slug not in _GROWTH:
        grown -= 0.33 * (number - child.plateau)
    z = child.known.get(slug, child.talents[skill.by])
    if number - 1 in child.unwell:
        z -= 0.8
    if child.lately and slug not in _GROWTH and number > last - 5:
        share = 1.0 if child.lately < 0 or slug in _CHEERS else 0.35
        z += share * child.lately * (number - last + 5)
    # One test no longer tells the oldest apart: most reach the most there is.
    ease = 4.5 if slug == "underarm-10" and age >= 9 else 0.0
    value = skill.middle(grown) + skill.spread * z + ease + chance.gauss(0, skill.noise)
    value = min(skill.most, max(skill.least, value))
    words = f"{value:.{skill.places}f}" if skill.places else str(round(value))
    return f"{words}/10" if slug == "underarm-10" else words


def _load_gap(school: School, head: Staff) -> None:
    """A ladder as it was printed on a card, with a gap that its page tells."""
    test = school.tests.get(slug="star-jumps-60")
    ladder = test.ladders.get(year_group__position=3)
    save_ladder(
        head, test.id, ladder_id=ladder.id, year_group_id=ladder.year_group_id, ages=None,
        sex=ladder.sex, variant=ladder.variant, source="a card found in the PE cupboard", rungs=[],
        printed="20–29, 33–44, more than 44",
    )  # fmt: skip
