"""The same judgements on arrays: for whole schools at once."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lauf.rules.judging.batch import VERDICTS, percentiles_of, rungs_reached, thresholds, verdicts
from lauf.rules.judging.change import compare
from lauf.rules.judging.comparability import Key
from lauf.rules.judging.ladders import Benchmark, Rung, judge_comparable
from lauf.rules.judging.norms import standing_among
from lauf.rules.reading.quantities import Better, Kind, Measure

COUNT = Measure(Kind.COUNT, highest=500)
CAPPED = Measure(Kind.COUNT, highest=500, cap=60)
SPRINT = Measure(Kind.TIME, Better.DOWN, "s", 100, 60_000)


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
    ladder = Benchmark(tuple(rungs), Key("t"))
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
