"""When two scores may be compared at all."""

from __future__ import annotations

from lauf.rules.judging.comparability import COURSE, Key, as_metres, metres_run, why_not_comparable


def test_courses_of_other_lengths_are_compared_as_metres() -> None:
    """Common practice: 20 lengths of 4 m are as far as 16 of 5 m."""
    four = Key("shuttles", "", 30, conditions=((COURSE, 4000),))
    five = Key("shuttles", "", 30, conditions=((COURSE, 5000),))
    reason = why_not_comparable(four, five, "last time")
    assert reason == "last time has course length 5 m, this was 4 m"
    assert as_metres(four, five) and not as_metres(four, four)
    assert metres_run(20, four) == metres_run(16, five) == 80_000
    assert not as_metres(four, Key("shuttles", "", 60, conditions=((COURSE, 5000),)))
