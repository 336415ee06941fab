"""A lesson's plan: blocks read and checked, what they take, and proposals. Reads only."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Any, Final
from uuid import UUID

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import counts_calls, newest_protocols, planned, sees
from lauf.errors import NotFound, Refused
from lauf.lessons.models import Lesson
from lauf.lessons.queries.care import LessonCare
from lauf.lessons.queries.entries import saved_entries, settings_of, with_closed
from lauf.lessons.queries.lessons import lesson_of
from lauf.lessons.queries.stations import check_groups, rotation_of
from lauf.people.models import Staff
from lauf.rules.judging.comparability import CALLS
from lauf.rules.planning import plan as rules
from lauf.rules.planning.beats import Call, on_the_beat, read_times
from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.blocks import (
    GET_READY,
    Block,
    BlockKind,
    Movement,
    TrialPlan,
    read_efforts,
)
from lauf.rules.planning.plan import PlanItem, Planned
from lauf.rules.planning.timeline import block_seconds, time_spent
from lauf.rules.reading.levels import PLAIN, Weights, read_weights
from lauf.rules.reading.quantities import Kind, decimal
from lauf.rules.reading.rounding import whole
from lauf.rules.reading.words import fitting


@dataclass(frozen=True, slots=True)
class Planning:
    """One block of a plan being made, with what the rules need of it."""

    entry: dict[str, Any]
    block: Block
    seconds: int
    test: Planned | None
    version: ProtocolVersion | None
    # Of a private test that the asker does not see: it keeps its place and its time.
    closed: bool = False


def read_block(entry: dict[str, Any], version: ProtocolVersion | None, children: int) -> Block:
    """A block from what was entered. Raises Refused, naming the block."""
    kind = BlockKind(entry["kind"])
    label, say, stations = _labels(entry)
    label = label or (version.test.name if version else BLOCK_KINDS[kind].words)
    _check_its_test(kind, label, version)
    try:
        check_groups(entry)
        movements = _movements(entry) if kind is BlockKind.INTERVALS else ()
        calls = calls_of(entry) if kind is BlockKind.BEATS else ()
        if kind is BlockKind.REP_TARGET:
            weights_of(entry)
    except ValueError as problem:
        raise Refused(f"{label}: {problem}") from problem
    return Block(
        kind=kind,
        label=label,
        id=str(entry.get("id") or ""),
        say=say,
        levels=tuple((level, seconds) for level, seconds in entry.get("levels") or ()),
        movements=movements,
        calls=calls,
        count_seconds=entry.get("count_seconds") or 10,
        # A plan that says nothing was made for a clock that goes on.
        waits=kind is BlockKind.PULSE and bool(entry.get("waits")),
        test=_trial(version, children, entry) if version and kind is BlockKind.TEST else None,
        stations=tuple(name for name in stations if name),
        **_numbers(entry, version),
    )


def _check_its_test(kind: BlockKind, label: str, version: ProtocolVersion | None) -> None:
    """A test block has a test; a rep target may count for one of a total, and what is called to a
    beat for one that is done to a beat. Raises Refused."""
    if kind is BlockKind.TEST:
        if version is None:
            raise Refused(f"{label}: choose the test of this block.")
    elif kind is BlockKind.BEATS:
        if version is not None and not counts_calls(version):
            raise Refused(f"{label}: it counts for a test of movements that are called.")
    elif version is not None and (kind is not BlockKind.REP_TARGET or version.kind != Kind.TOTAL):
        raise Refused(f"{label}: only a rep target counts for a test, one of a total.")


def _labels(entry: Mapping[str, Any]) -> tuple[str, str, list[str]]:
    """A block's name, what is said at its start, and its stations. Raises Refused for one that is
    longer than what is kept."""
    try:
        return (
            fitting(entry["label"], 80, "The name of a block"),
            fitting(entry.get("say") or "", 120, "What is said"),
            [fitting(one["name"], 40, "A station") for one in entry.get("stations") or ()],
        )
    except ValueError as problem:
        raise Refused(str(problem)) from problem


#: The settings of a block that are plain numbers, nought where nothing was entered.
_NUMBERS: Final = ("seconds", "work", "change", "rounds", "steps", "hold")


def weights_of(entry: Mapping[str, Any]) -> Weights:
    """What a rep of each level counts in a rep target; each one where nothing else is said. Raises
    ValueError."""
    typed = (entry.get("weights") or "").strip()
    return read_weights(typed) if typed and entry.get("apart") else PLAIN


def _numbers(entry: Mapping[str, Any], version: ProtocolVersion | None) -> dict[str, int]:
    """The plain numbers of a block. A rep target lasts as long as the test it counts for."""
    numbers = {field: entry.get(field) or 0 for field in _NUMBERS}
    if entry["kind"] == BlockKind.REP_TARGET and version is not None:
        numbers["seconds"] = numbers["seconds"] or version.seconds or 0
    return numbers


def calls_of(entry: Mapping[str, Any]) -> tuple[Call, ...]:
    """What a block calls to a beat: by its list of times where it has one. Raises ValueError."""
    if (entry.get("times") or "").strip():
        return read_times(entry["times"])
    if not entry.get("bpm"):
        return ()
    return on_the_beat(entry["bpm"], entry.get("every") or 1, entry.get("calls") or 0)


def called_conditions(entry: Mapping[str, Any]) -> dict[str, str]:
    """What a count of movements that were called is compared under: the movement, how many were
    called, and how fast. Raises ValueError for a block that calls nothing."""
    calls = calls_of(entry)
    movement = fitting(entry.get("movement") or "", 40, "A movement").lower()
    lasts = decimal(Fraction(calls[-1].at_ms, 1000), 1)
    return {"movement": movement or "any", CALLS: str(len(calls)), "beat": f"over {lasts} s"}


def _movements(entry: dict[str, Any]) -> tuple[Movement, ...]:
    return tuple(
        Movement(fitting(one["name"], 40, "A movement") or "movement", read_efforts(one["efforts"]))
        for one in entry.get("movements") or ()
    )


def _trial(version: ProtocolVersion, children: int, entry: Mapping[str, Any]) -> TrialPlan:
    """The clock of a test in a lesson: the protocol's seconds, where the plan says no others. Where
    only so many go at once, it has no clock for all: its waves are those that the class needs."""
    test = planned(version, children)
    own_clock = version.at_once is None

    def said(name: str, usual: int) -> int:
        value = entry.get(name)
        return usual if value is None else int(value)

    return TrialPlan(
        seconds=version.seconds if own_clock else None,
        waves=rules.waves_needed(test, children),
        tries=version.tries,
        setup=said("setup", version.setup_seconds),
        trial=version.trial_seconds,
        changeover=said("pause", version.changeover_seconds),
        get_ready=said("get_ready", GET_READY),
        # A plan that says nothing was made for a teacher who goes on by hand.
        waits=entry.get("waits") is not False,
    )


def read_plan(
    staff: Staff, lesson: Lesson, entries: Sequence[dict[str, Any]], children: int
) -> list[Planning]:
    """The blocks of a plan. A test that is in the lesson keeps the protocol version it came in
    with, also a private one; one that is new to it gets the newest. Two queries. Raises NotFound
    for a test out of scope, or Refused."""
    wanted = {entry["test_id"] for entry in entries if entry.get("test_id")}
    versions = _versions(staff, lesson, wanted) if wanted else {}
    if wanted - set(versions):
        raise NotFound("test")
    found = []
    for entry in entries:
        version = versions.get(entry["test_id"]) if entry.get("test_id") else None
        block = read_block(entry, version, children)
        try:
            seconds = block_seconds(block)
        except ValueError as problem:
            raise Refused(f"{block.label}: {problem}") from problem
        if seconds == 0:
            raise Refused(f"{block.label}: say how long it lasts.")
        # A rep target has its own time; the sums of tests are of the test waves.
        test = planned(version, children) if version and block.test else None
        closed = version is not None and not sees(staff, version.test)
        found.append(Planning(entry, block, seconds, test, version, closed))
    return found


def _versions(staff: Staff, lesson: Lesson, wanted: set[UUID]) -> dict[UUID, ProtocolVersion]:
    """The protocol version of each of these tests in a lesson, by the test's id."""
    found = {v.test_id: v for v in newest_protocols(staff).filter(test__in=wanted)}
    in_lesson = lesson.activities.filter(protocol__test__in=wanted)
    for activity in in_lesson.select_related("protocol__test__school"):
        found[activity.protocol.test_id] = activity.protocol
    return found


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


