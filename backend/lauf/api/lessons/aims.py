"""Addresses of targets of one's own."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.progress import aims
from lauf.records import actions

router = Router(tags=["scores"])


class AimRow(Schema):
    """One child: what is proposed and what it said, of which form; `done` once it has an entry,
    `met` and `words` how that went against what was said."""

    pupil_id: UUID
    name: str
    variant: str
    variant_name: str
    proposed: str | None
    said: str
    done: bool
    shown: str
    met: bool | None
    words: str


class GroupAimRow(Schema):
    """A group, "" for the whole class: what it said it will do together, and how that goes."""

    group: str
    children: int
    said: int | None
    begun: bool
    met: bool | None
    words: str


class ClassAims(Schema):
    """Every child in list order, and how well the class knew itself."""

    activity_id: UUID
    test: str
    # Where the scores of the test add up.
    groups: list[GroupAimRow]
    children: list[AimRow]
    words: str


class NewGroupAim(Schema):
    group: str = Field("", max_length=40)
    typed: str = Field("", max_length=20)


class NewAim(Schema):
    typed: str = Field("", max_length=180)
    variant: str = Field("", max_length=20)


@router.get("/activities/{activity_id}/aims", response=ClassAims)
def get_aims(request: HttpRequest, activity_id: UUID) -> dict[str, Any]:
    return aims.class_aims(asker(request), activity_id)


@router.post("/activities/{activity_id}/aims", response=ClassAims)
def accept_proposed(request: HttpRequest, activity_id: UUID) -> dict[str, Any]:
    """What is proposed becomes what is said, for all who have said nothing."""
    staff = asker(request)
    actions.accept_proposed(staff, activity_id, aims.proposals(staff, activity_id))
    return aims.class_aims(staff, activity_id)


@router.put("/activities/{activity_id}/aims/{pupil_id}", response=ClassAims)
def say_aim(request: HttpRequest, activity_id: UUID, pupil_id: UUID, new: NewAim) -> dict[str, Any]:
    """What one child says; nothing typed takes it back."""
    staff = asker(request)
    actions.say_aim(staff, activity_id, pupil_id, new.typed, new.variant)
    return aims.class_aims(staff, activity_id)


@router.put("/activities/{activity_id}/group-aims", response=ClassAims)
def say_group_aim(request: HttpRequest, activity_id: UUID, new: NewGroupAim) -> dict[str, Any]:
    """What a group says it will do together; nothing typed takes it back."""
    staff = asker(request)
    actions.say_group_aim(staff, activity_id, new.group, new.typed)
    return aims.class_aims(staff, activity_id)
