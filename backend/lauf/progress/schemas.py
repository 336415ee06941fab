"""Shapes of what progress answers; times are ISO, values canonical beside how they are shown."""

from __future__ import annotations

from datetime import date, datetime
from uuid import UUID

from ninja import Schema


class Score(Schema):
    id: UUID
    typed: str
    shown: str
    value: int | None
    reason: str | None
    estimate: bool
    variant: str
    wave: int | None
    conditions: dict[str, int | str]
    corrected: bool


class TryRow(Schema):
    number: int
    head: UUID | None
    score: Score | None


class LaneRung(Schema):
    name: str
    at: int
    shown: str


class Mark(Schema):
    at: int
    on: date
    shown: str
    estimate: bool


class Lane(Schema):
    better: str
    variant: str
    rungs: list[LaneRung]
    earlier: list[Mark]
    today: Mark | None
    best: int | None
    band: list[float] | None
    origin: int
    scale: int


class Flag(Schema):
    code: str
    words: str
    settled: bool


class Child(Schema):
    pupil_id: UUID
    number: int
    name: str
    medical_note: str
    wave: int
    variant: str
    head: UUID | None
    score: Score | None
    tries: list[TryRow]
    words: list[str]
    target: str | None
    flags: list[Flag]
    lane: Lane


class VariantRow(Schema):
    code: str
    name: str
    key: str


class ConditionRow(Schema):
    code: str
    words: str
    value: int | str
    usual: int | str


class ReasonRow(Schema):
    key: str
    code: str
    words: str


class QuickCheck(Schema):
    pattern: str
    lowest: int | None
    highest: int | None


class ClassLanes(Schema):
    activity_id: UUID
    lesson_id: UUID
    test: str
    kind: str
    unit: str
    seconds: int | None
    closed_at: datetime | None
    waves: int
    tries: int
    merge: str
    of: int | None
    conditions: list[ConditionRow]
    variants: list[VariantRow]
    accepted: str
    quick_check: QuickCheck
    reasons: list[ReasonRow]
    children: list[Child]


class Correction(Schema):
    pupil_id: UUID
    name: str
    was: str
    now: str
    by: str
    at: datetime
    why: str


class CheckList(Schema):
    activity_id: UUID
    lesson_id: UUID
    test: str
    closed_at: datetime | None
    recorded: int
    children: list[Child]
    missing: list[UUID]
    odd: list[UUID]
    corrections: list[Correction]


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
    tests: list[str]


class WaitingLesson(Schema):
    id: UUID
    class_name: str
    starts_at: datetime


class Today(Schema):
    date: date
    lessons: list[LessonCard]
    coming: list[LessonCard]
    waiting: list[WaitingLesson]


class NormRow(Schema):
    name: str
    words: str
    why_not: str | None
    moved: str | None
    source: str
    population: str
    year: int
    standing: str


class PupilLane(Schema):
    variant: str
    lane: Lane
    latest_on: date
    best: str | None
    target: str | None
    words: list[str]
    band_words: str
    trend: str | None
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
    words: list[str]
    correction: HistoryCorrection | None


class TestRecord(Schema):
    test: str
    lanes: list[PupilLane]
    history: list[HistoryEntry]


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
