"""A lesson in the hall: what was really done, templates, rep targets, the staged run."""

from __future__ import annotations

import uuid
from typing import Any

import pytest

from lauf.catalogue.models import LadderRung, ProtocolVersion
from lauf.lessons.models import Activity
from lauf.lessons.queries.templates import READY
from lauf.rules.reading.shuttle import beeps_ms
from tests.api.conftest import World


def conduct(world: World, done: list[dict[str, Any]], swaps: list[dict[str, Any]]) -> Any:
    path = f"/api/lessons/{world.activity.lesson_id}"
    state = {
        "run_id": uuid.uuid4(), "revision": 1, "plan_revision": 0, "anchor_ms": 0,
        "done": done, "swaps": swaps,
    }  # fmt: skip
    assert world.teacher.ask("PUT", f"{path}/conduct", state).status_code == 200
    return world.teacher.ask("GET", f"{path}/record").json()


def part(segment: str, seconds: int, planned: int, block: str, label: str) -> dict[str, Any]:
    return {
        "segment": segment, "seconds": seconds, "planned": planned, "block": block, "label": label,
    }  # fmt: skip


def test_the_record_says_what_was_really_done(world: World) -> None:
    """The case of the trade (common practice): press-ups were shortened from 30 s to 20 s, and
    sit-ups swapped for sprints."""
    lesson = world.activity.lesson
    another = Activity.objects.create(lesson=lesson, position=1, protocol=world.activity.protocol)
    said = conduct(
        world,
        [
            part("0", 120, 120, "Talk", "Talk"),
            part("2", 20, 30, "Set", "press-ups"),
            part("4", 30, 30, "Set", "sprints"),
            part("6", 0, 90, "Water", "Water"),
            part("7", 75, 60, "Cool-down", "Walk"),
            part("9", 60, 60, "Stations", "Round 1 of 2"),
            part("11", 60, 60, "Stations", "Round 2 of 2"),
        ],
        [
            {"segment": "4", "was": "sit-ups", "label": "sprints", "activity_id": another.id},
            {"segment": "11", "was": "skipping", "label": "hopping"},
        ],
    )
    assert [(row["label"], row["seconds"], row["words"]) for row in said] == [
        ("Talk", 120, "as planned"),
        ("press-ups", 20, "20 s of 30 s"),
        ("sprints", 30, "instead of sit-ups"),
        ("Water", 0, "left out"),
        ("Walk", 75, "15 s longer"),
        ("Round 1 of 2", 60, "as planned"),
        ("Round 2 of 2", 60, "hopping instead of skipping"),
    ]


def test_parts_of_one_movement_are_summed(world: World) -> None:
    done = [part(str(n), 20, 20, "Set", "squats") for n in (1, 3, 5)]
    (row,) = conduct(world, done, [])
    assert (row["seconds"], row["planned"], row["words"]) == (60, 60, "as planned")


def test_nothing_was_done_before_a_start(world: World) -> None:
    path = f"/api/lessons/{world.activity.lesson_id}/record"
    assert world.teacher.ask("GET", path).json() == []


def test_another_test_on_the_spot_has_its_scores_under_its_own_protocol(world: World) -> None:
    path = f"/api/lessons/{world.activity.lesson_id}/activities"
    other = ProtocolVersion.objects.get(test__school=world.school, test__slug="star-jumps-30")
    made = world.teacher.ask("POST", path, {"test_id": other.test_id})
    assert (made.status_code, made.json()["test"]) == (201, "Star jumps in 30 s")
    again = world.teacher.ask("POST", path, {"test_id": other.test_id})
    assert again.json()["id"] == made.json()["id"], "twice is once"
    activity = Activity.objects.get(pk=made.json()["id"])
    assert activity.protocol_id == other.id
    world.record(world.pupils[0], "41", activity, variant="")
    # The plan that did not have it keeps what was done in it.
    blocks = [{"kind": "test", "label": "", "test_id": world.activity.protocol.test_id}]
    plan = f"/api/lessons/{world.activity.lesson_id}/plan"
    refused = world.teacher.ask("PUT", plan, {"based_on": 0, "blocks": blocks})
    assert "has records" in refused.json()["message"]


@pytest.mark.parametrize(("slug", "schedule"), [
    ("shuttle-20m-even", "even"), ("shuttle-20m-jump", "jump"),
])  # fmt: skip
def test_the_beeps_are_the_rules_and_the_score_says_metres_speed_and_estimate(
    world: World, slug: str, schedule: str
) -> None:
    activity = world.lesson_on(0, slug)
    sheet = world.teacher.ask("GET", f"/api/activities/{activity.id}/beeps").json()
    assert [beep["at_ms"] for beep in sheet["beeps"]] == list(beeps_ms(schedule))
    pupil = world.pupils[0]
    pupil.born = activity.lesson.starts_at.date().replace(
        year=activity.lesson.starts_at.year - 10, day=1
    )
    pupil.save()
    # Five stages and three shuttles: the last full stage is the fifth, at 10.5 km/h in both.
    world.record(pupil, "6.3", activity, variant="", wave=None)
    words = " · ".join(world.child(pupil, activity)["words"])
    shuttles = {"even": 7 + 8 + 8 + 8 + 9 + 3, "jump": 7 + 8 + 8 + 9 + 9 + 3}[schedule]
    assert f"{shuttles} shuttles, {shuttles * 20} m" in words
    assert "last full stage at 10.5 km/h" in words
    # Léger et al. 1988: S = 10.5, A = 10 gives 48.67 ml/kg/min.
    assert "VO₂max about 48.7 ml/kg/min, an estimate" in words


