"""Addresses of a class over all its tests: the board, why, what a lesson found, what is next."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router, Status

from lauf.api.asker import asker
from lauf.api.scores import Lane
from lauf.api.shape import Schema
from lauf.api.shared import Day
from lauf.progress import board, found, next_up, reliability, school_picture, why
from lauf.records import actions
from lauf.rules.judging.attention import Need
from lauf.rules.planning.school_days import Span

router = Router(tags=["progress"])


class BoardCell(Schema):
    """A child in a test: the latest score of these days, or why there is none (`missing`). `rung`
    counts from 0, None below the first; `rungs` is 0 without a ladder; `verdict` is the change
    since the score `then`, as `rules.change.Verdict`, empty without a score."""

    attempt_id: UUID | None
    shown: str
    typed: str
    on: date | None
    activity_id: UUID | None
    form: str
    rung: int | None
    rungs: int
    rung_name: str
    verdict: str
    words: str
    estimate: bool
    then: str
    missing: str


class Aside(Schema):
    """Somebody has looked and says why it is all right."""

    why: str
    by: str
    at: datetime


class BoardNote(Schema):
    """Whom to look after, or to praise, and why."""

    need: Need
    words: str
    next_step: str
    aside: Aside | None


class BoardChild(Schema):
    pupil_id: UUID
    number: int
    name: str
    house: str
    group: str
    cells: list[BoardCell]
    notes: list[BoardNote]


class BoardTest(Schema):
    """What a test says of the class: how many, middle and middle half now and of the scores before,
    arrows and how many of them chance alone would give, and whether it fits."""

    test_id: UUID
    test: str
    family: str
    family_words: str
    n: int
    missing: int
    median: str
    half: str
    median_then: str
    half_then: str
    compared: int
    better: int
    steady: int
    lower: int
    mean_change: str
    chance: int
    at_top: str
    at_floor: str
    misfit: str
    try_instead: str


class BoardTerm(Schema):
    name: str
    starts: date
    ends: date


class BesideSpan(Schema):
    since: date
    until: date


class ClassBoard(Schema):
    class_id: UUID
    class_name: str
    year_group: str
    since: date
    until: date
    beside: BesideSpan | None
    terms: list[BoardTerm]
    tests: list[BoardTest]
    children: list[BoardChild]


@router.get("/classes/{class_id}/board", response=ClassBoard)
def get_board(
    request: HttpRequest, class_id: UUID, since: Day | None = None, until: Day | None = None,
    beside_since: Day | None = None, beside_until: Day | None = None,
) -> dict[str, Any]:  # fmt: skip
    """A class over all its tests of these days, of the term of today if none are named; beside the
    scores before, or those of other days."""
    today = timezone.localdate()
    span = Span(since, until or today) if since else None
    beside = Span(beside_since, beside_until) if beside_since and beside_until else None
    return board.class_board(asker(request), class_id, today, span, beside)


class WhyStep(Schema):
    """One line of a working: what it is about, its words, and where it comes from."""

    what: str
    words: str
    source: str


class Why(Schema):
    """The working of a score, from what was typed to the next aim."""

    attempt_id: UUID
    pupil_id: UUID
    name: str
    test: str
    on: date
    shown: str
    words: list[str]
    lane: Lane | None
    steps: list[WhyStep]


@router.get("/attempts/{attempt_id}/why", response=Why)
def get_why(request: HttpRequest, attempt_id: UUID) -> dict[str, Any]:
    """Why a score stands where it does."""
    return why.why(asker(request), attempt_id)


class AsideEntry(Schema):
    """The note as it was read, and why it is all right."""

    words: str = Field(max_length=1000)
    why: str = Field(max_length=240)


@router.put("/pupils/{pupil_id}/notes/{need}", response=Aside)
def set_aside(
    request: HttpRequest, pupil_id: UUID, need: Need, entry: AsideEntry
) -> dict[str, Any]:
    """Set what the board notes of a child aside, with a reason."""
    kept = actions.set_aside(asker(request), pupil_id, need, entry.words, entry.why)
    return {"why": kept.why, "by": kept.by.name, "at": kept.at}


@router.delete("/pupils/{pupil_id}/notes/{need}", response={204: None})
def look_again(request: HttpRequest, pupil_id: UUID, need: Need) -> Any:
    """The note counts again."""
    actions.look_again(asker(request), pupil_id, need)
    return Status(204, None)


class FoundTest(Schema):
    """What a lesson found in one test: sentences to read aloud, and one for the teacher."""

    activity_id: UUID
    test: str
    aloud: list[str]
    teacher: str
    misfit: str


class LessonFound(Schema):
    """What a lesson found: a test each, and sentences about its pulses to read aloud."""

    lesson_id: UUID
    tests: list[FoundTest]
    pulses: list[str]


@router.get("/lessons/{lesson_id}/found", response=LessonFound)
def get_found(request: HttpRequest, lesson_id: UUID) -> dict[str, Any]:
    """What a lesson found, in sentences."""
    return found.lesson_found(asker(request), lesson_id)


class FormFor(Schema):
    """A child for whom another form of a test fits."""

    pupil_id: UUID
    name: str
    form: str
    why: str


class NextTest(Schema):
    test_id: UUID
    test: str
    last: date
    due: bool
    missing: int
    harder: list[FormFor]
    easier: list[FormFor]
    try_instead: str


class NextUp(Schema):
    class_id: UUID
    class_name: str
    tests: list[NextTest]


@router.get("/classes/{class_id}/next", response=NextUp)
def get_next(request: HttpRequest, class_id: UUID) -> dict[str, Any]:
    """What to test next, when, and for whom another form fits."""
    return next_up.next_up(asker(request), class_id, timezone.localdate())


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
