"""Reads of classes and the children in them."""

from __future__ import annotations

from datetime import date
from typing import Any, NotRequired
from uuid import UUID

from django.db.models import Count, OuterRef, QuerySet, Subquery
from django.db.models.functions import Coalesce
from typing_extensions import TypedDict

from lauf.people.models import Pupil, Staff
from lauf.people.permissions import May, may
from lauf.people.queries.scope import class_of, classes_of
from lauf.people.shapes import Day, Named
from lauf.rules.planning.care import Care


class ClassRow(TypedDict):
    """A class, with how many children it has."""

    id: UUID
    name: str
    year_group: str
    children: int
    medical_notes: int


class ExclusionRow(TypedDict):
    """What a child is not to do; `until` is the last day, None: without an end."""

    what: Care
    until: NotRequired[Day | None]


class PupilRow(TypedDict):
    """A child of a class."""

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


class LeaverRow(TypedDict):
    """A child that has left a class."""

    id: UUID
    name: str
    left_on: date


class ClassPage(TypedDict):
    """A class and its children."""

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


class ClassList(TypedDict):
    """The classes in scope, and the school's year groups."""

    classes: list[ClassRow]
    year_groups: list[Named]
    may_add: bool


def children_in(field: str) -> dict[str, Coalesce]:
    """For `annotate`: how many `children` the class has that this field names, and how many of
    them have a care note (`notes`). Counted class by class: from a join, PostgreSQL expects all
    who ever were at the school, and then reads all their lessons."""
    there = Pupil.objects.filter(school_class=OuterRef(field)).order_by().values("school_class")

    def number(pupils: QuerySet[Pupil, Any]) -> Coalesce:
        return Coalesce(Subquery(pupils.annotate(n=Count("pk")).values("n")), 0)

    return {"children": number(there), "notes": number(there.exclude(medical_note=""))}


def class_list(staff: Staff) -> ClassList:
    """The classes in scope with how many children and notes each has, and the school's year groups
    in order. Two queries."""
    rows: QuerySet[Any] = (
        classes_of(staff)
        .filter(closed_on=None)
        .annotate(**children_in("pk"))
        .select_related("year_group")
        .order_by("year_group__position", "name")
    )
    return {
        "classes": [
            {
                "id": row.id,
                "name": row.name,
                "year_group": row.year_group.name,
                "children": row.children,
                "medical_notes": row.notes,
            }
            for row in rows
        ],
        "year_groups": [{"id": one.id, "name": one.name} for one in staff.school.year_groups.all()],
        "may_add": may(staff, May.MANAGE_SCHOOL),
    }


def class_page(staff: Staff, class_id: UUID) -> ClassPage:
    """One class with its children, what they are kept from, and who teaches it; for who may change
    it also who has left it. Six queries. Raises NotFound."""
    found = class_of(staff, class_id)
    may_change = may(staff, May.MANAGE_SCHOOL)
    gone = found.leavers.order_by("-left_on", "given_name") if may_change else ()
    return {
        "id": found.id,
        "name": found.name,
        "year_group": found.year_group.name,
        "year_group_id": found.year_group_id,
        "closed_on": found.closed_on,
        "teachers": [{"id": one.id, "name": one.name} for one in found.teachers.order_by("name")],
        "may_change": may_change,
        "leavers": [
            {"id": one.id, "name": one.name, "left_on": one.left_on}
            for one in gone
            if one.left_on is not None
        ],
        "houses": [{"id": one.id, "name": one.name} for one in found.school.houses.all()],
        "pupils": [
            {
                "id": pupil.id,
                "name": pupil.name,
                "given": pupil.given_name,
                "family": pupil.family_name,
                "house_id": pupil.house_id,
                "house": pupil.house.name if pupil.house else "",
                "born": pupil.born,
                "sex": pupil.sex,
                "number": pupil.number,
                "medical_note": pupil.medical_note,
                "group": pupil.group,
                "measuring": Pupil.Consent(pupil.measuring),
                "exclusions": [
                    {"what": Care(one.what), "until": one.until} for one in pupil.exclusions.all()
                ],
            }
            for pupil in found.pupils.select_related("house").prefetch_related("exclusions")
        ],
    }
