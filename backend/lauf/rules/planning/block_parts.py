"""What each kind of block is made of: stretches of time in which one thing is done."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from typing import Final

from lauf.rules.planning.beats import Call
from lauf.rules.planning.blocks import (
    GET_READY,
    LEAST_REST,
    LEVELS,
    SETTLE,
    Block,
    Effort,
    TrialPlan,
    check_efforts,
)


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
class Part:
    """A segment before it has a place: seconds, what is said at its start, and what its time goes
    to where neither phase nor label says it. Where it `waits` the clock stands before it until
    somebody goes on. `calls` are called in it, by milliseconds from its start."""

    seconds: int
    phase: Phase
    label: str
    say: str = ""
    wave: int = 0
    try_number: int = 0
    spent_on: str = ""
    waits: bool = False
    calls: tuple[Call, ...] = ()


SPENT_ON: Final = {
    Phase.READY: "get ready",
    Phase.WORK: "work",
    Phase.REST: "rest",
    Phase.COUNT: "count",
    Phase.WRITE: "write down",
    Phase.SWAP: "change over",
    Phase.SETTLE: "settle",
}


#: Seconds after a stop until something else is said.
BREATH: Final = 2
#: From this much rest on, the next movement is named a few seconds before the count.
NAME_FROM: Final = 9
#: Seconds of the count before the start of an effort.
COUNT: Final = (3, 2, 1)


def open_parts(block: Block) -> Iterator[Part]:
    """One stretch of so many seconds."""
    yield Part(block.seconds, Phase.OPEN, block.label, block.say or block.label)


def warm_up_parts(block: Block) -> Iterator[Part]:
    """Called levels, or a free game."""
    if not block.levels:
        yield from open_parts(block)
    for level, seconds in block.levels:
        if level not in LEVELS:
            raise ValueError("a level is 1 to 4: walk, jog, run, sprint.")
        yield Part(seconds, Phase.OPEN, LEVELS[level], f"Level {level}: {LEVELS[level]}")


def pulse_parts(block: Block) -> Iterator[Part]:
    """Find it, count, write down; and where the block waits, the end of that when all have."""
    yield Part(block.hold, Phase.OPEN, block.label, "Find your pulse", spent_on="find it")
    yield Part(block.count_seconds, Phase.COUNT, block.label)
    yield Part(max(BREATH + 1, block.seconds), Phase.WRITE, block.label)
    if block.waits:
        yield Part(
            SETTLE, Phase.WRITE, block.label, "All are written down", spent_on="settle", waits=True
        )


def test_parts(block: Block) -> Iterator[Part]:
    """Set up, and every wave of every try."""
    if block.test is None:
        yield from open_parts(block)
    else:
        yield from _test_parts(block, block.test)


def rep_target_parts(block: Block) -> Iterator[Part]:
    """One long effort."""
    yield Part(GET_READY, Phase.READY, block.label, block.say)
    yield Part(block.seconds, Phase.WORK, block.label)
    yield Part(SETTLE, Phase.SETTLE, block.label)


#: Seconds after the last call, to finish the movement.
_FINISH: Final = 2


def beat_parts(block: Block) -> Iterator[Part]:
    """A movement for every call, and the music to its end where it goes on longer."""
    if not block.calls:
        raise ValueError("say the beat and how many movements are called, or the time of each.")
    last = -(-block.calls[-1].at_ms // 1000)
    yield Part(GET_READY, Phase.READY, block.label, block.say)
    yield Part(
        max(block.seconds, last + _FINISH), Phase.WORK, block.label, calls=block.calls,
        spent_on=f"{len(block.calls)} calls",
    )  # fmt: skip
    yield Part(SETTLE, Phase.SETTLE, block.label)


def cool_down_parts(block: Block) -> Iterator[Part]:
    """Walk so many steps, hold a squat, and a stretch of time."""
    if not block.steps:
        yield from open_parts(block)
        return
    # A slow step takes about a second.
    yield Part(block.steps, Phase.OPEN, "Walk", f"Walk {block.steps} steps")
    if block.hold:
        yield Part(block.hold, Phase.OPEN, "Squat", f"Squat and hold {block.hold} seconds")
    say = block.say or block.label
    yield Part(block.seconds, Phase.OPEN, block.label, say, spent_on="then")


def _test_parts(block: Block, test: TrialPlan) -> Iterator[Part]:
    words = block.say or f"Set up: {block.label}"
    yield Part(test.setup, Phase.OPEN, words, words, spent_on="set up")
    if test.seconds is None:
        each = test.tries * (test.trial + test.changeover)
        for wave in range(1, test.waves + 1):
            yield Part(each, Phase.OPEN, block.label, block.label, wave, spent_on="wave")
        return
    turns = [(number, wave) for number in range(1, test.tries + 1)
             for wave in range(1, test.waves + 1)]  # fmt: skip
    for place, (number, wave) in enumerate(turns):
        yield Part(
            max(len(COUNT), test.get_ready), Phase.READY, block.label, "", wave, number,
            waits=test.waits,
        )  # fmt: skip
        yield Part(test.seconds, Phase.WORK, block.label, "", wave, number)
        last = place == len(turns) - 1
        pause = SETTLE if last else max(BREATH + 1, test.changeover)
        yield Part(pause, Phase.SETTLE if last else Phase.SWAP, block.label)


def interval_parts(block: Block) -> Iterator[Part]:
    if not block.movements:
        raise ValueError("name a movement and its efforts, such as 25/15/25.")
    efforts = [(move.name, effort) for move in block.movements for effort in move.efforts]
    for move in block.movements:
        check_efforts(move.efforts)
    yield Part(GET_READY, Phase.READY, efforts[0][0], block.say)
    for place, (name, effort) in enumerate(efforts):
        yield Part(effort.work, Phase.WORK, name)
        if place < len(efforts) - 1:
            following = efforts[place + 1][0]
            # Between two movements there is at least room to be told of the next.
            least = LEAST_REST if following == name else NAME_FROM
            yield Part(max(effort.rest, least), Phase.REST, following)
        else:
            yield Part(max(effort.rest, SETTLE), Phase.SETTLE, name)


def station_parts(block: Block) -> Iterator[Part]:
    if len(block.stations) < 2 or not 1 <= block.rounds <= len(block.stations):
        raise ValueError("a rotation has 2 stations or more, and a round for each at most.")
    check_efforts((Effort(block.work, block.change), Effort(block.work)))
    yield Part(GET_READY, Phase.READY, block.label, block.say)
    for number in range(1, block.rounds + 1):
        yield Part(block.work, Phase.WORK, f"Round {number} of {block.rounds}")
        if number < block.rounds:
            yield Part(max(block.change, BREATH + 1 + len(COUNT)), Phase.SWAP, "Move on")
    yield Part(SETTLE, Phase.SETTLE, block.label)
