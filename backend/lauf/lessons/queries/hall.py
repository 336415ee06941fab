"""A lesson as it is conducted: the plan as cues, the conductor's state, and what was really done.
Reads only."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from typing import Any
from uuid import UUID

from lauf.errors import Refused
from lauf.lessons.models import Conduct, Lesson
from lauf.lessons.queries.entries import closed_activities, hall_entries
from lauf.lessons.queries.lessons import activity_of, lesson_of
from lauf.lessons.queries.plans import read_plan
from lauf.lessons.queries.stations import rotation_of
from lauf.people.models import Staff
from lauf.rules.planning.block_parts import Phase
from lauf.rules.planning.blocks import BlockKind
from lauf.rules.planning.timeline import Timeline, timeline
from lauf.rules.reading.quantities import Kind
from lauf.rules.reading.shuttle import beeps


def lesson_timeline(staff: Staff, lesson_id: UUID, *, fresh: bool = False) -> dict[str, Any]:
    """What the conductor goes by, and its state: the timeline it began with; or, before it has
    begun or where `fresh` is asked for, that of the plan as it stands. Nine queries at most.
    Raises NotFound or Refused."""
    lesson = lesson_of(staff, lesson_id)
    conduct = Conduct.objects.filter(lesson=lesson).first()
    if conduct is not None and conduct.timeline and not fresh:
        made, revision = conduct.timeline, conduct.plan_revision
    else:
        entries = hall_entries(lesson)
        made = made_timeline(staff, lesson, entries)
        revision = lesson.plan_revision
    hidden = closed_activities(staff, lesson)
    return {
        **made,
        "blocks": [_shown(block, hidden) for block in made["blocks"]],
        "lesson_id": lesson.id,
        "class_name": lesson.school_class.name,
        "plan_revision": revision,
        "newer_plan": revision != lesson.plan_revision,
        "conduct": None if conduct is None else _state(conduct),
    }


def _shown(block: dict[str, Any], hidden: set[UUID]) -> dict[str, Any]:
    """A block of a timeline, without its activity where that is closed to the asker."""
    closed = block["activity_id"] is not None and UUID(block["activity_id"]) in hidden
    return {**block, "closed": closed, **({"activity_id": None} if closed else {})}


def made_timeline(
    staff: Staff, lesson: Lesson, entries: Sequence[dict[str, Any]]
) -> dict[str, Any]:
    """A plan as cues and segments for today's class, as plain JSON. Four queries at most. Raises
    Refused for one that cannot be called."""
    children = max(1, lesson.school_class.pupils.count())
    plan = read_plan(staff, lesson, entries, children)
    if not plan:
        raise Refused("This lesson has no blocks yet: plan it first.")
    try:
        made: Timeline = timeline([one.block for one in plan])
    except ValueError as problem:
        raise Refused(str(problem)) from problem
    return {
        "total_ms": made.total_ms,
        "blocks": [
            {
                "id": one.block.id or None,
                "label": one.block.label,
                "kind": one.block.kind.value,
                "activity_id": str(one.entry["activity_id"])
                if one.entry.get("activity_id")
                else None,
                "from_ms": begun,
                "to_ms": end,
                "rotation": rotation_of(one.entry)
                if one.block.kind is BlockKind.STATIONS
                else None,
            }
            for one, (begun, end) in zip(plan, made.blocks, strict=True)
        ],
        "segments": [
            {
                "id": one.id,
                "from_ms": one.from_ms,
                "to_ms": one.to_ms,
                "phase": one.phase.value,
                "label": one.label,
                "block": one.block,
                "wave": one.wave,
                "try_number": one.try_number,
                "waits": one.waits,
            }
            for one in made.segments
        ],
        "cues": [
            {"at_ms": cue.at_ms, "kind": cue.kind.value, "say": cue.say, "block": cue.block}
            for cue in made.cues
        ],
    }


def conduct_state(lesson: Lesson) -> dict[str, Any] | None:
    """The conductor of a lesson as it was last reported, or None. One query."""
    found = Conduct.objects.filter(lesson=lesson).first()
    return None if found is None else _state(found)


def _state(found: Conduct) -> dict[str, Any]:
    return {
        "run_id": found.run_id,
        "revision": found.revision,
        "plan_revision": found.plan_revision,
        **found.state,
    }


def conduct_record(staff: Staff, lesson_id: UUID) -> list[dict[str, Any]]:
    """What was really done in a conducted lesson, in the order it was done: each block apart, by
    what was done in it, with its seconds beside those that were planned, and what was done instead.
    Two queries. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    found = Conduct.objects.filter(lesson=lesson).first()
    return [] if found is None else what_was_done(found)


