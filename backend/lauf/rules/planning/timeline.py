"""From what is to be done to cues with exact times.

Times are whole milliseconds from the start of the timeline. The browser plays these cues;
it never works out one of its own.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from itertools import pairwise
from typing import Final

from lauf.messages import say
from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.block_parts import BREATH, COUNT, NAME_FROM, SPENT_ON, Part, Phase
from lauf.rules.planning.blocks import AnyBlock

_LAST: Final = (5, 4, 3, 2, 1)
#: Under this much work "half-way" would crowd the last five.
_HALF_WAY_FROM: Final = 12
_NAME_BEFORE: Final = 6


class CueKind(StrEnum):
    """What the clock does at a cue."""

    SAY = "say"
    GET_READY = "get_ready"
    COUNT = "count"
    GO = "go"
    BEAT = "beat"
    HALF_WAY = "half_way"
    LAST = "last"
    STOP = "stop"
    COUNT_PULSE = "count_pulse"
    STOP_COUNTING = "stop_counting"
    WRITE_DOWN = "write_down"
    SWAP = "swap"


@dataclass(frozen=True, slots=True)
class Cue:
    """One thing to say, show and sound at `at_ms` from the start; `block` counts from 0."""

    at_ms: int
    kind: CueKind
    say: str
    block: int = 0


@dataclass(frozen=True, slots=True)
class Segment:
    """A stretch of the timeline in which one thing is done. Segments are contiguous.

    id                 of the block it belongs to, and its place in it: the same whatever stands
                       before the block
    wave, try_number   of a test's work, counted from 1; 0 elsewhere
    waits              the clock stands before it until somebody goes on
    """

    id: str
    from_ms: int
    to_ms: int
    phase: Phase
    label: str
    block: int
    wave: int = 0
    try_number: int = 0
    waits: bool = False


@dataclass(frozen=True, slots=True)
class Timeline:
    """Cues strictly in order, contiguous segments, and where each block begins and ends."""

    cues: tuple[Cue, ...]
    segments: tuple[Segment, ...]
    blocks: tuple[tuple[int, int], ...]
    total_ms: int


def timeline(plan: Sequence[AnyBlock]) -> Timeline:
    """The whole plan as cues and segments. Raises ValueError, naming the block, for one that
    cannot be called."""
    cues: list[Cue] = []
    segments: list[Segment] = []
    spans: list[tuple[int, int]] = []
    at = 0
    open_end = False
    for index, block in enumerate(plan):
        begun = at
        try:
            parts = [part for part in _parts(block) if part.seconds]
        except ValueError as problem:
            raise ValueError(f"{block.label}: {problem}") from problem
        if not parts:
            raise ValueError(say("{label}: this block has no time.", label=block.label))
        for place, (part, following) in enumerate(pairwise((*parts, None))):
            assert part is not None
            length = part.seconds * 1000
            name = f"{block.id or index}.{place}"
            # The very first is begun by starting the lesson.
            waits = at > 0 and (part.waits or (place == 0 and open_end))
            segments.append(
                Segment(
                    name, at, at + length, part.phase, part.label, index, part.wave,
                    part.try_number, waits,
                )
            )  # fmt: skip
            cues += [replace(cue, block=index) for cue in _cues_of(part, following, at)]
            at += length
        # How long a test without a clock takes is not known before it is over.
        open_end = block.test is not None and block.test.seconds is None
        spans.append((begun, at))
    return Timeline(tuple(cues), tuple(segments), tuple(spans), at)


def block_seconds(block: AnyBlock) -> int:
    """How long a block lasts. Raises ValueError for one that cannot be called."""
    return sum(part.seconds for part in _parts(block))


def time_spent(block: AnyBlock) -> dict[str, tuple[int, ...]]:
    """What a block's seconds go to, in the order it comes: the seconds of each time. All of them
    together are `block_seconds`. Raises ValueError for a block that cannot be called.

    >>> pulse = {"kind": BlockKind.PULSE, "label": "Pulse", "seconds": 60, "hold": 10}
    >>> time_spent(Block(pulse, "Pulse"))
    {'find it': (10,), 'count': (10,), 'write down': (60,)}
    """
    spent: dict[str, tuple[int, ...]] = {}
    for part in _parts(block):
        if part.seconds:
            what = part.spent_on or SPENT_ON.get(part.phase, part.label.lower())
            spent[what] = (*spent.get(what, ()), part.seconds)
    return spent


def _parts(block: AnyBlock) -> list[Part]:
    return list(BLOCK_KINDS[block.entry["kind"]].parts(block))


def _cues_of(part: Part, following: Part | None, at: int) -> Iterator[Cue]:
    """The cues of one part, from its start up to (not including) its end; the stop of work and of
    counting belongs to what follows it, which is always there."""
    end = at + part.seconds * 1000
    works_next = following is not None and following.phase is Phase.WORK
    match part.phase:
        case Phase.OPEN:
            yield Cue(at, CueKind.SAY, part.say or part.label)
        case Phase.READY:
            if part.seconds > len(COUNT):
                yield Cue(
                    at, CueKind.GET_READY, part.say or say("Get ready: {label}", label=part.label)
                )
            yield from _count(end, at - 1)
        case Phase.WORK:
            yield from _work(part, at) if not part.calls else _called(part, at)
        case Phase.COUNT:
            yield Cue(at, CueKind.COUNT_PULSE, "Count")
        case Phase.WRITE if part.waits:
            yield Cue(at, CueKind.SAY, part.say)
        case Phase.WRITE:
            yield Cue(at, CueKind.STOP_COUNTING, "Stop")
            yield Cue(at + BREATH * 1000, CueKind.WRITE_DOWN, say("Write your beats down"))
        case Phase.REST:
            yield Cue(at, CueKind.STOP, say("Stop. Rest"))
            if part.seconds >= NAME_FROM:
                yield Cue(
                    end - _NAME_BEFORE * 1000,
                    CueKind.GET_READY,
                    say("Next: {label}", label=part.label),
                )
            yield from _count(end, at)
        case Phase.SWAP:
            yield Cue(at, CueKind.STOP, "Stop")
            yield Cue(at + BREATH * 1000, CueKind.SWAP, part.label if works_next else say("Swap"))
            if works_next:
                yield from _count(end, at + BREATH * 1000)
        case Phase.SETTLE:
            yield Cue(at, CueKind.STOP, "Stop")


def _work(part: Part, at: int) -> Iterator[Cue]:
    end = at + part.seconds * 1000
    yield Cue(at, CueKind.GO, "Go")
    if part.seconds >= _HALF_WAY_FROM:
        yield Cue(at + part.seconds * 500, CueKind.HALF_WAY, "Half-way")
    for left in _LAST:
        if left < part.seconds:
            yield Cue(end - left * 1000, CueKind.LAST, str(left))


def _called(part: Part, at: int) -> Iterator[Cue]:
    """Nothing but the calls: whatever else were said would put one off."""
    if part.calls[0].at_ms:
        yield Cue(at, CueKind.GO, "Go")
    for call in part.calls:
        yield Cue(at + call.at_ms, CueKind.BEAT, call.say)


def _count(end: int, after: int) -> Iterator[Cue]:
    """3-2-1 before `end`, as much of it as comes after what was said at `after`."""
    for left in COUNT:
        if end - left * 1000 > after:
            yield Cue(end - left * 1000, CueKind.COUNT, str(left))
