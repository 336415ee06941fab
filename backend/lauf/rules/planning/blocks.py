"""What a lesson is planned of: blocks, how long each lasts, and lists of efforts as typed."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum
from typing import Final

from lauf.rules.planning.beats import Call

#: A count of three needs this much rest before the next effort.
LEAST_REST: Final = 3
#: Seconds of "get ready" before the first effort of a block.
GET_READY: Final = 10
#: Seconds after the last stop of a block, before anything else is said.
SETTLE: Final = 3
#: Called levels of a warm-up (common practice).
LEVELS: Final = {1: "Walk", 2: "Jog", 3: "Run", 4: "Sprint"}


class BlockKind(StrEnum):
    """What is done in a block."""

    BRIEFING = "briefing"
    WARM_UP = "warm_up"
    STRETCH = "stretch"
    PULSE = "pulse"
    TEST = "test"
    INTERVALS = "intervals"
    BEATS = "beats"
    REP_TARGET = "rep_target"
    STATIONS = "stations"
    WATER = "water"
    COOL_DOWN = "cool_down"
    REPORT = "report"


@dataclass(frozen=True, slots=True)
class Effort:
    """Seconds of work and of the rest after it."""

    work: int
    rest: int = 0


@dataclass(frozen=True, slots=True)
class Movement:
    """A movement with its own efforts."""

    name: str
    efforts: tuple[Effort, ...]


@dataclass(frozen=True, slots=True)
class TrialPlan:
    """What a test needs of the clock: seconds None where it has no clock of its own.

    get_ready   seconds called before each go
    changeover  seconds between two goes, or two trials
    waits       the clock stands before each go until somebody says that all are ready
    """

    seconds: int | None
    waves: int = 1
    tries: int = 1
    setup: int = 0
    trial: int = 60
    changeover: int = 20
    get_ready: int = GET_READY
    waits: bool = False


@dataclass(frozen=True, slots=True)
class Block:
    """One block of a plan. Which fields mean something depends on the kind.

    id             its own, whatever is changed in it or around it
    seconds        open blocks, a warm-up game, a rep target; to the beat: at least so long
    levels         warm-up: (level 1–4, seconds), called one after the other
    movements      intervals
    calls          to the beat: each movement that is called; its name is the block's label
    count_seconds  pulse: how long beats are counted; `seconds` to write them down
    waits          pulse: then the clock stands until somebody says that all are written down
    test           test wave
    stations       station rotation: names; `work`, `change` seconds and `rounds`
    (what is done at them, and who is where, is `rules.rotation`'s)
    steps, hold    cool-down: steps to walk, seconds to hold a squat
    """

    kind: BlockKind
    label: str
    id: str = ""
    seconds: int = 0
    say: str = ""
    levels: tuple[tuple[int, int], ...] = ()
    movements: tuple[Movement, ...] = ()
    calls: tuple[Call, ...] = ()
    count_seconds: int = 10
    waits: bool = False
    test: TrialPlan | None = None
    stations: tuple[str, ...] = ()
    work: int = 0
    change: int = 0
    rounds: int = 0
    steps: int = 0
    hold: int = 3


_EFFORT: Final = re.compile(r"\s*\d{1,4}(\s*[/,\s]\s*\d{1,4})*\s*")


def read_efforts(text: str) -> tuple[Effort, ...]:
    """A list of seconds as typed: work, rest, work, rest, … "25/15/25" is 25 s of work, 15 s of
    rest, 25 s of work. Raises ValueError with what is accepted.

    >>> read_efforts("25/15/25")
    (Effort(work=25, rest=15), Effort(work=25, rest=0))
    """
    if not _EFFORT.fullmatch(text):
        raise ValueError("Type seconds of work and rest in turn, such as 25/15/25.")
    numbers = [int(found) for found in re.findall(r"\d+", text)]
    efforts = tuple(
        Effort(numbers[at], numbers[at + 1] if at + 1 < len(numbers) else 0)
        for at in range(0, len(numbers), 2)
    )
    check_efforts(efforts)
    return efforts


def check_efforts(efforts: tuple[Effort, ...]) -> None:
    """Raises ValueError for efforts that cannot be called."""
    if not 1 <= len(efforts) <= 60:
        raise ValueError("A movement has 1 to 60 efforts.")
    for effort in efforts:
        if not 1 <= effort.work <= 3600 or effort.rest > 3600:
            raise ValueError("An effort is 1 s to an hour of work, a rest at most an hour.")
    if any(effort.rest < LEAST_REST for effort in efforts[:-1]):
        raise ValueError(f"A rest is {LEAST_REST} s at least: it holds the count of three.")
