"""Addresses about people."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Query, Router, Status

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.api.shared import ClassChoice, Day, Made, Named, Sex
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


class CareEntry(Schema):
    """What the family has said to height and weight, and what the child is not to do."""

    measuring: Pupil.Consent
    exclusions: list[ExclusionRow] = Field(max_length=10)


@router.put("/pupils/{pupil_id}/care", response=Made)
def set_care(request: HttpRequest, pupil_id: UUID, entry: CareEntry) -> Any:
    exclusions = {one.what: one.until for one in entry.exclusions}
    return actions.set_care(
        asker(request), pupil_id, measuring=entry.measuring, exclusions=exclusions
    )


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
    return Status(201, actions.add_pupil(asker(request), class_id, **entry.model_dump()))


@router.put("/pupils/{pupil_id}/details", response=Made)
def change_pupil(request: HttpRequest, pupil_id: UUID, entry: PupilEntry) -> Any:
    return actions.change_pupil(asker(request), pupil_id, **entry.model_dump())


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
