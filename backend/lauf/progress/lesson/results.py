"""What still waits in lessons: scores that are missing, and those that want a look."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from uuid import UUID

from django.db.models import Exists, OuterRef
from typing_extensions import TypedDict

from lauf.catalogue.queries import sees
from lauf.lessons.models import Activity, Lesson
from lauf.lessons.queries import lesson_of
from lauf.people.models import Pupil, Staff
from lauf.progress.lesson.pulse import moment_words
from lauf.records.models import WITHDRAWN, PulseReading, Question
from lauf.records.queries import counting
from lauf.rules.body.pulse import Moment


class TestWaits(TypedDict):
    """A test of a lesson: how many children have a score, have none (and who: a device knows whose
    is on its way), and want a look."""

    activity_id: UUID
    test: str
    kind: str
    # Of body measurements: on no wall and in no file.
    private: bool
    recorded: int
    missing: int
    without: list[UUID]
    odd: int


class PulseBlanks(TypedDict):
    """Who has no pulse at a moment at which others have one."""

    moment: str
    names: list[str]


class LessonResults(TypedDict):
    """What a lesson has, what is missing, and what wants a look."""

    lesson_id: UUID
    tests: list[TestWaits]
    missing: int
    odd: int
    pulses: int
    pulse_blanks: list[PulseBlanks]


def lesson_results(staff: Staff, lesson_id: UUID) -> LessonResults:
    """Every test of a lesson with what waits in it, how many pulses were taken, and whose are blank
    at a moment at which others have one. As many queries as `waiting_in`, and three. Raises
    NotFound."""
    lesson = lesson_of(staff, lesson_id)
    tests = waiting_in(staff, [lesson])[lesson.id]
    taken = (
        PulseReading.objects.filter(lesson=lesson, successor=None)
        .exclude(reason=WITHDRAWN)
        .order_by("position")
        .values_list("position", "pupil_id", "moment", "label")
    )
    moments: dict[int, tuple[str, set[UUID]]] = {}
    for position, pupil, moment, label in taken:
        words = moment_words(Moment(moment), label)
        moments.setdefault(position, (words, set()))[1].add(pupil)
    children = Pupil.objects.filter(school_class=lesson.school_class_id)
    return {
        "lesson_id": lesson.id,
        "tests": tests,
        "missing": sum(one["missing"] for one in tests),
        "odd": sum(one["odd"] for one in tests),
        "pulses": sum(len(there) for _, there in moments.values()),
        "pulse_blanks": [
            {"moment": words, "names": blank}
            for words, there in moments.values()
            if (blank := [one.name for one in children if one.id not in there])
        ],
    }


def waiting_in(staff: Staff, lessons: Sequence[Lesson]) -> Mapping[UUID, list[TestWaits]]:
    """By lesson, every test in it with how many scores are there, missing, and want a look. Three
    queries, however many lessons and children."""
    found: dict[UUID, list[TestWaits]] = defaultdict(list)
    activities = [
        activity
        for activity in Activity.objects.filter(lesson__in=[one.id for one in lessons])
        .select_related("protocol__test", "lesson")
        .order_by("position")
        if sees(staff, activity.protocol.test)
    ]
    if not activities:
        return found
    classes = {one.lesson.school_class_id for one in activities}
    children: dict[UUID, set[UUID]] = defaultdict(set)
    for pupil, school_class in Pupil.objects.filter(school_class__in=classes).values_list(
        "id", "school_class"
    ):
        children[school_class].add(pupil)
    there: dict[UUID, set[UUID]] = defaultdict(set)
    odd: dict[UUID, set[UUID]] = defaultdict(set)
    kept = counting().filter(activity__in=[one.id for one in activities])
    asked = Exists(Question.objects.filter(attempt=OuterRef("pk"), settled=False))
    for activity_id, pupil, wants in kept.values_list("activity_id", "pupil_id", asked):
        there[activity_id].add(pupil)
        if wants:
            odd[activity_id].add(pupil)
    for activity in activities:
        group = children[activity.lesson.school_class_id]
        without = sorted(group - there[activity.id])
        found[activity.lesson_id].append(
            {
                "activity_id": activity.id,
                "test": activity.protocol.test.name,
                "kind": activity.protocol.kind,
                "private": activity.protocol.test.private,
                "recorded": len(there[activity.id] & group),
                "missing": len(without),
                "without": without,
                "odd": len(odd[activity.id] & group),
            }
        )
    return found
