"""The log of changes: who changed what, append-only, for the head of PE."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from django.db import DatabaseError, transaction

from lauf.people.models import Change
from tests.api.conftest import World
from tests.api.weeks import challenge_ids


def log(world: World) -> list[dict[str, Any]]:
    answer = world.head.ask("GET", "/api/log")
    assert answer.status_code == 200
    found: list[dict[str, Any]] = answer.json()
    return found


def done(world: World) -> dict[str, Any]:
    """One change of each sort, through the API: what -> the answer."""
    test = world.activity.protocol.test_id
    card = world.head.ask("GET", f"/api/tests/{test}").json()
    page = world.head.ask("GET", f"/api/tests/{test}/benchmarks").json()
    ladder = page["ladders"][0]
    staff = world.colleague.staff
    assert staff is not None and world.teacher.staff is not None
    ids = challenge_ids(world, world.teacher.staff)
    lesson = f"/api/lessons/{world.activity.lesson_id}"
    edited = {**card["protocol"], "easier": "From a wall."}
    rungs = [{"name": "Kerb", "at": "9"}]
    own = {
        "year_group_id": ladder["year_group_id"], "variant": ladder["variant"], "rungs": rungs,
    }  # fmt: skip
    head, teacher = world.head, world.teacher
    plan = {"blocks": [{"kind": "water", "seconds": 60}, {"kind": "test", "test_id": test}]}
    return {
        "Permission": world.permit(staff, may_see_growth=True),
        "Units": head.ask("PUT", "/api/school/units", {"imperial": True}),
        "Protocol": head.ask(
            "POST",
            f"/api/tests/{test}/versions",
            {"based_on": 1, "why": "kinder", "protocol": edited},
        ),
        "Ladder": head.ask("PUT", f"/api/tests/{test}/ladders/{ladder['id']}", own),
        "Plan": teacher.ask("PUT", f"{lesson}/plan", plan),
        "Lesson": teacher.ask("POST", f"{lesson}/close"),
        "Points": teacher.ask("POST", f"/api/points/{ids['point_id']}/reverse", {"why": "slip"}),
    }


def test_what_changes_a_judgement_is_on_record_with_its_person(world: World) -> None:
    answers = done(world)
    refused = {what: a.content for what, a in answers.items() if a.status_code >= 300}
    assert refused == {}
    lines = log(world)
    by = {line["what"]: line["by"] for line in reversed(lines)}
    heads = ("Permission", "Units", "Protocol", "Ladder")
    assert {what: by[what] for what in answers} == {
        what: "Head" if what in heads else "Teacher" for what in answers
    }
    assert [line["id"] for line in lines] == sorted((one["id"] for one in lines), reverse=True)
    assert any("kinder" in line["words"] for line in lines)
    assert any("slip" in line["words"] for line in lines)


def test_what_was_refused_or_done_twice_is_not_there_as_done(world: World) -> None:
    world.teacher.ask("PUT", "/api/school/units", {"imperial": True})
    nobody = {"name": "N", "role": "head", "is_active": True}
    world.head.ask("PUT", f"/api/staff/{uuid.uuid4()}", nobody)
    assert log(world) == []
    for _ in range(2):
        world.teacher.ask("POST", f"/api/lessons/{world.activity.lesson_id}/close")
    assert len(log(world)) == 1


def test_nothing_in_it_is_changed(world: World) -> None:
    world.head.ask("PUT", "/api/school/units", {"imperial": True})
    line = Change.objects.get()
    with pytest.raises(DatabaseError), transaction.atomic():
        Change.objects.filter(pk=line.pk).update(words="nothing")
    with pytest.raises(DatabaseError), transaction.atomic():
        line.delete()


def test_earlier_pages_follow_without_a_gap(world: World) -> None:
    for number in range(205):
        world.head.ask("PUT", "/api/school/units", {"imperial": number % 2 == 0})
    newest = log(world)
    earlier = world.head.ask("GET", f"/api/log?before={newest[-1]['id']}").json()
    assert (len(newest), len(earlier)) == (200, 5)
    assert len({one["id"] for one in newest + earlier}) == 205


def test_who_grants_oneself_a_permission_is_on_record_as_such(world: World) -> None:
    """Each time it changes; pressing again what is so already changes nothing."""
    head = world.head.staff
    assert head is not None
    for granted in (True, True, False):
        assert world.permit(head, may_see_growth=granted).status_code == 200
    words = [line["words"] for line in log(world) if line["what"] == "Permission"]
    assert words == [
        "Head may no longer see height and weight (by themselves)",
        "Head may see height and weight (by themselves)",
    ]
    world.permit(world.teacher.staff, may_see_growth=True)
    assert log(world)[0]["words"] == "Teacher may see height and weight"
