"""Reads of classes and the children in them."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db.models import Count, Q

from lauf.people.models import Staff
from lauf.people.permissions import May, may
from lauf.people.queries.scope import class_of, classes_of


def class_list(staff: Staff) -> list[dict[str, Any]]:
    """The classes in scope with how many children and notes each has. One query."""
    counted = (
        classes_of(staff)
        .filter(closed_on=None)
        .annotate(
            children=Count("pupils", distinct=True),
            notes=Count("pupils", filter=~Q(pupils__medical_note=""), distinct=True),
        )
    )
    return [
        {
            "id": row.id,
            "name": row.name,
            "year_group": row.year_group.name,
            "children": row.children,
            "medical_notes": row.notes,
        }
        for row in counted.select_related("year_group").order_by("year_group__position", "name")
    ]


def class_page(staff: Staff, class_id: UUID) -> dict[str, Any]:
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
        "teachers": [dict(row) for row in found.teachers.order_by("name").values("id", "name")],
        "may_change": may_change,
        "leavers": [{"id": one.id, "name": one.name, "left_on": one.left_on} for one in gone],
        "houses": [dict(row) for row in found.school.houses.values("id", "name")],
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
                "measuring": pupil.measuring,
                "exclusions": [
                    {"what": one.what, "until": one.until} for one in pupil.exclusions.all()
                ],
            }
            for pupil in found.pupils.select_related("house").prefetch_related("exclusions")
        ],
    }


def year_groups_of(staff: Staff) -> list[dict[str, Any]]:
    """The school's year groups in order. One query."""
    return [dict(row) for row in staff.school.year_groups.values("id", "name")]
