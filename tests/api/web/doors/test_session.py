"""Signing in, being locked out, and the first school."""

from __future__ import annotations

import json

import pytest
from django.core.management import CommandError, call_command
from django.test import Client, override_settings
from django.utils import timezone

from lauf.people.models import School, Staff
from lauf.rules.body.ages import school_year
from tests.api.conftest import PASSWORD, World

SET_UP = {
    "setup_code": "test-code",
    "school_name": "First School",
    "name": "Ash Head",
    "username": "ash",
    "password": "swinging-ropes-12",
}


def post(client: Client, path: str, body: dict[str, str], **headers: str) -> tuple[int, dict]:
    answer = client.post(path, json.dumps(body), content_type="application/json", headers=headers)
    return answer.status_code, answer.json()


def test_signing_in_and_out(world: World) -> None:
    client = Client()
    status, said = post(client, "/api/session", {"username": "teacher", "password": PASSWORD})
    assert status == 200
    assert said["person"]["name"] == "Teacher"
    assert said["person"]["school"] == "Test School"
    assert client.get("/api/today").status_code == 200
    assert client.delete("/api/session").json()["person"] is None
    assert client.get("/api/today").status_code == 401


def test_five_wrong_passwords_lock_that_name_out(world: World) -> None:
    client = Client()
    wrong = {"username": "teacher", "password": "wrong"}
    assert [post(client, "/api/session", wrong)[0] for _ in range(6)] == [401] * 5 + [429]
    status, said = post(client, "/api/session", {"username": "teacher", "password": PASSWORD})
    assert status == 429
    assert "quarter of an hour" in said["message"]
    # Another name from the same place is not locked out.
    assert post(client, "/api/session", {"username": "head", "password": PASSWORD})[0] == 200


def test_writes_without_the_csrf_token_are_refused(world: World) -> None:
    client = Client(enforce_csrf_checks=True)
    given = {"username": "teacher", "password": PASSWORD}
    assert post(client, "/api/session", given)[0] == 403
    client.get("/api/session")
    token = client.cookies["csrftoken"].value
    assert post(client, "/api/session", given, **{"X-CSRFToken": token})[0] == 200
    close = f"/api/lessons/{world.activity.lesson_id}/close"
    kind = "application/json"
    assert client.post(close, content_type=kind).status_code == 403
    fresh = {"X-CSRFToken": client.cookies["csrftoken"].value}
    assert client.post(close, content_type=kind, headers=fresh).status_code == 200


@pytest.mark.usefixtures("no_school")
def test_a_new_lauf_begins_with_a_school_and_its_head() -> None:
    client = Client()
    assert client.get("/api/session").json()["setup_needed"] is True
    for field, value, says in [
        ("setup_code", "guessed", "printed in the terminal"),
        ("password", "short", "at least 10"),
        ("password", "1234567890123", "numeric"),
        ("school_name", " ", "Give the school's name"),
    ]:
        status, said = post(client, "/api/setup", {**SET_UP, field: value})
        assert status == 422
        assert says in said["message"]
    status, said = post(client, "/api/setup", SET_UP)
    assert status == 200
    assert said["person"]["role"] == "head"
    assert "Press-ups in 60 s" in {test["name"] for test in client.get("/api/tests").json()}
    # The door is shut behind the first one.
    status, said = post(Client(), "/api/setup", {**SET_UP, "username": "second"})
    assert (status, School.objects.count()) == (422, 1)


@pytest.mark.usefixtures("no_school")
def test_demo_passwords_never_meet_a_school_of_ones_own() -> None:
    call_command("prepare")
    assert Staff.objects.filter(username="demo").exists()
    with pytest.raises(CommandError, match="known to everybody"):
        call_command("prepare", "--no-demo")


@pytest.mark.usefixtures("no_school")
def test_a_real_school_is_not_opened_as_a_demo() -> None:
    post(Client(), "/api/setup", SET_UP)
    with pytest.raises(CommandError, match="--no-demo"):
        call_command("prepare")
    with override_settings(DEMO=False, SHOW_DEMO=False):
        assert Client().get("/api/session").json()["demo_sign_ins"] == []
    assert list(Staff.objects.values_list("username", flat=True)) == ["ash"]


def test_a_class_is_added_from_a_pasted_list(world: World) -> None:
    year = str(world.school.year_groups.get(name="Year 2").id)
    born = school_year(timezone.localdate()) - 7
    listed = f"Ada Abara, {born}-05-31\nCian\tFarrow\n\nMina de Vance;{born}-01-02"
    made = world.head.ask(
        "POST", "/api/classes", {"name": "2 T", "year_group_id": year, "children": listed}
    )
    assert made.status_code == 422  # a tab parts the name from the birth date
    assert "Line 2" in made.json()["message"]
    made = world.head.ask(
        "POST",
        "/api/classes",
        {"name": "2 T", "year_group_id": year, "children": listed.replace("\t", " ")},
    )
    assert made.status_code == 201
    page = world.head.ask("GET", f"/api/classes/{made.json()['id']}").json()
    assert [(row["name"], row["born"]) for row in page["pupils"]] == [
        ("Ada Abara", f"{born}-05-31"),
        ("Cian Farrow", None),
        ("Mina de Vance", f"{born}-01-02"),
    ]
    for name, children, says in [
        ("2 T", "Ada", "already"),
        ("", "Ada", "Give the class a name"),
        ("3 T", "", "1 to 60 children"),
        ("3 T", "Ada, 31.5.2019", "Line 1: write the birth date as"),
        # Two digits changed places: a benchmark by age would believe it.
        ("3 T", f"Ada, {born}-05-31\nCian, {born - 10}-05-31", "Line 2: a child born"),
        ("3 T", f"Ada, {born + 50}-05-31", "Check the year of birth"),
    ]:
        body = {"name": name, "year_group_id": year, "children": children}
        answer = world.head.ask("POST", "/api/classes", body)
        assert answer.status_code == 422
        assert says in answer.json()["message"]
