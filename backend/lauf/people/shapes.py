"""Shapes that queries of several rooms answer with."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated
from uuid import UUID

from pydantic import AfterValidator, AwareDatetime
from typing_extensions import TypedDict

from lauf.messages import say
from lauf.rules.reading.clocks import EARLIEST, LATEST


def _is_of_this_age(moment: datetime) -> datetime:
    if not EARLIEST <= moment <= LATEST:
        raise ValueError(
            say(
                "A time must be between {earliest} and {latest}.",
                earliest=f"{EARLIEST:%Y}",
                latest=f"{LATEST:%Y}",
            )
        )
    return moment


def _is_day_of_this_age(day: date) -> date:
    if not EARLIEST.date() <= day <= LATEST.date():
        raise ValueError(
            say(
                "A day must be between {earliest} and {latest}.",
                earliest=f"{EARLIEST:%Y}",
                latest=f"{LATEST:%Y}",
            )
        )
    return day


#: A moment and a day as they may be sent: what calendars and clocks can count with.
Instant = Annotated[AwareDatetime, AfterValidator(_is_of_this_age)]
Day = Annotated[date, AfterValidator(_is_day_of_this_age)]


class Named(TypedDict):
    """Something by its id and name."""

    id: UUID
    name: str
