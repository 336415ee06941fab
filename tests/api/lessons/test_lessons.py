"""A lesson from its making to its results: what may be changed, what waits, what its clock does."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

from django.utils import timezone

from lauf.catalogue import models as catalogue
from lauf.catalogue.actions import make_battery
from lauf.lessons.actions import start_sitting
from lauf.lessons.models import Lesson, Run
from lauf.people.models import Change
from tests.api.conftest import World


def lesson_at(world: World, **changes: Any) -> tuple[str, dict[str, Any]]:
    """The address of the world's lesson and what is sent to change it."""
    body = {
        "class_id": str(world.school_class.id),
        "starts_at": timezone.now().isoformat(),
        "minutes": 40,
        "place": "Hall",
    }
    return f"/api/lessons/{world.activity.lesson_id}", {**body, **changes}


def test_place_time_and_class_are_changed_until_something_is_kept(world: World) -> None:
    other = world.school.classes.create(name="4 B", year_group=world.school_class.year_group)
    assert world.teacher.staff
    other.teachers.add(world.teacher.staff)
    path, body = lesson_at(world, place="Playground", class_id=str(other.id), minutes=50)
    page = world.teacher.ask("PUT", path, body).json()
    assert (page["place"], page["class_name"], page["minutes"]) == ("Playground", "4 B", 50)
    path, body = lesson_at(world)
    world.teacher.ask("PUT", path, body)
    world.record(world.pupils[0], "20")
    for wrong in (
        {"class_id": str(other.id)},
        {"starts_at": (timezone.now() + timedelta(days=2)).isoformat()},
    ):
        refused = world.teacher.ask("PUT", *lesson_at(world, **wrong))
        assert (
            refused.status_code == 422
            and "class and date can no longer" in refused.json()["message"]
        )
    later = world.teacher.ask("PUT", *lesson_at(world, place="Field", minutes=30))
    assert later.json()["place"] == "Field"
    assert world.teacher.ask("PUT", *lesson_at(world, place=" ")).status_code == 422


def test_a_lesson_goes_while_nothing_is_kept_in_it_and_stays_afterwards(world: World) -> None:
    unused, used = world.lesson_on(2), world.lesson_on(3)
    run = {"wave": 1, "revision": 1, "anchor_ms": 1_000}
    world.teacher.ask("PUT", f"/api/activities/{unused.id}/runs/{uuid.uuid4()}", run)
    assert world.teacher.ask("DELETE", f"/api/lessons/{unused.lesson_id}").status_code == 204
    assert not Lesson.objects.filter(pk=unused.lesson_id).exists()
    assert Change.objects.filter(about=str(unused.lesson_id), words__contains="deleted").exists()
    # A score that was undone is a score that was kept.
    entry = world.record(world.pupils[0], "20", used)
    body = world.body(world.pupils[0], "", succeeds=str(entry.id), withdrawn=True)
    world.teacher.ask("POST", f"/api/activities/{used.id}/attempts", body)
    assert world.child(world.pupils[0], used)["score"] is None
    # So is a pulse, in a lesson without scores.
    counted = world.lesson_on(4)
    pulse = {
        "id": str(uuid.uuid4()), "pupil_id": str(world.pupils[0].id), "position": 0,
        "moment": "rest", "typed": "14", "seconds": 10, "recorded_at": timezone.now().isoformat(),
    }  # fmt: skip
    taken = world.teacher.ask("POST", f"/api/lessons/{counted.lesson_id}/pulses", pulse)
    assert taken.status_code == 200
    for lesson in (used, counted):
        refused = world.teacher.ask("DELETE", f"/api/lessons/{lesson.lesson_id}")
        assert refused.status_code == 422 and "Close it instead" in refused.json()["message"]


def test_several_tests_are_chosen_at_once_and_none_twice(world: World) -> None:
    ids = [str(catalogue.Test.objects.get(school=world.school, slug=slug).id)
           for slug in ("press-ups-60", "plank-limit")]  # fmt: skip
    _, body = lesson_at(world)
    made = world.teacher.ask("POST", "/api/lessons", {**body, "test_ids": [*ids, ids[0]]}).json()
    page = world.teacher.ask("GET", f"/api/lessons/{made['id']}").json()
    assert [one["test_id"] for one in page["activities"]] == ids
    pulses = {**body, "test_ids": ids, "pulses": True}
    planned = world.teacher.ask("POST", "/api/lessons", pulses).json()["id"]
    plan = world.teacher.ask("GET", f"/api/lessons/{planned}/plan").json()
    assert [one["entry"]["kind"] for one in plan["blocks"]] == ["pulse", "test", "test", "pulse"]
    assert [one["entry"]["test_id"] for one in plan["blocks"][1:3]] == ids