def test_other_tests_have_no_beeps(world: World) -> None:
    answer = world.teacher.ask("GET", f"/api/activities/{world.activity.id}/beeps")
    assert (answer.status_code, "has no beeps" in answer.json()["message"]) == (422, True)


# Templates


@pytest.mark.parametrize("code", READY)
def test_every_ready_template_is_a_plan_that_fits_its_minutes(world: World, code: str) -> None:
    path = f"/api/lessons/{world.activity.lesson_id}/plan/template"
    page = world.teacher.ask("POST", path, {"code": code})
    assert page.status_code == 200, page.content
    name, minutes, blocks = READY[code]
    assert len(page.json()["blocks"]) == len(blocks), name
    assert page.json()["total_seconds"] <= minutes * 60
    codes = {warning["code"] for warning in page.json()["warnings"]}
    assert codes.isdisjoint({"cold", "order", "no_cool_down"}), codes
    assert page.json()["revision"] == 0, "nothing is kept"


def test_a_plan_is_kept_as_a_template_without_its_children_and_used_elsewhere(
    world: World,
) -> None:
    lesson = f"/api/lessons/{world.activity.lesson_id}"
    groups = {"how": "random", "names": ["A", "B"], "members": [[str(world.pupils[0].id)], []]}
    stations = [{"name": n, "loads": [], "room": 1} for n in ("hop", "skip")]
    blocks = [
        {"kind": "test", "label": "", "test_id": world.activity.protocol.test_id},
        {"kind": "stations", "label": "Ring", "stations": stations, "work": 30, "change": 10,
         "rounds": 2, "groups": groups},
    ]  # fmt: skip
    plan = {"based_on": 0, "blocks": blocks}
    assert world.teacher.ask("PUT", f"{lesson}/plan", plan).status_code == 200
    rows = world.teacher.ask("POST", f"{lesson}/template", {"name": " Ring day "}).json()
    own = next(row for row in rows if row["own"])
    assert (own["name"], own["mine"]) == ("Ring day", True)
    taken = world.head.ask("POST", f"{lesson}/template", {"name": "Ring day"})
    assert "already" in taken.json()["message"]
    other = world.lesson_on(-7)
    used = world.teacher.ask(
        "POST", f"/api/lessons/{other.lesson_id}/plan/template", {"code": own["code"]}
    ).json()
    assert [block["entry"]["label"] for block in used["blocks"]] == ["Press-ups in 60 s", "Ring"]
    assert "groups" not in used["blocks"][1]["entry"]
    # A colleague may use it, not take it away; the head may.
    refused = world.colleague.ask("DELETE", f"/api/templates/{own['code']}")
    assert "Only the head of PE or the person who made the template" in refused.json()["message"]
    left = world.head.ask("DELETE", f"/api/templates/{own['code']}").json()
    assert not any(row["own"] for row in left)


# Rep targets


def target(world: World, activity: Activity, elapsed: int = 0) -> dict[str, dict[str, Any]]:
    path = f"/api/activities/{activity.id}/target?elapsed={elapsed}"
    page = world.teacher.ask("GET", path).json()
    return {row["pupil_id"]: row for row in page["children"]}


