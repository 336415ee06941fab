"""Addresses about lessons."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Path, Router, Schema, Status
from pydantic import AwareDatetime

from lauf.lessons import actions, conducted, plans, queries, stations, templates
from lauf.lessons.stations import LOADS
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


class StationEntry(Schema):
    """A station: the parts of the body it loads, and how many groups have room at once."""

    name: str = Field("", max_length=60)
    loads: list[Literal[LOADS]] = Field(default_factory=list, max_length=9)  # type: ignore[valid-type]
    room: int = Field(1, ge=1, le=8)


class Groups(Schema):
    """Groups of children as they were made: by house, at random or balanced; or, from then on,
    changed by hand."""

    how: Literal["house", "random", "balanced", "hand"]
    names: list[Annotated[str, Field(max_length=40)]] = Field(max_length=16)
    members: list[list[UUID]] = Field(max_length=16)


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
    stations: list[StationEntry] | None = Field(None, max_length=16)
    groups: Groups | None = None
    names: list[Annotated[str, Field(max_length=60)]] | None = Field(None, max_length=16)
    carries: str | None = Field(None, max_length=60)
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


class Rotation(Schema):
    """By round, the index of each group's station."""

    stations: list[str]
    groups: list[str]
    rounds: list[list[int]]
    gave_up: list[str]
    proved: bool


class TimelineBlock(Schema):
    label: str
    kind: str
    activity_id: UUID | None
    from_ms: int
    to_ms: int
    rotation: Rotation | None


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
    """What was really done of a segment: how long, of how long, and what."""

    segment: int = Field(ge=0, le=5000)
    seconds: int = Field(ge=0, le=86_400)
    planned: int = Field(ge=0, le=86_400)
    block: str = Field("", max_length=120)
    label: str = Field("", max_length=120)


class Swap(Schema):
    """From a segment on, something else is done instead of `was` (a movement, or a whole block's
    test, which then has an activity of its own)."""

    segment: int = Field(ge=0, le=5000)
    was: str = Field(max_length=120)
    label: str = Field(min_length=1, max_length=120)
    activity_id: UUID | None = None


class ConductState(Schema):
    """The conductor's clock shows now − anchor, or paused_ms while paused. `edits` lengthen or
    shorten segments; `done` says how many seconds each was really done; `wall` is what the
    projector may show."""

    run_id: UUID
    revision: int = Field(ge=1, le=1_000_000)
    plan_revision: int = Field(ge=0, le=1_000_000)
    anchor_ms: Milliseconds
    paused_ms: Milliseconds | None = None
    edits: list[SegmentEdit] = Field(default_factory=list, max_length=500)
    swaps: list[Swap] = Field(default_factory=list, max_length=100)
    done: list[SegmentDone] = Field(default_factory=list, max_length=2000)
    wall: Literal["clock", "names", "scores"] = "clock"
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
    return conducted.lesson_timeline(asker(request), lesson_id)


@router.get("/lessons/{lesson_id}/conduct", response=ConductState | None)
def get_conduct(request: HttpRequest, lesson_id: UUID) -> Any:
    return conducted.conduct_state(queries.lesson_of(asker(request), lesson_id))


@router.put("/lessons/{lesson_id}/conduct", response=ConductState)
def report_conduct(request: HttpRequest, lesson_id: UUID, state: ConductState) -> Any:
    kept = actions.report_conduct(
        asker(request),
        lesson_id,
        run_id=state.run_id,
        revision=state.revision,
        plan_revision=state.plan_revision,
        # As it is kept and read again: ids as text.
        state=state.model_dump(mode="json", exclude={"run_id", "revision", "plan_revision"}),
    )
    return conducted.conduct_state(kept.lesson)


class DoneRow(Schema):
    block: str
    label: str
    seconds: int
    planned: int
    words: str


@router.get("/lessons/{lesson_id}/record", response=list[DoneRow])
def get_record(request: HttpRequest, lesson_id: UUID) -> list[dict[str, Any]]:
    """What was really done in a conducted lesson."""
    return conducted.conduct_record(asker(request), lesson_id)


class AnotherTest(Schema):
    test_id: UUID


class Added(Schema):
    id: UUID
    test: str


@router.post("/lessons/{lesson_id}/activities", response={201: Added})
def add_activity(request: HttpRequest, lesson_id: UUID, another: AnotherTest) -> Any:
    """Another test, decided on the spot."""
    made = actions.add_activity(asker(request), lesson_id, another.test_id)
    return Status(201, {"id": made.id, "test": made.protocol.test.name})


class Beep(Schema):
    """The end of a shuttle. `if_missed` is the score of a runner who misses this line and the
    next, `so_far` that of one who stops having just made it."""

    at_ms: int
    stage: int
    shuttle: int
    speed: float
    if_missed: str
    so_far: str


class RunSheet(Schema):
    schedule: str
    beeps: list[Beep]


@router.get("/activities/{activity_id}/beeps", response=RunSheet)
def get_beeps(request: HttpRequest, activity_id: UUID) -> dict[str, Any]:
    return conducted.run_sheet(asker(request), activity_id)


# Stations


class GroupChild(Schema):
    id: UUID
    name: str


class GroupRow(Schema):
    name: str
    children: list[GroupChild]


class StationCard(Schema):
    """A station with the groups that come in each round."""

    name: str
    loads: list[str]
    room: int
    visits: list[list[str]]


class StationsPage(Schema):
    lesson_id: UUID
    class_name: str
    label: str
    work: int
    change: int
    rounds: list[list[int]]
    gave_up: list[str]
    groups: list[GroupRow]
    stations: list[StationCard]


@router.get("/lessons/{lesson_id}/stations/{block}", response=StationsPage)
def get_stations(
    request: HttpRequest, lesson_id: UUID, block: Annotated[int, Path(ge=0, le=1000)]
) -> dict[str, Any]:
    return stations.stations_page(asker(request), lesson_id, block)


# Templates


class TemplateRow(Schema):
    code: str
    name: str
    minutes: int
    own: bool
    mine: bool


class TemplateChoice(Schema):
    code: str = Field(max_length=40)


class TemplateName(Schema):
    name: str = Field(max_length=120)


@router.get("/templates", response=list[TemplateRow])
def list_templates(request: HttpRequest) -> list[dict[str, Any]]:
    return templates.template_list(asker(request))


@router.post("/lessons/{lesson_id}/plan/template", response=PlanPage)
def propose_template(request: HttpRequest, lesson_id: UUID, choice: TemplateChoice) -> Any:
    """A template as this lesson's plan; nothing is kept."""
    return templates.from_template(asker(request), lesson_id, choice.code)


@router.post("/lessons/{lesson_id}/template", response={201: list[TemplateRow]})
def save_template(request: HttpRequest, lesson_id: UUID, given: TemplateName) -> Any:
    staff = asker(request)
    actions.save_template(staff, lesson_id, given.name)
    return Status(201, templates.template_list(staff))


@router.delete("/templates/{code}", response=list[TemplateRow])
def delete_template(request: HttpRequest, code: str) -> list[dict[str, Any]]:
    staff = asker(request)
    actions.delete_template(staff, code)
    return templates.template_list(staff)
