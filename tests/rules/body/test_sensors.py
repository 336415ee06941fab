"""What belts and gates send: what is taken, and what the checks catch."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.body.sensors import (
    BeltReading,
    Passage,
    belt_problem,
    is_double,
    read_belt,
    read_gate,
    read_passage,
    write_belt,
)

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
        (BeltReading(29), "not a pulse"),
        (BeltReading(241), "not a pulse"),
        # Every other beat was counted: the rate is half of what its own beats say.
        (BeltReading(60, contact=True, intervals=(HALF, HALF)), "its beats make 120 a minute"),
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


@pytest.mark.parametrize(
    ("data", "reading"),
    [
        # By hand from the Bluetooth SIG's Heart Rate Service 1.0, field by field.
        (bytes([0x00, 72]), BeltReading(72)),
        (bytes([0x01, 0x2C, 0x01]), BeltReading(300)),
        (bytes([0x06, 130]), BeltReading(130, contact=True)),
        (bytes([0x04, 130]), BeltReading(130, contact=False)),
        (bytes([0x08, 90, 0x10, 0x00]), BeltReading(90, energy_kj=16)),
        (
            bytes([0x10, 60, 0x00, 0x04, 0x00, 0x02]),
            BeltReading(60, intervals=(Fraction(1), Fraction(1, 2))),
        ),
    ],
)
def test_a_belts_message_field_by_field(data: bytes, reading: BeltReading) -> None:
    assert read_belt(data) == reading
    assert write_belt(reading) == data


@given(
    st.builds(
        BeltReading,
        bpm=st.integers(0, 65_535),
        contact=st.none() | st.booleans(),
        energy_kj=st.none() | st.integers(0, 65_535),
        intervals=st.lists(st.integers(0, 65_535).map(lambda n: Fraction(n, 1024)), max_size=9).map(
            tuple
        ),
    )
)
def test_what_a_belt_sends_is_read_back(reading: BeltReading) -> None:
    assert read_belt(write_belt(reading)) == reading


@given(st.binary(max_size=24))
def test_any_message_is_read_or_refused(data: bytes) -> None:
    try:
        read_belt(data)
    except ValueError as problem:
        assert "heart rate" in str(problem)


def test_passages_of_a_gate_and_those_sent_twice() -> None:
    first = read_passage("P,12,83250\n")
    assert first == Passage(12, 83_250)
    assert read_passage("P,?,9") == Passage(None, 9)
    assert is_double(Passage(12, 84_000), first)
    assert not is_double(Passage(12, 120_000), first)
    assert not is_double(Passage(13, 83_300), first)
    assert not is_double(first, None)
    for line in ("", "P,12", "P,12,83.2", "Q,12,83250"):
        with pytest.raises(ValueError, match="A passage must be a line"):
            read_passage(line)
