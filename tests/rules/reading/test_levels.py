"""Levels of a movement counted apart."""

import math
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.reading.entry import EntryError, read_entry
from lauf.rules.reading.levels import Level, highest, moved_up, read_weights, weighed, weights_typed
from lauf.rules.reading.quantities import Kind, Measure

TOTAL = Measure(Kind.TOTAL, highest=3_000)
REPS = st.tuples(*[st.integers(0, 60)] * 3)
WEIGHTS = st.lists(
    st.integers(1, 1000).map(lambda n: Fraction(n, 100)), min_size=3, max_size=3
).map(lambda all_of: tuple(sorted(all_of)))


def test_a_class_by_hand() -> None:
    """18-12-6 of two movements is 72 reps (common practice); with the easier ones half and the
    harder ones double it is 2 × (9 + 12 + 12) = 66."""
    plain = read_entry("18e/12/6h+18e/12/6h", TOTAL)
    assert plain.value == 72
    assert plain.parts == {
        "carried": 0, "movements": [36, 36], "levels": [[18, 12, 6], [18, 12, 6]],
    }  # fmt: skip
    stated = read_entry("c35+18e/12/6h + 6h/12u/18e by 0.5/1/2", TOTAL)
    assert stated.value == 35 + 66
    assert stated.parts["weights"] == "0.5/1/2"
    assert "weights" not in read_entry("18e/12/6h by 1/1/1", TOTAL).parts


@given(st.lists(REPS, min_size=1, max_size=6), st.integers(0, 400), WEIGHTS)
def test_what_was_counted_is_what_is_kept(
    movements: list[tuple[int, int, int]], carried: int,
    weights: tuple[Fraction, Fraction, Fraction],
) -> None:  # fmt: skip
    typed = "+".join([f"c{carried}", *(f"{e}e/{u}/{h}h" for e, u, h in movements)])
    exact = carried + sum(
        count * weight for reps in movements for count, weight in zip(reps, weights, strict=True)
    )
    measure = Measure(Kind.TOTAL, highest=100_000)
    entry = read_entry(f"{typed} by {weights_typed(weights)}", measure)
    assert entry.value == math.floor(exact)
    assert read_weights(weights_typed(weights)) == weights
    assert entry.parts["movements"] == [sum(reps) for reps in movements]


def test_a_rest_of_a_rep_is_none() -> None:
    assert weighed([(1, 0, 0), (1, 0, 0)], read_weights("0.5/1/2")) == 1
    assert weighed([(3, 0, 0)], read_weights("0,5/1/2")) == 1


@pytest.mark.parametrize(
    "typed", ["5e/6e", "5/6", "5u/6", "5x", "5e/", "/5", "e", "20e/10/5h by", "20 by 2/1/1",
              "20 by 0/1/2", "20 by 1/2", "20 by 1/2/11", "by 1/1/2"]
)  # fmt: skip
def test_what_cannot_be_a_total_by_level_is_refused(typed: str) -> None:
    with pytest.raises(EntryError) as refused:
        read_entry(typed, TOTAL)
    assert refused.value.accepted


def test_moving_up_is_told_once_it_is_more_than_a_try() -> None:
    assert highest((9, 4, 1)) is Level.EASIER
    assert highest((4, 4, 4)) is None
    before = [{"squats": (20, 0, 0)}, {"squats": (10, 6, 0), "dips": (8, 0, 0)}]
    assert moved_up({"squats": (0, 30, 4)}, before) == ()
    assert moved_up({"squats": (0, 30, 5), "dips": (2, 5, 0)}, before) == (
        "squats: harder for the first time, usual before",
        "dips: usual for the first time, easier before",
    )
    # Never done before, or gone back: nothing to tell.
    assert moved_up({"hops": (0, 0, 9), "squats": (20, 0, 0)}, before) == ()
