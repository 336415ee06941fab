"""A lesson that is begun without a network: its pages beforehand, and its scores afterwards."""

from __future__ import annotations

import json
import uuid
from typing import Any

import pytest
from django.utils import timezone

from lauf.catalogue import models as catalogue
from lauf.lessons.models import Activity, Lesson
from lauf.records.models import Attempt
from tests.api.conftest import World

#: Where each page of a spare lesson is read of a real one.
PAGES = {
    "lesson": "/api/lessons/{lesson}",
    "timeline": "/api/lessons/{lesson}/timeline",
    "plan": "/api/lessons/{lesson}/plan",
    "results": "/api/lessons/{lesson}/results",
    "pulse": "/api/lessons/{lesson}/pulse",
    "lanes": "/api/activities/{activity}/lanes",
    "aims": "/api/activities/{activity}/aims",
    "rivals": "/api/activities/{activity}/rivals",
    "check": "/api/activities/{activity}/check",
    "beeps": "/api/activities/{activity}/beeps",
    "target": "/api/activities/{activity}/target",
}


def a_test(world: World, slug: str) -> catalogue.Test:
    return catalogue.Test.objects.get(school=world.school, slug=slug)


def begin(world: World, test: catalogue.Test, **more: Any) -> dict[str, Any]:
    """What a device sends of a lesson that it has begun by itself."""
    return {
        "id": str(uuid.uuid4()),
        "class_id": str(world.school_class.id),
        "test_ids": [str(test.id)],
        "activity_ids": [str(uuid.uuid4())],
        "starts_at": timezone.now().isoformat(),
        "minutes": 45,
        "place": "hall",
        **more,
    }


@pytest.mark.parametrize("slug", ["press-ups-60", "shuttle-20m-even"])
def test_a_spare_lesson_is_what_one_begun_now_would_be(world: World, slug: str) -> None:
    for pupil in world.pupils[:5]:
        world.record(pupil, "20", world.lesson_on(7))
    test = a_test(world, slug)
    lessons = Lesson.objects.count()
    spare = world.teacher.ask("GET", f"/api/spares/{world.school_class.id}/{test.id}").json()
    assert Lesson.objects.count() == lessons
    (activity,) = spare["lesson"]["activities"]
    body = begin(world, test)
    assert world.teacher.ask("POST", "/api/lessons", body).status_code == 201
    text = json.dumps({**spare, "lesson": {**spare["lesson"], "starts_at": ""}})
    own = text.replace(spare["lesson"]["id"], body["id"])
    own = own.replace(activity["id"], body["activity_ids"][0])
    for name, page in json.loads(own).items():
        path = PAGES[name].format(lesson=body["id"], activity=body["activity_ids"][0])
        answered = world.teacher.ask("GET", path)
        if page is None:
            assert answered.status_code == 422
            continue
        real = answered.json()
        if name == "lesson":
            real["starts_at"] = ""
        assert page == real, name


def test_lessons_can_be_begun_of_what_the_classes_did_last(world: World) -> None:
    world.lesson_on(7, "plank-limit")
    private = world.lesson_on(5).protocol.test
    catalogue.Test.objects.filter(pk=private.pk).update(private=True)
    other = world.school.classes.create(name="4 B", year_group=world.school_class.year_group)
    assert world.teacher.staff
    other.slots.create(teacher=world.teacher.staff, weekday=1, at="09:00", place="Hall")
    rows = world.teacher.ask("GET", "/api/spares").json()
    assert [(one["class_name"], one["test"]) for one in rows] == [
        (world.school_class.name, a_test(world, "plank-limit").name),
        ("4 B", a_test(world, "plank-limit").name),
    ]
    path = f"/api/spares/{world.school_class.id}/{private.id}"
    assert world.teacher.ask("GET", path).status_code == 404
    assert not Lesson.objects.filter(school_class=other).exists()


def test_scores_of_a_lesson_begun_without_a_network_are_kept_in_it_once(world: World) -> None:
    test = a_test(world, "press-ups-60")
    body = begin(world, test)
    for _ in range(2):  # the answer was lost
        assert world.teacher.ask("POST", "/api/lessons", body).json()["id"] == body["id"]
    (activity,) = Activity.objects.filter(lesson=body["id"])
    assert str(activity.id) == body["activity_ids"][0]
    world.record(world.pupils[0], "20", activity)
    assert Attempt.objects.get(activity=activity).typed == "20"


def test_a_lesson_that_two_devices_began_has_the_tests_of_both(world: World) -> None:
    first = begin(world, a_test(world, "press-ups-60"))
    second = begin(world, a_test(world, "plank-limit"), id=first["id"])
    second["starts_at"] = first["starts_at"]
    for body in (first, second, second):
        assert world.teacher.ask("POST", "/api/lessons", body).status_code == 201
    found = Activity.objects.filter(lesson=first["id"]).order_by("position")
    assert [str(one.id) for one in found] == [*first["activity_ids"], *second["activity_ids"]]


@pytest.mark.parametrize("known", [False, True])
def test_a_test_of_another_lesson_is_not_taken_into_this_one(world: World, known: bool) -> None:
    body = begin(world, a_test(world, "press-ups-60"))
    if known:
        world.teacher.ask("POST", "/api/lessons", {**body, "activity_ids": [str(uuid.uuid4())]})
    refused = world.teacher.ask(
        "POST", "/api/lessons", {**body, "activity_ids": [str(world.activity.id)]}
    )
    assert refused.status_code == 422
    assert "another lesson already" in refused.json()["message"]
    world.activity.refresh_from_db()
    assert str(world.activity.lesson_id) != body["id"]
