"""A set: several challenges in one sitting against one rival, summed up for one child."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.contests.sets import SetScore, name_in_seconds, sum_up


@given(
    st.lists(
        st.none()
        | st.builds(
            lambda ahead, rungs: SetScore(ahead, ahead > 0, rungs),
            st.integers(-9, 9),
            st.integers(0, 4),
        ),
        min_size=1,
        max_size=12,
    )
)
def test_a_set_is_beaten_level_short_or_not_done(scores: list[SetScore | None]) -> None:
    found = sum_up(scores)
    short = sum(one is not None and (one.ahead or 0) < 0 for one in scores)
    assert found.beaten + found.level + short == found.done == found.compared
    assert found.rungs == sum(one.rungs for one in scores if one)
    assert (found.words == "") is (found.done == 0)


def test_a_test_is_named_by_its_clock() -> None:
    assert name_in_seconds("Press-ups in 60 s", 20) == "Press-ups in 20 s"
    assert name_in_seconds("Sit-ups in 60 s, feet held", 30) == "Sit-ups in 30 s, feet held"
    assert name_in_seconds("Hops", 15) == "Hops in 15 s"
