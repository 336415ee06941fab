"""Laps, pulse, staged runs, tries, challenges, growth: the check values of the trade."""

from __future__ import annotations

from datetime import date
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules import growth, laps, pulse, shuttle
from lauf.rules.comparability import COURSE, Key, as_metres, metres_run, why_not_comparable
from lauf.rules.pulse import Formula, Moment, Reading
from lauf.rules.quantities import Better, Kind, Measure
from lauf.rules.rivals import against_rival, window_gain
from lauf.rules.targets import rep_target
from lauf.rules.tries import Merge, Merged, Try, merge_tries

COUNT = Measure(Kind.COUNT, highest=500)
SPRINT = Measure(Kind.TIME, Better.DOWN, "s", 10, 60_000)


def test_laps_of_a_mile() -> None:
    """Common practice: a mile of 1609.344 m in laps of 26 big steps is 61.898, so 62 laps; a mile
    of 40 laps has laps of 40.23 m."""
    plan = laps.plan_laps(laps.MILE_MM, 26 * laps.DEFAULT_STEP_MM)
    assert float(plan.exact) == pytest.approx(61.898, abs=5e-4)
    assert plan.whole == 62
    assert float(plan.beyond_mm) == pytest.approx(62 * 26_000 - 1_609_344)
    assert float(plan.finish_mm) == pytest.approx(1_609_344 - 61 * 26_000)
    assert float(laps.MILE_MM / 40) == pytest.approx(40_233.6, abs=0.1)


@given(st.integers(1, 3_000_000), st.integers(1_000, 500_000))
def test_whole_laps_cover_the_distance_and_one_fewer_does_not(distance: int, lap: int) -> None:
    plan = laps.plan_laps(distance, lap)
    assert plan.whole * lap >= distance > (plan.whole - 1) * lap
    assert plan.beyond_mm == plan.whole * lap - distance
    assert laps.distance(plan.exact, lap) == distance
    assert (plan.finish_mm == 0) == (plan.beyond_mm == 0)


def test_splits_and_pace() -> None:
    splits = laps.read_splits([140_000, 295_000, 450_000, 598_000], 402_336, 1_609_344)
    assert splits.laps == (140_000, 155_000, 155_000, 148_000)
    assert splits.halves == (295_000, 303_000)
    assert splits.words == "even"
    assert laps.read_splits([100, 300]).words == "slower second half"
    assert laps.read_splits([200, 300]).words == "faster second half"
    assert laps.read_splits([100_000, 200_000], 1, 8).projected == 800_000
    # 600 s for a mile is 372.8 s a kilometre: 600/1.609344 (definition of the mile).
    assert float(laps.pace(600_000, laps.MILE_MM, 1_000_000)) == pytest.approx(372_822.7, abs=0.1)
    assert laps.step_length(20_000, 25) == 800
    for wrong in ([], [5, 5], [9, 4]):
        with pytest.raises(ValueError):
            laps.read_splits(wrong)


def test_halves_are_of_the_true_distance() -> None:
    """A mile on laps of 400 m: four laps and 9.344 m, counted as what they are. An even run is
    even, which it was not while the last bit counted as a lap; an odd middle lap is shared out."""
    pace = 0.4  # ms a millimetre: 1:00 for 150 m
    ends = [round(pace * mm) for mm in (400_000, 800_000, 1_200_000, 1_600_000, 1_609_344)]
    splits = laps.read_splits(ends, 400_000, 1_609_344)
    assert splits.words == "even"
    assert float(splits.halves[0]) == pytest.approx(ends[-1] / 2, rel=1e-3)
    assert laps.read_splits(ends).words == "faster second half"  # by count alone
    # Three laps of 60, 80 and 100 s: 60 + half of 80 against half of 80 + 100.
    odd = laps.read_splits([60_000, 140_000, 240_000], 100_000, 300_000)
    assert odd.halves == (100_000, 140_000)
    # Two laps of four done: the rest at the same pace, by metres.
    assert laps.read_splits(ends[:2], 400_000, 1_609_344).projected == pytest.approx(
        pace * 1_609_344, rel=1e-6
    )


def test_pulse_sums() -> None:
    """Common practice: 22 beats in 10 s are 132 a minute, known to ±6."""
    assert pulse.bpm(22, 10) == 132
    assert pulse.resolution(10) == 6
    assert pulse.same(132, 10, 137, 60)
    assert not pulse.same(132, 10, 138, 10)
    # Tanaka, Monahan & Seals 2001: 208 − 0.7·age. Karvonen 1957: percent of reserve.
    assert pulse.estimated_maximum(10) == pytest.approx(201)
    assert pulse.estimated_maximum(10, Formula.AGE_220) == 210
    assert pulse.reserve_percent(140, 80, 200) == pytest.approx(50)


