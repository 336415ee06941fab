"""What a teacher sees first."""

from __future__ import annotations

from datetime import timedelta

from django.utils import timezone

from lauf.lessons.models import Lesson
from tests.api.conftest import World


def test_today_shows_the_lesson_its_notes_and_what_waits(world: World) -> None:
    world.pupils[3].medical_note = "Asthma: inhaler in the red bag"
    world.pupils[3].save()
    waiting, closed = world.lesson_on(7), world.lesson_on(14)
    world.teacher.ask("POST", f"/api/lessons/{closed.lesson_id}/close")
    coming = world.lesson_on(-3)
    Lesson.objects.filter(pk=coming.lesson_id).update(starts_at=timezone.now() + timedelta(days=3))
    world.record(world.pupils[0], "20")
    page = world.teacher.ask("GET", "/api/today").json()
    (card,) = page["lessons"]
    assert card["id"] == str(world.activity.lesson_id)
    assert (card["children"], card["medical_notes"], card["scored"]) == (12, 1, 1)
    assert (card["class_name"], card["place"]) == ("4 T", "Hall")
    assert card["tests"] == ["Press-ups in 60 s"]
    assert [row["id"] for row in page["waiting"]] == [str(waiting.lesson_id)]
    assert [row["id"] for row in page["coming"]] == [str(coming.lesson_id)]
    opened = world.teacher.ask("GET", f"/api/lessons/{world.activity.lesson_id}").json()
    assert [note["name"] for note in opened["medical_notes"]] == ["Child 03"]


def test_a_lesson_is_planned_with_what_is_needed_and_no_less(world: World) -> None:
    good = {
        "class_id": str(world.school_class.id),
        "test_ids": [str(world.activity.protocol.test_id)],
        "starts_at": timezone.now().isoformat(),
        "minutes": 40,
        "place": "Playground",
    }
    made = world.teacher.ask("POST", "/api/lessons", good)
    opened = world.teacher.ask("GET", f"/api/lessons/{made.json()['id']}").json()
    assert (opened["place"], opened["children"]) == ("Playground", 12)
    for wrong, says in [
        ({"place": " "}, "Give the place of the lesson"),
        ({"minutes": 5}, "10 to 180 minutes"),
        ({"starts_at": "2026-11-24T09:30"}, "starts_at"),
    ]:
        refused = world.teacher.ask("POST", "/api/lessons", {**good, **wrong})
        assert refused.status_code == 422
        assert says in refused.json()["message"]
