"""Addresses about lessons."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Schema, Status
from pydantic import AwareDatetime

from lauf.lessons import actions, queries
from lauf.people.asker import asker

router = Router(tags=["lessons"])


class MedicalNote(Schema):
    pupil_id: UUID
    name: str
    note: str


class Cue(Schema):
    at_ms: int
    kind: Literal["get_ready", "count", "go", "half_way", "last", "stop"]
    say: str


class RunState(Schema):
    """The clock of one wave shows now − anchor, or paused_ms while paused (milliseconds)."""

    wave: int = Field(ge=1, le=99)
    revision: int = Field(ge=1, le=1_000_000)
    anchor_ms: int = Field(ge=0, le=2**52)
    paused_ms: int | None = Field(None, ge=0, le=2**40)
    ended: Literal["", "complete", "early", "restarted"] = ""
    worked_seconds: int | None = Field(None, ge=0, le=86_400)


class Run(RunState):
    id: UUID


class VariantRow(Schema):
    code: str
    name: str
    key: str


class ActivityPage(Schema):
    id: UUID
    test_id: UUID
    test: str
    kind: str
    version: int
    seconds: int | None
    waves: int
    variants: list[VariantRow]
    say: list[str]
    counts: list[str]
    does_not_count: list[str]
    cautions: list[str]
    cues: list[Cue]
    go_ms: int
    total_ms: int
    runs: list[Run]


class LessonPage(Schema):
    id: UUID
    class_id: UUID
    class_name: str
    year_group: str
    teacher: str
    place: str
    starts_at: datetime
    minutes: int
    battery: bool
    closed_at: datetime | None
    closed_by: str | None
    children: int
    medical_notes: list[MedicalNote]
    activities: list[ActivityPage]


class NewLesson(Schema):
    class_id: UUID
    test_id: UUID
    starts_at: AwareDatetime
    minutes: int
    place: str


class Made(Schema):
    id: UUID


@router.post("/lessons", response={201: Made})
def plan_lesson(request: HttpRequest, new: NewLesson) -> Any:
    return Status(201, actions.plan_lesson(asker(request), **new.dict()))


class PastLesson(Schema):
    id: UUID
    starts_at: datetime
    place: str
    battery: str | None
    closed: bool
    tests: list[str]


@router.get("/classes/{class_id}/lessons", response=list[PastLesson])
def list_lessons(request: HttpRequest, class_id: UUID) -> list[dict[str, Any]]:
    return queries.class_lessons(asker(request), class_id)


@router.get("/lessons/{lesson_id}", response=LessonPage)
def get_lesson(request: HttpRequest, lesson_id: UUID) -> dict[str, Any]:
    return queries.lesson_page(asker(request), lesson_id)


@router.put("/activities/{activity_id}/runs/{run_id}", response=Run)
def report_run(request: HttpRequest, activity_id: UUID, run_id: UUID, state: RunState) -> Any:
    return actions.report_run(asker(request), activity_id, run_id, **state.dict())


@router.post("/lessons/{lesson_id}/close", response=LessonPage)
def close_lesson(request: HttpRequest, lesson_id: UUID) -> dict[str, Any]:
    actions.close_lesson(asker(request), lesson_id)
    return queries.lesson_page(asker(request), lesson_id)


@router.post("/lessons/{lesson_id}/reopen", response=LessonPage)
def reopen_lesson(request: HttpRequest, lesson_id: UUID) -> dict[str, Any]:
    actions.reopen_lesson(asker(request), lesson_id)
    return queries.lesson_page(asker(request), lesson_id)


class Conditions(Schema):
    conditions: dict[str, int | str] = Field(max_length=6)


@router.put("/activities/{activity_id}/conditions", response=Conditions)
def set_conditions(request: HttpRequest, activity_id: UUID, given: Conditions) -> Any:
    return actions.set_conditions(asker(request), activity_id, given.conditions)


class Sitting(Schema):
    class_id: UUID


@router.post("/batteries/{battery_id}/sittings", response={201: Made})
def start_sitting(request: HttpRequest, battery_id: UUID, given: Sitting) -> Any:
    return Status(201, actions.start_sitting(asker(request), battery_id, given.class_id))
