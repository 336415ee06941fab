"""Courses of a school: what is a course, whose it is, and that names are told apart."""

from __future__ import annotations

from typing import Any

import pytest

from lauf.catalogue.models import Course
from tests.api.conftest import World


def make(world: World, **more: Any) -> Any:
    return world.teacher.ask("POST", "/api/courses", {"name": "Big loop", **more})


@pytest.mark.parametrize(
    ("entry", "lap_mm"),
    [
        ({"lap": "1m"}, 1_000),
        ({"lap": "5000m"}, 5_000_000),
        ({"steps": 100, "step_mm": 100}, 10_000),
        ({"steps": 62, "step_mm": 2_500}, 155_000),
        ({"steps": 1, "step_mm": 1_000}, 1_000),
        ({"steps": 41.5, "step_mm": 1_003}, 41_624),  # 41 624.5 mm, the half to the even
    ],
)
def test_a_lap_is_as_long_as_was_measured_or_paced(
    world: World, entry: dict[str, Any], lap_mm: int
) -> None:
    assert make(world, **entry).status_code == 201
    course = Course.objects.get(school=world.school, name="Big loop")
    assert abs(course.lap_mm - lap_mm) <= 1
    assert course.by == world.teacher.staff


@pytest.mark.parametrize(
    "entry",
    [
        {"lap": "0.999m"},
        {"lap": "5000.01m"},
        {"lap": ""},
        {"steps": 100, "step_mm": 99},
        {"steps": 100, "step_mm": 2_501},
        {"steps": 0.5, "step_mm": 2_500},
        {"steps": 100},
        {"lap": "42m", "name": "x"},
        {"lap": "42m", "name": "x" * 61},
    ],
)
def test_what_is_no_course_is_refused_with_a_reason(world: World, entry: dict[str, Any]) -> None:
    before = Course.objects.count()
    refused = make(world, **entry)
    assert refused.status_code == 422 and refused.json()["message"]
    assert Course.objects.count() == before


def test_a_name_is_given_once_and_a_course_is_its_makers_or_the_heads_to_delete(
    world: World,
) -> None:
    made = make(world, lap="42m").json()["id"]
    again = make(world, lap="50m")
    assert again.status_code == 422 and "already" in again.json()["message"]
    path = f"/api/courses/{made}"
    assert world.colleague.ask("DELETE", path).status_code == 403
    assert world.stranger.ask("DELETE", path).status_code == 404
    assert world.head.ask("DELETE", path).status_code == 204