def test_a_lesson_of_pulses() -> None:
    readings = [
        Reading(Moment.REST, 14, 10),
        Reading(Moment.WARM_UP, 20, 10),
        Reading(Moment.ACTIVITY, 25, 10, "star jumps"),
        Reading(Moment.ACTIVITY, 27, 10, "shuttle runs"),
        Reading(Moment.RECOVERY, 18, 10, waited=60),
    ]
    series = pulse.summarise(readings, 10.0)
    assert (series.resting, series.peak, series.peak_after) == (84, 162, "shuttle runs")
    assert (series.rise, series.recovery_drop, series.recovery_seconds) == (78, 54, 60)
    assert series.percent_of_maximum == pytest.approx(100 * 162 / 201)
    assert series.reserve == pytest.approx(100 * (162 - 84) / (201 - 84))
    assert pulse.summarise([], None) == pulse.Series(None, None, "", None, None, None, None, None)


@pytest.mark.parametrize(
    ("reading", "others", "codes"),
    [
        (Reading(Moment.REST, 8, 10), [], ["resting"]),
        (Reading(Moment.REST, 21, 10), [], ["resting"]),
        (Reading(Moment.REST, 15, 10), [], []),
        (Reading(Moment.ACTIVITY, 12, 10), [Reading(Moment.REST, 15, 10)], ["below_rest"]),
        (Reading(Moment.ACTIVITY, 14, 10), [Reading(Moment.REST, 15, 10)], []),
        # Not multiplied: 33 read as a rate after 198; multiplied twice: 210 after 35.
        (Reading(Moment.ACTIVITY, 33, 60), [Reading(Moment.WARM_UP, 33, 10)], ["over_six"]),
        (Reading(Moment.ACTIVITY, 210, 60), [Reading(Moment.WARM_UP, 35, 60)], ["times_six"]),
    ],
)
def test_pulse_slips_are_asked_about(
    reading: Reading, others: list[Reading], codes: list[str]
) -> None:
    assert [flag.code for flag in pulse.flags(reading, others)] == codes


def test_what_cannot_be_a_pulse_is_stopped_with_a_guess_at_why() -> None:
    assert "already beats a minute" in (pulse.hard_problem(132, 10) or "")
    assert "132 a minute" in (pulse.hard_problem(22, 60) or "")
    assert pulse.hard_problem(22, 10) is None
    assert "10, 15, 20, 30 or 60" in (pulse.hard_problem(22, 12) or "")


def test_the_staged_run() -> None:
    """Schedule with a jump to 9 km/h: the published table of shuttles a stage (from memory).
    The other: Léger et al. 1988, 8.5 km/h and +0.5 a minute, nearest whole number to 60 s."""
    assert shuttle.shuttle_table(shuttle.JUMP) == (
        7, 8, 8, 9, 9, 10, 10, 11, 11, 11, 12, 12, 13, 13, 13, 14, 14, 15, 15, 16, 16,
    )  # fmt: skip
    for stage, count in enumerate(shuttle.shuttle_table(shuttle.EVEN), 1):
        seconds = count * 20 / (shuttle.stage_speed(stage) / 3.6)
        neighbours = [n * 20 / (shuttle.stage_speed(stage) / 3.6) for n in (count - 1, count + 1)]
        assert all(abs(seconds - 60) <= abs(other - 60) + 1e-9 for other in neighbours)
    # Léger et al. 1988: S = 10.5 km/h at age 10 gives 48.67 ml/kg/min.
    assert shuttle.estimated_vo2max(10.5, 10) == pytest.approx(48.67, abs=0.005)
    assert shuttle.last_speed(7, shuttle.EVEN) == 8.5
    assert shuttle.last_speed(6, shuttle.EVEN) is None
    with pytest.raises(ValueError):
        shuttle.estimated_vo2max(10, 7)


@given(st.integers(0, 200), st.sampled_from(list(shuttle.Schedule)))
def test_stage_and_shuttle_there_and_back(shuttles: int, schedule: str) -> None:
    stage, number = shuttle.stage_of(shuttles, schedule)
    assert shuttle.total_shuttles(stage, number, schedule) == shuttles


@pytest.mark.parametrize(
    ("how", "expected"),
    [
        (Merge.BEST, Merged(131, False, 3)),
        (Merge.LAST, Merged(120, True, 4)),
        (Merge.MEAN, Merged(123, True)),
        (Merge.SUM, Merged(369, True)),
    ],
)
def test_tries_become_one_score(how: Merge, expected: Merged) -> None:
    """A fall is void and jumped again: it counts in no merge."""
    tries = [Try(118), Try(None), Try(None), Try(131), Try(120, estimate=True)]
    assert merge_tries(tries, how, Better.UP) == expected
    assert merge_tries([Try(None)], how, Better.UP) is None


