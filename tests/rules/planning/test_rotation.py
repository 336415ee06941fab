"""Groups over stations: who is where in which round; and how groups are made."""

from __future__ import annotations

from itertools import combinations, pairwise, permutations, product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.planning.rotation import Station, balanced_groups, random_groups, rotate


def fewest_by_brute_force(stations: list[Station], groups: int, rounds: int) -> int | None:
    """Every table there is: one path a group, no station over its capacity in any round."""
    n = len(stations)
    clash = [[bool(a.loads & b.loads) for b in stations] for a in stations]
    best = None
    for paths in product(permutations(range(n), rounds), repeat=groups):
        full = any(
            [path[turn] for path in paths].count(one) > stations[one].capacity
            for turn in range(rounds)
            for one in range(n)
        )
        if full:
            continue
        cost = sum(clash[a][b] for path in paths for a, b in pairwise(path))
        best = cost if best is None else min(best, cost)
    return best


LOADS = st.frozensets(st.sampled_from(["legs", "core", "push"]), max_size=2)
STATIONS = st.lists(
    st.builds(Station, name=st.just("s"), loads=LOADS, capacity=st.integers(1, 2)),
    min_size=1,
    max_size=4,
)


@given(STATIONS, st.integers(1, 3), st.integers(1, 3))
def test_the_rotation_is_the_best_there_is(
    stations: list[Station], groups: int, rounds: int
) -> None:
    best = None
    if rounds <= len(stations):
        best = fewest_by_brute_force(stations, groups, rounds)
    if best is None:
        with pytest.raises(ValueError, match=r"round|place|station"):
            rotate(stations, groups, rounds)
        return
    made = rotate(stations, groups, rounds)
    assert (made.same_load, made.proved) == (best, True)
    assert any("twice running" in words for words in made.gave_up) == (best > 0)


@given(
    st.lists(st.builds(Station, name=st.just("s"), loads=LOADS), min_size=1, max_size=8),
    st.data(),
)
def test_nobody_is_in_two_places_and_no_station_is_over_full(
    stations: list[Station], data: st.DataObject
) -> None:
    groups = data.draw(st.integers(1, len(stations)))
    rounds = data.draw(st.integers(1, len(stations)))
    made = rotate(stations, groups, rounds)
    assert len(made.rounds) == rounds
    for turn in made.rounds:
        assert len(turn) == groups and len(set(turn)) == groups
    for group in range(groups):
        been = [turn[group] for turn in made.rounds]
        assert len(set(been)) == rounds


@given(st.integers(1, 34), st.integers(1, 8), st.integers(0, 99))
def test_groups_take_everybody_once_and_are_even(children: int, groups: int, seed: int) -> None:
    names = list(range(children))
    for made in (
        random_groups(names, groups, seed),
        balanced_groups([(name, float(name * 7 % 13)) for name in names], groups),
    ):
        assert sorted(child for group in made for child in group) == names
        sizes = [len(group) for group in made]
        assert max(sizes) - min(sizes) <= 1
    assert random_groups(names, groups, seed) == random_groups(names, groups, seed)


def test_balanced_groups_differ_little_in_strength() -> None:
    scores = [(n, float(n)) for n in range(28)]
    strengths = [sum(child for child in group) for group in balanced_groups(scores, 4)]
    assert max(strengths) - min(strengths) <= 4
    assert all(abs(a - b) <= 4 for a, b in combinations(strengths, 2)), (
        "dealt to and fro, not in blocks"
    )
