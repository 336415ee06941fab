"""Typical error, the day-to-day band, verdicts and bests."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from datetime import date, timedelta
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.judging.change import (
    Change,
    PairSum,
    Start,
    TypicalError,
    Verdict,
    band_steps,
    compare,
    noise_grows,
    pair_up,
    personal_best,
    probability_better,
    smallest_change,
    typical_error,
    verdict_words,
)
from lauf.rules.judging.explanation import change_working, target_working
from lauf.rules.judging.summaries import CHANCE, summarise_class
from lauf.rules.reading.kinds import format_difference
from lauf.rules.reading.quantities import Better, Kind, Measure, in_imperial
from tests.support import references

COUNT = Measure(Kind.COUNT, highest=500)
CAPPED = Measure(Kind.COUNT, highest=500, cap=60)
SPRINT = Measure(Kind.TIME, Better.DOWN, unit="s", resolution=100, highest=60_000)
JUMP = Measure(Kind.LENGTH, unit="cm", resolution=10, highest=4_000)
HITS = Measure(Kind.HITS, highest=10, of=10)
SIDES = Measure(Kind.SIDES, highest=2)
BOX = Measure(Kind.OFFSET, unit="cm", resolution=5, lowest=-400, highest=400)
WALL = Measure(Kind.OFFSET, unit="cm", resolution=10, lowest=-400, highest=0, cap=0)
#: Ten children tested twice within a fortnight.
FIRST = [12, 18, 7, 22, 15, 9, 25, 14, 11, 20]
SECOND = [14, 17, 9, 25, 14, 11, 24, 17, 11, 23]


def sums(*pairs: tuple[int, int]) -> PairSum:
    found = PairSum()
    for earlier, later in pairs:
        found = found.with_pair(earlier, later)
    return found


def test_typical_error_against_a_worked_example() -> None:
    """By hand. Differences 2, −1, 2, 3, −1, 2, −1, 3, 0, 3: their squares add up to 42. With ten
    pairs' worth of a starting value of 2: TE² = (10·4 + 42/2)/(10 + 10) = 61/20. Formula: a
    conjugate prior on the variance of the differences, which is 2·TE² (Hopkins 2000)."""
    found = sums(*zip(FIRST, SECOND, strict=True))
    assert (found.pairs, found.squares) == (10, 42)
    error = typical_error(found, 2.0, COUNT, share=False)
    assert error.value == pytest.approx(math.sqrt(61 / 20), abs=1e-12)
    # Weir 2005, J Strength Cond Res 19:231–240: MDC90 = SEM · 1.645 · √2.
    assert smallest_change(error.value) == pytest.approx(4.0629, abs=1e-4)
    assert error.source == "from 10 repeat tests in this school, combined with a starting value"


def test_typical_error_moves_by_weight_and_never_by_a_jump() -> None:
    """Without pairs it is the starting value, with very many the pairs' own; one pair more never
    moves it far."""
    assert typical_error(PairSum(), 2.0, COUNT, share=False).value == 2.0
    assert "starting value" in typical_error(PairSum(), 2.0, COUNT, share=False).source
    pairs = list(zip(FIRST, SECOND, strict=True)) * 300
    differences = np.subtract(SECOND * 300, FIRST * 300)
    own = math.sqrt(np.mean(np.square(differences)) / 2)
    found = typical_error(sums(*pairs), 3.0, COUNT, share=False).value
    assert found == pytest.approx(own, rel=0.01)
    before = PairSum()
    for pair in pairs[:40]:
        after = before.with_pair(*pair)
        steps = [typical_error(one, 2.0, COUNT, share=False).value for one in (before, after)]
        assert abs(steps[1] - steps[0]) < 0.15
        before = after


def test_the_interval_of_a_typical_error_against_scipy() -> None:
    """Of ν·TE²/χ² with ν = 10 + pairs; the cube root of Wilson & Hilferty is near enough."""
    for pairs in (0, 5, 40, 400):
        error = TypicalError(2.0, pairs)
        free = 10 + pairs
        exact = [2.0 * math.sqrt(free / references.stats.chi2.ppf(p, free)) for p in (0.95, 0.05)]
        assert error.interval == pytest.approx(exact, rel=2e-3)


def of_school(differences: Sequence[int]) -> float:
    """MDC90 after these differences, each weighed in as it comes."""
    start, found = Start(2.0, None, COUNT), PairSum()
    for difference in differences:
        found += start.pair(500, 500 + difference, found)
    return smallest_change(typical_error(found, 2.0, COUNT, share=False).value)


@given(
    st.lists(st.integers(-9, 9), min_size=20, max_size=200),
    st.integers(-499, 10_000),
    st.data(),
)
def test_one_outlier_moves_the_band_by_at_most_a_tenth(
    differences: list[int], slip: int, data: st.DataObject
) -> None:
    """From twenty pairs on, wherever among the last it comes (rules.md, section 5)."""
    at = data.draw(st.integers(20, len(differences)))
    with_it = of_school([*differences[:at], slip, *differences[at:]])
    assert with_it <= of_school(differences) * 1.1


@pytest.mark.parametrize("pairs", [200, 2_000])
@pytest.mark.parametrize("slips", [1, 5])
def test_slips_of_a_digit_hardly_move_the_band(pairs: int, slips: int) -> None:
    """Against SciPy's robust scale of the same differences (the median absolute deviation, made
    consistent for a normal distribution), which slips do not reach."""
    chance = np.random.default_rng(pairs + slips)
    clean = np.rint(chance.normal(0, 3 * math.sqrt(2), pairs)).astype(int)
    bad = clean.copy()
    bad[chance.choice(pairs, slips, replace=False)] += chance.choice([-450, 108, 900], slips)
    scale = references.stats.median_abs_deviation(bad, scale="normal") / math.sqrt(2)
    assert of_school(bad) == pytest.approx(smallest_change(scale), rel=0.15)
    assert of_school(bad) == pytest.approx(of_school(clean), rel=0.1)


def test_noise_that_grows_with_the_level_is_a_share_of_the_score() -> None:
    """Hopkins 2000: the typical error of the logarithms is the coefficient of variation."""
    mile = Measure(Kind.TIME, Better.DOWN, "s", 1000, 3_600_000, 240_000)
    pairs = [(600_000, 630_000), (900_000, 855_000), (720_000, 720_000)]
    found = sums(*pairs)
    logs = [math.log(later / earlier) for earlier, later in pairs]
    error = typical_error(found, 0.04, mile, share=True)
    expected = math.sqrt((10 * 0.04**2 + sum(d * d for d in logs) / 2) / 13)
    assert error.value == pytest.approx(expected)
    assert error.at(900_000) == pytest.approx(1.5 * error.at(600_000))
    assert noise_grows(mile) and not noise_grows(COUNT)


def test_no_noise_is_under_half_a_step() -> None:
    assert typical_error(sums((5, 5)), 0.01, COUNT, share=False).at(5) == 0.5
    assert typical_error(PairSum(), 0.001, JUMP, share=True).at(200) == 5


def test_pairs_are_neighbours_within_a_fortnight_and_used_once() -> None:
    start = date(2026, 9, 1)

    def pairs(*days: int, measure: Measure = COUNT) -> list[tuple[int, int]]:
        attempts = [(start + timedelta(days=day), day + 1) for day in days]
        return [(earlier - 1, later - 1) for _, earlier, later in pair_up(attempts, measure)]

    assert pairs(0, 14) == [(0, 14)]
    assert pairs(0, 15) == []
    # Three days running: one independent pair, not two that share the middle day.
    assert pairs(0, 7, 14) == [(0, 7)]
    assert pairs(0, 7, 14, 21) == [(0, 7), (14, 21)]
    assert pairs(0, 40, 45) == [(40, 45)]


@pytest.mark.parametrize(
    ("measure", "attempts", "counts"),
    [
        (CAPPED, (58, 60), False),
        (CAPPED, (60, 58), False),
        (CAPPED, (58, 59), True),
        (COUNT, (0, 3), False),
        (HITS, (10, 8), False),
        (HITS, (9, 8), True),
        # Zero on a reach box is the toes, not a floor.
        (BOX, (0, 20), True),
    ],
)
def test_pairs_at_an_end_of_the_test_say_nothing_of_noise(
    measure: Measure, attempts: tuple[int, int], counts: bool
) -> None:
    day = date(2026, 9, 1)
    found = pair_up([(day, attempts[0]), (day + timedelta(days=3), attempts[1])], measure)
    assert bool(found) is counts


def test_how_sure_a_change_is_against_scipy() -> None:
    assert probability_better(0, 2.0) == 0.5
    for gain in (-4, 1, 6):
        assert probability_better(gain, 2.0) == pytest.approx(
            references.stats.norm.cdf(gain, scale=2.0 * math.sqrt(2))
        )


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
        (20, 20, COUNT, Verdict.STEADY, "the same as last time"),
        (22, 20, COUNT, Verdict.STEADY, "steady, within ±2"),
        (23, 20, COUNT, Verdict.BETTER, "better, +3"),
        (17, 20, COUNT, Verdict.LOWER, "lower than last time, −3"),
        (60, 60, CAPPED, Verdict.AT_THE_TOP, "at the maximum of this test, which cannot show more"),
        (60, 52, CAPPED, Verdict.REACHED_THE_TOP, "reached the maximum, at least +8"),
        (52, 60, CAPPED, Verdict.LOWER, "lower than last time, −8"),
        # Ten of ten and both sides are the end of the test, as a cap is.
        (10, 7, HITS, Verdict.REACHED_THE_TOP, "reached the maximum, at least +3"),
        (10, 10, HITS, Verdict.AT_THE_TOP, "at the maximum of this test, which cannot show more"),
        (2, 2, SIDES, Verdict.AT_THE_TOP, "at the maximum of this test, which cannot show more"),
        (0, 0, WALL, Verdict.AT_THE_TOP, "at the maximum of this test, which cannot show more"),
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


INCHES = in_imperial(Measure(Kind.LENGTH, unit="cm", resolution=10, cap=400))
FEET = in_imperial(Measure(Kind.LENGTH, unit="m", cap=300))
LAPS = Measure(Kind.LAPS, unit="m")
MEASURES = st.sampled_from([COUNT, CAPPED, SPRINT, JUMP, HITS, BOX, WALL, INCHES, FEET, LAPS])


def test_a_small_difference_is_not_shown_as_none() -> None:
    """A millimetre is less than the one place shown of inches, feet, and metres run: "+0 in"."""
    assert verdict_words(compare(9_040, 9_000, LAPS, 20), LAPS) == "better, +0.04 m"
    assert verdict_words(compare(400, 399, INCHES, 2.9), INCHES).endswith("at least +0.04 in")
    assert verdict_words(compare(300, 299, FEET, 2.9), FEET).endswith("at least +0.003 ft")
    assert verdict_words(compare(251, 250, FEET, 2.9), FEET) == "steady, within ±0.01 ft"
    assert format_difference(0, INCHES) == "0 in"


@given(MEASURES, st.integers(-400, 400), st.integers(-400, 400), st.floats(0, 90))
def test_the_words_of_a_verdict_never_mislead(
    measure: Measure, value: int, earlier: int, mdc90: float
) -> None:
    """No "−0", no "+0 better", no loss called better, no plural fault; and what "within" says holds
    the change."""
    step = measure.resolution
    change = compare(value * step, earlier * step, measure, mdc90 * step)
    words = verdict_words(change, measure)
    assert not re.search(r"[+−±]0(?![.\d])", words), words
    assert not re.search(r"\b1 (shuttles|laps|children)\b", words)
    if words.startswith("better"):
        assert change.gain > 0
    if words.startswith("lower"):
        assert change.gain < 0
    if found := re.search(r"within ±([\d.]+)", words):
        shown = format_difference(abs(change.gain), measure)
        assert float(found[1]) >= float(re.sub(r"[^\d.]", "", shown))


COUNT = Measure(Kind.COUNT, highest=500)
SPRINT = Measure(Kind.TIME, Better.DOWN, "s", 100, 60_000)
JUMP = Measure(Kind.LENGTH, unit="cm", resolution=10, highest=4_000)


def test_as_many_arrows_come_by_chance_as_are_said_to() -> None:
    """Twenty thousand children who have not changed, each tested twice with its own noise."""
    chance = np.random.default_rng(11)
    error = 20.0
    mdc = smallest_change(error)
    fine = Measure(Kind.LENGTH, unit="cm", resolution=1, highest=40_000)
    true = 1_200
    one, two = (np.rint(true + chance.normal(0, error, 20_000)) for _ in range(2))
    arrows = sum(
        compare(int(b), int(a), fine, mdc).verdict in (Verdict.BETTER, Verdict.LOWER)
        for a, b in zip(one, two, strict=True)
    )
    assert arrows / len(one) == pytest.approx(CHANCE, abs=0.01)


@given(st.integers(0, 4_000), st.integers(0, 4_000), st.sampled_from([COUNT, JUMP, SPRINT]))
def test_the_arithmetic_of_a_change_adds_up_and_agrees_with_the_verdict(
    now: int, then: int, measure: Measure
) -> None:
    step = measure.resolution
    now, then = now // step * step, then // step * step
    error = typical_error(PairSum(), 3.0 * step, measure, share=False)
    change = compare(now, then, measure, smallest_change(error.at(then)))
    line = change_working(now, then, change, error, measure)
    first, second, difference = (
        Fraction(part.replace("−", "-"))
        for part in re.match(r"(\S+) − (\S+) = (\S+)\. ", line).groups()  # type: ignore[union-attr]
    )
    assert first - second == difference
    steady = change.verdict is Verdict.STEADY
    assert ("this is steady" in line) == steady and "−0;" not in line


def test_the_working_of_a_change_by_hand() -> None:
    """Worked on paper: 18 against 12 with a typical error of 2.1 reps."""
    error = typical_error(PairSum(), 2.1, COUNT, share=False)
    change = compare(18, 12, COUNT, smallest_change(error.at(12)))
    assert change_working(18, 12, change, error, COUNT) == (
        "18 − 12 = 6. Day-to-day variation is 1.645 × √2 × 2.1 = 4.89. 6 is as much or more, so "
        "this is a change"
    )
    assert target_working(18, 20, 4.9, COUNT) == (
        "own best 18 + 3 = 21. The next rung begins at 20. The nearer of the two counts"
    )
    sprint = Measure(Kind.TIME, Better.DOWN, "s", 100, 60_000)
    assert target_working(12_000, None, 1_500.0, sprint) == "own best 12 s − 0.8 s = 11.2 s"
    assert target_working(12_000, None, 1_600.0, sprint) == "own best 12 s − 0.8 s = 11.2 s"
    assert target_working(12_000, None, 10.0, sprint) == "own best 12 s − 0.1 s = 11.9 s"
    ten = Measure(Kind.HITS, highest=10, of=10)
    assert target_working(9, None, 9.0, ten) == "own best 9/10 + 5 = 10/10, the maximum"
    # What a test takes ends a step as in the target itself.
    assert target_working(499, None, 9.0, COUNT) == "own best 499 + 5 = 500, the end of the test"
    assert target_working(300, None, 900.0, sprint) == (
        "own best 0.3 s − 0.5 s = 0 s, the end of the test"
    )


COUNT = Measure(Kind.COUNT, highest=500)


def changes(*gains: int) -> list[Change]:
    return [Change(Verdict.STEADY, gain) for gain in gains]


def test_how_many_arrows_chance_alone_gives() -> None:
    """90 % bands: one in ten of those who have not changed (by the definition of the interval)."""
    compared = changes(*[0] * 28)
    assert summarise_class([20] * 28, compared, COUNT).chance_arrows == pytest.approx(2.8)
    assert summarise_class([20], [Change(Verdict.MOVED_UP)], COUNT).chance_arrows == 0
