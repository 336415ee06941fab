"""What a class found, in sentences fit to be read aloud: of all together, never of one child, and
nothing of who went down."""

from __future__ import annotations

import re

from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.judging.spoken_summary import aloud


@st.composite
def counts(draw: st.DrawFn) -> tuple[int, int, int, int, list[int]]:
    """Children, how many took part, were better, had a best, and reached each rung."""
    children = draw(st.integers(0, 34))
    took = draw(st.integers(0, children))
    some = st.integers(0, took)
    return children, took, draw(some), draw(some), draw(st.lists(some, max_size=4))


@given(counts())
def test_what_is_read_aloud_names_nobody_nothing_lower_and_counts_rightly(
    counted: tuple[int, int, int, int, list[int]],
) -> None:
    children, took, better, bests, rungs = counted
    named = [(f"rung {n}", count) for n, count in enumerate(sorted(rungs, reverse=True))]
    said = aloud(
        "Plank", took_part=took, children=children, better=better, bests=bests,
        together="", rungs=named,
    )  # fmt: skip
    assert bool(said) == (took > 0)
    for sentence in said:
        assert sentence[0].isupper() or sentence[0].isdigit()
        assert sentence.endswith(".") and "lower" not in sentence and "None of us" not in sentence
        assert not re.search(r"\bOne of us (have|were)\b|\b(Two|All) of us (has|was)\b", sentence)
    for _, count in named:
        if 2 * count >= took > 0:
            break
    else:
        assert not any("reached" in sentence for sentence in said)
