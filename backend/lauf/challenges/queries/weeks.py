"""Reads of challenge weeks."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from datetime import date
from fractions import Fraction
from functools import reduce
from operator import or_
from uuid import UUID

from django.db.models import Count, Q, QuerySet, Sum
from typing_extensions import TypedDict

from lauf.catalogue.protocol import VariantEntry
from lauf.catalogue.queries import sees
from lauf.challenges.models import Challenge, ChallengeWeek, GoState, Point
from lauf.challenges.queries.rivals import Rival, rival_shown
from lauf.errors import NotFound
from lauf.lessons.models import Activity
from lauf.lessons.queries import activity_of, day_of
from lauf.messages import say
from lauf.people.models import House, Pupil, SchoolClass, Staff
from lauf.people.queries import classes_of
from lauf.people.shapes import Named
from lauf.records.queries import counting, is_open
from lauf.rules.contests.points import RULE_WORDS, PointRule
from lauf.rules.contests.rivals import RivalKind
from lauf.rules.reading.rounding import fixed, places


def weeks_of(staff: Staff) -> QuerySet[ChallengeWeek]:
    """The weeks of the classes this person may see."""
    weeks = ChallengeWeek.objects.filter(school_id=staff.school_id)
    return weeks if staff.sees_school else weeks.filter(classes__teachers=staff).distinct()


def week_of(staff: Staff, week_id: UUID) -> ChallengeWeek:
    """One week in scope. Raises NotFound. One query."""
    found = weeks_of(staff).filter(pk=week_id).first()
    if found is None:
        raise NotFound(say("challenge week"))
    return found


def class_of_week(staff: Staff, week: ChallengeWeek, class_id: UUID) -> SchoolClass:
    """A class in scope that does the challenges of a week. Raises NotFound. One query."""
    found = classes_of(staff).filter(pk=class_id, challenge_weeks=week).first()
    if found is None:
        raise NotFound(say("class in this week"))
    return found


def challenge_of(staff: Staff, challenge_id: UUID) -> Challenge:
    """One challenge in scope, with its week and protocol. Raises NotFound. One query."""
    found = (
        Challenge.objects.filter(pk=challenge_id, week__in=weeks_of(staff))
        .select_related("week", "protocol__test__school")
        .first()
    )
    if found is None or not sees(staff, found.protocol.test):
        raise NotFound(say("challenge"))
    return found


class WeekRow(TypedDict):
    """A week of challenges."""

    id: UUID
    name: str
    starts_on: date
    ends_on: date
    classes: list[str]
    tests: list[str]


class RuleRow(TypedDict):
    """A point rule and what it gives."""

    rule: str
    words: str
    points: int


class ChallengeRow(TypedDict):
    """A challenge of a week; `begun` once points were given for it."""

    id: UUID
    on: date
    test_id: UUID
    test: str
    seconds: int | None
    rival: Rival | None
    begun: bool


class HouseSum(TypedDict):
    """Points of a house, and a child of it: houses differ in size."""

    house: str
    points: int
    children: int
    each: str


class ChildSum(TypedDict):
    """A child's points in a week."""

    pupil_id: UUID
    name: str
    class_name: str
    house: str
    points: int


class GroupRef(TypedDict):
    """A class of the school, or a house."""

    id: UUID
    name: str
    house: bool


class WeekPage(TypedDict):
    """A week with its challenges and points."""

    id: UUID
    name: str
    starts_on: date
    ends_on: date
    classes: list[Named]
    rules: list[RuleRow]
    # Seconds to write down between two challenges of a day.
    pause: int
    challenges: list[ChallengeRow]
    houses: list[HouseSum]
    groups: list[GroupRef]
    children: list[ChildSum]


class WallSum(TypedDict):
    """A house or a class on the wall: taking part, points, and points a child; nobody's name."""

    name: str
    children: int
    took_part: int
    points: int
    each: float


class WeekWall(TypedDict):
    """Houses and classes of a week on the wall."""

    id: UUID
    name: str
    houses: list[WallSum]
    classes: list[WallSum]


