"""A lesson as it is conducted: the plan as cues, the conductor's state, and what was really done.
Reads only."""

from __future__ import annotations

from collections import defaultdict
from typing import Any
from uuid import UUID

from lauf.lessons.models import Conduct, Lesson
from lauf.lessons.plans import read_plan, saved_entries
from lauf.lessons.queries import activity_of, lesson_of
from lauf.lessons.stations import rotation_of
from lauf.people.models import Staff
from lauf.people.queries import Refused
from lauf.rules.blocks import BlockKind
from lauf.rules.quantities import Kind
from lauf.rules.shuttle import beeps
from lauf.rules.timeline import Timeline, timeline


def lesson_timeline(staff: Staff, lesson_id: UUID) -> dict[str, Any]:
    """The whole plan as cues and segments for the conductor, and the conductor's state. Six
    queries. Raises NotFound or Refused."""
    lesson = lesson_of(staff, lesson_id)
    children = max(1, lesson.school_class.pupils.count())
    plan = read_plan(staff, saved_entries(lesson), children)
    if not plan:
        raise Refused("This lesson has no blocks yet: plan it first.")
    try:
        made: Timeline = timeline([one.block for one in plan])
    except ValueError as problem:
        raise Refused(str(problem)) from problem
    return {
        "lesson_id": lesson.id,
        "class_name": lesson.school_class.name,
        "plan_revision": lesson.plan_revision,
        "total_ms": made.total_ms,
        "blocks": [
            {
                "label": one.block.label,
                "kind": one.block.kind.value,
                "activity_id": one.entry.get("activity_id"),
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
                "from_ms": one.from_ms,
                "to_ms": one.to_ms,
                "phase": one.phase.value,
                "label": one.label,
                "block": one.block,
                "wave": one.wave,
                "try_number": one.try_number,
            }
            for one in made.segments
        ],
        "cues": [
            {"at_ms": cue.at_ms, "kind": cue.kind.value, "say": cue.say, "block": cue.block}
            for cue in made.cues
        ],
        "conduct": conduct_state(lesson),
    }


def conduct_state(lesson: Lesson) -> dict[str, Any] | None:
    """The conductor of a lesson as it was last reported, or None. One query."""
    found = Conduct.objects.filter(lesson=lesson).first()
    if found is None:
        return None
    return {
        "run_id": found.run_id,
        "revision": found.revision,
        "plan_revision": found.plan_revision,
        **found.state,
    }


def conduct_record(staff: Staff, lesson_id: UUID) -> list[dict[str, Any]]:
    """What was really done in a conducted lesson, in the order it was done: seconds beside those
    that were planned, and what was done instead. Two queries. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    state = conduct_state(lesson) or {}
    done = state.get("done") or ()
    swaps = state.get("swaps") or ()
    sums: dict[tuple[str, str], list[int]] = defaultdict(lambda: [0, 0])
    last: dict[tuple[str, str], int] = {}
    for one in done:
        key = (one["block"], one["label"])
        sums[key][0] += one["seconds"]
        sums[key][1] += one["planned"]
        last[key] = one["segment"]
    labels = {label for _, label in sums}
    block_at = {one["segment"]: one["block"] for one in done}
    return [
        {
            "block": block,
            "label": label,
            "seconds": seconds,
            "planned": planned,
            "words": _done_words(
                seconds,
                planned,
                [
                    # A station's swap is said at the rounds it was in force.
                    f"instead of {swap['was']}"
                    if label == swap["label"]
                    else f"{swap['label']} instead of {swap['was']}"
                    for swap in swaps
                    if label == swap["label"]
                    or (
                        swap["label"] not in labels
                        and block_at.get(swap["segment"]) == block
                        and last[block, label] >= swap["segment"]
                    )
                ],
            ),
        }
        for (block, label), (seconds, planned) in sums.items()
    ]


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
