"""Targets of one's own: said before the clock, judged after it."""

from __future__ import annotations

from typing import Any

from django.utils import timezone

from lauf.records.models import Aim
from tests.api.conftest import World


def ask(world: World, number: int, typed: str, variant: str = "full") -> Any:
    path = f"/api/activities/{world.activity.id}/aims/{world.pupils[number].id}"
    return world.teacher.ask("PUT", path, {"typed": typed, "variant": variant})


def page(world: World) -> dict[str, Any]:
    found: dict[str, Any] = world.teacher.ask(
        "GET", f"/api/activities/{world.activity.id}/aims"
    ).json()
    return found


def row(world: World, number: int) -> dict[str, Any]:
    wanted = str(world.pupils[number].id)
    return next(one for one in page(world)["children"] if one["pupil_id"] == wanted)


def test_what_was_said_is_held_against_what_was_done(world: World) -> None:
    for number, typed in enumerate(("24", "24", "24", "24", "24")):
        assert ask(world, number, typed).status_code == 200
    world.record(world.pupils[0], "26")
    world.record(world.pupils[1], "20")
    world.record(world.pupils[2], "30~")
    world.record(world.pupils[3], "30", variant="knees")
    world.record(world.pupils[4], "a")
    assert [row(world, n)["words"] for n in range(5)] == [
        "met, 2 more than the target", "4 short of the target",
        "not compared, because it is an estimate",
        "done in another form", "",
    ]  # fmt: skip
    assert [row(world, n)["met"] for n in range(4)] == [True, False, None, None]
    assert page(world)["words"].startswith("1 of 2 met their target")


def test_it_is_said_before_and_not_after(world: World) -> None:
    assert ask(world, 0, "24").status_code == 200
    assert ask(world, 0, "28").status_code == 200, "a child may think again"
    assert row(world, 0)["said"] == "28"
    attempt = world.record(world.pupils[0], "26")
    late = ask(world, 0, "26")
    assert late.status_code == 422 and "can no longer change" in late.json()["message"]
    assert ask(world, 0, "").status_code == 422, "nor is it undone then"
    assert row(world, 0)["said"] == "28"
    # A score undone was none.
    world.record(world.pupils[0], "", succeeds=attempt.id, withdrawn=True)
    assert ask(world, 0, "25").status_code == 200
    assert ask(world, 0, "").json()["children"][0]["said"] == ""
    assert not Aim.objects.exists()


def test_what_is_no_score_is_refused_and_changes_nothing(world: World) -> None:
    ask(world, 0, "24")
    for typed, variant in (("lots", "full"), ("a", "full"), ("61m", "full"), ("24", "one hand")):
        assert ask(world, 0, typed, variant).status_code == 422, typed
    assert row(world, 0)["said"] == "24"


def test_nobody_says_what_they_are_going_to_weigh(world: World) -> None:
    weight = world.lesson_on(0, "weight")
    path = f"/api/activities/{weight.id}/aims/{world.pupils[0].id}"
    answer = world.head.ask("PUT", path, {"typed": "31"})
    assert answer.status_code in (404, 422) and not Aim.objects.exists()


def test_the_proposed_is_taken_by_one_press_for_who_has_said_nothing(world: World) -> None:
    before = world.lesson_on(20)
    for number in range(4):
        world.record(world.pupils[number], str(20 + number), before)
    ask(world, 0, "40")
    world.record(world.pupils[1], "22")
    proposed = {one["pupil_id"]: one["proposed"] for one in page(world)["children"]}
    path = f"/api/activities/{world.activity.id}/aims"
    for _ in range(2):
        assert world.teacher.ask("POST", path).status_code == 200
    said = {one["pupil_id"]: one["said"] for one in page(world)["children"]}
    ids = [str(one.id) for one in world.pupils[:5]]
    assert said[ids[0]] == "40" and said[ids[1]] == "", "said already; scored already"
    assert said[ids[2]] == proposed[ids[2]] != "" and said[ids[3]] == proposed[ids[3]]
    assert said[ids[4]] == "", "never tested: nothing to propose"
    assert Aim.objects.filter(proposed=True).count() == 2


def test_the_page_takes_a_constant_number_of_queries(world: World) -> None:
    path = f"/api/activities/{world.activity.id}/aims"
    ask(world, 0, "24")
    few = world.queries(path)
    world.more_children()
    before = world.lesson_on(9)
    for number in range(10):
        world.record(world.pupils[number], str(20 + number), before)
        ask(world, number, "30")
        world.record(world.pupils[number], str(20 + number), recorded_at=timezone.now())
    assert world.queries(path) == few


def together(world: World, group: str, typed: str) -> Any:
    path = f"/api/activities/{world.activity.id}/group-aims"
    return world.teacher.ask("PUT", path, {"group": group, "typed": typed})


def groups(world: World) -> dict[str, tuple[Any, ...]]:
    return {
        one["group"]: (one["children"], one["said"], one["begun"], one["met"], one["words"])
        for one in page(world)["groups"]
    }


def test_a_group_says_what_it_will_do_together(world: World) -> None:
    """By hand: 20 + 22 of three, one of them a guess, against 60."""
    rows = [{"pupil_id": pupil.id, "group": "Red" if n < 3 else "Blue"}
            for n, pupil in enumerate(world.pupils[:6])]  # fmt: skip
    path = f"/api/classes/{world.school_class.id}/groups"
    assert world.teacher.ask("PUT", path, {"rows": rows}).status_code == 200
    assert groups(world) == {
        "": (12, None, False, None, ""), "Blue": (3, None, False, None, ""),
        "Red": (3, None, False, None, ""),
    }  # fmt: skip
    assert together(world, "Red", "60").status_code == 200
    assert together(world, "", "200").status_code == 200
    for typed in ("0", "1.5", "many", "-3", "1" * 9):
        refused = together(world, "Blue", typed)
        assert refused.status_code == 422 and "such as 240" in refused.json()["message"]
    assert together(world, "Green", "60").status_code == 404
    few = world.queries(f"/api/activities/{world.activity.id}/aims")
    world.record(world.pupils[0], "20")
    late = together(world, "Red", "30")
    assert late.status_code == 422 and "Red already has scores" in late.json()["message"]
    assert "The class already has scores" in together(world, "", "").json()["message"]
    assert together(world, "Blue", "40").status_code == 200, "another group has not"
    world.record(world.pupils[1], "22~")
    assert groups(world)["Red"] == (
        3, 60, True, None, "20 so far, 40 to go, 1 child still to come",
    )  # fmt: skip
    world.record(world.pupils[2], "22")
    assert groups(world)["Red"][3:] == (False, "42 together, 18 short of the target")
    for number in (3, 4):
        world.record(world.pupils[number], "24")
    assert groups(world)["Blue"][3:] == (True, "met: 48 together, 8 above the target")
    assert world.queries(f"/api/activities/{world.activity.id}/aims") == few
    assert together(world, "Blue", "").status_code == 422


def test_what_does_not_add_up_has_no_sum_to_aim_at(world: World) -> None:
    jump = world.lesson_on(0, "long-jump")
    at = f"/api/activities/{jump.id}"
    assert world.teacher.ask("GET", f"{at}/aims").json()["groups"] == []
    refused = world.teacher.ask("PUT", f"{at}/group-aims", {"group": "", "typed": "9"})
    assert refused.status_code == 422 and "cannot be added up" in refused.json()["message"]
