"""The state of a lesson's conductor: sent by a device, kept as JSON, and answered, in one shape."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from annotated_types import Ge, Le, MaxLen, MinLen
from pydantic import BaseModel, Field

from lauf.lessons.clock_state import Pause, SinceEpoch
from lauf.lessons.models import Conduct
from lauf.rules.reading.clocks import Wall

SegmentId = Annotated[str, MaxLen(60)]
Milliseconds = Annotated[int, Ge(-(2**40)), Le(2**40)]
Label = Annotated[str, MaxLen(120)]


class SegmentEdit(BaseModel):
    """A segment made longer (or shorter) on the spot."""

    segment: SegmentId
    add_ms: Milliseconds


class SegmentDone(BaseModel):
    """What was really done of a segment: how long, of how long, what, and when it was left."""

    segment: SegmentId
    seconds: Annotated[int, Ge(0), Le(86_400)]
    planned: Annotated[int, Ge(0), Le(86_400)]
    block: Label = ""
    label: Label = ""
    at_ms: SinceEpoch | None = None


class Swap(BaseModel):
    """From a segment on, something else is done instead of `was` (a movement, or a whole block's
    test, which then has an activity of its own)."""

    segment: SegmentId
    was: Label
    label: Annotated[Label, MinLen(1)]
    activity_id: UUID | None = None
    # How long the clock of that test runs, where it has one: its goes are as long from then on.
    seconds: Annotated[int, Ge(1), Le(7200)] | None = None


class ConductState(BaseModel):
    """The conductor's clock shows now − anchor, or paused_ms while paused. `edits` lengthen or
    shorten segments; `done` says how many seconds each was really done; `wall` is what the
    projector may show."""

    run_id: UUID
    revision: Annotated[int, Ge(1), Le(1_000_000)]
    plan_revision: Annotated[int, Ge(0), Le(1_000_000)]
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

    def kept(self) -> dict[str, object]:
        """What of it is kept as JSON; its run and revisions are columns of their own."""
        return self.model_dump(mode="json", exclude={"run_id", "revision", "plan_revision"})


def state_of(conduct: Conduct) -> ConductState:
    """The state of a conductor as it was reported last."""
    return ConductState.model_validate(
        {
            **conduct.state,
            "run_id": conduct.run_id,
            "revision": conduct.revision,
            "plan_revision": conduct.plan_revision,
        }
    )
