"""The whole school goes up a year: who is where, what stays as it was, and back."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from lauf.catalogue.models import Ladder
from lauf.lessons.models import Lesson
from lauf.people.models import MoveUp, Pupil, SchoolClass
from tests.api.conftest import World

AT = "/api/school/move-up"


@pytest.fixture
def school(world: World) -> World:
    """Beside 4 T: a class of the last year, one of the first, and one whose name has no number."""
    for name, year, children in (
        ("6 K", "Year 6", 3),
        ("1 A", "Year 1", 2),
        ("Kites", "Year 3", 2),
    ):
        group = SchoolClass.objects.create(
            school=world.school, name=name, year_group=world.school.year_groups.get(name=year)
        )
        for n in range(children):
            Pupil.objects.create(school=world.school, school_class=group, given_name=f"{name} {n}")
    return world


def preview(world: World) -> dict[str, Any]:
    return dict(world.head.ask("GET", AT).json())


def as_shown(page: dict[str, Any]) -> dict[str, Any]:
    return {
        "moves": [
            {
                "class_id": one["id"],
                "name": one["to_name"],
                "year_group_id": one["to_year_group_id"],
            }
            for one in page["classes"]
        ]
    }


def where(world: World) -> dict[str, tuple[str, str] | None]:
    found = Pupil.objects.filter(school=world.school).select_related("school_class__year_group")
    return {
        one.name: (one.school_class.name, one.school_class.year_group.name)
        if one.school_class
        else None
        for one in found
    }


def test_every_class_goes_up_and_the_last_one_leaves(school: World) -> None:
    page = preview(school)
    assert [(one["name"], one["to_name"], one["to_year_group_id"] is None) for one in
            page["classes"]] == [("1 A", "2 A", False), ("Kites", "Kites", False),
                                 ("4 T", "5 T", False), ("6 K", "6 K", True)]  # fmt: skip
    before = where(school)
    body = as_shown(page)
    year_one = str(school.school.year_groups.get(name="Year 1").id)
    body["new"] = [{"name": "1 A", "year_group_id": year_one}]
    answer = school.head.ask("POST", AT, body)
    assert answer.status_code == 200, answer.content
    now = where(school)
    assert now["1 A 0"] == ("2 A", "Year 2") and now["Kites 0"] == ("Kites", "Year 4")
    assert now["Child 00"] == ("5 T", "Year 5") and now["6 K 0"] is None
    assert {c["name"] for c in school.head.ask("GET", "/api/classes").json()["classes"]} == {
        "1 A", "2 A", "Kites", "5 T",
    }  # fmt: skip
    closed = SchoolClass.objects.get(school=school.school, closed_on__isnull=False)
    assert closed.name == "6 K", "nobody else has its name"
    # Once more in one year is asked about; undone in one press, all is as it was.
    again = school.head.ask("POST", AT, as_shown(preview(school)))
    assert again.status_code == 422 and "Move it up again?" in again.json()["message"]
    assert answer.json()["undoable"]
    back = school.head.ask("DELETE", AT)
    assert back.status_code == 200 and back.json()["last"] is None
    assert where(school) == before
    assert school.head.ask("DELETE", AT).status_code == 404
    assert preview(school)["classes"] == page["classes"]


def test_who_does_not_go_along_stays_or_leaves(school: World) -> None:
    page = preview(school)
    classes = {one["name"]: one["id"] for one in page["classes"]}
    body = as_shown(page)
    body["exceptions"] = [
        {"pupil_id": school.pupils[0].id, "class_id": classes["Kites"]},
        {"pupil_id": school.pupils[1].id, "class_id": None},
    ]
    assert school.head.ask("POST", AT, body).status_code == 200
    now = where(school)
    assert now["Child 00"] == ("Kites", "Year 4")  # a year once more
    assert now["Child 01"] is None and now["Child 02"] == ("5 T", "Year 5")


def test_what_cannot_be_is_refused_and_nothing_moves(school: World) -> None:
    page, before = preview(school), where(school)
    classes = {one["name"]: one["id"] for one in page["classes"]}
    good = as_shown(page)

    def refused(body: dict[str, Any], status: int, words: str) -> None:
        answer = school.head.ask("POST", AT, body)
        assert answer.status_code == status and words in answer.json()["message"], answer.content
        assert where(school) == before and not MoveUp.objects.exists()

    refused({**good, "moves": good["moves"][1:]}, 422, "Choose where each class goes")
    twice = [{**one, "name": "5 T"} for one in good["moves"]]
    refused({**good, "moves": twice}, 422, "Two classes would be called “5 T”")
    left = {"pupil_id": school.pupils[0].id, "class_id": classes["6 K"]}
    refused({**good, "exceptions": [left]}, 422, "only stay in a class that continues")
    stranger = Pupil.objects.create(
        school=school.stranger_head.staff.school,  # type: ignore[union-attr]
        school_class=SchoolClass.objects.create(
            school=school.stranger_head.staff.school,  # type: ignore[union-attr]
            name="X",
            year_group=school.stranger_head.staff.school.year_groups.first(),  # type: ignore
        ),
        given_name="Theirs",
    )
    refused({**good, "exceptions": [{"pupil_id": stranger.id, "class_id": None}]}, 404, "child")


def test_old_scores_stay_in_the_year_group_they_were_made_in(school: World) -> None:
    """The ladder of Year 4 judges what was done in Year 4, before and after."""
    test = school.activity.protocol.test_id
    for year, at in (("Year 4", 10), ("Year 5", 40)):
        Ladder.objects.filter(test=test, year_group__name=year, variant="full").delete()
        body = {
            "year_group_id": school.school.year_groups.get(name=year).id, "variant": "full",
            "rungs": [{"name": f"Rung of {year}", "at": str(at)}],
        }  # fmt: skip
        made = school.head.ask("POST", f"/api/tests/{test}/ladders", body)
        assert made.status_code == 201, made.content
    school.record(school.pupils[0], "20")
    lesson = school.activity.lesson_id
    before = school.child(school.pupils[0])
    assert "Rung of Year 4" in str(before)
    Lesson.objects.filter(pk=lesson).update(starts_at=timezone.now() - timedelta(days=1))
    assert school.head.ask("POST", AT, as_shown(preview(school))).status_code == 200
    after = school.child(school.pupils[0])
    assert "Rung of Year 4" in str(after) and "Rung of Year 5" not in str(after)
    assert school.teacher.ask("GET", f"/api/lessons/{lesson}").json()["year_group"] == "Year 4"
    # A new lesson is of the new year, and after its first score nothing is undone.
    school.school_class.refresh_from_db()
    new = school.lesson_on(0)
    assert preview(school)["undoable"]
    kept = school.record(school.pupils[0], "21", new)
    assert kept.activity.lesson.year_group.name == "Year 5"
    answer = school.head.ask("DELETE", AT)
    assert answer.status_code == 422 and "already has scores" in answer.json()["message"]
    assert not preview(school)["undoable"]
