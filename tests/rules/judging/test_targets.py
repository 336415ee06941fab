"""Targets: a total of reps in so many minutes, and the next score to go for."""

from __future__ import annotations

from fractions import Fraction

import pytest

from lauf.rules.judging.targets import next_target, rep_target
from lauf.rules.reading.quantities import Better, Kind, Measure


def test_the_rep_target() -> None:
    """Common practice: a carry-in of 35 leaves 205 of 240; one burpee every other second is 30 in
    a minute; ten press-ups in a minute is one every 6 s; 18-12-6 of two movements is 72 reps."""
    begun = rep_target({}, [90, 160, 240], minutes=25, carried=35, carried_from="warm-up",
                       carries="warm-up")  # fmt: skip
    assert (begun.total, begun.rung, 240 - begun.total) == (35, None, 205)
    half = rep_target({"squats": 70, "dips": 50}, [90, 160, 240], minutes=25, elapsed=15)
    assert (half.total, half.rung, half.needed) == (120, 0, 40)
    assert (half.a_minute, half.projected) == (Fraction(40, 10), 200)
    assert rep_target({"burpees": 30}, [30], minutes=1).rung == 0
    assert 2 * (18 + 12 + 6) == 72
    with pytest.raises(ValueError, match="Only warm-up"):
        rep_target({}, [10], minutes=1, carried=4, carried_from="dips", carries="warm-up")
    with pytest.raises(ValueError, match="Only nothing"):
        rep_target({}, [10], minutes=1, carried=4)
    for reps, carried in (({"dips": -1}, 0), ({"dips": 0}, -1)):
        with pytest.raises(ValueError, match="cannot be negative"):
            rep_target(reps, [10], minutes=1, carried=carried, carried_from="a", carries="a")
    # Before the clock no pace is known; when it is over, none is needed any more.
    fresh = rep_target({"dips": 0}, [10], minutes=2)
    assert (fresh.projected, fresh.a_minute, fresh.needed) == (None, 5, 10)
    over = rep_target({"dips": 9}, [10], minutes=2, elapsed=2)
    assert (over.a_minute, over.projected, over.needed) == (None, 9, 1)
    last = rep_target({"dips": 9}, [9, 10], minutes=2, elapsed=1)
    assert (last.rung, last.needed, last.a_minute, last.projected) == (0, 1, 1, 18)


COUNT = Measure(Kind.COUNT, highest=500)
CAPPED = Measure(Kind.COUNT, highest=500, cap=60)
SPRINT = Measure(Kind.TIME, Better.DOWN, "s", 100, 60_000)
HITS = Measure(Kind.HITS, highest=10, of=10)


@pytest.mark.parametrize(
    ("best", "rung", "band", "measure", "target"),
    [
        (18, 20, 6.0, COUNT, 20),  # the rung is nearer than own best + 3
        (18, 30, 6.0, COUNT, 21),
        (18, 19, 6.0, COUNT, 19),
        (18, 18, 6.0, COUNT, 21),  # a rung that is reached is no target
        (9_000, 8_900, 400.0, SPRINT, 8_900),
        (200, None, 900.0, SPRINT, None if SPRINT.lowest >= 200 else SPRINT.lowest),
        (18, None, 0.5, COUNT, 19),  # at least one step
        (59, None, 9.0, CAPPED, 60),  # never above the cap
        (60, None, 9.0, CAPPED, None),  # at the top
        (9, None, 9.0, HITS, 10),  # never above ten of ten
        (10, None, 9.0, HITS, None),
        (499, None, 9.0, COUNT, 500),
        (500, None, 9.0, COUNT, None),  # the most that is taken is no target of itself
        (12_000, 11_500, 1_500.0, SPRINT, 11_500),
        (12_000, 9_000, 1_500.0, SPRINT, 11_200),
    ],
)
def test_the_next_target(
    best: int, rung: int | None, band: float, measure: Measure, target: int | None
) -> None:
    assert next_target(best, rung, band, measure) == target
