"""The sheet of a set: all challenges of one day, every child's row and what it adds up to."""

from __future__ import annotations

from datetime import date
from typing import Any
from uuid import UUID

from lauf.catalogue.queries import battery_list, seen, tests_of
from lauf.challenges.queries.entrants import Entrant, standings_of
from lauf.challenges.queries.rivals import rival_shown
from lauf.challenges.queries.weeks import week_of
from lauf.errors import NotFound
from lauf.people.models import Staff
from lauf.rules.contests.sets import MOST_IN_A_SET, READY_SETS, sum_up
from lauf.rules.reading.kinds import format_difference
from lauf.rules.reading.quantities import Measure


def set_sheet(staff: Staff, week_id: UUID, on: date) -> dict[str, Any]:
    """The challenges of a day in their order, and each child in them: score, beside the rival,
    rung, and at the foot in how many the rival was beaten. Seven queries however many challenges
    and children, one more for lengths in hands or steps. Raises NotFound, also for a day without a
    challenge."""
    week = week_of(staff, week_id)
    shown = seen(staff, week.challenges.filter(on=on), "protocol__test")
    challenges = list(shown.select_related("week", "protocol__test__school"))
    if not challenges:
        raise NotFound("challenge on that day")
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


def _child(row: tuple[Entrant, ...], measures: list[Measure]) -> dict[str, Any]:
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


def ready_sets(staff: Staff) -> list[dict[str, Any]]:
    """Sets to choose from: Lauf's own, of the ready tests that the school still has, and the
    school's batteries, of what can be a challenge. Three queries."""
    tests = {
        slug: {"id": test_id, "name": name}
        for slug, test_id, name in tests_of(staff)
        .filter(private=False)
        .values_list("slug", "id", "name")
    }
    known = {one["id"] for one in tests.values()}
    own = [
        {"name": name, "tests": [tests[slug] for slug in slugs if slug in tests]}
        for name, slugs in READY_SETS.items()
    ]
    batteries = [
        {
            "name": one["name"],
            "tests": [each for each in one["tests"] if each["id"] in known][:MOST_IN_A_SET],
        }
        for one in battery_list(staff)
    ]
    return [one for one in [*own, *batteries] if len(one["tests"]) > 1]
