"""A set: several challenges in one sitting against one rival, summed up for one child."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.catalogue.ready import READY, Ready
from lauf.rules.contests.sets import SetScore, name_in_seconds, protocol_in_seconds, sum_up


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


@pytest.mark.parametrize("seconds", [20, 45, 90])
@pytest.mark.parametrize(
    "ready",
    [one for one in READY if one.protocol["kind"] == "count" and one.protocol.get("seconds")],
    ids=lambda one: one.slug,
)
def test_a_test_against_another_clock_says_and_takes_what_is_of_that_clock(
    ready: Ready, seconds: int
) -> None:
    """Copied to 60 s a test kept "in 30 seconds", "after 30 s" and a most of 39: a true 40 was
    refused."""
    given = {"cap": None, "easier": "", "harder": "", "ends": "", **ready.protocol}
    given |= {field: given.get(field, []) for field in ("say", "counts", "does_not_count")}
    before = given["seconds"]
    made = protocol_in_seconds(given, before, seconds)
    said = " ".join(
        [*made["say"], *made["counts"], *made["does_not_count"], made["ends"], made["easier"],
         made["harder"]]
    )  # fmt: skip
    assert before == seconds or not re.search(rf"\b{before} ?s(econds?)?\b", said), said
    assert made["seconds"] == seconds
    assert made["trial_seconds"] >= seconds
    # As many a second as before can be done, and no test's own maximum is out of reach.
    assert made["highest"] * before >= given["highest"] * seconds
    assert made["highest"] >= (made["cap"] or 0)
