"""A list held against the school, as it is shown. Reads only."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from datetime import date
from uuid import UUID

from typing_extensions import TypedDict

from lauf.exchange.lists.columns import COLUMN_WORDS, Column
from lauf.exchange.queries.lists import Effect, Held, ListWish, Status, hold, read_wish
from lauf.people.models import Staff
from lauf.people.shapes import Named


class FieldChange(TypedDict):
    """A field that a list changes."""

    field: str
    was: str
    now: str


class ListRow(TypedDict):
    """What becomes of a row."""

    row: int
    name: str
    born: date | None
    sex: str
    class_name: str
    house: str
    note: str
    number: str
    status: Status
    why: str
    changes: list[FieldChange]
    maybe: list[Named]


class Leaver(TypedDict):
    """A child that does not stand in its class's list."""

    id: UUID
    name: str
    class_name: str


class ColumnKind(TypedDict):
    """What a column can hold."""

    code: Column
    words: str


class ListPreview(TypedDict):
    """A list held against the school."""

    sheets: list[str]
    heads: list[str]
    columns: list[Column]
    # What a column can hold; the first thing that stands in each.
    kinds: list[ColumnKind]
    sample: list[str]
    ask_order: bool
    ask_class: bool
    # New classes whose year group has to be said.
    ask_years: list[str]
    left_out: list[int]
    new_classes: list[str]
    new_houses: list[str]
    counts: dict[str, int]
    agreement: str
    rows: list[ListRow]
    leavers: list[Leaver]


def preview_list(staff: Staff, wish: ListWish, today: date) -> ListPreview:
    """What would become of every row. Five queries. Raises Denied, NotFound or Refused."""
    return shown(hold(staff, wish, read_wish(staff, wish), today))


def shown(held: Held) -> ListPreview:
    """A list held against the school, as it is shown."""
    read = held.read
    names = {one.id: one.name for one in held.pupils.values()}
    return {
        "sheets": list(held.sheets),
        "heads": list(read.heads) or [""] * len(read.head.columns),
        "columns": list(read.head.columns),
        "kinds": [{"code": one, "words": words} for one, words in COLUMN_WORDS.items()],
        "sample": _sample(held),
        "ask_order": read.ask_order,
        "ask_class": held.ask_class,
        "ask_years": held.unsure_classes,
        "left_out": list(read.left_out),
        "new_classes": sorted(held.new_classes),
        "new_houses": held.new_houses,
        "counts": dict(Counter(one.status for one in held.effects)),
        "agreement": held.agreement,
        "rows": [_row(one, names) for one in held.effects],
        "leavers": [
            {"id": one.id, "name": one.name, "class_name": one.last_class.name}
            for one in held.leavers
        ],
    }


def _sample(held: Held) -> list[str]:
    """Of each column the first thing that stands in it."""
    first = 0 if held.read.head.row is None else held.read.head.row + 1
    body = held.cells[first:]
    return [
        next((row[place] for row in body if row[place]), "")
        for place in range(len(held.read.head.columns))
    ]


def _row(one: Effect, names: Mapping[UUID, str]) -> ListRow:
    person = one.match.person
    return {
        "row": person.row,
        "name": person.name,
        "born": person.born,
        "sex": person.sex or "",
        "class_name": one.class_name or person.school_class,
        "house": one.house or person.house,
        "note": person.note,
        "number": person.number,
        "status": one.status,
        "why": " ".join(filter(None, (one.why, *person.odd))),
        "changes": [{"field": f, "was": was, "now": now} for f, was, now in one.changes],
        "maybe": [{"id": other, "name": names[other]} for other in one.match.maybe],
    }
