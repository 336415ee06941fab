"""A battery as one grid of children and tests, beside the same battery of an earlier term."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import asdict
from typing import Any
from uuid import UUID

from lauf.catalogue.queries import ladders_for
from lauf.lessons.models import Activity, Lesson
from lauf.lessons.queries import day_of, lesson_of, lessons_of
from lauf.people.models import Staff
from lauf.people.queries import Refused
from lauf.progress.lanes import Judge, Who
from lauf.progress.queries import condition_rows, score_row
from lauf.records.models import WITHDRAWN, Attempt
from lauf.records.queries import Row, calibrated, merged, repeat_differences, rows
from lauf.rules.change import Change, compare, smallest_change, verdict_words
from lauf.rules.entry import REASON_KEYS, REASON_WORDS, accepted_words, quick_check
from lauf.rules.groups import summarise_class
from lauf.rules.quantities import format_difference, format_value

Cell = dict[str, Any]


def sittings(staff: Staff, class_id: UUID | None = None) -> list[dict[str, Any]]:
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


def battery_grid(
    staff: Staff, lesson_id: UUID, compared_with: UUID | None = None
) -> dict[str, Any]:
    """Every child and test of a battery in one class, with the change since an earlier sitting
    (the one before, if none is named). Eight queries, and one more where lengths were measured in
    hands or steps. Raises NotFound, or Refused for a lesson that is no battery."""
    lesson = lesson_of(staff, lesson_id)
    if lesson.battery_id is None:
        raise Refused("That lesson is not a battery.")
    activities = [
        activity
        for activity in lesson.activities.select_related("protocol__test__school", "lesson")
        if staff.may_see_growth or not activity.protocol.test.private
    ]
    same = lessons_of(staff).filter(battery=lesson.battery_id, school_class=lesson.school_class_id)
    others = list(same.exclude(pk=lesson.id).order_by("-starts_at"))
    before = [one for one in others if one.starts_at < lesson.starts_at]
    earlier = next((one for one in others if one.id == compared_with), None)
    if compared_with is None and before:
        earlier = before[0]
    test_ids = [activity.protocol.test_id for activity in activities]
    kept = ladders_for(test_ids)
    differences = repeat_differences(staff.school_id, test_ids, day_of(lesson))
    year = lesson.school_class.year_group_id
    judges = {
        activity.protocol.test_id: Judge(
            activity.protocol,
            [
                k.ladder
                for k in kept
                if k.test_id == activity.protocol.test_id and k.year_group_id in (None, year)
            ],
            differences,
        )
        for activity in activities
    }
    now, then, heads, attempted = _rows(staff, lesson, earlier, judges)
    pupils = list(
        lesson.school_class.pupils.values_list(
            "id", "given_name", "family_name", "medical_note", "sex", "born"
        )
    )
    changes: dict[UUID, list[Change]] = defaultdict(list)
    children = []
    for number, (pupil, given, family, note, sex, born) in enumerate(pupils, 1):
        cells = []
        for activity in activities:
            test = activity.protocol.test_id
            cell, change = _cell(
                judges[test], now.get((pupil, test)), then.get((pupil, test)), Who(sex, born)
            )
            if change is not None:
                changes[test].append(change)
            cell["activity_id"] = activity.id
            cell["head"] = heads.get((pupil, activity.id))
            cells.append(cell)
        children.append(
            {
                "pupil_id": pupil,
                "number": number,
                "name": f"{given} {family}".strip(),
                "medical_note": note,
                "cells": cells,
            }
        )
    return {
        "lesson_id": lesson.id,
        "battery": lesson.battery.name if lesson.battery else "",
        "class_name": lesson.school_class.name,
        "on": day_of(lesson),
        "closed_at": lesson.closed_at,
        "sittings": [{"id": one.id, "on": day_of(one)} for one in others],
        "compared_with": earlier.id if earlier else None,
        "reasons": [
            {"key": key, "code": reason.value, "words": REASON_WORDS[reason]}
            for key, reason in REASON_KEYS.items()
        ],
        "tests": [
            _column(activity, judges[activity.protocol.test_id], now, then, changes, attempted)
            for activity in activities
        ],
        "children": children,
    }


_ByPlace = dict[tuple[UUID, UUID], Row]


def _rows(
    staff: Staff, lesson: Lesson, earlier: Lesson | None, judges: dict[UUID, Judge]
) -> tuple[_ByPlace, _ByPlace, dict[tuple[UUID, UUID], UUID], dict[UUID, int]]:
    """Scores of now and then by (child, test), the newest entry of each first try by (child,
    activity), and how many children each activity has an entry for."""
    wanted = [lesson.id, *([earlier.id] if earlier else [])]
    found = rows(
        Attempt.objects.filter(
            activity__lesson__in=wanted, protocol__test__in=list(judges), successor=None
        )
    )
    mine = set(lesson.activities.values_list("id", flat=True))
    heads = {(r.pupil_id, r.activity_id): r.id for r in found if r.try_number == 1}
    counted = calibrated([r for r in found if r.reason != WITHDRAWN], staff.school_id)
    places = merged(counted, lambda test: (judges[test].merge, judges[test].measure))
    now = {(r.pupil_id, r.test_id): r for r in places if r.activity_id in mine}
    then = {(r.pupil_id, r.test_id): r for r in places if r.activity_id not in mine}
    attempted: dict[UUID, int] = defaultdict(int)
    for _, test in now:
        attempted[test] += 1
    return now, then, heads, attempted


def _cell(judge: Judge, now: Row | None, then: Row | None, who: Who) -> tuple[Cell, Change | None]:
    """One child and test: the score, its rung, and the change since the earlier sitting."""
    cell: Cell = {"score": None, "rung": "", "change": "", "verdict": "", "then": ""}
    if then is not None and then.value is not None:
        cell["then"] = format_value(then.value, judge.measure)
    if now is None:
        return cell, None
    cell["score"] = score_row(now, judge)
    if now.value is None:
        return cell, None
    ladder = judge.ladder(now.variant, who, now.on)
    if ladder is not None:
        cell["rung"] = judge.rung_words(judge.rung(now, who), ladder)[0]
    if then is None or then.value is None or then.estimate:
        return cell, None
    key = judge.key(now)
    if judge.key(then) != key:
        change = judge.change(now, [then])
        cell["verdict"] = change.verdict.value
        cell["change"] = judge.change_words(now, [then], change)
        return cell, change
    change = compare(now.value, then.value, judge.measure, smallest_change(judge.error(key).value))
    cell["verdict"] = change.verdict.value
    cell["change"] = verdict_words(change, judge.measure)
    return cell, change


def _column(
    activity: Activity,
    judge: Judge,
    now: _ByPlace,
    then: _ByPlace,
    changes: dict[UUID, list[Change]],
    attempted: dict[UUID, int],
) -> dict[str, Any]:
    test, measure = activity.protocol.test_id, judge.measure
    values = _values(now, test)
    before = _values(then, test)
    summary = summarise_class(values, changes[test], measure)
    mean = None
    if summary.mean_change is not None:
        low, high = summary.change_interval or (None, None)
        sign = "+" if summary.mean_change >= 0 else "−"
        mean = f"{sign}{format_difference(abs(round(summary.mean_change)), measure)} better"
        if low is not None and high is not None:
            ends = [
                f"{'−' if end < 0 else ''}{format_difference(abs(round(end)), measure)}"
                for end in (low, high)
            ]
            mean += f" (90 %: {ends[0]} to {ends[1]})"
    return {
        "activity_id": activity.id,
        "test_id": test,
        "test": activity.protocol.test.name,
        "private": activity.protocol.test.private,
        "kind": activity.protocol.kind,
        "unit": measure.unit,
        "of": activity.protocol.of,
        "tries": activity.protocol.tries,
        "variants": activity.protocol.variants,
        "conditions": condition_rows(activity),
        "accepted": accepted_words(measure),
        "quick_check": asdict(quick_check(measure)),
        "recorded": attempted.get(test, 0),
        "n": summary.n,
        "median": _shown_median(values, judge),
        "median_then": _shown_median(before, judge),
        "better": summary.better,
        "steady": summary.steady,
        "lower": summary.lower,
        "mean_change": mean,
        "misfit": None if activity.protocol.test.private else summary.misfit,
    }


def _values(places: _ByPlace, test: UUID) -> list[int]:
    return [row.value for (_, of), row in places.items() if of == test and row.value is not None]


def _shown_median(values: Sequence[int], judge: Judge) -> str | None:
    if not values:
        return None
    ordered = sorted(values)
    middle = (ordered[(len(ordered) - 1) // 2] + ordered[len(ordered) // 2]) // 2
    return format_value(middle, judge.measure)
