"""The office of a trust: its schools, what they may hold, and who leads them first."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.people.links import StaffLink, link_shown
from lauf.api.shape import Schema
from lauf.catalogue.actions import install_ready
from lauf.people import actions
from lauf.progress.trust import TrustPage, trust_page

router = Router(tags=["trust"])


class NewSchool(Schema):
    """A school, and its first head of PE."""

    school_name: str = Field(max_length=200)
    name: str = Field(max_length=200)
    username: str = Field(max_length=200)


class SchoolLimits(Schema):
    """None: any number."""

    most_children: int | None = None
    most_staff: int | None = None


class SchoolPause(Schema):
    paused: bool


@router.get("/trust", response=TrustPage)
def get_trust(request: HttpRequest) -> TrustPage:
    return trust_page(signed_in_staff(request), timezone.localdate())


@router.post("/trust/schools", response={201: StaffLink})
def open_school(request: HttpRequest, new: NewSchool) -> Any:
    """A school of its own: the answer is the link for its first head of PE."""
    with transaction.atomic():
        opened = actions.open_school(
            signed_in_staff(request), school_name=new.school_name, name=new.name,
            username=new.username,
        )  # fmt: skip
        install_ready(opened.school)
    return Status(201, link_shown(request, opened.head, opened.token))


@router.put("/trust/schools/{school_id}/limits", response=TrustPage)
def limit_school(request: HttpRequest, school_id: UUID, limits: SchoolLimits) -> TrustPage:
    staff = signed_in_staff(request)
    actions.limit_school(
        staff, school_id, most_children=limits.most_children, most_staff=limits.most_staff
    )
    return trust_page(staff, timezone.localdate())


@router.put("/trust/schools/{school_id}/paused", response=TrustPage)
def pause_school(request: HttpRequest, school_id: UUID, pause: SchoolPause) -> TrustPage:
    """Close a school to everybody, or open it again."""
    staff = signed_in_staff(request)
    actions.pause_school(staff, school_id, timezone.now() if pause.paused else None)
    return trust_page(staff, timezone.localdate())


@router.post("/trust/schools/{school_id}/link", response=StaffLink)
def first_link_anew(request: HttpRequest, school_id: UUID) -> StaffLink:
    """The first head's invitation once more, while nobody has signed in there."""
    opened = actions.first_link_anew(signed_in_staff(request), school_id)
    return link_shown(request, opened.head, opened.token)
