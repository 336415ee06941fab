"""Who gets what: every route with every role, and a stranger's ids."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from django.utils import timezone

from lauf.people.models import Pupil, YearGroup
from lauf.web.api import api
from tests.api.conftest import PASSWORD, World

#: Status by role: nobody, stranger, stranger's head, colleague, own teacher, head of PE.
OWN = (401, 404, 404, 404, 200, 200)
ANY_STAFF = (401, 200, 200, 200, 200, 200)
PUBLIC = (200, 200, 200, 200, 200, 200)
#: A stranger's head may add classes, but not into this school's year group.
HEADS = (401, 403, 404, 403, 403, 201)


def routes(world: World) -> dict[tuple[str, str], tuple[str, Any, tuple[int, ...]]]:
    """Method and route -> address with this world's ids, body, expected statuses."""
    activity, lesson = world.activity.id, world.activity.lesson_id
    pupil = world.pupils[0]
    attempt = world.record(world.pupils[1], "21~")
    year = YearGroup.objects.get(school=world.school, name="Year 4").id
    new_class = {"name": "4 New", "year_group_id": year, "children": "Ada Abara"}
    new_lesson = {
        "class_id": world.school_class.id,
        "test_id": world.activity.protocol.test_id,
        "starts_at": timezone.now().isoformat(),
        "minutes": 40,
        "place": "Hall",
    }
    run = {"wave": 1, "revision": 1, "anchor_ms": 1_000, "paused_ms": None}
    wrong = {"username": "nobody", "password": "wrong"}
    # The fifth wrong password in a row locks that name out.
    set_up = {"setup_code": "test-code", "school_name": "S", "name": "N", "username": "u"}
    score = world.body(pupil, "20")
    return {
        ("GET", "/api/health"): ("/api/health", None, PUBLIC),
        ("GET", "/api/session"): ("/api/session", None, PUBLIC),
        ("POST", "/api/session"): ("/api/session", wrong, (401, 401, 401, 401, 429, 429)),
        ("POST", "/api/setup"): ("/api/setup", {**set_up, "password": PASSWORD}, (422,) * 6),
        ("GET", "/api/today"): ("/api/today", None, ANY_STAFF),
        ("GET", "/api/tests"): ("/api/tests", None, ANY_STAFF),
        ("GET", "/api/classes"): ("/api/classes", None, ANY_STAFF),
        ("POST", "/api/classes"): ("/api/classes", new_class, HEADS),
        ("GET", "/api/classes/{class_id}"): (f"/api/classes/{world.school_class.id}", None, OWN),
        ("POST", "/api/lessons"): ("/api/lessons", new_lesson, (401, 404, 404, 404, 201, 201)),
        ("GET", "/api/lessons/{lesson_id}"): (f"/api/lessons/{lesson}", None, OWN),
        ("POST", "/api/lessons/{lesson_id}/close"): (f"/api/lessons/{lesson}/close", None, OWN),
        ("POST", "/api/lessons/{lesson_id}/reopen"): (f"/api/lessons/{lesson}/reopen", None, OWN),
        ("PUT", "/api/activities/{activity_id}/runs/{run_id}"): (
            f"/api/activities/{activity}/runs/{uuid.uuid4()}",
            run,
            OWN,
        ),
        ("GET", "/api/activities/{activity_id}/lanes"): (
            f"/api/activities/{activity}/lanes",
            None,
            OWN,
        ),
        ("POST", "/api/activities/{activity_id}/attempts"): (
            f"/api/activities/{activity}/attempts",
            score,
            OWN,
        ),
        ("GET", "/api/activities/{activity_id}/check"): (
            f"/api/activities/{activity}/check",
            None,
            OWN,
        ),
        ("GET", "/api/activities/{activity_id}/scores.csv"): (
            f"/api/activities/{activity}/scores.csv",
            None,
            OWN,
        ),
        ("POST", "/api/attempts/{attempt_id}/confirm"): (
            f"/api/attempts/{attempt.id}/confirm",
            {"flag": "estimate"},
            OWN,
        ),
        ("GET", "/api/pupils/{pupil_id}"): (f"/api/pupils/{pupil.id}", None, OWN),
        ("DELETE", "/api/session"): ("/api/session", None, ANY_STAFF),
    }


def test_every_route_with_every_role(world: World) -> None:
    expected = routes(world)
    described = {
        (method.upper(), path)
        for path, methods in api.get_openapi_schema()["paths"].items()
        for method in methods
    }
    assert described == set(expected), "every route has its line in this table"
    people = (
        world.nobody,
        world.stranger,
        world.stranger_head,
        world.colleague,
        world.teacher,
        world.head,
    )
    found = {
        route: tuple(person.ask(route[0], path, body).status_code for person in people)
        for route, (path, body, _) in expected.items()
    }
    assert found == {route: statuses for route, (_, _, statuses) in expected.items()}


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
    # Nothing is asked of another host.
    assert b"//" not in answer.content.replace(b"http://www.w3.org", b"")
