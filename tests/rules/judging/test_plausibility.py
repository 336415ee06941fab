"""Soft flags: they ask, they never discard."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.judging.plausibility import (
    FlagCode,
    fastest_speed,
    flags_for,
    modified_z_scores,
    speed_of,
)
from lauf.rules.reading.quantities import Better, Kind, Measure
from tests.support import references

COUNT = Measure(Kind.COUNT, highest=500)
MILE = Measure(Kind.TIME, Better.DOWN, "s", 1000, 3_600_000, 240_000, target_mm=1_609_344)
LAPS = Measure(Kind.LAPS, unit="m", lap_mm=50_000)


def test_modified_z_on_a_worked_example() -> None:
    """By hand: eleven values, two out of line. Their median is 2.4, the median of the absolute
    deviations 0.2, so M = 0.6745·(x − 2.4)/0.2; beyond 3.5 is looked at (Iglewicz & Hoaglin
    1993)."""
    values = [2.1, 2.6, 2.4, 2.5, 2.3, 2.1, 2.3, 2.6, 8.2, 8.3, 2.2]
    scores = modified_z_scores(values)
    middle = 2.4
    spread = 0.2
    assert scores == pytest.approx([0.6745 * (x - middle) / spread for x in values])
    assert [x for x, z in zip(values, scores, strict=True) if abs(z) > 3.5] == [8.2, 8.3]


@given(st.lists(st.integers(0, 100), min_size=3, max_size=40))
def test_modified_z_against_scipys_mad(values: list[int]) -> None:
    mad = references.stats.median_abs_deviation(values)
    scores = modified_z_scores(values)
    if mad:
        centre = references.stats.scoreatpercentile(values, 50)
        assert scores == pytest.approx([0.6745 * (v - centre) / mad for v in values])
    else:
        # With most values equal, the equal ones are never odd.
        middle = sorted(values)[len(values) // 2]
        assert all(z == 0 for v, z in zip(values, scores, strict=True) if v == middle)


def test_without_a_median_deviation_the_mean_one_is_used() -> None:
    # Iglewicz & Hoaglin's second form: (x − median)/(1.253314·MeanAD); MeanAD = 30/9.
    scores = modified_z_scores([10] * 8 + [40])
    assert scores[-1] == pytest.approx(30 / (1.253314 * 30 / 9))
    assert modified_z_scores([5, 5, 5]) == [0, 0, 0]
    with pytest.raises(ValueError, match="no values"):
        modified_z_scores([])


@pytest.mark.parametrize(
    ("value", "more", "codes"),
    [
        (20, {"earlier": [19, 21], "band": 4.0}, []),
        (58, {"seconds": 60, "most_a_second": 0.9}, [FlagCode.RATE]),
        (54, {"seconds": 60, "most_a_second": 0.9}, []),
        # Common practice: a digit slipped in or was left out.
        (210, {"earlier": [21]}, [FlagCode.SLIP]),
        (2, {"earlier": [20], "band": 4.0}, [FlagCode.SLIP]),
        (35, {"earlier": [20, 22], "band": 4.0}, [FlagCode.HISTORY]),
        (30, {"earlier": [20, 22], "band": 4.0}, []),
        (9, {"earlier": [20, 22], "band": 4.0}, [FlagCode.HISTORY]),
        (20, {"class_z": 3.6}, [FlagCode.CLASS]),
        (20, {"class_z": -3.6}, [FlagCode.CLASS]),
        (20, {"class_z": 3.4}, []),
        (20, {"class_z": 3.5}, []),
        # Within 2 % of a slip and not a hair more; nothing is no tenth of anything.
        (196, {"earlier": [20]}, [FlagCode.SLIP]),
        (195, {"earlier": [20]}, []),
        (1, {"earlier": [10]}, [FlagCode.SLIP]),
        (10, {"earlier": [1]}, [FlagCode.SLIP]),
        (0, {"earlier": [10]}, []),
        (10, {"earlier": [0]}, []),
        # How many in a time is not asked of a run over a course: its speed is.
        (58, {"seconds": 60, "most_a_second": 0.9, "course_mm": 1000}, []),
        (58, {"seconds": 60}, []),
        (58, {"most_a_second": 0.9}, []),
        (20, {"estimate": True}, [FlagCode.ESTIMATE]),
        (0, {"earlier": [0, 1], "band": 4.0}, []),
        (40, {"earlier": [4]}, [FlagCode.SLIP]),
        (400, {"earlier": [4]}, [FlagCode.SLIP]),
        # Slips are looked for within 2 %: 12 times is none of them for a count.
        (240, {"earlier": [21]}, []),
        (214, {"earlier": [21]}, [FlagCode.SLIP]),
        (215, {"earlier": [21]}, []),
    ],
)
def test_what_is_asked_about(value: int, more: dict[str, object], codes: list[FlagCode]) -> None:
    assert [flag.code for flag in flags_for(value, COUNT, **more)] == codes  # type: ignore[arg-type]


def test_a_flag_says_why_in_one_line() -> None:
    (flag,) = flags_for(210, COUNT, earlier=[21])
    assert flag.words == "A digit too many? Last time: 21."


@pytest.mark.parametrize(
    ("value", "measure", "more", "flagged"),
    [
        # 22 lengths of 10 m in 30 s are 7.3 m/s, turns and all; 12 are 4.
        (22, COUNT, {"seconds": 30, "course_mm": 10_000, "age": 8.0}, True),
        (12, COUNT, {"seconds": 30, "course_mm": 10_000, "age": 8.0}, False),
        (8, COUNT, {"seconds": 10, "course_mm": 10_000, "age": 6.0}, True),
        # 12 m/s is faster than anybody of any age.
        (36, COUNT, {"seconds": 30, "course_mm": 10_000}, True),
        # A mile in 4:20 is 6.2 m/s; the fastest children of 11 need over five minutes.
        (260_000, MILE, {"age": 11.0}, True),
        (360_000, MILE, {"age": 11.0}, False),
        (360_000, MILE, {"age": 6.0}, True),
        (900_000, LAPS, {"seconds": 180, "age": 7.0}, True),
        (600_000, LAPS, {"seconds": 180, "age": 7.0}, False),
    ],
)
def test_nobody_runs_faster_than_children_run(
    value: int, measure: Measure, more: dict[str, object], flagged: bool
) -> None:
    """Metres a second by age (common practice, from memory)."""
    codes = [flag.code for flag in flags_for(value, measure, **more)]  # type: ignore[arg-type]
    assert (FlagCode.SPEED in codes) is flagged


JUMP = Measure(Kind.LENGTH, unit="cm", resolution=10, highest=3500)
AGES = [[5, 300, 1500], [11, 600, 2400]]


@pytest.mark.parametrize(
    ("value", "age", "asked"),
    [
        (290, 5.0, True), (300, 5.0, False), (440, 8.0, True), (450, 8.0, False),
        (1500, 5.0, False), (1510, 5.0, True), (2400, 12.5, False), (2410, 12.5, True),
        # An age that is not known could be any of them.
        (300, None, False), (290, None, True), (2400, None, False), (2410, None, True),
    ],
)  # fmt: skip
def test_least_and_most_by_age_lie_on_the_line_between_ages(
    value: int, age: float | None, asked: bool
) -> None:
    codes = [flag.code for flag in flags_for(value, JUMP, bounds=AGES, age=age)]
    assert codes == ([FlagCode.AGE] if asked else [])


def test_a_time_longer_than_its_clock_is_asked_about_with_a_seconds_grace() -> None:
    hold = Measure(Kind.TIME, unit="s", resolution=100)
    assert not flags_for(61_000, hold, ran_ms=60_000)
    (flag,) = flags_for(61_100, hold, ran_ms=60_000)
    assert flag.code is FlagCode.CLOCK and flag.words.endswith("ran for 1:00.")
    assert not flags_for(61_100, JUMP, ran_ms=60_000)


def test_slips_between_units_are_named() -> None:
    inches = flags_for(508, Measure(Kind.LENGTH, unit="cm"), earlier=[1290])
    assert inches[0].words.startswith("Inches for centimetres?")
    pounds = flags_for(66_000, Measure(Kind.MASS, unit="kg"), earlier=[30_000])
    assert pounds[0].words.startswith("Pounds for kilograms?")


@pytest.mark.parametrize(
    ("age", "ms", "speed"),
    [
        (11, 59_999, 8.0), (11, 60_000, 5.6), (None, 10_000, 8.0), (15, 10_000, 8.0),
        (4, 10_000, 5.0), (3, 10_000, 5.0), (7, 10_000, 6.5), (7, 90_000, 4.6),
        (5.5, 10_000, 5.75), (9, 10_000, 7.25), (9, 90_000, 5.1),
    ],
)  # fmt: skip
def test_the_fastest_that_children_run_grows_with_their_age(
    age: float | None, ms: int, speed: float
) -> None:
    """Common practice, from memory: between two ages by equal steps; over a minute slower."""
    assert fastest_speed(age, ms) == pytest.approx(speed)


@pytest.mark.parametrize(
    ("value", "more", "words"),
    [
        (20, {"class_z": 3.6}, "Far above the rest of the class today."),
        (20, {"class_z": -3.6}, "Far below the rest of the class today."),
        (58, {"seconds": 60, "most_a_second": 0.9},
         "More than 54 in 60 s is faster than most children can move."),
        (36, {"seconds": 30, "course_mm": 10_000},
         "12.0 metres a second is faster than a child can run."),
        (35, {"earlier": [20, 22], "band": 4.0},
         "Far from this child's other scores. Last time: 22."),
        (4, {"bounds": [[5, 5, 50]], "age": 5.9},
         "Lower than expected of a child of 5. Usually 5 or more."),
        (51, {"bounds": [[5, 5, 50]]}, "Higher than expected of a child here. Usually up to 50."),
    ],
)  # fmt: skip
def test_a_question_says_what_is_odd(value: int, more: dict[str, object], words: str) -> None:
    (flag,) = flags_for(value, COUNT, **more)  # type: ignore[arg-type]
    assert flag.words == words


def test_the_speed_of_a_run() -> None:
    """Metres a second, worked by hand: 12 lengths of 10 m in 30 s; 150 m in a minute."""
    assert speed_of(12, COUNT, course_mm=10_000, seconds=30) == (4.0, 30_000)
    assert speed_of(150_000, LAPS, course_mm=None, seconds=60) == (2.5, 60_000)
    assert speed_of(804_672, MILE, course_mm=None, seconds=None) == (2.0, 804_672)
    assert speed_of(1, MILE, course_mm=None, seconds=None) == (1_609_344, 1)
    for value, measure, seconds in ((0, MILE, None), (12, COUNT, 30), (150_000, LAPS, None)):
        assert speed_of(value, measure, course_mm=None, seconds=seconds) is None
