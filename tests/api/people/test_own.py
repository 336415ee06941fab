"""A child's own page, opened by a code."""

from __future__ import annotations

from django.utils import timezone

from lauf.people.models import OwnPage
from tests.api.asking import get, tested
from tests.api.conftest import World


def test_a_code_opens_own_lanes_and_next_aims_and_nothing_else(world: World) -> None:
    tested(world)
    child = world.pupils[0]
    opened = world.teacher.ask("POST", f"/api/pupils/{child.id}/own-code").json()
    page = get(world.nobody, f"/api/own/{opened['code'].lower()}")
    assert page == get(world.teacher, f"/api/pupils/{child.id}/own")
    assert set(page) == {"name", "lanes"} and page["name"] == child.given_name
    assert set(page["lanes"][0]) == {
        "test", "variant", "lane", "shown", "best", "target", "rung_name",
    }  # fmt: skip
    text = str(page)
    assert not any(other.name in text for other in world.pupils[1:])
    # A new code closes the one before; a closed or late one opens nothing.
    again = world.teacher.ask("POST", f"/api/pupils/{child.id}/own-code").json()
    assert world.nobody.ask("GET", f"/api/own/{opened['code']}").status_code == 404
    assert OwnPage.objects.get(pupil=child).proof != again["code"]
    # It goes with whoever gave it, and is back with them.
    world.permit(world.teacher.staff, is_active=False)
    assert world.nobody.ask("GET", f"/api/own/{again['code']}").status_code == 404
    world.permit(world.teacher.staff, is_active=True)
    assert world.nobody.ask("GET", f"/api/own/{again['code']}").status_code == 200
    OwnPage.objects.update(until=timezone.now())
    assert world.nobody.ask("GET", f"/api/own/{again['code']}").status_code == 404
    assert world.nobody.ask("GET", "/api/own/AAAAAAAAAA").status_code == 404
