"""Planning: time, order, loads, kit, rotations, groups, points; and what outside devices send."""

from __future__ import annotations

from fractions import Fraction
from itertools import combinations, pairwise, permutations, product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.block_kinds import BLOCK_KINDS
from lauf.rules.blocks import BlockKind
from lauf.rules.plan import (
    HARD,
    EffortLevel,
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
from lauf.rules.rotation import Station, balanced_groups, random_groups, rotate
from lauf.rules.sensors import (
    BeltReading,
    Passage,
    is_double,
    read_belt,
    read_passage,
    write_belt,
)
from lauf.rules.shuttle import (
    EVEN,
    JUMP,
    STAGES,
    beeps_ms,
    score_after,
    shuttle_table,
    shuttles_in_stage,
    stage_speed,
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
    assert time_budget((), 30).total == 0


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
        ("too long", -1), ("notes", -1), ("cold", 0), ("order", 2), ("same load", 3),
        ("no cool-down", -1),
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
    assert found == ({"cold", "no cool-down"} if effort in HARD else set())


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


# Rotations


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
    assert any("same load" in words for words in made.gave_up) == (best > 0)


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


# The staged run


@pytest.mark.parametrize("schedule", [EVEN, JUMP])
def test_beeps_come_from_the_speed_of_the_stage(schedule: str) -> None:
    """20 m at v km/h take 72/v s; both schedules as published (the second from memory)."""
    beeps = beeps_ms(schedule)
    assert len(beeps) == sum(shuttle_table(schedule))
    first = 72_000 / stage_speed(1, schedule)
    assert beeps[0] == round(first)
    at = 0
    for stage in range(1, STAGES + 1):
        ends = at + shuttles_in_stage(stage, schedule)
        begun = beeps[at - 1] if at else 0
        lasts = beeps[ends - 1] - begun
        assert lasts == pytest.approx(
            shuttles_in_stage(stage, schedule) * 72_000 / stage_speed(stage, schedule), abs=1
        )
        # About a minute a stage; in the second schedule it ends with the first shuttle after it.
        assert abs(lasts - 60_000) <= (4_500 if schedule == EVEN else 9_000)
        at = ends


@pytest.mark.parametrize(
    ("missed", "shuttles"),
    [([], 0), ([False] * 7, 7), ([False, True, False, False], 4), ([False, True, True], 1),
     ([False] * 5 + [True], 5)],
)  # fmt: skip
def test_one_miss_is_a_warning_and_the_second_in_a_row_ends_it(
    missed: list[bool], shuttles: int
) -> None:
    assert score_after(missed) == shuttles


# Outside devices


@pytest.mark.parametrize(
    ("data", "reading"),
    [
        # By hand from the Bluetooth SIG's Heart Rate Service 1.0, field by field.
        (bytes([0x00, 72]), BeltReading(72)),
        (bytes([0x01, 0x2C, 0x01]), BeltReading(300)),
        (bytes([0x06, 130]), BeltReading(130, contact=True)),
        (bytes([0x04, 130]), BeltReading(130, contact=False)),
        (bytes([0x08, 90, 0x10, 0x00]), BeltReading(90, energy_kj=16)),
        (
            bytes([0x10, 60, 0x00, 0x04, 0x00, 0x02]),
            BeltReading(60, intervals=(Fraction(1), Fraction(1, 2))),
        ),
    ],
)
def test_a_belts_message_field_by_field(data: bytes, reading: BeltReading) -> None:
    assert read_belt(data) == reading
    assert write_belt(reading) == data


@given(
    st.builds(
        BeltReading,
        bpm=st.integers(0, 65_535),
        contact=st.none() | st.booleans(),
        energy_kj=st.none() | st.integers(0, 65_535),
        intervals=st.lists(st.integers(0, 65_535).map(lambda n: Fraction(n, 1024)), max_size=9).map(
            tuple
        ),
    )
)
def test_what_a_belt_sends_is_read_back(reading: BeltReading) -> None:
    assert read_belt(write_belt(reading)) == reading


@given(st.binary(max_size=24))
def test_any_message_is_read_or_refused(data: bytes) -> None:
    try:
        read_belt(data)
    except ValueError as problem:
        assert "heart rate" in str(problem)


def test_passages_of_a_gate_and_those_sent_twice() -> None:
    first = read_passage("P,12,83250\n")
    assert first == Passage(12, 83_250)
    assert read_passage("P,?,9") == Passage(None, 9)
    assert is_double(Passage(12, 84_000), first)
    assert not is_double(Passage(12, 120_000), first)
    assert not is_double(Passage(13, 83_300), first)
    assert not is_double(first, None)
    for line in ("", "P,12", "P,12,83.2", "Q,12,83250"):
        with pytest.raises(ValueError, match="a passage is a line"):
            read_passage(line)
