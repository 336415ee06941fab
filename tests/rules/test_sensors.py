"""What belts and gates send: what is taken, and what the checks catch."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.sensors import BeltReading, belt_problem, is_double, read_gate

#: One beat of 0.5 s, in the SIG's units of 1/1024 s: 120 beats a minute.
HALF = Fraction(512, 1024)


@pytest.mark.parametrize(
    ("reading", "says"),
    [
        (BeltReading(120, contact=True, intervals=(HALF, HALF)), None),
        (BeltReading(120), None),
        (BeltReading(30), None),
        (BeltReading(240), None),
        (BeltReading(0, contact=False), "does not touch"),
        (BeltReading(120, contact=False), "does not touch"),
        (BeltReading(29), "no pulse"),
        (BeltReading(241), "no pulse"),
        # Every other beat was counted: the rate is half of what its own beats say.
        (BeltReading(60, contact=True, intervals=(HALF, HALF)), "its beats are 120 a minute"),
        # A mean over some seconds lags behind: a fifth off is no fault.
        (BeltReading(100, intervals=(HALF,)), None),
        (BeltReading(100, intervals=(Fraction(0),)), None),
    ],
)
def test_a_belts_message_is_taken_or_the_reason_said(
    reading: BeltReading, says: str | None
) -> None:
    problem = belt_problem(reading)
    assert problem is None if says is None else says in (problem or "")


def test_a_gates_lines_are_read_one_by_one() -> None:
    lines = [
        "P,1,30000",
        "P,1,30140",  # the same passage, sent twice
        "P,?,30500",  # somebody without a number
        "P,2,3",
        "P,2x,31000",
        "P,9,31000",  # three run
        "P,1,29000",  # back in time
        "P,1,61000",
    ]
    found = read_gate(lines, runners=3)
    assert [(one.passage.runner, one.passage.at_ms) for one in found if one.passage] == [
        (1, 30_000), (None, 30_500), (2, 3), (1, 61_000),
    ]  # fmt: skip
    said = [one.problem for one in found if one.problem]
    assert [len(one.problem or "") > 0 for one in found] == [
        False, True, False, False, True, True, True, False,
    ]  # fmt: skip
    assert "sent twice" in str(said[0]) and "such as P,12,83250" in str(said[1])
    assert "no runner 9" in str(said[2]) and "older" in str(said[3])


PASSAGES = st.lists(st.tuples(st.integers(1, 5), st.integers(0, 200_000)), max_size=40)


@given(PASSAGES)
def test_what_is_taken_is_in_time_and_never_twice(sent: list[tuple[int, int]]) -> None:
    found = read_gate([f"P,{runner},{at}" for runner, at in sent], runners=5)
    assert len(found) == len(sent)
    for runner in range(1, 6):
        mine = [one.passage for one in found if one.passage and one.passage.runner == runner]
        assert all(a.at_ms <= b.at_ms for a, b in pairwise(mine))
        assert not any(is_double(b, a) for a, b in pairwise(mine))
        # The first of a runner is always taken.
        first = next((at for who, at in sent if who == runner), None)
        assert first is None or mine[0].at_ms == first
