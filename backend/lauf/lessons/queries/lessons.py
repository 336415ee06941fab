"""Every read about lessons."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, datetime, timedelta
from typing import Any, Final
from uuid import UUID

from django.db.models import Model, Q, QuerySet
from django.utils import timezone
from typing_extensions import TypedDict

from lauf.catalogue.protocol import VariantEntry
from lauf.catalogue.queries import read_condition, sees
from lauf.compiled import CompiledModel
from lauf.errors import NotFound, Refused
from lauf.lessons.clock_state import RunRow
from lauf.lessons.models import Activity, Lesson, Run
from lauf.messages import say
from lauf.people.models import Staff
from lauf.people.queries import children_in, class_of
from lauf.rules.judging.comparability import CONDITION_WORDS, FreeConditions


class MedicalNote(TypedDict):
    """A child's medical note."""

    pupil_id: UUID
    name: str
    note: str


class ActivityPage(TypedDict):
    """A test of a lesson: how it is said and shown, and its clocks."""

    id: UUID
    test_id: UUID
    test: str
    # A body measurement: each look at it is on record.
    private: bool
    kind: str
    version: int
    seconds: int | None
    waves: int
    variants: list[VariantEntry]
    say: list[str]
    counts: list[str]
    does_not_count: list[str]
    cautions: list[str]
    runs: list[RunRow]


class LessonPage(TypedDict):
    """All that running a lesson needs."""

    id: UUID
    class_id: UUID
    class_name: str
    year_group: str
    teacher: str
    place: str
    starts_at: datetime
    minutes: int
    battery: bool
    closed_at: datetime | None
    closed_by: str | None
    children: int
    # Something is kept in it: its class and day stay, and it cannot be deleted.
    used: bool
    medical_notes: list[MedicalNote]
    activities: list[ActivityPage]


class Suggestion(TypedDict):
    """A lesson that may be meant: as one about this time of the week was."""

    class_id: UUID
    class_name: str
    place: str
    minutes: int
    tests: list[UUID]
    test_names: list[str]
    on: date


class PastLesson(TypedDict):
    """A lesson of a class, by its tests."""

    id: UUID
    starts_at: datetime
    place: str
    battery: str | None
    closed: bool
    tests: list[str]


def lessons_of(staff: Staff) -> QuerySet[Lesson]:
    """The lessons of the classes this person may see."""
    lessons = Lesson.objects.filter(school_id=staff.school_id)
    return lessons if staff.sees_school else lessons.filter(school_class__teachers=staff)


class _InScope:
    """One of something of a lesson, if this person may see it. `to_lesson` leads from it to its
    lesson; `in_turn`: until the transaction ends nobody else reads it so. One query."""

    def __init__(
        self, model: type[Model], to_lesson: str, *related: str, in_turn: bool = False
    ) -> None:
        def found(one: UUID, school: UUID, **more: UUID) -> QuerySet[Any]:
            rows = model._default_manager.filter(pk=one, **{f"{to_lesson}school": school, **more})
            return rows.select_for_update(of=("self",), no_key=True) if in_turn else rows

        teachers = f"{to_lesson}school_class__teachers"
        self._any = CompiledModel(model, found, UUID, UUID, related=related)
        self._own = CompiledModel(
            model,
            lambda one, school, staff: found(one, school, **{teachers: staff}),
            UUID,
            UUID,
            UUID,
            related=related,
        )

    def first(self, staff: Staff, one: UUID) -> Any:
        if staff.sees_school:
            return self._any.first(one, staff.school_id)
        return self._own.first(one, staff.school_id, staff.id)


_LESSON = _InScope(
    Lesson, "", "school", "school_class", "year_group", "teacher", "closed_by", "battery"
)


def lesson_of(staff: Staff, lesson_id: UUID) -> Lesson:
    """One lesson in scope, with its school and class. Raises NotFound. One query."""
    found: Lesson | None = _LESSON.first(staff, lesson_id)
    if found is None:
        raise NotFound(say("lesson"))
    return found


_ACTIVITIES = CompiledModel(
    Activity,
    lambda lesson: Activity.objects.filter(lesson=lesson),
    UUID,
    related=("protocol", "protocol__test"),
)


