"""One version, one clock, pinned: what a lesson began with stays, whatever is changed around it."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.utils import timezone

from lauf.catalogue.actions import make_battery
from lauf.catalogue.models import ProtocolVersion
from lauf.lessons.actions import start_sitting
from lauf.lessons.models import Activity
from lauf.records.models import Attempt
from tests.api.conftest import World
from tests.support.plans import as_entry

TALK = {"kind": "briefing", "label": "Talk", "seconds": 60}
SET = {
    "kind": "intervals",
    "label": "Jumps",
    "movements": [{"name": "star jumps", "efforts": "25/15/25"}],
}
PULSE = {"kind": "pulse", "label": "Pulse", "count_seconds": 10, "seconds": 60, "hold": 10}


def lesson_path(world: World, activity: Activity | None = None) -> str:
    return f"/api/lessons/{(activity or world.activity).lesson_id}"


def edit(world: World, **changes: Any) -> None:
    """The head edits the world's test into its next version."""
    path = f"/api/tests/{world.activity.protocol.test_id}"
    card = world.head.ask("GET", path).json()
    body = {"based_on": card["version"], "why": "", "protocol": {**card["protocol"], **changes}}
    answer = world.head.ask("POST", f"{path}/versions", body)
    assert answer.status_code == 201, answer.content


def plan(world: World, *blocks: dict[str, Any]) -> dict[str, Any]:
    path = f"{lesson_path(world)}/plan"
    revision = world.teacher.ask("GET", path).json()["revision"]
    answer = world.teacher.ask("PUT", path, {"based_on": revision, "blocks": list(blocks)})
    assert answer.status_code == 200, answer.content
    return dict(answer.json())


def own_test(world: World) -> dict[str, Any]:
    return {"kind": "test", "label": "", "test_id": str(world.activity.protocol.test_id)}


def conduct(world: World, revision: int, plan_revision: int, **state: Any) -> Any:
    body = {"revision": revision, "plan_revision": plan_revision, "anchor_ms": 1_000, **state}
    return world.teacher.ask("PUT", f"{lesson_path(world)}/conduct", body)


def timeline(world: World, **query: str) -> dict[str, Any]:
    asked = "&".join(f"{name}={value}" for name, value in query.items())
    return dict(world.teacher.ask("GET", f"{lesson_path(world)}/timeline?{asked}").json())


def work_of(page: dict[str, Any], label: str) -> list[int]:
    """Milliseconds of each stretch of work of a block."""
    (place,) = [n for n, block in enumerate(page["blocks"]) if block["label"] == label]
    return [
        one["to_ms"] - one["from_ms"]
        for one in page["segments"]
        if one["block"] == place and one["phase"] == "work"
    ]


def test_plan_and_conductor_use_the_version_the_test_came_in_with(world: World) -> None:
    """A test edited from 60 s to 30 s is called, run and judged at 60 s in the lesson it is in."""
    plan(world, TALK, own_test(world))
    edit(world, seconds=30)
    assert work_of(timeline(world), "Press-ups in 60 s") == [60_000, 60_000]
    page = world.teacher.ask("GET", f"{lesson_path(world)}/plan").json()
    assert "2 × 60 s" in page["blocks"][1]["why"]
    # Kept again, moved, proposed anew: still the same.
    page = plan(world, *reversed([as_entry(block) for block in page["blocks"]]))
    assert "2 × 60 s" in page["blocks"][0]["why"]
    run = {"wave": 1, "revision": 1, "anchor_ms": 5, "ended": "complete"}
    path = f"/api/activities/{world.activity.id}/runs/{uuid.uuid4()}"
    assert world.teacher.ask("PUT", path, run).json()["worked_seconds"] == 60
    child = world.post(world.pupils[0], "24").json()
    assert child["words"][0] == "Far line", "judged by the ladder of the minute"
    # A lesson made now begins with the new version.
    fresh = world.lesson_on(0)
    said = world.teacher.ask("GET", f"{lesson_path(world, fresh)}/plan").json()
    assert "2 × 30 s" in said["blocks"][0]["why"]


