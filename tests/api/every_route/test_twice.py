"""What is sent several times in the same moment is done once, and answered every time."""

from __future__ import annotations

import threading
import uuid
from collections import Counter
from collections.abc import Callable
from typing import Any

from django.db import connection
from django.test import Client
from django.utils import timezone

from lauf.catalogue.actions import make_battery
from lauf.lessons.models import Activity, Lesson
from lauf.records.models import Attempt, PulseReading
from tests.api.conftest import Person, World

#: As often as an impatient finger, or as a device that hears no answer.
TIMES = 8


def at_once(world: World, ask: Callable[[Person], Any]) -> list[Any]:
    """What `TIMES` devices of the teacher are answered that ask in the same moment."""
    answers: list[Any] = []
    barrier = threading.Barrier(TIMES)

    def one() -> None:
        client = Client()
        client.force_login(world.teacher.staff, backend="lauf.web.hashing.PasswordBackend")
        barrier.wait()
        answers.append(ask(Person(None, client)))
        connection.close()

    devices = [threading.Thread(target=one) for _ in range(TIMES)]
    for device in devices:
        device.start()
    for device in devices:
        device.join()
    return answers


def test_a_correction_sent_again_at_once_gets_the_answer_of_the_first(
    transactional_world: World,
) -> None:
    """It was told that another device had been there: 28 of 120 corrections."""
    world = transactional_world
    path = f"/api/activities/{world.activity.id}/attempts"
    last = str(world.record(world.pupils[0], "10").id)
    for typed in range(11, 15):
        body = world.body(world.pupils[0], str(typed), succeeds=last)
        answers = at_once(world, lambda person, body=body: person.ask("POST", path, body))
        assert Counter(one.status_code for one in answers) == {200: TIMES}
        assert {one.json()["score"]["id"] for one in answers} == {body["id"]}
        last = body["id"]
    assert [int(one.typed) for one in Attempt.objects.order_by("received_at")] == [*range(10, 15)]


def test_a_pulse_sent_again_at_once_too(transactional_world: World) -> None:
    world = transactional_world
    path = f"/api/lessons/{world.activity.lesson_id}/pulses"
    last = None
    for typed in range(12, 15):
        body = {
            "id": str(uuid.uuid4()), "pupil_id": str(world.pupils[0].id), "position": 0,
            "moment": "rest", "typed": str(typed), "seconds": 10, "succeeds": last,
            "recorded_at": timezone.now().isoformat(),
        }  # fmt: skip
        answers = at_once(world, lambda person, body=body: person.ask("POST", path, body))
        assert Counter(one.status_code for one in answers) == {200: TIMES}
        last = body["id"]
    assert PulseReading.objects.count() == 3


def test_however_often_start_is_pressed_it_is_one_sitting(transactional_world: World) -> None:
    world = transactional_world
    assert world.head.staff is not None
    tests = [world.activity.protocol.test_id]
    battery = make_battery(world.head.staff, "Term check", tests)
    path, body = f"/api/batteries/{battery.id}/sittings", {"class_id": str(world.school_class.id)}
    answers = at_once(world, lambda person: person.ask("POST", path, body))
    assert Counter(one.status_code for one in answers) == {201: TIMES}
    (made,) = {one.json()["id"] for one in answers}
    assert Activity.objects.filter(lesson__battery=battery).count() == 1
    # Closed and started this battery again, the closed one stays closed.
    assert world.teacher.ask("POST", f"/api/lessons/{made}/close").status_code == 200
    (again,) = {world.teacher.ask("POST", path, body).json()["id"] for _ in range(2)}
    assert again != made
    reopened = world.teacher.ask("POST", f"/api/lessons/{made}/reopen")
    assert (
        reopened.status_code == 422 and "started this battery again" in reopened.json()["message"]
    )


def test_a_lesson_begun_twice_is_one_lesson(transactional_world: World) -> None:
    world = transactional_world
    body = {
        "id": str(uuid.uuid4()), "class_id": str(world.school_class.id), "minutes": 40,
        "test_ids": [str(world.activity.protocol.test_id)], "place": "Hall", "pulses": True,
        "starts_at": timezone.now().isoformat(),
    }  # fmt: skip
    answers = at_once(world, lambda person: person.ask("POST", "/api/lessons", body))
    assert Counter(one.status_code for one in answers) == {201: TIMES}
    assert {one.json()["id"] for one in answers} == {body["id"]}
    lesson = Lesson.objects.get(pk=body["id"])
    assert (lesson.blocks.count(), lesson.activities.count()) == (3, 1)
    # Another's id is nobody's to take.
    assert world.colleague.ask("POST", "/api/lessons", body).status_code == 404
