"""Shapes that several addresses answer with."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Final
from uuid import UUID

from django.utils import timezone
from ninja import Field
from pydantic import AfterValidator, AwareDatetime

from lauf.api.shape import Schema
from lauf.people.models import Pupil
from lauf.rules.planning.care import Care
from lauf.rules.reading.clocks import EARLIEST, LATEST, device_moment

Sex = Pupil.Sex


def _is_of_this_age(moment: datetime) -> datetime:
    if not EARLIEST <= moment <= LATEST:
        raise ValueError(f"a time lies between {EARLIEST:%Y} and {LATEST:%Y}")
    return moment


def _is_day_of_this_age(day: date) -> date:
    if not EARLIEST.date() <= day <= LATEST.date():
        raise ValueError(f"a day lies between {EARLIEST:%Y} and {LATEST:%Y}")
    return day


#: A moment and a day as they may be sent: what calendars and clocks can count with.
Instant = Annotated[AwareDatetime, AfterValidator(_is_of_this_age)]
Day = Annotated[date, AfterValidator(_is_day_of_this_age)]
CLOCK_WRONG: Final = (
    "This device's clock is wrong: the score has been saved with the server's time. Set the date "
    "and time of this device."
)


def taken_at(said: datetime) -> tuple[datetime, str]:
    """When an entry was made, and what to tell about the device's clock ("" for nothing)."""
    moment, possible = device_moment(said, timezone.now())
    return moment, "" if possible else CLOCK_WRONG


#: Milliseconds since 1970 within the same bounds.
SinceEpoch = Annotated[int, Field(ge=0, le=int(LATEST.timestamp() * 1000))]


class Pause(Schema):
    """A stretch in which a clock stood, in milliseconds since 1970."""

    from_ms: SinceEpoch
    to_ms: SinceEpoch


class Made(Schema):
    """The id of what was made."""

    id: UUID


class Named(Schema):
    id: UUID
    name: str


class VariantRow(Schema):
    code: str
    name: str
    key: str
    # What a child does who has not been tested yet.
    usual: bool = False


class KitRow(Schema):
    item: str
    number: int


class ClassChoice(Schema):
    class_id: UUID


class CareRow(Schema):
    """What a child is not to do that a test asks of it; `words` go after its name. `allowed`: the
    teacher has said that it may in this lesson."""

    what: list[Care]
    words: str
    allowed: bool


class Reason(Schema):
    """Why something is done, in the words of who does it."""

    why: str = Field(max_length=240)
