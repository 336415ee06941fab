"""The classes, year groups and houses that a list names, found among the school's own."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Final, TypeVar
from uuid import UUID

from lauf.exchange.lists.columns import plain

_FIRST_YEAR: Final = {"reception", "rec", "r", "kindergarten", "k", "eyfs"}
_Key = TypeVar("_Key")


@dataclass(frozen=True, slots=True)
class Year:
    """A year group of the school."""

    id: UUID
    name: str


def year_named(text: str, years: Iterable[Year]) -> Year | None:
    """The year group that is meant: by its name, or by its number ("Y4", "4", "Grade 4")."""
    found = plain(text)
    if not found:
        return None
    by_name = {plain(one.name): one for one in years}
    if found in by_name:
        return by_name[found]
    if found in _FIRST_YEAR:
        return next((one for name, one in by_name.items() if name in _FIRST_YEAR), None)
    number = re.search(r"\d+", found)
    if number is None:
        return None
    return next(
        (one for name, one in by_name.items()
         if (has := re.search(r"\d+", name)) and int(has[0]) == int(number[0])), None
    )  # fmt: skip


_CLASS: Final = re.compile(
    r"(?:(?:year|yr|y|grade|class|klasse|form) ?)?\d{1,2}(?!\d).*|(?:reception|rec)\b.*"
)


def names_a_class(text: str) -> bool:
    """Whether the name of a sheet or a file is one of a class: "4 Heron", "Year 4", "6b"; "Sheet1"
    is none."""
    return _CLASS.fullmatch(plain(text)) is not None


def named(text: str, known: Mapping[str, _Key]) -> _Key | None:
    """What is called so, whatever its capitals, accents and signs."""
    return {plain(name): one for name, one in known.items()}.get(plain(text))
