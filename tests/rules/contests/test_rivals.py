"""Rival marks and retry windows."""

from __future__ import annotations

from lauf.rules.contests.rivals import against_rival, window_gain
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
