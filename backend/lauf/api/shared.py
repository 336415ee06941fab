"""Shapes that several addresses answer with."""

from __future__ import annotations

from uuid import UUID

from ninja import Field, Schema


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


class KitRow(Schema):
    item: str
    number: int


class Reason(Schema):
    """Why something is done, in the words of who does it."""

    why: str = Field(max_length=240)
