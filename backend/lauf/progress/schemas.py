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
    shown: str
    usual: str


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
    better: str
    laps: int | None
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
    battery: bool
    tests: list[str]


class WaitingLesson(Schema):
    id: UUID
    class_name: str
    starts_at: datetime
    battery: bool


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


class FindingRow(Schema):
    fault: str
    rung: int
    words: str


class KeptRung(Schema):
    name: str
    at: int
    typed: str
    shown: str
    beyond: bool


class LadderRow(Schema):
    id: UUID
    year_group_id: UUID | None
    ages: list[int] | None
    sex: str
    variant: str
    seconds: int | None
    source: str
    rungs: list[KeptRung]
    findings: list[FindingRow]


class TableRow(Schema):
    sex: str
    age: float
    cells: list[float]


class NormTableRow(Schema):
    id: UUID
    name: str
    source: str
    population: str
    year: int
    standing: str
    unit: str
    columns: list[str]
    rows: list[TableRow]


class OwnMark(Schema):
    mark: str
    shown: str


class OwnNorm(Schema):
    variant: str
    age: int
    sex: str
    n: int
    why_not: str | None
    percentiles: list[OwnMark]


class YearGroupRow(Schema):
    id: UUID
    name: str
    age: int


class BenchmarksPage(Schema):
    test_id: UUID
    test: str
    version: int
    seconds: int | None
    unit: str
    better: str
    variants: list[VariantRow]
    accepted: str
    may_edit: bool
    year_groups: list[YearGroupRow]
    ladders: list[LadderRow]
    norms: list[NormTableRow]
    own: list[OwnNorm]


class DraftRung(Schema):
    name: str
    typed: str
    shown: str
    beyond: bool
    reached: int


class LadderPreview(Schema):
    rungs: list[DraftRung]
    none_yet: int
    scored: int
    other: int
    findings: list[FindingRow]
    lane: Lane


class PulseFlag(Schema):
    code: str
    words: str


class PulseRow(Schema):
    id: UUID
    position: int
    typed: str
    seconds: int | None
    rate: int | None
    shown: str
    taken_back: bool
    reason: str | None
    confirmed: bool
    flags: list[PulseFlag]


class PulseChild(Schema):
    pupil_id: UUID
    number: int
    name: str
    medical_note: str
    readings: list[PulseRow]
    words: list[str]


class PulseColumn(Schema):
    position: int
    moment: str
    label: str
    words: str
    n: int
    median: int | None


class PulsePage(Schema):
    lesson_id: UUID
    closed_at: datetime | None
    formula: str
    caution: str
    seconds: list[int]
    columns: list[PulseColumn]
    most: str | None
    children: list[PulseChild]


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


class SittingRow(Schema):
    id: UUID
    battery_id: UUID
    battery: str
    class_id: UUID
    class_name: str
    on: date
    closed: bool


class EarlierSitting(Schema):
    id: UUID
    on: date


class GridTest(Schema):
    activity_id: UUID
    test_id: UUID
    test: str
    private: bool
    kind: str
    unit: str
    of: int | None
    tries: int
    variants: list[VariantRow]
    conditions: list[ConditionRow]
    accepted: str
    quick_check: QuickCheck
    recorded: int
    n: int
    median: str | None
    median_then: str | None
    better: int
    steady: int
    lower: int
    mean_change: str | None
    misfit: str | None


class GridCell(Schema):
    activity_id: UUID
    head: UUID | None
    score: Score | None
    rung: str
    change: str
    verdict: str
    then: str


class GridChild(Schema):
    pupil_id: UUID
    number: int
    name: str
    medical_note: str
    cells: list[GridCell]


class BatteryGrid(Schema):
    lesson_id: UUID
    battery: str
    class_name: str
    on: date
    closed_at: datetime | None
    sittings: list[EarlierSitting]
    compared_with: UUID | None
    reasons: list[ReasonRow]
    tests: list[GridTest]
    children: list[GridChild]


class GroupProposal(Schema):
    """Groups for stations, as a plan's block takes them, and what they were made by."""

    how: str
    names: list[str]
    members: list[list[UUID]]
    words: str


class TargetChild(Schema):
    """One child in a rep target; `a_minute` is what is still needed for the next rung."""

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


class TargetPage(Schema):
    activity_id: UUID
    seconds: int
    left: int
    names: list[str]
    carries: str
    children: list[TargetChild]
