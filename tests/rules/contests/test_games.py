"""Games between schools: what may leave a school, and what it adds up to."""

from __future__ import annotations

from collections import Counter
from datetime import UTC, date, datetime, timedelta
from fractions import Fraction

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.contests.games import (
    FEWEST,
    AgeBand,
    Cell,
    Entrant,
    FileState,
    PointsRule,
    ResultFile,
    SchoolSums,
    band_table,
    cells,
    house_table,
    points_of,
    states,
    table,
)

ENTRANTS = st.lists(
    st.builds(
        lambda band, house, value: Entrant(
            (band, house), value is not None, value // 5 - 1 if (value or 0) >= 5 else None, value
        ),
        st.integers(0, 2),
        st.sampled_from(["", "Ash", "Oak", "Elm"]),
        st.none() | st.integers(0, 19),
    ),
    max_size=70,
)  # fmt: skip


@given(ENTRANTS)
def test_nobody_is_in_a_sum_of_fewer_than_five_and_nobody_is_counted_twice(
    entrants: list[Entrant],
) -> None:
    made = cells(entrants, 3)
    parts = [part for cell in made for part in cell.parts]
    assert len(set(parts)) == len(parts)
    for cell in made:
        inside = [one for one in entrants if one.part in cell.parts]
        scored = [one for one in inside if one.took_part]
        assert cell.children == len(inside)
        assert cell.took_part == len(scored) >= FEWEST
        counts = Counter(one.rung for one in scored)
        assert cell.rungs == tuple(counts[rung] for rung in range(3))
        assert cell.quartiles is None or len(scored) >= FEWEST
    if sum(one.took_part for one in entrants) < FEWEST:
        assert made == ()
    else:
        assert set(parts) == {one.part for one in entrants}, "all, or merged with others"


@given(st.lists(st.integers(0, 3000), min_size=FEWEST, max_size=40))
def test_quartiles_are_those_of_the_reference(values: list[int]) -> None:
    """NumPy's default percentile is type 7 of Hyndman & Fan (1996)."""
    (cell,) = cells([Entrant((0, ""), True, None, value) for value in values], 0)
    assert cell.quartiles is not None
    expected = np.percentile(values, [25, 50, 75])
    assert all(abs(a - b) <= 0.5 for a, b in zip(cell.quartiles, expected, strict=True))


def test_small_groups_go_to_their_own_ages_first() -> None:
    def some(band: int, house: str, number: int) -> list[Entrant]:
        return [Entrant((band, house), True, 0, 7)] * number

    made = cells([*some(0, "Ash", 9), *some(0, "Oak", 3), *some(1, "Ash", 6), *some(1, "Oak", 4),
                  *some(2, "Ash", 2)], 1)  # fmt: skip
    assert {cell.parts: cell.took_part for cell in made} == {
        # Three of the youngest joined their own ages; two of the oldest, who have none, the
        # smallest group of those beside them.
        ((0, "Ash"), (0, "Oak")): 12,
        ((1, "Ash"),): 6,
        ((1, "Oak"), (2, "Ash")): 6,
    }


def cell(children: int, took_part: int, *rungs: int, band: int = 0, house: str = "Ash") -> Cell:
    return Cell(((band, house),), children, took_part, rungs)


def test_a_round_by_hand() -> None:
    """A school of 20 of whom 10 took part (4 on the first rung, 3 on the second): 10 + 4 + 3·2 = 20
    points, 1 a child. One of 200 of whom 50 did (20 and 10): 50 + 20 + 20 = 90, 0.45 a child: the
    small one leads. A third has as much as the first for each child and shares its place."""
    rule = PointsRule(1, 1)
    small = SchoolSums("Birch Lane", 20, 10, {"hops": (cell(20, 10, 4, 3),)})
    large = SchoolSums("Harbour", 200, 50, {"hops": (cell(200, 50, 20, 10),)})
    twin = SchoolSums("Quarry Hill", 40, 20, {"hops": (cell(40, 20, 8, 6),)})
    assert [points_of(one, rule) for one in (small, large, twin)] == [20, 90, 40]
    lines = table([large, twin, small], rule)
    assert [(one.place, one.name, one.a_child) for one in lines] == [
        (1, "Birch Lane", Fraction(1)), (1, "Quarry Hill", Fraction(1)),
        (3, "Harbour", Fraction(9, 20)),
    ]  # fmt: skip


