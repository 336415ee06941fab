"""Who signs in: let in by a link, given permissions, shut out; one's own password and sessions."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

import pytest
from django.contrib.auth.hashers import check_password
from django.test import Client
from django.utils import timezone

from lauf.errors import Refused
from lauf.people.models import Invitation, Staff
from lauf.web.hashing import hashed
from tests.api.conftest import PASSWORD, Person, World

NEW = "quiet-painted-lines-3"


def send(client: Client, method: str, path: str, body: Any) -> Any:
    return client.generic(method, path, json.dumps(body), content_type="application/json")


def invite(world: World, **more: Any) -> tuple[dict[str, Any], str]:
    """What the head is answered, and the token in it."""
    asked = {"name": "Kit Marsh", "username": "kit", "role": "teacher", **more}
    answer = world.head.ask("POST", "/api/staff", asked)
    assert answer.status_code == 201, answer.content
    link = answer.json()
    return link, link["path"].partition("#")[2]


def signed_in(username: str, password: str) -> Client:
    client = Client()
    said = send(client, "POST", "/api/session", {"username": username, "password": password})
    assert said.status_code == 200, said.content
    return client


def test_a_second_teacher_comes_by_a_link_that_works_once(world: World) -> None:
    link, token = invite(world, class_ids=[str(world.school_class.id)])
    assert link["qr"].startswith("data:image/svg+xml") and token not in link["name"]
    person = Staff.objects.get(username="kit")
    assert not person.has_usable_password() and not Staff.objects.filter(password=token).exists()
    assert token not in str(Invitation.objects.values())
    device = Client()
    who = send(device, "POST", "/api/welcome", {"token": token}).json()
    assert who == {"name": "Kit Marsh", "username": "kit", "school": "Test School"}
    for weak, says in (("short", "at least 10"), ("my-marsh-2026", "must not contain your name")):
        refused = send(device, "PUT", "/api/welcome", {"token": token, "password": weak})
        assert refused.status_code == 422 and says in refused.json()["message"]
    taken = send(device, "PUT", "/api/welcome", {"token": token, "password": NEW})
    assert taken.json()["person"]["name"] == "Kit Marsh"
    assert device.get(f"/api/classes/{world.school_class.id}").status_code == 200
    again = send(Client(), "PUT", "/api/welcome", {"token": token, "password": NEW})
    assert again.status_code == 422 and "has expired" in again.json()["message"]
    assert signed_in("kit", NEW).get("/api/today").status_code == 200


def test_a_link_that_is_old_or_has_a_successor_is_worth_nothing(world: World) -> None:
    _, first = invite(world)
    person = Staff.objects.get(username="kit")
    _, second = invite_anew(world, person)
    assert send(Client(), "POST", "/api/welcome", {"token": first}).status_code == 422
    Invitation.objects.update(expires_at=timezone.now() - timedelta(seconds=1))
    assert send(Client(), "POST", "/api/welcome", {"token": second}).status_code == 422
    # A lost password: the new link ends what was signed in before.
    _, third = invite_anew(world, person)
    send(Client(), "PUT", "/api/welcome", {"token": third, "password": NEW})
    device = signed_in("kit", NEW)
    _, fourth = invite_anew(world, person)
    assert device.get("/api/today").status_code == 200, "until the link is used"
    send(Client(), "PUT", "/api/welcome", {"token": fourth, "password": NEW + "-4"})
    assert device.get("/api/today").status_code == 401


def invite_anew(world: World, person: Staff) -> tuple[dict[str, Any], str]:
    link = world.head.ask("POST", f"/api/staff/{person.id}/link").json()
    return link, link["path"].partition("#")[2]


def test_who_is_shut_out_is_out_at_once_and_can_be_let_in_again(world: World) -> None:
    teacher = world.teacher
    assert teacher.ask("GET", "/api/today").status_code == 200
    assert world.permit(teacher.staff, is_active=False).status_code == 200
    assert teacher.ask("GET", "/api/today").status_code == 401
    sent = {"username": "teacher", "password": PASSWORD}
    assert send(Client(), "POST", "/api/session", sent).status_code == 401
    assert world.head.ask("POST", f"/api/staff/{teacher.staff.id}/link").status_code == 422  # type: ignore[union-attr]
    assert world.permit(teacher.staff, is_active=True).status_code == 200
    assert teacher.ask("GET", "/api/today").status_code == 401, "the old session stays ended"
    assert signed_in("teacher", PASSWORD).get("/api/today").status_code == 200


def test_a_school_keeps_one_head(world: World) -> None:
    for change in ({"role": "teacher"}, {"is_active": False}):
        refused = world.permit(world.head.staff, **change)
        assert refused.status_code == 422 and "the only head" in refused.json()["message"]
    assert world.permit(world.colleague.staff, role="head").status_code == 200
    assert world.permit(world.head.staff, role="teacher").status_code == 200
    assert world.head.ask("GET", "/api/school").status_code == 403
    assert world.colleague.ask("GET", "/api/school").status_code == 200


@pytest.mark.parametrize("may", [True, False])
def test_teachers_change_tests_unless_the_head_says_no(world: World, may: bool) -> None:
    test = world.activity.protocol.test_id
    world.permit(world.teacher.staff, may_edit_tests=may)
    shown = world.teacher.ask("GET", f"/api/tests/{test}").json()
    assert shown["may_edit"] is may
    body = {"based_on": 1, "protocol": {**shown["protocol"], "easier": "From a wall."}}
    answer = world.teacher.ask("POST", f"/api/tests/{test}/versions", body)
    assert answer.status_code == (201 if may else 403)
    assert world.teacher.ask("GET", "/api/school").status_code == 403, "the school is the head's"
    asked = {"name": "A", "username": "a", "role": "teacher"}
    assert world.head.ask("POST", "/api/staff", asked).status_code == 201
    assert Staff.objects.get(username="a").may_edit_tests, "on for who is new"


def test_a_new_password_is_held_against_its_person_before_it_is_hashed(world: World) -> None:
    """The thread that hashes sees nothing of this test's database, and asks it for nothing."""
    assert world.teacher.staff is not None
    person = Staff.objects.get(pk=world.teacher.staff.pk)  # its school is not read yet
    assert check_password(NEW, hashed(NEW, person))
    fresh = Staff.objects.get(pk=person.pk)
    with pytest.raises(Refused, match="must not contain your name"):
        hashed("teacher-12345", fresh)


