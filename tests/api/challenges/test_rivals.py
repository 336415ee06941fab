"""Marks and scores are of the form, the course and the clock that they were made with."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from django.utils import timezone

from lauf.challenges.models import Challenge
from lauf.lessons.models import Activity, Run
from tests.api.conftest import World
from tests.api.weeks import a_challenge, a_week, added, person, rival_in


def ran(world: World, activity: Activity, seconds: int, ended: str = "complete") -> None:
    """A clock of taps that ran so long in an activity."""
    now = int(datetime.now().timestamp() * 1000)
    run = {
        "way": "taps", "wave": None, "revision": 1, "anchor_ms": now - seconds * 1000,
        "ended": ended, "worked_seconds": seconds if ended == "complete" else None,
    }  # fmt: skip
    path = f"/api/activities/{activity.id}/runs/{uuid.uuid4()}"
    answer = world.teacher.ask("PUT", path, run)
    assert answer.status_code == 200, answer.content


def make(world: World, activity: Activity, challenge: Challenge, typed: str, **more: Any) -> Any:
    path = f"/api/activities/{activity.id}/rivals/{challenge.id}"
    return world.teacher.ask("PUT", path, {"typed": typed, **more})


def test_a_mark_that_is_to_come_is_made_in_the_form_that_was_chosen(world: World) -> None:
    week = a_week(world)
    challenge = a_challenge(world, week, rival="")
    row = person("Brook", (challenge, ""), variant="knees")
    assert world.teacher.ask("PUT", f"/api/weeks/{week.id}/rival", row).status_code == 200
    waiting = rival_in(world, world.activity)
    assert (waiting["made"], waiting["variant_name"]) == (False, "on the knees")
    (made,) = make(world, world.activity, challenge, "34").json()
    assert (made["rival"]["variant"], made["rival"]["shown"]) == ("knees", "34")
    # Chosen anew where it is made.
    (made,) = make(world, world.activity, challenge, "34", variant="full").json()
    assert made["rival"]["variant"] == "full"
    (gone,) = make(world, world.activity, challenge, "").json()
    assert (gone["rival"]["made"], gone["rival"]["variant"]) == (False, "full")


def test_a_mark_is_of_the_course_that_the_class_is_on(world: World) -> None:
    activity = world.lesson_on(0, "shuttles-30")
    week = a_week(world, timezone.localdate())
    challenge = added(world, week, week.starts_on, activity.protocol.test_id)
    Activity.objects.filter(pk=activity.pk).update(conditions={"course_mm": 8000})
    row = person("Brook", (challenge, ""))
    assert world.teacher.ask("PUT", f"/api/weeks/{week.id}/rival", row).status_code == 200
    (made,) = make(world, activity, challenge, "12").json()
    assert made["rival"]["course"] == "8 m"
    assert world.post(world.pupils[0], "13", activity, variant="", wave=None).status_code == 200
    children = world.teacher.ask("GET", f"/api/challenges/{challenge.id}").json()["children"]
    mine = next(one for one in children if one["pupil_id"] == str(world.pupils[0].id))
    assert mine["rival"] == "beat Brook by 1"


def test_a_time_beyond_the_clock_of_the_test_is_asked_about(world: World) -> None:
    """Common practice: nobody takes longer than the clock that everybody was taken by."""
    activity = world.lesson_on(0, "mile-run")
    week = a_week(world, timezone.localdate())
    challenge = added(world, week, week.starts_on, activity.protocol.test_id)
    row = person("Brook", (challenge, ""))
    assert world.teacher.ask("PUT", f"/api/weeks/{week.id}/rival", row).status_code == 200
    form = activity.protocol.usual_variant
    free = world.post(world.pupils[0], "10:30", activity, variant=form, wave=None).json()
    assert free["flags"] == [], "no clock ran: it is held against none"
    ran(world, activity, 600, ended="")
    still = world.post(world.pupils[1], "10:31", activity, variant=form, wave=None).json()
    assert still["flags"] == [], "it runs still"
    Run.objects.all().delete()
    ran(world, activity, 600)
    child = world.post(world.pupils[2], "10:10", activity, variant=form, wave=None).json()
    (flag,) = child["flags"]
    assert flag["code"] == "clock" and "10:01" in flag["words"]
    good = world.post(world.pupils[3], "9:10", activity, variant=form, wave=None).json()
    assert good["flags"] == []
    refused = make(world, activity, challenge, "10:10")
    assert refused.status_code == 422 and refused.json()["sure"] is True
    assert rival_in(world, activity)["made"] is False
    (made,) = make(world, activity, challenge, "10:10", sure=True).json()
    assert made["rival"]["shown"] == "10:10"


def test_what_no_child_of_an_age_does_is_asked_about(world: World) -> None:
    """Common practice: a jump of a hand's breadth was typed in another unit, or is a try number."""
    activity = world.lesson_on(0, "long-jump")
    for number, typed in enumerate(("4", "10", "6in", "12.7", "300")):
        row = world.post(world.pupils[number], typed, activity, variant="", wave=None).json()
        if typed == "12.7":  # finer than a tape shows: refused
            continue
        assert [one["code"] for one in row["flags"]] == ["age"], (typed, row)
        assert row["score"]["open"] is True
    (flag,) = world.post(world.pupils[5], "12", activity, variant="", wave=None).json()["flags"]
    assert flag["words"].startswith("Lower than expected of a child")
    plain = world.post(world.pupils[6], "120", activity, variant="", wave=None).json()
    assert plain["flags"] == []
