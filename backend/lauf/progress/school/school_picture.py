"""The whole school without names: taking part, how tests fit, and change beyond noise."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from fractions import Fraction
from typing import Final
from uuid import UUID

from typing_extensions import TypedDict

from lauf.lessons.queries import calendar_of
from lauf.messages import say
from lauf.people.models import Pupil, Staff, YearGroup
from lauf.people.permissions import May, demand
from lauf.progress.board import term_of
from lauf.progress.histories import Histories, histories_of
from lauf.rules.judging.change import Change
from lauf.rules.judging.summaries import FEWEST_TOLD, MISFIT_SHARE, summarise_class
from lauf.rules.planning.school_days import Span
from lauf.rules.reading.rounding import whole

#: How many terms are put beside each other.
_TERMS: Final = 3


class PictureYear(TypedDict):
    """A year group in a term; nothing of it is told where it, or a part of it, is too small."""

    name: str
    told: bool
    children: int
    took_part: int
    compared: int
    better: int
    steady: int
    lower: int
    chance: int


class PictureTerm(TypedDict):
    """A term by its year groups."""

    name: str
    starts: date
    ends: date
    year_groups: list[PictureYear]


class PictureTest(TypedDict):
    """A test in the school of now."""

    test_id: UUID
    test: str
    n: int
    at_top: int
    at_floor: int
    fits: bool
    words: str
    better: int
    steady: int
    lower: int


class SchoolPicture(TypedDict):
    """The school without names; groups of fewer than `fewest` are not told."""

    fewest: int
    terms: list[PictureTerm]
    tests: list[PictureTest]


def school_picture(staff: Staff, today: date) -> SchoolPicture:
    """By year group and term: how many children have a score, and how many changed beyond
    day-to-day variation; by test: how it fits. Groups of fewer than five are left out, and so is
    every name and every body measurement. Eleven queries. Raises Denied."""
    demand(staff, May.SEE_SCHOOL)
    pupils = list(
        Pupil.objects.filter(school_id=staff.school_id, school_class__isnull=False)
        .select_related("school_class__year_group")
        .order_by("school_class__year_group__position")
    )
    histories = histories_of(staff, pupils, today)
    calendar = calendar_of(staff.school)
    past = [span for span in calendar.terms if span.ends < today and not span.holds(today)]
    spans = [*past[-(_TERMS - 1) :], term_of(today, calendar.terms)]
    names = {one.starts: one.name for one in staff.school.terms.filter(kind="term")}
    years: dict[UUID, YearGroup] = {}
    by_year: dict[UUID, list[Pupil]] = {}
    for one in pupils:
        year = one.last_class.year_group
        years[year.id] = year
        by_year.setdefault(year.id, []).append(one)
    terms: list[PictureTerm] = [
        {
            "name": names.get(span.starts, say("these weeks")),
            "starts": span.starts,
            "ends": span.ends,
            "year_groups": [
                _year(years[year].name, children, histories, span)
                for year, children in by_year.items()
            ],
        }
        for span in spans
    ]
    return {"terms": terms, "tests": _tests(histories, pupils, spans[-1]), "fewest": FEWEST_TOLD}


@dataclass(slots=True)
class _Sum:
    """What the latest scores of some children in some days add up to."""

    values: list[int] = field(default_factory=list)
    changes: list[Change] = field(default_factory=list)
    children: set[UUID] = field(default_factory=set)

    def add(self, pupil: Pupil, histories: Histories, test_id: UUID, span: Span) -> None:
        """The child's latest score in these days beside the one before."""
        mine = histories.of(pupil, test_id)
        places = [
            place for place, row in enumerate(mine) if span.holds(row.on) and row.value is not None
        ]
        if places:
            statement = histories.statement(pupil, mine, places[-1])
            self.values.append(statement.row.value or 0)
            self.changes.append(statement.change)
            self.children.add(pupil.id)


def _year(name: str, children: Sequence[Pupil], histories: Histories, span: Span) -> PictureYear:
    """A year group in a term; `told` is false where it is too small to be told."""
    told = len(children) >= FEWEST_TOLD
    row: PictureYear = {
        "name": name, "told": told, "children": 0, "took_part": 0, "compared": 0, "better": 0,
        "steady": 0, "lower": 0, "chance": 0,
    }  # fmt: skip
    if not told:
        return row
    measured = set()
    summed: PictureYear = {**row, "children": len(children)}
    for test_id, protocol in histories.protocols.items():
        one = _Sum()
        for child in children:
            one.add(child, histories, test_id, span)
        found = summarise_class(one.values, one.changes, protocol.measure)
        measured |= one.children
        summed["compared"] += found.compared
        summed["better"] += found.better
        summed["steady"] += found.steady
        summed["lower"] += found.lower
    # Some of them without a score are as easy to know as too small a group.
    few = 0 < len(measured) < FEWEST_TOLD
    few = few or 0 < summed["compared"] < FEWEST_TOLD
    if few:
        return {**row, "told": False}
    return {**summed, "took_part": len(measured), "chance": whole(Fraction(summed["compared"], 10))}


def _tests(histories: Histories, pupils: Sequence[Pupil], span: Span) -> list[PictureTest]:
    """How each test of these days fits the school's children."""
    rows: list[PictureTest] = []
    for test_id, protocol in histories.protocols.items():
        one = _Sum()
        for child in pupils:
            one.add(child, histories, test_id, span)
        found = summarise_class(one.values, one.changes, protocol.measure)
        if found.n < FEWEST_TOLD:
            continue
        ends = (found.at_top or 0.0, found.at_floor or 0.0)
        rows.append(
            {
                "test_id": test_id,
                "test": protocol.test.name,
                "n": found.n,
                "at_top": whole(100 * ends[0]),
                "at_floor": whole(100 * ends[1]),
                "fits": max(ends) < MISFIT_SHARE,
                "words": found.misfit or "fits",
                "better": found.better,
                "steady": found.steady,
                "lower": found.lower,
            }
        )
    return rows