def test_a_plan_changed_while_it_is_conducted_does_not_swap_the_running_timeline(
    world: World,
) -> None:
    kept = plan(world, TALK, SET, own_test(world))
    begun, run = timeline(world), str(uuid.uuid4())
    assert conduct(world, 1, kept["revision"], run_id=run).status_code == 200
    first = [as_entry(block) for block in kept["blocks"]]
    plan(world, {**TALK, "label": "More talk", "seconds": 300}, *first[::-1])
    goes_by = timeline(world)
    assert goes_by["newer_plan"] and goes_by["plan_revision"] == kept["revision"]
    assert goes_by["segments"] == begun["segments"] and goes_by["cues"] == begun["cues"]
    # Another device, a reload, a later report: the same; a new start takes the new plan.
    assert conduct(world, 2, kept["revision"], run_id=run, paused_ms=9).status_code == 200
    assert timeline(world)["segments"] == begun["segments"]
    anew = timeline(world, fresh="true")
    assert anew["blocks"][0]["label"] == "More talk"
    # The blocks that stayed are the same blocks, wherever they stand.
    ids = {block["id"] for block in begun["blocks"]}
    assert ids < {block["id"] for block in anew["blocks"]}
    again = conduct(world, 1, anew["plan_revision"], run_id=str(uuid.uuid4()), anchor_ms=2_000)
    assert again.status_code == 200
    assert timeline(world)["segments"] == anew["segments"]
    # News of the run before comes late: it changes nothing.
    assert conduct(world, 3, kept["revision"], run_id=run).json()["anchor_ms"] == 2_000
    assert conduct(world, 1, 99, run_id=str(uuid.uuid4()), anchor_ms=9_999).status_code == 422


def done(page: dict[str, Any], *seconds: int) -> list[dict[str, Any]]:
    """What was done of the first segments of a timeline."""
    return [
        {
            "segment": one["id"],
            "seconds": worked,
            "planned": (one["to_ms"] - one["from_ms"]) // 1000,
            "block": page["blocks"][one["block"]]["label"],
            "label": one["label"],
        }
        for one, worked in zip(page["segments"], seconds, strict=False)
    ]


def test_two_blocks_of_one_label_stay_two_in_what_was_done(world: World) -> None:
    kept = plan(world, TALK, {**TALK, "seconds": 90}, own_test(world))
    page = timeline(world)
    conduct(world, 1, kept["revision"], run_id=str(uuid.uuid4()), done=done(page, 60, 80))
    rows = world.teacher.ask("GET", f"{lesson_path(world)}/record").json()
    assert [(row["block_id"], row["seconds"], row["planned"], row["words"]) for row in rows] == [
        (page["blocks"][0]["id"], 60, 60, "as planned"),
        (page["blocks"][1]["id"], 80, 90, "80 s of 90 s"),
    ]
    # The plan is turned round afterwards: what was done was done in the blocks it was done in.
    plan(world, *reversed([as_entry(block) for block in kept["blocks"]]))
    assert world.teacher.ask("GET", f"{lesson_path(world)}/record").json() == rows


def test_after_a_swap_the_pulses_name_what_was_really_done(world: World) -> None:
    warm = {"kind": "warm_up", "label": "Warm-up", "levels": [[1, 30]]}
    kept = plan(world, {**PULSE, "label": "At rest"}, warm, SET, PULSE, own_test(world))
    page = timeline(world)
    work = next(one for one in page["segments"] if one["phase"] == "work")
    swap = {"segment": work["id"], "was": "star jumps", "label": "hopping"}
    worked = [
        {**one, "label": "hopping" if one["label"] == "star jumps" else one["label"]}
        for one in done(page, *[20] * 10)
    ]
    conduct(world, 1, kept["revision"], run_id=str(uuid.uuid4()), swaps=[swap], done=worked)

    def take(position: int, moment: str, beats: str, label: str = "") -> dict[str, Any]:
        body = {
            "id": str(uuid.uuid4()), "pupil_id": str(world.pupils[0].id), "position": position,
            "moment": moment, "label": label, "typed": beats, "seconds": 10,
            "recorded_at": timezone.now().isoformat(),
        }  # fmt: skip
        return dict(world.teacher.ask("POST", f"{lesson_path(world)}/pulses", body).json())

    take(0, "rest", "14")
    child = take(1, "activity", "26", "Jumps")  # as the plan had it when it was taken
    headings = world.teacher.ask("GET", f"{lesson_path(world)}/pulse").json()
    assert [one["words"] for one in headings["columns"]] == ["At rest", "After hopping"]
    assert headings["most"].startswith("Hopping raised our pulse most")
    assert "peak 156 after hopping" in child["words"]


