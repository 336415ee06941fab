"""The sheet of a set: all challenges of one day, every child's row and what it adds up to."""

from __future__ import annotations

from datetime import date
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.queries import battery_list, seen, tests_of
from lauf.challenges.models import Challenge, ChallengeWeek
from lauf.challenges.queries.entrants import Entrant, standings_of
from lauf.challenges.queries.rivals import Rival, rival_shown
from lauf.challenges.queries.weeks import week_of
from lauf.errors import NotFound
from lauf.messages import say
from lauf.people.models import Staff
from lauf.people.shapes import Named
from lauf.rules.contests.sets import MOST_IN_A_SET, READY_SETS, sum_up
from lauf.rules.reading.kinds import format_difference
from lauf.rules.reading.quantities import Measure


class ReadySet(TypedDict):
    """Tests that go well in a row: of Lauf's own, or a battery of the school."""

    name: str
    tests: list[Named]


class SetChallenge(TypedDict):
    """A challenge of a set."""

    id: UUID
    test_id: UUID
    test: str
    seconds: int | None
    rival: Rival | None
    took_part: int
    beat_rival: int


class SetCell(TypedDict):
    """One challenge of a child's set; `last` is the entry whose working can be asked for."""

    last: UUID | None
    best: str
    goes: int
    rival: str
    # Signed: "+3", "=", "−2".
    ahead: str
    beaten: bool
    rung: str
    new_best: bool


class SetChild(TypedDict):
    """A child's row of a set."""

    pupil_id: UUID
    name: str
    class_id: UUID
    cells: list[SetCell]
    done: int
    beaten: int
    words: str


class SetSheet(TypedDict):
    """The challenges of a day, and every child's row, its cells in their order."""

    week_id: UUID
    week: str
    on: date
    until: date
    pause: int
    challenges: list[SetChallenge]
    classes: list[Named]
    children: list[SetChild]


def challenges_on(staff: Staff, week: ChallengeWeek, on: date) -> list[Challenge]:
    """The challenges of a day in their order, with their tests. One query. Raises NotFound for a
    day without one."""
    shown = seen(staff, week.challenges.filter(on=on), "protocol__test")
    challenges = list(shown.select_related("week", "protocol__test__school"))
    if not challenges:
        raise NotFound(say("challenge on that day"))
    return challenges


def set_sheet(staff: Staff, week_id: UUID, on: date) -> SetSheet:
    """The challenges of a day in their order, and each child in them: score, beside the rival,
    rung, and at the foot in how many the rival was beaten. Seven queries however many challenges
    and children, one more for lengths in hands or steps. Raises NotFound, also for a day without a
    challenge."""
    week = week_of(staff, week_id)
    challenges = challenges_on(staff, week, on)
    found = standings_of(staff, challenges)
    rows = list(zip(*(found[one.id] for one in challenges), strict=True))
    measures = [one.protocol.measure for one in challenges]
    return {
        "week_id": week.id,
        "week": week.name,
        "on": on,
        "until": week.ends_on,
        "pause": week.pause,
        "challenges": [
            {
                "id": one.id,
                "test_id": one.protocol.test_id,
                "test": one.protocol.test.name,
                "seconds": one.protocol.seconds,
                "rival": rival_shown(one),
                "took_part": sum(1 for each in found[one.id] if each.tries),
                "beat_rival": sum(1 for each in found[one.id] if each.beat_rival),
            }
            for one in challenges
        ],
        "classes": [
            {"id": class_id, "name": name}
            for class_id, name in {
                row[0].pupil.last_class.id: row[0].pupil.last_class.name for row in rows
            }.items()
        ],
        "children": [_child(row, measures) for row in rows],
    }


def _child(row: tuple[Entrant, ...], measures: list[Measure]) -> SetChild:
    pupil = row[0].pupil
    total = sum_up([one.score for one in row])
    return {
        "pupil_id": pupil.id,
        "name": pupil.name,
        "class_id": pupil.last_class.id,
        "cells": [
            {
                "last": one.last,
                "best": one.best,
                "goes": one.tries,
                "rival": one.rival,
                "ahead": _ahead(one, measure),
                "beaten": one.beat_rival,
                "rung": one.rung,
                "new_best": one.score.new_best if one.score else False,
            }
            for one, measure in zip(row, measures, strict=True)
        ],
        "done": total.done,
        "beaten": total.beaten,
        "words": total.words,
    }


def _ahead(one: Entrant, measure: Measure) -> str:
    """By how much the rival was beaten or not, "" where they are not compared."""
    ahead = one.score.ahead if one.score else None
    if ahead is None:
        return ""
    sign = "+" if ahead > 0 else "−" if ahead < 0 else "="
    return sign + (format_difference(abs(ahead), measure) if ahead else "")


def ready_sets(staff: Staff) -> list[ReadySet]:
    """Sets to choose from: Lauf's own, of the ready tests that the school still has, and the
    school's batteries, of what can be a challenge. Three queries."""
    tests: dict[str, Named] = {
        slug: {"id": test_id, "name": name}
        for slug, test_id, name in tests_of(staff)
        .filter(private=False)
        .values_list("slug", "id", "name")
    }
    known = {one["id"] for one in tests.values()}
    own: list[ReadySet] = [
        {"name": name, "tests": [tests[slug] for slug in slugs if slug in tests]}
        for name, slugs in READY_SETS.items()
    ]
    batteries: list[ReadySet] = [
        {
            "name": one["name"],
            "tests": [each for each in one["tests"] if each["id"] in known][:MOST_IN_A_SET],
        }
        for one in battery_list(staff)
    ]
    return [one for one in [*own, *batteries] if len(one["tests"]) > 1]
