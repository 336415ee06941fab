"""What a lesson is planned of: blocks as they are entered and kept.

A block is entered, kept, sent and read in one shape, a `TypedDict` for each kind: what a setting is
called and within what bounds it lies stands here and nowhere else. Every setting may be left out,
since plans are kept as they were entered: what is not there is nought, or what the test has.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Final, Generic, Literal, NotRequired, TypeAlias, TypeVar, get_args
from uuid import UUID

from annotated_types import Ge, Le, MaxLen, MinLen
from typing_extensions import TypedDict, get_type_hints

from lauf.messages import say
from lauf.rules.body.pulse import CountSeconds
from lauf.rules.planning.beats import Call, on_the_beat, read_times
from lauf.rules.planning.demands import Load
from lauf.rules.planning.rotation import GroupsBy
from lauf.rules.reading.levels import PLAIN, Weights, read_weights
from lauf.rules.reading.words import fitting

#: Seconds of "get ready" before the first effort of a block.
GET_READY: Final = 10
#: Seconds after the last stop of a block, before anything else is said.
SETTLE: Final = 3
#: Seconds of a rep target where nobody says how long it lasts.
USUAL_TARGET: Final = 600
#: Called levels of a warm-up (common practice).
LEVELS: Final = {1: say("Walk"), 2: say("Jog"), 3: say("Run"), 4: say("Sprint")}


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


Seconds = Annotated[int, Ge(0), Le(7200)]
Name = Annotated[str, MaxLen(400)]
#: A level and its seconds: JSON has no tuples.
Pair = Annotated[list[Seconds], MinLen(2), MaxLen(2)]


class MovementEntry(TypedDict):
    """A movement of intervals; `efforts` as typed, such as 25/15/25."""

    name: Name
    efforts: Annotated[str, MaxLen(200)]


class StationEntry(TypedDict):
    """A station: the parts of the body it loads, and how many groups have room at once."""

    name: Name
    loads: NotRequired[Annotated[list[Load], MaxLen(9)]]
    room: NotRequired[Annotated[int, Ge(1), Le(8)]]


class Groups(TypedDict):
    """Groups of children as they were made: by house, at random or balanced; or, from then on,
    changed by hand. Ids are text where they are kept."""

    how: GroupsBy
    names: Annotated[list[Annotated[str, MaxLen(40)]], MaxLen(16)]
    members: Annotated[list[list[UUID]], MaxLen(16)]


class _Entry(TypedDict):
    """What every block has beside its settings. `closed`: of a private test that the asker does not
    see; it stays what it is, whatever is sent of it."""

    label: NotRequired[Name]
    id: NotRequired[UUID | None]
    test_id: NotRequired[UUID | None]
    activity_id: NotRequired[UUID | None]
    closed: NotRequired[bool | None]


class SayEntry(_Entry):
    """`say` is said at the start, instead of the block's name."""

    say: NotRequired[Name | None]


class OpenEntry(SayEntry):
    """A stretch of time for one thing."""

    kind: Literal[BlockKind.BRIEFING, BlockKind.STRETCH, BlockKind.WATER, BlockKind.REPORT]
    seconds: NotRequired[Seconds | None]


class WarmUpEntry(_Entry):
    """Levels (1 to 4, seconds) called one after the other; without any a free game of `seconds`."""

    kind: Literal[BlockKind.WARM_UP]
    levels: NotRequired[Annotated[list[Pair], MaxLen(30)] | None]
    seconds: NotRequired[Seconds | None]


class PulseEntry(_Entry):
    """`hold` to find the pulse, `count_seconds` to count it, `seconds` to write it down; and where
    it `waits`, the clock stands then until somebody says that all are written down."""

    kind: Literal[BlockKind.PULSE]
    hold: NotRequired[Annotated[int, Ge(0), Le(60)] | None]
    count_seconds: NotRequired[CountSeconds | None]
    seconds: NotRequired[Seconds | None]
    waits: NotRequired[bool | None]


class TestEntry(SayEntry):
    """Where no seconds to set up, to get ready or between goes are given, they are the test's own.
    Unless `waits` is False, each go waits until somebody says that all are ready."""

    kind: Literal[BlockKind.TEST]
    setup: NotRequired[Annotated[int, Ge(0), Le(1800)] | None]
    get_ready: NotRequired[Annotated[int, Ge(3), Le(120)] | None]
    pause: NotRequired[Annotated[int, Ge(3), Le(600)] | None]
    waits: NotRequired[bool | None]


class IntervalsEntry(SayEntry):
    """Movements, each with its efforts."""

    kind: Literal[BlockKind.INTERVALS]
    movements: NotRequired[Annotated[list[MovementEntry], MaxLen(20)] | None]


