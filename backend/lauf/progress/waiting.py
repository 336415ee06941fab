"""What still waits in lessons: scores that are missing, and those that want a look."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from typing import Any
from uuid import UUID

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import sees
from lauf.judgement.bench import judges_for
from lauf.judgement.judge import Judge
from lauf.judgement.rows import by_pupil, by_test, scores
from lauf.judgement.who import Who
from lauf.lessons.models import Activity, Lesson
from lauf.lessons.queries import day_of, lesson_of
from lauf.people.models import Pupil, Staff
from lauf.records.models import WITHDRAWN, Attempt, PulseReading, Settlement
from lauf.records.queries import Row, rows

Waits = dict[str, Any]


def lesson_results(staff: Staff, lesson_id: UUID) -> dict[str, Any]:
    """Every test of a lesson with what waits in it, and how many pulses were taken. As many
    queries as `waiting_in`, and two. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    tests = waiting_in(staff, [lesson])[lesson.id]
    return {
        "lesson_id": lesson.id,
        "tests": tests,
        "missing": sum(one["missing"] for one in tests),
        "odd": sum(one["odd"] for one in tests),
        "pulses": PulseReading.objects.filter(lesson=lesson, successor=None)
        .exclude(reason=WITHDRAWN)
        .count(),
    }


def waiting_in(staff: Staff, lessons: Sequence[Lesson]) -> Mapping[UUID, list[Waits]]:
    """By lesson, every test in it with how many scores are there, missing, and want a look. Six
    queries and one a test (and one more where lengths were measured in hands or steps), however
    many lessons and children; more only where a test is there in several versions."""
    found: dict[UUID, list[Waits]] = defaultdict(list)
    activities = [
        activity
        for activity in Activity.objects.filter(lesson__in=[one.id for one in lessons])
        .select_related("protocol__test__school", "lesson__school_class")
        .order_by("lesson", "position")
        if sees(staff, activity.protocol.test)
    ]
    if not activities:
        return found
    classes = {one.lesson.school_class_id for one in activities}
    children: dict[UUID, dict[UUID, Who]] = defaultdict(dict)
    pupils = Pupil.objects.filter(school_class__in=classes)
    for pupil, school_class, sex, born in pupils.values_list("id", "school_class", "sex", "born"):
        children[school_class][pupil] = Who(sex, born)
    tests = {one.protocol.test_id for one in activities}
    kept = Attempt.objects.filter(
        successor=None, pupil__school_class__in=classes, protocol__test__in=tests
    )
    made = by_test(scores(rows(kept), staff.school_id))
    settled = set(
        Settlement.objects.filter(attempt__activity__in=[one.id for one in activities]).values_list(
            "attempt_id", "flag"
        )
    )
    for activity, judge in _judged(activities):
        lesson = activity.lesson
        group = children[lesson.school_class_id]
        waits = _waits(activity, judge, group, made.get(activity.protocol.test_id, []), settled)
        found[lesson.id].append(waits)
    return found


def _judged(activities: Iterable[Activity]) -> list[tuple[Activity, Judge]]:
    """Every activity with its judge. Judges are of one version of a test: an activity under another
    one waits for the next round."""
    judged = {}
    left = list(activities)
    before = max(day_of(one.lesson) for one in left)
    while left:
        versions: dict[UUID, ProtocolVersion] = {}
        for one in left:
            versions.setdefault(one.protocol.test_id, one.protocol)
        bench = judges_for(versions, before)
        here = [one for one in left if versions[one.protocol.test_id].pk == one.protocol_id]
        for one in here:
            year = one.lesson.year_group_id
            judged[one.id] = (one, bench.of(one.protocol.test_id, year))
        left = [one for one in left if one.id not in judged]
    return sorted(judged.values(), key=lambda pair: pair[0].position)


def _waits(
    activity: Activity,
    judge: Judge,
    children: Mapping[UUID, Who],
    made: Sequence[Row],
    settled: set[tuple[UUID, str]],
) -> Waits:
    day = day_of(activity.lesson)
    mine = [row for row in made if row.pupil_id in children]
    now = {row.pupil_id: row for row in mine if row.activity_id == activity.id}
    earlier = by_pupil(row for row in mine if row.activity_id != activity.id and row.on < day)
    z_scores = judge.class_z(now.values())
    odd = 0
    for pupil, row in now.items():
        flags = judge.flags(row, earlier.get(pupil, []), z_scores.get(row.id), children[pupil])
        odd += any((row.id, flag.code.value) not in settled for flag in flags)
    return {
        "activity_id": activity.id,
        "test": activity.protocol.test.name,
        "kind": activity.protocol.kind,
        "private": activity.protocol.test.private,
        "recorded": len(now),
        "missing": len(children.keys() - now.keys()),
        "odd": odd,
    }
