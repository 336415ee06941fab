"""A lesson as it is conducted: the plan as cues, the conductor's state, and what was really done.
Reads only."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from typing import NotRequired, cast
from uuid import UUID

from typing_extensions import TypedDict

from lauf.errors import Refused
from lauf.lessons.conductor import ConductState, state_of
from lauf.lessons.models import Conduct, Lesson
from lauf.lessons.queries.entries import closed_activities, hall_entries
from lauf.lessons.queries.lessons import activity_of, lesson_of
from lauf.lessons.queries.planning import read_plan
from lauf.lessons.queries.stations import Rotation, rotation_of
from lauf.messages import and_list, say
from lauf.people.models import Staff
from lauf.rules.planning.block_parts import Phase
from lauf.rules.planning.blocks import BlockEntry, BlockKind
from lauf.rules.planning.timeline import CueKind, Timeline, timeline
from lauf.rules.reading.quantities import Kind
from lauf.rules.reading.shuttle import beeps


class KeptBlock(TypedDict):
    """A block of a timeline as it is kept: ids as text, milliseconds from the start."""

    id: str | None
    label: str
    kind: BlockKind
    activity_id: str | None
    from_ms: int
    to_ms: int
    rotation: Rotation | None


class TimelineSegment(TypedDict):
    """`id` is its own while its block is not changed; `block` is its block's place; where it waits,
    the clock stands before it until somebody goes on."""

    id: str
    from_ms: int
    to_ms: int
    phase: Phase
    label: str
    block: int
    wave: int
    try_number: int
    waits: NotRequired[bool]


class TimelineCue(TypedDict):
    """What the clock does at one moment."""

    at_ms: int
    kind: CueKind
    say: str
    block: int


class MadeTimeline(TypedDict):
    """A plan as it is called, as it is kept with the conductor that goes by it: plain JSON."""

    total_ms: int
    blocks: list[KeptBlock]
    segments: list[TimelineSegment]
    cues: list[TimelineCue]


class TimelineBlock(TypedDict):
    """A block of a timeline; `closed`: of a private test that the asker does not see."""

    id: str | None
    label: str
    kind: BlockKind
    activity_id: str | None
    closed: bool
    from_ms: int
    to_ms: int
    rotation: Rotation | None


class TimelinePage(TypedDict):
    """What the conductor goes by, and its state."""

    lesson_id: UUID
    class_name: str
    plan_revision: int
    newer_plan: bool
    total_ms: int
    blocks: list[TimelineBlock]
    segments: list[TimelineSegment]
    cues: list[TimelineCue]
    conduct: ConductState | None


def lesson_timeline(staff: Staff, lesson_id: UUID, *, fresh: bool = False) -> TimelinePage:
    """What the conductor goes by, and its state: the timeline it began with; or, before it has
    begun or where `fresh` is asked for, that of the plan as it stands. Nine queries at most.
    Raises NotFound or Refused."""
    lesson = lesson_of(staff, lesson_id)
    conduct = Conduct.objects.filter(lesson=lesson).first()
    if conduct is not None and conduct.timeline and not fresh:
        made, revision = cast("MadeTimeline", conduct.timeline), conduct.plan_revision
    else:
        entries = hall_entries(lesson)
        made = made_timeline(staff, lesson, entries)
        revision = lesson.plan_revision
    hidden = closed_activities(staff, lesson)
    return {
        "total_ms": made["total_ms"],
        "segments": made["segments"],
        "cues": made["cues"],
        "blocks": [_shown(block, hidden) for block in made["blocks"]],
        "lesson_id": lesson.id,
        "class_name": lesson.school_class.name,
        "plan_revision": revision,
        "newer_plan": revision != lesson.plan_revision,
        "conduct": None if conduct is None else state_of(conduct),
    }


def _shown(block: KeptBlock, hidden: set[UUID]) -> TimelineBlock:
    """A block of a timeline, without its activity where that is closed to the asker."""
    activity = block["activity_id"]
    closed = activity is not None and UUID(activity) in hidden
    return {**block, "activity_id": None if closed else activity, "closed": closed}


def made_timeline(staff: Staff, lesson: Lesson, entries: Sequence[BlockEntry]) -> MadeTimeline:
    """A plan as cues and segments for today's class, as plain JSON. Four queries at most. Raises
    Refused for one that cannot be called."""
    children = max(1, lesson.school_class.pupils.count())
    plan = read_plan(staff, lesson, entries, children)
    if not plan:
        raise Refused(say("This lesson has no blocks yet. Plan it first."))
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
                "kind": one.kind,
                "activity_id": str(activity)
                if (activity := one.entry.get("activity_id"))
                else None,
                "from_ms": begun,
                "to_ms": end,
                "rotation": rotation_of(one.entry)
                if one.entry["kind"] is BlockKind.STATIONS
                else None,
            }
            for one, (begun, end) in zip(plan, made.blocks, strict=True)
        ],
        "segments": [
            {
                "id": one.id,
                "from_ms": one.from_ms,
                "to_ms": one.to_ms,
                "phase": one.phase,
                "label": one.label,
                "block": one.block,
                "wave": one.wave,
                "try_number": one.try_number,
                "waits": one.waits,
            }
            for one in made.segments
        ],
        "cues": [
            {"at_ms": cue.at_ms, "kind": cue.kind, "say": cue.say, "block": cue.block}
            for cue in made.cues
        ],
    }


def conduct_state(lesson: Lesson) -> ConductState | None:
    """The conductor of a lesson as it was last reported, or None. One query."""
    found = Conduct.objects.filter(lesson=lesson).first()
    return None if found is None else state_of(found)


class DoneRow(TypedDict):
    """What was really done of one thing in a block, in seconds beside those planned."""

    block_id: str | None
    block: str
    label: str
    seconds: int
    planned: int
    words: str


def conduct_record(staff: Staff, lesson_id: UUID) -> list[DoneRow]:
    """What was really done in a conducted lesson, in the order it was done: each block apart, by
    what was done in it, with its seconds beside those that were planned, and what was done instead.
    Two queries. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    found = Conduct.objects.filter(lesson=lesson).first()
    return [] if found is None else what_was_done(found)


