"""Every kind of score, entered in its own form, judged and shown."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from lauf.lessons.models import Activity
from lauf.people.models import Pupil
from lauf.records.models import Attempt, Calibration
from tests.api.conftest import World


def post(
    world: World, activity: Activity, typed: str, who: int = 0, *, head: bool = False, **more: Any
) -> Any:
    codes = [v["code"] for v in activity.protocol.variants] or [""]
    body = world.body(world.pupils[who], typed, variant=codes[-1], **more)
    person = world.head if head else world.teacher
    return person.ask("POST", f"/api/activities/{activity.id}/attempts", body)


@pytest.mark.parametrize(
    ("slug", "typed", "value", "shown"),
    [
        ("press-ups-60", "42", 42, "42"),
        ("plank-limit", "1:05.3", 65_300, "1:05.3"),
        ("squats-30-time", "48.5", 48_500, "48.5 s"),
        ("long-jump", "4ft 2in", 1270, "127 cm"),
        ("vertical-jump", "142 171", 290, "29 cm"),
        ("sit-reach-box", "+3", 30, "+3 cm"),
        ("sit-reach-wall", "-5", -50, "−5 cm"),
        ("shoulder-reach", "y n", 1, "left"),
        ("underarm-10", "xxoxxoxxxo", 7, "7/10"),
        ("shuttle-20m-even", "4.6", None, "4.6"),
        ("reps-240", "c40+60+70", 170, "170"),
        ("resting-pulse", "14/10s", 84, "84 bpm"),
    ],
)
def test_a_score_is_typed_in_its_own_form(
    world: World, slug: str, typed: str, value: int | None, shown: str
) -> None:
    answer = post(world, world.lesson_on(0, slug), typed)
    assert answer.status_code == 200, answer.json()
    score = answer.json()["score"]
    assert (score["typed"], score["shown"]) == (typed, shown)
    assert value is None or score["value"] == value


def test_height_and_weight_are_staffs_with_the_permission(world: World) -> None:
    world.head.staff.may_see_growth = True  # type: ignore[union-attr]
    world.head.staff.save()  # type: ignore[union-attr]
    pupil = world.pupils[0]
    Pupil.objects.filter(pk=pupil.pk).update(born="2018-01-10", sex="female")
    for days, height, weight in ((200, "4ft 1in", "56 lb"), (1, "127.6", "26.9")):
        at = (timezone.now() - timedelta(days=days)).isoformat()
        for slug, typed in (("height", height), ("weight", weight)):
            activity = world.lesson_on(days, slug)
            assert post(world, activity, typed).status_code == 404
            answer = post(world, activity, typed, head=True, recorded_at=at)
            assert answer.status_code == 200
            # A class view carries no centile.
            assert not any("centile" in word for word in answer.json()["words"])
    record = world.head.ask("GET", f"/api/pupils/{pupil.id}/growth").json()
    tall = next(test for test in record["tests"] if test["test"] == "Height")
    assert [row["shown"] for row in tall["readings"]] == ["124.5 cm", "127.6 cm"]
    assert all("centile" in row["centile"] for row in tall["readings"])
    # 31 mm in 199 days.
    assert tall["yearly"] == "+5.7 cm a year"
    # 26.9 kg / (1.276 m)²
    assert record["bmi"][-1]["shown"] == "16.5 kg/m²"
    assert any("public domain" in source for source in record["sources"])
    public = world.teacher.ask("GET", f"/api/pupils/{pupil.id}")
    assert b"Height" not in public.content and b"127" not in public.content


def test_several_tries_the_best_counts_and_a_fall_is_jumped_again(world: World) -> None:
    activity = world.lesson_on(0, "long-jump")
    for number, typed in enumerate(("121", "v", "134~"), 1):
        child = post(world, activity, typed, try_number=number).json()
    assert [one["score"]["shown"] if one["score"] else None for one in child["tries"]][:3] == [
        "121 cm", "void", "134 cm",
    ]  # fmt: skip
    assert len(child["tries"]) == activity.protocol.tries + 1, "room to jump again"
    assert child["score"]["shown"] == "134 cm"
    child = post(world, activity, "136", try_number=4).json()
    assert (child["score"]["shown"], child["score"]["estimate"]) == ("136 cm", False)
    assert post(world, activity, "1", try_number=16).status_code == 422


def test_a_child_may_have_its_own_conditions(world: World) -> None:
    activity = world.lesson_on(0, "shuttles-30")
    path = f"/api/activities/{activity.id}/conditions"
    assert world.teacher.ask("PUT", path, {"conditions": {"course_mm": 5000}}).status_code == 200
    earlier = world.lesson_on(7, "shuttles-30")
    post(world, earlier, "14", recorded_at=(timezone.now() - timedelta(days=7)).isoformat())
    child = post(world, activity, "12").json()
    assert child["score"]["conditions"] == {"course_mm": 5000}
    usual = activity.protocol.conditions["course_mm"]
    assert (
        f"as metres, on another course: 60 m, last time {14 * usual / 1000:g} m" in child["words"]
    )
    own = post(world, activity, "12", 1, conditions={"course_mm": 4000}).json()
    assert own["score"]["conditions"] == {"course_mm": 4000}
    for wrong in ({"course_mm": 1}, {"course_mm": "long"}, {"ball": "red"}):
        assert world.teacher.ask("PUT", path, {"conditions": wrong}).status_code == 422


def test_hand_spans_are_kept_and_compared_once_a_hand_is_measured(world: World) -> None:
    activity = world.lesson_on(0, "floor-roll")
    child = post(world, activity, "8 hands").json()
    assert (child["score"]["value"], child["score"]["shown"]) == (None, "8 hands")
    assert child["words"] == ["saved as typed. Measure the child's hand or step to compare it"]
    hand = {"pupil_id": world.pupils[0].id, "unit": "hand", "known": "1m", "counted": 8}
    assert world.teacher.ask("POST", "/api/calibrations", hand).status_code == 201
    assert world.child(world.pupils[0], activity)["score"]["value"] == 1000
    assert Attempt.objects.get().value is None, "what was typed stays as it was"
    silly = {**hand, "counted": 1, "known": "900m"}
    assert world.teacher.ask("POST", "/api/calibrations", silly).status_code == 422
    assert Calibration.objects.count() == 1


def test_a_mile_with_lap_times_says_its_pace_and_halves(world: World) -> None:
    activity = world.lesson_on(0, "mile-run")
    child = post(world, activity, "2:05 4:20 6:40 9:00").json()
    assert child["score"]["shown"] == "9:00"
    # 540 s over 1.609344 km: 335.5 s a kilometre.
    assert child["words"][-2:] == ["5:36 a km", "halves: slower second half"]


def test_an_unfinished_mile_keeps_its_metres(world: World) -> None:
    activity = world.lesson_on(0, "mile-laps")
    child = post(world, activity, "480m run").json()
    assert child["score"]["reason"] == "unfinished"
    assert child["words"] == ["not finished, 480 m run"]


def test_an_ambiguous_time_is_asked_about(world: World) -> None:
    answer = post(world, world.lesson_on(0, "plank-limit"), "1.05")
    assert answer.status_code == 422
    assert [choice["typed"] for choice in answer.json()["choices"]] == ["1:05", "1.05s"]


def test_a_school_may_measure_in_inches_and_pounds(world: World) -> None:
    head = world.head
    assert head.ask("PUT", "/api/school/units", {"imperial": True}).json()["imperial"] is True
    activity = world.lesson_on(0, "long-jump")
    child = post(world, activity, "41").json()
    assert (child["score"]["value"], child["score"]["shown"]) == (1041, "41 in")
    assert post(world, activity, "127cm", 1).json()["score"]["shown"] == "50 in"
    assert any(word.endswith(" line") or " in more to " in word for word in child["words"])