def test_the_best_of_times_is_the_shortest() -> None:
    tries = [Try(12_400), Try(11_900), Try(11_900, estimate=True), Try(12_000)]
    assert merge_tries(tries, Merge.BEST, SPRINT.better) == Merged(11_900, False, 1)


def test_the_rep_target() -> None:
    """Common practice: a carry-in of 35 leaves 205 of 240; one burpee every other second is 30 in
    a minute; ten press-ups in a minute is one every 6 s; 18-12-6 of two movements is 72 reps."""
    begun = rep_target({}, [90, 160, 240], minutes=25, carried=35, carried_from="warm-up",
                       carries="warm-up")  # fmt: skip
    assert (begun.total, begun.rung, 240 - begun.total) == (35, None, 205)
    half = rep_target({"squats": 70, "dips": 50}, [90, 160, 240], minutes=25, elapsed=15)
    assert (half.total, half.rung, half.needed) == (120, 0, 40)
    assert (half.a_minute, half.projected) == (Fraction(40, 10), 200)
    assert rep_target({"burpees": 30}, [30], minutes=1).rung == 0
    assert 2 * (18 + 12 + 6) == 72
    with pytest.raises(ValueError, match="only warm-up"):
        rep_target({}, [10], minutes=1, carried=4, carried_from="dips", carries="warm-up")


def test_rivals_only_under_the_same_key() -> None:
    key, slow = Key("burpees", "", 30), Key("burpees", "", 60)
    assert against_rival(18, key, 15, key, COUNT, "Mx Ashgrove").words == "beat Mx Ashgrove by 3"
    assert against_rival(15, key, 15, key, COUNT, "Elm").ahead == 0
    assert against_rival(11_000, key, 10_500, key, SPRINT, "Elm").words == "0.5 s short of Elm"
    assert against_rival(18, key, 30, slow, COUNT, "Elm").ahead is None
    assert window_gain([14, 12, 19, 17], COUNT) == 5
    assert window_gain([12_400, 11_900], SPRINT) == 500


def test_courses_of_other_lengths_are_compared_as_metres() -> None:
    """Common practice: 20 lengths of 4 m are as far as 16 of 5 m."""
    four = Key("shuttles", "", 30, conditions=((COURSE, 4000),))
    five = Key("shuttles", "", 30, conditions=((COURSE, 5000),))
    reason = why_not_comparable(four, five, "last time")
    assert reason == "last time has course length 5 m, this was 4 m"
    assert as_metres(four, five) and not as_metres(four, four)
    assert metres_run(20, four) == metres_run(16, five) == 80_000
    assert not as_metres(four, Key("shuttles", "", 60, conditions=((COURSE, 5000),)))


def test_growth() -> None:
    begin = (date(2026, 1, 10), 1_280)
    assert growth.growth_a_year(begin, (date(2026, 3, 1), 1_290)) is None
    grown = growth.growth_a_year(begin, (date(2026, 7, 11), 1_310))
    assert float(grown or 0) == pytest.approx(30 * 365.25 / 182)
    assert float(growth.body_mass_index(31_500, 1_330)) == pytest.approx(31.5 / 1.33**2)


@pytest.mark.parametrize("schedule", list(shuttle.Schedule))
def test_the_run_sheet_is_the_schedule_with_what_a_miss_leaves(schedule: str) -> None:
    """Each beep ends one shuttle of its stage; who misses it and the next keeps the one before."""
    sheet = shuttle.beeps(schedule)
    assert [beep.at_ms for beep in sheet] == list(shuttle.beeps_ms(schedule))
    places = [(beep.stage, beep.shuttle) for beep in sheet]
    assert places == [
        (stage, number)
        for stage, shuttles in enumerate(shuttle.shuttle_table(schedule), 1)
        for number in range(1, shuttles + 1)
    ]
    assert all(beep.speed == shuttle.stage_speed(beep.stage, schedule) for beep in sheet)
    assert sheet[0].if_missed == "1.0"
    assert [beep.if_missed for beep in sheet[1:]] == [beep.so_far for beep in sheet[:-1]]
    # By hand from the definitions: 20 m at 8.5 km/h take 72/8.5 s, at 8.0 km/h 9 s; seven shuttles
    # of both first stages, then the second stage at 9.0 km/h, 8 s each.
    first = {"even": (8_471, 59_294, 67_294), "jump": (9_000, 63_000, 71_000)}[schedule]
    assert (sheet[0].at_ms, sheet[6].at_ms, sheet[7].at_ms) == first
    assert (sheet[7].stage, sheet[7].shuttle, sheet[7].if_missed) == (2, 1, "1.7")
