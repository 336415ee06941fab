"""The progressive 20 m shuttle run: schedules, shuttles, distance, speed and estimate."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.reading import shuttle
from lauf.rules.reading.shuttle import (
    EVEN,
    JUMP,
    STAGES,
    beeps_ms,
    score_after,
    shuttle_table,
    shuttles_in_stage,
    stage_speed,
)


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