def test_a_test_whose_clock_ran_or_that_is_conducted_stays_in_the_plan(world: World) -> None:
    kept = plan(world, TALK, own_test(world))
    conduct(world, 1, kept["revision"], run_id=str(uuid.uuid4()))
    path, body = f"{lesson_path(world)}/plan", {"based_on": kept["revision"], "blocks": [TALK]}
    refused = world.teacher.ask("PUT", path, body)
    assert "being done now" in refused.json()["message"]
    conduct(world, 1, kept["revision"], run_id=str(uuid.uuid4()), anchor_ms=2_000, ended=True)
    run = {"wave": 1, "revision": 1, "anchor_ms": 5}
    clock = f"/api/activities/{world.activity.id}/runs/{uuid.uuid4()}"
    assert world.teacher.ask("PUT", clock, run).status_code == 200
    refused = world.teacher.ask("PUT", path, body)
    assert "has records" in refused.json()["message"]
    assert Activity.objects.filter(pk=world.activity.pk).exists()


# Clocks

BASE = datetime(2026, 11, 2, 9, 0, tzinfo=UTC)


def at(seconds: float) -> datetime:
    return BASE + timedelta(seconds=seconds)


def ms(seconds: float) -> int:
    return int(at(seconds).timestamp() * 1000)


def tell(world: World, activity: Activity, run: uuid.UUID, **state: Any) -> Any:
    path = f"/api/activities/{activity.id}/runs/{run}"
    return world.teacher.ask("PUT", path, {"way": "taps", "revision": 1, **state})


def enter(world: World, activity: Activity, typed: str, seconds: float, **more: Any) -> Any:
    body = world.body(
        world.pupils[0], typed, variant="", wave=None, recorded_at=at(seconds).isoformat(), **more
    )
    return world.teacher.ask("POST", f"/api/activities/{activity.id}/attempts", body)


def test_a_time_is_held_against_the_run_it_was_taken_by(world: World) -> None:
    mile, run = world.lesson_on(0, "mile-run"), uuid.uuid4()
    assert tell(world, mile, run, anchor_ms=ms(0)).status_code == 200
    # 9:48 typed when the clock stood at 1:11.
    refused = enter(world, mile, "9:48", 71, run_id=str(run))
    assert refused.status_code == 422
    assert (
        refused.json()["sure"] and "longer than the clock ran (1:11)" in (refused.json()["message"])
    )
    assert enter(world, mile, "9:48", 588, run_id=str(run)).status_code == 200


def test_a_battery_is_no_exemption_from_its_clock(world: World) -> None:
    head, run = world.head.staff, uuid.uuid4()
    assert head is not None
    mile = world.lesson_on(0, "mile-run").protocol
    battery = make_battery(head, "Term check", [mile.test_id])
    sitting = start_sitting(head, battery.id, world.school_class.id)
    activity = sitting.activities.get()
    tell(world, activity, run, anchor_ms=ms(0))
    assert enter(world, activity, "9:48", 71, run_id=str(run)).status_code == 422
    assert enter(world, activity, "9:48", 600, run_id=str(run)).status_code == 200


def test_what_is_right_is_kept_whatever_the_clock_says(world: World) -> None:
    mile, run = world.lesson_on(0, "mile-run"), uuid.uuid4()
    tell(world, mile, run, anchor_ms=ms(0))
    kept = enter(world, mile, "9:48", 71, run_id=str(run), sure=True)
    assert kept.status_code == 200
    attempt = Attempt.objects.get(activity=mile)
    assert (attempt.value, attempt.parts["sure"], attempt.run_id) == (588_000, True, run)


