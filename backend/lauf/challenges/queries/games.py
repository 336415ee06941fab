"""Games between schools: a school's own sums, and what all of them add up to. Reads only."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from typing import Any
from uuid import UUID

from django.utils import timezone

from lauf.challenges.models import Games, GamesKey, GamesResult, GamesTest
from lauf.errors import NotFound
from lauf.judgement.judge import Judge
from lauf.judgement.rows import scores
from lauf.judgement.subject import Subject
from lauf.messages import say
from lauf.people.models import Pupil, Staff
from lauf.plain_json import JsonObject
from lauf.records.queries import Row, counting, rows
from lauf.rules.contests.games import (
    FEWEST,
    AgeBand,
    Cell,
    Entrant,
    FileState,
    PointsRule,
    ResultFile,
    SchoolSums,
    cells,
    states,
)
from lauf.rules.judging.ladders import Rung
from lauf.rules.reading.quantities import Better


def games_of(staff: Staff, games_id: UUID) -> Games:
    """Games of the asker's school. One query. Raises NotFound."""
    found = Games.objects.filter(pk=games_id, school=staff.school_id).select_related("school")
    games = found.first()
    if games is None:
        raise NotFound(say("set of games"))
    return games


def open_to_join(staff: Staff) -> list[Games]:
    """Games that another school of this Lauf organises and opens to all of its trust (where it is
    in none, to all that are in none), not over and not joined yet. Three queries."""
    known = Games.objects.filter(school=staff.school_id).values_list("key", flat=True)
    return list(
        Games.objects.filter(open_here=True, closes_on__gte=timezone.localdate())
        .filter(school__trust=staff.school.trust_id)
        .exclude(school=staff.school_id)
        .exclude(key__in=list(known))
        .select_related("school")
    )


def bands_of(body: Mapping[str, Any]) -> list[AgeBand]:
    """The age bands of games."""
    return [AgeBand(one["name"], one["from_age"], one["to_age"]) for one in body["bands"]]


def points_rule(body: Mapping[str, Any]) -> PointsRule:
    """What games give points for."""
    return PointsRule(body["points"]["took_part"], body["points"]["a_rung"])


class _Child:
    """A child of a school that games are for: its age then, and the group it is summed up in."""

    def __init__(self, pupil: Pupil, age: int, band: int) -> None:
        self.id: UUID = pupil.id
        self.age = age
        self.part = (band, pupil.house.name if pupil.house else "")


def _children(games: Games, bands: Sequence[AgeBand]) -> list[_Child]:
    """The children on roll whose age on the first day is in a band; where no birth date is known,
    their year group's. One query."""
    found = []
    on_roll = Pupil.objects.filter(school=games.school_id, school_class__isnull=False)
    for pupil in on_roll.select_related("school_class__year_group", "house"):
        age = Subject(born=pupil.born).age(games.starts_on)
        if age is None and pupil.school_class is not None:
            age = pupil.school_class.year_group.age
        band = next((n for n, one in enumerate(bands) if age and one.holds(age)), None)
        if band is not None and age is not None:
            found.append(_Child(pupil, age, band))
    return found


def tests_of(games: Games) -> list[GamesTest]:
    """The tests of games as this school has them. One query."""
    return list(games.tests.select_related("protocol__test__school"))


def own_sums(games: Games, tests: Sequence[GamesTest]) -> SchoolSums:
    """What a school has reached so far in these tests of the games, by the games' own ladders;
    nothing of anybody alone. Two queries, one more for lengths in hands or steps."""
    bands = bands_of(games.body)
    children = _children(games, bands)
    found = rows(
        counting().filter(
            pupil__in=[one.id for one in children],
            protocol__test__in=[one.protocol.test_id for one in tests],
            on__gte=games.starts_on,
            on__lte=games.ends_on,
        )
    )
    by_test: dict[UUID, dict[UUID, list[Row]]] = defaultdict(lambda: defaultdict(list))
    for row in scores(found, games.school_id):
        if row.value is not None:
            by_test[row.test_id][row.pupil_id].append(row)
    took_part: set[UUID] = set()
    sums = {}
    for test, asked in zip(tests, games.body["tests"], strict=True):
        mine = by_test[test.protocol.test_id]
        took_part |= set(mine)
        judge = Judge(test.protocol, [], {})
        ladders = {one["age"]: one["rungs"] for one in asked["ladders"]}
        entrants = [
            _entrant(one, mine.get(one.id, []), judge, asked["variant"], ladders)
            for one in children
        ]
        highest = max((len(rungs) for rungs in ladders.values()), default=0)
        sums[asked["code"]] = cells(entrants, highest)
    several = len(took_part) if len(took_part) >= FEWEST else 0
    return SchoolSums(games.school.name, len(children), several, sums)


def _entrant(
    child: _Child, mine: Sequence[Row], judge: Judge, variant: str, ladders: Mapping[int, Any]
) -> Entrant:
    """What a child did: its best measured score in the games' form and under its usual conditions
    is what reaches a rung; any score is taking part."""
    key = judge.usual_key(variant)
    best = judge.best(mine, key)
    reached = None
    if best is not None:
        rungs = [Rung(one["name"], one["threshold"], one["beyond"])
                 for one in ladders.get(child.age, [])]  # fmt: skip
        better = Better(judge.measure.better)
        count = next(
            (n for n, rung in enumerate(rungs) if not rung.reached_by(best, better)), len(rungs)
        )
        reached = count - 1 if count else None
    return Entrant(child.part, bool(mine), reached, best)


def serialized_sums(sums: SchoolSums) -> JsonObject:
    """Sums as they stand in a file."""
    return {
        "children": sums.children,
        "took_part": sums.took_part,
        "tests": [
            {
                "code": code,
                "cells": [
                    {
                        "parts": [{"band": band, "house": house} for band, house in cell.parts],
                        "children": cell.children,
                        "took_part": cell.took_part,
                        "rungs": list(cell.rungs),
                        "quartiles": list(cell.quartiles) if cell.quartiles else None,
                    }
                    for cell in made
                ],
            }
            for code, made in sums.tests.items()
        ],
    }


def sums_read(name: str, content: Mapping[str, Any]) -> SchoolSums:
    """Sums of a file that was looked through."""
    return SchoolSums(
        name,
        content["children"],
        content["took_part"],
        {test["code"]: tuple(map(_cell, test["cells"])) for test in content["tests"]},
    )


def _cell(content: Mapping[str, Any]) -> Cell:
    quartiles = content.get("quartiles")
    return Cell(
        tuple((part["band"], part.get("house", "")) for part in content["parts"]),
        content["children"],
        content["took_part"],
        tuple(content["rungs"]),
        (quartiles[0], quartiles[1], quartiles[2]) if quartiles else None,
    )


def results_of(games: Games) -> list[GamesResult]:
    """Every result file that came, oldest first. One query."""
    found = GamesResult.objects.filter(sent_by__games=games)
    return list(found.select_related("sent_by"))


def file_states(games: Games, results: Iterable[GamesResult]) -> dict[UUID, FileState]:
    """What becomes of each result file. A school of this Lauf is known by itself. One query."""
    results = list(results)
    keys = {one.sent_by.public for one in results}
    known = set(GamesKey.objects.filter(public__in=keys).values_list("public", flat=True))
    known |= {one.sent_by.public for one in results if one.sent_by.known_by_id}
    return states(
        (
            ResultFile(
                one.id, one.sent_by.public, one.number, one.made_at,
                timezone.localdate(one.came_at), one.let_in,
            )
            for one in results
        ),
        games.closes_on,
        known,
    )  # fmt: skip