def test_houses_and_ages_where_they_can_be_told_apart() -> None:
    rule = PointsRule(2, 1)
    mixed = Cell(((0, "Oak"), (1, "Oak")), 12, 6, (1, 1))
    together = Cell(((1, "Ash"), (1, "Elm")), 10, 5, (0, 0))
    school = SchoolSums("Harbour", 42, 20, {
        "hops": (cell(10, 5, 5, 0), mixed), "jump": (cell(10, 6, 0, 2), together),
    })  # fmt: skip
    houses = {one.name: (one.children, one.took_part, one.points) for one in
              house_table(school, rule)}  # fmt: skip
    assert houses == {
        "Ash": (20, 11, (10 + 5) + (12 + 4)), "Oak": (12, 6, 12 + 1 + 2),
        "houses together": (10, 5, 10),
    }  # fmt: skip
    assert band_table([school], rule, 0) == [("Harbour", 31, 20)]
    assert band_table([school], rule, 1) == [("Harbour", 10, 10)]


def test_a_band_holds_both_its_ends() -> None:
    band = AgeBand("Middle", 7, 9)
    assert [age for age in range(5, 12) if band.holds(age)] == [7, 8, 9]


CLOSES = date(2026, 6, 30)
FILES = st.lists(
    st.builds(
        lambda key, number, made, late, let_in: (key, number, made, late, let_in),
        st.sampled_from("abc"),
        st.integers(1, 4),
        st.integers(0, 3),
        st.integers(-2, 2),
        st.booleans(),
    ),
    max_size=14,
)


@given(FILES, st.sets(st.sampled_from("abc")), st.randoms(use_true_random=False))
def test_what_counts_does_not_hang_on_the_order_of_the_files(
    given_files: list[tuple[str, int, int, int, bool]], known: set[str], chance: object
) -> None:
    files = [
        ResultFile(
            at, key, number, datetime(2026, 6, 1, tzinfo=UTC) + timedelta(hours=made),
            CLOSES + timedelta(days=late), let_in,
        )
        for at, (key, number, made, late, let_in) in enumerate(given_files)
    ]  # fmt: skip
    found = states(files, CLOSES, known)
    shuffled = list(files)
    chance.shuffle(shuffled)  # type: ignore[attr-defined]
    again = states(shuffled, CLOSES, known)
    for key in "abc":
        mine = [one for one in files if one.key == key]
        counted = [one for one in mine if found[one.id] is FileState.COUNTS]
        assert len(counted) <= 1 and (key in known or not counted)
        in_time = [one for one in mine if one.came_on <= CLOSES or one.let_in]
        assert {one.id for one in mine if found[one.id] is FileState.LATE} == {
            one.id for one in mine if one not in in_time
        }
        if in_time:
            best = max((one.number, one.made_at) for one in in_time)
            heads = [one for one in in_time
                     if found[one.id] in (FileState.COUNTS, FileState.UNKNOWN)]  # fmt: skip
            assert [(one.number, one.made_at) for one in heads] == [best]
            (head,) = [one for one in in_time
                       if again[one.id] in (FileState.COUNTS, FileState.UNKNOWN)]  # fmt: skip
            assert (head.number, head.made_at) == best


def test_places_go_by_points_a_child_then_by_who_took_part_then_by_name() -> None:
    """Worked by hand: 2 a child, 1 a child of whom more took part, 1 a child twice, none at all."""
    rule = PointsRule(took_part=1, a_rung=1)

    def school(name: str, children: int, took_part: int, points: int) -> SchoolSums:
        held = Cell(((0, ""),), children, took_part, (points - took_part,))
        return SchoolSums(name, children, took_part, {"hops": (held,)})

    made = [
        school("Wharf", 10, 5, 10), school("Birch", 10, 5, 10), school("Elder", 10, 8, 10),
        school("Small", 5, 5, 10), SchoolSums("Nobody", 0, 0, {}), school("Large", 40, 20, 30),
    ]  # fmt: skip
    assert [(one.place, one.name) for one in table(made, rule)] == [
        (1, "Small"), (2, "Elder"), (3, "Birch"), (3, "Wharf"), (5, "Large"), (6, "Nobody"),
    ]  # fmt: skip


def test_children_of_no_house_have_a_line_of_their_own() -> None:
    held = Cell(((0, ""),), 6, 5, (1,))
    again = Cell(((1, ""),), 7, 6, (0,))
    school = SchoolSums("Harbour", 13, 11, {"hops": (held,), "jump": (again,)})
    (line,) = house_table(school, PointsRule(took_part=1, a_rung=2))
    assert (line.name, line.children, line.took_part, line.points) == ("no house", 13, 11, 13)
