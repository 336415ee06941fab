"""Pulse: beats counted, what they resolve, and a lesson's series. For planning effort only."""

from __future__ import annotations

import pytest

from lauf.rules.body import pulse
from lauf.rules.body.pulse import Formula, Moment, Reading


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
    assert (series.resting, series.peak, series.peak_after) == (84, 162, "after shuttle runs")
    assert (series.rise, series.recovery_drop, series.recovery_seconds) == (78, 54, 60)
    assert series.percent_of_maximum == pytest.approx(100 * 162 / 201)
    assert series.reserve == pytest.approx(100 * (162 - 84) / (201 - 84))
    assert pulse.summarise([], None) == pulse.Series(None, None, "", None, None, None, None, None)
    assert pulse.summarise([], 10.0).percent_of_maximum is None
    older = pulse.summarise(readings, 10.0, Formula.AGE_220)
    assert older.percent_of_maximum == pytest.approx(100 * 162 / 210)


def test_what_was_not_taken_says_nothing() -> None:
    work, rest = Reading(Moment.ACTIVITY, 25, 10), Reading(Moment.REST, 14, 10)
    after = Reading(Moment.RECOVERY, 18, 10, waited=60)
    only_work = pulse.summarise([work], 10.0)
    assert (only_work.rise, only_work.reserve, only_work.recovery_drop) == (None, None, None)
    assert only_work.percent_of_maximum == pytest.approx(100 * 150 / 201)
    only_rest = pulse.summarise([rest, after], 10.0)
    assert (only_rest.rise, only_rest.peak, only_rest.percent_of_maximum) == (None, None, None)
    # A recovery has nothing to come down from where no work was measured before it.
    assert (only_rest.recovery_drop, only_rest.recovery_seconds) == (None, 60)
    # A resting pulse as high as the estimated maximum leaves no reserve to share out.
    worn = [Reading(Moment.REST, 210, 60), work]
    assert pulse.summarise(worn, 10.0, Formula.AGE_220).reserve is None


@pytest.mark.parametrize(
    ("reading", "others", "codes"),
    [
        (Reading(Moment.REST, 8, 10), [], ["resting"]),
        (Reading(Moment.REST, 21, 10), [], ["resting"]),
        (Reading(Moment.REST, 15, 10), [], []),
        (Reading(Moment.REST, 60, 60), [], []),
        (Reading(Moment.REST, 59, 60), [], ["resting"]),
        (Reading(Moment.REST, 120, 60), [], []),
        (Reading(Moment.REST, 121, 60), [], ["resting"]),
        (Reading(Moment.ACTIVITY, 12, 10), [Reading(Moment.REST, 15, 10)], ["below_rest"]),
        (Reading(Moment.ACTIVITY, 14, 10), [Reading(Moment.REST, 15, 10)], []),
        # Not multiplied: 33 read as a rate after 198; multiplied twice: 210 after 35.
        (Reading(Moment.ACTIVITY, 33, 60), [Reading(Moment.WARM_UP, 33, 10)], ["over_six"]),
        (Reading(Moment.ACTIVITY, 210, 60), [Reading(Moment.WARM_UP, 35, 60)], ["times_six"]),
        # As near as rounding brings them, and no nearer.
        (Reading(Moment.ACTIVITY, 213, 60), [Reading(Moment.WARM_UP, 35, 60)], ["times_six"]),
        (Reading(Moment.ACTIVITY, 214, 60), [Reading(Moment.WARM_UP, 35, 60)], []),
        (Reading(Moment.ACTIVITY, 34, 60), [Reading(Moment.WARM_UP, 33, 10)], ["over_six"]),
        (Reading(Moment.ACTIVITY, 35, 60), [Reading(Moment.WARM_UP, 203, 60)], []),
    ],
)
def test_pulse_slips_are_asked_about(
    reading: Reading, others: list[Reading], codes: list[str]
) -> None:
    found = pulse.flags(reading, others)
    assert [flag.code for flag in found] == codes
    assert all(flag.words[:1].isupper() and flag.words[-1:] in ".?" for flag in found)


@pytest.mark.parametrize(
    ("beats", "seconds", "words"),
    [
        (5, 10, None), (40, 10, None), (30, 60, None), (240, 60, None), (22, 10, None),
        (4, 10, "4 in 10 s is 24 a minute. A pulse is 30 to 240."),
        (25, 10, None),
        (132, 10, "132 in 10 s is 792 a minute. A pulse is 30 to 240. Was 132 already beats a "
                  "minute?"),
        (240, 30, "240 in 30 s is 480 a minute. A pulse is 30 to 240. Was 240 already beats a "
                  "minute?"),
        (241, 30, "241 in 30 s is 482 a minute. A pulse is 30 to 240."),
        (22, 60, "22 in 60 s is 22 a minute. A pulse is 30 to 240. Were these 22 beats in 10 s "
                 "(132 a minute)?"),
        (5, 60, "5 in 60 s is 5 a minute. A pulse is 30 to 240. Were these 5 beats in 10 s (30 a "
                "minute)?"),
        (4, 60, "4 in 60 s is 4 a minute. A pulse is 30 to 240."),
        (241, 60, "241 in 60 s is 241 a minute. A pulse is 30 to 240."),
        (22, 12, "A pulse is counted for 10, 15, 20, 30 or 60 s."),
    ],
)  # fmt: skip
def test_what_cannot_be_a_pulse_is_stopped_with_a_guess_at_why(
    beats: int, seconds: int, words: str | None
) -> None:
    assert pulse.hard_problem(beats, seconds) == words
