"""What a lesson showed, fit to be read aloud."""

from __future__ import annotations

from tests.api.asking import get, tested
from tests.api.conftest import World


def test_what_a_lesson_found_is_read_aloud_without_a_name(world: World) -> None:
    tested(world)
    (found,) = get(world.teacher, f"/api/lessons/{world.activity.lesson_id}/found")["tests"]
    said = " ".join(found["aloud"])
    assert "11 of us" in said or "Eleven of us did" in said
    assert "One of us has really got better" in said
    assert not any(pupil.given_name in said for pupil in world.pupils)
    assert found["teacher"].startswith("1 better, 9 steady, 1 lower")
