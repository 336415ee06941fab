"""Addresses of what progress reads, and of the scores whose answer is a judged lane."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router, Schema
from pydantic import AwareDatetime

from lauf.people.asker import asker
from lauf.progress import queries
from lauf.progress.schemas import CheckList, Child, ClassLanes, PupilRecord, Today
from lauf.records import actions

router = Router(tags=["progress"])


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


class Confirmation(Schema):
    flag: str


@router.get("/today", response=Today)
def get_today(request: HttpRequest) -> dict[str, Any]:
    return queries.today_page(asker(request), timezone.now())


@router.get("/activities/{activity_id}/lanes", response=ClassLanes)
def get_lanes(request: HttpRequest, activity_id: UUID) -> dict[str, Any]:
    return queries.class_lanes(asker(request), activity_id)


@router.post("/activities/{activity_id}/attempts", response=Child)
def record_attempt(request: HttpRequest, activity_id: UUID, new: NewAttempt) -> dict[str, Any]:
    fields = new.dict()
    staff = asker(request)
    actions.record_attempt(staff, activity_id, attempt_id=fields.pop("id"), **fields)
    return queries.child_after(staff, activity_id, new.pupil_id)


@router.get("/activities/{activity_id}/check", response=CheckList)
def get_check(request: HttpRequest, activity_id: UUID) -> dict[str, Any]:
    return queries.check_list(asker(request), activity_id)


@router.post("/attempts/{attempt_id}/confirm", response=Child)
def confirm_flag(request: HttpRequest, attempt_id: UUID, body: Confirmation) -> dict[str, Any]:
    staff = asker(request)
    attempt = actions.confirm_flag(staff, attempt_id, body.flag).attempt
    return queries.child_after(staff, attempt.activity_id, attempt.pupil_id)


@router.get("/pupils/{pupil_id}", response=PupilRecord)
def get_pupil(request: HttpRequest, pupil_id: UUID) -> dict[str, Any]:
    return queries.pupil_record(asker(request), pupil_id, timezone.localdate())
