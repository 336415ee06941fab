"""Many schools on one Lauf: the office of a trust, limits, closing, and work in two schools."""

from __future__ import annotations

import uuid
from typing import Any

import pyotp
import pytest
from django.test import Client

from lauf.people.models import Change, Pupil, School, SecondPost, Staff
from tests.api.asking import childs_device, get, helpers_key
from tests.api.conftest import PASSWORD, Person, World, a_client
from tests.api.people.test_lists import preview
from tests.api.people.test_staff import NEW, send
from tests.api.trusts import Office, an_office, signed_in


@pytest.fixture
def office(world: World) -> Office:
    return an_office(world)


def token_of(link: dict[str, Any]) -> str:
    return str(link["path"]).partition("#")[2]


def test_a_new_school_begins_sealed_with_its_own_head(world: World, office: Office) -> None:
    answer = office.opened()
    assert answer.status_code == 201, answer.content
    school = School.objects.get(name="Quarry School")
    assert office.row(school)["waits_for_head"] and school.trust == office.trust
    head = Client()
    taken = send(head, "PUT", "/api/welcome", {"token": token_of(answer.json()), "password": NEW})
    assert taken.json()["person"]["school"] == "Quarry School"
    assert head.get("/api/classes").json()["classes"] == []
    assert len(head.get("/api/catalogue").json()["families"]) > 3, "ready to test with"
    years = head.get("/api/school").json()["year_groups"]
    new = {"name": "1 Q", "year_group_id": years[0]["id"], "children": "Ada\nBen"}
    assert send(head, "POST", "/api/classes", new).status_code == 201
    assert head.get(f"/api/pupils/{world.pupils[0].id}").status_code == 404
    seen = {one["name"] for one in get(world.head, "/api/classes")["classes"]}
    assert "1 Q" not in seen
    row = office.row(school)
    assert (row["children"], row["staff"], row["classes"]) == (2, 1, 1)


def test_the_office_makes_no_link_to_a_school_that_has_staff(world: World, office: Office) -> None:
    """Whoever has a link to a school sees its children."""
    answer = office.opened()
    school = School.objects.get(name="Quarry School")
    again = office.person.ask("POST", f"/api/trust/schools/{school.id}/link").json()
    old = send(Client(), "POST", "/api/welcome", {"token": token_of(answer.json())})
    assert old.status_code == 422, "the first is worth nothing any more"
    send(Client(), "PUT", "/api/welcome", {"token": token_of(again), "password": NEW})
    for one in (school, world.school):
        refused = office.person.ask("POST", f"/api/trust/schools/{one.id}/link")
        assert refused.status_code == 422 and "already has staff" in refused.json()["message"]
    assert office.person.ask("POST", f"/api/staff/{world.teacher.staff.id}/link").status_code == 404  # type: ignore[union-attr]


def test_what_a_trust_refuses_says_what_it_accepts(world: World, office: Office) -> None:
    for more, said in (
        ({"school_name": " "}, "up to 120 letters"),
        ({"school_name": "test school"}, "already has a school"),
        ({"username": "TEACHER"}, "user name is taken"),
        ({"name": ""}, "a user name of up to 60"),
    ):
        refused = office.opened(**more)
        assert refused.status_code == 422 and said in refused.json()["message"], more
    for most in (0, -1, 20_001):
        assert office.limit(world.school, most_children=most).status_code == 422
    assert office.limit(School(id=uuid.uuid4())).status_code == 404
    elsewhere = School.objects.create(name="Of no trust")
    assert office.pause(elsewhere).status_code == 404


