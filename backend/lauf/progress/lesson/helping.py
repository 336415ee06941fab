"""What a helper sees of a lesson, and what its teacher sees of the helpers."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime
from typing import Any, cast
from uuid import UUID

from django.db.models import Count, Max, QuerySet
from typing_extensions import TypedDict

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.protocol import VariantEntry
from lauf.catalogue.queries import for_everybody, sees
from lauf.errors import NotFound
from lauf.lessons.models import Activity, Helper, HelperCode, PlanBlock
from lauf.lessons.queries import (
    LessonCare,
    OneTest,
    conditions_of,
    entry_of,
    group_names,
    lesson_of,
    members,
    one_test,
    one_test_in_turn,
)
from lauf.messages import say
from lauf.people.models import Staff
from lauf.progress.lesson.lanes import Reading, ReasonRow, reading_in, reason_rows
from lauf.records.models import WITHDRAWN, Attempt, Recount
from lauf.records.queries import reason_words
from lauf.rules.judging.tries import SPARE_TRIES
from lauf.rules.planning.blocks import BlockKind, StationsEntry, stations_of
from lauf.rules.reading.entry import QuickCheck, accepted_words, quick_check
from lauf.rules.reading.kinds import format_value
from lauf.rules.reading.quantities import Measure


class HelpedChild(TypedDict):
    """A child as a helper knows it: a number and a given name."""

    pupil_id: UUID
    number: int
    name: str


class HelpedGroup(TypedDict):
    """Some of the class, to choose from: a half, a group, who is at a station."""

    name: str
    children: list[UUID]


class HelpedEntry(TypedDict):
    """A try that has a score. What others entered is not told, so that two counts are two."""

    pupil_id: UUID
    try_number: int
    # Of the helper's own newest entry; None for somebody else's.
    head: UUID | None
    typed: str
    shown: str
    variant: str
    mine: bool


class HelpedForm(TypedDict):
    """The form of a test that a child does."""

    pupil_id: UUID
    variant: str


class HelpedTest(TypedDict):
    """A test of the lesson as a helper takes it."""

    activity_id: UUID
    test: str
    kind: str
    seconds: int | None
    tries: int
    most_tries: int
    of: int | None
    variants: list[VariantEntry]
    say: list[str]
    counts: list[str]
    does_not_count: list[str]
    cautions: list[str]
    accepted: str
    quick_check: QuickCheck
    reasons: list[ReasonRow]
    # Of a test that has several.
    forms: list[HelpedForm]
    # Whom the helper asks the teacher about first.
    ask_first: list[UUID]
    entries: list[HelpedEntry]


class HelpedLesson(TypedDict):
    """All that a helper's device has of a lesson."""

    helper_id: UUID
    name: str
    lesson_id: UUID
    class_name: str
    teacher: str
    place: str
    starts_at: datetime
    children: list[HelpedChild]
    groups: list[HelpedGroup]
    tests: list[HelpedTest]


class Entered(TypedDict):
    """What became of a helper's entry. `beside`: somebody else's score stands there, and both are
    kept; `odd`: the teacher is asked about it."""

    entry: HelpedEntry
    beside: bool
    odd: bool


class HelperRow(TypedDict):
    """A helper as the teacher sees them."""

    id: UUID
    name: str
    joined_at: datetime
    ended: bool
    entries: int
    last_at: datetime | None


class HelpersPage(TypedDict):
    """How a lesson stands with helpers: the code while it opens anything, and who came."""

    lesson_id: UUID
    code: str | None
    secret: str | None
    until: datetime | None
    helpers: list[HelperRow]


