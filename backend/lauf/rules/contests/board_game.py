"""A warm-up game: a board of movements with slides and climbs, made anew from its number.

The same number, age, space and loads to spare give the same board on every machine: the numbers are
drawn by Marsaglia's xorshift (2003, J Stat Softw 8(14)), not by the machine's own generator.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Final, NamedTuple

from lauf.messages import say
from lauf.rules.planning.demands import EffortLevel, Load

SQUARES: Final = 40
#: Squares in a row; the board is walked to and fro.
ACROSS: Final = 8
MINUTES: Final = 10
LARGEST_NUMBER: Final = 9_999
_SLIDES: Final = 3
_CLIMBS: Final = 3
#: Squares between the ends of a slide or climb.
_SHORTEST, _LONGEST = 4, 14
#: Every so many squares there is one to rest on.
_REST_EVERY: Final = 9
_REST: Final = say("a breath, and a sip of water")
_DIE: Final = 6


class Space(StrEnum):
    """How much room there is."""

    SPOT = "spot"
    FLOOR = "floor"
    HALL = "hall"


class Movement(NamedTuple):
    """Something to do on a square; `space` is the least room it takes."""

    words: str
    load: Load
    effort: EffortLevel
    from_age: int
    space: Space


_L, _E, _S = Load, EffortLevel, Space
#: Our own list, all of low or middling effort: a warm-up is no test.
MOVEMENTS: Final = (
    Movement(say("8 star jumps"), _L.WHOLE_BODY, _E.LOW, 4, _S.SPOT),
    Movement(say("10 heel flicks on the spot"), _L.LEGS, _E.LOW, 4, _S.SPOT),
    Movement(say("12 high knees, slowly"), _L.LEGS, _E.LOW, 4, _S.SPOT),
    Movement(say("6 squats, heels down"), _L.LEGS, _E.LOW, 5, _S.SPOT),
    Movement(say("8 calf raises"), _L.LEGS, _E.LOW, 5, _S.SPOT),
    Movement(say("5 lunges each side"), _L.LEGS, _E.HIGH, 7, _S.SPOT),
    Movement(say("10 arm circles forwards, 10 back"), _L.PUSH, _E.LOW, 4, _S.SPOT),
    Movement(say("10 punches at the air"), _L.PUSH, _E.LOW, 4, _S.SPOT),
    Movement(say("6 press-ups at the wall"), _L.PUSH, _E.LOW, 5, _S.FLOOR),
    Movement(say("push an unmovable wall, count to 6"), _L.PUSH, _E.LOW, 5, _S.FLOOR),
    Movement(say("pull an invisible rope, 10 hauls"), _L.PULL, _E.LOW, 4, _S.SPOT),
    Movement(say("8 elbow pulls, shoulder blades together"), _L.PULL, _E.LOW, 5, _S.SPOT),
    Movement(say("row a boat sitting, 10 strokes"), _L.PULL, _E.LOW, 4, _S.FLOOR),
    Movement(say("6 slow toe taps lying down"), _L.CORE, _E.LOW, 6, _S.FLOOR),
    Movement(say("hold a bridge, count to 8"), _L.CORE, _E.LOW, 5, _S.FLOOR),
    Movement(say("8 twists to each side, standing"), _L.CORE, _E.LOW, 4, _S.SPOT),
    Movement(say("hold the top of a press-up, count to 8"), _L.CORE, _E.HIGH, 7, _S.FLOOR),
    Movement(say("reach up high, then to the toes, 5 times"), _L.FLEXIBILITY, _E.LOW, 4, _S.SPOT),
    Movement(say("sit wide and reach to each foot"), _L.FLEXIBILITY, _E.LOW, 4, _S.FLOOR),
    Movement(say("a cat's back and a hollow one, 5 times"), _L.FLEXIBILITY, _E.LOW, 4, _S.FLOOR),
    Movement(say("stand on one foot, count to 10, then the other"), _L.BALANCE, _E.LOW, 4, _S.SPOT),
    Movement(say("walk heel to toe along a line"), _L.BALANCE, _E.LOW, 4, _S.FLOOR),
    Movement(say("turn round once on one foot"), _L.BALANCE, _E.LOW, 6, _S.SPOT),
    Movement(say("clap over and under each knee, 8 times"), _L.SKILL, _E.LOW, 5, _S.SPOT),
    Movement(say("opposite hand to opposite knee, 10 times"), _L.SKILL, _E.LOW, 5, _S.SPOT),
    Movement(say("hop a square on the floor, both ways round"), _L.SKILL, _E.LOW, 6, _S.FLOOR),
    Movement(say("jog to the nearest wall and back"), _L.AEROBIC, _E.LOW, 4, _S.HALL),
    Movement(say("side steps across and back"), _L.AEROBIC, _E.LOW, 5, _S.HALL),
    Movement(say("jog on the spot, count to 20"), _L.AEROBIC, _E.LOW, 4, _S.SPOT),
    Movement(say("skip without a rope, count to 15"), _L.AEROBIC, _E.LOW, 5, _S.SPOT),
)


@dataclass(frozen=True, slots=True)
class Square:
    """One square: what is done on it, and where it leads; `to` is its own place for most."""

    place: int
    words: str
    load: Load | None
    to: int


@dataclass(frozen=True, slots=True)
class Board:
    """A board with its squares from 1 on."""

    number: int
    squares: tuple[Square, ...]

    @property
    def throws(self) -> float:
        """How many throws one counter needs on average."""
        return _throws([one.to for one in self.squares])

    def share(self, load: Load) -> float:
        """Share of the moving squares with this load."""
        moving = [one for one in self.squares if one.load is not None]
        return sum(one.load is load for one in moving) / len(moving)


def fitting(age: int, space: Space, spare: Collection[Load]) -> list[Movement]:
    """The movements for an age and a space, without the loads that what follows asks for; with them
    where fewer than three loads would be left."""
    room = list(Space)
    known = [
        one
        for one in MOVEMENTS
        if one.from_age <= age and room.index(one.space) <= room.index(space)
    ]
    spared = [one for one in known if one.load not in spare]
    return spared if len({one.load for one in spared}) >= 3 else known


def make_board(number: int, age: int, space: Space, spare: Collection[Load] = ()) -> Board:
    """The board of a number. No two neighbouring squares load the same part, nothing on it is
    maximal, and no slide or climb leads onto another or past the ends.

    spare   loads of what follows, kept fresh where enough else is left
    """
    draw = _numbers(number)
    ways = _ways(draw)
    movements = fitting(age, space, spare)
    squares: list[Square] = []
    before: Movement | None = None
    for place in range(1, SQUARES + 1):
        to = ways.get(place, place)
        if place in (1, SQUARES):
            words = say("start") if place == 1 else say("Finish. Everybody claps.")
            squares.append(Square(place, words, None, to))
            before = None
        elif to != place:
            squares.append(Square(place, say("climb") if to > place else say("slide"), None, to))
        elif place % _REST_EVERY == 0:
            squares.append(Square(place, _REST, None, place))
            before = None
        else:
            open_ = [one for one in movements if before is None or one.load is not before.load]
            before = open_[next(draw) % len(open_)]
            squares.append(Square(place, before.words, before.load, place))
    return Board(number, tuple(squares))


def _numbers(seed: int) -> Iterator[int]:
    """xorshift32: the same numbers everywhere."""
    state = (seed * 2_654_435_761 + 1) % 2**32 or 1
    while True:
        state ^= state << 13 & 0xFFFFFFFF
        state ^= state >> 17
        state ^= state << 5 & 0xFFFFFFFF
        yield state


def _ways(draw: Iterator[int]) -> dict[int, int]:
    """Slides and climbs by where they begin: no end is used twice, and none lies at the ends of
    the board or on a resting square."""
    used = {1, SQUARES, *range(_REST_EVERY, SQUARES, _REST_EVERY)}
    found: dict[int, int] = {}
    wanted = [1] * _CLIMBS + [-1] * _SLIDES
    for way in wanted:
        while True:
            begin = 2 + next(draw) % (SQUARES - 2)
            end = begin + way * (_SHORTEST + next(draw) % (_LONGEST - _SHORTEST + 1))
            if 1 < end < SQUARES and not {begin, end} & used:
                break
        used |= {begin, end}
        found[begin] = end
    return found


def _throws(leads: Sequence[int]) -> float:
    """Expected throws of one counter from the first square to the last, which a throw may pass:
    the expectations of an absorbing chain, by going over them until they stand still."""
    expected = [0.0] * (SQUARES + 1)
    for _ in range(400):
        moved = 0.0
        for place in range(SQUARES - 1, 0, -1):
            nexts = (min(SQUARES, place + die) for die in range(1, _DIE + 1))
            new = 1 + sum(expected[leads[one - 1]] for one in nexts) / _DIE
            moved = max(moved, abs(new - expected[place]))
            expected[place] = new
        if moved < 1e-6:
            break
    return expected[1]
