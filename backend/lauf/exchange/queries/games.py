"""The pages of games between schools. Reads only."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction
from typing import Any, Final
from uuid import UUID

from django.utils import timezone
from django.utils.text import slugify
from pydantic import ValidationError

from lauf.challenges.models import Games, GamesKey, GamesResult, GamesTest
from lauf.challenges.queries import (
    bands_of,
    file_states,
    games_of,
    open_to_join,
    own_sums,
    points_rule,
    results_of,
    sums_read,
    tests_of,
)
from lauf.errors import NotFound
from lauf.exchange.games import GamesBody, Opened, ResultBody, check_digits, fits, written
from lauf.people.models import Staff
from lauf.people.permissions import May, may
from lauf.rules.contests.games import (
    FEWEST,
    Cell,
    FileState,
    Placed,
    SchoolSums,
    band_table,
    house_table,
    points_of,
    table,
)
from lauf.rules.reading.kinds import format_value
from lauf.rules.reading.rounding import fixed
from lauf.rules.reading.words import plural

#: What is said of a file that came, by what becomes of it.
_WORDS: Final = {
    FileState.COUNTS: "counts",
    FileState.UNKNOWN: "waits until its check digits are compared",
    FileState.LATE: "came after the last day",
    FileState.OLDER: "there is a newer one",
    FileState.UNREADABLE: "cannot be read and does not count: remove it",
}


def games_list(staff: Staff) -> dict[str, Any]:
    """The school's games, and those of other schools on this Lauf that it may join. Four
    queries."""
    mine = Games.objects.filter(school=staff.school_id).select_related("school")
    return {
        "may_manage": may(staff, May.MANAGE_SCHOOL),
        "games": [{**_head(one), "organised_here": one.organised_here} for one in mine],
        "open": [_head(one) for one in open_to_join(staff)],
    }


def _head(games: Games) -> dict[str, Any]:
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
        raise NotFound("games that are open to join")
    return _file_of(found)


def games_text(staff: Staff, games_id: UUID) -> dict[str, Any]:
    """Games as a file, and what to call it. One query. Raises NotFound."""
    games = games_of(staff, games_id)
    return {"name": file_name(games, "games"), "text": _file_of(games), "delivered": False}


def file_name(games: Games, what: str) -> str:
    """What a file of these games is called."""
    return f"{slugify(f'{games.name} {what}')}.json"


def _file_of(games: Games) -> str:
    return written({"body": games.body, "signed_by": games.signed_by, "signature": games.signature})


def games_seen(staff: Staff, opened: Opened[GamesBody]) -> dict[str, Any]:
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
    return f"{name} ({from_age} to {to_age})" if from_age < to_age else f"{name} ({from_age})"


def games_page(staff: Staff, games_id: UUID) -> dict[str, Any]:
    """Games as a school has them: its own sums so far, as they would be handed in; for the
    organiser the table, and what became of every file. Fourteen queries at most. Raises
    NotFound."""
    games = games_of(staff, games_id)
    tests = tests_of(games)
    sums = own_sums(games, tests)
    rule = points_rule(games.body)
    own_key = GamesKey.objects.filter(school=games.school_id).first()
    page = {
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
        "schools": [],
        "bands": [],
        "houses": [],
        "files": [],
        "notes": [],
    }
    if games.organised_here:
        page |= _gathered(games)
    return page


def _own(games: Games, tests: list[GamesTest], sums: SchoolSums) -> dict[str, Any]:
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
        houses = sorted(house or "no house" for at, house in cell.parts if at == band)
        told.append(f"{bands[band]} ({', '.join(houses)})" if houses != ["no house"]
                    else bands[band])  # fmt: skip
    return " and ".join(told)


def _gathered(games: Games) -> dict[str, Any]:
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
        "notes": [
            {"words": one.words, "at": one.at} for one in games.notes.all()[:50]
        ],
    }  # fmt: skip


def _is_readable(result: GamesResult, games: Games) -> bool:
    """A row that a package brought may hold anything: it is shown, and takes no page down."""
    try:
        return fits(ResultBody.model_validate(result.body), games.body)
    except ValidationError:
        return False


def _newest_first(results: Iterable[GamesResult]) -> list[GamesResult]:
    return sorted(results, key=lambda one: (one.came_at, one.number), reverse=True)


def _line(line: Placed) -> dict[str, Any]:
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


def _unreadable_file(result: GamesResult) -> dict[str, Any]:
    return _file_row(result, _WORDS[FileState.UNREADABLE], 0, FileState.UNREADABLE)


def _file(result: GamesResult, state: FileState) -> dict[str, Any]:
    words = _WORDS[state]
    if result.let_in and state is FileState.COUNTS:
        words = "counts: late, and let in"
    words = f"{words}; {plural(result.body['took_part'], 'child', 'children')} took part"
    return _file_row(result, words, result.body["children"], state)


def _file_row(result: GamesResult, words: str, children: int, state: FileState) -> dict[str, Any]:
    return {
        "id": result.id,
        "school_id": result.sent_by_id,
        "school": result.sent_by.name,
        "check_digits": check_digits(result.sent_by.public),
        "number": result.number,
        "came_at": result.came_at,
        "children": children,
        "words": words,
        "state": state.value,
        "known": result.sent_by.known_by_id is not None,
        "let_in": result.let_in,
    }