class OpenChallenge(TypedDict):
    """A challenge that can be tried today."""

    id: UUID
    week_id: UUID
    week: str
    test: str
    until: date
    new: bool
    # Goes that children have entered, for a teacher to look at.
    waiting: int


def week_list(staff: Staff) -> list[WeekRow]:
    """The weeks in scope, newest first, with what was given in them. Three queries."""
    weeks = weeks_of(staff).prefetch_related("classes", "challenges__protocol__test")
    return [
        {
            "id": week.id,
            "name": week.name,
            "starts_on": week.starts_on,
            "ends_on": week.ends_on,
            "classes": [one.name for one in week.classes.all()],
            "tests": [one.protocol.test.name for one in week.challenges.all()],
        }
        for week in weeks
    ]


def week_page(staff: Staff, week_id: UUID) -> WeekPage:
    """A week: its challenges day by day, its rules, and the ledger by house and by child of the
    classes in scope. Eight queries. Raises NotFound."""
    week = week_of(staff, week_id)
    challenges = week.challenges.select_related("protocol__test__school")
    pupils = pupils_in(staff, week)
    totals = _totals(week, pupils)
    given = dict(
        week.challenges.annotate(lines=Count("points")).values_list("id", "lines").order_by()
    )
    return {
        "id": week.id,
        "name": week.name,
        "starts_on": week.starts_on,
        "ends_on": week.ends_on,
        "classes": [
            {"id": one.id, "name": one.name} for one in week.classes.all() & classes_of(staff)
        ],
        "rules": rules_shown(week),
        "pause": week.pause,
        "challenges": [
            {
                "id": one.id,
                "on": one.on,
                "seconds": one.protocol.seconds,
                "test_id": one.protocol.test_id,
                "test": one.protocol.test.name,
                "rival": rival_shown(one),
                "begun": given.get(one.id, 0) > 0,
            }
            for one in challenges
        ],
        "houses": house_sums(pupils, totals),
        "groups": _groups(staff),
        "children": [
            {
                "pupil_id": pupil.id,
                "name": pupil.name,
                "class_name": pupil.last_class.name,
                "house": pupil.house.name if pupil.house else "",
                "points": totals.get(pupil.id, 0),
            }
            for pupil in pupils
        ],
    }


def _groups(staff: Staff) -> list[GroupRef]:
    """The classes and houses of the school, whose mark may be a rival's. Two queries."""
    classes = SchoolClass.objects.filter(school_id=staff.school_id, closed_on=None)
    houses = House.objects.filter(school_id=staff.school_id)
    return [
        *(
            GroupRef(id=key, name=name, house=False)
            for key, name in classes.values_list("id", "name")
        ),
        *(
            GroupRef(id=key, name=name, house=True)
            for key, name in houses.values_list("id", "name")
        ),
    ]


def _totals(week: ChallengeWeek, pupils: Iterable[Pupil]) -> dict[UUID, int]:
    """What stands in a week's ledger for each of these children. One query."""
    return dict(
        Point.objects.filter(challenge__week=week, pupil__in=[one.id for one in pupils])
        .values_list("pupil")
        .annotate(sum=Sum("points"))
        .order_by()
    )


def week_wall(staff: Staff, week_id: UUID) -> WeekWall:
    """What a week shows on the wall: of each house and class how many took part, and the points;
    no child's name. Six queries. Raises NotFound."""
    week = week_of(staff, week_id)
    pupils = pupils_in(staff, week)
    days = list(week.challenges.values_list("protocol__test", "on"))
    there: set[UUID] = set()
    if days:
        goes = reduce(or_, (Q(protocol__test=test, on__gte=on) for test, on in days))
        found = counting().filter(
            ~is_open(),
            goes,
            on__lte=week.ends_on,
            value__isnull=False,
            pupil__in=[one.id for one in pupils],
        )
        there = set(found.values_list("pupil", flat=True).distinct().order_by())
    totals = _totals(week, pupils)
    houses: dict[str, list[UUID]] = defaultdict(list)
    classes: dict[str, list[UUID]] = defaultdict(list)
    for pupil in pupils:
        classes[pupil.last_class.name].append(pupil.id)
        if pupil.house:
            houses[pupil.house.name].append(pupil.id)

    def sums(groups: dict[str, list[UUID]]) -> list[WallSum]:
        return [
            {
                "name": name,
                "children": len(ids),
                "took_part": sum(one in there for one in ids),
                "points": sum(totals.get(one, 0) for one in ids),
                "each": places(Fraction(sum(totals.get(one, 0) for one in ids), len(ids)), 1),
            }
            for name, ids in sorted(groups.items())
        ]

    return {"id": week.id, "name": week.name, "houses": sums(houses), "classes": sums(classes)}


