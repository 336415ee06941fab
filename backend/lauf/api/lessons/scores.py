"""Addresses of scores: a class in one test, and every entry."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any
from uuid import UUID

from django.db import transaction
from django.http import HttpRequest
from ninja import Field, Query, Router
from pydantic import AwareDatetime

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.api.shared import CareRow, VariantRow, taken_at
from lauf.people.actions import look_at_class
from lauf.progress import check, lanes
from lauf.records import actions

router = Router(tags=["scores"])


class Score(Schema):
    id: UUID
    typed: str
    shown: str
    value: int | None
    reason: str | None
    estimate: bool
    variant: str
    wave: int | None
    conditions: dict[str, int | str]
    corrected: bool
    # Something is asked about it: it takes no part in anything until that is settled.
    open: bool


class TryRow(Schema):
    number: int
    head: UUID | None
    score: Score | None


class LaneRung(Schema):
    name: str
    at: int
    shown: str


class Mark(Schema):
    at: int
    on: date
    shown: str
    estimate: bool


class Lane(Schema):
    better: str
    variant: str
    rungs: list[LaneRung]
    earlier: list[Mark]
    today: Mark | None
    best: int | None
    band: list[float] | None
    origin: int
    scale: int


class Flag(Schema):
    code: str
    words: str
    settled: bool


class Child(Schema):
    pupil_id: UUID
    number: int
    name: str
    medical_note: str
    wave: int
    variant: str
    head: UUID | None
    score: Score | None
    tries: list[TryRow]
    words: list[str]
    target: str | None
    flags: list[Flag]
    lane: Lane
    care: CareRow | None


class ConditionRow(Schema):
    code: str
    words: str
    value: int | str
    shown: str
    usual: str


class ReasonRow(Schema):
    key: str
    code: str
    words: str


class QuickCheck(Schema):
    pattern: str
    lowest: int | None
    highest: int | None


class ClassLanes(Schema):
    activity_id: UUID
    lesson_id: UUID
    test: str
    private: bool
    kind: str
    unit: str
    seconds: int | None
    closed_at: datetime | None
    waves: int
    tries: int
    merge: str
    of: int | None
    better: str
    laps: int | None
    # The test's own maximum in canonical units, at which a hold ends; and as it is typed.
    cap: int | None
    cap_typed: str
    conditions: list[ConditionRow]
    variants: list[VariantRow]
    accepted: str
    quick_check: QuickCheck
    reasons: list[ReasonRow]
    children: list[Child]


class Correction(Schema):
    pupil_id: UUID
    name: str
    was: str
    now: str
    by: str
    at: datetime
    why: str


class CheckList(Schema):
    activity_id: UUID
    lesson_id: UUID
    test: str
    closed_at: datetime | None
    recorded: int
    children: list[Child]
    missing: list[UUID]
    odd: list[UUID]
    corrections: list[Correction]


class NewAttempt(Schema):
    """One entry as typed. The id is the device's own; the same id twice is stored once."""

    id: UUID
    pupil_id: UUID
    typed: str = Field("", max_length=200)
    variant: str = ""
    wave: int | None = None
    try_number: int = Field(1, ge=1, le=16)
    conditions: dict[str, int | str] = Field(default_factory=dict)
    recorded_at: AwareDatetime
    succeeds: UUID | None = None
    why: str = Field("", max_length=240)
    withdrawn: bool = False
    # An earlier entry of this child and try that counts again, exactly as it was kept.
    restores: UUID | None = None
    counted_by: UUID | None = None
    # The clock a time was taken by; `sure` says that the time is right whatever the clock says.
    run_id: UUID | None = None
    sure: bool = False


class ReadingChoice(Schema):
    typed: str
    words: str


class Confirmation(Schema):
    flag: str


@router.get("/activities/{activity_id}/lanes", response=ClassLanes)
def get_lanes(request: HttpRequest, activity_id: UUID) -> dict[str, Any]:
    staff = asker(request)
    found = lanes.class_lanes(staff, activity_id)
    if found["private"]:
        look_at_class(staff, found["school_class"], found["test"])
    return found


class WallScore(Schema):
    name: str
    shown: str


@router.get("/activities/{activity_id}/wall", response=list[WallScore])
def get_wall(request: HttpRequest, activity_id: UUID) -> list[dict[str, Any]]:
    """Names and scores as the hall's wall may show them: never a body measurement."""
    return lanes.wall_scores(asker(request), activity_id)


class RecordedChild(Child):
    """The child after an entry. `device_clock`: what is wrong with the clock of the device."""

    device_clock: str


@router.post("/activities/{activity_id}/attempts", response=RecordedChild)
def record_attempt(request: HttpRequest, activity_id: UUID, new: NewAttempt) -> dict[str, Any]:
    fields = new.model_dump()
    fields["recorded_at"], device_clock = taken_at(new.recorded_at)
    staff = asker(request)
    with transaction.atomic():
        actions.record_attempt(staff, activity_id, attempt_id=fields.pop("id"), **fields)
        child = lanes.child_after(staff, activity_id, new.pupil_id)
    return {**child, "device_clock": device_clock}


class Reading(Schema):
    """How an entry would be kept, or what is wrong with it."""

    words: str
    problem: str
    accepted: str
    choices: list[ReadingChoice]


@router.get("/activities/{activity_id}/reading", response=Reading)
def read_typed(
    request: HttpRequest, activity_id: UUID, typed: Annotated[str, Query(max_length=200)]
) -> dict[str, Any]:
    return lanes.reading(asker(request), activity_id, typed)


@router.get("/activities/{activity_id}/check", response=CheckList)
def get_check(request: HttpRequest, activity_id: UUID) -> dict[str, Any]:
    return check.check_list(asker(request), activity_id)


@router.post("/attempts/{attempt_id}/confirm", response=Child)
def confirm_flag(request: HttpRequest, attempt_id: UUID, body: Confirmation) -> dict[str, Any]:
    staff = asker(request)
    with transaction.atomic():
        attempt = actions.confirm_flag(staff, attempt_id, body.flag).attempt
        return lanes.child_after(staff, attempt.activity_id, attempt.pupil_id)
