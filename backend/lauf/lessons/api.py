"""Addresses about lessons."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Schema, Status
from pydantic import AwareDatetime

from lauf.lessons import actions, plans, queries
from lauf.people.asker import asker
from lauf.rules.blocks import BlockKind

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


# Plans


class MovementEntry(Schema):
    name: str = Field("", max_length=80)
    efforts: str = Field("", max_length=200)


Seconds = Annotated[int, Field(ge=0, le=7200)]


class BlockEntry(Schema):
    """One block as entered; which fields mean something depends on the kind."""

    kind: BlockKind
    label: str = Field("", max_length=120)
    test_id: UUID | None = None
    activity_id: UUID | None = None
    seconds: Seconds | None = None
    say: str | None = Field(None, max_length=200)
    levels: list[tuple[int, Seconds]] | None = Field(None, max_length=30)
    movements: list[MovementEntry] | None = Field(None, max_length=20)
    count_seconds: Literal[10, 15, 20, 30, 60] | None = None
    stations: list[Annotated[str, Field(max_length=60)]] | None = Field(None, max_length=16)
    work: Seconds | None = None
    change: Seconds | None = None
    rounds: Annotated[int, Field(ge=0, le=16)] | None = None
    steps: Annotated[int, Field(ge=0, le=500)] | None = None
    hold: Annotated[int, Field(ge=0, le=60)] | None = None


class Plan(Schema):
    based_on: int = 0
    blocks: list[BlockEntry] = Field(max_length=60)


class BlockRow(Schema):
    kind: str
    label: str
    seconds: int
    why: str
    test_id: UUID | None
    activity_id: UUID | None
    settings: dict[str, Any]


class PlanWarning(Schema):
    code: str
    block: int
    words: str


class KitRow(Schema):
    item: str
    number: int


class KindRow(Schema):
    kind: str
    words: str
    defaults: dict[str, Any]


class PlanPage(Schema):
    lesson_id: UUID
    revision: int
    minutes: int
    children: int
    total_seconds: int
    left_seconds: int
    bottleneck: str | None
    saves: str
    kit: list[KitRow]
    helpers: int
    warnings: list[PlanWarning]
    blocks: list[BlockRow]
    kinds: list[KindRow]


def _entries(plan: Plan) -> list[dict[str, Any]]:
    return [block.dict() for block in plan.blocks]


@router.get("/lessons/{lesson_id}/plan", response=PlanPage)
def get_plan(request: HttpRequest, lesson_id: UUID) -> dict[str, Any]:
    return plans.plan_page(asker(request), lesson_id)


@router.put("/lessons/{lesson_id}/plan", response=PlanPage)
def save_plan(request: HttpRequest, lesson_id: UUID, plan: Plan) -> dict[str, Any]:
    staff = asker(request)
    actions.save_plan(staff, lesson_id, based_on=plan.based_on, entries=_entries(plan))
    return plans.plan_page(staff, lesson_id)


@router.post("/lessons/{lesson_id}/plan/preview", response=PlanPage)
def preview_plan(request: HttpRequest, lesson_id: UUID, plan: Plan) -> dict[str, Any]:
    """What a plan would take; nothing is kept."""
    return plans.plan_page(asker(request), lesson_id, _entries(plan))


@router.post("/lessons/{lesson_id}/plan/order", response=PlanPage)
def propose_order(request: HttpRequest, lesson_id: UUID, plan: Plan) -> dict[str, Any]:
    """The same blocks in a good order; nothing is kept."""
    return plans.in_good_order(asker(request), lesson_id, _entries(plan))


@router.post("/lessons/{lesson_id}/plan/fit", response=PlanPage)
def propose_fit(request: HttpRequest, lesson_id: UUID, plan: Plan) -> dict[str, Any]:
    """The same blocks fitted to the lesson's time; nothing is kept."""
    return plans.fitted(asker(request), lesson_id, _entries(plan))


class Retest(Schema):
    starts_at: AwareDatetime


@router.post("/lessons/{lesson_id}/copy", response={201: Made})
def copy_lesson(request: HttpRequest, lesson_id: UUID, retest: Retest) -> Any:
    return Status(201, actions.copy_lesson(asker(request), lesson_id, starts_at=retest.starts_at))


# The conductor


class TimelineBlock(Schema):
    label: str
    kind: str
    activity_id: UUID | None
    from_ms: int
    to_ms: int


class TimelineSegment(Schema):
    from_ms: int
    to_ms: int
    phase: str
    label: str
    block: int
    wave: int
    try_number: int


class TimelineCue(Schema):
    at_ms: int
    kind: str
    say: str
    block: int


Milliseconds = Annotated[int, Field(ge=-(2**40), le=2**52)]


class SegmentEdit(Schema):
    """A segment made longer (or shorter) on the spot."""

    segment: int = Field(ge=0, le=5000)
    add_ms: Milliseconds


class SegmentDone(Schema):
    segment: int = Field(ge=0, le=5000)
    seconds: int = Field(ge=0, le=86_400)


class ConductState(Schema):
    """The conductor's clock shows now − anchor, or paused_ms while paused. `edits` lengthen or
    shorten segments; `done` says how many seconds each was really done."""

    run_id: UUID
    revision: int = Field(ge=1, le=1_000_000)
    plan_revision: int = Field(ge=0, le=1_000_000)
    anchor_ms: Milliseconds
    paused_ms: Milliseconds | None = None
    edits: list[SegmentEdit] = Field(default_factory=list, max_length=500)
    done: list[SegmentDone] = Field(default_factory=list, max_length=2000)
    ended: bool = False


class TimelinePage(Schema):
    lesson_id: UUID
    class_name: str
    plan_revision: int
    total_ms: int
    blocks: list[TimelineBlock]
    segments: list[TimelineSegment]
    cues: list[TimelineCue]
    conduct: ConductState | None


@router.get("/lessons/{lesson_id}/timeline", response=TimelinePage)
def get_timeline(request: HttpRequest, lesson_id: UUID) -> dict[str, Any]:
    return plans.lesson_timeline(asker(request), lesson_id)


@router.get("/lessons/{lesson_id}/conduct", response=ConductState | None)
def get_conduct(request: HttpRequest, lesson_id: UUID) -> Any:
    return plans.conduct_state(queries.lesson_of(asker(request), lesson_id))


@router.put("/lessons/{lesson_id}/conduct", response=ConductState)
def report_conduct(request: HttpRequest, lesson_id: UUID, state: ConductState) -> Any:
    staff, fields = asker(request), state.dict()
    keys = {name: fields.pop(name) for name in ("run_id", "revision", "plan_revision")}
    kept = actions.report_conduct(staff, lesson_id, **keys, state=fields)
    return plans.conduct_state(kept.lesson)
