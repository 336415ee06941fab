"""A lesson's plan: what it takes, what it should be told, and proposals. Reads only."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import cast
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.queries import KitRow, kit_rows
from lauf.errors import Refused
from lauf.lessons.models import Lesson
from lauf.lessons.queries.care import LessonCare
from lauf.lessons.queries.entries import saved_entries, with_closed
from lauf.lessons.queries.lessons import lesson_of
from lauf.lessons.queries.planning import Planning, read_plan
from lauf.lessons.queries.stations import rotation_of
from lauf.messages import say
from lauf.people.models import Staff
from lauf.rules.planning import plan as rules
from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.blocks import BlockEntry, BlockKind
from lauf.rules.planning.plan import PlanItem
from lauf.rules.planning.timeline import time_spent
from lauf.rules.reading.rounding import whole


class BlockRow(TypedDict):
    """A block as it was entered, the seconds it takes, and what makes them up."""

    entry: BlockEntry
    seconds: int
    why: str


class PlanWarning(TypedDict):
    """What a plan should be told of one of its blocks, by its place."""

    code: str
    block: int
    words: str


class PlanPage(TypedDict):
    """A lesson's plan and what it takes."""

    lesson_id: UUID
    revision: int
    minutes: int
    children: int
    total_seconds: int
    left_seconds: int
    bottleneck: str | None
    saves: str
    kit: list[KitRow]
    helpers: int
    warnings: list[PlanWarning]
    blocks: list[BlockRow]


@dataclass(frozen=True, slots=True)
class _Class:
    """The lesson a plan is for, and what the rules need of its class."""

    lesson: Lesson
    children: int
    notes: int
    names: Mapping[UUID, str]


def _class_of(staff: Staff, lesson_id: UUID) -> _Class:
    lesson = lesson_of(staff, lesson_id)
    pupils = list(lesson.school_class.pupils.all())
    notes = sum(1 for pupil in pupils if pupil.medical_note)
    return _Class(lesson, max(1, len(pupils)), notes, {one.id: one.name for one in pupils})


def plan_page(
    staff: Staff, lesson_id: UUID, entries: Sequence[BlockEntry] | None = None
) -> PlanPage:
    """A lesson's plan, or the one in `entries`, with what it takes and what it should be told.
    Seven queries, and up to three for what children are kept from. Raises NotFound or Refused."""
    group = _class_of(staff, lesson_id)
    lesson = group.lesson
    asked = saved_entries(lesson) if entries is None else with_closed(staff, lesson, entries)
    return describe(group, read_plan(staff, lesson, asked, group.children))


def describe(group: _Class, plan: list[Planning]) -> PlanPage:
    """What a plan takes: times with their why, kit, helpers, warnings."""
    lesson, children, notes = group.lesson, group.children, group.notes
    tests = [one.test for one in plan if one.test]
    budget = rules.time_budget(tests, children)
    total = sum(one.seconds for one in plan)
    items = [PlanItem(one.kind, one.block.label, one.seconds, one.test)
             for one in plan]  # fmt: skip
    warnings = rules.check_plan(
        items,
        lesson_seconds=lesson.minutes * 60,
        age=lesson.year_group.age,
        notes=notes,
    )
    slowest = tests[budget.bottleneck] if budget.bottleneck is not None else None
    saves = ""
    if slowest is not None and budget.one_more_saves:
        minutes = whole(Fraction(budget.one_more_saves, 60))
        saves = say(
            "One more set of kit and one more helper at {name} would save about {minutes} min.",
            name=slowest.name,
            minutes=minutes,
        )
    return {
        "lesson_id": lesson.id,
        "revision": lesson.plan_revision,
        "minutes": lesson.minutes,
        "children": children,
        "total_seconds": total,
        "left_seconds": lesson.minutes * 60 - total,
        "bottleneck": slowest.name if slowest and len(tests) > 1 else None,
        "saves": saves,
        "kit": kit_rows(tests, children),
        "helpers": max((test.helpers for test in tests), default=0),
        "warnings": [
            *(PlanWarning(code=one.code, block=one.block, words=one.words) for one in warnings),
            *_kept_from(group, plan),
        ],
        "blocks": [_described(one) for one in plan],
    }


