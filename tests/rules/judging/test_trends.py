"""Trends of one child over many weeks."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.judging.trends import trend
from tests.support import references


@given(
    st.lists(
        st.tuples(st.integers(0, 400), st.integers(0, 60)), min_size=5, max_size=14,
        unique_by=lambda point: point[0],
    )
)  # fmt: skip
def test_trend_against_scipy(points: list[tuple[int, int]]) -> None:
    days, values = zip(*sorted(points), strict=True)
    found = trend(list(zip(days, values, strict=True)))
    assert found is not None
    expected = references.stats.theilslopes(values, days, alpha=0.90)
    assert found.slope == pytest.approx(7 * expected.slope)
    if len(set(values)) > 1:
        assert found.low == pytest.approx(7 * expected.low_slope)
        assert found.high == pytest.approx(7 * expected.high_slope)
    tau = references.stats.kendalltau(days, values).statistic
    assert found.tau == pytest.approx(0 if np.isnan(tau) else tau)


def test_a_trend_needs_five_attempts_on_four_days() -> None:
    rising = [(0, 1.0), (7, 2.0), (14, 3.0), (21, 4.0), (28, 5.0)]
    assert trend(rising[:4]) is None
    assert trend([(0, 1.0), (0, 2.0), (7, 3.0), (7, 4.0), (14, 5.0)]) is None
    found = trend(rising)
    assert found is not None and found.clear and found.slope == 1


def test_a_trend_is_clear_only_when_its_interval_leaves_out_nought() -> None:
    found = trend([(0, 5.0), (7, 3.0), (14, 6.0), (21, 4.0), (28, 5.0)])
    assert found is not None and not found.clear and found.low < 0 < found.high
