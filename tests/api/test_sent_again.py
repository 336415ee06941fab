"""A write that is sent twice: a button pressed twice, an answer that was lost on its way."""

from __future__ import annotations

from typing import Any, Final

from django.apps import apps
from django.db import connection, transaction
from django.utils import timezone

from lauf.lessons.models import Lesson
from lauf.people.models import Change
from tests.api.challenges import a_challenge, a_week
from tests.api.conftest import Person, World
from tests.api.routes import routes

#: Where each is a thing of its own, and why.
EACH_ITS_OWN: Final = {
    ("POST", "/api/calibrations"): "a step or a hand measured again; the last counts",
    ("POST", "/api/games/{games_id}/result"): "numbered; the organiser counts the last",
    ("POST", "/api/games/{games_id}/results"): "a note that it came again; it counts once",
}
#: Rows that say who did or asked for what, each time.
ON_RECORD: Final = (Change,)


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
