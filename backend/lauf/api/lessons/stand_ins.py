"""Routes for the stand-ins; there in the demo only."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest
from ninja import Query, Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.demo import devices
from lauf.errors import NotFound
from lauf.messages import say
from lauf.people.models import Staff
from lauf.records.sensors import BeltMessage

router = Router(tags=["stand-ins"])

#: An hour of a gate's clock: what one look may ask for.
Milliseconds = Annotated[int, Query(ge=0, le=3_600_000)]


class Lines(Schema):
    lines: list[str]


def _asker(request: HttpRequest) -> Staff:
    staff = signed_in_staff(request)
    if not settings.DEMO:
        raise NotFound(say("stand-in device (they come with the demo)"))
    return staff


@router.get("/stand-ins/belts/{lesson_id}", response=list[BeltMessage])
def belts(
    request: HttpRequest,
    lesson_id: UUID,
    second: Annotated[int, Query(ge=0)] = 0,
    effort: Annotated[int, Query(ge=0, le=100)] = 0,
    trouble: devices.BeltTrouble = "none",
) -> list[BeltMessage]:
    """One message of every belt of the class."""
    return devices.belt_messages(_asker(request), lesson_id, second, effort, trouble)


@router.get("/stand-ins/gate/{activity_id}", response=Lines)
def gate(
    request: HttpRequest,
    activity_id: UUID,
    until_ms: Milliseconds,
    since_ms: Milliseconds = 0,
    trouble: devices.GateTrouble = "none",
) -> Lines:
    """The lines of the gate between two moments of its clock."""
    found = devices.gate_lines(_asker(request), activity_id, since_ms, until_ms, trouble)
    return Lines(lines=found)