def test_results_say_what_today_says_waits(world: World) -> None:
    old = world.lesson_on(7)
    for pupil in world.pupils[:9]:
        world.record(pupil, "20", old)
    odd = world.post(world.pupils[9], "20~", old).json()["score"]
    world.record(world.pupils[10], "a", old)
    results = f"/api/lessons/{old.lesson_id}/results"

    def waits() -> tuple[int, int, int]:
        (test,) = world.teacher.ask("GET", results).json()["tests"]
        (waiting,) = world.teacher.ask("GET", "/api/today").json()["waiting"]
        assert waiting["tests"] == [test]
        checked = world.teacher.ask("GET", f"/api/activities/{old.id}/check").json()
        assert (len(checked["missing"]), len(checked["odd"])) == (test["missing"], test["odd"])
        assert set(test["without"]) == set(checked["missing"])
        return test["recorded"], test["missing"], test["odd"]

    assert waits() == (11, 1, 1)
    world.teacher.ask("POST", f"/api/attempts/{odd['id']}/confirm", {"flag": "estimate"})
    world.record(world.pupils[11], "20", old)
    assert waits() == (12, 0, 0)


def test_a_lesson_about_this_time_of_the_week_is_suggested(world: World) -> None:
    now = timezone.now()
    for days, place in ((7, "Gym"), (8, "Field"), (14, "Old hall")):
        lesson = world.lesson_on(days).lesson
        Lesson.objects.filter(pk=lesson.pk).update(
            place=place, starts_at=now - timedelta(days=days, minutes=20)
        )
    asked = "/api/lessons/suggested?at=" + now.strftime("%Y-%m-%dT%H:%M:%SZ")
    (found,) = world.teacher.ask("GET", asked).json()
    assert (found["class_name"], found["place"]) == ("4 T", "Gym")
    assert found["test_names"] == ["Press-ups in 60 s"]
    assert world.colleague.ask("GET", asked).json() == []


