"""Addresses about rivals, the challenges of a day as a set, and weeks as a series."""

from __future__ import annotations

from datetime import date
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router

from lauf.api.asker import asker
from lauf.api.challenges.challenges import ClassRef, Rival, WeekPage
from lauf.api.shape import Schema
from lauf.api.shared import Day, Made, Named
from lauf.challenges import actions, queries
from lauf.rules.contests.rivals import HIGHEST_RUNG, RivalKind
from lauf.rules.contests.sets import MOST_IN_A_SET

router = Router(tags=["challenges"])


class ReadySet(Schema):
    """Tests that go well in a row: of Lauf's own, or a battery of the school."""

    name: str
    tests: list[Named]


class MarkRow(Schema):
    """A person's mark in one challenge, "" while it is still to be made; variant and course are the
    test's usual ones where none is said."""

    challenge_id: UUID
    typed: str = Field("", max_length=180)
    variant: str = Field("", max_length=20)
    course: str = Field("", max_length=40)


class RivalRow(Schema):
    """One rival for those challenges that `marks` names; without a kind there is none."""

    kind: RivalKind | None = None
    name: str = Field("", max_length=120)
    class_id: UUID | None = None
    house_id: UUID | None = None
    best: bool = False
    rung: int | None = Field(None, ge=1, le=HIGHEST_RUNG)
    marks: list[MarkRow] = Field(max_length=4 * MOST_IN_A_SET)


class Form(Schema):
    code: str
    name: str


class PerformingRival(Schema):
    """A person who performs in a challenge, the mark so far, and the forms it can be made in."""

    week_id: UUID
    challenge_id: UUID
    rival: Rival
    variants: list[Form]


class LiveMark(Schema):
    """A mark as typed, "" to take it back; `sure` keeps one that is longer than the clock ran."""

    typed: str = Field("", max_length=180)
    variant: str = Field("", max_length=20)
    sure: bool = False


class SetChoice(Schema):
    class_id: UUID
    on: Day


class SetChallenge(Schema):
    id: UUID
    test_id: UUID
    test: str
    seconds: int | None
    rival: Rival | None
    took_part: int
    beat_rival: int


class SetCell(Schema):
    """One challenge of a child's set; `last` is the entry whose working can be asked for."""

    last: UUID | None
    best: str
    goes: int
    rival: str
    # Signed: "+3", "=", "−2".
    ahead: str
    beaten: bool
    rung: str
    new_best: bool


class SetChild(Schema):
    pupil_id: UUID
    name: str
    class_id: UUID
    cells: list[SetCell]
    done: int
    beaten: int
    words: str


class SetSheet(Schema):
    """The challenges of a day, and every child's row, its cells in their order."""

    week_id: UUID
    week: str
    on: date
    until: date
    pause: int
    challenges: list[SetChallenge]
    classes: list[ClassRef]
    children: list[SetChild]


class SeriesWeek(Schema):
    """A week of the series; `took_part` counts children."""

    id: UUID
    name: str
    starts_on: date
    tests: list[str]
    took_part: int


class SeriesCell(Schema):
    """A week of one child: challenges taken part in, better with another go, rivals beaten."""

    took_part: int
    gained: int
    beaten: int
    points: int


class SeriesChild(Schema):
    pupil_id: UUID
    name: str
    weeks: list[SeriesCell]
    points: int
    story: str


class Series(Schema):
    """A class's weeks in their order, and tests like those that were done."""

    class_id: UUID
    class_name: str
    weeks: list[SeriesWeek]
    children: list[SeriesChild]
    like: list[Named]


@router.get("/classes/{class_id}/series", response=Series)
def get_series(request: HttpRequest, class_id: UUID) -> dict[str, Any]:
    return queries.series(asker(request), class_id)


@router.get("/ready-sets", response=list[ReadySet])
def list_ready_sets(request: HttpRequest) -> list[dict[str, Any]]:
    return queries.ready_sets(asker(request))


@router.put("/weeks/{week_id}/rival", response=WeekPage)
def set_rival(request: HttpRequest, week_id: UUID, row: RivalRow) -> dict[str, Any]:
    staff = asker(request)
    marks = [actions.Mark(**mark.model_dump()) for mark in row.marks]
    wish = actions.RivalWish(**row.model_dump(exclude={"marks"}))
    actions.set_rival(staff, week_id, wish, marks)
    return queries.week_page(staff, week_id)


@router.get("/weeks/{week_id}/sheet", response=SetSheet)
def get_set_sheet(request: HttpRequest, week_id: UUID, on: Day) -> dict[str, Any]:
    """The challenges of one day as a set."""
    return queries.set_sheet(asker(request), week_id, on)


@router.post("/weeks/{week_id}/hold", response=Made)
def hold_set(request: HttpRequest, week_id: UUID, choice: SetChoice) -> Any:
    """A lesson of today in which a class does the challenges of a day one after the other."""
    return actions.hold_set(asker(request), week_id, choice.class_id, choice.on)


@router.get("/activities/{activity_id}/rivals", response=list[PerformingRival])
def get_rivals(request: HttpRequest, activity_id: UUID) -> list[dict[str, Any]]:
    """Whose mark is made in what a class does in a test of a lesson."""
    return queries.rivals_in(asker(request), activity_id)


@router.put("/activities/{activity_id}/rivals/{challenge_id}", response=list[PerformingRival])
def make_mark(
    request: HttpRequest, activity_id: UUID, challenge_id: UUID, mark: LiveMark
) -> list[dict[str, Any]]:
    """The mark of somebody who performs with the class, as it was made."""
    staff = asker(request)
    actions.make_mark(staff, activity_id, challenge_id, **mark.model_dump())
    return queries.rivals_in(staff, activity_id)
