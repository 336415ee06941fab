"""Addresses for what sensors send."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.records import sensors

router = Router(tags=["sensors"])


class BeltMessage(Schema):
    """One Heart Rate Measurement of a child's belt, its bytes in hexadecimal."""

    pupil_id: UUID
    hex: str = Field(max_length=80)


class BeltMessages(Schema):
    messages: list[BeltMessage] = Field(max_length=60)


class BeltPulse(Schema):
    """The rate, or why the message is no pulse."""

    pupil_id: UUID
    bpm: int | None
    problem: str | None


class GateLines(Schema):
    """Every line since the start, in the order they came: "P,runner,milliseconds"."""

    lines: list[Annotated[str, Field(max_length=40)]] = Field(max_length=5000)


class GatePassage(Schema):
    """Who passed (None: the gate does not know) and when, or why the line is left out."""

    pupil_id: UUID | None
    at_ms: int | None
    problem: str | None


@router.post("/lessons/{lesson_id}/belts", response=list[BeltPulse])
def read_belts(request: HttpRequest, lesson_id: UUID, given: BeltMessages) -> list[dict[str, Any]]:
    messages = [(one.pupil_id, one.hex) for one in given.messages]
    return sensors.belt_readings(asker(request), lesson_id, messages)


@router.post("/activities/{activity_id}/gate", response=list[GatePassage])
def read_gate(request: HttpRequest, activity_id: UUID, given: GateLines) -> list[dict[str, Any]]:
    return sensors.gate_passages(asker(request), activity_id, given.lines)