def helpers_page(staff: Staff, lesson_id: UUID, now: datetime) -> HelpersPage:
    """The helpers of a lesson and the code that lets them in. Five queries. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    code = HelperCode.objects.filter(lesson=lesson, until__gt=now).first()
    if lesson.closed_at is not None:
        code = None
    entered = [
        _numbers(Attempt.objects.filter(activity__lesson=lesson, helper__isnull=False)),
        _numbers(Recount.objects.filter(activity__lesson=lesson)),
    ]
    rows: list[HelperRow] = []
    for helper in lesson.helpers.all():
        mine = [found[helper.id] for found in entered if helper.id in found]
        rows.append(
            {
                "id": helper.id,
                "name": helper.name,
                "joined_at": helper.joined_at,
                "ended": helper.ended_at is not None,
                "entries": sum(number for number, _ in mine),
                "last_at": max((last for _, last in mine), default=None),
            }
        )
    return {
        "lesson_id": lesson.id,
        "code": code.code if code else None,
        "secret": code.secret if code else None,
        "until": code.until if code else None,
        "helpers": rows,
    }


def _numbers(rows: QuerySet[Any]) -> dict[UUID, tuple[int, datetime]]:
    counted = rows.order_by().values("helper").annotate(n=Count("pk"), last=Max("received_at"))
    return {one["helper"]: (one["n"], one["last"]) for one in counted}


def helped_lesson(helper: Helper) -> HelpedLesson:
    """What a helper needs of the lesson: no family name, no note, no earlier score, no body
    measurement. Eight queries, whatever the number of tests and children, and up to two more where
    tests ask for something that children can be kept from."""
    lesson, staff = helper.lesson, for_everybody(helper.let_in_by)
    activities = [
        one
        for one in lesson.activities.select_related("protocol__test__school")
        if sees(staff, one.protocol.test) and not one.protocol.test.private
    ]
    children = list(
        lesson.school_class.pupils.values_list("id", "given_name", "group", "medical_note")
    )
    noted = [pupil for pupil, _, _, note in children if note]
    care = LessonCare(lesson, [one.protocol for one in activities])
    entries = _entries(helper, [one.id for one in activities])
    used = _used_forms([pupil for pupil, *_ in children], activities)
    return {
        "helper_id": helper.id,
        "name": helper.name,
        "lesson_id": lesson.id,
        "class_name": lesson.school_class.name,
        "teacher": helper.let_in_by.name,
        "place": lesson.place,
        "starts_at": lesson.starts_at,
        "children": [
            {"pupil_id": pupil, "number": number, "name": name}
            for number, (pupil, name, _, _) in enumerate(children, 1)
        ],
        "groups": _groups(lesson.id, [(pupil, group) for pupil, _, group, _ in children]),
        "tests": [
            _test(
                one,
                [*noted, *care.kept_from(one.protocol)],
                _forms(one.protocol, [pupil for pupil, *_ in children], used),
                entries.get(one.id, ()),
            )
            for one in activities
        ],
    }


def _test(
    activity: Activity,
    ask_first: Iterable[UUID],
    forms: list[HelpedForm],
    entries: Iterable[_Entry],
) -> HelpedTest:
    protocol = activity.protocol
    measure = protocol.measure_with(conditions_of(activity, {}))
    return {
        "activity_id": activity.id,
        "test": protocol.test.name,
        "kind": protocol.kind,
        "seconds": protocol.seconds,
        "tries": protocol.tries,
        "most_tries": protocol.tries + SPARE_TRIES,
        "of": protocol.of,
        "variants": protocol.variants,
        "say": protocol.say,
        "counts": protocol.counts,
        "does_not_count": protocol.does_not_count,
        "cautions": protocol.cautions,
        "accepted": accepted_words(measure),
        "quick_check": quick_check(measure),
        "reasons": reason_rows(measure),
        "forms": forms,
        "ask_first": sorted(set(ask_first)),
        "entries": [_entry(kept, measure, mine=mine) for kept, mine in entries],
    }


def _used_forms(
    children: Sequence[UUID], activities: Sequence[Activity]
) -> dict[tuple[UUID, UUID], str]:
    """By child and test, the form that was done last. One query."""
    scored = Attempt.objects.filter(
        pupil__in=children,
        protocol__test__in={one.protocol.test_id for one in activities},
        successor=None,
        value__isnull=False,
    )
    last = scored.order_by("pupil", "protocol__test", "-on", "-recorded_at").distinct(
        "pupil", "protocol__test"
    )
    return {
        (pupil, test): variant
        for pupil, test, variant in last.values_list("pupil", "protocol__test", "variant")
    }


def _forms(
    protocol: ProtocolVersion, children: Sequence[UUID], used: Mapping[tuple[UUID, UUID], str]
) -> list[HelpedForm]:
    """The form each child does: the one it did last, else the usual one."""
    if not protocol.variants:
        return []
    usual, known = protocol.usual_variant, set(protocol.variant_codes)
    found = [(pupil, used.get((pupil, protocol.test_id), usual)) for pupil in children]
    return [
        {"pupil_id": pupil, "variant": form if form in known else usual} for pupil, form in found
    ]


#: An entry, and whether it is the helper's own.
_Entry = tuple[Attempt | Recount, bool]


def _entry(kept: Attempt | Recount, measure: Measure, *, mine: bool) -> HelpedEntry:
    """One of the helper's own, or only that there is one of somebody else's."""
    return {
        "pupil_id": kept.pupil_id,
        "try_number": kept.try_number,
        "head": kept.id if mine else None,
        "typed": kept.typed if mine else "",
        "shown": _shown(kept, measure) if mine else "",
        "variant": kept.variant if mine else "",
        "mine": mine,
    }


def _shown(kept: Attempt | Recount, measure: Measure) -> str:
    if kept.reason == WITHDRAWN:
        return ""
    if kept.reason is not None:
        return reason_words(kept.reason)
    return kept.typed if kept.value is None else format_value(kept.value, measure)


def _entries(helper: Helper, activities: Sequence[UUID]) -> Mapping[UUID, list[_Entry]]:
    """By activity, the newest entry of each try: the helper's own, else somebody's. Three
    queries."""
    found: dict[UUID, dict[tuple[UUID, int], _Entry]] = defaultdict(dict)
    heads = Attempt.objects.filter(activity__in=activities, successor=None)
    for one in heads.exclude(reason=WITHDRAWN):
        place = (one.pupil_id, one.try_number)
        found[one.activity_id][place] = (one, one.helper_id == helper.id)
    own = Recount.objects.filter(activity__in=activities, helper=helper)
    newest = {(one.activity_id, one.pupil_id, one.try_number): one for one in own}
    entered = _last_entered(helper, activities)
    for key, again in newest.items():
        activity, place = key[0], key[1:]
        there = found[activity].get(place)
        is_older = key in entered and entered[key] > again.received_at
        if again.reason != WITHDRAWN and there is not None and not there[1] and not is_older:
            found[activity][place] = (again, True)
    return {activity: list(places.values()) for activity, places in found.items()}


def _last_entered(
    helper: Helper, activities: Sequence[UUID]
) -> dict[tuple[UUID, UUID, int], datetime]:
    """When a helper last entered a score of a try. One query."""
    scored = Attempt.objects.filter(activity__in=activities, helper=helper).order_by()
    return {
        (activity, pupil, number): last
        for activity, pupil, number, last in scored.values_list(
            "activity_id", "pupil_id", "try_number"
        ).annotate(last=Max("received_at"))
    }


def _groups(lesson_id: UUID, children: Sequence[tuple[UUID, str]]) -> list[HelpedGroup]:
    """The halves of the class, its groups, and those of its stations. One query."""
    pupils = [pupil for pupil, _ in children]
    half = (len(pupils) + 1) // 2
    found: list[HelpedGroup] = [
        {"name": say("First half"), "children": pupils[:half]},
        {"name": say("Second half"), "children": pupils[half:]},
    ]
    by_name: dict[str, list[UUID]] = defaultdict(list)
    for pupil, group in children:
        if group:
            by_name[group].append(pupil)
    found += [{"name": name, "children": there} for name, there in sorted(by_name.items())]
    for block in PlanBlock.objects.filter(lesson=lesson_id, kind=BlockKind.STATIONS):
        entry = cast("StationsEntry", entry_of(block))
        names = group_names(entry, len(stations_of(entry)))
        groups, _ = members(entry, len(names), pupils)
        found += [
            {"name": f"{block.label}: {name}", "children": there}
            for name, there in zip(names, groups, strict=True)
        ]
    return [one for one in found if one["children"]]


def test_in_turn(helper: Helper, activity_id: UUID) -> OneTest:
    """A test of the helper's own lesson, in turn until the transaction ends. Raises NotFound. One
    query."""
    staff = for_everybody(helper.let_in_by)
    return _of_the_lesson(helper, one_test_in_turn(staff, activity_id))


def _of_the_lesson(helper: Helper, taken: OneTest) -> OneTest:
    activity = taken.activity
    if activity.lesson_id != helper.lesson_id or activity.protocol.test.private:
        raise NotFound(say("activity"))
    return taken


def entered(taken: OneTest, kept: Attempt | Recount, *, odd: bool) -> Entered:
    """What is answered to a helper's entry."""
    measure = taken.activity.protocol.measure_with(conditions_of(taken.activity, {}))
    # A second count that is taken back leaves the other's.
    is_gone = isinstance(kept, Recount) and kept.reason == WITHDRAWN
    answer = _entry(kept, measure, mine=not is_gone)
    return {"entry": answer, "beside": isinstance(kept, Recount), "odd": odd}


def helper_reading(helper: Helper, activity_id: UUID, typed: str) -> Reading:
    """How a helper's entry would be kept, in words, before it is. Raises NotFound. Two queries."""
    staff = for_everybody(helper.let_in_by)
    return reading_in(_of_the_lesson(helper, one_test(staff, activity_id)).activity, typed)
