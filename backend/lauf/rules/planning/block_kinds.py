"""The kinds of block, each described once: its words, what a new one begins with, its parts.

A new kind is a member of `BlockKind`, an entry here, and its editor in the planner.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Any, Final

from lauf.rules.body.pulse import Moment
from lauf.rules.planning import block_parts
from lauf.rules.planning.block_parts import Part
from lauf.rules.planning.blocks import Block, BlockKind


@dataclass(frozen=True, slots=True)
class BlockType:
    """One kind of block.

    words     what it is called
    parts     the stretches of time it is made of
    defaults  the settings a new one begins with
    least     seconds it may be shortened to when a plan is fitted to the time; None is not at all
    works     asks for effort: wants a warm-up before it, and a pulse after it is an activity's
    warms     is a warm-up itself
    after     what a pulse taken after it is: None where it changes nothing
    """

    words: str
    parts: Callable[[Block], Iterable[Part]]
    defaults: Mapping[str, Any]
    least: int | None = None
    works: bool = False
    warms: bool = False
    after: Moment | None = None


BLOCK_KINDS: Final[dict[BlockKind, BlockType]] = {
    BlockKind.BRIEFING: BlockType("Briefing", block_parts.open_parts, {"seconds": 120}, least=45),
    BlockKind.WARM_UP: BlockType(
        "Warm-up",
        block_parts.warm_up_parts,
        {"levels": [[1, 30], [2, 60], [3, 30], [2, 30], [4, 15], [1, 30]]},
        warms=True,
        after=Moment.WARM_UP,
    ),
    BlockKind.STRETCH: BlockType("Stretch", block_parts.open_parts, {"seconds": 120}, least=60),
    BlockKind.PULSE: BlockType(
        "Pulse check",
        block_parts.pulse_parts,
        {"count_seconds": 10, "seconds": 60, "hold": 10, "waits": True},
    ),
    BlockKind.TEST: BlockType(
        "Test", block_parts.test_parts, {"waits": True}, works=True, after=Moment.ACTIVITY
    ),
    BlockKind.INTERVALS: BlockType(
        "Intervals",
        block_parts.interval_parts,
        {
            "movements": [
                {"name": "star jumps", "efforts": "25/15/25/15"},
                {"name": "high knees", "efforts": "12/8/12"},
            ]
        },
        works=True,
        after=Moment.ACTIVITY,
    ),
    BlockKind.BEATS: BlockType(
        "To the beat",
        block_parts.beat_parts,
        {"movement": "squats", "bpm": 120, "every": 8, "calls": 30},
        warms=True,
        after=Moment.WARM_UP,
    ),
    BlockKind.REP_TARGET: BlockType(
        "Rep target",
        block_parts.rep_target_parts,
        {"seconds": 600, "names": ["press-ups", "squats", "star jumps"], "carries": ""},
        least=180,
        works=True,
        after=Moment.ACTIVITY,
    ),
    BlockKind.STATIONS: BlockType(
        "Stations",
        block_parts.station_parts,
        {
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
        works=True,
        after=Moment.ACTIVITY,
    ),
    BlockKind.WATER: BlockType(
        "Water", block_parts.open_parts, {"seconds": 60}, least=30, after=Moment.RECOVERY
    ),
    BlockKind.COOL_DOWN: BlockType(
        "Cool-down",
        block_parts.cool_down_parts,
        {"steps": 40, "hold": 3, "seconds": 90},
        after=Moment.RECOVERY,
    ),
    BlockKind.REPORT: BlockType(
        "Report", block_parts.open_parts, {"seconds": 180}, least=60, after=Moment.RECOVERY
    ),
}

#: The settings a block may have, whatever its kind: what is kept of what was entered.
SETTINGS: Final = (
    "seconds", "say", "levels", "movements", "count_seconds", "stations", "groups", "work",
    "change", "rounds", "steps", "hold", "names", "carries", "setup", "get_ready", "pause", "waits",
    "movement", "bpm", "every", "calls", "times", "apart", "weights",
)  # fmt: skip
