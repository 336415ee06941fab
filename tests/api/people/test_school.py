"""The school's settings, and what a class has done."""

from __future__ import annotations

from datetime import timedelta

from django.utils import timezone

from lauf.catalogue.actions import make_battery
from lauf.lessons.actions import start_sitting
from tests.api.conftest import World


def test_the_head_says_who_may_see_growth(world: World) -> None:
    settings = world.head.ask("GET", "/api/school").json()
    people = {row["name"]: row for row in settings["staff"]}
    assert not any(row["may_see_growth"] for row in people.values()), "off for everybody at first"
    path = f"/api/pupils/{world.pupils[0].id}/growth"
    assert world.teacher.ask("GET", path).status_code == 403
    granted = world.permit(world.teacher.staff, may_see_growth=True).json()
    assert {r["name"] for r in granted["staff"] if r["may_see_growth"]} == {"Teacher"}
    assert world.teacher.ask("GET", path).json()["tests"] == []
    # A permission is no way to children of other classes.
    world.permit(world.colleague.staff, may_see_growth=True)
    assert world.colleague.ask("GET", path).status_code == 404
    assert world.teacher.ask("GET", "/api/session").json()["person"]["may_see_growth"] is True
    world.permit(world.teacher.staff, may_see_growth=False)
    assert world.teacher.ask("GET", path).status_code == 403


def test_units_change_what_is_shown_and_nothing_that_is_kept(world: World) -> None:
    activity = world.lesson_on(0, "long-jump")
    pupil = world.pupils[0]
    world.record(pupil, "127", activity, variant="", wave=None)
    shown = [world.child(pupil, activity)["score"]]
    world.head.ask("PUT", "/api/school/units", {"imperial": True})
    shown.append(world.child(pupil, activity)["score"])
    world.head.ask("PUT", "/api/school/units", {"imperial": False})
    shown.append(world.child(pupil, activity)["score"])
    assert [score["shown"] for score in shown] == ["127 cm", "50 in", "127 cm"]
    assert {(score["typed"], score["value"]) for score in shown} == {("127", 1270)}


def test_a_class_shows_its_lessons_newest_first(world: World) -> None:
    staff = world.head.staff
    assert staff is not None
    world.lesson_on(30, "long-jump")
    battery = make_battery(staff, "Term check", [world.activity.protocol.test_id])
    start_sitting(staff, battery.id, world.school_class.id)
    rows = world.teacher.ask("GET", f"/api/classes/{world.school_class.id}/lessons").json()
    assert [(row["battery"], row["tests"]) for row in rows] == [
        ("Term check", ["Press-ups in 60 s"]),
        (None, ["Press-ups in 60 s"]),
        (None, ["Standing long jump"]),
    ]
    assert not any(row["closed"] for row in rows)


def test_an_open_battery_waits_on_today_and_leads_to_its_grid(world: World) -> None:
    staff = world.head.staff
    assert staff is not None
    battery = make_battery(staff, "Term check", [world.activity.protocol.test_id])
    lesson = start_sitting(staff, battery.id, world.school_class.id)
    card = next(
        row
        for row in world.teacher.ask("GET", "/api/today").json()["lessons"]
        if row["id"] == str(lesson.id)
    )
    assert (card["battery"], card["tests"]) == (True, ["Term check"])
    lesson.starts_at = timezone.now() - timedelta(days=3)
    lesson.save()
    waiting = world.teacher.ask("GET", "/api/today").json()["waiting"]
    assert [(row["id"], row["battery"]) for row in waiting] == [(str(lesson.id), True)]


def test_a_battery_is_planned_like_a_lesson_and_keeps_its_tests(world: World) -> None:
    staff = world.head.staff
    assert staff is not None
    battery = make_battery(staff, "Term check", [world.activity.protocol.test_id])
    lesson = start_sitting(staff, battery.id, world.school_class.id)
    plan = f"/api/lessons/{lesson.id}/plan"
    water = {"kind": "water", "label": "Water", "seconds": 60}
    test = {"kind": "test", "test_id": world.activity.protocol.test_id}
    answer = world.teacher.ask("PUT", plan, {"blocks": [water]})
    assert (
        answer.status_code == 422 and "tests of a battery cannot change" in answer.json()["message"]
    )
    kept = world.teacher.ask("PUT", plan, {"blocks": [water, test]})
    assert [one["entry"]["kind"] for one in kept.json()["blocks"]] == ["water", "test"]
    timeline = world.teacher.ask("GET", f"/api/lessons/{lesson.id}/timeline").json()
    assert [one["label"] for one in timeline["blocks"]] == ["Water", "Press-ups in 60 s"]
    # All tests of any other lesson are one grid too, with nothing to compare it with.
    grid = world.teacher.ask("GET", f"/api/lessons/{world.activity.lesson_id}/grid").json()
    assert (len(grid["tests"]), grid["sittings"]) == (1, [])
