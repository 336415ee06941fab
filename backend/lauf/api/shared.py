"""Shapes that several addresses answer with."""

from __future__ import annotations

from datetime import datetime
from typing import Final
from uuid import UUID

import segno
from django.utils import timezone
from ninja import Field
from typing_extensions import TypedDict

from lauf.api.shape import Schema
from lauf.messages import say
from lauf.people.models import Pupil
from lauf.rules.reading.clocks import device_moment

Sex = Pupil.Sex


CLOCK_WRONG: Final = say(
    "This device's clock is wrong, so the score was saved with the server's time. "
    "Set the date and time of this device."
)


def taken_at(device_time: datetime) -> tuple[datetime, str]:
    """When an entry was made, and what to tell about the device's clock ("" for nothing)."""
    moment, possible = device_moment(device_time, timezone.now())
    return moment, "" if possible else CLOCK_WRONG


def qr_of(address: str) -> str:
    """The QR code of an address as a picture on white, which it needs on a dark wall."""
    return segno.make(address, error="m").svg_data_uri(scale=8, border=4, light="white")


class Followed(TypedDict):
    """The lesson whose events are followed."""

    lesson_id: UUID


class Made(Schema):
    """The id of what was made."""

    id: UUID


class ClassChoice(Schema):
    class_id: UUID


class Reason(Schema):
    """Why something is done, in the words of who does it."""

    why: str = Field(max_length=240)
