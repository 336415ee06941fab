"""Laps, courses and the mile. Lengths in millimetres, times in milliseconds, exact."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.reading import laps


def test_laps_of_a_mile() -> None:
    """Common practice: a mile of 1609.344 m in laps of 26 big steps is 61.898, so 62 laps; a mile
    of 40 laps has laps of 40.23 m."""
    plan = laps.plan_laps(laps.MILE_MM, 26 * laps.DEFAULT_STEP_MM)
    assert float(plan.exact) == pytest.approx(61.898, abs=5e-4)
    assert plan.whole == 62
    assert float(plan.beyond_mm) == pytest.approx(62 * 26_000 - 1_609_344)
    assert float(plan.finish_mm) == pytest.approx(1_609_344 - 61 * 26_000)
    assert float(laps.MILE_MM / 40) == pytest.approx(40_233.6, abs=0.1)


@given(st.integers(1, 3_000_000), st.integers(1_000, 500_000))
def test_whole_laps_cover_the_distance_and_one_fewer_does_not(distance: int, lap: int) -> None:
    plan = laps.plan_laps(distance, lap)
    assert plan.whole * lap >= distance > (plan.whole - 1) * lap
    assert plan.beyond_mm == plan.whole * lap - distance
    assert laps.distance(plan.exact, lap) == distance
    assert (plan.finish_mm == 0) == (plan.beyond_mm == 0)


def test_splits_and_pace() -> None:
    splits = laps.read_splits([140_000, 295_000, 450_000, 598_000], 402_336, 1_609_344)
    assert splits.laps == (140_000, 155_000, 155_000, 148_000)
    assert splits.halves == (295_000, 303_000)
    assert splits.words == "even"
    assert laps.read_splits([100, 300]).words == "slower second half"
    assert laps.read_splits([200, 300]).words == "faster second half"
    assert laps.read_splits([100_000, 200_000], 1, 8).projected == 800_000
    # 600 s for a mile is 372.8 s a kilometre: 600/1.609344 (definition of the mile).
    assert float(laps.pace(600_000, laps.MILE_MM, 1_000_000)) == pytest.approx(372_822.7, abs=0.1)
    assert laps.step_length(20_000, 25) == 800
    for wrong in ([], [5, 5], [9, 4]):
        with pytest.raises(ValueError):
            laps.read_splits(wrong)


def test_halves_are_of_the_true_distance() -> None:
    """A mile on laps of 400 m: four laps and 9.344 m, counted as what they are. An even run is
    even, which it was not while the last bit counted as a lap; an odd middle lap is shared out."""
    pace = 0.4  # ms a millimetre: 1:00 for 150 m
    ends = [round(pace * mm) for mm in (400_000, 800_000, 1_200_000, 1_600_000, 1_609_344)]
    splits = laps.read_splits(ends, 400_000, 1_609_344)
    assert splits.words == "even"
    assert float(splits.halves[0]) == pytest.approx(ends[-1] / 2, rel=1e-3)
    assert laps.read_splits(ends).words == "faster second half"  # by count alone
    # Three laps of 60, 80 and 100 s: 60 + half of 80 against half of 80 + 100.
    odd = laps.read_splits([60_000, 140_000, 240_000], 100_000, 300_000)
    assert odd.halves == (100_000, 140_000)
    # Two laps of four done: the rest at the same pace, by metres.
    assert laps.read_splits(ends[:2], 400_000, 1_609_344).projected == pytest.approx(
        pace * 1_609_344, rel=1e-6
    )


def test_what_is_left_at_the_end_of_a_distance_counts_as_its_metres() -> None:
    """Laps of 100 m: up to a tenth of a lap more is run on with the last one, and no more."""
    ends = [20_000, 40_000, 63_000]
    with_it = laps.read_splits(ends, 100_000, 310_000)
    assert with_it.projected is None, "the last lap was 110 m long"
    # 155 m is half: the first 100 in 20 s, 55 of the next 100 in 11 s.
    assert with_it.halves == (31_000, 32_000)
    beyond = laps.read_splits(ends, 100_000, 311_000)
    assert beyond.projected == pytest.approx(63_000 * 311 / 300), "a bit of a lap is still to run"
    short = laps.read_splits(ends, 100_000, 240_000)
    # 120 m is half: 20 s and a fifth of the second lap.
    assert short.halves == (24_000, 39_000)
    assert laps.read_splits(ends, 100_000, 300_000).projected is None
    assert laps.read_splits([30_000], 100_000, 200_000).projected == 60_000


@pytest.mark.parametrize(
    ("second", "words"),
    [(102_000, "even"), (105_000, "slower second half"), (95_000, "faster second half")],
)
def test_halves_within_a_fiftieth_of_the_time_are_even(second: int, words: str) -> None:
    assert laps.read_splits([100_000, 100_000 + second]).words == words
    # Exactly a fiftieth apart: 51 s against 49 s of 100.
    assert laps.read_splits([49_000, 100_000]).words == "even"


@pytest.mark.parametrize(("known", "steps"), [(0, 25), (20_000, 0), (-1, 25), (20_000, -1)])
def test_a_step_needs_a_distance_and_steps(known: int, steps: int) -> None:
    with pytest.raises(ValueError, match="at least one step"):
        laps.step_length(known, steps)


def test_a_pace_needs_a_distance() -> None:
    assert laps.step_length(1, 1) == 1
    assert laps.pace(5, 1, 2) == 10
    with pytest.raises(ValueError, match="needs a distance"):
        laps.pace(600_000, 0, 1_000_000)
    with pytest.raises(ValueError, match="no lap times"):
        laps.read_splits([])
    with pytest.raises(ValueError, match="ends later"):
        laps.read_splits([5, 5])
