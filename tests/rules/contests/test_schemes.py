"""An overall statement over several tests, where a school wants one: rungs to points, points to
words. The school states the scheme; every step of it is shown."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.contests.schemes import SchemeError, Standing, overall, read_scheme

SCHEME = {
    "below": 0, "points": [1, 2, 4], "words": [["0.5", "on the way"], ["2.5", "strong"]],
    "fewest": 2,
}  # fmt: skip


@pytest.mark.parametrize(
    ("rungs", "words", "working"),
    [
        ([0], "", []),  # too few
        ([], "", []),
        ([0, 1], "on the way", "(1 + 2) ÷ 2 = 1.5 points a test"),
        ([2, 1], "strong", "(4 + 2) ÷ 2 = 3 points a test"),
        ([2, 5], "strong", "(4 + 4) ÷ 2 = 4 points a test"),  # more rungs count as the last
        ([None, None, 0], "", "(0 + 0 + 1) ÷ 3 = 0.33 points a test"),
    ],
)
def test_an_overall_statement_shows_its_working(
    rungs: list[int | None], words: str, working: str | list[str]
) -> None:
    scheme = read_scheme(SCHEME)
    assert scheme is not None
    found = overall(scheme, [Standing("ABCD"[n], rung, "") for n, rung in enumerate(rungs)])
    assert found.words == words and bool(found.why_not) == (not words)
    if working:
        assert working in found.working
    else:
        assert found.working == () and found.mean is None


@given(st.lists(st.none() | st.integers(0, 4), min_size=2, max_size=9), st.data())
def test_a_test_left_out_never_counts_as_nought(rungs: list[int | None], data: Any) -> None:
    """The mean is of the tests that are there, and a rung more never lowers it."""
    scheme = read_scheme(SCHEME)
    assert scheme is not None
    standings = [Standing(str(n), rung, "r") for n, rung in enumerate(rungs)]
    mean = overall(scheme, standings).mean
    assert mean is not None
    given = [0 if rung is None else [1, 2, 4][min(rung, 2)] for rung in rungs]
    assert mean == Fraction(sum(given), len(given))
    place = data.draw(st.integers(0, len(rungs) - 1))
    rung = rungs[place]
    higher = list(standings)
    higher[place] = Standing(str(place), 0 if rung is None else rung + 1, "r")
    assert (overall(scheme, higher).mean or 0) >= mean


@pytest.mark.parametrize(
    "wrong",
    [
        {"points": []},
        {"points": [2, 1]},
        {"below": 3},
        {"points": [1, 101]},
        {"words": []},
        {"words": [["2", "a"], ["1", "b"]]},
        {"words": [["1", " "]]},
        {"fewest": 0},
    ],
)
def test_a_scheme_that_cannot_be_used_is_refused(wrong: dict[str, Any]) -> None:
    with pytest.raises(SchemeError):
        read_scheme({**SCHEME, **wrong})
    assert read_scheme({}) is None
