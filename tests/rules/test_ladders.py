"""Ladders: rungs, distances, printed ranges and what is wrong with them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.comparability import Key
from lauf.rules.entry import EntryError
from lauf.rules.ladders import (
    Fault,
    Judgement,
    Ladder,
    Rung,
    findings,
    judge,
    read_printed,
)
from lauf.rules.quantities import Better, Kind, Measure

COUNT = Measure(Kind.COUNT, highest=200)
CAPPED = Measure(Kind.COUNT, highest=200, cap=30)
SPRINT = Measure(Kind.TIME, Better.DOWN, unit="s", resolution=100, highest=60_000)
HOLD = Measure(Kind.TIME, unit="s", resolution=1000, highest=600_000)
KEY = Key("press-ups-60", "full", 60)
NAMES = ("Near line", "Centre line", "Far line")


def ladder(*rungs: Rung, key: Key = KEY) -> Ladder:
    return Ladder(tuple(rungs), key)


@pytest.mark.parametrize(
    ("score", "reached", "to_next"),
    [(0, None, 8), (7, None, 1), (8, 0, 4), (11, 0, 1), (12, 1, 7), (18, 1, 1), (19, 2, None)],
)
def test_the_worked_example_of_a_ladder_with_holes(
    score: int, reached: int | None, to_next: int | None
) -> None:
    """ "8–10, 12–17, more than 18": what is 11? what is 18? Both reached the lower rung."""
    printed = read_printed("8–10, 12–17, more than 18", NAMES, COUNT)
    found = judge(score, KEY, Ladder(printed.rungs, KEY), COUNT)
    assert (found.reached, found.to_next) == (reached, to_next)


def test_the_holes_of_the_worked_example_are_said() -> None:
    printed = read_printed("8–10, 12–17, more than 18", NAMES, COUNT)
    assert printed.rungs == (
        Rung("Near line", 8),
        Rung("Centre line", 12),
        Rung("Far line", 18, beyond=True),
    )
    assert [(f.fault, f.rung, f.words) for f in printed.findings] == [
        (Fault.GAP, 1, "11 is in no range; counted as “Near line” reached."),
        (Fault.GAP, 2, "18 is in no range; counted as “Centre line” reached."),
    ]


@pytest.mark.parametrize(
    ("text", "measure", "rungs", "faults"),
    [
        ("10, 15-24, more than 25", COUNT, [(10, False), (15, False), (25, True)], ["gap", "gap"]),
        ("8 to 11; 12 to 17; 18+", COUNT, [(8, False), (12, False), (18, False)], []),
        ("8-12, 12-17", COUNT, [(8, False), (12, False)], ["overlap"]),
        ("at least 8, at least 12", COUNT, [(8, False), (12, False)], ["overlap"]),
        ("12.0-10.1, 10-9, under 9", SPRINT, [(12_000, False), (10_000, False), (9_000, True)], []),
        (
            "at most 12",
            SPRINT,
            [(12_000, False)],
            [],
        ),
        ("20-40, 41-59, 1:00+", HOLD, [(20_000, False), (41_000, False), (60_000, False)], []),
    ],
)
def test_printed_ranges(
    text: str, measure: Measure, rungs: list[tuple[int, bool]], faults: list[str]
) -> None:
    printed = read_printed(text, (), measure)
    assert [(rung.threshold, rung.beyond) for rung in printed.rungs] == rungs
    assert [found.fault.value for found in printed.findings] == faults


@pytest.mark.parametrize("text", ["", " , ", "ten to twelve", "8-x", "a", "more than"])
def test_what_is_no_range_is_refused(text: str) -> None:
    with pytest.raises(EntryError) as refused:
        read_printed(text, NAMES, COUNT)
    assert refused.value.accepted


def test_findings_against_the_test() -> None:
    wrong = ladder(
        Rung("Near line", 10),
        Rung("Centre line", 10),
        Rung("Far line", 30),
        Rung("End wall", 30, beyond=True),
        Rung("Roof", 40),
        key=Key("press-ups", "full", 60),
    )
    found = findings(wrong, CAPPED, Key("press-ups", "knees", 30))
    assert [(f.fault, f.rung) for f in found] == [
        (Fault.OTHER_CLOCK, 0),
        (Fault.OTHER_VARIANT, 0),
        (Fault.OUT_OF_ORDER, 1),
        (Fault.BEYOND_THE_CAP, 3),
        (Fault.BEYOND_THE_CAP, 4),
    ]
    right = ladder(Rung("Near line", 10), Rung("Far line", 30))
    assert findings(right, CAPPED, KEY) == ()


@pytest.mark.parametrize(
    ("key", "why"),
    [
        (Key("press-ups-60", "full", 30), "the ladder is for 60 s, this was 30 s"),
        (Key("press-ups-60", "full", None), "the ladder is for 60 s, this was no clock"),
        (Key("press-ups-60", "knees", 60), "the ladder is for another variant (full)"),
        (Key("sit-ups", "full", 60), "the ladder is for another test"),
    ],
)
def test_a_ladder_judges_only_under_its_own_key(key: Key, why: str) -> None:
    """A count in 30 s is never doubled to meet a ladder for 60 s."""
    assert judge(20, key, ladder(Rung("Near line", 8)), COUNT) == Judgement(why_not=why)


def test_a_ladder_without_rungs_says_so() -> None:
    assert judge(20, KEY, ladder(), COUNT).why_not == "the ladder has no rungs"


ORDERED = st.lists(st.integers(0, 200), min_size=1, max_size=6, unique=True).map(sorted)


@given(ORDERED, st.lists(st.booleans(), min_size=6, max_size=6), st.integers(0, 220), st.booleans())
def test_every_score_has_one_rung_and_an_honest_distance(
    thresholds: list[int], beyond: list[bool], score: int, up: bool
) -> None:
    better = Better.UP if up else Better.DOWN
    measure = Measure(Kind.COUNT, better, highest=300)
    ordered = thresholds if up else thresholds[::-1]
    rungs = tuple(Rung(f"r{i}", t, beyond[i]) for i, t in enumerate(ordered))
    made = Ladder(rungs, KEY)
    found = judge(score, KEY, made, measure)
    below = -1 if found.reached is None else found.reached
    assert all(rung.reached_by(score, better) for rung in rungs[: below + 1])
    if found.to_next is None:
        assert below == len(rungs) - 1
        return
    # Exactly the distance said reaches the next rung, one step less does not.
    assert found.to_next > 0
    there = score + found.to_next * better.sign
    assert rungs[below + 1].reached_by(there, better)
    assert not rungs[below + 1].reached_by(there - better.sign, better)
    # A better score never lowers the rung.
    further = judge(score + better.sign, KEY, made, measure)
    assert (-1 if further.reached is None else further.reached) >= below