class BeatsEntry(SayEntry):
    """A movement called to a beat: `calls` of them, one every so many beats of `bpm` a minute; or
    by `times`, a line each. `seconds`: the music goes on at least so long."""

    kind: Literal[BlockKind.BEATS]
    movement: NotRequired[Annotated[str, MaxLen(40)] | None]
    bpm: NotRequired[Annotated[int, Ge(0), Le(400)] | None]
    every: NotRequired[Annotated[int, Ge(0), Le(64)] | None]
    calls: NotRequired[Annotated[int, Ge(0), Le(1000)] | None]
    times: NotRequired[Annotated[str, MaxLen(20_000)] | None]
    seconds: NotRequired[Seconds | None]


class RepTargetEntry(SayEntry):
    """Movements that are counted together; `carries` is the one that counts from the warm-up on.
    Where levels are counted `apart`, `weights` is what one of each counts, as typed."""

    kind: Literal[BlockKind.REP_TARGET]
    seconds: NotRequired[Seconds | None]
    names: NotRequired[Annotated[list[Annotated[str, MaxLen(60)]], MaxLen(16)] | None]
    carries: NotRequired[Annotated[str, MaxLen(60)] | None]
    apart: NotRequired[bool | None]
    weights: NotRequired[Annotated[str, MaxLen(30)] | None]


class StationsEntry(SayEntry):
    """Stations, `work` seconds at each, `change` seconds to move on, so many rounds, and the groups
    that go round."""

    kind: Literal[BlockKind.STATIONS]
    stations: NotRequired[Annotated[list[StationEntry], MaxLen(16)] | None]
    work: NotRequired[Seconds | None]
    change: NotRequired[Seconds | None]
    rounds: NotRequired[Annotated[int, Ge(0), Le(16)] | None]
    groups: NotRequired[Groups | None]


class CoolDownEntry(SayEntry):
    """Steps to walk, a squat to hold, and a stretch of `seconds`."""

    kind: Literal[BlockKind.COOL_DOWN]
    steps: NotRequired[Annotated[int, Ge(0), Le(500)] | None]
    hold: NotRequired[Annotated[int, Ge(0), Le(60)] | None]
    seconds: NotRequired[Seconds | None]


#: A block of any kind, told apart by its `kind`.
BlockEntry: TypeAlias = (
    OpenEntry | WarmUpEntry | PulseEntry | TestEntry | IntervalsEntry | BeatsEntry
    | RepTargetEntry | StationsEntry | CoolDownEntry
)  # fmt: skip


def _settings() -> dict[BlockKind, tuple[str, ...]]:
    found: dict[BlockKind, tuple[str, ...]] = {}
    beside = {"kind", *_Entry.__annotations__}
    for shape in get_args(BlockEntry):
        hints = get_type_hints(shape)
        names = tuple(name for name in hints if name not in beside)
        found |= dict.fromkeys(get_args(hints["kind"]), names)
    return found


#: The settings of each kind of block by name: what is kept of what was entered.
SETTINGS: Final = _settings()


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


Entered = TypeVar("Entered", bound=_Entry, covariant=True)


@dataclass(frozen=True, slots=True)
class Block(Generic[Entered]):
    """A block as it is called: as it was entered, under a label; a test with what its protocol
    needs of the clock."""

    entry: Entered
    label: str
    test: TrialPlan | None = None

    @property
    def id(self) -> str:
        """Its own, whatever is changed in it or around it; "" for one that is not kept yet."""
        return str(self.entry.get("id") or "")


AnyBlock: TypeAlias = Block[BlockEntry]


def calls_of(entry: BeatsEntry) -> tuple[Call, ...]:
    """What a block calls to a beat: by its list of times where it has one. Raises ValueError."""
    times = entry.get("times") or ""
    if times.strip():
        return read_times(times)
    bpm = entry.get("bpm")
    if not bpm:
        return ()
    return on_the_beat(bpm, entry.get("every") or 1, entry.get("calls") or 0)


def weights_of(entry: RepTargetEntry) -> Weights:
    """What a rep of each level counts in a rep target; each one where nothing else is said. Raises
    ValueError."""
    typed = (entry.get("weights") or "").strip()
    return read_weights(typed) if typed and entry.get("apart") else PLAIN


def stations_of(entry: StationsEntry) -> list[StationEntry]:
    """The stations of a block that have a name, which is without space around it. Raises ValueError
    for one that is longer than what is kept."""
    named = [
        (fitting(one["name"], 40, say("A station")), one) for one in entry.get("stations") or ()
    ]
    return [{**one, "name": name} for name, one in named if name]


def check_groups(entry: StationsEntry) -> None:
    """Groups as they may be kept: each with its children, no child in two. Raises ValueError."""
    groups = entry.get("groups")
    if not groups:
        return
    if len(groups["names"]) != len(groups["members"]):
        raise ValueError(say("each group needs one name and one list of children."))
    put = [str(child) for group in groups["members"] for child in group]
    if len(put) != len(set(put)):
        raise ValueError(say("a child can be in one group only."))
