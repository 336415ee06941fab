"""Groups over stations: how they are made, who is where, and the cards."""

from __future__ import annotations

from typing import Any

import pytest

from lauf.people.actions import create_house
from lauf.people.models import Pupil
from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.blocks import BlockKind
from tests.api.conftest import World


def propose(world: World, status: int = 200, **wish: Any) -> Any:
    path = f"/api/lessons/{world.activity.lesson_id}/plan/groups"
    answer = world.teacher.ask("POST", path, wish)
    assert answer.status_code == status, answer.content
    return answer.json()


def plan_with(world: World, groups: dict[str, Any] | None, **more: Any) -> Any:
    """A plan of one stations block, kept; the stations page."""
    path = f"/api/lessons/{world.activity.lesson_id}"
    revision = world.teacher.ask("GET", f"{path}/plan").json()["revision"]
    block = {
        **BLOCK_KINDS[BlockKind.STATIONS].new,
        "label": "Ring",
        **more,
    }
    if groups:
        block["groups"] = {key: groups[key] for key in ("how", "names", "members")}
    kept = world.teacher.ask("PUT", f"{path}/plan", {"based_on": revision, "blocks": [block]})
    assert kept.status_code == 200, kept.content
    return world.teacher.ask("GET", f"{path}/stations/0").json()


def everybody(world: World) -> list[str]:
    return sorted(str(pupil.id) for pupil in world.pupils)


def test_groups_at_random_are_even_and_the_same_seed_makes_them_again(world: World) -> None:
    first = propose(world, how="random", number=5, seed=3)
    assert sorted(map(len, first["members"])) == [2, 2, 2, 3, 3]
    assert sorted(child for group in first["members"] for child in group) == everybody(world)
    assert propose(world, how="random", number=5, seed=3) == first
    assert propose(world, how="random", number=5, seed=4) != first


def test_balanced_groups_go_by_the_last_score_and_are_about_equal(world: World) -> None:
    test = str(world.activity.protocol.test_id)
    said = propose(world, 422, how="balanced", number=3, test_id=test)["message"]
    assert "Only 0 children have a comparable score" in said
    earlier = world.lesson_on(14)
    for number, pupil in enumerate(world.pupils[:11]):  # one has no score: the middle
        world.record(pupil, str(10 + 2 * number), earlier)
    made = propose(world, how="balanced", number=3, test_id=test)
    assert "1 child without one" in made["words"]
    level = {str(p.id): 10 + 2 * n for n, p in enumerate(world.pupils[:11])}
    means = [sum(level.get(child, 20) for child in group) / len(group) for group in made["members"]]
    assert max(means) - min(means) <= 2, "no group is stronger by more than one rank"


def test_groups_by_house_carry_the_houses_names(world: World) -> None:
    assert "two houses" in propose(world, 422, how="house")["message"]
    for number, name in enumerate(("Birch", "Alder")):
        house = create_house(world.school, name)
        ids = [pupil.id for pupil in world.pupils[number:11:2]]
        Pupil.objects.filter(pk__in=ids).update(house=house)
    made = propose(world, how="house")
    assert made["names"] == ["Alder", "Birch", "No house"]
    assert list(map(len, made["members"])) == [5, 6, 1]


@pytest.mark.parametrize("number", [1, 13])
def test_groups_that_cannot_be_say_what_can(world: World, number: int) -> None:
    assert "Make 2 to 12 groups" in propose(world, 422, how="random", number=number)["message"]


def test_every_group_is_at_every_station_once_and_every_child_in_one_group(world: World) -> None:
    page = plan_with(world, propose(world, how="random", number=4))
    assert [station["name"] for station in page["stations"]] == [
        "skipping", "press-ups", "step-ups", "plank",
    ]  # fmt: skip
    children = [child["id"] for group in page["groups"] for child in group["children"]]
    assert sorted(children) == everybody(world)
    names = [group["name"] for group in page["groups"]]
    for number in range(4):
        here = [group for station in page["stations"] for group in station["visits"][number]]
        assert sorted(here) == names, "each group in one place"
    for station in page["stations"]:
        assert sorted(group for visit in station["visits"] for group in visit) == names
    assert page["gave_up"] == []
    # The conductor and its projector are handed the same table.
    path = f"/api/lessons/{world.activity.lesson_id}/timeline"
    timeline = world.teacher.ask("GET", path).json()
    assert timeline["blocks"][0]["rotation"]["rounds"] == page["rounds"]


def test_what_a_rotation_gives_up_is_said(world: World) -> None:
    page = plan_with(world, None, rounds=3)
    assert page["gave_up"] == ["Every group misses 1 station."]
    assert all(not group["children"] for group in page["groups"]), "no groups were made"
    arms = [{"name": n, "loads": ["push"], "room": 1} for n in ("press-ups", "dips")]
    page = plan_with(world, None, stations=arms, rounds=2)
    assert page["gave_up"] == ["2 times, a group works the same part of the body twice running."]
    # More groups than places: the plan stays, and says that there is no rotation.
    six = propose(world, how="random", number=6)
    page = plan_with(world, six)
    assert page["rounds"] == []
    assert (
        "No rotation is possible. 6 groups need 6 places, but there are only 4."
        in page["gave_up"][0]
    )


def test_a_child_new_in_the_class_joins_the_smallest_group_and_one_who_left_is_gone(
    world: World,
) -> None:
    made = propose(world, how="random", number=4)
    late = Pupil.objects.create(
        school=world.school, school_class=world.school_class, given_name="Late"
    )
    gone = Pupil.objects.get(pk=made["members"][2][0])
    gone.delete()
    page = plan_with(world, made)
    assert "New in the class and added to the smallest group: Late." in page["gave_up"]
    assert str(late.id) in [child["id"] for child in page["groups"][2]["children"]]
    assert [len(group["children"]) for group in page["groups"]] == [3, 3, 3, 3]


def test_a_child_moved_by_hand_stays_there_and_is_never_in_two_groups(world: World) -> None:
    made = propose(world, how="random", number=4)
    child = made["members"][0].pop()
    made["members"][3].append(child)
    page = plan_with(world, {**made, "how": "hand"})
    here = [group["name"] for group in page["groups"]
            if child in [one["id"] for one in group["children"]]]  # fmt: skip
    assert here == ["Group 4"]
    path = f"/api/lessons/{world.activity.lesson_id}/plan"
    plan = world.teacher.ask("GET", path).json()
    (block,) = plan["blocks"]
    for wrong, says in (
        ({"members": [*made["members"][:3], [*made["members"][3], made["members"][0][0]]]},
         "one group only"),
        ({"names": made["names"][:3]}, "one name"),
    ):  # fmt: skip
        groups = {"how": "hand", "names": made["names"], "members": made["members"], **wrong}
        entry = {**block["entry"], "groups": groups}
        body = {"based_on": plan["revision"], "blocks": [entry]}
        refused = world.teacher.ask("PUT", path, body)
        assert refused.status_code == 422
        assert says in refused.json()["message"]
    assert world.teacher.ask("GET", path).json()["revision"] == plan["revision"]


def test_the_page_takes_a_constant_number_of_queries(world: World) -> None:
    plan_with(world, propose(world, how="random", number=4))
    path = f"/api/lessons/{world.activity.lesson_id}/stations/0"
    few = world.queries(path)
    world.more_children()
    assert world.queries(path) == few
