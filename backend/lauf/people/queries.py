"""Who may see whom, and the reads about people.

Every other part starts from these scopes: what lies outside them does not exist for the asker.
"""

from __future__ import annotations

from typing import Any, Final
from uuid import UUID

from django.db.models import Count, Q, QuerySet

from lauf.errors import NotFound
from lauf.people.models import Change, Invitation, Pupil, School, SchoolClass, Staff
from lauf.people.permissions import May, demand, may


def classes_of(staff: Staff) -> QuerySet[SchoolClass]:
    """The classes this person may see: all of the school for the head, otherwise the own ones."""
    classes = SchoolClass.objects.filter(school_id=staff.school_id)
    return classes if staff.is_head else classes.filter(teachers=staff)


def pupils_of(staff: Staff) -> QuerySet[Pupil]:
    """The children this person may see: who has left is the head's alone."""
    pupils = Pupil.objects.filter(school_id=staff.school_id)
    return pupils if staff.is_head else pupils.filter(school_class__teachers=staff)


def class_of(staff: Staff, class_id: UUID) -> SchoolClass:
    """One class in scope, with its year group. Raises NotFound. One query."""
    found = classes_of(staff).select_related("year_group", "school").filter(pk=class_id).first()
    if found is None:
        raise NotFound("class")
    return found


def pupil_of(staff: Staff, pupil_id: UUID) -> Pupil:
    """One child in scope, with class, year group, house and school. Raises NotFound. One query."""
    related = ("school", "school_class__year_group", "left_from__year_group", "house")
    found = pupils_of(staff).select_related(*related).filter(pk=pupil_id).first()
    if found is None:
        raise NotFound("child")
    return found


#: How many of a kind a search shows.
_FOUND: Final = 12


def search(staff: Staff, words: str) -> dict[str, list[dict[str, Any]]]:
    """Children and classes in scope whose name has all of the words; those who have left among them
    for the head. Two queries."""
    pupils, classes = pupils_of(staff), classes_of(staff)
    for word in words.split()[:6]:
        pupils = pupils.filter(
            Q(given_name__icontains=word) | Q(family_name__icontains=word) | Q(number=word)
        )
        classes = classes.filter(Q(name__icontains=word) | Q(year_group__name__icontains=word))
    if not words.strip():
        pupils, classes = pupils.none(), classes.none()
    return {
        "pupils": [
            {"id": one.id, "name": one.name, "where": str(one.school_class or "has left")}
            for one in pupils.select_related("school_class").distinct()[:_FOUND]
        ],
        "classes": [
            {"id": one.id, "name": one.name, "where": one.year_group.name}
            for one in classes.select_related("year_group").distinct()[:_FOUND]
        ],
    }


def setup_needed() -> bool:
    """True until the first school exists. One query."""
    return not School.objects.exists()


def class_list(staff: Staff) -> list[dict[str, Any]]:
    """The classes in scope with how many children and notes each has. One query."""
    counted = classes_of(staff).annotate(
        children=Count("pupils", distinct=True),
        notes=Count("pupils", filter=~Q(pupils__medical_note=""), distinct=True),
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
    """One class with its children. Three queries. Raises NotFound."""
    found = class_of(staff, class_id)
    return {
        "id": found.id,
        "name": found.name,
        "year_group": found.year_group.name,
        "may_change": may(staff, May.MANAGE_SCHOOL),
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
            }
            for pupil in found.pupils.select_related("house")
        ],
    }


def year_groups_of(staff: Staff) -> list[dict[str, Any]]:
    """The school's year groups in order. One query."""
    return [dict(row) for row in staff.school.year_groups.values("id", "name")]


def school_settings(staff: Staff) -> dict[str, Any]:
    """The school's units, and who signs in with what they may. Three queries. Raises Denied."""
    demand(staff, May.MANAGE_SCHOOL)
    people = staff.school.staff.select_related("invitation").prefetch_related("classes")
    return {
        "name": staff.school.name,
        "imperial": staff.school.imperial,
        "staff": [
            {
                "id": one.id,
                "name": one.name,
                "username": one.username,
                "role": one.role,
                "may_see_growth": one.may_see_growth,
                "may_edit_tests": one.may_edit_tests,
                "is_active": one.is_active,
                "has_password": one.has_usable_password(),
                "link_until": link.expires_at if (link := _link_of(one)) else None,
                "class_ids": [group.id for group in one.classes.all()],
            }
            for one in people.order_by("-is_active", "name")
        ],
    }


def _link_of(staff: Staff) -> Invitation | None:
    return getattr(staff, "invitation", None)


#: How many lines of the log are shown.
LOG_LINES: Final = 200


def change_log(staff: Staff, before: int | None = None) -> list[dict[str, Any]]:
    """Who changed what, newest first, a page at a time: those before a line. One query. Raises
    Denied."""
    demand(staff, May.SEE_LOG)
    lines = Change.objects.filter(school_id=staff.school_id).select_related("by")
    if before is not None:
        lines = lines.filter(pk__lt=before)
    return [
        {
            "id": line.id,
            "at": line.at,
            "by": line.by.name,
            "what": Change.What(line.what).label,
            "words": line.words,
        }
        for line in lines[:LOG_LINES]
    ]
