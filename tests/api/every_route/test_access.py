"""Who gets what: every route with every role, and a stranger's ids."""

from __future__ import annotations

import re
import uuid
from typing import Any

import pytest

from lauf.people.models import Pupil, YearGroup
from lauf.web import urls
from lauf.web.api import api
from tests.api.asking import childs_device
from tests.api.conftest import Person, World, a_client
from tests.api.routes import routes


@pytest.mark.parametrize("own", ["teacher", "co_teacher"])
def test_every_route_with_every_role(world: World, unprinted: None, own: str) -> None:
    """Whoever teaches the class, alone or beside another, may do what its teacher may."""
    expected = routes(world, own)
    described = {
        (method.upper(), path)
        for path, methods in api.get_openapi_schema()["paths"].items()
        for method in methods
    }
    assert described == set(expected), "every route has its line in this table"
    names = ("nobody", "stranger", "stranger_head", "colleague", own, "head")
    # What is the same for everybody, or for those who have nothing to do with the class, is asked
    # once.
    asked = range(len(names)) if own == "teacher" else (names.index("colleague"), names.index(own))
    people: list[Person] = [getattr(world, names[column]) for column in asked]
    wanted = {
        route: (path, body, tuple(statuses[column] for column in asked))
        for route, (path, body, statuses) in expected.items()
        if own == "teacher" or statuses[0] == 401 != statuses[1]
    }
    found = {
        route: tuple(person.ask(route[0], path, body).status_code for person in people)
        for route, (path, body, _) in wanted.items()
    }
    assert found == {route: statuses for route, (_, _, statuses) in wanted.items()}


def test_a_helpers_key_opens_the_helpers_addresses_and_no_other(
    world: World, unprinted: None
) -> None:
    lesson = world.activity.lesson_id
    code = world.teacher.ask("POST", f"/api/lessons/{lesson}/helpers").json()["code"]
    helper = Person(None, a_client())
    assert helper.ask("POST", "/api/help", {"code": code, "name": "Kim"}).status_code == 200
    # Sent to every address, as no browser would.
    helper.client.cookies["lauf_helper"]["path"] = "/"
    table = routes(world, "teacher")
    opened = {
        (method, route): helper.ask(method, path, body).status_code
        for (method, route), (path, body, statuses) in table.items()
        if statuses[0] == 401 and (method, route) != ("DELETE", "/api/help")
    }
    assert {route for route, status in opened.items() if status != 401} == {
        ("GET", "/api/help"),
        ("GET", "/api/help/live"),
        ("GET", "/api/help/activities/{activity_id}/reading"),
        ("POST", "/api/help/activities/{activity_id}/attempts"),
    }


def test_a_childs_device_opens_the_childs_addresses_and_no_other(
    world: World, unprinted: None
) -> None:
    child = Person(None, a_client())
    child.client.cookies["lauf_child"] = childs_device(world)[2]
    table = routes(world, "teacher")
    opened = {
        (method, route): child.ask(method, path, body).status_code
        for (method, route), (path, body, statuses) in table.items()
        if statuses[0] == 401
    }
    assert {route for route, status in opened.items() if status != 401} == {
        ("GET", "/api/mine"),
        ("GET", "/api/mine/children/{slip_id}"),
        ("GET", "/api/mine/challenges/{challenge_id}/reading"),
        ("POST", "/api/mine/goes"),
    }


def test_what_a_colleague_is_told_does_not_say_whether_a_thing_exists(world: World) -> None:
    real = world.colleague.ask("GET", f"/api/pupils/{world.pupils[0].id}")
    guessed = world.colleague.ask("GET", f"/api/pupils/{uuid.uuid4()}")
    assert (real.status_code, real.json()) == (guessed.status_code, guessed.json())


