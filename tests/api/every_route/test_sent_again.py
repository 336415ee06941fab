"""A write that is sent twice: a button pressed twice, an answer that was lost on its way."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any, Final

from django.apps import apps
from django.db import connection, transaction
from django.utils import timezone

from lauf.exchange.models import HandoutJob
from lauf.lessons.models import Lesson
from lauf.people.models import Change
from tests.api.conftest import Person, World
from tests.api.routes import routes
from tests.api.weeks import a_challenge, a_week

#: Where each is a thing of its own, and why.
EACH_ITS_OWN: Final = {
    ("POST", "/api/calibrations"): "a step or a hand measured again; the last counts",
    ("POST", "/api/games/{games_id}/result"): "numbered; the organiser counts the last",
    ("POST", "/api/games/{games_id}/results"): "a note that it came again; it counts once",
}
#: Rows that say who did or asked for what, each time.
ON_RECORD: Final = (Change, HandoutJob)


#: How many rows each table has, in one query.
HOW_MANY: Final = " UNION ALL ".join(
    f"SELECT '{model._meta.label}', count(*) FROM {model._meta.db_table}"
    for model in apps.get_models()
    if model not in ON_RECORD
)


def _rows() -> dict[str, int]:
    with connection.cursor() as cursor:
        cursor.execute(HOW_MANY)
        return dict(cursor.fetchall())


def _grown(person: Person, method: str, path: str, body: Any) -> dict[str, int] | None:
    """What there is more of after a second time; None where this person cannot do it at all."""
    with transaction.atomic():
        first = person.ask(method, path, body).status_code
        once = _rows()
        person.ask(method, path, body)
        twice = _rows()
        transaction.set_rollback(True)
    if first >= 400:
        return None
    return {name: twice[name] - once[name] for name in once if twice[name] != once[name]}


def test_what_is_sent_twice_is_there_once(world: World, unprinted: None) -> None:
    found: dict[tuple[str, str], dict[str, int]] = {}
    for (method, route), (path, body, _) in routes(world, "teacher").items():
        if method == "GET" or route.startswith("/api/session"):
            continue
        for person in (world.head, world.teacher, world.stranger_head):
            grown = _grown(person, method, path, body)
            if grown is not None:
                found[method, route] = grown
                break
    assert len(found) > 60
    assert {route for route, grown in found.items() if grown} == set(EACH_ITS_OWN)


def test_a_set_is_held_once_though_an_unplanned_lesson_has_its_tests(world: World) -> None:
    """The lesson without a plan was found again and again, and a new one made each time."""
    week = a_week(world, starts_on=timezone.localdate())
    a_challenge(world, week)
    asked = {"class_id": world.school_class.id, "on": week.starts_on}
    held = [world.teacher.ask("POST", f"/api/weeks/{week.id}/hold", asked) for _ in range(3)]
    assert len({answer.json()["id"] for answer in held}) == 1
    assert Lesson.objects.filter(blocks__isnull=False).distinct().count() == 1


def test_an_id_sent_again_with_other_content_is_a_clash_that_says_so(world: World) -> None:
    """What was stored first stays: neither is it changed, nor is the second taken for stored."""
    one, two = world.pupils[:2]
    lesson, activity = (
        f"/api/lessons/{world.activity.lesson_id}",
        f"/api/activities/{world.activity.id}",
    )
    score = world.body(one, "21")
    pulse = {
        "id": str(uuid.uuid4()), "pupil_id": str(one.id), "position": 0, "moment": "rest",
        "typed": "14", "seconds": 10, "recorded_at": timezone.now().isoformat(),
    }  # fmt: skip
    new = {
        "id": str(uuid.uuid4()), "class_id": str(world.school_class.id), "place": "Hall",
        "starts_at": timezone.now().isoformat(), "minutes": 40,
        "test_ids": [str(world.activity.protocol.test_id)],
    }  # fmt: skip
    day = timezone.localdate().isoformat()
    week = {
        "id": str(uuid.uuid4()), "name": "W", "starts_on": day, "ends_on": day,
        "points": {"took_part": 1}, "class_ids": [new["class_id"]],
    }  # fmt: skip
    copied = {"id": str(uuid.uuid4()), "starts_at": timezone.now().isoformat()}
    later = (timezone.now() + timedelta(days=3)).isoformat()
    cases: list[tuple[str, dict[str, Any], list[dict[str, Any]]]] = [
        (f"{activity}/attempts", score, [
            {"typed": "12"}, {"typed": "21~"}, {"variant": "knees"}, {"try_number": 2},
            {"pupil_id": str(two.id)}, {"withdrawn": True},
        ]),
        (f"{lesson}/pulses", pulse, [{"typed": "15"}, {"position": 1}, {"pupil_id": str(two.id)}]),
        ("/api/lessons", new, [{"place": "Field"}, {"minutes": 50}, {"starts_at": later}]),
        (f"{lesson}/copy", copied, [{"starts_at": later}]),
        ("/api/weeks", week, [{"name": "V"}, {"ends_on": later[:10]}]),
    ]  # fmt: skip
    for path, body, others in cases:
        first = world.teacher.ask("POST", path, body)
        assert first.status_code in (200, 201), first.content
        before = _rows()
        assert world.teacher.ask("POST", path, body).status_code == first.status_code, "once more"
        for other in others:
            answer = world.teacher.ask("POST", path, {**body, **other})
            assert answer.status_code == 409, (path, other, answer.content)
            assert "already sent with different content" in answer.json()["message"]
        assert _rows() == before
