"""Rival marks and retry windows."""

from __future__ import annotations

import pytest

from lauf.rules.contests.rivals import against_rival, group_mark, window_gain
from lauf.rules.judging.comparability import Key
from lauf.rules.reading.quantities import Better, Kind, Measure

COUNT = Measure(Kind.COUNT, highest=500)
SPRINT = Measure(Kind.TIME, Better.DOWN, "s", 10, 60_000)


def test_rivals_only_under_the_same_key() -> None:
    key, slow = Key("burpees", "", 30), Key("burpees", "", 60)
    assert against_rival(18, key, 15, key, COUNT, "Mx Ashgrove").words == "beat Mx Ashgrove by 3"
    assert against_rival(15, key, 15, key, COUNT, "Elm").ahead == 0
    assert against_rival(11_000, key, 10_500, key, SPRINT, "Elm").words == "0.5 s short of Elm"
    assert against_rival(18, key, 30, slow, COUNT, "Elm").ahead is None
    assert window_gain([14, 12, 19, 17], COUNT) == 5
    assert window_gain([12_400, 11_900], SPRINT) == 500


@pytest.mark.parametrize(
    ("value", "mark", "measure", "counts", "ahead", "beaten", "words"),
    [
        (18, 15, COUNT, False, 3, True, "beat Elm by 3"),
        (16, 15, COUNT, False, 1, True, "beat Elm by 1"),
        (15, 15, COUNT, False, 0, False, "level with Elm"),
        (14, 15, COUNT, False, -1, False, "1 short of Elm"),
        (15, 15, COUNT, True, 0, True, "reached Elm"),
        (16, 15, COUNT, True, 1, True, "passed Elm by 1"),
        (14, 15, COUNT, True, -1, False, "1 short of Elm"),
        (10_400, 10_500, SPRINT, False, 100, True, "beat Elm by 0.1 s"),
        (10_600, 10_500, SPRINT, True, -100, False, "0.1 s short of Elm"),
    ],
)
def test_a_mark_is_beaten_equalled_or_missed_by_how_much(
    value: int, mark: int, measure: Measure, counts: bool, ahead: int, beaten: bool, words: str
) -> None:
    key = Key("burpees", "", 30)
    found = against_rival(value, key, mark, key, measure, "Elm", level_counts=counts)
    assert (found.ahead, found.beaten, found.words) == (ahead, beaten, words)


def test_another_test_is_not_compared_and_it_says_with_whom() -> None:
    found = against_rival(18, Key("a", "", 30), 15, Key("a", "", 60), COUNT, "Elm")
    assert (found.ahead, found.beaten) == (None, False)
    assert found.words.startswith("not compared: ") and "Elm's score" in found.words


def test_a_group_has_a_mark_of_its_best_or_its_middle() -> None:
    """The middle of an even number lies between two scores: the group gets the better of them."""
    assert group_mark([18, 20, 25, 31, 24], COUNT, best=True) == 31
    assert group_mark([18, 20, 25, 31, 24], COUNT, best=False) == 24
    assert group_mark([18, 20, 25, 30, 24, 23], COUNT, best=False) == 24
    times = [11_000, 10_500, 12_300, 10_900, 13_000, 10_800]
    assert group_mark(times, SPRINT, best=True) == 10_500
    assert group_mark(times, SPRINT, best=False) == 10_950
    with pytest.raises(ValueError, match="5 scores"):
        group_mark([18, 20, 25, 31], COUNT, best=True)
    assert window_gain([], COUNT) is None
