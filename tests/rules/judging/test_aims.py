"""A target of one's own, said before the clock, and how it went against it."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.judging.aims import (
    judge_aim,
    judge_together,
    judgement_words,
    read_together,
    self_judgement,
)
from lauf.rules.reading.quantities import Better, Kind, Measure

REPS = Measure(Kind.COUNT, highest=500)
RACE = Measure(Kind.TIME, better=Better.DOWN, unit="ms", resolution=100, highest=3_600_000)


@pytest.mark.parametrize(
    ("measure", "value", "aim", "met", "words"),
    [
        (REPS, 26, 24, True, "met, 2 more than the target"),
        (REPS, 24, 24, True, "met, exactly on target"),
        (REPS, 20, 24, False, "4 short of the target"),
        (RACE, 540_000, 545_000, True, "met, 5 s better than the target"),
        (RACE, 550_000, 545_000, False, "5 s short of the target"),
    ],
)
def test_a_target_is_met_or_not_and_by_how_much(
    measure: Measure, value: int, aim: int, met: bool, words: str
) -> None:
    found = judge_aim(value, aim, measure)
    assert (found.met, found.words) == (met, words)


def test_a_class_judges_itself_worked_by_hand() -> None:
    """Six children: off by 2, 0, 4, 10, 1 and 12, of which 3 explain nothing."""
    pairs = [(26, 24), (24, 24), (20, 24), (10, 20), (31, 30), (42, 30)]
    found = self_judgement(pairs, REPS, [3.0] * 6)
    assert (found.said, found.met, found.within) == (6, 4, 3)
    assert (found.off, found.too_high, found.too_low) == (Fraction(3), 2, 1)
    assert judgement_words(found, REPS) == (
        "4 of 6 met their target. Half of them were within 3. "
        "3 were as close as day-to-day variation allows. 2 children set the target too high. "
        "1 child could have set a higher target."
    )
    assert judgement_words(self_judgement([], REPS, []), REPS) == ""
    alone = self_judgement([(10, 20)], REPS, [3.0])
    assert judgement_words(alone, REPS) == (
        "0 of 1 met their target. Nobody was as close as day-to-day variation allows. "
        "1 child set the target too high."
    )
    # The middle of 100 and 200 ms lies between what the watch shows: no more than 0.2 s.
    pairs = [(9_900, 10_000), (9_800, 10_000)]
    assert judgement_words(self_judgement(pairs, RACE, [50.0, 50.0]), RACE) == (
        "2 of 2 met their target. Half of them were within 0.2 s. "
        "Nobody was as close as day-to-day variation allows. "
        "2 children could have set a higher target."
    )


@given(st.lists(st.tuples(st.integers(0, 200), st.integers(0, 200)), max_size=40))
def test_everybody_is_counted_once(pairs: list[tuple[int, int]]) -> None:
    found = self_judgement(pairs, REPS, [4.0] * len(pairs))
    assert found.within + found.too_high + found.too_low == found.said == len(pairs)
    assert found.met == sum(value >= aim for value, aim in pairs)


@pytest.mark.parametrize(
    ("total", "missing", "met", "words"),
    [
        (240, 3, True, "met: 240 together, exactly on target"),
        (241, 0, True, "met: 241 together, 1 above the target"),
        (239, 1, None, "239 so far, 1 to go, 1 child still to come"),
        (200, 2, None, "200 so far, 40 to go, 2 children still to come"),
        (239, 0, False, "239 together, 1 short of the target"),
    ],
)
def test_what_a_group_said_is_held_against_its_sum(
    total: int, missing: int, met: bool | None, words: str
) -> None:
    assert judge_together(total, 240, missing) == (met, words)


def test_a_group_says_a_whole_number() -> None:
    assert read_together(" 240 ") == 240
    for typed in ("", "0", "007", "2.5", "240~", "1000000", "\u0662\u0664\u0660"):
        with pytest.raises(ValueError, match="such as 240"):
            read_together(typed)
