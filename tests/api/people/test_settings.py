"""What the head of PE sets: year groups, houses, terms, classes and their teachers."""

from __future__ import annotations

from typing import Any

import pytest

from lauf.people.models import Pupil, SchoolClass, Staff
from lauf.rules.body.ages import YEAR_GROUP_WAYS
from tests.api.conftest import World


def settings_of(world: World) -> dict[str, Any]:
    return dict(world.head.ask("GET", "/api/school").json())


def test_year_groups_are_named_ordered_added_and_kept_where_used(world: World) -> None:
    rows = settings_of(world)["year_groups"]
    used = str(world.school_class.year_group_id)
    # The names of two exchanged, one new at the front.
    rows[1]["name"], rows[2]["name"] = rows[2]["name"], rows[1]["name"]
    wanted = [{"id": None, "name": "Nursery", "age": 3}, *rows]
    kept = world.head.ask("PUT", "/api/school/year-groups", {"rows": wanted}).json()["year_groups"]
    assert [one["name"] for one in kept] == [one["name"] for one in wanted]
    assert [one["id"] for one in kept[1:]] == [one["id"] for one in rows]
    for bad, words in (
        ([one for one in kept if one["id"] != used], "cannot be deleted"),
        ([*kept, {"name": kept[0]["name"], "age": 5}], "Two have the name"),
        ([*kept, {"name": "Old", "age": 40}], "ages 3 to 14"),
        ([*kept, {"name": " ", "age": 5}], "a name"),
        ([], "at least one"),
    ):
        answer = world.head.ask("PUT", "/api/school/year-groups", {"rows": bad})
        assert answer.status_code == 422 and words in answer.json()["message"], answer.content
        assert settings_of(world)["year_groups"] == kept
    # One that nothing is of goes again.
    body = {"rows": kept[1:]}
    assert len(world.head.ask("PUT", "/api/school/year-groups", body).json()["year_groups"]) == 7


def test_every_way_of_naming_year_groups_is_in_order_of_age() -> None:
    for way, rows in YEAR_GROUP_WAYS.items():
        ages = [age for _, age in rows]
        assert ages == sorted(set(ages)) and len({name for name, _ in rows}) == len(rows), way
        assert all(3 <= age <= 14 for age in ages)


def test_houses_stay_while_a_child_is_in_one(world: World) -> None:
    at = "/api/school/houses"
    kept = world.head.ask("PUT", at, {"rows": [{"name": "Elm"}, {"name": "Oak"}]}).json()["houses"]
    elm = kept[0]
    child = {"given": "A", "house_id": elm["id"]}
    world.head.ask("PUT", f"/api/pupils/{world.pupils[0].id}/details", child)
    without = world.head.ask("PUT", at, {"rows": [kept[1]]})
    assert (
        without.status_code == 422
        and "Elm has children, so it cannot be deleted." in without.json()["message"]
    )
    swapped = [{**kept[0], "name": "Oak"}, {**kept[1], "name": "Elm"}]
    assert world.head.ask("PUT", at, {"rows": swapped}).status_code == 200
    page = world.teacher.ask("GET", f"/api/classes/{world.school_class.id}").json()
    assert page["pupils"][0]["house"] == "Oak"


@pytest.mark.parametrize(
    ("rows", "words"),
    [
        ([("term", "2026-03-01", "2026-02-01")], "ends before it starts"),
        ([("term", "2026-01-01", "2026-03-01"), ("term", "2026-03-01", "2026-04-01")],
         "starts before"),
        ([("week", "2026-01-01", "2026-03-01")], "kind"),
        ([("term", "1026-01-01", "2026-03-01")], "A day must be between"),
    ],
)  # fmt: skip
def test_terms_that_cannot_be_are_refused(world: World, rows: Any, words: str) -> None:
    body = {"rows": [{"kind": k, "name": "T", "starts": a, "ends": b} for k, a, b in rows]}
    answer = world.head.ask("PUT", "/api/school/terms", body)
    assert answer.status_code == 422 and words in answer.json()["message"]
    assert settings_of(world)["terms"] == []


