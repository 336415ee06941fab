"""A list of people: every row of a table as a person, or with the reason why it is none. No row is
lost: whatever stands below the head is in the answer."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Final

from lauf.exchange.lists.columns import Column, Head, head_of, plain, sex_of
from lauf.exchange.lists.dates import Order, order_of, read_date
from lauf.exchange.lists.tables import Table
from lauf.messages import say
from lauf.rules.reading.words import CONTROLS

LONGEST_NAME: Final = 60
LONGEST_NOTE: Final = 240
LONGEST_NUMBER: Final = 40
#: Ages a primary school's child can have, with room on both sides.
_YOUNGEST, _OLDEST = 2, 19
_FOOT: Final = re.compile(r"(total|sum|count|printed|page|gesamt|summe|anzahl|seite)\b.*", re.I)
#: What stands alone in a row as the heading of what follows.
_HEADING: Final = re.compile(
    r".*\b(lists?|register|class(es)?|form|term|autumn|spring|summer|winter|year \w+)\b.*", re.I
)
#: What a spreadsheet takes for a formula.
_FORMULA: Final = re.compile(r"[=+@].*")


@dataclass(frozen=True, slots=True)
class Person:
    """One row as read. `wrong` says why it cannot be kept; `odd` what should be looked at."""

    row: int
    given: str = ""
    family: str = ""
    born: date | None = None
    sex: str | None = None
    year: str = ""
    school_class: str = ""
    house: str = ""
    note: str = ""
    number: str = ""
    wrong: str = ""
    odd: tuple[str, ...] = ()

    @property
    def name(self) -> str:
        return f"{self.given} {self.family}".strip()


@dataclass(frozen=True, slots=True)
class ReadList:
    """A list as read: its head, its people in the order of the file, and whether the order of its
    dates has to be asked for."""

    head: Head
    heads: tuple[str, ...]
    people: tuple[Person, ...]
    ask_order: bool = False
    #: Rows below the head that are no people: empty ones, headings, sums, page ends.
    left_out: tuple[int, ...] = ()
    has: frozenset[Column] = field(default=frozenset())


def read_list(
    cells: Table,
    today: date,
    *,
    columns: Sequence[Column] | None = None,
    order: Order | None = None,
) -> ReadList:
    """Every person of a table, its rows counted from 1 as a spreadsheet does.

    columns  what each column holds, where somebody has said so
    order    which number of a date comes first, likewise
    """
    found = head_of(cells)
    if columns is not None:
        width = len(found.columns)
        given = [*columns, *[Column.IGNORE] * width]
        found = Head(found.row, tuple(given[:width]))
    first = 0 if found.row is None else found.row + 1
    places = {column: found.columns.index(column) for column in found.columns}
    body = list(enumerate(cells[first:], first + 1))
    shown, open_ = order_of(row[places[Column.BORN]] for _, row in body if Column.BORN in places)
    ask = order is None and (len(shown) > 1 or (not shown and open_))
    order = order or (next(iter(shown)) if len(shown) == 1 else Order.DAY)
    people, left_out = [], []
    for number, row in body:
        if _is_nobody(row):
            left_out.append(number)
        else:
            people.append(_person(number, row, found, places, order, today))
    heads = tuple(cells[found.row]) if found.row is not None else ()
    has = frozenset(places) - {Column.IGNORE}
    return ReadList(found, heads, tuple(people), ask, tuple(left_out), has)


def _is_nobody(row: list[str]) -> bool:
    """Whether a row is an empty one, a heading, a sum or a page end."""
    filled = [cell for cell in row if cell]
    if not filled or len(row) <= 2:
        return not filled
    if len(filled) == 1 and _HEADING.fullmatch(filled[0]):
        return True
    return len(filled) <= 2 and _FOOT.fullmatch(filled[0]) is not None


def _person(
    number: int, row: list[str], head: Head, places: dict[Column, int], order: Order, today: date
) -> Person:
    def cell(column: Column) -> str:
        return row[places[column]] if column in places else ""

    given, family = cell(Column.GIVEN), cell(Column.FAMILY)
    if Column.FULL in places:
        given, family = split_name(cell(Column.FULL))
    odd: list[str] = []
    wrong = _wrong_name(given, family, row)
    if not given and family:
        given, family = family, ""
    born = None
    if text := cell(Column.BORN):
        try:
            born = read_date(text, order, today)
        except ValueError as problem:
            wrong = wrong or str(problem)
        else:
            wrong = wrong or _impossible(born, today)
    sex: str | None = None
    if Column.SEX in places:
        sex = sex_of(cell(Column.SEX))
        if sex is None:
            odd.append(
                say("“{cell}” is not a known sex, so it was left empty.", cell=cell(Column.SEX))
            )
            sex = ""
    notes = [row[place] for place, one in enumerate(head.columns) if one is Column.NOTE]
    note = "; ".join(dict.fromkeys(one for one in notes if one and not _says_none(one)))
    if len(note) > LONGEST_NOTE:
        odd.append(
            say("The medical note was cut after {longest_note} letters.", longest_note=LONGEST_NOTE)
        )
    return Person(
        row=number,
        given=given[:LONGEST_NAME],
        family=family[:LONGEST_NAME],
        born=born,
        sex=sex,
        year=cell(Column.YEAR)[:40],
        school_class=cell(Column.CLASS)[:40],
        house=cell(Column.HOUSE)[:40],
        note=note[:LONGEST_NOTE],
        number=cell(Column.NUMBER)[:LONGEST_NUMBER],
        wrong=wrong,
        odd=tuple(odd),
    )


def _wrong_name(given: str, family: str, row: list[str]) -> str:
    if any(CONTROLS.search(cell) for cell in row):
        return say("This row has a character that cannot be shown. Type its cells again.")
    for name in (given, family):
        if _FORMULA.fullmatch(name):
            return say("“{name}” begins like a spreadsheet formula. Type the name.", name=name)
    if max(len(given), len(family)) > LONGEST_NAME:
        return say("A name can have up to {longest_name} letters.", longest_name=LONGEST_NAME)
    return "" if given or family else say("The name is missing.")


def _says_none(note: str) -> bool:
    return plain(note) in {"none", "no", "n a", "nil", "nothing", "keine", "nein", "aucune", "non"}


def _impossible(born: date, today: date) -> str:
    if born > today:
        return say("The birth date {born} is in the future.", born=f"{born:%d %B %Y}")
    age = today.year - born.year - ((today.month, today.day) < (born.month, born.day))
    if not _YOUNGEST <= age <= _OLDEST:
        return say(
            "Born on {born}, which makes {age} years. Check the year of birth.",
            born=f"{born:%d %B %Y}",
            age=age,
        )
    return ""


def split_name(text: str) -> tuple[str, str]:
    """Given and family name of one written whole: "Given Family", "Family, Given", "FAMILY Given".
    Small words (de, van, von) go with the family."""
    if "," in text:
        family, _, given = (part.strip() for part in text.partition(","))
        return (given, family) if given else (family, "")
    words = text.split()
    loud = [word for word in words if len(word) > 1 and word.isupper()]
    if loud and len(loud) < len(words) and words[: len(loud)] == loud:
        return " ".join(words[len(loud) :]), " ".join(word.title() for word in loud)
    if loud and len(loud) < len(words) and words[-len(loud) :] == loud:
        return " ".join(words[: -len(loud)]), " ".join(word.title() for word in loud)
    return (words[0], " ".join(words[1:])) if words else ("", "")
