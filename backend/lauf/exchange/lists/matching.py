"""Who of a list is known already: by the school's number, by name and birth date; near-doubles are
asked about, never decided."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from typing import Final
from uuid import UUID

from rapidfuzz import fuzz

from lauf.exchange.lists.columns import plain
from lauf.exchange.lists.reading import Person
from lauf.messages import and_list, say

#: From here on two names may be one, misspelt; out of a hundred.
_ALIKE: Final = 88


class Fate(StrEnum):
    """What becomes of a row."""

    NEW = "new"
    KNOWN = "known"
    ASK = "ask"
    OUT = "out"
    CANNOT = "cannot"


@dataclass(frozen=True, slots=True)
class Known:
    """A child that the school has already."""

    id: UUID
    given: str
    family: str
    born: date | None
    number: str

    @property
    def name(self) -> str:
        return f"{self.given} {self.family}".strip()


@dataclass(frozen=True, slots=True)
class Match:
    """A row with what becomes of it: the child it is, or those it may be, and why."""

    person: Person
    fate: Fate
    known: UUID | None = None
    maybe: tuple[UUID, ...] = ()
    why: str = ""


#: What somebody has decided about a row: another child, nobody, or which one it is.
Decision = UUID | str


def match(
    people: Sequence[Person], known: Sequence[Known], decisions: Mapping[int, Decision]
) -> list[Match]:
    """Each row of a list with its child. A child is found by one row only; a row that stands twice
    is kept once."""
    index = _Index(known)
    found: list[Match] = []
    taken: dict[UUID, int] = {}
    seen: dict[tuple[str, str, date | None], int] = {}
    numbers: dict[str, int] = {}
    whole = any(one.family for one in people)
    for person in people:
        one = _decided(person, decisions.get(person.row), index) or index.match(person)
        if one.fate is Fate.NEW and whole and not person.family and person.row not in decisions:
            one = index.one_name(person)
        key = (plain(person.given), plain(person.family), person.born)
        before = seen.get(key) or (numbers.get(person.number) if person.number else None)
        if one.known in taken:
            before = before or taken[one.known]
        if before and one.fate is not Fate.CANNOT and person.row not in decisions:
            why = say("Row {before} already has this child.", before=before)
            one = Match(person, Fate.CANNOT, why=why)
        if one.fate in (Fate.NEW, Fate.KNOWN, Fate.ASK):
            seen.setdefault(key, person.row)
            if person.number:
                numbers.setdefault(person.number, person.row)
        if one.known is not None:
            taken.setdefault(one.known, person.row)
        found.append(one)
    return found


def _decided(person: Person, decision: Decision | None, index: _Index) -> Match | None:
    if person.wrong or decision is None:
        return None
    if decision == Fate.OUT:
        return Match(person, Fate.OUT, why=say("Left out, as you chose."))
    if decision == Fate.NEW:
        return Match(person, Fate.NEW)
    if isinstance(decision, UUID) and decision in index.by_id:
        return Match(person, Fate.KNOWN, decision)
    return None


class _Index:
    def __init__(self, known: Sequence[Known]) -> None:
        self.by_id = {one.id: one for one in known}
        self._by_number = {one.number: one for one in known if one.number}
        self._by_name: dict[tuple[str, str], list[Known]] = defaultdict(list)
        self._by_letter: dict[str, list[Known]] = defaultdict(list)
        self._by_born: dict[date, list[Known]] = defaultdict(list)
        for one in known:
            self._by_name[plain(one.given), plain(one.family)].append(one)
            self._by_letter[plain(one.family or one.given)[:1]].append(one)
            if one.born:
                self._by_born[one.born].append(one)

    def match(self, person: Person) -> Match:
        if person.wrong:
            return Match(person, Fate.CANNOT, why=person.wrong)
        if person.number and (one := self._by_number.get(person.number)):
            if _alike(person, one) or plain(person.given) == plain(one.given):
                return Match(person, Fate.KNOWN, one.id)
            why = say("The number {number} belongs to {name}.", number=person.number, name=one.name)
            return Match(person, Fate.ASK, maybe=(one.id,), why=why)
        same = self._by_name[plain(person.given), plain(person.family)]
        # Another number makes another child of the same name.
        same = [one for one in same if not (person.number and one.number)]
        fitting = [one for one in same if _born_fits(person, one)]
        exact = [one for one in fitting if one.born and one.born == person.born]
        if len(exact or fitting) == 1:
            return Match(person, Fate.KNOWN, (exact or fitting)[0].id)
        maybe = same or self._near(person)
        if not maybe:
            return Match(person, Fate.NEW)
        return Match(person, Fate.ASK, maybe=tuple(one.id for one in maybe), why=_why(maybe))

    def one_name(self, person: Person) -> Match:
        """A row with one name in a list of whole ones: a child, one of the school's, or nobody."""
        given = plain(person.given)
        maybe = [one for one in self.by_id.values() if plain(one.given) == given]
        maybe = [one for one in maybe if _born_fits(person, one)]
        why = say("There is only one name. Is it a child or a heading?")
        return Match(person, Fate.ASK, maybe=tuple(one.id for one in maybe), why=why)

    def _near(self, person: Person) -> list[Known]:
        """Those whose name is nearly this one, and whose birth date speaks not against it; or who
        have the first name and the birth date: a family's name changes."""
        letter = plain(person.family or person.given)[:1]
        others = self._by_letter[letter] + (self._by_born[person.born] if person.born else [])
        return [
            one
            for one in {one.id: one for one in others}.values()
            if not (person.number and one.number)
            and _born_fits(person, one)
            and (_alike(person, one) or _renamed(person, one))
        ]


def _born_fits(person: Person, one: Known) -> bool:
    return one.born is None or person.born in (None, one.born)


def _renamed(person: Person, one: Known) -> bool:
    same = plain(person.given) == plain(one.given)
    return same and person.born is not None and person.born == one.born


def _alike(person: Person, one: Known) -> bool:
    return fuzz.ratio(plain(person.name), plain(one.name)) >= _ALIKE


def _why(others: Sequence[Known]) -> str:
    differences = [
        say("{name}, born {born}", name=one.name, born=f"{one.born:%d %B %Y}")
        if one.born
        else one.name
        for one in others[:3]
    ]
    return say("There is {differences}. Is it the same child?", differences=and_list(differences))
