"""Shapes that several addresses answer with."""

from __future__ import annotations

from uuid import UUID

from ninja import Field, Schema

from lauf.people.models import Pupil

Sex = Pupil.Sex


class Pause(Schema):
    """A stretch in which a clock stood, in milliseconds since 1970."""

    from_ms: int = Field(ge=0, le=2**52)
    to_ms: int = Field(ge=0, le=2**52)


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


class Reason(Schema):
    """Why something is done, in the words of who does it."""

    why: str = Field(max_length=240)
