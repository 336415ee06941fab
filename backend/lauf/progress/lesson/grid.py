"""A battery as one grid of children and tests, beside the same battery of an earlier term."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from statistics import median
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.protocol import VariantEntry
from lauf.catalogue.queries import sees
from lauf.errors import Refused
from lauf.judgement.judge import Judge
from lauf.judgement.judges import judges_for
from lauf.judgement.picture import variant_of
from lauf.judgement.rows import scores
from lauf.judgement.subject import Subject
from lauf.judgement.words import OPEN_WORDS, change_words, rung_words
from lauf.lessons.models import Activity, Lesson
from lauf.lessons.queries import KeptFrom, LessonCare, activities_of, day_of, lesson_of, lessons_of
from lauf.messages import say
from lauf.people.models import Staff
from lauf.progress.lesson.lanes import (
    ConditionRow,
    ReasonRow,
    Score,
    condition_rows,
    reason_rows,
    score_row,
)
from lauf.records.queries import Row, lesson_rows
from lauf.rules.judging.change import Change
from lauf.rules.judging.summaries import ClassSummary, between_words, mean_words, summarise_class
from lauf.rules.reading.entry import QuickCheck, accepted_words, quick_check
from lauf.rules.reading.kinds import format_value
from lauf.rules.reading.quantities import Measure


class SittingRow(TypedDict):
    """A battery given to a class."""

    id: UUID
    battery_id: UUID | None
    battery: str
    class_id: UUID
    class_name: str
    on: date
    closed: bool


class EarlierSitting(TypedDict):
    """A sitting to compare with."""

    id: UUID
    on: date


class GridTest(TypedDict):
    """A test of the grid: its head and foot."""

    activity_id: UUID
    test_id: UUID
    test: str
    private: bool
    kind: str
    unit: str
    of: int | None
    tries: int
    variants: list[VariantEntry]
    conditions: list[ConditionRow]
    accepted: str
    quick_check: QuickCheck
    reasons: list[ReasonRow]
    recorded: int
    n: int
    median: str | None
    median_then: str | None
    middle_half: str | None
    better: int
    steady: int
    lower: int
    mean_change: str | None
    # How many arrows chance alone would give.
    chance: str | None
    misfit: str | None


class GridCell(TypedDict):
    """A child in a test of the grid."""

    activity_id: UUID
    head: UUID | None
    # The form a score typed now is of, unless another is chosen.
    variant: str
    score: Score | None
    rung: str
    change: str
    verdict: str
    then: str
    care: KeptFrom | None


class GridChild(TypedDict):
    """A child's row of the grid."""

    pupil_id: UUID
    number: int
    name: str
    medical_note: str
    cells: list[GridCell]


class BatteryGrid(TypedDict):
    """Every child and test of a lesson."""

    lesson_id: UUID
    battery: str
    class_id: UUID
    class_name: str
    on: date
    closed_at: datetime | None
    sittings: list[EarlierSitting]
    compared_with: UUID | None
    tests: list[GridTest]
    children: list[GridChild]


def sittings(staff: Staff, class_id: UUID | None = None) -> list[SittingRow]:
    """The batteries given to the classes in scope, newest first. One query."""
    found = lessons_of(staff).filter(battery__isnull=False)
    if class_id is not None:
        found = found.filter(school_class=class_id)
    return [
        {
            "id": lesson.id,
            "battery_id": lesson.battery_id,
            "battery": lesson.battery.name if lesson.battery else "",
            "class_id": lesson.school_class_id,
            "class_name": lesson.school_class.name,
            "on": day_of(lesson),
            "closed": lesson.closed_at is not None,
        }
        for lesson in found.select_related("battery", "school_class").order_by("-starts_at")
    ]


def battery_grid(staff: Staff, lesson_id: UUID, compared_with: UUID | None = None) -> BatteryGrid:
    """Every child and test of a lesson, of a battery with the change since an earlier sitting (the
    one before, if none is named). Nine queries, one more where lengths were measured in
    hands or steps, and up to three for what children are kept from. Raises NotFound, or Refused for
    a lesson without tests."""
    lesson = lesson_of(staff, lesson_id)
    activities = [
        activity for activity in activities_of(lesson) if sees(staff, activity.protocol.test)
    ]
    if not activities:
        raise Refused(say("There is no test in that lesson."))
    same = lessons_of(staff).filter(
        battery=lesson.battery_id, battery__isnull=False, school_class=lesson.school_class_id
    )
    others = list(same.exclude(pk=lesson.id).order_by("-starts_at"))
    before = [one for one in others if one.starts_at < lesson.starts_at]
    earlier = next((one for one in others if one.id == compared_with), None)
    if compared_with is None and before:
        earlier = before[0]
    protocols = {activity.protocol.test_id: activity.protocol for activity in activities}
    year = lesson.year_group_id
    bench = judges_for(protocols, day_of(lesson), [year])
    judges = {test_id: bench.of(test_id, year) for test_id in protocols}
    columns = _columns(staff, lesson, earlier, activities, judges)
    pupils = lesson.school_class.pupils.values_list(
        "id", "given_name", "family_name", "medical_note", "sex", "born"
    )
    care = LessonCare(lesson, [activity.protocol for activity in activities])
    children: list[GridChild] = []
    for number, (pupil, given, family, note, sex, born) in enumerate(pupils, 1):
        who = Subject(sex, born)
        children.append(
            {
                "pupil_id": pupil,
                "number": number,
                "name": f"{given} {family}".strip(),
                "medical_note": note,
                "cells": [
                    column.cell(pupil, who, care.of(pupil, column.activity.protocol))
                    for column in columns
                ],
            }
        )
    return {
        "lesson_id": lesson.id,
        "battery": lesson.battery.name if lesson.battery else "",
        "class_name": lesson.school_class.name,
        "class_id": lesson.school_class_id,
        "on": day_of(lesson),
        "closed_at": lesson.closed_at,
        "sittings": [{"id": one.id, "on": day_of(one)} for one in others],
        "compared_with": earlier.id if earlier else None,
        "tests": [column.summary() for column in columns],
        "children": children,
    }