def test_a_class_is_renamed_has_several_teachers_and_goes_when_empty(world: World) -> None:
    at = f"/api/classes/{world.school_class.id}"
    colleague = Staff.objects.get(username="colleague")
    five = str(world.school.year_groups.get(name="Year 5").id)
    body = {"name": "5 Swift", "year_group_id": five,
            "teacher_ids": [str(colleague.id), str(world.teacher.staff.id)]}  # type: ignore  # fmt: skip
    page = world.head.ask("PUT", at, body).json()
    assert (page["name"], page["year_group"]) == ("5 Swift", "Year 5")
    assert [one["name"] for one in page["teachers"]] == ["Colleague", "Teacher"]
    assert world.colleague.ask("GET", at).status_code == 200
    assert world.co_teacher.ask("GET", at).status_code == 404
    stranger = {**body, "teacher_ids": [str(world.stranger.staff.id)]}  # type: ignore[union-attr]
    assert world.head.ask("PUT", at, stranger).status_code == 404
    other = SchoolClass.objects.create(school=world.school, name="Spare", year_group_id=five)
    taken = world.head.ask("PUT", f"/api/classes/{other.id}", {**body, "teacher_ids": []})
    assert taken.status_code == 422 and "already" in taken.json()["message"]
    held = world.head.ask("DELETE", at)
    assert held.status_code == 422 and "cannot be deleted" in held.json()["message"]
    assert world.head.ask("DELETE", f"/api/classes/{other.id}").status_code == 204


def test_a_class_has_groups_of_its_own_which_a_plan_takes(world: World) -> None:
    at = f"/api/classes/{world.school_class.id}/groups"
    made = f"/api/lessons/{world.activity.lesson_id}/plan/groups"
    none = world.teacher.ask("POST", made, {"how": "own", "number": 2, "seed": 1})
    assert none.status_code == 422 and "has no groups yet" in none.json()["message"]
    rows = [
        {"pupil_id": one.id, "group": ("Red", "Blue ")[n % 2]}
        for n, one in enumerate(world.pupils[:10])
    ]
    page = world.teacher.ask("PUT", at, {"rows": rows}).json()
    assert [one["group"] for one in page["pupils"]][:3] == ["Red", "Blue", "Red"]
    found = world.teacher.ask("POST", made, {"how": "own", "number": 2, "seed": 1}).json()
    assert found["names"] == ["Blue", "Red", "No group"]
    assert [len(one) for one in found["members"]] == [5, 5, 2]
    many = [{"pupil_id": one.id, "group": f"G{n}"} for n, one in enumerate(world.pupils)]
    more = Pupil.objects.create(
        school=world.school, school_class=world.school_class, given_name="One more", group="G99"
    )
    full = world.teacher.ask("PUT", at, {"rows": many})
    assert full.status_code == 422 and "up to 12 groups" in full.json()["message"]
    more.refresh_from_db()
    assert more.group == "G99" and Pupil.objects.filter(group="Red").count() == 5


def test_who_may_see_the_whole_school_looks_after_every_class(world: World) -> None:
    at = f"/api/classes/{world.school_class.id}"
    assert world.colleague.ask("GET", at).status_code == 404
    world.permit(world.colleague.staff, may_see_school=True)
    assert world.colleague.ask("GET", at).status_code == 200
    lanes = f"/api/activities/{world.activity.id}"
    score = world.body(world.pupils[0], "20")
    assert world.colleague.ask("POST", f"{lanes}/attempts", score).status_code == 200
    # Not the head's own business: settings, leavers, the log.
    for path in ("/api/school", "/api/log", "/api/school/move-up"):
        assert world.colleague.ask("GET", path).status_code == 403
    world.head.ask("POST", f"/api/pupils/{world.pupils[1].id}/leave")
    assert world.colleague.ask("GET", f"/api/pupils/{world.pupils[1].id}").status_code == 404
    assert world.stranger.ask("GET", at).status_code == 404