def plan_page(staff: Staff, lesson_id: UUID, entries: list[dict[str, Any]] | None = None,
              ) -> dict[str, Any]:  # fmt: skip
    """A lesson's plan, or the one in `entries`, with what it takes and what it should be told.
    Seven queries, and up to three for what children are kept from. Raises NotFound or Refused."""
    group = _class_of(staff, lesson_id)
    lesson = group.lesson
    asked = saved_entries(lesson) if entries is None else with_closed(staff, lesson, entries)
    return describe(group, read_plan(staff, lesson, asked, group.children))


def describe(group: _Class, plan: list[Planning]) -> dict[str, Any]:
    """What a plan takes: times with their why, kit, helpers, warnings."""
    lesson, children, notes = group.lesson, group.children, group.notes
    tests = [one.test for one in plan if one.test]
    budget = rules.time_budget(tests, children)
    total = sum(one.seconds for one in plan)
    items = [PlanItem(one.block.kind, one.block.label, one.seconds, one.test)
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
        saves = f"One more set of kit and helper at {slowest.name} saves about {minutes} min."
    return {
        "lesson_id": lesson.id,
        "revision": lesson.plan_revision,
        "minutes": lesson.minutes,
        "children": children,
        "total_seconds": total,
        "left_seconds": lesson.minutes * 60 - total,
        "bottleneck": slowest.name if slowest and len(tests) > 1 else None,
        "saves": saves,
        "kit": [{"item": item, "number": n} for item, n in rules.kit_list(tests, children).items()],
        "helpers": max((test.helpers for test in tests), default=0),
        "warnings": [{"code": one.code, "block": one.block, "words": one.words} for one in warnings]
        + _kept_from(group, plan),
        "blocks": [_described(one) for one in plan],
        "kinds": [
            {"kind": kind.value, "words": one.words, "defaults": dict(one.defaults)}
            for kind, one in BLOCK_KINDS.items()
        ],
    }


def _kept_from(group: _Class, plan: list[Planning]) -> list[dict[str, Any]]:
    """Which children are not to do which test of a plan. Three queries at most."""
    tests = [(at, one.version) for at, one in enumerate(plan) if one.version and not one.closed]
    care = LessonCare(group.lesson, [version for _, version in tests])
    found = []
    for at, version in tests:
        for pupil, kept in care.kept_from(version).items():
            may = "; may today, by the teacher's word" if kept.allowed else ""
            words = f"{group.names.get(pupil, 'A child')} {kept.words}: {version.test.name}{may}."
            found.append({"code": "care", "block": at, "words": words})
    return found


def _described(one: Planning) -> dict[str, Any]:
    return {
        "id": one.block.id or None,
        "kind": one.block.kind.value,
        "label": one.block.label,
        "seconds": one.seconds,
        "why": _why(one),
        "test_id": None if one.closed else one.entry.get("test_id"),
        "activity_id": None if one.closed else one.entry.get("activity_id"),
        "settings": {} if one.closed else settings_of(one.entry),
        "closed": one.closed,
    }


def _why(one: Planning) -> str:
    """What makes up a block's time, and what its rotation gave up; nothing for a plain stretch."""
    spent = time_spent(one.block)
    words = [
        f"{what} {seconds[0]} s" if len(seconds) == 1
        else f"{what} {len(seconds)} × {seconds[0]} s" if len(set(seconds)) == 1
        else f"{what} {len(seconds)} times, {sum(seconds)} s"
        for what, seconds in spent.items()
    ]  # fmt: skip
    gave_up = rotation_of(one.entry)["gave_up"] if one.block.kind is BlockKind.STATIONS else []
    return ". ".join([*([" · ".join(words)] if len(words) > 1 else []), *gave_up])


def in_good_order(staff: Staff, lesson_id: UUID, entries: list[dict[str, Any]]) -> dict[str, Any]:
    """The same blocks with the tests in a good order, in the places where tests are, and a warm-up
    before them. A proposal: nothing is kept. Raises NotFound or Refused."""
    group = _class_of(staff, lesson_id)
    asked = with_closed(staff, group.lesson, entries)
    plan = read_plan(staff, group.lesson, asked, group.children)
    tests = [one for one in plan if one.test]
    turn = iter(rules.in_good_order([one.test for one in tests if one.test]))
    changed = [tests[next(turn)] if one.test else one for one in plan]
    kinds = [one.block.kind for one in changed]
    warm = BlockKind.WARM_UP
    working = [n for n, kind in enumerate(kinds) if BLOCK_KINDS[kind].works]
    if warm in kinds and working and kinds.index(warm) > working[0]:
        changed.insert(working[0], changed.pop(kinds.index(warm)))
    return describe(group, changed)


def _least(one: Planning) -> int:
    """The least a block may be shortened to, in seconds."""
    least = BLOCK_KINDS[one.block.kind].least
    return one.seconds if least is None else least


def fitted(staff: Staff, lesson_id: UUID, entries: list[dict[str, Any]]) -> dict[str, Any]:
    """The same blocks, the open ones shortened so that all fits the lesson. A proposal: nothing is
    kept. Raises NotFound, or Refused when even the shortest does not fit."""
    group = _class_of(staff, lesson_id)
    lesson = group.lesson
    asked = with_closed(staff, lesson, entries)
    plan = read_plan(staff, lesson, asked, group.children)
    least = [
        min(one.seconds, _least(one)) if one.entry.get("seconds") else one.seconds for one in plan
    ]
    seconds = rules.fit_to_time([one.seconds for one in plan], least, lesson.minutes * 60)
    if seconds is None:
        over = -(-(sum(least) - lesson.minutes * 60) // 60)
        raise Refused(
            f"Even with the shortest talks and breaks this is {over} min too long: take a block "
            "away, or take fewer tries."
        )
    changed = [
        {**one.entry, "seconds": one.entry["seconds"] - (one.seconds - now)}
        if one.entry.get("seconds") and now != one.seconds
        else one.entry
        for one, now in zip(plan, seconds, strict=True)
    ]
    return describe(group, read_plan(staff, lesson, changed, group.children))
