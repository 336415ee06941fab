"""Planning a lesson and conducting it."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from lauf.catalogue.models import Test as Protocol
from lauf.lessons.models import Activity, Lesson
from tests.api.conftest import World
from tests.support.plans import as_entry


def of(world: World, slug: str) -> str:
    return str(Protocol.objects.get(school=world.school, slug=slug).id)


def blocks(world: World) -> list[dict[str, Any]]:
    return [
        {"kind": "briefing", "label": "What we do", "seconds": 120},
        {"kind": "warm_up", "label": "Warm-up", "levels": [[1, 30], [2, 60], [4, 10]]},
        {"kind": "test", "label": "", "test_id": of(world, "press-ups-60")},
        {
            "kind": "intervals",
            "label": "Set",
            "movements": [{"name": "star jumps", "efforts": "25/15/25"}],
        },
        {"kind": "cool_down", "label": "Cool-down", "steps": 30, "seconds": 60},
    ]


def ask(world: World, method: str, path: str, plan: list[dict[str, Any]], based_on: int = 0) -> Any:
    body = {"based_on": based_on, "blocks": plan}
    return world.teacher.ask(method, f"/api/lessons/{world.activity.lesson_id}/{path}", body)


def test_a_lesson_without_a_plan_has_one_of_its_tests(world: World) -> None:
    page = world.teacher.ask("GET", f"/api/lessons/{world.activity.lesson_id}/plan").json()
    assert [(b["entry"]["kind"], b["entry"]["label"]) for b in page["blocks"]] == [
        ("test", "Press-ups in 60 s")
    ]
    # 60 s to set up, two waves of 10 + 60 with 20 s between them, 3 s at the end.
    assert page["blocks"][0]["seconds"] == 60 + 2 * 70 + 20 + 3
    assert page["blocks"][0]["why"] == (
        "set up 60 s · get ready 2 × 10 s · work 2 × 60 s · change over 20 s · settle 3 s"
    )
    assert {w["code"] for w in page["warnings"]} == {"cold", "no_cool_down"}


def test_a_plan_is_kept_whole_and_the_test_keeps_its_activity(world: World) -> None:
    world.record(world.pupils[0], "20")
    saved = ask(world, "PUT", "plan", blocks(world))
    assert saved.status_code == 200, saved.json()
    page = saved.json()
    assert (page["revision"], len(page["blocks"])) == (1, 5)
    assert page["blocks"][2]["entry"]["activity_id"] == str(world.activity.id)
    assert page["total_seconds"] == sum(block["seconds"] for block in page["blocks"])
    assert page["kit"] == [{"item": "mat", "number": 6}]
    assert page["warnings"] == []
    # A second test comes in, then goes again; what was done in the first stays.
    plank = {"kind": "test", "label": "", "test_id": of(world, "plank-30")}
    entries = [*map(as_entry, page["blocks"]), plank]
    both = ask(world, "PUT", "plan", entries, 1).json()
    assert Activity.objects.filter(lesson=world.activity.lesson_id).count() == 2
    assert "same_load" in {w["code"] for w in both["warnings"]}
    assert ask(world, "PUT", "plan", blocks(world), 2).status_code == 200
    assert Activity.objects.filter(lesson=world.activity.lesson_id).count() == 1
    none = ask(world, "PUT", "plan", [blocks(world)[0]], 3)
    assert "has records" in none.json()["message"]
    assert world.child(world.pupils[0])["score"]["value"] == 20


def test_two_who_change_a_plan_are_told_of_each_other(world: World) -> None:
    assert ask(world, "PUT", "plan", blocks(world)).status_code == 200
    late = ask(world, "PUT", "plan", blocks(world))
    assert late.status_code == 422 and "Someone else" in late.json()["message"]


@pytest.mark.parametrize(
    ("block", "says"),
    [
        ({"kind": "water", "label": "Water"}, "Water: give the time"),
        ({"kind": "test", "label": "Test"}, "choose the test"),
        (
            {
                "kind": "intervals",
                "label": "Set",
                "movements": [{"name": "a", "efforts": "30/1/2"}],
            },
            "A rest is at least 3 s",
        ),
        (
            {"kind": "stations", "label": "Round", "stations": [{"name": "a"}], "rounds": 1},
            "2 stations",
        ),
        # A name alone was taken for a station without one.
        ({"kind": "stations", "label": "Round", "stations": ["a", "b"], "rounds": 1}, "stations.0"),
        ({"kind": "dance", "label": "Dance"}, "kind"),
    ],
)
def test_a_block_that_cannot_be_says_why(world: World, block: dict[str, Any], says: str) -> None:
    for method, path in (("POST", "plan/preview"), ("PUT", "plan")):
        answer = ask(world, method, path, [block])
        assert answer.status_code == 422
        assert says in answer.json()["message"]


def test_proposals_change_nothing_until_they_are_taken(world: World) -> None:
    wrong = [
        {"kind": "test", "label": "", "test_id": of(world, "shuttles-180")},
        {"kind": "test", "label": "", "test_id": of(world, "sit-reach-wall")},
        {"kind": "warm_up", "label": "Warm-up", "levels": [[1, 60]]},
        {"kind": "briefing", "label": "Talk", "seconds": 3000},
    ]
    said = ask(world, "POST", "plan/order", wrong).json()
    assert [b["entry"]["label"] for b in said["blocks"]] == [
        "Warm-up", "Sit and reach at the wall", "Shuttles in 3 min", "Talk",
    ]  # fmt: skip
    fitted = ask(world, "POST", "plan/fit", wrong).json()
    assert fitted["left_seconds"] >= 0
    assert fitted["blocks"][3]["seconds"] < 3000
    page = world.teacher.ask("GET", f"/api/lessons/{world.activity.lesson_id}/plan").json()
    assert (page["revision"], len(page["blocks"])) == (0, 1)
    too_much = [{**block, "seconds": 7200} if block["kind"] == "warm_up" else block for block in
                [*wrong, {"kind": "warm_up", "label": "Game", "seconds": 7000}]]  # fmt: skip
    refused = ask(world, "POST", "plan/fit", too_much)
    assert refused.status_code == 422 and "too long" in refused.json()["message"]


def test_a_retest_has_the_same_blocks_protocols_and_conditions(world: World) -> None:
    ask(world, "PUT", "plan", blocks(world))
    at = timezone.now() + timedelta(days=70)
    made = world.teacher.ask(
        "POST", f"/api/lessons/{world.activity.lesson_id}/copy", {"starts_at": at.isoformat()}
    )
    copy = Lesson.objects.get(pk=made.json()["id"])
    activity = copy.activities.get()
    assert activity.protocol_id == world.activity.protocol_id
    assert activity.id != world.activity.id
    assert [b.label for b in copy.blocks.all()][:2] == ["What we do", "Warm-up"]
    assert copy.blocks.get(kind="test").activity_id == activity.id


def test_the_timeline_is_the_plans_and_the_conductor_comes_back_to_its_place(world: World) -> None:
    ask(world, "PUT", "plan", blocks(world))
    path = f"/api/lessons/{world.activity.lesson_id}"
    page = world.teacher.ask("GET", f"{path}/timeline").json()
    assert page["conduct"] is None
    assert page["total_ms"] == page["segments"][-1]["to_ms"] == page["blocks"][-1]["to_ms"]
    works = [s for s in page["segments"] if s["phase"] == "work"]
    assert [(s["wave"], s["to_ms"] - s["from_ms"]) for s in works] == [
        (1, 60_000), (2, 60_000), (0, 25_000), (0, 25_000),
    ]  # fmt: skip
    assert page["blocks"][2]["activity_id"] == str(world.activity.id)
    run = str(uuid.uuid4())
    state = {
        "run_id": run, "revision": 2, "plan_revision": 1, "anchor_ms": 1000, "paused_ms": None,
        "pauses": [], "going_from_ms": 0, "edits": [{"segment": works[1]["id"], "add_ms": 15_000}],
        "done": [{"segment": page["segments"][0]["id"], "seconds": 120, "planned": 120,
                  "block": "Talk", "label": "Talk", "at_ms": 121_000}],
        "swaps": [], "wall": "clock", "ended": False,
    }  # fmt: skip
    assert world.teacher.ask("PUT", f"{path}/conduct", state).json() == state
    older = {**state, "revision": 1, "anchor_ms": 5}
    assert world.teacher.ask("PUT", f"{path}/conduct", older).json() == state
    assert world.teacher.ask("GET", f"{path}/conduct").json() == state
    anew = {**state, "run_id": str(uuid.uuid4()), "revision": 1, "edits": [], "done": []}
    assert world.teacher.ask("PUT", f"{path}/conduct", anew).json() == anew


def test_plans_are_read_with_a_constant_number_of_queries(world: World) -> None:
    counts = []
    for plan in (blocks(world), blocks(world) * 5):
        for block in plan:
            if block["kind"] == "test":
                block["test_id"] = of(world, "press-ups-30" if counts else "press-ups-60")
        lesson = Lesson.objects.get(pk=world.activity.lesson_id)
        single = [b for b in plan if b["kind"] != "test"] + [plan[2]]
        assert ask(world, "PUT", "plan", single, lesson.plan_revision).status_code == 200
        found = []
        for path in ("plan", "timeline"):
            with CaptureQueriesContext(connection) as queries:
                world.teacher.ask("GET", f"/api/lessons/{world.activity.lesson_id}/{path}")
            found.append(len(queries))
        counts.append(found)
    assert counts[0] == counts[1]
    assert max(counts[0]) <= 9


@pytest.mark.parametrize(
    ("block", "words"),
    [
        ({"kind": "briefing", "label": "n" * 81, "seconds": 60},
         "name of a block can have up to 80"),
        ({"kind": "briefing", "label": "", "seconds": 60, "say": "s" * 121},
         "Announcement can have up to 120"),
        (
            {"kind": "stations", "label": "S", "work": 30, "change": 10, "rounds": 1,
             "stations": [{"name": "t" * 41, "loads": [], "room": 1}]},
            "station can have up to 40",
        ),
        (
            {"kind": "intervals", "label": "I",
             "movements": [{"name": "m" * 41, "efforts": "20/10/20"}]},
            "movement can have up to 40",
        ),
    ],
)  # fmt: skip
def test_a_label_that_is_too_long_is_refused_and_not_cut(
    world: World, block: dict[str, Any], words: str
) -> None:
    plan = {"based_on": 0, "blocks": [block]}
    refused = world.teacher.ask("PUT", f"/api/lessons/{world.activity.lesson_id}/plan", plan)
    assert refused.status_code == 422
    assert words in refused.json()["message"]
