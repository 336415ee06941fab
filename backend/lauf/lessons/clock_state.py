"""The state of one clock of a test: sent by a device, kept, and answered, in one shape."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from annotated_types import Ge, Le
from pydantic import BaseModel, ConfigDict, Field

from lauf.lessons.models import Run
from lauf.rules.reading.clocks import LATEST, Way

#: Milliseconds since 1970, within what clocks can count with.
SinceEpoch = Annotated[int, Ge(0), Le(int(LATEST.timestamp() * 1000))]


class Pause(BaseModel):
    """A stretch in which a clock stood, in milliseconds since 1970."""

    model_config = ConfigDict(from_attributes=True)

    from_ms: SinceEpoch
    to_ms: SinceEpoch


class RunState(BaseModel):
    """A clock shows now − anchor, or paused_ms while paused (milliseconds); its effort begins at
    go_ms of it. `pauses` are those that are over. A wave's clock says which wave it is of."""

    model_config = ConfigDict(from_attributes=True)

    way: Way = Way.WAVE
    wave: Annotated[int, Ge(1), Le(99)] | None = None
    try_number: Annotated[int, Ge(1), Le(16)] = 1
    revision: Annotated[int, Ge(1), Le(1_000_000)]
    anchor_ms: SinceEpoch
    go_ms: Annotated[int, Ge(0), Le(3_600_000)] = 0
    paused_ms: Annotated[int, Ge(0), Le(2**40)] | None = None
    pauses: list[Pause] = Field(default_factory=list, max_length=500)
    ended: Run.Ended | Literal[""] = ""
    worked_seconds: Annotated[int, Ge(0), Le(86_400)] | None = None


class RunRow(RunState):
    """A clock as it is kept."""

    id: UUID