def test_ones_own_password_and_sessions(world: World) -> None:
    here, there = signed_in("teacher", PASSWORD), signed_in("teacher", PASSWORD)
    wrong = send(here, "PUT", "/api/session/password", {"old": "x", "new": NEW})
    assert wrong.status_code == 422 and "not your current password" in wrong.json()["message"]
    weak = send(here, "PUT", "/api/session/password", {"old": PASSWORD, "new": "teacher-12345"})
    assert weak.status_code == 422 and "must not contain" in weak.json()["message"]
    done = send(here, "PUT", "/api/session/password", {"old": PASSWORD, "new": NEW})
    assert done.json()["person"]["name"] == "Teacher"
    assert (here.get("/api/today").status_code, there.get("/api/today").status_code) == (200, 401)
    there = signed_in("teacher", NEW)
    assert here.delete("/api/session/others").status_code == 200
    assert (here.get("/api/today").status_code, there.get("/api/today").status_code) == (200, 401)


def test_what_was_done_about_staff_is_on_record(world: World) -> None:
    _, token = invite(world, role="head", may_see_growth=True)
    send(Client(), "PUT", "/api/welcome", {"token": token, "password": NEW})
    kit = Staff.objects.get(username="kit")
    world.permit(kit, role="teacher", may_edit_tests=False, is_active=False)
    words = [line["words"] for line in world.head.ask("GET", "/api/log").json()][::-1]
    assert words == [
        "Kit Marsh invited as Head of PE",
        "Kit Marsh may see height and weight",
        "Kit Marsh has set a password by a link",
        "Kit Marsh is now Teacher",
        "Kit Marsh suspended",
        "Kit Marsh may no longer change tests and benchmarks",
    ]


def test_links_are_not_guessed(world: World) -> None:
    found = [send(Client(), "POST", "/api/welcome", {"token": str(n)}).status_code
             for n in range(11)]  # fmt: skip
    assert found == [422] * 10 + [429]
    assert Person(None, Client()).ask("GET", "/api/school").status_code == 401
