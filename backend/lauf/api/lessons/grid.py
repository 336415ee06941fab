"""Addresses of batteries as a grid."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from lauf.api.asker import asker
from lauf.api.lessons.scores import ConditionRow, QuickCheck, ReasonRow, Score
from lauf.api.shape import Schema
from lauf.api.shared import CareRow, VariantRow
from lauf.people.actions import look_at_class
from lauf.progress import grid

router = Router(tags=["batteries"])


class SittingRow(Schema):
    id: UUID
    battery_id: UUID
    battery: str
    class_id: UUID
    class_name: str
    on: date
    closed: bool


class EarlierSitting(Schema):
    id: UUID
    on: date


class GridTest(Schema):
    activity_id: UUID
    test_id: UUID
    test: str
    private: bool
    kind: str
    unit: str
    of: int | None
    tries: int
    variants: list[VariantRow]
    conditions: list[ConditionRow]
    accepted: str
    quick_check: QuickCheck
    reasons: list[ReasonRow]
    recorded: int
    n: int
    median: str | None
    median_then: str | None
    middle_half: str | None
    better: int
    steady: int
    lower: int
    mean_change: str | None
    # How many arrows chance alone would give.
    chance: str | None
    misfit: str | None


class GridCell(Schema):
    activity_id: UUID
    head: UUID | None
    # The form a score typed now is of, unless another is chosen.
    variant: str
    score: Score | None
    rung: str
    change: str
    verdict: str
    then: str
    care: CareRow | None


class GridChild(Schema):
    pupil_id: UUID
    number: int
    name: str
    medical_note: str
    cells: list[GridCell]


class BatteryGrid(Schema):
    lesson_id: UUID
    battery: str
    class_name: str
    on: date
    closed_at: datetime | None
    sittings: list[EarlierSitting]
    compared_with: UUID | None
    tests: list[GridTest]
    children: list[GridChild]


@router.get("/sittings", response=list[SittingRow])
def list_sittings(request: HttpRequest) -> Any:
    return grid.sittings(asker(request))


@router.get("/lessons/{lesson_id}/grid", response=BatteryGrid)
def get_grid(
    request: HttpRequest, lesson_id: UUID, compared_with: UUID | None = None
) -> dict[str, Any]:
    staff = asker(request)
    found = grid.battery_grid(staff, lesson_id, compared_with)
    bodies = [test["test"] for test in found["tests"] if test["private"]]
    if bodies:
        look_at_class(staff, found["school_class"], " and ".join(bodies))
    return found