def test_a_stranger_cannot_slip_a_child_into_an_own_lesson(world: World) -> None:
    """The activity is the asker's own, the child somebody else's."""
    elsewhere = Pupil.objects.create(
        school=world.school,
        school_class=_another_class(world),
        given_name="Child elsewhere",
    )
    assert world.post(elsewhere, "20").status_code == 404
    assert world.post(Pupil(id=uuid.uuid4()), "20").status_code == 404


def _another_class(world: World) -> Any:
    year = YearGroup.objects.get(school=world.school, name="Year 5")
    return world.school.classes.create(name="5 T", year_group=year)


def test_lists_hold_only_what_is_in_scope(world: World) -> None:
    assert [c["name"] for c in world.teacher.ask("GET", "/api/classes").json()["classes"]] == [
        "4 T"
    ]
    assert [c["name"] for c in world.head.ask("GET", "/api/classes").json()["classes"]] == ["4 T"]
    for person in (world.colleague, world.stranger, world.stranger_head):
        assert person.ask("GET", "/api/classes").json()["classes"] == []
        assert person.ask("GET", "/api/today").json()["lessons"] == []


def test_answers_about_children_stay_in_no_cache_and_pages_get_at_no_device(world: World) -> None:
    paths = [path for (method, _), (path, *_) in routes(world, "teacher").items()
             if method == "GET"]  # fmt: skip
    assert len(paths) > 40
    for person in (world.teacher, world.nobody):
        for path in [*paths, "/", "/classes", "/no/such/page", "/static/none.js", "/api/none"]:
            answer = person.client.get(path)
            policy = answer["Permissions-Policy"]
            assert (
                "camera=()" in policy and "microphone=()" in policy and "geolocation=()" in policy
            )
            assert "screen-wake-lock=(self)" in policy
            if not path.startswith("/static/"):
                assert answer["Cache-Control"] == "no-store", path


def test_the_page_comes_with_its_headers_and_for_known_hosts_only(world: World) -> None:
    """As a plain file it came without any of them, and for every host."""
    assert world.nobody.client.get("/static/index.html").status_code == 404
    for path in ("/", "/classes", "/static/index.html", "/api/session"):
        answer = world.nobody.client.get(path, headers={"host": "evil.example"})
        assert answer.status_code in ((400, 404) if "static" in path else (400,)), path
        assert b"<script" not in answer.content


def test_the_service_worker_keeps_the_page_of_its_own_version(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    def kept() -> str:
        answer = world.nobody.client.get("/sw.js")
        assert answer.status_code == 200
        assert answer["Content-Type"].startswith("text/javascript")
        assert answer["Cache-Control"] == "no-cache", "a new version is noticed"
        found = re.search(r'\{"revision":"(\w+)","url":"/"\}', answer.content.decode())
        assert found is not None
        return found[1]

    here = kept()
    assert here == kept(), "the nonce of an answer makes no new version"
    # The page in another language is another page.
    monkeypatch.setattr(urls, "messages_of_pages", lambda: "{}")
    assert kept() != here


@pytest.mark.parametrize("path", ["/", "/classes", "/lessons/x/capture"])
def test_the_page_is_served_with_a_strict_policy(world: World, path: str) -> None:
    answer = world.nobody.client.get(path)
    policy = answer["Content-Security-Policy"]
    assert answer.status_code == 200
    assert "default-src 'none'" in policy
    assert "unsafe" not in policy
    assert "http:" not in policy and "https:" not in policy
    nonce = policy.split("'nonce-")[1].split("'")[0]
    assert nonce.encode() in answer.content
    assert b"__LAUF_CSP_NONCE__" not in answer.content
    assert answer["X-Frame-Options"] == "DENY"
    assert answer["X-Content-Type-Options"] == "nosniff"
    assert answer["Referrer-Policy"] == "same-origin"
    # Nothing is asked of another host. The nonce is any letters, two slashes among them at times.
    page = answer.content.replace(nonce.encode(), b"").replace(b"http://www.w3.org", b"")
    assert b"//" not in page
