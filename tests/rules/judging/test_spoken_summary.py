"""What a class found, in sentences fit to be read aloud: of all together, never of one child, and
nothing of who went down."""

from __future__ import annotations

import re

from hypothesis import assume, given
from hypothesis import strategies as st

from lauf.rules.judging.spoken_summary import aloud


@given(
    st.integers(0, 34), st.integers(0, 34), st.integers(0, 34), st.integers(0, 34),
    st.lists(st.integers(0, 34), max_size=4),
)  # fmt: skip
def test_what_is_read_aloud_names_nobody_nothing_lower_and_counts_rightly(
    children: int, took: int, better: int, bests: int, rungs: list[int]
) -> None:
    assume(took <= children and max(better, bests, *rungs, 0) <= took)
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
