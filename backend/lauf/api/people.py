"""Addresses about people."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

import segno
from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Query, Router, Schema, Status

from lauf.api.asker import asker
from lauf.api.shared import ClassChoice, Day, Made, Named, Sex
from lauf.people import actions, queries
from lauf.people import models as kept
from lauf.people.permissions import May, may

router = Router(tags=["people"])


class ClassRow(Schema):
    id: UUID
    name: str
    year_group: str
    children: int
    medical_notes: int


class PupilRow(Schema):
    id: UUID
    name: str
    house: str
    given: str
    family: str
    house_id: UUID | None
    born: date | None
    sex: str
    number: str
    medical_note: str


class ClassPage(Schema):
    id: UUID
    name: str
    year_group: str
    # Whether the asker may add, change and move its children.
    may_change: bool
    houses: list[Named]
    pupils: list[PupilRow]


class YearGroupRow(Schema):
    id: UUID
    name: str


class ClassList(Schema):
    classes: list[ClassRow]
    year_groups: list[YearGroupRow]
    may_add: bool


class NewClass(Schema):
    name: str
    year_group_id: UUID
    children: str


@router.get("/classes", response=ClassList)
def list_classes(request: HttpRequest) -> dict[str, Any]:
    staff = asker(request)
    return {
        "classes": queries.class_list(staff),
        "year_groups": queries.year_groups_of(staff),
        "may_add": may(staff, May.MANAGE_SCHOOL),
    }


@router.post("/classes", response={201: Made})
def add_class(request: HttpRequest, new: NewClass) -> Any:
    return Status(201, actions.add_class(asker(request), **new.dict()))


@router.get("/classes/{class_id}", response=ClassPage)
def get_class(request: HttpRequest, class_id: UUID) -> dict[str, Any]:
    return queries.class_page(asker(request), class_id)


class PupilEntry(Schema):
    """What is known about a child. `sure` keeps a birth date or a double that was asked about."""

    given: str = Field(max_length=100)
    family: str = Field("", max_length=100)
    born: Day | None = None
    sex: Sex | Literal[""] = ""
    house_id: UUID | None = None
    note: str = Field("", max_length=240)
    number: str = Field("", max_length=40)
    sure: bool = False


@router.post("/classes/{class_id}/pupils", response={201: Made})
def add_pupil(request: HttpRequest, class_id: UUID, entry: PupilEntry) -> Any:
    return Status(201, actions.add_pupil(asker(request), class_id, **entry.dict()))


@router.put("/pupils/{pupil_id}/details", response=Made)
def change_pupil(request: HttpRequest, pupil_id: UUID, entry: PupilEntry) -> Any:
    return actions.change_pupil(asker(request), pupil_id, **entry.dict())


@router.post("/pupils/{pupil_id}/move", response=Made)
def move_pupil(request: HttpRequest, pupil_id: UUID, choice: ClassChoice) -> Any:
    """Into another class, or back after having left."""
    return actions.move(asker(request), pupil_id, choice.class_id)


@router.post("/pupils/{pupil_id}/leave", response=Made)
def leave(request: HttpRequest, pupil_id: UUID) -> Any:
    return actions.leave(asker(request), pupil_id, on=timezone.localdate())


class Hit(Schema):
    id: UUID
    name: str
    where: str


class Hits(Schema):
    pupils: list[Hit]
    classes: list[Hit]


@router.get("/search", response=Hits)
def search(request: HttpRequest, q: Annotated[str, Query(max_length=100)]) -> dict[str, Any]:
    """Children and classes by any part of their names."""
    return queries.search(asker(request), q)


class ClassOrder(Schema):
    pupils: list[UUID] = Field(max_length=60)


@router.put("/classes/{class_id}/order", response=ClassPage)
def set_order(request: HttpRequest, class_id: UUID, order: ClassOrder) -> dict[str, Any]:
    staff = asker(request)
    actions.set_order(staff, class_id, order.pupils)
    return queries.class_page(staff, class_id)


class StaffRow(Schema):
    id: UUID
    name: str
    username: str
    role: str
    may_see_growth: bool
    may_edit_tests: bool
    is_active: bool
    # Whether a password was set: somebody invited has none yet.
    has_password: bool
    # Until when a link lets in that was not used yet.
    link_until: datetime | None
    class_ids: list[UUID]


class SchoolSettings(Schema):
    name: str
    imperial: bool
    staff: list[StaffRow]


class Units(Schema):
    imperial: bool


@router.get("/school", response=SchoolSettings)
def get_school(request: HttpRequest) -> dict[str, Any]:
    return queries.school_settings(asker(request))


@router.put("/school/units", response=SchoolSettings)
def set_units(request: HttpRequest, units: Units) -> dict[str, Any]:
    staff = asker(request)
    actions.set_units(staff, imperial=units.imperial)
    return queries.school_settings(staff)


class StaffEntry(Schema):
    """Somebody who signs in, and what they may."""

    name: str = Field(max_length=200)
    role: kept.Staff.Role
    class_ids: list[UUID] = Field(default_factory=list, max_length=200)
    may_edit_tests: bool = True
    may_see_growth: bool = False


class NewStaff(StaffEntry):
    username: str = Field(max_length=200)


class StaffChange(StaffEntry):
    is_active: bool


class StaffLink(Schema):
    """A link that lets somebody set their own password, once; it is shown this one time. `qr` is a
    picture of it (data URI)."""

    name: str
    path: str
    qr: str
    until: datetime


def _link(request: HttpRequest, person: kept.Staff, token: str) -> dict[str, Any]:
    # Behind the sign "#" it reaches no server's log.
    path = f"/welcome#{token}"
    picture = segno.make(request.build_absolute_uri("/")[:-1] + path, error="m")
    return {
        "name": person.name,
        "path": path,
        "qr": picture.svg_data_uri(scale=6, border=2),
        "until": person.invitation.expires_at,
    }


@router.post("/staff", response={201: StaffLink})
def invite(request: HttpRequest, new: NewStaff) -> Any:
    """Let somebody into the school: the answer is the link to hand over."""
    person, token = actions.invite(asker(request), **new.dict())
    return Status(201, _link(request, person, token))


@router.post("/staff/{staff_id}/link", response=StaffLink)
def link_anew(request: HttpRequest, staff_id: UUID) -> dict[str, Any]:
    """A new link, for the first or for a lost password; the one before is worth nothing."""
    person, token = actions.link_anew(asker(request), staff_id)
    return _link(request, person, token)


@router.put("/staff/{staff_id}", response=SchoolSettings)
def change_staff(request: HttpRequest, staff_id: UUID, change: StaffChange) -> dict[str, Any]:
    staff = asker(request)
    actions.change_staff(staff, staff_id, **change.dict())
    return queries.school_settings(staff)


class ChangeRow(Schema):
    """One line of the school's log: who changed what."""

    id: int
    at: datetime
    by: str
    what: str
    words: str


@router.get("/log", response=list[ChangeRow])
def get_log(request: HttpRequest, before: int | None = None) -> list[dict[str, Any]]:
    """The newest lines of the log, or those before a line."""
    return queries.change_log(asker(request), before)
