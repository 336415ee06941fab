"""Games between schools: what leaves a school is sums of groups, and what they add up to.

No child is ever in a group of fewer than `FEWEST` that took part: smaller ones are merged, first
with other houses of the same ages, then with the ages beside them (common practice of statistical
disclosure control: a threshold rule, here of five).
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from enum import StrEnum
from fractions import Fraction
from statistics import quantiles
from typing import Final, Generic, TypeVar

from lauf.messages import say
from lauf.rules.reading.rounding import whole

#: A group that a sum is told of has so many who took part, or more.
FEWEST: Final = 5
#: More points than this for one thing make everything else nothing.
MOST_POINTS: Final = 100

#: An age band by its place, and a house by its name ("" for none).
Part = tuple[int, str]
Id = TypeVar("Id")


@dataclass(frozen=True, slots=True)
class AgeBand:
    """Children who were so many years old on the first day of the games, both ends included."""

    name: str
    from_age: int
    to_age: int

    def holds(self, age: int) -> bool:
        return self.from_age <= age <= self.to_age


@dataclass(frozen=True, slots=True)
class Entrant:
    """One child of a school in one test; `rung` counts from 0, and `value` is its best in canonical
    units: None without a measured one under the games' form."""

    part: Part
    took_part: bool = False
    rung: int | None = None
    value: int | None = None


@dataclass(frozen=True, slots=True)
class Cell:
    """Sums of one group: of which ages and houses, how many children, how many took part, how many
    have each rung as their highest, and the quartiles of their bests (None under `FEWEST`)."""

    parts: tuple[Part, ...]
    children: int
    took_part: int
    rungs: tuple[int, ...]
    quartiles: tuple[int, int, int] | None = None

    @property
    def bands(self) -> set[int]:
        return {band for band, _ in self.parts}

    @property
    def houses(self) -> set[str]:
        return {house for _, house in self.parts}


@dataclass(frozen=True, slots=True)
class PointsRule:
    """What a child's taking part in a test gives, and each rung up to the highest it reached."""

    took_part: int
    a_rung: int

    def of(self, cell: Cell) -> int:
        rungs = sum(count * place for place, count in enumerate(cell.rungs, 1))
        return self.took_part * cell.took_part + self.a_rung * rungs


def cells(entrants: Iterable[Entrant], rungs: int) -> tuple[Cell, ...]:
    """The children of a school in one test as sums, each of `FEWEST` or more who took part; none
    where there are not so many in all. Every child is in exactly one."""
    groups: dict[tuple[Part, ...], list[Entrant]] = defaultdict(list)
    for one in entrants:
        groups[(one.part,)].append(one)
    merged = dict(sorted(groups.items()))
    while len(merged) > 1 and any(_took_part(group) < FEWEST for group in merged.values()):
        _merge_smallest(merged)
    found = (_cell(parts, group, rungs) for parts, group in sorted(merged.items()))
    return tuple(cell for cell in found if cell.took_part >= FEWEST)


def _took_part(group: Sequence[Entrant]) -> int:
    return sum(one.took_part for one in group)


def _merge_smallest(groups: dict[tuple[Part, ...], list[Entrant]]) -> None:
    """Put the smallest group together with the smallest of its ages, or of those beside them."""
    small = min(groups, key=lambda parts: (_took_part(groups[parts]), parts))
    bands = {band for band, _ in small}

    def distance(parts: tuple[Part, ...]) -> tuple[int, int, tuple[Part, ...]]:
        apart = min(abs(band - own) for band, _ in parts for own in bands)
        return apart, _took_part(groups[parts]), parts

    other = min((parts for parts in groups if parts != small), key=distance)
    both = tuple(sorted((*small, *other)))
    groups[both] = groups.pop(small) + groups.pop(other)


def _cell(parts: tuple[Part, ...], group: Sequence[Entrant], rungs: int) -> Cell:
    counts = [0] * rungs
    for one in group:
        if one.took_part and one.rung is not None:
            counts[one.rung] += 1
    values = [one.value for one in group if one.took_part and one.value is not None]
    return Cell(parts, len(group), _took_part(group), tuple(counts), _quartiles(values))


