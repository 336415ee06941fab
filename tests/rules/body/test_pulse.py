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
