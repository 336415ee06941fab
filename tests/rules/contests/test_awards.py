"""What a certificate may be given for: by stated rules, proposed, and confirmed by a teacher."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.contests.awards import IMPROVERS, Award, Fact, awards
from lauf.rules.judging.change import Verdict


def fact(test: str = "A", verdict: Verdict = Verdict.STEADY, **more: Any) -> Fact:
    known: dict[str, Any] = {
        "shown": "12", "scores": 1, "best": False, "gain_in_te": None, "new_rung": "",
    }  # fmt: skip
    return Fact(test=test, verdict=verdict, **{**known, **more})


@pytest.mark.parametrize(
    ("facts", "tests", "given"),
    [
        ([], 2, []),
        ([fact(verdict=Verdict.BETTER, best=True)], 2, [Award.NEW_BEST]),
        ([fact(best=True)], 2, []),  # a best within a good day is none
        ([fact(new_rung="Far line")], 2, [Award.RUNG]),
        ([fact(), fact("B")], 2, [Award.ALL_TESTS]),
        ([fact()], 1, []),  # one test is no "all"
        ([fact(scores=3)], 2, [Award.KEPT_TRYING]),
        ([fact(scores=3, verdict=Verdict.BETTER)], 2, []),
    ],
)
def test_what_a_certificate_is_proposed_for(
    facts: list[Fact], tests: int, given: list[Award]
) -> None:
    found = awards({"child": facts}, tests).get("child", [])
    assert [one.award for one in found] == given


@given(st.lists(st.floats(0, 9, allow_nan=False), min_size=1, max_size=12))
def test_the_improvers_are_the_largest_changes_beyond_noise_and_nobody_level_is_left_out(
    gains: list[float],
) -> None:
    facts = {
        n: [fact(verdict=Verdict.BETTER if gain else Verdict.STEADY, gain_in_te=gain)]
        for n, gain in enumerate(gains)
    }
    found = awards(facts, 5)
    chosen = {n for n, given in found.items() if any(g.award is Award.IMPROVER for g in given)}
    real = sorted((gain for gain in gains if gain > 0), reverse=True)
    least = real[min(IMPROVERS, len(real)) - 1] if real else 0
    assert chosen == {n for n, gain in enumerate(gains) if gain > 0 and gain >= least}