def pupils_in(staff: Staff, week: ChallengeWeek) -> list[Pupil]:
    """The children of a week's classes in scope, class by class in their own order."""
    mine = classes_of(staff).filter(challenge_weeks=week)
    found = Pupil.objects.filter(school_class__in=mine)
    related = ("school_class__year_group", "house")
    order = ("school_class__year_group__position", "school_class__name")
    return list(found.select_related(*related).order_by(*order, *Pupil._meta.ordering or ()))


def house_sums(pupils: Iterable[Pupil], totals: dict[UUID, int]) -> list[HouseSum]:
    """Points by house, houses by name; a house's sum also by child, since houses differ in size."""
    sums: dict[str, list[int]] = defaultdict(list)
    for pupil in pupils:
        if pupil.house:
            sums[pupil.house.name].append(totals.get(pupil.id, 0))
    return [
        {
            "house": name,
            "points": sum(found),
            "children": len(found),
            "each": fixed(Fraction(sum(found)) / len(found), 1),
        }
        for name, found in sorted(sums.items())
    ]


def rules_shown(week: ChallengeWeek) -> list[RuleRow]:
    return [
        {"rule": rule.value, "words": RULE_WORDS[rule], "points": week.points.get(rule.value, 0)}
        for rule in PointRule
    ]


def _waits_for(staff: Staff) -> Q:
    """Goes that wait for this person."""
    return Q(goes__state=GoState.WAITING, goes__pupil__school_class__in=classes_of(staff))


def due_today(staff: Staff, today: date) -> list[OpenChallenge]:
    """The challenges that are open today, for the first page. One query."""
    found = (
        Challenge.objects.filter(week__in=weeks_of(staff), on__lte=today, week__ends_on__gte=today)
        .select_related("week", "protocol__test")
        .annotate(waiting=Count("goes", filter=_waits_for(staff), distinct=True))
        .order_by("-on")
    )
    return [
        {
            "id": one.id,
            "week_id": one.week_id,
            "week": one.week.name,
            "test": one.protocol.test.name,
            "until": one.week.ends_on,
            "new": one.on == today,
            "waiting": one.waiting,
        }
        for one in found
    ]


class PerformingRival(TypedDict):
    """A person who performs in a challenge, the mark so far, and the forms it can be made in."""

    week_id: UUID
    challenge_id: UUID
    rival: Rival
    variants: list[VariantEntry]


def rivals_in(staff: Staff, activity_id: UUID) -> list[PerformingRival]:
    """The people whose mark stands, or is still to be made, in what a class does in a test of a
    lesson: one more performer each. Two queries. Raises NotFound."""
    activity = activity_of(staff, activity_id)
    return [
        {
            "week_id": one.week_id,
            "challenge_id": one.id,
            "rival": rival,
            "variants": one.protocol.variants,
        }
        for one in performing(activity, weeks_of(staff))
        if (rival := rival_shown(one)) is not None
    ]


def performing(activity: Activity, weeks: QuerySet[ChallengeWeek]) -> QuerySet[Challenge]:
    """The challenges of these weeks whose rival is a person and performs with the class of an
    activity in its test, on its day."""
    day = day_of(activity.lesson)
    return Challenge.objects.filter(
        week__in=weeks,
        week__classes=activity.lesson.school_class_id,
        protocol=activity.protocol_id,
        rival_kind=RivalKind.PERSON,
        on__lte=day,
        week__ends_on__gte=day,
    ).select_related("protocol__test__school")
