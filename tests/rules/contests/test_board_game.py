"""The warm-up game over ten thousand made boards."""

from __future__ import annotations

import random
import statistics
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.contests.board_game import MOVEMENTS, SQUARES, Board, Space, fitting, make_board
from lauf.rules.planning.demands import EffortLevel, Load

EFFORTS = {one.words: one.effort for one in MOVEMENTS}


def play(board: Board, chance: random.Random) -> int:
    """Throws of one counter until it is there."""
    place = throws = 1
    while place < SQUARES:
        place = board.squares[min(SQUARES, place + chance.randint(1, 6)) - 1].to
        throws += 1
    return throws - 1


def test_ten_thousand_boards() -> None:
    """As long as ten minutes want (some twelve throws a counter), no load with more than a quarter
    of the squares, no two neighbours of one load, nothing maximal, no slide onto another."""
    chance = random.Random(5)
    lengths, shares = [], dict.fromkeys(Load, 0.0)
    for number in range(10_000):
        board = make_board(number, 8, Space.FLOOR)
        lengths.append(play(board, chance))
        ways = {one.place: one.to for one in board.squares if one.to != one.place}
        assert len(ways) == 6 and sum(to < place for place, to in ways.items()) == 3
        for place, to in ways.items():
            landed = board.squares[to - 1]
            assert 1 < to < SQUARES and to not in ways and abs(to - place) >= 4
            assert EFFORTS[landed.words] is not EffortLevel.MAXIMAL
        for one, other in pairwise(board.squares):
            assert one.load is None or one.load is not other.load
        moving = [one.load for one in board.squares if one.load is not None]
        for load in moving:
            shares[load] += 1 / len(moving) / 10_000
    assert 11.7 <= statistics.mean(lengths) <= 12.7
    assert max(shares.values()) < 0.25 and min(shares.values()) > 0.02
    assert sum(shares.values()) == pytest.approx(1)
    expected = [make_board(number, 8, Space.FLOOR).throws for number in range(300)]
    assert statistics.mean(expected) == pytest.approx(statistics.mean(lengths), abs=0.25)


def test_the_same_number_is_the_same_board_on_every_machine() -> None:
    """Written down once: a board that a class liked comes back next year."""
    board = make_board(2_027, 8, Space.FLOOR)
    assert board == make_board(2_027, 8, Space.FLOOR) != make_board(2_028, 8, Space.FLOOR)
    assert [one.to for one in board.squares if one.to != one.place] == WAYS_2027
    assert board.squares[1].words == FIRST_2027


WAYS_2027 = [11, 15, 2, 8, 31, 24]
FIRST_2027 = "clap over and under each knee, 8 times"


@given(
    st.integers(0, 9_999), st.integers(4, 11), st.sampled_from(Space),
    st.sets(st.sampled_from(Load)),
)  # fmt: skip
def test_a_board_fits_the_age_the_space_and_what_follows(
    number: int, age: int, space: Space, spare: set[Load]
) -> None:
    known = {one.words: one for one in MOVEMENTS}
    room = list(Space)
    board = make_board(number, age, space, spare)
    used = [known[one.words] for one in board.squares if one.load is not None]
    assert all(one.from_age <= age for one in used)
    assert all(room.index(one.space) <= room.index(space) for one in used)
    if len({one.load for one in fitting(age, space, ())} - spare) >= 3:
        assert not spare & {one.load for one in used}
