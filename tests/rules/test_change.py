"""Typical error, the day-to-day band, verdicts and bests."""

from __future__ import annotations

import math
from datetime import date, timedelta

import numpy as np
import pandas as pd
import pingouin
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from lauf.rules.change import (
    Change,
    TypicalError,
    Verdict,
    band_steps,
    compare,
    pair_differences,
    personal_best,
    smallest_change,
    typical_error,
    verdict_words,
)
from lauf.rules.quantities import Better, Kind, Measure

COUNT = Measure(Kind.COUNT, highest=500)
CAPPED = Measure(Kind.COUNT, highest=500, cap=60)
SPRINT = Measure(Kind.TIME, Better.DOWN, unit="s", resolution=100, highest=60_000)
JUMP = Measure(Kind.LENGTH, unit="cm", resolution=10, highest=4_000)
#: Ten children tested twice within a fortnight.
FIRST = [12, 18, 7, 22, 15, 9, 25, 14, 11, 20]
SECOND = [14, 17, 9, 25, 14, 11, 24, 17, 11, 23]


def test_typical_error_against_a_worked_example() -> None:
    """By hand. Differences 2, −1, 2, 3, −1, 2, −1, 3, 0, 3: sum 12, mean 1.2, squares 42;
    variance (42 − 10·1.2²)/9 = 27.6/9; TE = √(27.6/9)/√2 = √(27.6/18) = 1.23828.
    Formula: Hopkins 2000, Sports Med 30:1–15."""
    differences = [b - a for a, b in zip(FIRST, SECOND, strict=True)]
    error = typical_error(differences, default=9.9)
    assert error.pairs == 10
    assert error.value == pytest.approx(math.sqrt(27.6 / 18), abs=1e-12)
    # Weir 2005, J Strength Cond Res 19:231–240: MDC90 = SEM · 1.645 · √2.
    assert smallest_change(error.value) == pytest.approx(2.88072, abs=5e-5)
    assert "10 repeat tests" in error.source


def test_typical_error_against_scipy() -> None:
    differences = np.subtract(SECOND, FIRST)
    expected = stats.tstd(differences) / math.sqrt(2)
    assert typical_error(differences.tolist(), 1.0).value == pytest.approx(expected)


def test_typical_error_against_pingouins_anova() -> None:
    """The typical error is the square root of the residual mean square of a two-way layout
    (Hopkins 2000; Weir 2005 calls it the SEM of the model ICC(3,1))."""
    long = pd.DataFrame(
        {
            "child": list(range(10)) * 2,
            "day": ["a"] * 10 + ["b"] * 10,
            "score": FIRST + SECOND,
        }
    )
    table = pingouin.rm_anova(
        data=long, dv="score", within="day", subject="child", detailed=True, effsize="np2"
    )
    residual = float(table.loc[table["Source"] == "Error", "MS"].iloc[0])
    differences = [b - a for a, b in zip(FIRST, SECOND, strict=True)]
    # The table is rounded to three places.
    assert typical_error(differences, 1.0).value == pytest.approx(math.sqrt(residual), rel=1e-3)


def test_under_ten_pairs_the_default_stands_and_says_so() -> None:
    error = typical_error([1, 2, 3] * 3, default=2.0)
    assert error == TypicalError(2.0, 0)
    assert "starting value" in error.source


def test_pairs_are_neighbours_within_a_fortnight_and_used_once() -> None:
    start = date(2026, 9, 1)

    def on(*days: int) -> list[tuple[date, int]]:
        return [(start + timedelta(days=day), day) for day in days]

    assert pair_differences([on(0, 14)]) == [14]
    assert pair_differences([on(0, 15)]) == []
    # Three days running: one independent pair, not two that share the middle day.
    assert pair_differences([on(0, 7, 14)]) == [7]
    assert pair_differences([on(0, 7, 14, 21), on(3), on(0, 40, 45)]) == [7, 7, 5]


@pytest.mark.parametrize(
    ("mdc90", "resolution", "steps"),
    [(2.88, 1, 2), (3.0, 1, 2), (3.01, 1, 3), (0.4, 1, 0), (1.0, 1, 0), (45.0, 10, 40)],
)
def test_within_n_names_the_largest_change_that_is_still_steady(
    mdc90: float, resolution: int, steps: int
) -> None:
    assert band_steps(mdc90, resolution) == steps


@pytest.mark.parametrize(
    ("value", "earlier", "measure", "verdict", "words"),
    [
        (20, None, COUNT, Verdict.FIRST, "first score"),
        (20, 20, COUNT, Verdict.STEADY, "steady, within ±2"),
        (22, 20, COUNT, Verdict.STEADY, "steady, within ±2"),
        (23, 20, COUNT, Verdict.BETTER, "better, +3"),
        (17, 20, COUNT, Verdict.LOWER, "lower than last time, −3"),
        (60, 60, CAPPED, Verdict.AT_THE_TOP, "at the top of this test: it cannot show more"),
        (60, 52, CAPPED, Verdict.REACHED_THE_TOP, "reached the top, at least +8"),
        (52, 60, CAPPED, Verdict.LOWER, "lower than last time, −8"),
    ],
)
def test_verdicts(
    value: int, earlier: int | None, measure: Measure, verdict: Verdict, words: str
) -> None:
    change = compare(value, earlier, measure, mdc90=2.88)
    assert change.verdict is verdict
    assert verdict_words(change, measure) == words


def test_in_a_race_less_is_better_and_said_so() -> None:
    change = compare(11_200, 12_000, SPRINT, mdc90=450.0)
    assert verdict_words(change, SPRINT) == "better, −0.8 s"
    slower = compare(12_000, 11_200, SPRINT, mdc90=450.0)
    assert verdict_words(slower, SPRINT) == "lower than last time, +0.8 s"
    assert verdict_words(compare(1300, 1270, JUMP, 60.0), JUMP) == "steady, within ±5 cm"


SCORES = st.integers(0, 400)


@given(SCORES, SCORES, st.floats(0, 50))
def test_a_verdict_does_not_flip_when_attempts_and_direction_both_swap(
    value: int, earlier: int, mdc90: float
) -> None:
    up = Measure(Kind.COUNT, Better.UP, highest=500)
    down = Measure(Kind.COUNT, Better.DOWN, highest=500)
    assert compare(value, earlier, up, mdc90) == compare(earlier, value, down, mdc90)


@given(SCORES, SCORES, st.floats(0.1, 50))
def test_swapping_the_attempts_alone_mirrors_the_verdict(
    value: int, earlier: int, mdc90: float
) -> None:
    there = compare(value, earlier, COUNT, mdc90)
    back = compare(earlier, value, COUNT, mdc90)
    mirrored = {Verdict.BETTER: Verdict.LOWER, Verdict.LOWER: Verdict.BETTER}
    assert back == Change(mirrored.get(there.verdict, there.verdict), -there.gain, mdc90)
    # What "steady, within ±n" says is exactly when the verdict is steady.
    assert (there.verdict is Verdict.STEADY) == (abs(there.gain) <= band_steps(mdc90, 1))


def test_the_best_is_measured_never_estimated() -> None:
    tried = [(20, False), (31, True), (24, False)]
    assert personal_best(tried, Better.UP) == 24
    assert personal_best(tried, Better.DOWN) == 20
    assert personal_best([(31, True)], Better.UP) is None
    assert personal_best([], Better.UP) is None
