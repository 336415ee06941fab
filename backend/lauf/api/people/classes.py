"""Routes for people."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import Made
from lauf.people import actions, queries
from lauf.people.queries.classes import ClassList, ClassPage

router = Router(tags=["people"])


class NewClass(Schema):
    name: str
    year_group_id: UUID
    children: str


@router.get("/classes", response=ClassList)
def list_classes(request: HttpRequest) -> ClassList:
    return queries.class_list(signed_in_staff(request))


@router.post("/classes", response={201: Made})
def add_class(request: HttpRequest, new: NewClass) -> Any:
    return Status(201, actions.add_class(signed_in_staff(request), **new.model_dump()))


@router.get("/classes/{class_id}", response=ClassPage)
def get_class(request: HttpRequest, class_id: UUID) -> ClassPage:
    return queries.class_page(signed_in_staff(request), class_id)


class ClassChange(Schema):
    name: str = Field(max_length=100)
    year_group_id: UUID
    teacher_ids: list[UUID] = Field(max_length=60)


@router.put("/classes/{class_id}", response=ClassPage)
def change_class(request: HttpRequest, class_id: UUID, change: ClassChange) -> ClassPage:
    staff = signed_in_staff(request)
    actions.change_class(staff, class_id, **change.model_dump())
    return queries.class_page(staff, class_id)


@router.delete("/classes/{class_id}", response={204: None})
def remove_class(request: HttpRequest, class_id: UUID) -> Any:
    """Only one that nobody is in, and nothing was kept in."""
    actions.remove_class(signed_in_staff(request), class_id)
    return Status(204, None)


class GroupEntry(Schema):
    """The group of a child by its name; empty for none."""

    pupil_id: UUID
    group: str = Field("", max_length=100)


class ClassGroups(Schema):
    rows: list[GroupEntry] = Field(max_length=60)


@router.put("/classes/{class_id}/groups", response=ClassPage)
def set_groups(request: HttpRequest, class_id: UUID, entry: ClassGroups) -> ClassPage:
    staff = signed_in_staff(request)
    actions.set_groups(staff, class_id, {one.pupil_id: one.group for one in entry.rows})
    return queries.class_page(staff, class_id)


class ClassOrder(Schema):
    pupils: list[UUID] = Field(max_length=60)


@router.put("/classes/{class_id}/order", response=ClassPage)
def set_order(request: HttpRequest, class_id: UUID, order: ClassOrder) -> ClassPage:
    staff = signed_in_staff(request)
    actions.set_order(staff, class_id, order.pupils)
    return queries.class_page(staff, class_id)
