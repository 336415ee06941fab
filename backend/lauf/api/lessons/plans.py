"""Addresses of plans, stations and templates."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Path, Router, Status

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.api.shared import KitRow
from lauf.lessons import actions, queries
from lauf.rules.body.pulse import CountSeconds
from lauf.rules.planning.blocks import BlockKind
from lauf.rules.planning.plan import Load
from lauf.rules.planning.rotation import GroupsBy

router = Router(tags=["lessons"])


class MovementEntry(Schema):
    name: str = Field("", max_length=400)
    efforts: str = Field("", max_length=200)


class StationEntry(Schema):
    """A station: the parts of the body it loads, and how many groups have room at once."""

    name: str = Field("", max_length=400)
    loads: list[Load] = Field(default_factory=list, max_length=9)
    room: int = Field(1, ge=1, le=8)


class Groups(Schema):
    """Groups of children as they were made: by house, at random or balanced; or, from then on,
    changed by hand."""

    how: GroupsBy
    names: list[Annotated[str, Field(max_length=40)]] = Field(max_length=16)
    members: list[list[UUID]] = Field(max_length=16)


Seconds = Annotated[int, Field(ge=0, le=7200)]


class BlockEntry(Schema):
    """One block as entered; which fields mean something depends on the kind."""

    id: UUID | None = None
    kind: BlockKind
    label: str = Field("", max_length=400)
    test_id: UUID | None = None
    activity_id: UUID | None = None
    seconds: Seconds | None = None
    say: str | None = Field(None, max_length=400)
    levels: list[tuple[int, Seconds]] | None = Field(None, max_length=30)
    movements: list[MovementEntry] | None = Field(None, max_length=20)
    count_seconds: CountSeconds | None = None
    stations: list[StationEntry] | None = Field(None, max_length=16)
    groups: Groups | None = None
    names: list[Annotated[str, Field(max_length=60)]] | None = Field(None, max_length=16)
    carries: str | None = Field(None, max_length=60)
    # Rep target: easier, usual and harder reps counted apart, and what one of each counts.
    apart: bool | None = None
    weights: str | None = Field(None, max_length=30)
    work: Seconds | None = None
    change: Seconds | None = None
    rounds: Annotated[int, Field(ge=0, le=16)] | None = None
    steps: Annotated[int, Field(ge=0, le=500)] | None = None
    hold: Annotated[int, Field(ge=0, le=60)] | None = None
    setup: Annotated[int, Field(ge=0, le=1800)] | None = None
    get_ready: Annotated[int, Field(ge=3, le=120)] | None = None
    pause: Annotated[int, Field(ge=3, le=600)] | None = None
    waits: bool | None = None
    # To the beat: the movement; beats a minute, one call every so many, so many of them; or the
    # time of each as typed, a line each.
    movement: str | None = Field(None, max_length=40)
    bpm: Annotated[int, Field(ge=0, le=400)] | None = None
    every: Annotated[int, Field(ge=0, le=64)] | None = None
    calls: Annotated[int, Field(ge=0, le=1000)] | None = None
    times: str | None = Field(None, max_length=20_000)
    # As it was answered: a closed block stays what it is, whatever is sent of it.
    closed: bool | None = None


class Plan(Schema):
    based_on: int = 0
    blocks: list[BlockEntry] = Field(max_length=60)


class BlockRow(Schema):
    id: UUID | None
    kind: BlockKind
    label: str
    seconds: int
    why: str
    test_id: UUID | None
    activity_id: UUID | None
    settings: dict[str, Any]
    # Of a private test that the asker does not see.
    closed: bool


class PlanWarning(Schema):
    code: str
    block: int
    words: str


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
    return [block.model_dump() for block in plan.blocks]


@router.get("/lessons/{lesson_id}/plan", response=PlanPage)
def get_plan(request: HttpRequest, lesson_id: UUID) -> dict[str, Any]:
    return queries.plan_page(asker(request), lesson_id)


@router.put("/lessons/{lesson_id}/plan", response=PlanPage)
def save_plan(request: HttpRequest, lesson_id: UUID, plan: Plan) -> dict[str, Any]:
    staff = asker(request)
    actions.save_plan(staff, lesson_id, based_on=plan.based_on, entries=_entries(plan))
    return queries.plan_page(staff, lesson_id)


@router.post("/lessons/{lesson_id}/plan/preview", response=PlanPage)
def preview_plan(request: HttpRequest, lesson_id: UUID, plan: Plan) -> dict[str, Any]:
    """What a plan would take; nothing is kept."""
    return queries.plan_page(asker(request), lesson_id, _entries(plan))


@router.post("/lessons/{lesson_id}/plan/order", response=PlanPage)
def propose_order(request: HttpRequest, lesson_id: UUID, plan: Plan) -> dict[str, Any]:
    """The same blocks in a good order; nothing is kept."""
    return queries.in_good_order(asker(request), lesson_id, _entries(plan))


@router.post("/lessons/{lesson_id}/plan/fit", response=PlanPage)
def propose_fit(request: HttpRequest, lesson_id: UUID, plan: Plan) -> dict[str, Any]:
    """The same blocks fitted to the lesson's time; nothing is kept."""
    return queries.fitted(asker(request), lesson_id, _entries(plan))


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
    return queries.stations_page(asker(request), lesson_id, block)


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
    return queries.template_list(asker(request))


@router.post("/lessons/{lesson_id}/plan/template", response=PlanPage)
def propose_template(request: HttpRequest, lesson_id: UUID, choice: TemplateChoice) -> Any:
    """A template as this lesson's plan; nothing is kept."""
    return queries.from_template(asker(request), lesson_id, choice.code)


@router.post("/lessons/{lesson_id}/template", response={201: list[TemplateRow]})
def save_template(request: HttpRequest, lesson_id: UUID, given: TemplateName) -> Any:
    staff = asker(request)
    actions.save_template(staff, lesson_id, given.name)
    return Status(201, queries.template_list(staff))


@router.delete("/templates/{code}", response=list[TemplateRow])
def delete_template(request: HttpRequest, code: str) -> list[dict[str, Any]]:
    staff = asker(request)
    actions.delete_template(staff, code)
    return queries.template_list(staff)
