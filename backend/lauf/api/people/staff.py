"""Who signs in, and what they may."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.people.links import StaffLink, link_shown
from lauf.api.shape import Schema
from lauf.people import actions, queries
from lauf.people import models as kept
from lauf.people.permissions import Rights
from lauf.people.queries.school import SchoolSettings

router = Router(tags=["school"])


class StaffEntry(Schema):
    """Somebody who signs in, and what they may."""

    name: str = Field(max_length=200)
    role: kept.Staff.Role
    class_ids: list[UUID] = Field(default_factory=list, max_length=200)
    email: str = Field("", max_length=200)
    may_edit_tests: bool = True
    may_see_growth: bool = False
    may_see_school: bool = False

    def rights(self) -> Rights:
        """What they may beside their role."""
        return Rights(self.may_edit_tests, self.may_see_growth, self.may_see_school)


class NewStaff(StaffEntry):
    username: str = Field(max_length=200)


class StaffChange(StaffEntry):
    is_active: bool


@router.post("/staff", response={201: StaffLink})
def invite(request: HttpRequest, new: NewStaff) -> Any:
    """Let somebody into the school: the answer is the link to hand over."""
    person, token = actions.invite(
        signed_in_staff(request), username=new.username, name=new.name, role=new.role,
        class_ids=new.class_ids, rights=new.rights(), email=new.email,
    )  # fmt: skip
    return Status(201, link_shown(request, person, token))


@router.post("/staff/{staff_id}/link", response=StaffLink)
def link_anew(request: HttpRequest, staff_id: UUID) -> StaffLink:
    """A new link, for the first or for a lost password; the one before is worth nothing."""
    person, token = actions.link_anew(signed_in_staff(request), staff_id)
    return link_shown(request, person, token)


@router.put("/staff/{staff_id}", response=SchoolSettings)
def change_staff(request: HttpRequest, staff_id: UUID, change: StaffChange) -> SchoolSettings:
    staff = signed_in_staff(request)
    actions.change_staff(
        staff, staff_id, name=change.name, role=change.role, class_ids=change.class_ids,
        rights=change.rights(), is_active=change.is_active, email=change.email,
    )  # fmt: skip
    return queries.school_settings(staff)
