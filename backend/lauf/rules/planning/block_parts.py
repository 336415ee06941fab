"""What each kind of block is made of: stretches of time in which one thing is done."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from typing import Final

from lauf.messages import say
from lauf.rules.planning.beats import Call
from lauf.rules.planning.blocks import (
    GET_READY,
    LEVELS,
    SETTLE,
    BeatsEntry,
    Block,
    CoolDownEntry,
    IntervalsEntry,
    OpenEntry,
    PulseEntry,
    RepTargetEntry,
    SayEntry,
    StationsEntry,
    TestEntry,
    TrialPlan,
    WarmUpEntry,
    calls_of,
    check_groups,
    stations_of,
    weights_of,
)
from lauf.rules.planning.efforts import LEAST_REST, Effort, check_efforts, read_efforts
from lauf.rules.reading.words import fitting


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
    Phase.READY: say("get ready"),
    Phase.WORK: say("work"),
    Phase.REST: say("rest"),
    Phase.COUNT: say("count"),
    Phase.WRITE: say("write down"),
    Phase.SWAP: say("change over"),
    Phase.SETTLE: say("settle"),
}


#: How long a pulse is counted where nothing is said.
USUAL_COUNT: Final = 10
#: Seconds after a stop until something else is said.
BREATH: Final = 2
#: From this much rest on, the next movement is named a few seconds before the count.
NAME_FROM: Final = 9
#: Seconds of the count before the start of an effort.
COUNT: Final = (3, 2, 1)


_Timed = OpenEntry | WarmUpEntry | PulseEntry | BeatsEntry | RepTargetEntry | CoolDownEntry


def _seconds(entry: _Timed) -> int:
    return entry.get("seconds") or 0


def _say(block: Block[SayEntry]) -> str:
    """What is said at the start; nothing for the block's own name. Raises ValueError for more than
    what is kept."""
    return fitting(block.entry.get("say") or "", 120, say("Announcement"))


def open_parts(block: Block[OpenEntry] | Block[CoolDownEntry]) -> Iterator[Part]:
    """One stretch of so many seconds."""
    yield Part(_seconds(block.entry), Phase.OPEN, block.label, _say(block) or block.label)


def warm_up_parts(block: Block[WarmUpEntry]) -> Iterator[Part]:
    """Called levels, or a free game."""
    levels = block.entry.get("levels")
    if not levels:
        yield Part(_seconds(block.entry), Phase.OPEN, block.label, block.label)
    for level, seconds in levels or ():
        if level not in LEVELS:
            raise ValueError(say("a level is 1 to 4 for walk, jog, run or sprint."))
        yield Part(
            seconds,
            Phase.OPEN,
            LEVELS[level],
            say("Level {level}: {levels}", level=level, levels=LEVELS[level]),
        )


def pulse_parts(block: Block[PulseEntry]) -> Iterator[Part]:
    """Find it, count, write down; and where the block waits, the end of that when all have."""
    entry = block.entry
    yield Part(
        entry.get("hold") or 0,
        Phase.OPEN,
        block.label,
        say("Find your pulse"),
        spent_on=say("find it"),
    )
    yield Part(entry.get("count_seconds") or USUAL_COUNT, Phase.COUNT, block.label)
    yield Part(max(BREATH + 1, _seconds(entry)), Phase.WRITE, block.label)
    # A plan that says nothing was made for a clock that goes on.
    if entry.get("waits"):
        yield Part(
            SETTLE,
            Phase.WRITE,
            block.label,
            say("Everything is written down"),
            spent_on=say("settle"),
            waits=True,
        )


def test_parts(block: Block[TestEntry]) -> Iterator[Part]:
    """Set up, and every wave of every try."""
    if block.test is None:
        raise ValueError(say("choose the test of this block."))
    yield from _trial_parts(block, block.test)


def rep_target_parts(block: Block[RepTargetEntry]) -> Iterator[Part]:
    """One long effort."""
    weights_of(block.entry)
    yield Part(GET_READY, Phase.READY, block.label, _say(block))
    yield Part(_seconds(block.entry), Phase.WORK, block.label)
    yield Part(SETTLE, Phase.SETTLE, block.label)


#: Seconds after the last call, to finish the movement.
_FINISH: Final = 2


def beat_parts(block: Block[BeatsEntry]) -> Iterator[Part]:
    """A movement for every call, and the music to its end where it goes on longer."""
    calls = calls_of(block.entry)
    if not calls:
        raise ValueError(say("give the beat and the number of movements, or the time of each."))
    last = -(-calls[-1].at_ms // 1000)
    yield Part(GET_READY, Phase.READY, block.label, _say(block))
    yield Part(
        max(_seconds(block.entry), last + _FINISH), Phase.WORK, block.label, calls=calls,
        spent_on=say("{calls} calls", calls=len(calls)),
    )  # fmt: skip
    yield Part(SETTLE, Phase.SETTLE, block.label)


def cool_down_parts(block: Block[CoolDownEntry]) -> Iterator[Part]:
    """Walk so many steps, hold a squat, and a stretch of time."""
    steps, hold = block.entry.get("steps"), block.entry.get("hold")
    if not steps:
        yield from open_parts(block)
        return
    # A slow step takes about a second.
    yield Part(steps, Phase.OPEN, say("Walk"), say("Walk {steps} steps", steps=steps))
    if hold:
        yield Part(hold, Phase.OPEN, say("Squat"), say("Squat and hold {hold} seconds", hold=hold))
    spoken = _say(block) or block.label
    yield Part(_seconds(block.entry), Phase.OPEN, block.label, spoken, spent_on=say("then"))


def _trial_parts(block: Block[TestEntry], test: TrialPlan) -> Iterator[Part]:
    words = _say(block) or say("Set up: {label}", label=block.label)
    yield Part(test.setup, Phase.OPEN, words, words, spent_on=say("set up"))
    if test.seconds is None:
        each = test.tries * (test.trial + test.changeover)
        for wave in range(1, test.waves + 1):
            yield Part(each, Phase.OPEN, block.label, block.label, wave, spent_on=say("wave"))
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


def interval_parts(block: Block[IntervalsEntry]) -> Iterator[Part]:
    """Every effort of every movement, with the rest after it."""
    movements = [
        (
            fitting(one["name"], 40, say("A movement")) or say("movement"),
            read_efforts(one["efforts"]),
        )
        for one in block.entry.get("movements") or ()
    ]
    if not movements:
        raise ValueError(say("give a movement and its efforts, such as 25/15/25."))
    efforts = [(name, effort) for name, each in movements for effort in each]
    yield Part(GET_READY, Phase.READY, efforts[0][0], _say(block))
    for place, (name, effort) in enumerate(efforts):
        yield Part(effort.work, Phase.WORK, name)
        if place < len(efforts) - 1:
            following = efforts[place + 1][0]
            # Between two movements there is at least room to be told of the next.
            least = LEAST_REST if following == name else NAME_FROM
            yield Part(max(effort.rest, least), Phase.REST, following)
        else:
            yield Part(max(effort.rest, SETTLE), Phase.SETTLE, name)


def station_parts(block: Block[StationsEntry]) -> Iterator[Part]:
    """Every round, and the way to the next."""
    entry = block.entry
    check_groups(entry)
    stations, rounds = len(stations_of(entry)), entry.get("rounds") or 0
    work, change = entry.get("work") or 0, entry.get("change") or 0
    if stations < 2 or not 1 <= rounds <= stations:
        raise ValueError(say("a rotation has at least 2 stations and at most one round for each."))
    check_efforts((Effort(work, change), Effort(work)))
    yield Part(GET_READY, Phase.READY, block.label, _say(block))
    for number in range(1, rounds + 1):
        yield Part(
            work, Phase.WORK, say("Round {number} of {rounds}", number=number, rounds=rounds)
        )
        if number < rounds:
            yield Part(max(change, BREATH + 1 + len(COUNT)), Phase.SWAP, say("Move on"))
    yield Part(SETTLE, Phase.SETTLE, block.label)
