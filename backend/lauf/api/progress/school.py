"""The school as a whole, and how far tests repeat themselves."""

from __future__ import annotations

from datetime import date
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.progress import reliability, school_picture

router = Router(tags=["progress"])


class FormReliability(Schema):
    """How far a form of a test repeats itself in this school; `why_not` where too few did it twice
    within two weeks."""

    form: str
    pairs: int
    icc: str
    error: str
    cv: str
    learning: str
    words: str
    why_not: str
    # What two counters say of the same child, "" where too few were counted twice.
    counters: str


@router.get("/tests/{test_id}/reliability", response=list[FormReliability])
def get_reliability(request: HttpRequest, test_id: UUID) -> list[dict[str, Any]]:
    """How far a test repeats itself in this school."""
    return reliability.test_reliability(asker(request), test_id)


class PictureYear(Schema):
    """A year group in a term; nothing of it is told where it, or a part of it, is too small."""

    name: str
    told: bool
    children: int
    took_part: int
    compared: int
    better: int
    steady: int
    lower: int
    chance: int


class PictureTerm(Schema):
    name: str
    starts: date
    ends: date
    year_groups: list[PictureYear]


class PictureTest(Schema):
    test_id: UUID
    test: str
    n: int
    at_top: int
    at_floor: int
    fits: bool
    words: str
    better: int
    steady: int
    lower: int


class SchoolPicture(Schema):
    """The school without names; groups of fewer than `fewest` are not told."""

    fewest: int
    terms: list[PictureTerm]
    tests: list[PictureTest]


@router.get("/school/picture", response=SchoolPicture)
def get_picture(request: HttpRequest) -> dict[str, Any]:
    """Taking part, change and how tests fit, by year group and term."""
    return school_picture.school_picture(asker(request), timezone.localdate())
