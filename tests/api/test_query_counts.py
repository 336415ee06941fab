"""Reads take as many queries for a full class with a long history as for an empty one."""

from __future__ import annotations

from django.db import connection
from django.test.utils import CaptureQueriesContext

from tests.api.conftest import World


def test_reads_use_a_constant_number_of_queries(world: World) -> None:
    paths = {
        f"/api/activities/{world.activity.id}/lanes": 7,
        f"/api/activities/{world.activity.id}/check": 8,
        f"/api/activities/{world.activity.id}/scores.csv": 4,
        f"/api/lessons/{world.activity.lesson_id}": 6,
        f"/api/lessons/{world.activity.lesson_id}/results": 9,
        f"/api/pupils/{world.pupils[0].id}": 8,
        f"/api/classes/{world.school_class.id}": 3,
        "/api/classes": 3,
        "/api/today": 12,
        "/api/lessons/suggested?at=2026-03-10T09:00:00Z": 2,
    }

    def counted() -> dict[str, int]:
        found = {}
        for path in paths:
            # What repeat tests add up to is summed up once for the day.
            world.teacher.ask("GET", path)
            with CaptureQueriesContext(connection) as asked:
                assert world.teacher.ask("GET", path).status_code == 200
            found[path] = len(asked) - 2  # the session and its person
        return found

    few_activity = world.lesson_on(10)
    world.record(world.pupils[0], "12", few_activity)
    few = counted()
    for days in (70, 63, 40, 20):
        activity = world.lesson_on(days)
        for pupil in world.pupils:
            world.record(pupil, "15", activity)
    for pupil in world.pupils:
        world.record(pupil, "18")
    many = counted()
    assert many == few
    assert {path: n for path, n in many.items() if n > paths[path]} == {}
