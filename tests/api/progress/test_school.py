"""The picture of the school, without names."""

from __future__ import annotations

from django.utils import timezone

from tests.api.asking import get, paper, tested
from tests.api.conftest import World


def test_the_school_is_told_without_names_and_small_groups_not_at_all(world: World) -> None:
    tested(world)
    picture = get(world.head, "/api/school/picture")
    (year,) = picture["terms"][-1]["year_groups"]
    assert (year["told"], year["children"], year["took_part"]) == (True, 12, 12)
    assert (year["better"], year["lower"]) == (1, 1)
    text = str(picture)
    assert not any(pupil.name in text for pupil in world.pupils)
    for pupil in world.pupils[4:]:
        pupil.school_class, pupil.left_from = None, world.school_class
        pupil.left_on = timezone.localdate()
        pupil.save()
    (small,) = get(world.head, "/api/school/picture")["terms"][-1]["year_groups"]
    assert not small["told"] and small["better"] == small["children"] == 0
    (page,) = paper(world.head, "/api/school/head-page")
    assert "Fewer than 5 children, so not shown" in page
