"""The school as a whole, and how far tests repeat themselves."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.progress.school import reliability, school_picture
from lauf.progress.school.reliability import FormReliability
from lauf.progress.school.school_picture import SchoolPicture

router = Router(tags=["progress"])


@router.get("/tests/{test_id}/reliability", response=list[FormReliability])
def get_reliability(request: HttpRequest, test_id: UUID) -> list[FormReliability]:
    """How far a test repeats itself in this school."""
    return reliability.test_reliability(signed_in_staff(request), test_id)


@router.get("/school/picture", response=SchoolPicture)
def get_picture(request: HttpRequest) -> SchoolPicture:
    """Taking part, change and how tests fit, by year group and term."""
    return school_picture.school_picture(signed_in_staff(request), timezone.localdate())