def test_a_time_typed_from_paper_is_held_against_no_timetable(world: World) -> None:
    """15:40 is true, and the lesson began thirteen minutes ago."""
    mile = world.lesson_on(0, "mile-run")
    mile.lesson.starts_at = timezone.now() - timedelta(minutes=13)
    mile.lesson.save()
    body = world.body(world.pupils[0], "15:40", variant="", wave=None)
    answer = world.teacher.ask("POST", f"/api/activities/{mile.id}/attempts", body)
    assert answer.status_code == 200, answer.content


def test_another_run_says_nothing_of_a_time(world: World) -> None:
    """The first heat ran ten minutes; the second has run two."""
    mile, first, second = world.lesson_on(0, "mile-run"), uuid.uuid4(), uuid.uuid4()
    tell(world, mile, first, anchor_ms=ms(0))
    tell(world, mile, second, anchor_ms=ms(700), try_number=2)
    assert enter(world, mile, "9:30", 820, run_id=str(second)).status_code == 422
    assert enter(world, mile, "9:30", 820, run_id=str(first)).status_code == 200


@pytest.mark.parametrize(
    ("typed", "status"), [("50", 200), ("51", 200), ("52", 422), ("1:20", 422)]
)
def test_pauses_are_taken_off(world: World, typed: str, status: int) -> None:
    """Started at 0, stood from 40 to 70, taken at 80: the clock had shown 50 s."""
    plank, run = world.lesson_on(0, "plank-limit"), uuid.uuid4()
    tell(world, plank, run, anchor_ms=ms(0))
    paused = {"paused_ms": 40_000, "anchor_ms": ms(0), "revision": 2}
    assert tell(world, plank, run, **paused).status_code == 200
    assert enter(world, plank, "45", 75, run_id=str(run)).status_code == 422
    went_on = {"anchor_ms": ms(30), "revision": 3, "pauses": [
        {"from_ms": ms(40), "to_ms": ms(70)}]}  # fmt: skip
    assert tell(world, plank, run, **went_on).status_code == 200
    assert enter(world, plank, typed, 80, run_id=str(run)).status_code == status
    # What was taken before the pause is held against what the clock showed then.
    assert enter(world, plank, "31", 30, run_id=str(run), try_number=2).status_code == 200
    assert enter(world, plank, "45", 30, run_id=str(run), try_number=3).status_code == 422


def test_a_score_that_comes_before_its_clock_is_kept(world: World) -> None:
    plank = world.lesson_on(0, "plank-limit")
    assert enter(world, plank, "45", 75, run_id=str(uuid.uuid4())).status_code == 200


def test_clocks_of_every_way_are_seen_by_other_devices(world: World) -> None:
    for way in ("taps", "tally", "beeps", "target"):
        told = tell(world, world.activity, uuid.uuid4(), way=way, anchor_ms=ms(1))
        assert told.status_code == 200
    (seen,) = world.head.ask("GET", lesson_path(world)).json()["activities"]
    ways = {run["way"] for run in seen["runs"]}
    assert ways == {"taps", "tally", "beeps", "target"}
    wrong = [{"from_ms": 9, "to_ms": 5}, {"from_ms": 1, "to_ms": 2}]
    answer = tell(world, world.activity, uuid.uuid4(), anchor_ms=ms(1), pauses=wrong)
    assert "follow each other" in answer.json()["message"]


def test_a_copy_goes_on_with_the_versions_of_its_lesson(world: World) -> None:
    plan(world, TALK, own_test(world))
    edit(world, seconds=30)
    body = {"starts_at": timezone.now().isoformat()}
    made = world.teacher.ask("POST", f"{lesson_path(world)}/copy", body).json()["id"]
    page = world.teacher.ask("GET", f"/api/lessons/{made}/timeline").json()
    assert work_of(page, "Press-ups in 60 s") == [60_000, 60_000]
    assert ProtocolVersion.objects.filter(test=world.activity.protocol.test).count() == 2
