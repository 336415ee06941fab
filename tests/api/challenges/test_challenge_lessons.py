"""Lessons that are made for challenges: another go, of one test or of all of a week."""

from __future__ import annotations

from datetime import timedelta

from django.utils import timezone

from lauf.challenges.models import Challenge
from lauf.lessons.models import Activity
from tests.api.conftest import World
from tests.api.weeks import a_challenge, a_week, added, row


def test_friday_is_a_lesson_of_all_challenges_by_one_press(world: World) -> None:
    week = a_week(world)
    a_challenge(world, week)
    slug = "burpees-30"
    today = timezone.localdate()
    added(world, week, today, world.lesson_on(9, slug).protocol.test_id)
    at = f"/api/weeks/{week.id}"
    choice = {"class_id": world.school_class.id}
    made, again = (world.teacher.ask("POST", f"{at}/again", choice).json() for _ in range(2))
    assert made["id"] == again["id"], "a double press makes one lesson"
    tests = Activity.objects.filter(lesson=made["id"]).order_by("position")
    assert [one.protocol.test.slug for one in tests] == ["press-ups-60", slug]
    # What is scored in it counts in the week.
    world.record(world.pupils[0], "31", tests[0])
    assert row(world, Challenge.objects.get(week=week, on=week.starts_on), 0)["best"] == "31"
    late = a_week(world, starts_on=today - timedelta(days=30))
    refused = world.teacher.ask("POST", f"/api/weeks/{late.id}/again", choice)
    assert refused.status_code == 422 and "nothing to do today" in refused.json()["message"]


def test_another_go_is_on_the_course_of_the_one_before(world: World) -> None:
    """Six metres on Monday, the usual ten on Friday: Monday's scores vanished from "first", and
    points were given that rest on another course."""
    week = a_week(world)
    monday = world.lesson_on(1, "shuttles-180")
    challenge = added(world, week, week.starts_on, monday.protocol.test_id)
    six = {"conditions": {"course_mm": 6000}}
    at = f"/api/activities/{monday.id}/conditions"
    assert world.teacher.ask("PUT", at, six).status_code == 200
    yesterday = {"recorded_at": timezone.now() - timedelta(days=1), "variant": "", "wave": None}
    world.record(world.pupils[0], "40", monday, **yesterday)
    choice = {"class_id": world.school_class.id}
    made = world.teacher.ask("POST", f"/api/weeks/{week.id}/again", choice).json()
    friday = Activity.objects.get(lesson=made["id"])
    assert friday.conditions == six["conditions"]
    world.record(world.pupils[0], "44", friday, variant="", wave=None)
    child = row(world, challenge, 0)
    assert (child["first"], child["best"]) == ("40", "44")
    opened = world.teacher.ask("POST", f"/api/challenges/{challenge.id}/open", choice).json()
    assert opened["activity_id"] == str(friday.id)
