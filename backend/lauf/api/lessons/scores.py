"""Routes for scores: a class in one test, and every entry."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.db import transaction
from django.http import HttpRequest
from ninja import Field, Query, Router
from pydantic import AwareDatetime

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import taken_at
from lauf.lessons.queries import one_test_in_turn
from lauf.people.actions import look_at_class
from lauf.progress.lesson import check, lanes
from lauf.progress.lesson.check import CheckList
from lauf.progress.lesson.lanes import Child, ClassLanes, Reading, WallScore
from lauf.records import actions

router = Router(tags=["scores"])


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


class Confirmation(Schema):
    flag: str


@router.get("/activities/{activity_id}/lanes", response=ClassLanes)
def get_lanes(request: HttpRequest, activity_id: UUID) -> ClassLanes:
    staff = signed_in_staff(request)
    found = lanes.class_lanes(staff, activity_id)
    if found["private"]:
        look_at_class(staff, found["class_id"], found["class_name"], found["test"])
    return found


@router.get("/activities/{activity_id}/lanes/{pupil_id}", response=Child)
def get_one_child(request: HttpRequest, activity_id: UUID, pupil_id: UUID) -> Child:
    return lanes.one_child(signed_in_staff(request), activity_id, pupil_id)


@router.get("/activities/{activity_id}/wall", response=list[WallScore])
def get_wall(request: HttpRequest, activity_id: UUID) -> list[WallScore]:
    """Names and scores as the hall's wall may show them: never a body measurement."""
    return lanes.wall_scores(signed_in_staff(request), activity_id)


class RecordedChild(Child):
    """The child after an entry. `device_clock`: what is wrong with the clock of the device."""

    device_clock: str


@router.post("/activities/{activity_id}/attempts", response=RecordedChild)
def record_attempt(request: HttpRequest, activity_id: UUID, new: NewAttempt) -> RecordedChild:
    fields = new.model_dump()
    fields["recorded_at"], device_clock = taken_at(new.recorded_at)
    staff = signed_in_staff(request)
    with transaction.atomic():
        taken = one_test_in_turn(staff, activity_id)
        actions.record_attempt(staff, taken, attempt_id=fields.pop("id"), **fields)
        child = lanes.child_after(taken, new.pupil_id)
    return {**child, "device_clock": device_clock}


@router.get("/activities/{activity_id}/reading", response=Reading)
def read_typed(
    request: HttpRequest, activity_id: UUID, typed: Annotated[str, Query(max_length=200)]
) -> Reading:
    return lanes.reading(signed_in_staff(request), activity_id, typed)


@router.get("/activities/{activity_id}/check", response=CheckList)
def get_check(request: HttpRequest, activity_id: UUID) -> CheckList:
    return check.check_list(signed_in_staff(request), activity_id)


@router.post("/attempts/{attempt_id}/confirm", response=Child)
def confirm_flag(request: HttpRequest, attempt_id: UUID, body: Confirmation) -> Child:
    staff = signed_in_staff(request)
    with transaction.atomic():
        attempt = actions.confirm_flag(staff, attempt_id, body.flag).attempt
        taken = one_test_in_turn(staff, attempt.activity_id)
        return lanes.child_after(taken, attempt.pupil_id)