def phases(page: dict[str, Any]) -> list[tuple[str, int, bool]]:
    return [
        (one["phase"], (one["to_ms"] - one["from_ms"]) // 1000, one["waits"])
        for one in page["segments"]
    ]


def test_a_lesson_without_a_plan_begins_at_once_and_waits_before_every_other_go(
    world: World,
) -> None:
    page = world.teacher.ask("GET", f"/api/lessons/{world.activity.lesson_id}/timeline").json()
    assert phases(page) == [
        ("ready", 10, False), ("work", 60, False), ("swap", 3, False),
        ("ready", 10, True), ("work", 60, False), ("settle", 3, False),
    ]  # fmt: skip


def test_the_same_lesson_again_goes_by_the_same_clock(world: World) -> None:
    """Without a plan is without blocks, whichever number its plan has."""
    lesson = f"/api/lessons/{world.activity.lesson_id}"
    again = {"starts_at": timezone.now().isoformat()}
    copy = world.teacher.ask("POST", f"{lesson}/copy", again).json()["id"]
    pages = [world.teacher.ask("GET", f"{at}/timeline").json()
             for at in (lesson, f"/api/lessons/{copy}")]  # fmt: skip
    assert phases(pages[0]) == phases(pages[1])


def test_set_up_get_ready_and_pause_of_a_test_are_the_plans(world: World) -> None:
    lesson = f"/api/lessons/{world.activity.lesson_id}"
    test = {"kind": "test", "test_id": world.activity.protocol.test_id}
    own = {**test, "setup": 0, "get_ready": 5, "pause": 15, "waits": False}
    plan = world.teacher.ask("PUT", f"{lesson}/plan", {"blocks": [own]}).json()
    kept = plan["blocks"][0]["entry"]
    assert {name: kept[name] for name in own if name != "test_id"} == {
        "kind": "test", "setup": 0, "get_ready": 5, "pause": 15, "waits": False,
    }  # fmt: skip
    assert phases(world.teacher.ask("GET", f"{lesson}/timeline").json()) == [
        ("ready", 5, False), ("work", 60, False), ("swap", 15, False),
        ("ready", 5, False), ("work", 60, False), ("settle", 3, False),
    ]  # fmt: skip
    usual = world.teacher.ask("PUT", f"{lesson}/plan", {"based_on": 1, "blocks": [test]}).json()
    assert usual["blocks"][0]["seconds"] > plan["blocks"][0]["seconds"]
    waits = [row[2] for row in phases(world.teacher.ask("GET", f"{lesson}/timeline").json())]
    assert waits == [False, True, False, False, True, False, False]
    for wrong in ({"get_ready": 2}, {"pause": 1}, {"setup": -1}):
        body = {"based_on": 2, "blocks": [{**test, **wrong}]}
        assert world.teacher.ask("PUT", f"{lesson}/plan", body).status_code == 422


def test_what_follows_a_test_nobody_clocks_waits_for_its_end(world: World) -> None:
    jump = catalogue.Test.objects.get(school=world.school, slug="long-jump").id
    blocks = [
        {"kind": "test", "test_id": jump},
        {"kind": "water", "label": "Water", "seconds": 60},
        {"kind": "report", "label": "Report", "seconds": 60},
    ]
    lesson = f"/api/lessons/{world.activity.lesson_id}"
    world.teacher.ask("PUT", f"{lesson}/plan", {"blocks": blocks})
    page = world.teacher.ask("GET", f"{lesson}/timeline").json()
    waits = {page["blocks"][one["block"]]["label"] for one in page["segments"] if one["waits"]}
    assert waits == {"Water"}


def test_a_wave_run_again_counts_after_one_that_was_cut_short(world: World) -> None:
    def report(at: int, ended: str, worked: int | None) -> tuple[str, int]:
        run = str(uuid.uuid4())
        body = {"wave": 1, "revision": 1, "anchor_ms": at, "ended": ended, "worked_seconds": worked}
        answer = world.teacher.ask("PUT", f"/api/activities/{world.activity.id}/runs/{run}", body)
        return run, answer.status_code

    short, _ = report(1_000, "early", 9)
    whole, _ = report(90_000, "complete", 60)
    assert Run.objects.get(pk=short).ended == "restarted"
    assert Run.objects.get(pk=whole).ended == "complete"
    # A whole one stays: a clock that is only skipped through later takes nothing away.
    _, refused = report(200_000, "early", 4)
    assert refused == 422
    assert Run.objects.get(pk=whole).ended == "complete"


def test_who_may_not_see_growth_has_the_battery_with_that_closed(world: World) -> None:
    assert world.head.staff
    world.head.staff.may_see_growth = True
    world.head.staff.save()
    weight = catalogue.Test.objects.get(school=world.school, slug="weight").id
    tests = [weight, world.activity.protocol.test_id]
    battery = make_battery(world.head.staff, "Check", tests)
    lesson = start_sitting(world.head.staff, battery.id, world.school_class.id)
    at = f"/api/lessons/{lesson.id}"
    for person, closed in ((world.teacher, True), (world.head, False)):
        blocks = person.ask("GET", f"{at}/timeline").json()["blocks"]
        assert [(one["label"], one["closed"]) for one in blocks] == [
            ("Weight", closed),
            ("Press-ups in 60 s", False),
        ]
    # A plan made without seeing it does not take it out.
    plan = {"blocks": [{"kind": "test", "test_id": world.activity.protocol.test_id}]}
    assert world.teacher.ask("PUT", f"{at}/plan", plan).status_code == 200
    assert lesson.activities.count() == 2
    assert [one["test"] for one in world.teacher.ask("GET", f"{at}/results").json()["tests"]] == [
        "Press-ups in 60 s"
    ]


def test_a_lesson_can_be_planned_before_it_has_a_test_or_be_of_pulses_alone(world: World) -> None:
    body = {"class_id": world.school_class.id, "test_ids": [], "minutes": 40, "place": "Hall",
            "starts_at": timezone.now()}  # fmt: skip
    made = world.teacher.ask("POST", "/api/lessons", body)
    assert made.status_code == 201, made.content
    at = f"/api/lessons/{made.json()['id']}"
    for page in ("", "/plan", "/timeline", "/results", "/found", "/grid"):
        answer = world.teacher.ask("GET", at + page)
        assert answer.status_code in (200, 422), (page, answer.content)
    assert world.teacher.ask("GET", "/api/today").status_code == 200
    pulses = world.teacher.ask("POST", "/api/lessons", {**body, "pulses": True}).json()
    plan = world.teacher.ask("GET", f"/api/lessons/{pulses['id']}/plan").json()
    assert [one["entry"]["kind"] for one in plan["blocks"]] == ["pulse", "pulse"]
