"""Addresses of the conductor: timeline, state, what was done, beeps."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.api.shared import Pause, SinceEpoch
from lauf.lessons import actions, queries
from lauf.rules.planning.block_parts import Phase
from lauf.rules.planning.blocks import BlockKind
from lauf.rules.planning.timeline import CueKind
from lauf.rules.reading.clocks import Wall

router = Router(tags=["lessons"])


class Rotation(Schema):
    """By round, the index of each group's station."""

    stations: list[str]
    groups: list[str]
    rounds: list[list[int]]
    gave_up: list[str]
    proved: bool


class TimelineBlock(Schema):
    id: UUID | None
    label: str
    kind: BlockKind
    activity_id: UUID | None
    # Of a private test that the asker does not see.
    closed: bool
    from_ms: int
    to_ms: int
    rotation: Rotation | None


class TimelineSegment(Schema):
    """`id` is its own while its block is not changed; `block` is its block's place."""

    id: str
    from_ms: int
    to_ms: int
    phase: Phase
    label: str
    block: int
    wave: int
    try_number: int
    # The clock stands before it until somebody goes on.
    waits: bool = False


class TimelineCue(Schema):
    at_ms: int
    kind: CueKind
    say: str
    block: int


SegmentId = Annotated[str, Field(max_length=60)]
Milliseconds = Annotated[int, Field(ge=-(2**40), le=2**40)]


class SegmentEdit(Schema):
    """A segment made longer (or shorter) on the spot."""

    segment: SegmentId
    add_ms: Milliseconds


class SegmentDone(Schema):
    """What was really done of a segment: how long, of how long, what, and when it was left."""

    segment: SegmentId
    seconds: int = Field(ge=0, le=86_400)
    planned: int = Field(ge=0, le=86_400)
    block: str = Field("", max_length=120)
    label: str = Field("", max_length=120)
    at_ms: SinceEpoch | None = None


class Swap(Schema):
    """From a segment on, something else is done instead of `was` (a movement, or a whole block's
    test, which then has an activity of its own)."""

    segment: SegmentId
    was: str = Field(max_length=120)
    label: str = Field(min_length=1, max_length=120)
    activity_id: UUID | None = None
    # How long the clock of that test runs, where it has one: its goes are as long from then on.
    seconds: int | None = Field(None, ge=1, le=7200)


class ConductState(Schema):
    """The conductor's clock shows now − anchor, or paused_ms while paused. `edits` lengthen or
    shorten segments; `done` says how many seconds each was really done; `wall` is what the
    projector may show."""

    run_id: UUID
    revision: int = Field(ge=1, le=1_000_000)
    plan_revision: int = Field(ge=0, le=1_000_000)
    anchor_ms: SinceEpoch
    paused_ms: Milliseconds | None = None
    # Where the clock was set going last: it stands at the next place after it that waits.
    going_from_ms: Milliseconds = 0
    pauses: list[Pause] = Field(default_factory=list, max_length=500)
    edits: list[SegmentEdit] = Field(default_factory=list, max_length=500)
    swaps: list[Swap] = Field(default_factory=list, max_length=100)
    done: list[SegmentDone] = Field(default_factory=list, max_length=2000)
    wall: Wall = Wall.CLOCK
    ended: bool = False


class TimelinePage(Schema):
    lesson_id: UUID
    class_name: str
    plan_revision: int
    newer_plan: bool
    total_ms: int
    blocks: list[TimelineBlock]
    segments: list[TimelineSegment]
    cues: list[TimelineCue]
    conduct: ConductState | None


@router.get("/lessons/{lesson_id}/timeline", response=TimelinePage)
def get_timeline(request: HttpRequest, lesson_id: UUID, fresh: bool = False) -> dict[str, Any]:
    """What the conductor goes by; `fresh` asks for the plan as it stands, to begin with it."""
    return queries.lesson_timeline(asker(request), lesson_id, fresh=fresh)


@router.get("/lessons/{lesson_id}/conduct", response=ConductState | None)
def get_conduct(request: HttpRequest, lesson_id: UUID) -> Any:
    return queries.conduct_state(queries.lesson_of(asker(request), lesson_id))


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
    return queries.conduct_state(kept.lesson)


class DoneRow(Schema):
    block_id: UUID | None
    block: str
    label: str
    seconds: int
    planned: int
    words: str


@router.get("/lessons/{lesson_id}/record", response=list[DoneRow])
def get_record(request: HttpRequest, lesson_id: UUID) -> list[dict[str, Any]]:
    """What was really done in a conducted lesson."""
    return queries.conduct_record(asker(request), lesson_id)


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
    return queries.run_sheet(asker(request), activity_id)