def what_was_done(conduct: Conduct) -> list[DoneRow]:
    """The record of one conductor."""
    state = state_of(conduct)
    places = _Places(conduct.timeline, state)
    sums: dict[tuple[str, str], list[int]] = defaultdict(lambda: [0, 0])
    titles: dict[str, str] = {}
    last: dict[tuple[str, str], int] = {}
    for one in state.done:
        block = places.block_of(one.segment)
        titles.setdefault(block, one.block)
        key = (block, one.label)
        sums[key][0] += one.seconds
        sums[key][1] += one.planned
        last[key] = places.order_of(one.segment)
    swaps = [
        (places.block_of(swap.segment), places.order_of(swap.segment), swap) for swap in state.swaps
    ]
    rows: list[DoneRow] = []
    for (block, label), (seconds, planned) in sums.items():
        labels = {name for where, name in sums if where == block}
        instead = [
            # A station's swap is said at the rounds it was in force.
            say("instead of {was}", was=swap.was)
            if label == swap.label
            else say("{label} instead of {was}", label=swap.label, was=swap.was)
            for where, order, swap in swaps
            if where == block
            and (label == swap.label or (swap.label not in labels and last[block, label] >= order))
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
    state = state_of(conduct)
    places = _Places(conduct.timeline, state)
    swapped = {places.block_of(swap.segment) for swap in state.swaps}
    found: dict[str, list[str]] = defaultdict(list)
    for one in state.done:
        block = places.block_of(one.segment)
        worked = places.phases.get(one.segment) == Phase.WORK and one.seconds
        if block in swapped and worked and one.label not in found[block]:
            found[block].append(one.label)
    return {block: and_list(labels) for block, labels in found.items() if labels}


class _Places:
    """Where segments stand in a timeline, by their ids. Those of a conductor from before they had
    ids stand by their number, in blocks known by their label."""

    def __init__(self, made: MadeTimeline | None, state: ConductState) -> None:
        self._named = {one.segment: one.block for one in state.done}
        self.blocks = [block["id"] for block in made["blocks"]] if made else []
        segments = made["segments"] if made else []
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
        words.append(
            say("{seconds} s of {planned} s", seconds=seconds, planned=planned)
            if seconds
            else say("left out")
        )
    elif seconds > planned:
        words.append(say("{seconds} s longer", seconds=seconds - planned))
    return ", ".join(words) or say("as planned")


class Beep(TypedDict):
    """The end of a shuttle. `if_missed` is the score of a runner who misses this line and the next,
    `so_far` that of one who stops having just made it."""

    at_ms: int
    stage: int
    shuttle: int
    speed: float
    if_missed: str
    so_far: str


class RunSheet(TypedDict):
    """Every beep of a progressive run."""

    schedule: str
    beeps: list[Beep]


def run_sheet(staff: Staff, activity_id: UUID) -> RunSheet:
    """Every beep of a progressive run. One query. Raises NotFound, or Refused for another test."""
    activity = activity_of(staff, activity_id)
    protocol = activity.protocol
    if protocol.kind != Kind.STAGE:
        raise Refused(say("{name} has no beeps.", name=protocol.test.name))
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