def test_a_limit_holds_at_every_way_in_and_sends_nobody_away(world: World, office: Office) -> None:
    group, head = world.school_class, world.head
    assert office.limit(world.school, most_children=12, most_staff=5).status_code == 200
    years = get(head, "/api/school")["year_groups"]
    text = "Name,Class\nAda Abara,4 T"
    agreement = preview(world, text)["agreement"]
    ways = {
        "a child": ("POST", f"/api/classes/{group.id}/pupils", {"given": "New"}),
        "a class": ("POST", "/api/classes", {"name": "1 X", "year_group_id": years[0]["id"],
                                             "children": "New"}),
        "a list": ("POST", "/api/lists", {"text": text, "agreement": agreement}),
    }  # fmt: skip
    for name, (method, path, body) in ways.items():
        refused = head.ask(method, path, body)
        assert refused.status_code == 422, (name, refused.content)
        assert "allows 12 children" in refused.json()["message"], name
    gone = world.pupils[3]
    assert head.ask("POST", f"/api/pupils/{gone.id}/leave").status_code == 200
    assert head.ask("POST", f"/api/classes/{group.id}/pupils", {"given": "New"}).status_code == 201
    back = head.ask("POST", f"/api/pupils/{gone.id}/move", {"class_id": str(group.id)})
    assert back.status_code == 422
    assert Pupil.objects.get(pk=gone.pk).school_class is None
    # Staff: invited, or let in again.
    asked = {"name": "Kit", "username": "kit", "role": "teacher"}
    assert head.ask("POST", "/api/staff", asked).status_code == 201
    full = head.ask("POST", "/api/staff", {**asked, "username": "kat"})
    assert full.status_code == 422 and "allows 5 staff" in full.json()["message"]
    assert world.permit(world.colleague.staff, is_active=False).status_code == 200
    assert head.ask("POST", "/api/staff", {**asked, "username": "kat"}).status_code == 201
    assert world.permit(world.colleague.staff, is_active=True).status_code == 422
    # Less than there are: nobody goes.
    assert office.limit(world.school, most_children=3).status_code == 200
    assert office.row(world.school)["children"] == 12
    assert office.limit(world.school, most_children=None).status_code == 200
    assert head.ask("POST", f"/api/classes/{group.id}/pupils", {"given": "Two"}).status_code == 201


def test_a_closed_school_is_closed_at_every_door_and_goes_on_as_it_was(
    world: World, office: Office
) -> None:
    key, device = helpers_key(world)[1], childs_device(world)[2]
    guest = Person(None, a_client())
    guest.client.cookies["lauf_helper"], guest.client.cookies["lauf_child"] = key, device
    own = world.teacher.ask("POST", f"/api/pupils/{world.pupils[0].id}/own-code").json()
    calendar = world.teacher.ask("POST", "/api/session/calendar").json()["url"]
    score = world.body(world.pupils[0], "20")
    attempts = f"/api/activities/{world.activity.id}/attempts"
    doors: list[tuple[Person, str, str, Any]] = [
        (world.teacher, "GET", "/api/today", None), (world.teacher, "POST", attempts, score),
        (world.head, "GET", "/api/school", None), (guest, "GET", "/api/help", None),
        (guest, "GET", "/api/mine", None),
    ]  # fmt: skip
    doors.append((guest, "GET", f"/api/own/{own['code']}", None))
    doors.append((guest, "GET", calendar.partition("testserver")[2], None))
    assert office.pause(world.school).status_code == 200
    closed = {
        (path): person.ask(method, path, body).status_code for person, method, path, body in doors
    }
    assert set(closed.values()) <= {404, 423}, closed
    sent = {"username": "teacher", "password": PASSWORD}
    refused = send(Client(), "POST", "/api/session", sent)
    assert refused.status_code == 423 and "trust's office" in refused.json()["message"]
    # The school beside it notices nothing.
    assert world.stranger.ask("GET", "/api/today").status_code == 200
    assert office.row(world.school)["paused_at"] is not None
    assert office.pause(world.school, paused=False).status_code == 200
    for person, method, path, body in doors:
        assert person.ask(method, path, body).status_code in (200, 201), path
    told = [one.words for one in Change.objects.filter(school=office.trust.office)]
    assert told[:2] == ["Test School opened again", "Test School paused"]


def test_the_trusts_page_is_sums_and_tells_no_small_group(world: World, office: Office) -> None:
    for pupil in world.pupils[:3]:
        world.record(pupil, "20")
    assert office.row(world.school)["tested"] is None, "three of twelve are easy to know"
    for pupil in world.pupils[3:6]:
        world.record(pupil, "20")
    row = office.row(world.school)
    assert (row["children"], row["scores"], row["tested"], row["lessons"]) == (12, 6, 6, 1)
    for pupil in world.pupils[6:10]:
        world.record(pupil, "20")
    assert office.row(world.school)["tested"] is None, "two without a score are as well"


