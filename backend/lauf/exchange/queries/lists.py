"""A list of people held against the school: what would become of every row. Nothing is kept."""

from __future__ import annotations

import hashlib
import json
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Final, Literal, TypeAlias
from uuid import UUID

from lauf.errors import NotFound, Refused
from lauf.exchange.lists.columns import Column
from lauf.exchange.lists.dates import Order
from lauf.exchange.lists.in_process import read_for_list
from lauf.exchange.lists.matching import Decision, Fate, Known, Match, match
from lauf.exchange.lists.places import Year, named, names_a_class, year_named
from lauf.exchange.lists.reading import Person, ReadList, read_list
from lauf.exchange.lists.tables import ListFile, Table
from lauf.messages import say
from lauf.people.actions import LARGEST_CLASS
from lauf.people.models import Pupil, Staff
from lauf.people.permissions import May, demand
from lauf.rules.body.ages import age_on_cut_off, is_odd_age
from lauf.sandbox.run import read_apart


@dataclass(frozen=True, slots=True)
class ListWish:
    """A list as it was given, and what was said about it.

    columns    what each column holds, where it was put right
    class_id   the class of rows that name none
    new_class  the name of a new class for them, instead
    years      the year group of a class that is new, by the class's name
    decisions  by row: a child it is, "new" or "out"
    """

    text: str = ""
    data: bytes = b""
    file_name: str = ""
    sheet: int = 0
    columns: Sequence[Column] | None = None
    order: Order | None = None
    class_id: UUID | None = None
    new_class: str = ""
    years: Mapping[str, UUID] = field(default_factory=dict)
    decisions: Mapping[int, Decision] = field(default_factory=dict)


