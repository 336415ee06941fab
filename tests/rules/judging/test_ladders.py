"""Ladders: rungs, distances, printed ranges and what is wrong with them."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.judging.comparability import Key
from lauf.rules.judging.ladders import (
    Benchmark,
    Fault,
    Judgement,
    Rung,
    findings,
    judge,
    read_printed,
    read_rung,
)
from lauf.rules.reading.entry import EntryError
from lauf.rules.reading.quantities import Better, Kind, Measure

COUNT = Measure(Kind.COUNT, highest=200)
CAPPED = Measure(Kind.COUNT, highest=200, cap=30)
SPRINT = Measure(Kind.TIME, Better.DOWN, unit="s", resolution=100, highest=60_000)
HOLD = Measure(Kind.TIME, unit="s", resolution=1000, highest=600_000)
KEY = Key("press-ups-60", "full", 60)
NAMES = ("Near line", "Centre line", "Far line")


def ladder(*rungs: Rung, key: Key = KEY) -> Benchmark:
    return Benchmark(tuple(rungs), key)


@pytest.mark.parametrize(
    ("score", "reached", "to_next"),
    [(0, None, 7), (6, None, 1), (7, 0, 4), (10, 0, 1), (11, 1, 9), (19, 1, 1), (20, 2, None)],
)
def test_the_worked_example_of_a_ladder_with_holes(
    score: int, reached: int | None, to_next: int | None
) -> None:
    """ "7–9, 11–15, more than 19": what is 10? what is 17? Both reached the lower rung."""
    printed = read_printed("7–9, 11–15, more than 19", NAMES, COUNT)
    found = judge(score, KEY, Benchmark(printed.rungs, KEY), COUNT)
    assert (found.reached, found.to_next) == (reached, to_next)


def test_the_holes_of_the_worked_example_are_said() -> None:
    printed = read_printed("7–9, 11–15, more than 19", NAMES, COUNT)
    assert printed.rungs == (
        Rung("Near line", 7),
        Rung("Centre line", 11),
        Rung("Far line", 19, beyond=True),
    )
    assert [(f.fault, f.rung, f.words) for f in printed.findings] == [
        (Fault.GAP, 1, "10 is in no range. A score there counts as “Near line”."),
        (Fault.GAP, 2, "16 to 19 are in no range. A score there counts as “Centre line”."),
    ]


@pytest.mark.parametrize(
    ("text", "measure", "rungs", "faults"),
    [
        ("8, 13-21, more than 22", COUNT, [(8, False), (13, False), (22, True)], ["gap", "gap"]),
        ("8 to 11; 12 to 17; 18+", COUNT, [(8, False), (12, False), (18, False)], []),
        ("8-12, 12-17", COUNT, [(8, False), (12, False)], ["overlap"]),
        ("at least 8, at least 12", COUNT, [(8, False), (12, False)], ["overlap"]),
        # Words for an open end, and a bare list of the least of each rung.
        ("7-9, 10 or more", COUNT, [(7, False), (10, False)], []),
        ("7 to 9, 10 and over", COUNT, [(7, False), (10, False)], []),
        ("7, 11, 19", COUNT, [(7, False), (11, False), (19, False)], []),
        ("7, 11, over 19", COUNT, [(7, False), (11, False), (19, True)], []),
        ("12-11, 10.9 or less", SPRINT, [(12_000, False), (10_900, False)], []),
        ("12 s, 11 s, under 10 s", SPRINT, [(12_000, False), (11_000, False), (10_000, True)], []),
        # Beyond the test's own maximum: read, and reported by the findings.
        ("10-19, 20-29, 40 or more", CAPPED, [(10, False), (20, False), (40, False)], ["gap"]),
        ("12.0-10.1, 10-9, under 9", SPRINT, [(12_000, False), (10_000, False), (9_000, True)], []),
        (
            "at most 12",
            SPRINT,
            [(12_000, False)],
            [],
        ),
        ("20-40, 41-59, 1:00+", HOLD, [(20_000, False), (41_000, False), (60_000, False)], []),
        # An end that opens to the worse is a range from the least there is, not a rung beyond it.
        ("under 7, 7-9, 10+", COUNT, [(0, False), (7, False), (10, False)], []),
        ("up to 6, 7-9, >9", COUNT, [(0, False), (7, False), (9, True)], []),
        ("15 or less, 17 and up", COUNT, [(0, False), (17, False)], ["gap"]),
        (">=7, >=10", COUNT, [(7, False), (10, False)], ["overlap"]),
        (
            "over 12, 11-12, under 11",
            SPRINT,
            [(60_000, False), (12_000, False), (11_000, True)],
            [],
        ),
        (
            "12.1+, 12-11, 10.9 or faster",
            SPRINT,
            [(60_000, False), (12_000, False), (10_900, False)],
            [],
        ),
        # A comma within a number, where something else stands between the ranges.
        ("12,5; 11,5", SPRINT, [(12_500, False), (11_500, False)], []),
        ("12,5, 11,5, 10", SPRINT, [(12_500, False), (11_500, False), (10_000, False)], []),
        ("30,45,60", HOLD, [(30_000, False), (45_000, False), (60_000, False)], []),
        ("7,9,11-15", COUNT, [(7, False), (9, False), (11, False)], ["gap", "gap"]),
    ],
)
def test_printed_ranges(
    text: str, measure: Measure, rungs: list[tuple[int, bool]], faults: list[str]
) -> None:
    printed = read_printed(text, (), measure)
    assert [(rung.threshold, rung.beyond) for rung in printed.rungs] == rungs
    assert [found.fault.value for found in printed.findings] == faults


@pytest.mark.parametrize("text", ["12,5", "12,5-11,5", "1,250"])
def test_a_comma_that_may_be_in_a_number_is_asked_about(text: str) -> None:
    with pytest.raises(EntryError, match="could be one number or two"):
        read_printed(text, NAMES, replace(SPRINT, highest=2_000_000))


def test_a_rung_is_one_threshold() -> None:
    """Of "12,5" the 12 was kept, of two ranges the first."""
    assert read_rung("12,5", "Far line", SPRINT) == Rung("Far line", 12_500)
    assert read_rung("more than 19", "Far line", COUNT) == Rung("Far line", 19, beyond=True)
    for typed in ("7-9, 11-15", "7,9", "7; 9"):
        with pytest.raises(EntryError):
            read_rung(typed, "Far line", COUNT)


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


def test_a_ladder_of_a_minute_shows_itself_on_half_a_minute() -> None:
    """Written for 60 s and kept for 30 s: its upper rungs are faster than anyone moves."""
    copied = ladder(Rung("Near line", 12), Rung("Far line", 34), key=Key("p", "full", 30))
    found = findings(copied, COUNT, Key("p", "full", 30), most_a_second=0.9)
    assert [(f.fault, f.rung) for f in found] == [(Fault.BEYOND_THE_RATE, 1)]
    assert "longer clock" in found[0].words
    honest = findings(ladder(Rung("Near line", 12), Rung("Far line", 34)), COUNT,
                      Key("press-ups-60", "full", 30), most_a_second=0.9)  # fmt: skip
    assert honest[0].fault is Fault.OTHER_CLOCK


def test_a_ladder_for_another_course_says_so() -> None:
    six, eight = (Key("s", "", 30, 1, (("course_mm", mm),)) for mm in (6_000, 8_000))
    (found,) = findings(ladder(Rung("Near line", 8), key=six), COUNT, eight)
    assert found.fault is Fault.OTHER_COURSE
    assert "course length 6 m" in found.words


def test_a_ladder_inside_the_noise_says_nothing() -> None:
    tight = ladder(Rung("Near line", 10), Rung("Far line", 12))
    assert findings(tight, COUNT, KEY, band=3.0)[-1].fault is Fault.NOISE
    assert findings(tight, COUNT, KEY, band=2.0) == ()


@pytest.mark.parametrize(
    ("key", "why"),
    [
        (Key("press-ups-60", "full", 30), "the ladder is for 60 s, this was 30 s"),
        (Key("press-ups-60", "full", None), "the ladder is for 60 s, this was no clock"),
        (Key("press-ups-60", "knees", 60), "the ladder is for another form (full)"),
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
    made = Benchmark(rungs, KEY)
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


@pytest.mark.parametrize(
    ("own", "meant", "told"),
    [
        (Key("a", "full", 60), Key("a", "full", 30), [(Fault.OTHER_CLOCK, ("30 s", "has 60 s"))]),
        (Key("a", "full", None), Key("a", "full", 30), [(Fault.OTHER_CLOCK, ("has no clock",))]),
        (Key("a", "full", 30), Key("a", "full", None), [(Fault.OTHER_CLOCK, ("for no clock",))]),
        (
            Key("a", "full", 60),
            Key("a", "knees", 60),
            [(Fault.OTHER_VARIANT, ("for “knees”", "not “full”"))],
        ),
        (
            Key("a", "full", 60),
            Key("a", "knees", 30),
            [(Fault.OTHER_CLOCK, ()), (Fault.OTHER_VARIANT, ())],
        ),
        (
            Key("a", "full", 60, conditions=(("course_mm", 10_000),)),
            Key("a", "full", 60, conditions=(("course_mm", 20_000),)),
            [(Fault.OTHER_COURSE, ("The ladder has course length 20 m", "this was 10 m"))],
        ),
    ],
)
def test_a_ladder_for_something_else_says_for_what(
    own: Key, meant: Key, told: list[tuple[Fault, tuple[str, ...]]]
) -> None:
    found = findings(ladder(Rung("Near line", 7), key=meant), COUNT, own)
    assert [(one.fault, one.rung) for one in found] == [(fault, 0) for fault, _ in told]
    for one, (_, parts) in zip(found, told, strict=True):
        assert one.words[0].isupper() and one.words.endswith(".")
        assert all(part in one.words for part in parts), one.words


def test_what_is_wrong_with_a_rung_names_it() -> None:
    capped = findings(ladder(Rung("A", 30), Rung("B", 31)), CAPPED, KEY)
    assert [(one.fault, one.rung) for one in capped] == [(Fault.BEYOND_THE_CAP, 1)]
    assert "“B”" in capped[0].words
    # A score of the test's own ends is one; one beyond is in another unit.
    assert not findings(ladder(Rung("A", SPRINT.highest)), SPRINT, KEY)
    (other,) = findings(ladder(Rung("A", SPRINT.highest + 100)), SPRINT, KEY)
    assert other.fault is Fault.UNIT_MISMATCH and "“A” at" in other.words
    (order,) = findings(ladder(Rung("A", 12), Rung("B", 12)), COUNT, KEY)
    assert (order.fault, order.rung) == (Fault.OUT_OF_ORDER, 1)
    assert "“B” (12)" in order.words


def test_a_ladder_inside_the_noise_says_how_wide_that_is() -> None:
    """A ladder of one rung has no width to be inside of."""
    two = ladder(Rung("A", 10), Rung("B", 14))
    (told,) = findings(two, COUNT, KEY, band=4.6)
    assert (told.fault, told.rung) == (Fault.NOISE, 0) and "±5" in told.words
    assert not findings(two, COUNT, KEY, band=4.0)
    assert not findings(ladder(Rung("A", 10)), COUNT, KEY, band=4.6)
    assert not findings(ladder(), COUNT, KEY, band=4.6)
