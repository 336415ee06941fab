"""Addresses about people."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Schema, Status

from lauf.api.asker import asker
from lauf.api.shared import Made
from lauf.people import actions, queries
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
    born: date | None
    medical_note: str


class ClassPage(Schema):
    id: UUID
    name: str
    year_group: str
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
    role: str
    may_see_growth: bool


class SchoolSettings(Schema):
    name: str
    imperial: bool
    staff: list[StaffRow]


class Units(Schema):
    imperial: bool


class GrowthPermission(Schema):
    may_see_growth: bool


@router.get("/school", response=SchoolSettings)
def get_school(request: HttpRequest) -> dict[str, Any]:
    return queries.school_settings(asker(request))


@router.put("/school/units", response=SchoolSettings)
def set_units(request: HttpRequest, units: Units) -> dict[str, Any]:
    staff = asker(request)
    actions.set_units(staff, imperial=units.imperial)
    return queries.school_settings(staff)


@router.put("/staff/{staff_id}/growth", response=SchoolSettings)
def grant_growth(request: HttpRequest, staff_id: UUID, given: GrowthPermission) -> dict[str, Any]:
    staff = asker(request)
    actions.grant_growth(staff, staff_id, may_see_growth=given.may_see_growth)
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