def activities_of(lesson: Lesson) -> list[Activity]:
    """The tests of a lesson in their order, with their protocols. One query."""
    found: list[Activity] = _ACTIVITIES.all(lesson.id)
    for activity in found:
        activity.lesson = lesson
        activity.protocol.test.school = lesson.school
    return found


_WITH_ACTIVITY: Final = (
    "lesson", "lesson__school_class", "protocol", "protocol__test", "protocol__test__school",
)  # fmt: skip
_ACTIVITY = _InScope(Activity, "lesson__", *_WITH_ACTIVITY)
_ACTIVITY_IN_TURN = _InScope(Activity, "lesson__", *_WITH_ACTIVITY, in_turn=True)


def activity_of(staff: Staff, activity_id: UUID) -> Activity:
    """One activity in scope, with lesson, class and protocol. Raises NotFound. One query."""
    return _seen_activity(staff, _ACTIVITY.first(staff, activity_id))


def activity_in_turn(staff: Staff, activity_id: UUID) -> Activity:
    """The same; until the transaction ends nobody else has it in turn."""
    return _seen_activity(staff, _ACTIVITY_IN_TURN.first(staff, activity_id))


def _seen_activity(staff: Staff, found: Activity | None) -> Activity:
    if found is None or not sees(staff, found.protocol.test):
        raise NotFound(say("activity"))
    return found


def is_used(lesson: Lesson) -> bool:
    """Whether a score or a pulse was ever kept in a lesson, taken back or not. Two queries at
    most."""
    return lesson.pulses.exists() or lesson.activities.filter(attempts__isnull=False).exists()


def day_of(lesson: Lesson) -> date:
    """The local day of a lesson: the date its scores carry."""
    return timezone.localdate(lesson.starts_at)


def score_day(lesson: Lesson, recorded_at: datetime) -> date:
    """The day a score is of: the lesson's; in a battery, which takes days, the day it was taken."""
    day = day_of(lesson)
    if lesson.battery_id is None:
        return day
    return max(day, min(timezone.localdate(recorded_at), timezone.localdate()))


def conditions_of(activity: Activity, own: Mapping[str, int | str]) -> FreeConditions:
    """The free conditions of an attempt: the protocol's usual ones, the class's, the child's own.
    Raises Refused for one the protocol does not have, or a value that cannot be."""
    usual = activity.protocol.conditions
    for code in own:
        if code not in usual:
            known = ", ".join(CONDITION_WORDS.get(name, name) for name in usual) or "none"
            raise Refused(say("The free conditions of this test are {known}.", known=known))
    read = {code: read_condition(code, value) for code, value in own.items()}
    return {**usual, **activity.conditions, **read}


def longest_run_ms(activity_id: UUID) -> int | None:
    """How long the longest clock of an activity ran, once all of them have ended; None while one
    runs, where none did, or where it was not kept. In milliseconds, to the end of its last second.
    One query."""
    ended = (Run.Ended.COMPLETE, Run.Ended.EARLY)
    runs = Run.objects.filter(activity=activity_id).exclude(ended=Run.Ended.RESTARTED)
    worked = [
        seconds if how in ended else None
        for how, seconds in runs.values_list("ended", "worked_seconds")
    ]
    known = [seconds for seconds in worked if seconds is not None]
    return (max(known) + 1) * 1000 if known and len(known) == len(worked) else None


def suggested_wave(index: int, waves: int) -> int:
    """Neighbours in the list are partners: they work in turn."""
    return index % waves + 1


def lessons_between(staff: Staff, start: datetime, end: datetime) -> list[Lesson]:
    """Lessons in scope that start in [start, end), each with `children` and `notes`. One query."""
    rows = lessons_of(staff).filter(starts_at__gte=start, starts_at__lt=end)
    related = ("school_class", "year_group", "teacher", "battery")
    return list(
        rows.select_related(*related)
        .annotate(**children_in("school_class"))
        .order_by("starts_at", "id")
    )


