"""How long a test takes a class, in which order tests go, and what a plan should be told."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.blocks import BlockKind
from lauf.rules.planning.demands import HARD, EffortLevel
from lauf.rules.planning.plan import (
    Budget,
    Kit,
    PlanItem,
    Planned,
    Rank,
    check_plan,
    class_seconds,
    fit_to_time,
    in_good_order,
    kit_list,
    rank,
    same_load,
    time_budget,
    waves_needed,
)

#: 30 children, 6 tests, 2 mats: worked out by hand below.
DAY = (
    Planned("height", 60, 25, 5, at_once=1, family="growth", effort="rest"),
    Planned("reach", 60, 20, 10, at_once=1, sets=2, family="reach", effort="low"),
    Planned("long jump", 60, 20, 20, tries=3, at_once=1, sets=2, family="distance",
            effort="maximal", loads=("legs",)),
    Planned("press-ups", 60, 70, 20, waves=2, family="timed_reps", effort="maximal",
            loads=("push", "core")),
    Planned("plank", 60, 130, 20, waves=2, family="hold", loads=("core",)),
    Planned("shuttles", 120, 200, 30, waves=2, family="laps", loads=("legs", "aerobic")),
)  # fmt: skip


def test_the_time_of_six_tests_by_hand() -> None:
    """height: 30 × 30 + 60 = 960; reach: 15 × 30 + 60 = 510; jump: 15 waves × 3 tries × 40 + 60 =
    1860; press-ups: 2 × 90 + 60 = 240; plank: 2 × 150 + 60 = 360; shuttles: 2 × 230 + 120 = 580."""
    budget = time_budget(DAY, 30)
    assert budget.seconds == (960, 510, 1860, 240, 360, 580)
    assert budget.total == 4510
    # The jump is the bottleneck; a third mat makes 10 waves of the 15: 5 × 3 × 40 s less.
    assert budget.bottleneck == 2
    assert budget.one_more_saves == 600
    assert [waves_needed(test, 29) for test in DAY] == [29, 15, 15, 2, 2, 2]
    assert time_budget((), 30) == Budget((), 0, None, 0)
    # Where partners take turns, kit makes nothing faster.
    assert time_budget(DAY[3:], 30).one_more_saves == 0


@given(st.integers(1, 60), st.integers(1, 6), st.integers(1, 4))
def test_more_kit_never_takes_longer(children: int, sets: int, at_once: int) -> None:
    one = Planned("a", 10, 30, 5, at_once=at_once, sets=sets)
    more = Planned("a", 10, 30, 5, at_once=at_once, sets=sets + 1)
    assert class_seconds(more, children) <= class_seconds(one, children)


def test_the_order_of_tests() -> None:
    """NSCA Essentials of Strength Training and Conditioning, 4th ed. (order from memory)."""
    assert [rank(test) for test in DAY] == [
        Rank.REST, Rank.FLEXIBILITY, Rank.AGILITY, Rank.ENDURANCE, Rank.STRENGTH, Rank.AEROBIC,
    ]  # fmt: skip
    assert [DAY[index].name for index in in_good_order(DAY)] == [
        "height", "reach", "long jump", "plank", "press-ups", "shuttles",
    ]  # fmt: skip


@given(st.permutations(DAY))
def test_a_good_order_is_one_whatever_it_was_before(tests: list[Planned]) -> None:
    found = in_good_order(tests)
    assert sorted(found) == list(range(len(tests)))
    ranks = [rank(tests[index]) for index in found]
    assert ranks == sorted(ranks)


def test_neighbours_that_tire_the_same_part() -> None:
    press, plank, jump = DAY[3], DAY[4], DAY[2]
    assert same_load(press, plank) == {"core"}
    assert same_load(jump, press) == set()
    burpees = Planned("burpees", 60, 40, 20, loads=("whole body",))
    assert same_load(burpees, jump) == {"legs"}
    assert same_load(DAY[1], DAY[2]) == set(), "what is easy does not tire"


def test_a_plan_is_told_what_is_wrong_with_it() -> None:
    items = [
        PlanItem(BlockKind.TEST, "Shuttles", 600, DAY[5]),
        PlanItem(BlockKind.WARM_UP, "Warm-up", 300),
        PlanItem(BlockKind.TEST, "Plank", 400, DAY[4]),
        PlanItem(BlockKind.TEST, "Press-ups", 300, DAY[3]),
    ]
    found = check_plan(items, lesson_seconds=1200, age=8, notes=2)
    assert [(one.code, one.block) for one in found] == [
        ("too_long", -1), ("notes", -1), ("cold", 0), ("order", 2), ("same_load", 3),
        ("no_cool_down", -1),
    ]  # fmt: skip
    assert "7 min longer" in found[0].words
    good = [
        PlanItem(BlockKind.WARM_UP, "Warm-up", 300),
        PlanItem(BlockKind.TEST, "Long jump", 300, DAY[2]),
        PlanItem(BlockKind.COOL_DOWN, "Cool-down", 120),
    ]
    assert check_plan(good, lesson_seconds=1200, age=8, notes=0) == []
    old = Planned("run", 0, 60, 0, ages=(9, 11))
    late = [*good, PlanItem(BlockKind.TEST, "Run", 60, old)]
    young = check_plan(late, lesson_seconds=1200, age=6, notes=0)
    assert "suits ages 9 to 11" in " ".join(one.words for one in young)


@pytest.mark.parametrize("kind", [kind for kind in BlockKind if kind is not BlockKind.TEST])
def test_what_works_asks_for_a_warm_up_first(kind: BlockKind) -> None:
    """Common practice: nothing with effort on cold muscles."""
    warm = [PlanItem(BlockKind.WARM_UP, "Warm-up", 60), PlanItem(kind, "Work", 60)]
    cold = {one.code for one in check_plan(warm[1:], lesson_seconds=900, age=8, notes=0)}
    hard = kind in (BlockKind.INTERVALS, BlockKind.REP_TARGET, BlockKind.STATIONS)
    assert ("cold" in cold) == hard == BLOCK_KINDS[kind].works
    assert "cold" not in {one.code for one in check_plan(warm, lesson_seconds=900, age=8, notes=0)}


@pytest.mark.parametrize("effort", list(EffortLevel))
def test_a_hard_test_asks_for_a_warm_up_and_a_cool_down(effort: EffortLevel) -> None:
    test = Planned("Run", 0, 60, 0, effort=effort)
    items = [PlanItem(BlockKind.TEST, "Run", 60, test)]
    found = {one.code for one in check_plan(items, lesson_seconds=900, age=8, notes=0)}
    assert found == ({"cold", "no_cool_down"} if effort in HARD else set())


def test_kit_for_a_class_is_the_most_that_one_test_needs() -> None:
    mats = Planned("a", 0, 1, 0, kit=(Kit("mat", 1, "pair"), Kit("cone", 2, "group")))
    more = Planned("b", 0, 1, 0, kit=(Kit("mat", 1, "group"), Kit("rope", 1, "child")))
    assert kit_list((mats, more), 29) == {"cone": 10, "mat": 15, "rope": 29}


@given(
    st.lists(st.tuples(st.integers(0, 900), st.integers(0, 900)), min_size=1, max_size=9),
    st.integers(0, 4000),
)
def test_fitting_gives_each_block_at_least_its_least(
    blocks: list[tuple[int, int]], available: int
) -> None:
    seconds = [max(pair) for pair in blocks]
    least = [min(pair) for pair in blocks]
    fitted = fit_to_time(seconds, least, available)
    if fitted is None:
        assert sum(least) > available
        return
    assert all(low <= now <= was for low, now, was in zip(least, fitted, seconds, strict=True))
    assert sum(fitted) == min(available, sum(seconds))


def test_what_a_plan_is_told_names_the_block_and_the_reason() -> None:
    """One of each, worked by hand: 21 min in a lesson of 20; the run first, on cold muscles, by a
    class too young for it; what tires less after what tires more, on the same legs."""
    run = Planned("run", 0, 60, 0, family="laps", ages=(7, 9), loads=("legs", "aerobic"))
    jump = Planned("jump", 0, 60, 0, family="distance", loads=("legs",))
    items = [
        PlanItem(BlockKind.INTERVALS, "Intervals", 60),
        PlanItem(BlockKind.TEST, "The run", 600, run),
        PlanItem(BlockKind.TEST, "The jump", 600, jump),
    ]
    found = {one.code: one for one in check_plan(items, lesson_seconds=1200, age=6, notes=1)}
    blocks = {"too_long": -1, "notes": -1, "age": 1, "order": 2, "same_load": 2,
              "no_cool_down": -1}  # fmt: skip
    assert {code: found[code].block for code in blocks} == blocks
    assert "1 min longer" in found["too_long"].words
    assert "One child" in found["notes"].words
    assert "The run suits ages 7 to 9" in found["age"].words and "about 6" in found["age"].words
    assert found["order"].words.startswith(
        "The jump (jumps, aim and agility) should come before run"
    )
    assert "The jump works the legs again" in found["same_load"].words
    assert "cool-down" in found["no_cool_down"].words
    cold = [one for one in check_plan(items, lesson_seconds=1200, age=6, notes=3)
            if one.code in ("cold", "notes")]  # fmt: skip
    assert [one.block for one in cold] == [-1, 0, 1, 2]
    assert "3 children" in cold[0].words
    assert "Intervals comes before any warm-up" in cold[1].words
    assert "The run needs high effort" in cold[2].words


@pytest.mark.parametrize(("age", "told"), [(6, True), (7, False), (9, False), (10, True)])
def test_the_ages_of_a_test_hold_to_their_ends(age: int, told: bool) -> None:
    run = Planned("run", 0, 60, 0, ages=(7, 9), effort=EffortLevel.LOW)
    found = check_plan([PlanItem(BlockKind.TEST, "Run", 60, run)], lesson_seconds=60, age=age,
                       notes=0)  # fmt: skip
    assert [one.code for one in found] == (["age"] if told else [])


def test_a_plan_that_just_fits_is_not_too_long() -> None:
    items = [PlanItem(BlockKind.COOL_DOWN, "End", 600)]
    assert check_plan(items, lesson_seconds=600, age=8, notes=0) == []
    (told,) = check_plan(items, lesson_seconds=480, age=8, notes=0)
    assert "2 min longer" in told.words


def test_two_parts_that_tire_again_are_both_named() -> None:
    one = Planned("one", 0, 60, 0, family="total", loads=("legs", "core"))
    two = Planned("two", 0, 60, 0, family="total", loads=("core", "legs"))
    items = [PlanItem(BlockKind.TEST, test.name, 60, test) for test in (one, two)]
    words = [w.words for w in check_plan(items, lesson_seconds=900, age=8, notes=0)
             if w.code in ("same_load", "order")]  # fmt: skip
    assert words == ["two works the core and legs again."], "equals are in any order"


@pytest.mark.parametrize(
    ("children", "of", "each", "needed"),
    [(29, "child", 1, 29), (29, "pair", 1, 15), (28, "pair", 1, 14), (29, "group", 2, 10),
     (30, "group", 1, 5), (29, "class", 1, 1), (29, "pair", 0.5, 8), (7, "group", 1, 2)],
)  # fmt: skip
def test_kit_is_rounded_up_to_whole_pieces(
    children: int, of: str, each: float, needed: int
) -> None:
    found = Kit("mat", each, of).needed(children)
    assert (found, type(found)) == (needed, int)
