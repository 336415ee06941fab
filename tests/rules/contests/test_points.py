"""Points of a challenge: each rule at most once, and why there is none."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.contests.points import Deeds, PointRule, missed_points, points_for
from lauf.rules.reading.quantities import Kind, Measure


def test_points_are_given_once_a_rule_with_their_reason() -> None:
    rules = dict.fromkeys(PointRule, 1) | {PointRule.BEAT_RIVAL: 3}
    done = Deeds((20, 24, 22), True, best_before=22, rung_before=1, rung_now=2, rival=23)
    assert [(one.rule.value, one.points) for one in points_for(done, rules)] == [
        ("took_part", 1), ("beat_own_best", 1), ("reached_rung", 1), ("beat_rival", 3),
    ]  # fmt: skip
    first = Deeds((20,), True, rival=20)
    assert [one.why for one in points_for(first, rules)] == ["took part"], "equal is not beaten"
    race = Deeds((540_000,), True, sign=-1, best_before=560_000, rival=530_000)
    assert [one.rule for one in points_for(race, rules)] == [
        PointRule.TOOK_PART, PointRule.BEAT_OWN_BEST,
    ]  # fmt: skip
    assert points_for(Deeds((), False), rules) == ()
    # Made better within the week: the best so far is the own best (rules.md, section 10).
    assert PointRule.BEAT_OWN_BEST in [one.rule for one in points_for(Deeds((24, 29), True), rules)]


REPS = Measure(Kind.COUNT, highest=500)


@pytest.mark.parametrize(
    ("done", "guess", "missed"),
    [
        (Deeds((), False), None, dict.fromkeys(PointRule, "no attempt in this period")),
        (
            Deeds((), True),
            29,
            dict.fromkeys(
                [PointRule.BEAT_OWN_BEST, PointRule.REACHED_RUNG, PointRule.BEAT_RIVAL],
                "29 ~ is an estimate",
            ),
        ),
        (
            Deeds((24,), True, rung_now=0, rival=20),
            29,
            {
                PointRule.BEAT_OWN_BEST: "24 is a first score, and 29 ~ is an estimate. "
                "Beat it with another attempt."
            },
        ),
        (
            Deeds((24,), True, best_before=29, rung_before=1, rung_now=1, rival=30),
            None,
            {
                PointRule.BEAT_OWN_BEST: "24, own best 29",
                PointRule.REACHED_RUNG: "no new rung",
                PointRule.BEAT_RIVAL: "6 short of the rival",
            },
        ),
        (
            Deeds((30, 26), True, rung_now=1, rival=30),
            None,
            {
                PointRule.BEAT_OWN_BEST: "26, own best 30",
                PointRule.BEAT_RIVAL: "level with the rival, which does not count as beaten",
            },
        ),
        (Deeds((20, 24), True, rung_now=0, rival=22), None, {}),
    ],
)
def test_every_point_that_is_not_given_says_why(
    done: Deeds, guess: int | None, missed: dict[PointRule, str]
) -> None:
    rules = dict.fromkeys(PointRule, 1)
    found = missed_points(done, rules, REPS, guess=guess)
    assert {one.rule: one.why for one in found} == missed


@given(
    st.lists(st.integers(0, 40), max_size=6), st.none() | st.integers(0, 40),
    st.none() | st.integers(0, 40), st.sampled_from([1, -1]),
)  # fmt: skip
def test_each_rule_gives_or_says_why_and_a_better_best_of_more_goes_beats_the_own(
    goes: list[int], before: int | None, rival: int | None, sign: int
) -> None:
    rules = dict.fromkeys(PointRule, 2)
    done = Deeds(tuple(goes), bool(goes), sign, best_before=before, rival=rival)
    given = {one.rule for one in points_for(done, rules)}
    why = {one.rule: one.why for one in missed_points(done, rules, REPS)}
    assert given.isdisjoint(why) and given | why.keys() == set(PointRule) and all(why.values())
    # By hand: some go is better than everything before it, and something was before it.
    made = [] if before is None else [before]
    beaten = False
    for go in goes:
        beaten |= bool(made) and go * sign > max(one * sign for one in made)
        made.append(go)
    assert (PointRule.BEAT_OWN_BEST in given) == beaten
