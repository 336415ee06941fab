"""A class as a whole in one test."""

from __future__ import annotations

import re

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.judging.change import Change, Verdict
from lauf.rules.judging.summaries import mean_interval, mean_words, summarise_class
from lauf.rules.reading.quantities import Better, Kind, Measure
from tests.support import references

COUNT = Measure(Kind.COUNT, highest=500)
CAPPED = Measure(Kind.COUNT, highest=500, cap=60)
SPRINT = Measure(Kind.TIME, Better.DOWN, "s", 100, 60_000)
HITS = Measure(Kind.HITS, highest=10, of=10)
BOX = Measure(Kind.OFFSET, unit="cm", resolution=5, lowest=-400, highest=400)
JUMP = Measure(Kind.LENGTH, unit="cm", resolution=10, highest=4_000)


@pytest.mark.parametrize("n", [2, 5, 12, 31, 32, 60, 400])
def test_the_interval_of_a_mean_against_scipy(n: int) -> None:
    gains = [float((7 * i) % 11) for i in range(n)]
    expected = references.stats.t.interval(
        0.90, n - 1, loc=np.mean(gains), scale=references.stats.sem(gains)
    )
    assert mean_interval(gains) == pytest.approx(expected, rel=5e-4, abs=5e-4)


def test_a_test_that_does_not_fit_the_class() -> None:
    """Terwee et al. 2007: 15 % or more at an end."""
    many = summarise_class([60] * 3 + [40] * 17, [], CAPPED)
    assert many.at_top == 0.15 and "at the maximum" in (many.misfit or "")
    assert summarise_class([60] * 2 + [40] * 18, [], CAPPED).misfit is None
    assert "at zero" in (summarise_class([0, 5, 6, 0, 9], [], CAPPED).misfit or "")
    # Ten of ten ends a test as a cap does; nought on a reach box is the toes, not a floor.
    assert "at the maximum" in (summarise_class([10] * 3 + [4] * 7, [], HITS).misfit or "")
    assert summarise_class([0] * 9 + [20], [], BOX).misfit is None
    moved = [Change(Verdict.BETTER, 5), Change(Verdict.STEADY, 1), Change(Verdict.MOVED_UP)]
    summary = summarise_class([10, 20, 30], moved, COUNT)
    assert (summary.better, summary.steady, summary.lower, summary.mean_change) == (2, 1, 0, 3)


def changes(*gains: int) -> list[Change]:
    return [Change(Verdict.STEADY, gain) for gain in gains]


def test_a_class_that_gained_a_little_is_not_said_to_have_gained_more() -> None:
    """The mean of these ten is 1.5, its 90 % interval 0.1 to 2.9: rounded to whole reps it would
    read "+2 (0 to 3)", as if it held nought."""
    gains = [4, -2, 3, 1, 5, -1, 2, 0, 4, -1]
    summary = summarise_class([20] * 10, changes(*gains), COUNT)
    low, high = summary.change_interval or (0, 0)
    expected = references.stats.t.interval(
        0.90, 9, loc=np.mean(gains), scale=references.stats.sem(gains)
    )
    assert (low, high) == pytest.approx(expected, abs=1e-3)
    assert mean_words(summary, COUNT) == f"1.5 better (90 %: +{low:.1f} to +{high:.1f})"


def test_a_loss_is_a_loss_in_words() -> None:
    summary = summarise_class([20] * 4, changes(-2, -3, -1, -2), COUNT)
    assert (mean_words(summary, COUNT) or "").startswith("2 lower (90 %: −")
    assert mean_words(summarise_class([20], changes(0), COUNT), COUNT) == "no different on average"
    assert mean_words(summarise_class([20], [], COUNT), COUNT) is None


@given(
    st.lists(st.integers(-60, 60), min_size=2, max_size=30),
    st.sampled_from([COUNT, SPRINT, JUMP, HITS, BOX]),
)
def test_the_words_of_a_mean_never_mislead(gains: list[int], measure: Measure) -> None:
    """Whatever a class did: no "−0", no "+0", the sign of the mean, and an interval that reads as
    holding nought exactly when it does."""
    scaled = [gain * measure.resolution for gain in gains]
    summary = summarise_class([100] * len(gains), changes(*scaled), measure)
    words = mean_words(summary, measure) or ""
    assert not re.search(r"[+−]0(?![.\d])", words)
    if words.startswith("no different"):
        assert not words.startswith("no different on average better")
    else:
        assert (summary.mean_change or 0) > 0 or " lower" in words
        assert (summary.mean_change or 0) < 0 or " better" in words
    low, high = summary.change_interval or (0.0, 0.0)
    shown = [
        float(one.replace("−", "-")) for one in re.findall(r"[+−]?[\d.]+", words.split("%: ")[1])
    ]
    if low > 0 or high < 0:
        assert shown[0] * shown[1] > 0
    elif low < 0 < high:
        assert shown[0] < 0 < shown[1]
