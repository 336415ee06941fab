"""A class's challenges week after week, in one table."""

from __future__ import annotations

from collections import defaultdict
from datetime import date
from typing import Final
from uuid import UUID

from django.db.models import Sum
from typing_extensions import TypedDict

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import newest_protocols, seen
from lauf.challenges.models import Challenge, ChallengeWeek, Point
from lauf.challenges.queries.entrants import Entrant, standings_of
from lauf.people.models import Pupil, Staff
from lauf.people.queries import class_of
from lauf.people.shapes import Named
from lauf.rules.judging.series import WeekDone, like, story

#: So many weeks, the newest, are in the table.
MOST_WEEKS: Final = 12


class SeriesWeek(TypedDict):
    """A week of the series; `took_part` counts children."""

    id: UUID
    name: str
    starts_on: date
    tests: list[str]
    took_part: int


class SeriesCell(TypedDict):
    """A week of one child: challenges taken part in, better with another go, rivals beaten."""

    took_part: int
    gained: int
    beaten: int
    points: int


class SeriesChild(TypedDict):
    """A child over the weeks."""

    pupil_id: UUID
    name: str
    weeks: list[SeriesCell]
    points: int
    story: str


class Series(TypedDict):
    """A class's weeks in their order, and tests like those that were done."""

    class_id: UUID
    class_name: str
    weeks: list[SeriesWeek]
    children: list[SeriesChild]
    like: list[Named]


def series(staff: Staff, class_id: UUID) -> Series:
    """The newest weeks of a class in their order, each child's points and what it did in each, its
    story, and a few tests like those that were done. Eleven queries however many weeks, one more
    for lengths in hands or steps. Raises NotFound."""
    school_class = class_of(staff, class_id)
    mine = ChallengeWeek.objects.filter(school_id=staff.school_id, classes=class_id)
    weeks = sorted(mine.order_by("-starts_on")[:MOST_WEEKS], key=lambda one: one.starts_on)
    shown = seen(staff, Challenge.objects.filter(week__in=weeks), "protocol__test")
    challenges = list(shown.select_related("week", "protocol__test__school"))
    related = ("school_class__year_group", "house")
    pupils = list(Pupil.objects.filter(school_class=class_id).select_related(*related))
    found = standings_of(staff, challenges, pupils)
    points = _points(weeks, pupils)
    by_week: dict[UUID, list[Challenge]] = defaultdict(list)
    for one in challenges:
        by_week[one.week_id].append(one)
    rows: list[SeriesChild] = []
    for place, pupil in enumerate(pupils):
        done = [_week([found[one.id][place] for one in by_week[week.id]]) for week in weeks]
        rows.append(
            {
                "pupil_id": pupil.id,
                "name": pupil.name,
                "weeks": [
                    {"took_part": each.took_part, "gained": each.gained, "beaten": each.beaten,
                     "points": points.get((week.id, pupil.id), 0)}
                    for week, each in zip(weeks, done, strict=True)
                ],
                "points": sum(points.get((week.id, pupil.id), 0) for week in weeks),
                "story": story(done),
            }
        )  # fmt: skip
    return {
        "class_id": school_class.id,
        "class_name": school_class.name,
        "weeks": [
            {
                "id": week.id,
                "name": week.name,
                "starts_on": week.starts_on,
                "tests": [one.protocol.test.name for one in by_week[week.id]],
                "took_part": sum(row["weeks"][place]["took_part"] > 0 for row in rows),
            }
            for place, week in enumerate(weeks)
        ],
        "children": rows,
        "like": _like(staff, {one.protocol.test.name for one in challenges}),
    }


def _week(done: list[Entrant]) -> WeekDone:
    return WeekDone(
        took_part=sum(one.tries > 0 for one in done),
        gained=sum(one.gained for one in done),
        beaten=sum(one.beat_rival for one in done),
    )


def _points(weeks: list[ChallengeWeek], pupils: list[Pupil]) -> dict[tuple[UUID, UUID], int]:
    lines = Point.objects.filter(challenge__week__in=weeks, pupil__in=pupils)
    sums = lines.values_list("challenge__week", "pupil").annotate(sum=Sum("points")).order_by()
    return {(week, pupil): total for week, pupil, total in sums}


def _like(staff: Staff, used: set[str]) -> list[Named]:
    """A few tests like these for a next week. One query."""
    versions: list[ProtocolVersion] = list(newest_protocols(staff))
    tests = {
        one.test.name: (one.test.family, frozenset(one.loads))
        for one in versions
        if not one.test.private
    }
    ids = {one.test.name: one.test_id for one in versions}
    return [{"id": ids[name], "name": name} for name in like(used, tests)]
