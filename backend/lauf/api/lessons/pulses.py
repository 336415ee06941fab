"""Routes for pulses."""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router
from pydantic import AwareDatetime

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import taken_at
from lauf.progress.lesson.pulse import PulseChild, PulsePage, pulse_child_after, pulse_page
from lauf.records import actions
from lauf.rules.body.pulse import Formula, Moment

router = Router(tags=["pulses"])


class NewPulse(Schema):
    """One pulse as counted: beats in `seconds` (60 for a rate that was read), or a reason."""

    id: UUID
    pupil_id: UUID
    position: int = Field(ge=0, le=60)
    moment: Moment
    label: str = Field("", max_length=80)
    waited: Annotated[int, Field(ge=0, le=3600)] | None = None
    typed: str = Field("", max_length=40)
    seconds: int
    recorded_at: AwareDatetime
    succeeds: UUID | None = None
    confirmed: bool = False
    withdrawn: bool = False
    # An earlier reading of this child and moment that counts again, exactly as it was kept.
    restores: UUID | None = None


@router.get("/lessons/{lesson_id}/pulse", response=PulsePage)
def get_pulse(
    request: HttpRequest, lesson_id: UUID, formula: Formula = Formula.TANAKA
) -> PulsePage:
    return pulse_page(signed_in_staff(request), lesson_id, formula)


@dataclass(frozen=True, slots=True)
class RecordedPulse(PulseChild):
    """The child after a reading. `device_clock`: what is wrong with the clock of the device."""

    device_clock: str


@router.post("/lessons/{lesson_id}/pulses", response=RecordedPulse)
def record_pulse(
    request: HttpRequest, lesson_id: UUID, new: NewPulse, formula: Formula = Formula.TANAKA
) -> RecordedPulse:
    staff, sent = signed_in_staff(request), new.model_dump()
    sent["recorded_at"], device_clock = taken_at(new.recorded_at)
    actions.record_pulse(staff, lesson_id, reading_id=sent.pop("id"), **sent)
    child = pulse_child_after(staff, lesson_id, new.pupil_id, formula)
    held = {one.name: getattr(child, one.name) for one in fields(child)}
    return RecordedPulse(**held, device_clock=device_clock)
