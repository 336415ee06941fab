"""The clocks of a test in a lesson."""

from __future__ import annotations

from typing import Any, Literal
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.api.shared import Pause, SinceEpoch
from lauf.lessons import actions
from lauf.lessons import models as kept
from lauf.rules.reading.clocks import Way

router = Router(tags=["lessons"])


class RunState(Schema):
    """A clock shows now − anchor, or paused_ms while paused (milliseconds); its effort begins at
    go_ms of it. `pauses` are those that are over. A wave's
    clock says which wave it is of."""

    way: Way = Way.WAVE
    wave: int | None = Field(None, ge=1, le=99)
    try_number: int = Field(1, ge=1, le=16)
    revision: int = Field(ge=1, le=1_000_000)
    anchor_ms: SinceEpoch
    go_ms: int = Field(0, ge=0, le=3_600_000)
    paused_ms: int | None = Field(None, ge=0, le=2**40)
    pauses: list[Pause] = Field(default_factory=list, max_length=500)
    ended: kept.Run.Ended | Literal[""] = ""
    worked_seconds: int | None = Field(None, ge=0, le=86_400)


class Run(RunState):
    id: UUID


@router.put("/activities/{activity_id}/runs/{run_id}", response=Run)
def report_run(request: HttpRequest, activity_id: UUID, run_id: UUID, state: RunState) -> Any:
    return actions.report_run(asker(request), activity_id, run_id, **state.model_dump())
