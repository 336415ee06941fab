"""Routes for targets of one's own."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.progress.lesson import aims
from lauf.progress.lesson.aims import ClassAims
from lauf.records import actions

router = Router(tags=["scores"])


class NewGroupAim(Schema):
    group: str = Field("", max_length=40)
    typed: str = Field("", max_length=20)


class NewAim(Schema):
    typed: str = Field("", max_length=180)
    variant: str = Field("", max_length=20)


@router.get("/activities/{activity_id}/aims", response=ClassAims)
def get_aims(request: HttpRequest, activity_id: UUID) -> ClassAims:
    return aims.class_aims(signed_in_staff(request), activity_id)


@router.post("/activities/{activity_id}/aims", response=ClassAims)
def accept_proposed(request: HttpRequest, activity_id: UUID) -> ClassAims:
    """What is proposed becomes what is said, for all who have said nothing."""
    staff = signed_in_staff(request)
    actions.accept_proposed(staff, activity_id, aims.proposals(staff, activity_id))
    return aims.class_aims(staff, activity_id)


@router.put("/activities/{activity_id}/aims/{pupil_id}", response=ClassAims)
def say_aim(request: HttpRequest, activity_id: UUID, pupil_id: UUID, new: NewAim) -> ClassAims:
    """What one child says; nothing typed takes it back."""
    staff = signed_in_staff(request)
    actions.say_aim(staff, activity_id, pupil_id, new.typed, new.variant)
    return aims.class_aims(staff, activity_id)


@router.put("/activities/{activity_id}/group-aims", response=ClassAims)
def say_group_aim(request: HttpRequest, activity_id: UUID, new: NewGroupAim) -> ClassAims:
    """What a group says it will do together; nothing typed takes it back."""
    staff = signed_in_staff(request)
    actions.say_group_aim(staff, activity_id, new.group, new.typed)
    return aims.class_aims(staff, activity_id)