def class_lessons(staff: Staff, class_id: UUID) -> list[PastLesson]:
    """The lessons of one class, newest first, the last hundred. Three queries. Raises NotFound."""
    school_class = class_of(staff, class_id)
    found = (
        lessons_of(staff)
        .filter(school_class=school_class)
        .select_related("battery")
        .prefetch_related("activities__protocol__test")
        .order_by("-starts_at")
        .distinct()[:100]
    )
    return [
        {
            "id": lesson.id,
            "starts_at": lesson.starts_at,
            "place": lesson.place,
            "battery": lesson.battery.name if lesson.battery else None,
            "closed": lesson.closed_at is not None,
            "tests": [a.protocol.test.name for a in lesson.activities.all()],
        }
        for lesson in found
    ]


#: A lesson about this time of the week suggests the one that is begun now.
_ABOUT: Final = timedelta(minutes=40)
_WEEKS: Final = 4


def suggested_lessons(staff: Staff, at: datetime) -> list[Suggestion]:
    """What a lesson begun now probably is: those that began about this time of the week in the last
    four weeks, the newest of each class, with the tests they had. Two queries."""
    times = Q()
    for week in range(1, _WEEKS + 1):
        then = at - timedelta(weeks=week)
        times |= Q(starts_at__range=(then - _ABOUT, then + _ABOUT))
    found = (
        lessons_of(staff)
        .filter(times, battery=None)
        .select_related("school_class")
        .prefetch_related("activities__protocol__test")
        .order_by("-starts_at")
    )
    newest: dict[UUID, Lesson] = {}
    for lesson in found:
        newest.setdefault(lesson.school_class_id, lesson)
    return [_suggestion(staff, lesson) for lesson in list(newest.values())[:4]]


def _suggestion(staff: Staff, lesson: Lesson) -> Suggestion:
    tests = [
        activity.protocol.test
        for activity in lesson.activities.all()
        if sees(staff, activity.protocol.test)
    ]
    return {
        "class_id": lesson.school_class_id,
        "class_name": lesson.school_class.name,
        "place": lesson.place,
        "minutes": lesson.minutes,
        "tests": [test.id for test in tests],
        "test_names": [test.name for test in tests],
        "on": day_of(lesson),
    }


def day_bounds(day: date) -> tuple[datetime, datetime]:
    """Midnight to midnight of a local day."""
    zone = timezone.get_current_timezone()
    start = datetime.combine(day, datetime.min.time(), tzinfo=zone)
    return start, datetime.combine(day + timedelta(days=1), datetime.min.time(), tzinfo=zone)


def lesson_page(staff: Staff, lesson_id: UUID) -> LessonPage:
    """All that running a lesson needs: class, medical notes, the tests and the state of their
    clocks. Six queries at most. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    pupils = list(
        lesson.school_class.pupils.values("id", "given_name", "family_name", "medical_note")
    )
    activities = lesson.activities.select_related("protocol__test__school").prefetch_related("runs")
    return {
        "id": lesson.id,
        "class_id": lesson.school_class_id,
        "class_name": lesson.school_class.name,
        "year_group": lesson.year_group.name,
        "teacher": lesson.teacher.name,
        "place": lesson.place,
        "starts_at": lesson.starts_at,
        "minutes": lesson.minutes,
        "battery": lesson.battery_id is not None,
        "closed_at": lesson.closed_at,
        "closed_by": lesson.closed_by.name if lesson.closed_by else None,
        "children": len(pupils),
        "used": is_used(lesson),
        "medical_notes": [
            {
                "pupil_id": pupil["id"],
                "name": f"{pupil['given_name']} {pupil['family_name']}".strip(),
                "note": pupil["medical_note"],
            }
            for pupil in pupils
            if pupil["medical_note"]
        ],
        "activities": [
            _activity(activity) for activity in activities if sees(staff, activity.protocol.test)
        ],
    }


def _activity(activity: Activity) -> ActivityPage:
    protocol = activity.protocol
    return {
        "id": activity.id,
        "test_id": protocol.test_id,
        "private": protocol.test.private,
        "test": protocol.test.name,
        "kind": protocol.kind,
        "version": protocol.number,
        "seconds": protocol.seconds,
        "waves": protocol.waves,
        "variants": protocol.variants,
        "say": protocol.say,
        "counts": protocol.counts,
        "does_not_count": protocol.does_not_count,
        "cautions": protocol.cautions,
        "runs": [RunRow.model_validate(run) for run in activity.runs.all()],
    }
