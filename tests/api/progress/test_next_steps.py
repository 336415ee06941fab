"""What is due next in a class."""

from __future__ import annotations

from tests.api.asking import get
from tests.api.conftest import World


def test_what_is_next_names_who_needs_another_form(world: World) -> None:
    activity = world.lesson_on(120)
    for number, pupil in enumerate(world.pupils):
        world.record(pupil, "60" if number == 0 else "4", activity, variant="full")
    page = get(world.teacher, f"/api/classes/{world.school_class.id}/next")
    (test,) = page["tests"]
    assert test["due"] and test["missing"] == 12
    assert [one["name"] for one in test["easier"]] == [one.name for one in world.pupils[1:]]
    assert test["harder"] == []  # full is the hardest there is
