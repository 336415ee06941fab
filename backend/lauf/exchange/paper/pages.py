"""From what a page says to its HTML. Names and lines are escaped by the templates."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from enum import StrEnum
from functools import cache
from itertools import zip_longest
from pathlib import Path
from typing import Any, Final

from django.template import Context, Engine

from lauf.exchange.paper.lane import drawn_lane
from lauf.exchange.paper.render import Form, Part
from lauf.messages import say
from lauf.progress.board import ClassBoard
from lauf.progress.board_columns import BoardCell

#: Rows of a recording sheet that one page has room for under a long head, and the most that are
#: tried on one with less room each.
ROWS_A_PAGE: Final = 23
_MOST_ROWS: Final = 32
#: Boxes beside each other that a cold hand still finds room in.
BOXES_A_PAGE: Final = 6
_SHAPES: Final = {
    "better": "▲", "reached_the_top": "▲", "moved_up": "⇧", "lower": "▽", "steady": "=",
    "at_the_top": "=",
}  # fmt: skip


class Drawing(StrEnum):
    """What is drawn on a certificate."""

    PENNANT = "pennant"
    LANES = "lanes"
    STEPS = "steps"


@cache
def _engine() -> Engine:
    return Engine(
        dirs=[str(Path(__file__).parent / "templates")],
        builtins=["lauf.exchange.paper.tags"],
        autoescape=True,
    )


def fill(name: str, what: Mapping[str, Any]) -> str:
    """A page by the name of its template."""
    return str(_engine().get_template(f"{name}.html").render(Context(dict(what))))


def day(on: date) -> str:
    """ "3 Nov 2026"."""
    return f"{on.day} {on:%b %Y}"


#: How much room there is between what stands on a page: less where it would take two.
_ROOM: Final = ("", "close", " ".join(("close", "closer")))


def report_forms(child: Mapping[str, Any]) -> Part:
    """One child's report to its family, as `queries.handouts` gathers it: a page, with as much room
    as there is."""
    tests = [
        one
        | drawn_lane(one["lane"], say("Latest score: {shown}", shown=one["shown"]))
        | {"on": day(one["on"])}
        for one in child["tests"]
    ]
    return tuple(Form(fill("report", {**child, "tests": tests, "room": room})) for room in _ROOM)


def certificate_page(what: Mapping[str, Any]) -> str:
    return fill("certificate", {**what, "drawing": DRAWINGS[Drawing(what["drawing"])]})


def class_list_forms(board: ClassBoard, title: str, school: str, overall: Sequence[str]) -> Part:
    """A class over its tests on one page, for the class teacher. `overall` is what is said of each
    child over all of them; nothing where the school wants no such statement."""
    children = [
        {
            **child,
            "cells": [{**cell, **_in_short(cell)} for cell in child["cells"]],
            "overall": words,
        }
        for child, words in zip_longest(board["children"], overall)
    ]
    content = {
        **board,
        "children": children,
        "overall": bool(overall),
        "title": title,
        "school": school,
        "days": say("{day} to {day2}", day=day(board["since"]), day2=day(board["until"])),
    }
    return tuple(Form(fill("class_list", {**content, "room": room})) for room in _ROOM)


def _in_short(cell: BoardCell) -> dict[str, str]:
    """A cell of a long list: the change by its shape, the rung by its number."""
    rung = -1 if cell["rung"] is None else cell["rung"]
    step = f"{rung + 1}/{cell['rungs']}" if cell["rungs"] else ""
    return {"shape": _SHAPES.get(cell["verdict"], ""), "step": step}


def head_page(picture: Mapping[str, Any]) -> str:
    """The school without names."""
    width = 38
    terms = []
    for term in picture["terms"]:
        years = [
            year
            | {
                "bar": round(width * year["took_part"] / max(1, year["children"]), 1),
                "rest": round(width * (1 - year["took_part"] / max(1, year["children"])), 1),
            }
            for year in term["year_groups"]
        ]
        days = say("{day} to {day2}", day=day(term["starts"]), day2=day(term["ends"]))
        terms.append(term | {"year_groups": years, "days": days})
    return fill("head_page", {**picture, "terms": terms})


def sheet_forms(
    sheet: Mapping[str, Any], rows: Sequence[Mapping[str, Any]], code: Any, *, beside: int
) -> Part:
    """A recording sheet, its rows in the order of entry: a whole class on a page where it can stand
    there with room for a hand, else as many pages as it takes.

    sheet   title, class_name, rules, columns, foot
    rows    number, name, kept_from and cells: what is printed lightly in each box
    code    what makes the code of a page: (page, pages, first row, first column) to (SVG, words)
    beside  how many boxes stand beside each other on a page
    """
    # As many on the last page as on the others.
    needed = max(1, -(-len(rows) // ROWS_A_PAGE))
    apart = max(1, -(-len(rows) // needed))
    whole = max(1, len(rows))
    tried = [(whole, room) for room in _ROOM] if whole <= _MOST_ROWS else []
    return tuple(
        _leaves(sheet, rows, code, each, beside, room) for each, room in [*tried, (apart, "")]
    )


def _leaves(
    sheet: Mapping[str, Any], rows: Sequence[Mapping[str, Any]], code: Any, each: int, beside: int,
    room: str,
) -> Form:  # fmt: skip
    """The pages of a recording sheet, so many rows and boxes on each."""
    columns: Sequence[str] = sheet["columns"]
    places = [
        (left, top)
        for left in range(0, max(1, len(columns)), beside)
        for top in range(0, max(1, len(rows)), each)
    ]
    made = []
    for page, (left, top) in enumerate(places, 1):
        boxes = slice(left, left + beside)
        here = [{**row, "cells": row["cells"][boxes]} for row in rows[top : top + each]]
        svg, words = code(page, len(places), top, left)
        made.append(
            fill(
                "sheet",
                {
                    **sheet, "columns": columns[boxes], "rows": here, "page": page,
                    "pages": len(places), "code": svg, "code_words": words, "room": room,
                    "boxes": "many" if len(columns[boxes]) > BOXES_A_PAGE else "",
                },
            )
        )  # fmt: skip
    return Form("".join(made), len(places))


def _drawn(shows: str, paths: str) -> str:
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 300 76" fill="none" '
        f'stroke="#0b4f5c" stroke-width="1.6" aria-label="{shows}">{paths}</svg>'
    )


_FLOOR = '<path d="M10 66H290M10 70H290"/>'
#: Our own drawings, from the painted floor.
DRAWINGS: Final[dict[Drawing, str]] = {
    Drawing.PENNANT: _drawn(
        say("A flag on the court line"),
        f'{_FLOOR}<path d="M150 66V8" stroke-width="2.4"/><path d="M150 8l46 13l-46 13z" '
        'fill="#7a5200" stroke="#7a5200"/><path d="M62 66v-9M106 66v-9M194 66v-9M238 66v-9"/>',
    ),
    Drawing.LANES: _drawn(
        say("Lanes with markers"),
        '<path d="M10 12H290M10 30H290M10 48H290M10 66H290"/>'
        '<path d="M70 12v54M130 12v54M190 12v54M250 12v54" stroke-width="2.2"/>'
        '<circle cx="100" cy="57" r="5"/><circle cx="160" cy="39" r="5"/>'
        '<rect x="214" y="15" width="12" height="12" rx="2" fill="#0b4f5c"/>',
    ),
    Drawing.STEPS: _drawn(
        say("Steps up to a flag"),
        f'{_FLOOR}<path d="M46 66V54H98V42H150V30H202V18H254V66" stroke-width="2.2"/>'
        '<path d="M228 18V3l15 5l-15 5" fill="#7a5200" stroke="#7a5200"/>',
    ),
}
