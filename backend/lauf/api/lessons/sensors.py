"""Routes for what sensors send."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.records import sensors
from lauf.records.sensors import BeltMessage, BeltPulse, GatePassage

router = Router(tags=["sensors"])


class BeltMessages(Schema):
    messages: list[BeltMessage] = Field(max_length=60)


class GateLines(Schema):
    """Every line since the start, in the order they came: "P,runner,milliseconds"."""

    lines: list[Annotated[str, Field(max_length=40)]] = Field(max_length=5000)


@router.post("/lessons/{lesson_id}/belts", response=list[BeltPulse])
def read_belts(request: HttpRequest, lesson_id: UUID, given: BeltMessages) -> list[BeltPulse]:
    return sensors.belt_readings(signed_in_staff(request), lesson_id, given.messages)


@router.post("/activities/{activity_id}/gate", response=list[GatePassage])
def read_gate(request: HttpRequest, activity_id: UUID, given: GateLines) -> list[GatePassage]:
    return sensors.gate_passages(signed_in_staff(request), activity_id, given.lines)
