"""What to try where a test does not fit a class."""

from __future__ import annotations

import pytest

from lauf.rules.judging.suggestions import Form, what_to_try


@pytest.mark.parametrize(
    ("top", "floor", "forms", "others", "words"),
    [
        (0.1, 0.1, [], [], ""),
        (None, None, [], ["B"], ""),
        (0.15, 0.0, [Form("knees", 12), Form("full", 3)], ["B"], "try the form “full”"),
        (0.15, 0.0, [Form("knees", 3), Form("full", 12)], ["B"], "try B"),
        (0.5, None, [], ["B", "C"], "try B"),
        (0.5, None, [], [], "try a higher maximum or a longer clock"),
        (0.0, 0.2, [Form("knees", 2), Form("full", 9)], [], "try the form “knees”"),
        (None, 0.2, [Form("knees", 9), Form("full", 2)], [], "try an easier movement first"),
        (None, 0.2, [], ["B"], "try an easier movement first"),
    ],
)
def test_what_to_try_where_a_test_does_not_fit(
    top: float | None, floor: float | None, forms: list[Form], others: list[str], words: str
) -> None:
    assert what_to_try(top, floor, forms, others) == words
