"""The whole school goes up a year."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.people import actions, queries
from lauf.people.queries.move_up import MoveUpPreview

router = Router(tags=["school"])


class ClassMoveEntry(Schema):
    class_id: UUID
    name: str = Field("", max_length=100)
    year_group_id: UUID | None


class NewClassEntry(Schema):
    name: str = Field(max_length=100)
    year_group_id: UUID


class MoveException(Schema):
    """A child that does not go with its class: into another, or (None) it leaves."""

    pupil_id: UUID
    class_id: UUID | None


class MoveUpEntry(Schema):
    moves: list[ClassMoveEntry] = Field(max_length=100)
    exceptions: list[MoveException] = Field(default_factory=list, max_length=500)
    new: list[NewClassEntry] = Field(default_factory=list, max_length=30)
    sure: bool = False


@router.get("/school/move-up", response=MoveUpPreview)
def move_up_preview(request: HttpRequest) -> MoveUpPreview:
    return queries.move_up_preview(signed_in_staff(request))


@router.post("/school/move-up", response=MoveUpPreview)
def move_up(request: HttpRequest, entry: MoveUpEntry) -> MoveUpPreview:
    """The whole school goes up a year."""
    staff = signed_in_staff(request)
    actions.move_up(
        staff,
        [actions.ClassMove(one.class_id, one.name, one.year_group_id) for one in entry.moves],
        exceptions={one.pupil_id: one.class_id for one in entry.exceptions},
        new=[actions.NewClass(one.name, one.year_group_id) for one in entry.new],
        now=timezone.now(),
        sure=entry.sure,
    )
    return queries.move_up_preview(staff)


@router.delete("/school/move-up", response=MoveUpPreview)
def undo_move_up(request: HttpRequest) -> MoveUpPreview:
    """Back to where everybody was, until the first score of the new year."""
    staff = signed_in_staff(request)
    actions.undo_move_up(staff)
    return queries.move_up_preview(staff)
