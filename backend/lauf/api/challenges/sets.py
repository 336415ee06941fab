"""Routes for rivals, the challenges of a day as a set, and weeks as a series."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import Made
from lauf.challenges import actions, queries
from lauf.challenges.queries.series import Series
from lauf.challenges.queries.sheet import ReadySet, SetSheet
from lauf.challenges.queries.weeks import PerformingRival, WeekPage
from lauf.people.shapes import Day
from lauf.rules.contests.rivals import HIGHEST_RUNG, RivalKind
from lauf.rules.contests.sets import MOST_IN_A_SET

router = Router(tags=["challenges"])


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


class LiveMark(Schema):
    """A mark as typed, "" to take it back; `sure` keeps one that is longer than the clock ran."""

    typed: str = Field("", max_length=180)
    variant: str = Field("", max_length=20)
    sure: bool = False


class SetChoice(Schema):
    class_id: UUID
    on: Day


@router.get("/classes/{class_id}/series", response=Series)
def get_series(request: HttpRequest, class_id: UUID) -> Series:
    return queries.series(signed_in_staff(request), class_id)


@router.get("/ready-sets", response=list[ReadySet])
def list_ready_sets(request: HttpRequest) -> list[ReadySet]:
    return queries.ready_sets(signed_in_staff(request))


@router.put("/weeks/{week_id}/rival", response=WeekPage)
def set_rival(request: HttpRequest, week_id: UUID, row: RivalRow) -> WeekPage:
    staff = signed_in_staff(request)
    marks = [actions.Mark(**mark.model_dump()) for mark in row.marks]
    wish = actions.RivalWish(**row.model_dump(exclude={"marks"}))
    actions.set_rival(staff, week_id, wish, marks)
    return queries.week_page(staff, week_id)


@router.get("/weeks/{week_id}/sheet", response=SetSheet)
def get_set_sheet(request: HttpRequest, week_id: UUID, on: Day) -> SetSheet:
    """The challenges of one day as a set."""
    return queries.set_sheet(signed_in_staff(request), week_id, on)


@router.post("/weeks/{week_id}/hold", response=Made)
def hold_set(request: HttpRequest, week_id: UUID, choice: SetChoice) -> Any:
    """A lesson of today in which a class does the challenges of a day one after the other."""
    return actions.hold_set(signed_in_staff(request), week_id, choice.class_id, choice.on)


@router.get("/activities/{activity_id}/rivals", response=list[PerformingRival])
def get_rivals(request: HttpRequest, activity_id: UUID) -> list[PerformingRival]:
    """Whose mark is made in what a class does in a test of a lesson."""
    return queries.rivals_in(signed_in_staff(request), activity_id)


@router.put("/activities/{activity_id}/rivals/{challenge_id}", response=list[PerformingRival])
def make_mark(
    request: HttpRequest, activity_id: UUID, challenge_id: UUID, mark: LiveMark
) -> list[PerformingRival]:
    """The mark of somebody who performs with the class, as it was made."""
    staff = signed_in_staff(request)
    actions.make_mark(staff, activity_id, challenge_id, **mark.model_dump())
    return queries.rivals_in(staff, activity_id)