#: What becomes of a row, as it is said.
Status: TypeAlias = Literal["new", "changed", "moved", "same", "ask", "cannot", "out"]
_FATES: Final[dict[Fate, Status]] = {
    Fate.CANNOT: "cannot", Fate.OUT: "out", Fate.ASK: "ask",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Effect:
    """What a row does: to whom, into which class (one of the school's or a new one's name), and
    every field that changes, as it was and as it will be."""

    match: Match
    class_id: UUID | None = None
    new_class: str = ""
    house: str = ""
    changes: tuple[tuple[str, str, str], ...] = ()
    status: Status = "same"
    why: str = ""
    #: The class it goes to, by name.
    class_name: str = ""


@dataclass(slots=True)
class Held:
    """A list held against the school: the one computation of preview and keeping."""

    sheets: Sequence[str]
    cells: Table
    read: ReadList
    effects: list[Effect]
    new_classes: dict[str, UUID]
    unsure_classes: list[str]
    #: Some rows go to a class that nobody has said.
    ask_class: bool
    new_houses: list[str]
    leavers: list[Pupil]
    pupils: dict[UUID, Pupil]

    @property
    def agreement(self) -> str:
        """The same for the same effects only: what is kept is what was shown."""
        said = [
            [one.match.person.row, one.status, str(one.match.known), one.match.person.name,
             str(one.class_id), one.new_class, one.house, list(one.changes)]
            for one in self.effects
        ]  # fmt: skip
        made = sorted((name, str(year)) for name, year in self.new_classes.items())
        return hashlib.sha256(json.dumps([said, made]).encode()).hexdigest()


def read_wish(staff: Staff, wish: ListWish) -> ListFile:
    """The cells that a list was given as, read in a process of its own. Raises Denied, or Refused
    for a file that cannot be read or takes more than a bound."""
    demand(staff, May.MANAGE_SCHOOL)
    pasted = bool(wish.text.strip())
    data = wish.text.encode() if pasted else wish.data
    found = read_apart(read_for_list, data, name=wish.file_name, sheet=wish.sheet, pasted=pasted)
    file = ListFile(found["sheets"], found["cells"])
    if not file.cells:
        raise Refused(say("The list is empty. Paste cells, or choose a CSV or XLSX file."))
    return file


def hold(staff: Staff, wish: ListWish, file: ListFile, today: date) -> Held:
    """Hold a list that was read against the school. Five queries. Raises Denied, NotFound or
    Refused."""
    demand(staff, May.MANAGE_SCHOOL)
    read = read_list(file.cells, today, columns=wish.columns, order=wish.order)
    school = staff.school
    related = ("school_class", "left_from", "house")
    pupils = {one.id: one for one in school.pupils.select_related(*related)}
    known = [
        Known(one.id, one.given_name, one.family_name, one.born, one.number)
        for one in pupils.values()
    ]
    matches = match(read.people, known, wish.decisions)
    places = _Places(staff, wish, file.sheet_name(wish.sheet))
    effects = [places.effect(one, pupils, read, today) for one in matches]
    places.check_sizes(effects, pupils)
    return Held(
        file.sheets, file.cells, read, effects, places.new, places.unsure,
        places.ask_class, list(places.new_houses), _leavers(effects, pupils), pupils,
    )  # fmt: skip


class _Places:
    """Classes, year groups and houses of the school, and those that a list would make."""

    def __init__(self, staff: Staff, wish: ListWish, sheet_name: str) -> None:
        school = staff.school
        self._sheet_name = sheet_name[:40]
        self._wish = wish
        self._cut_off = school.cut_off
        self._ages = {one.id: one.age for one in school.year_groups.all()}
        self._years = [Year(one.id, one.name) for one in school.year_groups.all()]
        classes = list(school.classes.select_related("year_group"))
        self._classes = {one.name: one for one in classes}
        self._by_id = {one.id: one for one in classes}
        self._houses = {one.name: one.name for one in school.houses.all()}
        self.new: dict[str, UUID] = {}
        self.unsure: list[str] = []
        self.ask_class = False
        self.new_houses: dict[str, None] = {}
        if wish.class_id is not None and wish.class_id not in self._by_id:
            raise NotFound(say("class"))

    def effect(
        self, one: Match, pupils: Mapping[UUID, Pupil], read: ReadList, today: date
    ) -> Effect:
        """What a row does."""
        if one.fate in _FATES:
            return Effect(one, status=_FATES[one.fate], why=one.why)
        pupil = pupils[one.known] if one.known else None
        class_id, new_class, why = self._class(one.person, pupil)
        if why:
            return Effect(one, status="cannot", why=why)
        house = named(one.person.house, self._houses) or one.person.house
        if house and house not in self._houses.values():
            self.new_houses[house] = None
        if odd := self._odd_age(one.person, class_id, new_class, today):
            why = odd
        name = self._by_id[class_id].name if class_id else new_class
        if pupil is None:
            return Effect(one, class_id, new_class, house, status="new", why=why, class_name=name)
        changes = _changes(pupil, one.person, house, name, read)
        fields = {change[0] for change in changes}
        status: Status = "same"
        if fields:
            status = "moved" if fields & {"class", "returns"} else "changed"
        return Effect(one, class_id, new_class, house, tuple(changes), status, why, name)

    def _class(self, person: Person, pupil: Pupil | None) -> tuple[UUID | None, str, str]:
        """The class a row means: one there is, the name of a new one, or why there is none."""
        if person.school_class:
            return self._class_called(person.school_class, person)
        if self._wish.class_id is not None:
            return self._wish.class_id, "", ""
        if wanted := self._wish.new_class.strip():
            return self._class_called(wanted[:40], person)
        # A sheet for each class has its name.
        if named(self._sheet_name, self._classes) or names_a_class(self._sheet_name):
            return self._class_called(self._sheet_name, person)
        if pupil is not None:
            return pupil.last_class.id, "", ""
        self.ask_class = True
        return None, "", say("Choose the class of this list.")

    def _class_called(self, label: str, person: Person) -> tuple[UUID | None, str, str]:
        found = named(label, self._classes)
        if found is not None:
            return found.id, "", ""
        label = next((name for name in self.new if named(label, {name: name})), label)
        if label not in self.new:
            said = self._wish.years.get(label)
            year = next((one for one in self._years if one.id == said), None)
            year = year or year_named(person.year, self._years)
            year = year or year_named(label, self._years)
            if year is None:
                if label not in self.unsure:
                    self.unsure.append(label)
                return None, "", say("{label} is a new class. Choose its year group.", label=label)
            self.new[label] = year.id
        return None, label, ""

    def _odd_age(self, person: Person, class_id: UUID | None, new_class: str, today: date) -> str:
        if person.born is None:
            return ""
        year = self.new[new_class] if new_class else None
        if class_id is not None:
            year = self._by_id[class_id].year_group_id
        if year is None:
            return ""
        age = age_on_cut_off(person.born, today, self._cut_off)
        if not is_odd_age(age, self._ages[year]):
            return ""
        return say(
            "Born {born}, so {age} when the school year began. Check the year of birth.",
            born=person.born,
            age=age,
        )

    def check_sizes(self, effects: Sequence[Effect], pupils: Mapping[UUID, Pupil]) -> None:
        """Raises Refused for a list that makes a class larger than any is."""
        sizes: Counter[str] = Counter()
        for pupil in pupils.values():
            if pupil.school_class is not None:
                sizes[pupil.school_class.name] += 1
        for one in effects:
            fields = {change[0] for change in one.changes}
            if one.status == "new" or fields & {"class", "returns"}:
                name = one.new_class or (self._by_id[one.class_id].name if one.class_id else "")
                sizes[name] += 1
        for name, size in sizes.items():
            if size > LARGEST_CLASS and any(one.status == "new" for one in effects):
                raise Refused(
                    say(
                        "That makes {size} children in {name}, but a class has at most "
                        "{largest_class}. Is the class in another column?",
                        size=size,
                        name=name,
                        largest_class=LARGEST_CLASS,
                    )
                )


def _changes(
    pupil: Pupil, person: Person, house: str, school_class: str, read: ReadList
) -> list[tuple[str, str, str]]:
    """What a list changes about a child that is known: a cell that is empty changes nothing."""
    named_anew = {Column.GIVEN, Column.FULL} & read.has
    before_class = pupil.last_class.name
    asked = [
        (say("given name"), pupil.given_name, person.given if named_anew else ""),
        (say("family name"), pupil.family_name, person.family),
        (say("birth date"), str(pupil.born or ""), str(person.born or "")),
        ("sex", pupil.sex, person.sex or ""),
        ("house", pupil.house.name if pupil.house else "", house),
        (say("medical note"), pupil.medical_note, person.note),
        ("number", pupil.number, person.number),
        ("returns" if pupil.school_class is None else "class", before_class, school_class),
    ]
    return [
        (field, was, now) for field, was, now in asked if now and (now != was or field == "returns")
    ]


def _leavers(effects: Sequence[Effect], pupils: Mapping[UUID, Pupil]) -> list[Pupil]:
    """The children of a list's classes who do not stand in it: perhaps they have left."""
    standing = {one.match.known for one in effects} | {
        maybe for one in effects for maybe in one.match.maybe
    }
    of_list = {one.class_id for one in effects if one.class_id}
    known = [pupils[one.match.known] for one in effects if one.match.known]
    of_list |= {pupil.school_class_id for pupil in known if pupil.school_class_id}
    return sorted(
        (
            pupil
            for pupil in pupils.values()
            if pupil.school_class_id in of_list and pupil.id not in standing
        ),
        key=lambda pupil: pupil.name,
    )
