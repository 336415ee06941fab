"""Children added, changed, moved, gone and back; found by any part of their names."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.utils import timezone

from lauf.people.models import House, Pupil, SchoolClass, YearGroup
from lauf.rules.body.ages import school_year
from tests.api.conftest import Person, World

#: A birth date that fits Year 4, whatever the day of the checks.
FITTING = date(school_year(timezone.localdate()) - 9, 11, 5)


def add(world: World, **more: Any) -> Any:
    body = {"given": "Ivo", "family": "Larch", "born": str(FITTING), "sex": "male", **more}
    return world.head.ask("POST", f"/api/classes/{world.school_class.id}/pupils", body)


def test_a_child_is_added_and_changed_and_doubles_are_asked_about(world: World) -> None:
    elm = House.objects.create(school=world.school, name="Elm")
    made = add(world, house_id=str(elm.id), note="Nuts", number="77")
    assert made.status_code == 201, made.content
    child = made.json()["id"]
    again = add(world)
    assert (
        again.status_code == 422
        and "There is already a child called Ivo Larch" in again.json()["message"]
        and again.json()["sure"] is True
    )
    assert add(world, sure=True).status_code == 201
    for wrong, says, can_be_confirmed in (
        ({"given": " "}, "first name", False),
        (
            {"family": "Elder", "born": str(FITTING.replace(year=FITTING.year - 9))},
            "Is that right?",
            True,
        ),
        ({"family": "Other", "number": "77"}, "another child", False),
    ):
        answer = add(world, **wrong)
        assert answer.status_code == 422 and says in answer.json()["message"], wrong
        assert answer.json().get("sure", False) is can_be_confirmed, wrong
    new = {"given": "Ivo", "family": "Larch-Moss", "sex": "", "note": "", "number": "77"}
    assert world.head.ask("PUT", f"/api/pupils/{child}/details", new).status_code == 200
    kept = Pupil.objects.get(pk=child)
    assert (kept.name, kept.born, kept.sex, kept.house, kept.medical_note) == (
        "Ivo Larch-Moss", None, "", None, "",
    )  # fmt: skip
    assert world.head.ask("GET", "/api/log").json()[0]["words"] == (
        "Ivo Larch-Moss (was Ivo Larch) changed"
    )


def test_a_child_moves_leaves_and_comes_back_with_its_scores(world: World) -> None:
    pupil = world.pupils[0]
    world.record(pupil, "21")
    year = YearGroup.objects.get(school=world.school, name="Year 5")
    other = SchoolClass.objects.create(school=world.school, name="5 T", year_group=year)
    at = f"/api/pupils/{pupil.id}"
    assert world.head.ask("POST", f"{at}/move", {"class_id": str(other.id)}).status_code == 200
    assert world.teacher.ask("GET", at).status_code == 404, "it is another teacher's child now"
    names = [one["name"] for one in world.teacher.ask(
        "GET", f"/api/classes/{world.school_class.id}").json()["pupils"]]  # fmt: skip
    assert pupil.name not in names
    assert world.head.ask("POST", f"{at}/leave").status_code == 200
    assert world.head.ask("POST", f"{at}/leave").status_code == 200, "once gone it stays gone"
    record = world.head.ask("GET", at).json()
    assert record["class_name"] == "5 T"
    assert [one["score"]["shown"] for one in record["tests"][0]["history"]] == ["21"]
    back = {"class_id": str(world.school_class.id)}
    assert world.head.ask("POST", f"{at}/move", back).status_code == 200
    assert world.teacher.ask("GET", at).status_code == 200
    words = [line["words"] for line in world.head.ask("GET", "/api/log").json()][:3]
    assert words == [
        f"{pupil.name} has come back to 4 T",
        f"{pupil.name} has left 5 T",
        f"{pupil.name} has moved from 4 T to 5 T",
    ]


def test_people_are_found_by_any_part_of_their_names_within_ones_scope(world: World) -> None:
    add(world, number="4711")

    def found(person: Any, words: str) -> list[str]:
        hits = person.ask("GET", f"/api/search?q={words}").json()
        return [one["name"] for one in [*hits["pupils"], *hits["classes"]]]

    assert found(world.teacher, "lar iv") == ["Ivo Larch"]
    assert found(world.teacher, "4711") == ["Ivo Larch"]
    assert found(world.teacher, "4 t") == ["4 T"]
    assert len(found(world.teacher, "child")) == 12
    for person in (world.colleague, world.stranger, world.stranger_head):
        assert found(person, "lar") == [] and found(person, "4 t") == []
    assert found(world.teacher, "%20") == []
    child = Pupil.objects.get(number="4711")
    world.head.ask("POST", f"/api/pupils/{child.id}/leave")
    assert found(world.teacher, "lar") == [], "who has left is the head's to find"
    hits = world.head.ask("GET", "/api/search?q=lar").json()
    assert hits["pupils"] == [{"id": str(child.id), "name": "Ivo Larch", "where": "has left"}]


def test_who_sees_the_school_does_not_see_who_has_left(world: World) -> None:
    here, left = world.pupils[:2]
    assert world.head.ask("POST", f"/api/pupils/{left.id}/leave").status_code == 200
    world.permit(world.colleague.staff, may_see_school=True)

    def seen(person: Person) -> list[int]:
        return [person.ask("GET", f"/api/pupils/{one.id}").status_code for one in (here, left)] + [
            len(person.ask("GET", f"/api/search?q={left.given_name}").json()["pupils"])
        ]

    assert seen(world.colleague) == [200, 404, 0]
    assert seen(world.head) == [200, 200, 1]