def test_a_rep_target_says_total_rung_and_pace_still_needed(world: World) -> None:
    """A carry-in of 35 leaves 205 of 240 (common practice)."""
    activity = world.lesson_on(0, "reps-240")
    lesson = f"/api/lessons/{activity.lesson_id}"
    block = {
        "kind": "rep_target", "label": "240", "seconds": 1500, "carries": "squats",
        "names": ["squats", "press-ups"], "test_id": activity.protocol.test_id,
    }  # fmt: skip
    kept = world.teacher.ask("PUT", f"{lesson}/plan", {"based_on": 0, "blocks": [block]})
    assert kept.status_code == 200, kept.content
    activity = Activity.objects.get(lesson=activity.lesson_id)
    rungs = list(
        LadderRung.objects.filter(
            ladder__test=activity.protocol.test_id, ladder__year_group=world.school_class.year_group
        )
        .order_by("threshold")
        .values_list("threshold", flat=True)
    )
    first, second, third = (str(pupil.id) for pupil in world.pupils[:3])
    world.record(world.pupils[0], "c35", activity, variant="", wave=None)
    world.record(world.pupils[1], "c35+100+60", activity, variant="", wave=None)
    rows = target(world, activity, elapsed=600)
    assert rows[first]["total"] == 35
    assert rows[first]["needed"] == rungs[0] - 35
    assert (rows[second]["carried"], rows[second]["reps"]) == (35, [100, 60])
    assert rows[second]["total"] == 195
    above = [rung for rung in rungs if rung > 195]
    needed = above[0] - 195 if above else None
    assert rows[second]["needed"] == needed
    if needed:  # fifteen minutes are left
        assert float(rows[second]["a_minute"]) == pytest.approx(needed / 15, abs=0.051)
    # 160 in ten minutes, fifteen more at that pace, and what was carried in once.
    assert rows[second]["projected"] == 35 + 160 * 5 // 2
    assert rows[third]["needed"] == rungs[0]
    assert rows[third]["total"] == 0 and rows[third]["projected"] is None
    few = world.queries(f"/api/activities/{activity.id}/target")
    world.more_children()
    assert world.queries(f"/api/activities/{activity.id}/target") == few


def test_a_rep_target_runs_as_long_as_its_test(world: World) -> None:
    """A target of ten minutes gave totals to the test of twenty-five."""
    activity = world.lesson_on(0, "reps-240")
    lesson = f"/api/lessons/{activity.lesson_id}"
    block = {"kind": "rep_target", "label": "Reps", "seconds": 600, "names": ["squats"],
             "test_id": activity.protocol.test_id}  # fmt: skip
    plan = {"based_on": 0, "blocks": [block]}
    refused = world.teacher.ask("PUT", f"{lesson}/plan", plan)
    assert refused.status_code == 422
    assert "planned for 10 minutes" in refused.json()["message"]
    assert "takes 25 minutes" in refused.json()["message"]
    alone = {"based_on": 0, "blocks": [block | {"test_id": None}]}
    assert world.teacher.ask("PUT", f"{lesson}/plan", alone).status_code == 200
    # Where nothing is said it is as long as its test; so is that of a template.
    silent = {"based_on": 1, "blocks": [block | {"seconds": None}]}
    assert world.teacher.ask("PUT", f"{lesson}/plan", silent).status_code == 200
    kept = Activity.objects.get(lesson=activity.lesson_id)
    path = f"/api/activities/{kept.id}/target?elapsed=0"
    assert world.teacher.ask("GET", path).json()["seconds"] == 1500
    version = activity.protocol
    ProtocolVersion.objects.create(
        **{
            field.name: getattr(version, field.name)
            for field in version._meta.concrete_fields
            if field.name not in ("id", "number", "seconds", "made_at")
        },
        number=version.number + 1,
        seconds=1800,
    )
    proposed = world.teacher.ask("POST", f"{lesson}/plan/template", {"code": "target"})
    (target,) = [one for one in proposed.json()["blocks"] if one["entry"]["kind"] == "rep_target"]
    assert target["entry"]["seconds"] == 1800


def test_only_a_total_is_counted_towards_a_target(world: World) -> None:
    path = f"/api/activities/{world.activity.id}/target"
    assert "not a test of a total" in world.teacher.ask("GET", path).json()["message"]
    block = {"kind": "rep_target", "label": "T", "seconds": 60,
             "test_id": world.activity.protocol.test_id}  # fmt: skip
    plan = {"based_on": 0, "blocks": [block]}
    lesson = f"/api/lessons/{world.activity.lesson_id}/plan"
    refused = world.teacher.ask("PUT", lesson, plan)
    assert "a test of a total" in refused.json()["message"]


# Who sits where, and who said it


def test_the_order_they_sit_in_is_every_lists_order(world: World) -> None:
    path = f"/api/classes/{world.school_class.id}/order"
    order = [str(pupil.id) for pupil in world.pupils[::-1]]
    assert world.teacher.ask("PUT", path, {"pupils": order[1:]}).status_code == 422
    page = world.teacher.ask("PUT", path, {"pupils": order}).json()
    assert [pupil["id"] for pupil in page["pupils"]] == order
    lanes = world.teacher.ask("GET", f"/api/activities/{world.activity.id}/lanes").json()
    assert [(row["pupil_id"], row["number"]) for row in lanes["children"]] == [
        (pupil, number) for number, pupil in enumerate(order, 1)
    ]
    page = world.teacher.ask("PUT", path, {"pupils": []}).json()
    assert [pupil["id"] for pupil in page["pupils"]] == order[::-1], "by name again"


def test_a_score_keeps_which_partner_said_it(world: World) -> None:
    worked, counted = world.pupils[:2]
    assert world.post(worked, "21", counted_by=str(counted.id)).status_code == 200
    attempt = world.activity.attempts.get()
    assert attempt.counted_by_id == counted.id
    stranger = world.post(world.pupils[2], "22", counted_by=str(uuid.uuid4()))
    assert stranger.status_code == 404