def _quartiles(values: Sequence[int]) -> tuple[int, int, int] | None:
    """Quartiles as a class's summary has them: linear between two scores (type 7 of Hyndman & Fan
    1996, "Sample Quantiles in Statistical Packages", The American Statistician 50)."""
    if len(values) < FEWEST:
        return None
    low, middle, high = quantiles(values, n=4, method="inclusive")
    return whole(low), whole(middle), whole(high)


@dataclass(frozen=True, slots=True)
class SchoolSums:
    """What a school hands in: children of these ages, how many took part in any test (0 where they
    are fewer than `FEWEST`), and by test its cells."""

    name: str
    children: int
    took_part: int
    tests: Mapping[str, tuple[Cell, ...]]


@dataclass(frozen=True, slots=True)
class Placed:
    """A line of a table: points of a school or a house, and for each child of it. Equal ones share
    a place."""

    place: int
    name: str
    children: int
    took_part: int
    points: int
    a_child: Fraction


def points_of(school: SchoolSums, rule: PointsRule) -> int:
    """All points of a school."""
    return sum(rule.of(cell) for test in school.tests.values() for cell in test)


def table(schools: Iterable[SchoolSums], rule: PointsRule) -> list[Placed]:
    """The schools by points a child on roll, so that a small one can win; then by the share that
    took part, then by name."""
    return _placed((one.name, one.children, one.took_part, points_of(one, rule)) for one in schools)


def band_table(
    schools: Sequence[SchoolSums], rule: PointsRule, band: int
) -> list[tuple[str, int, int]]:
    """Of each school the points and the children (times tests) of one age band, where it can be
    told apart: a cell that was merged with other ages is of none."""
    found = []
    for school in schools:
        own = [cell for test in school.tests.values() for cell in test if cell.bands == {band}]
        found.append((school.name, sum(map(rule.of, own)), sum(cell.children for cell in own)))
    return found


def house_table(school: SchoolSums, rule: PointsRule) -> list[Placed]:
    """The houses of one school by points a child and test; what was merged across houses is
    "together"."""
    sums: dict[str, tuple[int, int, int]] = defaultdict(lambda: (0, 0, 0))
    for test in school.tests.values():
        for cell in test:
            name = next(iter(cell.houses)) if len(cell.houses) == 1 else say("houses together")
            children, took_part, points = sums[name or say("no house")]
            sums[name or say("no house")] = (
                children + cell.children, took_part + cell.took_part, points + rule.of(cell)
            )  # fmt: skip
    return _placed((name, *counts) for name, counts in sums.items())


def _placed(lines: Iterable[tuple[str, int, int, int]]) -> list[Placed]:
    made = [
        (Fraction(points, children or 1), Fraction(took_part, children or 1), name, children,
         took_part, points)
        for name, children, took_part, points in lines
    ]  # fmt: skip
    made.sort(key=lambda one: (-one[0], -one[1], one[2]))
    found: list[Placed] = []
    for number, (a_child, share, name, children, took_part, points) in enumerate(made, 1):
        before = made[number - 2][:2] if number > 1 else None
        place = found[-1].place if before == (a_child, share) else number
        found.append(Placed(place, name, children, took_part, points, a_child))
    return found


class FileState(StrEnum):
    """What becomes of a result file."""

    COUNTS = "counts"
    UNKNOWN = "unknown"
    LATE = "late"
    OLDER = "older"
    UNREADABLE = "unreadable"


@dataclass(frozen=True, slots=True)
class ResultFile(Generic[Id]):
    """A result file as it came: whose it says it is by its key, which of theirs by its number and
    when it was made, the day it came, and whether it was let in although late."""

    id: Id
    key: str
    number: int
    made_at: datetime
    came_on: date
    let_in: bool = False


def states(
    files: Iterable[ResultFile[Id]], closes: date, known: Collection[str]
) -> dict[Id, FileState]:
    """What counts of the files that came, whatever order they came in: of each school its newest
    one in time (or let in), once the school is known to be the one it says."""
    found: dict[Id, FileState] = {}
    by_key: dict[str, list[ResultFile[Id]]] = defaultdict(list)
    for one in files:
        if one.came_on > closes and not one.let_in:
            found[one.id] = FileState.LATE
        else:
            by_key[one.key].append(one)
    for key, mine in by_key.items():
        newest = max(mine, key=lambda one: (one.number, one.made_at))
        for one in mine:
            found[one.id] = FileState.OLDER
        found[newest.id] = FileState.COUNTS if key in known else FileState.UNKNOWN
    return found