def _kept_from(group: _Class, plan: list[Planning]) -> list[PlanWarning]:
    """Which children are not to do which test of a plan. Three queries at most."""
    tests = [(at, one.version) for at, one in enumerate(plan) if one.version and not one.closed]
    care = LessonCare(group.lesson, [version for _, version in tests])
    found: list[PlanWarning] = []
    for at, version in tests:
        for pupil, kept in care.kept_from(version).items():
            words = say(
                "{child} {words}: {test} (allowed today by the teacher)."
                if kept.allowed
                else "{child} {words}: {test}.",
                child=group.names.get(pupil, say("A child")),
                words=kept.words,
                test=version.test.name,
            )
            found.append({"code": "care", "block": at, "words": words})
    return found


def _described(one: Planning) -> BlockRow:
    return {"entry": _entered(one), "seconds": one.seconds, "why": _why(one)}


def _entered(one: Planning) -> BlockEntry:
    """A block as it goes out and comes back; of one that is closed to the asker its name alone."""
    shown: Mapping[str, object] = one.entry
    if one.closed:
        shown = {"kind": one.kind, "id": one.entry.get("id"), "test_id": None, "activity_id": None}
    return cast("BlockEntry", {**shown, "label": one.block.label, "closed": one.closed})


def _why(one: Planning) -> str:
    """What makes up a block's time, and what its rotation gave up; nothing for a plain stretch."""
    spent = time_spent(one.block)
    words = [
        f"{what} {seconds[0]} s" if len(seconds) == 1
        else f"{what} {len(seconds)} × {seconds[0]} s" if len(set(seconds)) == 1
        else say(
            "{what} {n} times, {seconds} s", what=what, n=len(seconds), seconds=sum(seconds)
        )
        for what, seconds in spent.items()
    ]  # fmt: skip
    gave_up = rotation_of(one.entry)["gave_up"] if one.entry["kind"] is BlockKind.STATIONS else []
    return ". ".join([*([" · ".join(words)] if len(words) > 1 else []), *gave_up])


def in_good_order(staff: Staff, lesson_id: UUID, entries: Sequence[BlockEntry]) -> PlanPage:
    """The same blocks with the tests in a good order, in the places where tests are, and a warm-up
    before them. A proposal: nothing is kept. Raises NotFound or Refused."""
    group = _class_of(staff, lesson_id)
    asked = with_closed(staff, group.lesson, entries)
    plan = read_plan(staff, group.lesson, asked, group.children)
    tests = [one for one in plan if one.test]
    turn = iter(rules.in_good_order([one.test for one in tests if one.test]))
    changed = [tests[next(turn)] if one.test else one for one in plan]
    kinds = [one.kind for one in changed]
    warm = BlockKind.WARM_UP
    working = [n for n, kind in enumerate(kinds) if BLOCK_KINDS[kind].works]
    if warm in kinds and working and kinds.index(warm) > working[0]:
        changed.insert(working[0], changed.pop(kinds.index(warm)))
    return describe(group, changed)


def _least(one: Planning) -> int:
    """The least a block may be shortened to, in seconds: what it takes, where it does not say how
    long it lasts."""
    least = BLOCK_KINDS[one.kind].least
    return one.seconds if least is None or not _given_seconds(one.entry) else least


def _given_seconds(entry: Mapping[str, object]) -> int:
    seconds = entry.get("seconds")
    return seconds if isinstance(seconds, int) else 0


def _shortened(entry: BlockEntry, by: int) -> BlockEntry:
    """A block of so many seconds less, where it says how long it lasts."""
    seconds = _given_seconds(entry)
    return cast("BlockEntry", {**entry, "seconds": seconds - by}) if seconds and by else entry


def fitted(staff: Staff, lesson_id: UUID, entries: Sequence[BlockEntry]) -> PlanPage:
    """The same blocks, the open ones shortened so that all fits the lesson. A proposal: nothing is
    kept. Raises NotFound, or Refused when even the shortest does not fit."""
    group = _class_of(staff, lesson_id)
    lesson = group.lesson
    asked = with_closed(staff, lesson, entries)
    plan = read_plan(staff, lesson, asked, group.children)
    least = [min(one.seconds, _least(one)) for one in plan]
    seconds = rules.fit_to_time([one.seconds for one in plan], least, lesson.minutes * 60)
    if seconds is None:
        over = -(-(sum(least) - lesson.minutes * 60) // 60)
        raise Refused(
            say(
                "Even with the shortest talks and breaks this is {over} min too long. "
                "Remove a block, or plan fewer tries.",
                over=over,
            )
        )
    changed = [
        _shortened(one.entry, one.seconds - now) for one, now in zip(plan, seconds, strict=True)
    ]
    return describe(group, read_plan(staff, lesson, changed, group.children))
