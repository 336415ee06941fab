"""Reads take as many queries for a full class with a long history as for an empty one."""

from __future__ import annotations

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from lauf.exchange.queries import report_children
from lauf.progress.school.school_picture import school_picture
from tests.api.conftest import World


def test_reads_use_a_constant_number_of_queries(world: World) -> None:
    first = world.record(world.pupils[0], "12", world.lesson_on(10))
    paths = {
        f"/api/activities/{world.activity.id}/lanes": 9,
        f"/api/activities/{world.activity.id}/check": 10,
        f"/api/activities/{world.activity.id}/scores.csv": 4,
        f"/api/lessons/{world.activity.lesson_id}": 6,
        f"/api/lessons/{world.activity.lesson_id}/helpers": 5,
        f"/api/lessons/{world.activity.lesson_id}/results": 9,
        f"/api/pupils/{world.pupils[0].id}": 10,
        f"/api/pupils/{world.pupils[0].id}/own": 10,
        f"/api/attempts/{first.id}/why": 9,
        f"/api/lessons/{world.activity.lesson_id}/found": 16,
        f"/api/classes/{world.school_class.id}/awards": 10,
        f"/api/classes/{world.school_class.id}/next": 26,
        f"/api/classes/{world.school_class.id}/family-lines": 2,
        f"/api/tests/{world.activity.protocol.test_id}/reliability": 7,
        f"/api/classes/{world.school_class.id}": 5,
        f"/api/classes/{world.school_class.id}/board": 15,
        "/api/classes": 3,
        "/api/today": 17,
        "/api/lessons/suggested?at=2026-03-10T09:00:00Z": 2,
        "/api/spares": 5,
        f"/api/spares/{world.school_class.id}/{world.activity.protocol.test_id}": 75,
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


def test_reports_and_the_school_use_a_constant_number_of_queries(world: World) -> None:
    """Those that are asked for by the head, and the one that is written."""

    def counted() -> list[int]:
        asks = (
            lambda: report_children(world.teacher.staff, world.school_class.id, today),
            lambda: school_picture(world.head.staff, today),
        )
        found = []
        for ask in asks:
            ask()
            with CaptureQueriesContext(connection) as asked:
                ask()
            found.append(len(asked))
        return found

    today = timezone.localdate()
    world.record(world.pupils[0], "12", world.lesson_on(10))
    few = counted()
    for days in (60, 30, 5):
        activity = world.lesson_on(days)
        for pupil in world.pupils:
            world.record(pupil, "15", activity)
    assert counted() == few and few[0] <= 14 and few[1] <= 11
