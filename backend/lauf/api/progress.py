"""Addresses of today, of one child, and of the whole class in a lesson."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Query, Router

from lauf.api.asker import asker
from lauf.api.scores import Lane, Score
from lauf.api.shape import Schema
from lauf.people.actions import look_at
from lauf.progress import child, groups, growth, targets, today, waiting
from lauf.rules.planning.rotation import GroupsBy

router = Router(tags=["progress"])


class LessonCard(Schema):
    id: UUID
    class_name: str
    year_group: str
    teacher: str
    place: str
    starts_at: datetime
    minutes: int
    closed: bool
    children: int
    medical_notes: int
    scored: int
    battery: bool
    tests: list[str]


class TestWaits(Schema):
    """A test of a lesson: how many children have a score, have none, and want a look."""

    activity_id: UUID
    test: str
    kind: str
    # Of body measurements: on no wall and in no file.
    private: bool
    recorded: int
    missing: int
    odd: int


class WaitingLesson(Schema):
    id: UUID
    class_name: str
    starts_at: datetime
    battery: bool
    tests: list[TestWaits]


class PulseBlanks(Schema):
    """Who has no pulse at a moment at which others have one."""

    moment: str
    names: list[str]


class LessonResults(Schema):
    lesson_id: UUID
    tests: list[TestWaits]
    missing: int
    odd: int
    pulses: int
    pulse_blanks: list[PulseBlanks]


class ToCome(Schema):
    """A lesson that the timetable makes: it is begun under this id, on whichever device."""

    lesson_id: UUID
    class_id: UUID
    class_name: str
    year_group: str
    teacher: str
    place: str
    starts_at: datetime
    minutes: int
    children: int
    medical_notes: int


class DueTest(Schema):
    id: UUID
    name: str
    last: date


class DueAgain(Schema):
    """What a class has not been tested in for so long."""

    class_id: UUID
    class_name: str
    last: date
    tests: list[DueTest]


class Today(Schema):
    date: date
    to_come: list[ToCome]
    due: list[DueAgain]
    lessons: list[LessonCard]
    coming: list[LessonCard]
    waiting: list[WaitingLesson]


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


class GroupProposal(Schema):
    """Groups for stations, as a plan's block takes them, and what they were made by."""

    how: str
    names: list[str]
    members: list[list[UUID]]
    words: str


class TargetChild(Schema):
    """One child in a rep target; `a_minute` is what is still needed for the next rung, `offered`
    what was counted before of the movement that is carried in, until it is."""

    pupil_id: UUID
    number: int
    name: str
    carried: int
    reps: list[int]
    total: int
    reason: str | None
    rung: str | None
    next_rung: str | None
    needed: int | None
    a_minute: str | None
    projected: int | None
    offered: int | None
    # Whether what is offered is a guess.
    offered_about: bool
    # Movements done at a higher level than ever before, in words.
    moved_up: list[str]


class TargetPage(Schema):
    activity_id: UUID
    seconds: int
    left: int
    names: list[str]
    carries: str
    # How many of the movement that is carried in were called to a beat: no more can be carried in.
    called: int | None
    # Easier, usual and harder reps are counted apart, and what one of each counts.
    apart: bool
    weights: str
    # Reps a second that nobody beats: more in the time that passed are asked about.
    most_a_second: float
    children: list[TargetChild]


@router.get("/lessons/{lesson_id}/results", response=LessonResults)
def get_results(request: HttpRequest, lesson_id: UUID) -> dict[str, Any]:
    return waiting.lesson_results(asker(request), lesson_id)


@router.get("/today", response=Today)
def get_today(request: HttpRequest) -> dict[str, Any]:
    return today.today_page(asker(request), timezone.now())


@router.get("/pupils/{pupil_id}", response=PupilRecord)
def get_pupil(request: HttpRequest, pupil_id: UUID) -> dict[str, Any]:
    return child.pupil_record(asker(request), pupil_id, timezone.localdate())


@router.get("/pupils/{pupil_id}/growth", response=GrowthRecord)
def get_growth(request: HttpRequest, pupil_id: UUID) -> dict[str, Any]:
    staff = asker(request)
    found = growth.growth_record(staff, pupil_id)
    look_at(staff, pupil_id, "height and weight")
    return found


class GroupWish(Schema):
    how: GroupsBy
    number: int = 4
    seed: int = Field(1, ge=0, le=2**31)
    test_id: UUID | None = None


@router.post("/lessons/{lesson_id}/plan/groups", response=GroupProposal)
def propose_groups(request: HttpRequest, lesson_id: UUID, wish: GroupWish) -> dict[str, Any]:
    """Groups of the class for stations; nothing is kept."""
    return groups.propose_groups(asker(request), lesson_id, **wish.model_dump())


@router.get("/activities/{activity_id}/target", response=TargetPage)
def get_target(
    request: HttpRequest, activity_id: UUID, elapsed: Annotated[int, Query(ge=0, le=86_400)] = 0
) -> dict[str, Any]:
    """A rep target after so many seconds."""
    return targets.target_page(asker(request), activity_id, elapsed)
