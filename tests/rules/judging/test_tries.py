"""Several tries of one test: which one counts."""

from __future__ import annotations

import pytest

from lauf.rules.judging.tries import Merge, Merged, Try, merge_tries
from lauf.rules.reading.quantities import Better, Kind, Measure

SPRINT = Measure(Kind.TIME, Better.DOWN, "s", 10, 60_000)


@pytest.mark.parametrize(
    ("how", "expected"),
    [
        (Merge.BEST, Merged(131, False, 3)),
        (Merge.LAST, Merged(120, True, 4)),
        (Merge.MEAN, Merged(123, True)),
        (Merge.SUM, Merged(369, True)),
    ],
)
def test_tries_become_one_score(how: Merge, expected: Merged) -> None:
    """A fall is void and jumped again: it counts in no merge."""
    tries = [Try(118), Try(None), Try(None), Try(131), Try(120, estimate=True)]
    assert merge_tries(tries, how, Better.UP) == expected
    assert merge_tries([Try(None)], how, Better.UP) is None


def test_the_best_of_times_is_the_shortest() -> None:
    tries = [Try(12_400), Try(11_900), Try(11_900, estimate=True), Try(12_000)]
    assert merge_tries(tries, Merge.BEST, SPRINT.better) == Merged(11_900, False, 1)
