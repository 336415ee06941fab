"""Cues of a timed wave and of whole plans."""

from collections.abc import Sequence
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.planning.block_parts import Phase
from lauf.rules.planning.blocks import AnyBlock, BlockKind, TrialPlan
from lauf.rules.planning.efforts import read_efforts
from lauf.rules.planning.timeline import Cue, CueKind, Timeline, block_seconds, time_spent, timeline
from tests.support.plans import called


def one_go(seconds: int, ready: int = 10, **more: int | bool) -> Timeline:
    """A test of one wave on the clock."""
    trial = TrialPlan(seconds, get_ready=ready, **more)  # type: ignore[arg-type]
    return timeline([called(BlockKind.TEST, "Press-ups", trial)])


def test_a_minute_by_hand() -> None:
    wave = one_go(60)
    assert [(cue.at_ms, cue.say) for cue in wave.cues] == [
        (0, "Get ready: Press-ups"),
        (7_000, "3"),
        (8_000, "2"),
        (9_000, "1"),
        (10_000, "Go"),
        (40_000, "Half-way"),
        (65_000, "5"),
        (66_000, "4"),
        (67_000, "3"),
        (68_000, "2"),
        (69_000, "1"),
        (70_000, "Stop"),
    ]
    assert [(part.phase, part.to_ms) for part in wave.segments] == [
        (Phase.READY, 10_000), (Phase.WORK, 70_000), (Phase.SETTLE, 73_000),
    ]  # fmt: skip


@given(st.integers(1, 3600), st.integers(0, 120), st.integers(1, 3), st.booleans())
def test_every_go_is_called_lasts_what_it_says_and_waits_where_it_should(
    seconds: int, ready: int, waves: int, waits: bool
) -> None:
    made = one_go(seconds, ready, waves=waves, setup=30, waits=waits)
    kinds = [cue.kind for cue in made.cues]
    assert kinds.count(CueKind.GO) == kinds.count(CueKind.STOP) == waves
    ready_parts = [part for part in made.segments if part.phase is Phase.READY]
    # There is always room for the count of three.
    assert {part.to_ms - part.from_ms for part in ready_parts} == {max(3, ready) * 1000}
    assert [part.waits for part in ready_parts] == [waits] * waves
    assert not any(part.waits for part in made.segments if part.phase is not Phase.READY)
    works = [part.to_ms - part.from_ms for part in made.segments if part.phase is Phase.WORK]
    assert works == [seconds * 1000] * waves


def test_a_lesson_is_begun_by_starting_it_and_waits_after_what_nobody_clocks() -> None:
    go = called(BlockKind.TEST, "Press-ups", TrialPlan(60, waits=True))
    jump = called(BlockKind.TEST, "Jump", TrialPlan(None, waves=2, waits=True))
    water = called(BlockKind.WATER, "Water", seconds=60)
    made = timeline([go, jump, water, go])
    waiting = [(part.block, part.phase) for part in made.segments if part.waits]
    assert waiting == [(2, Phase.OPEN), (3, Phase.READY)]


