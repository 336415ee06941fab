"""Addresses of today, of one child, and of the whole class in a lesson."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from lauf.api.asker import asker
from lauf.api.lessons.scores import Lane, Score
from lauf.api.shape import Schema
from lauf.people.actions import look_at
from lauf.progress import child, growth

router = Router(tags=["progress"])


class NormRow(Schema):
    name: str
    words: str
    why_not: str | None
    moved: str | None
    # What children of the same standing gain in that time, and what is beyond it.
    gain: str | None
    source: str
    population: str
    year: int
    standing: str


class PupilLane(Schema):
    """One form of a test: its lane and what the latest score says, `then` the one it is compared
    with."""

    attempt_id: UUID
    variant: str
    lane: Lane
    latest_on: date
    shown: str
    then: str
    best: str | None
    target: str | None
    rung_name: str
    verdict: str
    change: str
    words: list[str]
    band_words: str | None
    # How sure the last change is, and what the trend was worked out by: for who asks.
    sure: str | None
    trend: str | None
    trend_statistics: str | None
    norms: list[NormRow]
    ladder_source: str


class HistoryCorrection(Schema):
    was: str
    why: str
    by: str
    at: datetime


class HistoryEntry(Schema):
    id: UUID
    on: date
    score: Score
    variant: str
    # The conditions it was made under, and all goes of it where there were several.
    conditions: str
    goes: list[str]
    words: list[str]
    correction: HistoryCorrection | None


class TestRecord(Schema):
    test_id: UUID
    test: str
    family_words: str
    due: bool
    lanes: list[PupilLane]
    history: list[HistoryEntry]


class ChildPulses(Schema):
    """A child's pulses in one lesson, in beats a minute: never better or lower."""

    lesson_id: UUID
    on: date
    rest: int | None
    most: int | None
    after: str
    recovery: int | None


class OverallStatement(Schema):
    """The school's own statement over several tests, or why there is none, and its working."""

    words: str
    why_not: str
    working: list[str]
    scheme: str


class PupilRecord(Schema):
    id: UUID
    name: str
    class_id: UUID
    class_name: str
    year_group: str
    house: str
    age: float | None
    medical_note: str
    tests: list[TestRecord]
    pulses: list[ChildPulses]
    overall: OverallStatement | None


class Measured(Schema):
    on: date
    shown: str
    centile: str


class MeasuredTest(Schema):
    test: str
    readings: list[Measured]
    yearly: str | None
    moved: str | None


class GrowthRecord(Schema):
    pupil_id: UUID
    tests: list[MeasuredTest]
    bmi: list[Measured]
    sources: list[str]
    caution: str


@router.get("/pupils/{pupil_id}", response=PupilRecord)
def get_pupil(request: HttpRequest, pupil_id: UUID) -> dict[str, Any]:
    return child.pupil_record(asker(request), pupil_id, timezone.localdate())


@router.get("/pupils/{pupil_id}/growth", response=GrowthRecord)
def get_growth(request: HttpRequest, pupil_id: UUID) -> dict[str, Any]:
    staff = asker(request)
    found = growth.growth_record(staff, pupil_id)
    look_at(staff, pupil_id, "height and weight")
    return found