@dataclass(slots=True)
class _Column:
    """One test of the grid: the scores of now and then by child, and the changes found so far."""

    activity: Activity
    judge: Judge
    now: dict[UUID, Row] = field(default_factory=dict)
    then: dict[UUID, Row] = field(default_factory=dict)
    #: The newest entry of each child's first try, taken back or not.
    heads: dict[UUID, UUID] = field(default_factory=dict)
    changes: list[Change] = field(default_factory=list)

    def cell(self, pupil: UUID, who: Subject, care: KeptFrom | None) -> GridCell:
        """One child: the score, its rung, and the change since the earlier sitting."""
        judge, now, then = self.judge, self.now.get(pupil), self.then.get(pupil)
        cell: GridCell = {
            "activity_id": self.activity.id,
            "head": self.heads.get(pupil),
            "variant": variant_of(now, [then] if then else [], judge),
            "score": None,
            "rung": "",
            "change": "",
            "verdict": "",
            "then": "",
            "care": care,
        }
        if then is not None and then.value is not None:
            cell["then"] = format_value(then.value, judge.measure)
        if now is None:
            return cell
        cell["variant"] = now.variant
        cell["score"] = score_row(now, judge)
        if now.is_open:
            cell["change"] = OPEN_WORDS
        if now.value is None:
            return cell
        ladder = judge.ladder(now.variant, who, now.on)
        if ladder is not None:
            cell["rung"] = rung_words(judge, judge.rung(now, who), ladder)[0]
        comparable = then is not None and then.value is not None and not then.estimate
        if then is not None and comparable and not judge.measures_only:
            change = judge.change(now, [then], who)
            cell["verdict"] = change.verdict.value
            cell["change"] = change_words(judge, now, [then], change)
            self.changes.append(change)
        return cell

    def summary(self) -> GridTest:
        """The test's head and foot; after the cells of every child."""
        protocol, measure = self.activity.protocol, self.judge.measure
        values = [row.value for row in self.now.values() if row.value is not None]
        before = [row.value for row in self.then.values() if row.value is not None]
        summary = summarise_class(values, self.changes, measure)
        return {
            "activity_id": self.activity.id,
            "test_id": protocol.test_id,
            "test": protocol.test.name,
            "private": protocol.test.private,
            "kind": protocol.kind,
            "unit": measure.unit,
            "of": protocol.of,
            "tries": protocol.tries,
            "variants": protocol.variants,
            "conditions": condition_rows(self.activity),
            "accepted": accepted_words(measure),
            "quick_check": quick_check(measure),
            "reasons": reason_rows(measure),
            "recorded": len(self.now),
            "n": summary.n,
            "median": _shown(summary.median, measure),
            "median_then": _shown(median(before) if before else None, measure),
            "middle_half": _middle_half(summary, measure),
            "better": summary.better,
            "steady": summary.steady,
            "lower": summary.lower,
            "chance": _chance_words(summary),
            "mean_change": mean_words(summary, measure),
            "misfit": None if protocol.test.private else summary.misfit,
        }


def _columns(
    staff: Staff,
    lesson: Lesson,
    earlier: Lesson | None,
    activities: Sequence[Activity],
    judges: dict[UUID, Judge],
) -> list[_Column]:
    """The columns with their scores; at most three queries."""
    columns = {a.protocol.test_id: _Column(a, judges[a.protocol.test_id]) for a in activities}
    mine = {activity.id for activity in activities}
    found = [row for row in lesson_rows(lesson.id, earlier.id if earlier else None)
             if row.test_id in columns]  # fmt: skip
    for row in found:
        if row.try_number == 1 and row.activity_id in mine:
            columns[row.test_id].heads[row.pupil_id] = row.id
    for row in scores(found, staff.school_id):
        column = columns[row.test_id]
        (column.now if row.activity_id in mine else column.then)[row.pupil_id] = row
    return list(columns.values())


def _chance_words(summary: ClassSummary) -> str | None:
    """How many arrows chance alone would give; None where nothing was compared."""
    if not summary.compared:
        return None
    return say(
        "about {chance_shown} of {compared} could be chance",
        chance_shown=summary.chance_shown,
        compared=summary.compared,
    )


def _middle_half(summary: ClassSummary, measure: Measure) -> str | None:
    """The quartiles as shown: half of the children lie between them."""
    if summary.n < 4:
        return None
    low, high = (_shown(one, measure) for one in (summary.lower_quartile, summary.upper_quartile))
    return say("middle half {low} to {high}", low=low, high=high)


def _shown(exact: float | None, measure: Measure) -> str | None:
    return None if exact is None else between_words(exact, measure)
