"""What all schools of games add up to, and every file that came: for the organiser. Reads only."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime
from fractions import Fraction
from typing import Final
from uuid import UUID

from pydantic import ValidationError
from typing_extensions import TypedDict

from lauf.challenges.models import Games, GamesResult
from lauf.challenges.queries import (
    bands_of,
    file_states,
    points_rule,
    results_of,
    sums_read,
)
from lauf.exchange.games import ResultBody, check_digits, fits
from lauf.messages import say, say_many
from lauf.rules.contests.games import (
    FileState,
    Placed,
    band_table,
    house_table,
    table,
)
from lauf.rules.reading.rounding import fixed

#: What is said of a file that came, by what becomes of it.
_WORDS: Final = {
    FileState.COUNTS: "counts",
    FileState.UNKNOWN: say("waiting until its check digits are compared"),
    FileState.LATE: say("received after the last day"),
    FileState.OLDER: say("replaced by a newer one"),
    FileState.UNREADABLE: say("not readable, so it does not count and should be removed"),
}


class PlaceRow(TypedDict):
    """A school or a house in a table: equal ones share a place."""

    place: int
    name: str
    children: int
    took_part: int
    points: int
    a_child: str


class BandSchool(TypedDict):
    """A school in an age band's table."""

    name: str
    points: int
    a_child: str


class BandRow(TypedDict):
    """An age band's table."""

    name: str
    schools: list[BandSchool]


class SchoolHouses(TypedDict):
    """A school's houses in its own table."""

    school: str
    houses: list[PlaceRow]


class FileRow(TypedDict):
    """A result file that came, and what became of it."""

    id: UUID
    school_id: UUID
    school: str
    check_digits: str
    number: int
    came_at: datetime
    children: int
    words: str
    state: FileState
    known: bool
    let_in: bool


class GamesNote(TypedDict):
    """A note about the games."""

    words: str
    at: datetime


class GamesTable(TypedDict):
    """What all schools add up to; empty for a school that has not organised the games."""

    schools: list[PlaceRow]
    bands: list[BandRow]
    houses: list[SchoolHouses]
    files: list[FileRow]
    notes: list[GamesNote]


NO_TABLE: Final[GamesTable] = {
    "schools": [], "bands": [], "houses": [], "files": [], "notes": [],
}  # fmt: skip


def games_table(games: Games) -> GamesTable:
    """What all schools add up to, and every file that came. Four queries."""
    results = results_of(games)
    states = file_states(games, results)
    counted = [one for one in results if states[one.id] is FileState.COUNTS]
    unreadable = {one.id for one in results if not _is_readable(one, games)}
    counted = [one for one in counted if one.id not in unreadable]
    sums = [sums_read(one.sent_by.name, one.body) for one in counted]
    rule = points_rule(games.body)
    return {
        "schools": [_line(one) for one in table(sums, rule)],
        "bands": [
            {
                "name": band.name,
                "schools": [
                    {"name": name, "points": points, "a_child": _each(points, children)}
                    for name, points, children in band_table(sums, rule, place)
                    if children
                ],
            }
            for place, band in enumerate(bands_of(games.body))
        ],
        "houses": [
            {"school": one.name, "houses": [_line(line) for line in house_table(one, rule)]}
            for one in sums
        ],
        "files": [
            _unreadable_file(one) if one.id in unreadable else _file(one, states[one.id])
            for one in _newest_first(results)
        ],
        "notes": [{"words": one.words, "at": one.at} for one in games.notes.all()[:50]],
    }


def _is_readable(result: GamesResult, games: Games) -> bool:
    """A row that a package brought may hold anything: it is shown, and takes no page down."""
    try:
        return fits(ResultBody.model_validate(result.body), games.body)
    except ValidationError:
        return False


def _newest_first(results: Iterable[GamesResult]) -> list[GamesResult]:
    return sorted(results, key=lambda one: (one.came_at, one.number), reverse=True)


def _line(line: Placed) -> PlaceRow:
    return {
        "place": line.place,
        "name": line.name,
        "children": line.children,
        "took_part": line.took_part,
        "points": line.points,
        "a_child": _each(line.points, line.children),
    }


def _each(points: int, children: int) -> str:
    return fixed(Fraction(points, children), 2) if children else ""


def _unreadable_file(result: GamesResult) -> FileRow:
    return _file_row(result, _WORDS[FileState.UNREADABLE], 0, FileState.UNREADABLE)


def _file(result: GamesResult, state: FileState) -> FileRow:
    words = _WORDS[state]
    if result.let_in and state is FileState.COUNTS:
        words = say("counts, accepted although late")
    words = say(
        "{words}, {childs} took part",
        words=words,
        childs=say_many("{n} child", "{n} children", result.body["took_part"]),
    )
    return _file_row(result, words, result.body["children"], state)


def _file_row(result: GamesResult, words: str, children: int, state: FileState) -> FileRow:
    return {
        "id": result.id,
        "school_id": result.sent_by_id,
        "school": result.sent_by.name,
        "check_digits": check_digits(result.sent_by.public),
        "number": result.number,
        "came_at": result.came_at,
        "children": children,
        "words": words,
        "state": state,
        "known": result.sent_by.known_by_id is not None,
        "let_in": result.let_in,
    }