OPEN = st.builds(
    called,
    kind=st.sampled_from(
        [BlockKind.BRIEFING, BlockKind.STRETCH, BlockKind.WATER, BlockKind.REPORT]
    ),
    label=st.just("Open"),
    seconds=st.integers(1, 900),
)
WARM_UP = st.builds(
    called,
    kind=st.just(BlockKind.WARM_UP),
    label=st.just("Warm-up"),
    levels=st.lists(
        st.tuples(st.integers(1, 4), st.integers(1, 60)).map(list), min_size=1, max_size=8
    ),
)
PULSE = st.builds(
    called,
    kind=st.just(BlockKind.PULSE),
    label=st.just("Pulse"),
    count_seconds=st.sampled_from([10, 15, 30, 60]),
    seconds=st.integers(0, 60),
    waits=st.booleans(),
)
TEST = st.builds(
    called,
    kind=st.just(BlockKind.TEST),
    label=st.just("Test"),
    test=st.builds(
        TrialPlan,
        seconds=st.none() | st.integers(1, 180),
        waves=st.integers(1, 4),
        tries=st.integers(1, 3),
        setup=st.integers(0, 120),
        trial=st.integers(1, 90),
        changeover=st.integers(0, 60),
    ),
)
EFFORTS = st.lists(st.tuples(st.integers(1, 90), st.integers(3, 60)), min_size=1, max_size=6).map(
    lambda found: "/".join(str(each) for effort in found for each in effort)
)
INTERVALS = st.builds(
    called,
    kind=st.just(BlockKind.INTERVALS),
    label=st.just("Intervals"),
    movements=st.lists(
        st.fixed_dictionaries({"name": st.sampled_from("ABC"), "efforts": EFFORTS}),
        min_size=1,
        max_size=4,
    ),
)
BEATS = st.builds(
    called,
    kind=st.just(BlockKind.BEATS),
    label=st.just("Squats"),
    seconds=st.integers(0, 300),
    bpm=st.integers(30, 240),
    every=st.integers(2, 8),
    calls=st.integers(1, 60),
)
TARGET = st.builds(
    called, kind=st.just(BlockKind.REP_TARGET), label=st.just("300"), seconds=st.integers(1, 1800)
)
STATIONS = st.builds(
    called,
    kind=st.just(BlockKind.STATIONS),
    label=st.just("Stations"),
    stations=st.just([{"name": name} for name in "abcd"]),
    work=st.integers(1, 120),
    change=st.integers(3, 60),
    rounds=st.integers(1, 4),
)
COOL_DOWN = st.builds(
    called,
    kind=st.just(BlockKind.COOL_DOWN),
    label=st.just("Cool-down"),
    steps=st.integers(0, 40),
    seconds=st.integers(1, 200),
)
PLANS = st.lists(
    st.one_of(OPEN, WARM_UP, PULSE, TEST, INTERVALS, BEATS, TARGET, STATIONS, COOL_DOWN),
    min_size=1,
    max_size=9,
)


@given(PLANS)
def test_every_plan_is_called_in_order_without_a_hole(plan: list[AnyBlock]) -> None:
    made = timeline(plan)
    times = [cue.at_ms for cue in made.cues]
    assert times == sorted(set(times)), "strictly in order"
    assert all(one.to_ms == following.from_ms for one, following in pairwise(made.segments)), (
        "contiguous"
    )
    assert made.segments[0].from_ms == 0
    assert made.segments[-1].to_ms == made.total_ms
    # The whole is the sum of its blocks, and each block is where it is said to be.
    assert made.total_ms == sum(block_seconds(block) for block in plan) * 1000
    # What is told of a block's time is all of it.
    for block in plan:
        assert sum(map(sum, time_spent(block).values())) == block_seconds(block)
    assert [end - begun for begun, end in made.blocks] == [
        block_seconds(block) * 1000 for block in plan
    ]
    for begun, end in made.blocks:
        inside = [cue for cue in made.cues if begun <= cue.at_ms < end]
        assert inside and inside[0].at_ms == begun, "a block opens with something said"
    worked = [(s.from_ms, s.to_ms) for s in made.segments if s.phase in (Phase.WORK, Phase.COUNT)]
    assert stops(made.cues) == worked


def stops(cues: Sequence[Cue]) -> list[tuple[int, int]]:
    """Each go and its stop: every go has one, and nothing else is begun between."""
    open_go: Cue | None = None
    pairs = {CueKind.GO: CueKind.STOP, CueKind.COUNT_PULSE: CueKind.STOP_COUNTING}
    found = []
    for cue in cues:
        if cue.kind in pairs:
            assert open_go is None
            open_go = cue
        elif open_go and cue.kind is pairs[open_go.kind]:
            found.append((open_go.at_ms, cue.at_ms))
            open_go = None
        elif open_go:
            assert cue.kind in (CueKind.HALF_WAY, CueKind.LAST, CueKind.BEAT)
    assert open_go is None
    return found