def what_was_done(conduct: Conduct) -> list[dict[str, Any]]:
    """The record of one conductor."""
    state = conduct.state
    places = _Places(conduct.timeline or {}, state)
    sums: dict[tuple[str, str], list[int]] = defaultdict(lambda: [0, 0])
    titles: dict[str, str] = {}
    last: dict[tuple[str, str], int] = {}
    for one in state.get("done") or ():
        block = places.block_of(one["segment"])
        titles.setdefault(block, one["block"])
        key = (block, one["label"])
        sums[key][0] += one["seconds"]
        sums[key][1] += one["planned"]
        last[key] = places.order_of(one["segment"])
    swaps = [
        (places.block_of(swap["segment"]), places.order_of(swap["segment"]), swap)
        for swap in state.get("swaps") or ()
    ]
    rows = []
    for (block, label), (seconds, planned) in sums.items():
        labels = {name for where, name in sums if where == block}
        instead = [
            # A station's swap is said at the rounds it was in force.
            f"instead of {swap['was']}"
            if label == swap["label"]
            else f"{swap['label']} instead of {swap['was']}"
            for where, order, swap in swaps
            if where == block
            and (
                label == swap["label"]
                or (swap["label"] not in labels and last[block, label] >= order)
            )
        ]
        rows.append(
            {
                "block_id": block if block in places.blocks else None,
                "block": titles[block],
                "label": label,
                "seconds": seconds,
                "planned": planned,
                "words": _done_words(seconds, planned, instead),
            }
        )
    return rows


def really_done(conduct: Conduct | None) -> dict[str, str]:
    """What was really done in each block in which something else was done than planned, by the
    block's id: the movements or tests worked, in their order."""
    if conduct is None or not conduct.timeline:
        return {}
    places = _Places(conduct.timeline, conduct.state)
    swapped = {places.block_of(swap["segment"]) for swap in conduct.state.get("swaps") or ()}
    found: dict[str, list[str]] = defaultdict(list)
    for one in conduct.state.get("done") or ():
        block = places.block_of(one["segment"])
        worked = places.phases.get(one["segment"]) == Phase.WORK and one["seconds"]
        if block in swapped and worked and one["label"] not in found[block]:
            found[block].append(one["label"])
    return {block: " and ".join(labels) for block, labels in found.items() if labels}


class _Places:
    """Where segments stand in a timeline, by their ids. Those of a conductor from before they had
    ids stand by their number, in blocks known by their label."""

    def __init__(self, made: Mapping[str, Any], state: Mapping[str, Any]) -> None:
        self._named = {one["segment"]: one["block"] for one in state.get("done") or ()}
        self.blocks = [block["id"] for block in made.get("blocks", ())]
        segments = made.get("segments", ())
        self._order = {one["id"]: place for place, one in enumerate(segments)}
        self._block = {one["id"]: self.blocks[one["block"]] for one in segments}
        self.phases = {one["id"]: one["phase"] for one in segments}

    def block_of(self, segment: str) -> str:
        return str(self._block.get(segment) or self._named.get(segment, ""))

    def order_of(self, segment: str) -> int:
        return self._order.get(segment, int(segment) if segment.isdigit() else -1)


def _done_words(seconds: int, planned: int, instead: list[str]) -> str:
    words = list(instead)
    if seconds < planned:
        words.append(f"{seconds} s of {planned} s" if seconds else "left out")
    elif seconds > planned:
        words.append(f"{seconds - planned} s longer")
    return ", ".join(words) or "as planned"


def run_sheet(staff: Staff, activity_id: UUID) -> dict[str, Any]:
    """Every beep of a progressive run. One query. Raises NotFound, or Refused for another test."""
    activity = activity_of(staff, activity_id)
    protocol = activity.protocol
    if protocol.kind != Kind.STAGE:
        raise Refused(f"{protocol.test.name} has no beeps.")
    return {
        "schedule": protocol.schedule,
        "beeps": [
            {
                "at_ms": beep.at_ms,
                "stage": beep.stage,
                "shuttle": beep.shuttle,
                "speed": beep.speed,
                "if_missed": beep.if_missed,
                "so_far": beep.so_far,
            }
            for beep in beeps(protocol.schedule)
        ],
    }
