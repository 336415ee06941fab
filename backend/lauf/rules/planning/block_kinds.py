"""The kinds of block, each described once: its words, what a new one begins with, its parts.

A new kind is a member of `BlockKind` with its settings, an entry here, and its editor in the
planner.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any, Final

from lauf.messages import say
from lauf.rules.body.pulse import CountSeconds, Moment
from lauf.rules.planning import block_parts
from lauf.rules.planning.block_parts import Part
from lauf.rules.planning.blocks import USUAL_TARGET, Block, BlockEntry, BlockKind
from lauf.rules.planning.demands import Load


@dataclass(frozen=True, slots=True)
class BlockType:
    """One kind of block.

    words    what it is called
    parts    the stretches of time it is made of, of a block of this kind
    new      what a new one begins with
    least    seconds it may be shortened to when a plan is fitted to the time; None is not at all
    works    asks for effort: wants a warm-up before it, and a pulse after it is an activity's
    warms    is a warm-up itself
    talks    its time is a guess: it ends when somebody says so
    closing  stays at the end when others are added
    after    what a pulse taken after it is: None where it changes nothing
    """

    words: str
    parts: Callable[[Block[Any]], Iterable[Part]]
    new: BlockEntry
    least: int | None = None
    works: bool = False
    warms: bool = False
    talks: bool = False
    closing: bool = False
    after: Moment | None = None


BLOCK_KINDS: Final[dict[BlockKind, BlockType]] = {
    BlockKind.BRIEFING: BlockType(
        say("Briefing"),
        block_parts.open_parts,
        {"kind": BlockKind.BRIEFING, "label": say("Briefing"), "seconds": 120},
        least=45,
        talks=True,
    ),
    BlockKind.WARM_UP: BlockType(
        say("Warm-up"),
        block_parts.warm_up_parts,
        {
            "kind": BlockKind.WARM_UP,
            "label": say("Warm-up"),
            "levels": [[1, 30], [2, 60], [3, 30], [2, 30], [4, 15], [1, 30]],
        },
        warms=True,
        after=Moment.WARM_UP,
    ),
    BlockKind.STRETCH: BlockType(
        say("Stretch"),
        block_parts.open_parts,
        {"kind": BlockKind.STRETCH, "label": say("Stretch"), "seconds": 120},
        least=60,
        talks=True,
    ),
    BlockKind.PULSE: BlockType(
        say("Pulse check"),
        block_parts.pulse_parts,
        {
            "kind": BlockKind.PULSE,
            "label": say("Pulse check"),
            "count_seconds": CountSeconds.TEN,
            "seconds": 60,
            "hold": 10,
            "waits": True,
        },
    ),
    BlockKind.TEST: BlockType(
        say("Test"),
        block_parts.test_parts,
        {"kind": BlockKind.TEST, "label": "", "waits": True},
        works=True,
        after=Moment.ACTIVITY,
    ),
    BlockKind.INTERVALS: BlockType(
        say("Intervals"),
        block_parts.interval_parts,
        {
            "kind": BlockKind.INTERVALS,
            "label": say("Intervals"),
            "movements": [
                {"name": say("star jumps"), "efforts": "25/15/25/15"},
                {"name": say("high knees"), "efforts": "12/8/12"},
            ],
        },
        works=True,
        after=Moment.ACTIVITY,
    ),
    BlockKind.BEATS: BlockType(
        say("To the beat"),
        block_parts.beat_parts,
        {
            "kind": BlockKind.BEATS,
            "label": say("To the beat"),
            "movement": say("squats"),
            "bpm": 120,
            "every": 8,
            "calls": 30,
        },
        warms=True,
        after=Moment.WARM_UP,
    ),
    BlockKind.REP_TARGET: BlockType(
        say("Rep target"),
        block_parts.rep_target_parts,
        {
            "kind": BlockKind.REP_TARGET,
            "label": say("Rep target"),
            "seconds": USUAL_TARGET,
            "names": [say("press-ups"), say("squats"), say("star jumps")],
            "carries": "",
        },
        least=180,
        works=True,
        after=Moment.ACTIVITY,
    ),
    BlockKind.STATIONS: BlockType(
        say("Stations"),
        block_parts.station_parts,
        {
            "kind": BlockKind.STATIONS,
            "label": say("Stations"),
            "stations": [
                {"name": say("skipping"), "loads": [Load.AEROBIC], "room": 1},
                {"name": say("press-ups"), "loads": [Load.PUSH], "room": 1},
                {"name": say("step-ups"), "loads": [Load.LEGS], "room": 1},
                {"name": say("plank"), "loads": [Load.CORE], "room": 1},
            ],
            "work": 45,
            "change": 20,
            "rounds": 4,
        },
        works=True,
        after=Moment.ACTIVITY,
    ),
    BlockKind.WATER: BlockType(
        say("Water"),
        block_parts.open_parts,
        {"kind": BlockKind.WATER, "label": say("Water"), "seconds": 60},
        least=30,
        talks=True,
        after=Moment.RECOVERY,
    ),
    BlockKind.COOL_DOWN: BlockType(
        say("Cool-down"),
        block_parts.cool_down_parts,
        {
            "kind": BlockKind.COOL_DOWN,
            "label": say("Cool-down"),
            "steps": 40,
            "hold": 3,
            "seconds": 90,
        },
        closing=True,
        after=Moment.RECOVERY,
    ),
    BlockKind.REPORT: BlockType(
        say("Report"),
        block_parts.open_parts,
        {"kind": BlockKind.REPORT, "label": say("Report"), "seconds": 180},
        least=60,
        talks=True,
        closing=True,
        after=Moment.RECOVERY,
    ),
}
