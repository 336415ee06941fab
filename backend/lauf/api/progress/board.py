"""Addresses of a class over all its tests: the board, why, what a lesson found, what is next."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.api.shared import Day
from lauf.progress import board
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
