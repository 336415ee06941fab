"""The pages of games between schools. Reads only."""

from __future__ import annotations

from datetime import date
from uuid import UUID

from django.utils import timezone
from django.utils.text import slugify
from typing_extensions import TypedDict

from lauf.challenges.models import Games, GamesKey, GamesTest
from lauf.challenges.queries import (
    bands_of,
    games_of,
    open_to_join,
    own_sums,
    points_rule,
    tests_of,
)
from lauf.errors import NotFound
from lauf.exchange.games import GamesBody, Opened, check_digits, written
from lauf.exchange.queries.games_table import NO_TABLE, GamesTable, games_table
from lauf.messages import and_list, say
from lauf.people.models import Staff
from lauf.people.permissions import May, may
from lauf.rules.contests.games import (
    FEWEST,
    Cell,
    SchoolSums,
    points_of,
)
from lauf.rules.reading.kinds import format_value


class GamesHead(TypedDict):
    """Games between schools; `closes_on` is the last day on which a result is in time."""

    id: UUID
    name: str
    organiser: str
    starts_on: date
    ends_on: date
    # The last day on which a result is in time.
    closes_on: date
    tests: list[str]


class OwnGames(GamesHead):
    """Games of the school."""

    organised_here: bool


class GamesList(TypedDict):
    """The school's games, and those on this Lauf that it may join."""

    may_manage: bool
    games: list[OwnGames]
    open: list[GamesHead]


class GamesSeen(TypedDict):
    """A games file before it is joined; `joined` are the games where it was."""

    joined: UUID | None
    name: str
    organiser: str
    check_digits: str
    starts_on: date
    ends_on: date
    closes_on: date
    tests: list[str]
    bands: list[str]
    over: bool


class GroupSums(TypedDict):
    """Sums of a group; `middle` is the median of the bests, empty where too few were measured."""

    name: str
    children: int
    took_part: int
    rungs: list[int]
    middle: str


class OwnTest(TypedDict):
    """A test of the games, in the school's own groups."""

    test_id: UUID
    name: str
    groups: list[GroupSums]


class OwnSums(TypedDict):
    """What the school would hand in now; `took_part` is 0 where they are too few to be told."""

    children: int
    took_part: int
    points: int
    tests: list[OwnTest]


class GamesPage(GamesHead, GamesTable):
    """Games as a school has them."""

    may_manage: bool
    organised_here: bool
    open_here: bool
    check_digits: str
    # Of this school's own results; empty before it has handed one in.
    own_digits: str
    took_part_points: int
    rung_points: int
    handed_in: int
    # Groups of fewer are merged.
    fewest: int
    own: OwnSums


class GamesText(TypedDict):
    """A file to be saved, word for word, under a name."""

    name: str
    text: str


def games_list(staff: Staff) -> GamesList:
    """The school's games, and those of other schools on this Lauf that it may join. Four
    queries."""
    mine = Games.objects.filter(school=staff.school_id).select_related("school")
    return {
        "may_manage": may(staff, May.MANAGE_SCHOOL),
        "games": [{**_head(one), "organised_here": one.organised_here} for one in mine],
        "open": [_head(one) for one in open_to_join(staff)],
    }


def _head(games: Games) -> GamesHead:
    return {
        "id": games.id,
        "name": games.name,
        "organiser": games.body["organiser"],
        "starts_on": games.starts_on,
        "ends_on": games.ends_on,
        "closes_on": games.closes_on,
        "tests": [test["name"] for test in games.body["tests"]],
    }


def open_file(staff: Staff, games_id: UUID) -> str:
    """The file of games that may be joined without one. Two queries. Raises NotFound."""
    found = next((one for one in open_to_join(staff) if one.id == games_id), None)
    if found is None:
        raise NotFound(say("games that are open to join"))
    return _file_of(found)


def games_text(staff: Staff, games_id: UUID) -> GamesText:
    """Games as a file, and what to call it. One query. Raises NotFound."""
    games = games_of(staff, games_id)
    return {"name": file_name(games, "games"), "text": _file_of(games)}


def file_name(games: Games, what: str) -> str:
    """What a file of these games is called."""
    return f"{slugify(f'{games.name} {what}')}.json"


def _file_of(games: Games) -> str:
    return written({"body": games.body, "signed_by": games.signed_by, "signature": games.signature})


def games_seen(staff: Staff, opened: Opened[GamesBody]) -> GamesSeen:
    """A games file before it is joined: what is asked, and the check digits to compare. One
    query."""
    body = opened.body
    known = Games.objects.filter(school=staff.school_id, key=body.key).first()
    return {
        "joined": known.id if known else None,
        "name": body.name,
        "organiser": body.organiser,
        "check_digits": check_digits(opened.signed_by),
        "starts_on": body.starts_on,
        "ends_on": body.ends_on,
        "closes_on": body.closes_on,
        "tests": [test.name for test in body.tests],
        "bands": [_ages(one.name, one.from_age, one.to_age) for one in body.bands],
        "over": body.closes_on < timezone.localdate(),
    }


def _ages(name: str, from_age: int, to_age: int) -> str:
    return (
        say("{name} ({from_age} to {to_age})", name=name, from_age=from_age, to_age=to_age)
        if from_age < to_age
        else f"{name} ({from_age})"
    )


def games_page(staff: Staff, games_id: UUID) -> GamesPage:
    """Games as a school has them: its own sums so far, as they would be handed in; for the
    organiser the table, and what became of every file. Fourteen queries at most. Raises
    NotFound."""
    games = games_of(staff, games_id)
    tests = tests_of(games)
    sums = own_sums(games, tests)
    rule = points_rule(games.body)
    own_key = GamesKey.objects.filter(school=games.school_id).first()
    return {
        **_head(games),
        "may_manage": may(staff, May.MANAGE_SCHOOL),
        "organised_here": games.organised_here,
        "open_here": games.open_here,
        "check_digits": check_digits(games.signed_by),
        "own_digits": check_digits(own_key.public) if own_key else "",
        "took_part_points": rule.took_part,
        "rung_points": rule.a_rung,
        "handed_in": games.handed_in,
        "fewest": FEWEST,
        "own": _own(games, tests, sums),
        **(games_table(games) if games.organised_here else NO_TABLE),
    }


def _own(games: Games, tests: list[GamesTest], sums: SchoolSums) -> OwnSums:
    rule, bands = points_rule(games.body), bands_of(games.body)
    return {
        "children": sums.children,
        "took_part": sums.took_part,
        "points": points_of(sums, rule),
        "tests": [
            {
                "test_id": test.protocol.test_id,
                "name": test.protocol.test.name,
                "groups": [
                    {
                        "name": _group(cell, [one.name for one in bands]),
                        "children": cell.children,
                        "took_part": cell.took_part,
                        "rungs": list(cell.rungs),
                        "middle": ""
                        if cell.quartiles is None
                        else format_value(cell.quartiles[1], test.protocol.measure),
                    }
                    for cell in sums.tests[asked["code"]]
                ],
            }
            for test, asked in zip(tests, games.body["tests"], strict=True)
        ],
    }


def _group(cell: Cell, bands: list[str]) -> str:
    """A group by its ages, and the houses of each: "Youngest (Elm) and Middle (Alder, Elm)"."""
    told = []
    for band in sorted(cell.bands):
        houses = sorted(house or say("no house") for at, house in cell.parts if at == band)
        told.append(f"{bands[band]} ({', '.join(houses)})" if houses != [say("no house")]
                    else bands[band])  # fmt: skip
    return and_list(told)
