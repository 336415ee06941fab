"""Addresses of pulses."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router
from pydantic import AwareDatetime

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.api.shared import taken_at
from lauf.progress import pulse
from lauf.records import actions
from lauf.rules.body.pulse import Formula, Moment

router = Router(tags=["pulses"])


class PulseFlag(Schema):
    code: str
    words: str


class PulseRow(Schema):
    id: UUID
    position: int
    typed: str
    seconds: int | None
    rate: int | None
    shown: str
    taken_back: bool
    reason: str | None
    confirmed: bool
    flags: list[PulseFlag]


class PulseChild(Schema):
    pupil_id: UUID
    number: int
    name: str
    medical_note: str
    readings: list[PulseRow]
    words: list[str]


class PulseColumn(Schema):
    position: int
    moment: str
    label: str
    words: str
    n: int
    median: int | None


class PulsePage(Schema):
    lesson_id: UUID
    closed_at: datetime | None
    formula: str
    caution: str
    seconds: list[int]
    columns: list[PulseColumn]
    most: str | None
    children: list[PulseChild]


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
) -> dict[str, Any]:
    return pulse.pulse_page(asker(request), lesson_id, formula)


class RecordedPulse(PulseChild):
    """The child after a reading. `device_clock`: what is wrong with the clock of the device."""

    device_clock: str


@router.post("/lessons/{lesson_id}/pulses", response=RecordedPulse)
def record_pulse(
    request: HttpRequest, lesson_id: UUID, new: NewPulse, formula: Formula = Formula.TANAKA
) -> dict[str, Any]:
    staff, fields = asker(request), new.model_dump()
    fields["recorded_at"], device_clock = taken_at(new.recorded_at)
    actions.record_pulse(staff, lesson_id, reading_id=fields.pop("id"), **fields)
    child = pulse.pulse_child_after(staff, lesson_id, new.pupil_id, formula)
    return {**child, "device_clock": device_clock}
