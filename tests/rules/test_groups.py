"""Trends, targets, and the arrays that judge whole schools."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats

from lauf.rules.batch import VERDICTS, percentiles_of, rungs_reached, thresholds, verdicts
from lauf.rules.change import Change, Verdict, compare
from lauf.rules.comparability import Key
from lauf.rules.groups import mean_interval, next_target, summarise_class, trend
from lauf.rules.ladders import Ladder, Rung, judge_comparable
from lauf.rules.norms import standing_among
from lauf.rules.quantities import Better, Kind, Measure

COUNT = Measure(Kind.COUNT, highest=500)
CAPPED = Measure(Kind.COUNT, highest=500, cap=60)
SPRINT = Measure(Kind.TIME, Better.DOWN, "s", 100, 60_000)


@given(
    st.lists(
        st.tuples(st.integers(0, 400), st.integers(0, 60)), min_size=4, max_size=12,
        unique_by=lambda point: point[0],
    )
)  # fmt: skip
def test_trend_against_scipy(points: list[tuple[int, int]]) -> None:
    days, values = zip(*sorted(points), strict=True)
    found = trend(list(zip(days, values, strict=True)))
    assert found is not None
    assert found.slope == pytest.approx(7 * stats.theilslopes(values, days).slope)
    tau = stats.kendalltau(days, values).statistic
    assert found.tau == pytest.approx(0 if np.isnan(tau) else tau)


def test_a_trend_needs_four_attempts() -> None:
    assert trend([(0, 1.0), (7, 2.0), (14, 3.0)]) is None


@pytest.mark.parametrize("n", [2, 5, 12, 31, 32, 60, 400])
def test_the_interval_of_a_mean_against_scipy(n: int) -> None:
    gains = [float((7 * i) % 11) for i in range(n)]
    expected = stats.t.interval(0.90, n - 1, loc=np.mean(gains), scale=stats.sem(gains))
    assert mean_interval(gains) == pytest.approx(expected, rel=5e-4, abs=5e-4)


def test_a_test_that_does_not_fit_the_class() -> None:
    """Terwee et al. 2007: 15 % or more at an end."""
    many = summarise_class([60] * 3 + [40] * 17, [], CAPPED)
    assert many.at_cap == 0.15 and "maximum" in (many.misfit or "")
    assert summarise_class([60] * 2 + [40] * 18, [], CAPPED).misfit is None
    assert "nought" in (summarise_class([0, 5, 6, 0, 9], [], CAPPED).misfit or "")
    moved = [Change(Verdict.BETTER, 5), Change(Verdict.STEADY, 1), Change(Verdict.MOVED_UP)]
    summary = summarise_class([10, 20, 30], moved, COUNT)
    assert (summary.better, summary.steady, summary.lower, summary.mean_change) == (2, 1, 0, 3)


@pytest.mark.parametrize(
    ("best", "rung", "band", "measure", "target"),
    [
        (18, 20, 6.0, COUNT, 20),  # the rung is nearer than own best + 3
        (18, 30, 6.0, COUNT, 21),
        (18, None, 0.5, COUNT, 19),  # at least one step
        (59, None, 9.0, CAPPED, 60),  # never above the cap
        (60, None, 9.0, CAPPED, None),  # at the top
        (12_000, 11_500, 1_500.0, SPRINT, 11_500),
        (12_000, 9_000, 1_500.0, SPRINT, 11_200),
    ],
)
def test_the_next_target(
    best: int, rung: int | None, band: float, measure: Measure, target: int | None
) -> None:
    assert next_target(best, rung, band, measure) == target


@settings(max_examples=60)
@given(
    st.lists(st.integers(0, 60), min_size=1, max_size=5, unique=True),
    st.lists(st.booleans(), min_size=5, max_size=5),
    st.lists(st.integers(0, 65), min_size=1, max_size=20),
    st.sampled_from([COUNT, CAPPED, SPRINT]),
)
def test_arrays_judge_as_the_rules_do(
    marks: list[int], beyond: list[bool], values: list[int], measure: Measure
) -> None:
    step = measure.resolution
    ordered = sorted(marks, reverse=measure.better is Better.DOWN)
    rungs = [Rung(str(i), mark * step, beyond[i]) for i, mark in enumerate(ordered)]
    scores = np.array(values, dtype=np.int64) * step
    which = np.zeros(len(values), dtype=np.int64)
    table = thresholds([rungs, rungs[:1]], measure)
    reached, to_next = rungs_reached(scores, which, table, measure.better)
    ladder = Ladder(tuple(rungs), Key("t"))
    for value, rung, missing in zip(scores, reached, to_next, strict=True):
        judged = judge_comparable(int(value), ladder, measure)
        assert (judged.reached if judged.reached is not None else -1) == rung
        assert (judged.to_next if judged.to_next is not None else -1) == missing

    if len(ordered) >= 3:
        percents = tuple(np.linspace(5, 95, len(ordered)))
        norm = np.array([[mark * step for mark in ordered]], dtype=float)
        found = percentiles_of(scores, which, norm, percents, measure.better)
        for value, percentile in zip(scores, found, strict=True):
            one = standing_among(float(value), percents, norm[0].tolist(), measure.better)
            if one.percentile is None:
                assert np.isnan(percentile)
            else:
                assert percentile == pytest.approx(one.percentile, abs=1e-4)

    earlier = np.roll(scores, 1)
    has = np.arange(len(values)) % 4 != 0
    band = np.full(len(values), 2.5 * step)
    words = verdicts(scores, earlier, has, band, measure)
    for index, number in enumerate(words):
        before = int(earlier[index]) if has[index] else None
        expected = compare(int(scores[index]), before, measure, 2.5 * step).verdict
        assert VERDICTS[number] is expected
