"""A lesson's plan: blocks read and checked, what they take, and proposals. Reads only."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Final
from uuid import UUID

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import newest_protocols, planned
from lauf.lessons.models import Lesson, PlanBlock
from lauf.lessons.queries import lesson_of
from lauf.lessons.stations import check_groups, rotation_of
from lauf.people.models import Staff
from lauf.people.queries import NotFound, Refused
from lauf.rules import plan as rules
from lauf.rules.blocks import Block, BlockKind, Movement, TrialPlan, read_efforts
from lauf.rules.plan import PlanItem, Planned
from lauf.rules.quantities import Kind
from lauf.rules.timeline import block_seconds, time_spent

KIND_WORDS: Final = {
    BlockKind.BRIEFING: "Briefing",
    BlockKind.WARM_UP: "Warm-up",
    BlockKind.STRETCH: "Stretch",
    BlockKind.PULSE: "Pulse check",
    BlockKind.TEST: "Test",
    BlockKind.INTERVALS: "Intervals",
    BlockKind.REP_TARGET: "Rep target",
    BlockKind.STATIONS: "Stations",
    BlockKind.WATER: "Water",
    BlockKind.COOL_DOWN: "Cool-down",
    BlockKind.REPORT: "Report",
}
#: What a new block of each kind begins with.
DEFAULTS: Final[dict[BlockKind, dict[str, Any]]] = {
    BlockKind.BRIEFING: {"seconds": 120},
    BlockKind.WARM_UP: {"levels": [[1, 30], [2, 60], [3, 30], [2, 30], [4, 15], [1, 30]]},
    BlockKind.STRETCH: {"seconds": 120},
    BlockKind.PULSE: {"count_seconds": 10, "seconds": 60, "hold": 10},
    BlockKind.TEST: {},
    BlockKind.INTERVALS: {
        "movements": [
            {"name": "star jumps", "efforts": "30/15/20/15"},
            {"name": "high knees", "efforts": "30/15/20"},
        ]
    },
    BlockKind.REP_TARGET: {
        "seconds": 600,
        "names": ["press-ups", "squats", "star jumps"],
        "carries": "",
    },
    BlockKind.STATIONS: {
        "stations": [
            {"name": "skipping", "loads": ["aerobic"], "room": 1},
            {"name": "press-ups", "loads": ["push"], "room": 1},
            {"name": "step-ups", "loads": ["legs"], "room": 1},
            {"name": "plank", "loads": ["core"], "room": 1},
        ],
        "work": 45,
        "change": 20,
        "rounds": 4,
    },
    BlockKind.WATER: {"seconds": 60},
    BlockKind.COOL_DOWN: {"steps": 40, "hold": 3, "seconds": 90},
    BlockKind.REPORT: {"seconds": 180},
}
#: The least a block may be shortened to when a plan is fitted to the time, in seconds.
_LEAST: Final = {
    BlockKind.BRIEFING: 45,
    BlockKind.STRETCH: 60,
    BlockKind.WATER: 30,
    BlockKind.REPORT: 60,
    BlockKind.REP_TARGET: 180,
}


@dataclass(frozen=True, slots=True)
class Planning:
    """One block of a plan being made, with what the rules need of it."""

    entry: dict[str, Any]
    block: Block
    seconds: int
    test: Planned | None
    version: ProtocolVersion | None


def read_block(entry: dict[str, Any], version: ProtocolVersion | None, children: int) -> Block:
    """A block from what was entered. Raises Refused, naming the block."""
    kind = BlockKind(entry["kind"])
    label = entry["label"].strip()[:80] or (version.test.name if version else KIND_WORDS[kind])
    test = None
    if kind is BlockKind.TEST:
        if version is None:
            raise Refused(f"{label}: choose the test of this block.")
        test = _trial(version, children)
    elif version is not None and (kind is not BlockKind.REP_TARGET or version.kind != Kind.TOTAL):
        raise Refused(f"{label}: only a rep target counts for a test, one of a total.")
    listed = entry.get("movements") if kind is BlockKind.INTERVALS else None
    try:
        check_groups(entry)
        movements = tuple(
            Movement(one["name"].strip()[:40] or "movement", read_efforts(one["efforts"]))
            for one in listed or ()
        )
    except ValueError as problem:
        raise Refused(f"{label}: {problem}") from problem
    return Block(
        kind=kind,
        label=label,
        seconds=entry.get("seconds") or 0,
        say=(entry.get("say") or "").strip()[:120],
        levels=tuple((level, seconds) for level, seconds in entry.get("levels") or ()),
        movements=movements,
        count_seconds=entry.get("count_seconds") or 10,
        test=test,
        stations=tuple(
            one["name"].strip()[:40] for one in entry.get("stations") or () if one["name"].strip()
        ),
        work=entry.get("work") or 0,
        change=entry.get("change") or 0,
        rounds=entry.get("rounds") or 0,
        steps=entry.get("steps") or 0,
        hold=entry.get("hold") or 0,
    )


def _trial(version: ProtocolVersion, children: int) -> TrialPlan:
    """The clock of a test in a lesson. Where only so many go at once, it has no clock for all: its
    waves are those that the class needs."""
    test = planned(version, children)
    own_clock = version.at_once is None
    return TrialPlan(
        seconds=version.seconds if own_clock else None,
        waves=rules.waves_needed(test, children),
        tries=version.tries,
        setup=version.setup_seconds,
        trial=version.trial_seconds,
        changeover=version.changeover_seconds,
    )


def saved_entries(lesson: Lesson) -> list[dict[str, Any]]:
    """The blocks as they were entered; for a lesson without a plan one for each of its tests. Two
    queries at most."""
    blocks = list(lesson.blocks.select_related("activity__protocol"))
    if blocks:
        return [_entry(block) for block in blocks]
    return [
        {
            "kind": BlockKind.TEST.value,
            "label": activity.protocol.test.name,
            "test_id": activity.protocol.test_id,
            "activity_id": activity.id,
        }
        for activity in lesson.activities.select_related("protocol__test")
    ]


def _entry(block: PlanBlock) -> dict[str, Any]:
    activity = block.activity
    return {
        **block.settings,
        "kind": block.kind,
        "label": block.label,
        "test_id": activity.protocol.test_id if activity else None,
        "activity_id": activity.id if activity else None,
    }


def read_plan(staff: Staff, entries: Sequence[dict[str, Any]], children: int) -> list[Planning]:
    """The blocks of a plan. One query. Raises NotFound for a test out of scope, or Refused."""
    wanted = {entry["test_id"] for entry in entries if entry.get("test_id")}
    versions: dict[UUID, ProtocolVersion] = {}
    if wanted:
        versions = {v.test_id: v for v in newest_protocols(staff).filter(test__in=wanted)}
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
        found.append(Planning(entry, block, seconds, test, version))
    return found


@dataclass(frozen=True, slots=True)
class _Class:
    """The lesson a plan is for, and what the rules need of its class."""

    lesson: Lesson
    children: int
    notes: int


def _class_of(staff: Staff, lesson_id: UUID) -> _Class:
    lesson = lesson_of(staff, lesson_id)
    notes = list(lesson.school_class.pupils.values_list("medical_note", flat=True))
    return _Class(lesson, max(1, len(notes)), sum(1 for note in notes if note))


def plan_page(staff: Staff, lesson_id: UUID, entries: list[dict[str, Any]] | None = None,
              ) -> dict[str, Any]:  # fmt: skip
    """A lesson's plan, or the one in `entries`, with what it takes and what it should be told. Six
    queries. Raises NotFound or Refused."""
    group = _class_of(staff, lesson_id)
    asked = saved_entries(group.lesson) if entries is None else entries
    return describe(group, read_plan(staff, asked, group.children))


def describe(group: _Class, plan: list[Planning]) -> dict[str, Any]:
    """What a plan takes: times with their why, kit, helpers, warnings."""
    lesson, children, notes = group.lesson, group.children, group.notes
    tests = [one.test for one in plan if one.test]
    budget = rules.time_budget(tests, children)
    total = sum(one.seconds for one in plan)
    items = [PlanItem(one.block.kind.value, one.block.label, one.seconds, one.test)
             for one in plan]  # fmt: skip
    warnings = rules.check_plan(
        items,
        lesson_seconds=lesson.minutes * 60,
        age=lesson.school_class.year_group.age,
        notes=notes,
    )
    slowest = tests[budget.bottleneck] if budget.bottleneck is not None else None
    saves = ""
    if slowest is not None and budget.one_more_saves:
        minutes = round(budget.one_more_saves / 60)
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
        "warnings": [
            {"code": one.code, "block": one.block, "words": one.words} for one in warnings
        ],
        "blocks": [_described(one) for one in plan],
        "kinds": [
            {"kind": kind.value, "words": words, "defaults": DEFAULTS[kind]}
            for kind, words in KIND_WORDS.items()
        ],
    }


def _described(one: Planning) -> dict[str, Any]:
    return {
        "kind": one.block.kind.value,
        "label": one.block.label,
        "seconds": one.seconds,
        "why": _why(one),
        "test_id": one.entry.get("test_id"),
        "activity_id": one.entry.get("activity_id"),
        "settings": settings_of(one.entry),
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


#: What a block keeps of what was entered.
_SETTINGS: Final = (
    "seconds", "say", "levels", "movements", "count_seconds", "stations", "groups", "work",
    "change", "rounds", "steps", "hold", "names", "carries",
)  # fmt: skip


def settings_of(entry: dict[str, Any]) -> dict[str, Any]:
    """The settings of a block that were given, as they are kept."""
    found = {name: entry[name] for name in _SETTINGS if entry.get(name) not in (None, "", [])}
    if groups := found.get("groups"):
        members = [[str(child) for child in group] for group in groups["members"]]
        found["groups"] = {**groups, "members": members}
    return found


def in_good_order(staff: Staff, lesson_id: UUID, entries: list[dict[str, Any]]) -> dict[str, Any]:
    """The same blocks with the tests in a good order, in the places where tests are, and a warm-up
    before them. A proposal: nothing is kept. Raises NotFound or Refused."""
    group = _class_of(staff, lesson_id)
    plan = read_plan(staff, entries, group.children)
    tests = [one for one in plan if one.test]
    turn = iter(rules.in_good_order([one.test for one in tests if one.test]))
    changed = [tests[next(turn)] if one.test else one for one in plan]
    kinds = [one.block.kind for one in changed]
    warm = BlockKind.WARM_UP
    working = [n for n, kind in enumerate(kinds) if kind in _WORKING]
    if warm in kinds and working and kinds.index(warm) > working[0]:
        changed.insert(working[0], changed.pop(kinds.index(warm)))
    return describe(group, changed)


#: What asks for effort, and so for a warm-up before it.
_WORKING: Final = {
    BlockKind.TEST, BlockKind.INTERVALS, BlockKind.REP_TARGET, BlockKind.STATIONS,
}  # fmt: skip


def fitted(staff: Staff, lesson_id: UUID, entries: list[dict[str, Any]]) -> dict[str, Any]:
    """The same blocks, the open ones shortened so that all fits the lesson. A proposal: nothing is
    kept. Raises NotFound, or Refused when even the shortest does not fit."""
    group = _class_of(staff, lesson_id)
    lesson, plan = group.lesson, read_plan(staff, entries, group.children)
    least = [
        min(one.seconds, _LEAST.get(one.block.kind, one.seconds))
        if one.entry.get("seconds")
        else one.seconds
        for one in plan
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
    return describe(group, read_plan(staff, changed, group.children))
