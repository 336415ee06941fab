"""A lesson: planned, run, and its scores taken."""

from lauf.api.lessons import (
    aims,
    calibrations,
    conduct,
    grid,
    lessons,
    plans,
    pulses,
    runs,
    scores,
    sensors,
    sittings,
    stand_ins,
    timetable,
)

ROUTERS = [
    one.router
    for one in (
        aims,
        calibrations,
        conduct,
        grid,
        lessons,
        plans,
        pulses,
        runs,
        scores,
        sensors,
        sittings,
        stand_ins,
        timetable,
    )
]