def test_somebody_in_two_schools_signs_in_once_and_chooses(world: World, office: Office) -> None:
    link = world.stranger_head.ask(
        "POST", "/api/staff", {"name": "Teacher", "username": "teacher-2", "role": "teacher"}
    ).json()
    taken = {"token": token_of(link), "username": "teacher", "password": PASSWORD}
    wrong = send(Client(), "PUT", "/api/welcome/post", {**taken, "password": "wrong"})
    assert wrong.status_code == 401
    device = Client()
    there = send(device, "PUT", "/api/welcome/post", taken)
    assert there.json()["person"]["school"] == "Stranger School", there.content
    assert send(Client(), "PUT", "/api/welcome/post", taken).status_code == 422, "once"
    sent = {"username": "teacher", "password": PASSWORD}
    asked = send(Client(), "POST", "/api/session", sent).json()
    assert asked["person"] is None
    assert [one["school"] for one in asked["posts"]] == ["Test School", "Stranger School"]
    for post, own in ((0, 200), (1, 404)):
        client = Client()
        chosen = send(client, "POST", "/api/session", {**sent, "post": asked["posts"][post]["id"]})
        assert chosen.json()["person"]["school"] == asked["posts"][post]["school"]
        # Each school sees its own side alone.
        assert client.get(f"/api/classes/{world.school_class.id}").status_code == own
        account = client.get("/api/session/account").json()
        assert account["username"] == "teacher"
    strange = {**sent, "post": str(world.stranger.staff.id)}  # type: ignore[union-attr]
    assert send(Client(), "POST", "/api/session", strange).status_code == 422
    assert send(Client(), "POST", "/api/session",
                {"username": "teacher-2", "password": PASSWORD}).status_code == 401  # fmt: skip
    # A new password, set in either school, ends the sessions of both.
    change = {"old": PASSWORD, "new": NEW}
    here = send(device, "PUT", "/api/session/password", change)
    assert here.json()["person"]["school"] == "Stranger School", here.content
    assert world.teacher.ask("GET", "/api/today").status_code == 401
    assert device.get("/api/today").status_code == 200
    # The first school suspends them: the second one's head makes a link of its own.
    assert world.permit(world.teacher.staff, is_active=False).status_code == 200
    assert device.get("/api/today").status_code == 401
    second = Staff.objects.get(username="teacher-2")
    anew = world.stranger_head.ask("POST", f"/api/staff/{second.id}/link").json()
    send(device, "PUT", "/api/welcome", {"token": token_of(anew), "password": NEW})
    assert device.get("/api/today").status_code == 200
    assert not SecondPost.objects.exists()


def test_the_second_factor_of_who_works_in_two_schools_is_asked_once(
    world: World, office: Office
) -> None:
    post = Staff.objects.get(username="stranger")
    account = Staff.objects.get(username="teacher")
    SecondPost.objects.create(post=post, account=account)
    begun = world.teacher.ask("POST", "/api/session/second-factor", {"password": PASSWORD}).json()
    totp = pyotp.parse_uri(begun["uri"])
    assert isinstance(totp, pyotp.TOTP)
    world.teacher.ask("PUT", "/api/session/second-factor", {"code": totp.now()})
    paper = Staff.objects.get(pk=account.pk).second_factor
    paper.last_step = 0
    paper.save()
    device, sent = Client(), {"username": "teacher", "password": PASSWORD}
    assert send(device, "POST", "/api/session", sent).json()["code_needed"]
    # Nobody chooses before everything is proved.
    early = send(device, "POST", "/api/session", {**sent, "post": str(post.pk)}).json()
    assert early["code_needed"] and early["person"] is None
    asked = send(device, "POST", "/api/session", {**sent, "code": totp.now()}).json()
    assert len(asked["posts"]) == 2
    chosen = send(
        device, "POST", "/api/session", {**sent, "code": totp.now(), "post": str(post.pk)}
    ).json()
    assert chosen["person"]["school"] == "Stranger School"
    assert device.get("/api/session/account").json()["second_factor"] is True


def test_colleagues_of_the_office_look_and_only_those_who_lead_it_change(
    world: World, office: Office
) -> None:
    new = {"name": "Lou", "username": "lou", "role": "teacher"}
    assert office.person.ask("POST", "/api/staff", new).status_code == 201
    lou = Staff.objects.get(username="lou")
    assert lou.at_office
    person = signed_in(lou)
    assert get(person, "/api/trust")["may_change"] is False
    assert Office(office.trust, person).pause(world.school).status_code == 403
    assert world.permit(world.teacher.staff, role="head").status_code == 200
    assert not Staff.objects.get(username="teacher").at_office
