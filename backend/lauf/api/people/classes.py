"""Addresses about people."""

from __future__ import annotations

from datetime import date
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.api.shared import Day, Made, Named
from lauf.people import actions, queries
from lauf.people.models import Pupil
from lauf.people.permissions import May, may
from lauf.rules.planning.care import Care

router = Router(tags=["people"])


class ClassRow(Schema):
    id: UUID
    name: str
    year_group: str
    children: int
    medical_notes: int


class ExclusionRow(Schema):
    """What a child is not to do; `until` is the last day, None: without an end."""

    what: Care
    until: Day | None = None


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
    # The group of the class, by its name; empty for none.
    group: str
    measuring: Pupil.Consent
    exclusions: list[ExclusionRow]


class LeaverRow(Schema):
    id: UUID
    name: str
    left_on: date


class ClassPage(Schema):
    id: UUID
    name: str
    year_group: str
    year_group_id: UUID
    # Since when nobody is in it any more.
    closed_on: date | None
    teachers: list[Named]
    # Whether the asker may add, change and move its children.
    may_change: bool
    houses: list[Named]
    pupils: list[PupilRow]
    # Who has left it, the last first; for who may change it.
    leavers: list[LeaverRow]


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
    return Status(201, actions.add_class(asker(request), **new.model_dump()))


@router.get("/classes/{class_id}", response=ClassPage)
def get_class(request: HttpRequest, class_id: UUID) -> dict[str, Any]:
    return queries.class_page(asker(request), class_id)


class ClassChange(Schema):
    name: str = Field(max_length=100)
    year_group_id: UUID
    teacher_ids: list[UUID] = Field(max_length=60)


@router.put("/classes/{class_id}", response=ClassPage)
def change_class(request: HttpRequest, class_id: UUID, change: ClassChange) -> dict[str, Any]:
    staff = asker(request)
    actions.change_class(staff, class_id, **change.model_dump())
    return queries.class_page(staff, class_id)


@router.delete("/classes/{class_id}", response={204: None})
def remove_class(request: HttpRequest, class_id: UUID) -> Any:
    """Only one that nobody is in, and nothing was kept in."""
    actions.remove_class(asker(request), class_id)
    return Status(204, None)


class GroupEntry(Schema):
    """The group of a child by its name; empty for none."""

    pupil_id: UUID
    group: str = Field("", max_length=100)


class ClassGroups(Schema):
    rows: list[GroupEntry] = Field(max_length=60)


@router.put("/classes/{class_id}/groups", response=ClassPage)
def set_groups(request: HttpRequest, class_id: UUID, entry: ClassGroups) -> dict[str, Any]:
    staff = asker(request)
    actions.set_groups(staff, class_id, {one.pupil_id: one.group for one in entry.rows})
    return queries.class_page(staff, class_id)


class ClassOrder(Schema):
    pupils: list[UUID] = Field(max_length=60)


@router.put("/classes/{class_id}/order", response=ClassPage)
def set_order(request: HttpRequest, class_id: UUID, order: ClassOrder) -> dict[str, Any]:
    staff = asker(request)
    actions.set_order(staff, class_id, order.pupils)
    return queries.class_page(staff, class_id)