@pytest.mark.parametrize(
    ("typed", "calls"),
    [
        # By hand: 10 s to get ready, then work, rest, work.
        ("25/15/25", [("go", 10), ("stop", 35), ("go", 50), ("stop", 75)]),
        (
            "12/8/12",
            [("go", 10), ("stop", 22), ("go", 30), ("stop", 42)],
        ),
        (
            "12/8/12/8/12/8",
            [("go", 10), ("stop", 22), ("go", 30), ("stop", 42), ("go", 50), ("stop", 62)],
        ),
    ],
)
def test_a_list_of_efforts_by_hand(typed: str, calls: list[tuple[str, int]]) -> None:
    moves = [{"name": "star jumps", "efforts": typed}]
    made = timeline([called(BlockKind.INTERVALS, "Set", movements=moves)])
    found = [(cue.kind.value, cue.at_ms // 1000) for cue in made.cues if cue.kind in
             (CueKind.GO, CueKind.STOP)]  # fmt: skip
    assert found == calls


def test_rounds_of_falling_reps_of_two_movements_have_no_clock_between_them() -> None:
    """72 reps are done for time: one go, one stop."""
    made = timeline([called(BlockKind.REP_TARGET, "18-12-6", seconds=600)])
    calls = [cue for cue in made.cues if cue.kind in (CueKind.GO, CueKind.STOP)]
    assert [cue.at_ms for cue in calls] == [10_000, 610_000]


def test_the_next_movement_is_named_before_its_count() -> None:
    moves = [{"name": name, "efforts": "20"} for name in ("squats", "high knees")]
    made = timeline([called(BlockKind.INTERVALS, "Set", movements=moves)])
    said = [(cue.at_ms, cue.say) for cue in made.cues if 30_000 <= cue.at_ms <= 39_000]
    assert said == [
        (30_000, "Stop. Rest"), (33_000, "Next: high knees"), (36_000, "3"), (37_000, "2"),
        (38_000, "1"), (39_000, "Go"),
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("block", "says"),
    [
        (called(BlockKind.WATER, "Water"), "no time"),
        (called(BlockKind.INTERVALS, "Set"), "give a movement"),
        (
            called(BlockKind.INTERVALS, "Set", movements=[{"name": "a", "efforts": "10/1/10"}]),
            "A rest is at least 3 s",
        ),
        (
            called(BlockKind.STATIONS, "Round", stations=[{"name": "a"}], work=10, rounds=1),
            "2 stations",
        ),
        (called(BlockKind.WARM_UP, "Warm-up", levels=[[5, 10]]), "1 to 4"),
    ],
)
def test_a_block_that_cannot_be_called_says_why_by_name(block: AnyBlock, says: str) -> None:
    with pytest.raises(ValueError, match=f"{block.label}: .*{says}"):
        timeline([block])


@pytest.mark.parametrize("typed", ["", "thirty", "30/2/20", "0", "4000"])
def test_efforts_that_cannot_be_are_refused(typed: str) -> None:
    with pytest.raises(ValueError, match=r"seconds|rest|effort"):
        read_efforts(typed)


def test_after_a_pulse_the_clock_stands_until_all_are_written_down() -> None:
    def pulse(**more: bool) -> Timeline:
        return timeline([
            called(BlockKind.PULSE, "Pulse", seconds=60, hold=10, **more),
            called(BlockKind.WATER, "Water", seconds=60),
        ])  # fmt: skip

    def lasting(made: Timeline) -> list[tuple[Phase, int, bool]]:
        return [(one.phase, one.to_ms - one.from_ms, one.waits) for one in made.segments]

    goes_on, stands = pulse(), pulse(waits=True)
    assert lasting(goes_on)[2:] == [(Phase.WRITE, 60_000, False), (Phase.OPEN, 60_000, False)]
    # Still at the pulse, not in what follows.
    assert lasting(stands)[2:] == [
        (Phase.WRITE, 60_000, False), (Phase.WRITE, 3_000, True), (Phase.OPEN, 60_000, False),
    ]  # fmt: skip
    assert stands.total_ms == goes_on.total_ms + 3_000
    assert [cue.say for cue in stands.cues] == [
        "Find your pulse", "Count", "Stop", "Write your beats down", "Everything is written down",
        "Water",
    ]  # fmt: skip
