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

from lauf.rules.blocks import (
    GET_READY,
    LEAST_REST,
    LEVELS,
    SETTLE,
    Block,
    BlockKind,
    Effort,
    TrialPlan,
    check_efforts,
)

_COUNT: Final = (3, 2, 1)
_LAST: Final = (5, 4, 3, 2, 1)
#: Under this much work "half-way" would crowd the last five.
_HALF_WAY_FROM: Final = 12
#: From this much rest on, the next movement is named a few seconds before the count.
_NAME_FROM: Final = 9
_NAME_BEFORE: Final = 6
#: Seconds after a stop until something else is said.
_BREATH: Final = 2


class CueKind(StrEnum):
    """What the clock does at a cue."""

    SAY = "say"
    GET_READY = "get_ready"
    COUNT = "count"
    GO = "go"
    HALF_WAY = "half_way"
    LAST = "last"
    STOP = "stop"
    COUNT_PULSE = "count_pulse"
    STOP_COUNTING = "stop_counting"
    WRITE_DOWN = "write_down"
    SWAP = "swap"


class Phase(StrEnum):
    """What the class does during a segment."""

    OPEN = "open"
    READY = "ready"
    WORK = "work"
    REST = "rest"
    COUNT = "count"
    WRITE = "write"
    SWAP = "swap"
    SETTLE = "settle"


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

    wave, try_number   of a test's work, counted from 1; 0 elsewhere
    """

    from_ms: int
    to_ms: int
    phase: Phase
    label: str
    block: int
    wave: int = 0
    try_number: int = 0


@dataclass(frozen=True, slots=True)
class Timeline:
    """Cues strictly in order, contiguous segments, and where each block begins and ends."""

    cues: tuple[Cue, ...]
    segments: tuple[Segment, ...]
    blocks: tuple[tuple[int, int], ...]
    total_ms: int


@dataclass(frozen=True, slots=True)
class _Part:
    """A segment before it has a place: seconds, what is said at its start, and what its time goes
    to where neither phase nor label says it."""

    seconds: int
    phase: Phase
    label: str
    say: str = ""
    wave: int = 0
    try_number: int = 0
    spent_on: str = ""


_SPENT_ON: Final = {
    Phase.READY: "get ready",
    Phase.WORK: "work",
    Phase.REST: "rest",
    Phase.COUNT: "count",
    Phase.WRITE: "write down",
    Phase.SWAP: "change over",
    Phase.SETTLE: "settle",
}


def timeline(plan: Sequence[Block]) -> Timeline:
    """The whole plan as cues and segments. Raises ValueError, naming the block, for one that
    cannot be called."""
    cues: list[Cue] = []
    segments: list[Segment] = []
    spans: list[tuple[int, int]] = []
    at = 0
    for index, block in enumerate(plan):
        begun = at
        try:
            parts = [part for part in _parts(block) if part.seconds]
        except ValueError as problem:
            raise ValueError(f"{block.label}: {problem}") from problem
        if not parts:
            raise ValueError(f"{block.label}: this block lasts no time.")
        for part, following in pairwise((*parts, None)):
            assert part is not None
            length = part.seconds * 1000
            segments.append(
                Segment(at, at + length, part.phase, part.label, index, part.wave, part.try_number)
            )
            cues += [replace(cue, block=index) for cue in _cues_of(part, following, at)]
            at += length
        spans.append((begun, at))
    return Timeline(tuple(cues), tuple(segments), tuple(spans), at)


def block_seconds(block: Block) -> int:
    """How long a block lasts. Raises ValueError for one that cannot be called."""
    return sum(part.seconds for part in _parts(block))


def time_spent(block: Block) -> dict[str, tuple[int, ...]]:
    """What a block's seconds go to, in the order it comes: the seconds of each time. All of them
    together are `block_seconds`. Raises ValueError for a block that cannot be called.

    >>> time_spent(Block(BlockKind.PULSE, "Pulse", seconds=60, count_seconds=10, hold=10))
    {'find it': (10,), 'count': (10,), 'write down': (60,)}
    """
    spent: dict[str, tuple[int, ...]] = {}
    for part in _parts(block):
        if part.seconds:
            what = part.spent_on or _SPENT_ON.get(part.phase, part.label.lower())
            spent[what] = (*spent.get(what, ()), part.seconds)
    return spent


def _parts(block: Block) -> Iterator[_Part]:
    match block.kind:
        case BlockKind.WARM_UP if block.levels:
            for level, seconds in block.levels:
                if level not in LEVELS:
                    raise ValueError("a level is 1 to 4: walk, jog, run, sprint.")
                yield _Part(seconds, Phase.OPEN, LEVELS[level], f"Level {level}: {LEVELS[level]}")
        case BlockKind.PULSE:
            yield _Part(block.hold, Phase.OPEN, block.label, "Find your pulse", spent_on="find it")
            yield _Part(block.count_seconds, Phase.COUNT, block.label)
            yield _Part(max(_BREATH + 1, block.seconds), Phase.WRITE, block.label)
        case BlockKind.TEST if block.test:
            yield from _test_parts(block, block.test)
        case BlockKind.INTERVALS:
            yield from _interval_parts(block)
        case BlockKind.REP_TARGET:
            yield _Part(GET_READY, Phase.READY, block.label, block.say)
            yield _Part(block.seconds, Phase.WORK, block.label)
            yield _Part(SETTLE, Phase.SETTLE, block.label)
        case BlockKind.STATIONS:
            yield from _station_parts(block)
        case BlockKind.COOL_DOWN if block.steps:
            # A slow step takes about a second.
            yield _Part(block.steps, Phase.OPEN, "Walk", f"Walk {block.steps} steps")
            if block.hold:
                yield _Part(block.hold, Phase.OPEN, "Squat", f"Squat and hold {block.hold} seconds")
            say = block.say or block.label
            yield _Part(block.seconds, Phase.OPEN, block.label, say, spent_on="then")
        case _:
            yield _Part(block.seconds, Phase.OPEN, block.label, block.say or block.label)


def _test_parts(block: Block, test: TrialPlan) -> Iterator[_Part]:
    words = f"Set up: {block.label}"
    yield _Part(test.setup, Phase.OPEN, words, words, spent_on="set up")
    if test.seconds is None:
        each = test.tries * (test.trial + test.changeover)
        for wave in range(1, test.waves + 1):
            yield _Part(each, Phase.OPEN, block.label, block.label, wave, spent_on="wave")
        return
    turns = [(number, wave) for number in range(1, test.tries + 1)
             for wave in range(1, test.waves + 1)]  # fmt: skip
    for place, (number, wave) in enumerate(turns):
        yield _Part(GET_READY, Phase.READY, block.label, "", wave, number)
        yield _Part(test.seconds, Phase.WORK, block.label, "", wave, number)
        last = place == len(turns) - 1
        pause = SETTLE if last else max(_BREATH + 1, test.changeover)
        yield _Part(pause, Phase.SETTLE if last else Phase.SWAP, block.label)


def _interval_parts(block: Block) -> Iterator[_Part]:
    if not block.movements:
        raise ValueError("name a movement and its efforts, such as 30/15/20.")
    efforts = [(move.name, effort) for move in block.movements for effort in move.efforts]
    for move in block.movements:
        check_efforts(move.efforts)
    yield _Part(GET_READY, Phase.READY, efforts[0][0], block.say)
    for place, (name, effort) in enumerate(efforts):
        yield _Part(effort.work, Phase.WORK, name)
        if place < len(efforts) - 1:
            following = efforts[place + 1][0]
            # Between two movements there is at least room to be told of the next.
            least = LEAST_REST if following == name else _NAME_FROM
            yield _Part(max(effort.rest, least), Phase.REST, following)
        else:
            yield _Part(max(effort.rest, SETTLE), Phase.SETTLE, name)


def _station_parts(block: Block) -> Iterator[_Part]:
    if len(block.stations) < 2 or not 1 <= block.rounds <= len(block.stations):
        raise ValueError("a rotation has 2 stations or more, and a round for each at most.")
    check_efforts((Effort(block.work, block.change), Effort(block.work)))
    yield _Part(GET_READY, Phase.READY, block.label, block.say)
    for number in range(1, block.rounds + 1):
        yield _Part(block.work, Phase.WORK, f"Round {number} of {block.rounds}")
        if number < block.rounds:
            yield _Part(max(block.change, _BREATH + 1 + len(_COUNT)), Phase.SWAP, "Move on")
    yield _Part(SETTLE, Phase.SETTLE, block.label)


def _cues_of(part: _Part, following: _Part | None, at: int) -> Iterator[Cue]:
    """The cues of one part, from its start up to (not including) its end; the stop of work and of
    counting belongs to what follows it, which is always there."""
    end = at + part.seconds * 1000
    works_next = following is not None and following.phase is Phase.WORK
    match part.phase:
        case Phase.OPEN:
            yield Cue(at, CueKind.SAY, part.say or part.label)
        case Phase.READY:
            if part.seconds > len(_COUNT):
                yield Cue(at, CueKind.GET_READY, part.say or f"Get ready: {part.label}")
            yield from _count(end, at - 1)
        case Phase.WORK:
            yield Cue(at, CueKind.GO, "Go")
            if part.seconds >= _HALF_WAY_FROM:
                yield Cue(at + part.seconds * 500, CueKind.HALF_WAY, "Half-way")
            for left in _LAST:
                if left < part.seconds:
                    yield Cue(end - left * 1000, CueKind.LAST, str(left))
        case Phase.COUNT:
            yield Cue(at, CueKind.COUNT_PULSE, "Count")
        case Phase.WRITE:
            yield Cue(at, CueKind.STOP_COUNTING, "Stop")
            yield Cue(at + _BREATH * 1000, CueKind.WRITE_DOWN, "Write your beats down")
        case Phase.REST:
            yield Cue(at, CueKind.STOP, "Stop. Rest")
            if part.seconds >= _NAME_FROM:
                yield Cue(end - _NAME_BEFORE * 1000, CueKind.GET_READY, f"Next: {part.label}")
            yield from _count(end, at)
        case Phase.SWAP:
            yield Cue(at, CueKind.STOP, "Stop")
            yield Cue(at + _BREATH * 1000, CueKind.SWAP, part.label if works_next else "Swap")
            if works_next:
                yield from _count(end, at + _BREATH * 1000)
        case Phase.SETTLE:
            yield Cue(at, CueKind.STOP, "Stop")


def _count(end: int, after: int) -> Iterator[Cue]:
    """3-2-1 before `end`, as much of it as comes after what was said at `after`."""
    for left in _COUNT:
        if end - left * 1000 > after:
            yield Cue(end - left * 1000, CueKind.COUNT, str(left))


@dataclass(frozen=True, slots=True)
class Wave:
    """The cues of one timed wave, in order; ends with its stop at `total_ms`."""

    cues: tuple[Cue, ...]
    go_ms: int
    total_ms: int


def timed_wave(seconds: int, get_ready: int = GET_READY) -> Wave:
    """Cues for one wave of `seconds` of work: get ready, 3-2-1, go, half-way, last five, stop.

    Raises ValueError for less than one second of work or less than the three of the count.
    """
    if seconds < 1:
        raise ValueError("a wave lasts at least one second")
    if get_ready < len(_COUNT):
        raise ValueError("get ready lasts at least the three seconds of the count")
    ready = _Part(get_ready, Phase.READY, "", "Get ready")
    work = _Part(seconds, Phase.WORK, "")
    go = get_ready * 1000
    end = go + seconds * 1000
    cues = (*_cues_of(ready, work, 0), *_cues_of(work, None, go), Cue(end, CueKind.STOP, "Stop"))
    return Wave(cues, go, end)
