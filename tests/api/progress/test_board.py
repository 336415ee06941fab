"""The class board says of each child and test what the test's own page says."""

from __future__ import annotations

import statistics
from datetime import timedelta
from typing import Any

from django.utils import timezone

from tests.api.asking import get, put
from tests.api.conftest import World


def board(world: World, **days: Any) -> dict[str, Any]:
    path = f"/api/classes/{world.school_class.id}/board"
    query = "&".join(f"{name}={day}" for name, day in days.items())
    answer = world.teacher.ask("GET", f"{path}?{query}")
    assert answer.status_code == 200, answer.content
    return dict(answer.json())


def tested(world: World) -> None:
    """Three occasions of press-ups; the last one with a reason, an estimate and a gap."""
    for days, more in ((40, 0), (20, 2)):
        activity = world.lesson_on(days)
        for number, pupil in enumerate(world.pupils):
            world.record(pupil, str(12 + number + more), activity)
    for number, pupil in enumerate(world.pupils[:10]):
        world.record(pupil, {8: "x", 9: "31~"}.get(number, str(14 + number + 7 * (number % 3))))


def test_every_cell_says_what_the_test_says(world: World) -> None:
    tested(world)
    page = board(world)
    assert [one["test"] for one in page["tests"]] == ["Press-ups in 60 s"]
    lanes = world.teacher.ask("GET", f"/api/activities/{world.activity.id}/lanes").json()
    for child, lane in zip(page["children"], lanes["children"], strict=True):
        (cell,) = child["cells"]
        assert child["name"] == lane["name"]
        if lane["score"] is None or lane["score"]["value"] is None:
            continue  # the board shows the last one there is
        assert cell["shown"] == lane["score"]["shown"]
        assert cell["words"] in lane["words"] and cell["rung_name"] in lane["words"]
        assert cell["estimate"] == lane["score"]["estimate"]
    # Who had no score today stands with the one before.
    assert page["children"][8]["cells"][0]["shown"] == "22"
    (summary,) = page["tests"]
    shown = [int(one["cells"][0]["shown"].rstrip(" ~")) for one in page["children"]]
    assert summary["median"] == f"{statistics.median(shown):g}" or summary["n"] == 12
    assert summary["better"] + summary["steady"] + summary["lower"] <= 12


def test_a_stretch_of_days_holds_its_own_scores_and_no_others(world: World) -> None:
    tested(world)
    today = timezone.localdate()
    then = board(world, since=today - timedelta(days=45), until=today - timedelta(days=30))
    assert [one["cells"][0]["shown"] for one in then["children"]][:3] == ["12", "13", "14"]
    assert {one["cells"][0]["verdict"] for one in then["children"]} == {"first"}
    before = board(world, since=today - timedelta(days=400), until=today - timedelta(days=300))
    assert before["tests"] == [] and before["children"][0]["cells"] == []


def test_no_body_measurement_is_on_it_whoever_looks(world: World) -> None:
    world.permit(world.teacher.staff, may_see_growth=True)
    weight = world.lesson_on(0, "weight")
    at = f"/api/activities/{weight.id}/attempts"
    for pupil in world.pupils:
        world.teacher.ask("POST", at, world.body(pupil, "25", variant=""))
    assert board(world)["tests"] == []


def test_who_went_down_in_two_tests_is_noted_with_both(world: World) -> None:
    for slug, scores in (("press-ups-60", ("30", "12")), ("burpees-30", ("14", "4"))):
        for days, typed in zip((20, 2), scores, strict=True):
            variant = "full" if slug == "press-ups-60" else None
            activity = world.lesson_on(days, slug)
            more = {} if variant else {"variant": activity.protocol.variant_codes[0]}
            world.record(world.pupils[0], typed, activity, **more)
    first, other = board(world)["children"][:2]
    (note,) = first["notes"]
    assert note["need"] == "lower" and "Burpees" in note["words"] and "Press-ups" in note["words"]
    assert [one["need"] for one in other["notes"]] == ["never"]


def test_a_term_is_put_beside_another(world: World) -> None:
    today = timezone.localdate()
    for days, score in ((200, "10"), (30, "30"), (2, "12")):
        activity = world.lesson_on(days)
        for pupil in world.pupils[:6]:
            world.record(pupil, score, activity)
    at = f"/api/classes/{world.school_class.id}/board?since={today - timedelta(days=10)}"
    plain = get(world.teacher, at)["children"][0]["cells"][0]
    assert (plain["then"], plain["verdict"]) == ("30", "lower")
    before = f"beside_since={today - timedelta(days=250)}"
    until = f"beside_until={today - timedelta(days=150)}"
    page = get(world.teacher, f"{at}&{before}&{until}")
    cell = page["children"][0]["cells"][0]
    assert (cell["then"], cell["verdict"], cell["shown"]) == ("10", "steady", "12")
    assert (page["tests"][0]["median_then"], page["tests"][0]["median"]) == ("10", "12")


def test_a_note_is_set_aside_with_a_reason_as_long_as_it_says_the_same(world: World) -> None:
    child = world.pupils[0]
    for slug, scores in (("press-ups-60", ("30", "12")), ("burpees-30", ("14", "4"))):
        for days, typed in zip((20, 2), scores, strict=True):
            activity = world.lesson_on(days, slug)
            world.record(child, typed, activity, variant=activity.protocol.variant_codes[-1])

    def note() -> Any:
        return get(world.teacher, f"/api/classes/{world.school_class.id}/board")["children"][0][
            "notes"
        ][0]

    assert note()["need"] == "lower" and note()["aside"] is None
    at = f"/api/pupils/{child.id}/notes/lower"
    empty = world.teacher.ask("PUT", at, {"words": note()["words"], "why": "  "})
    assert empty.status_code == 422 and "reason" in empty.json()["message"]
    put(world.teacher, at, {"words": note()["words"], "why": "had been ill"})
    assert note()["aside"]["why"] == "had been ill"
    # The next scores say something new: it is looked at anew.
    activity = world.lesson_on(1, "burpees-30")
    world.record(child, "3", activity, variant=activity.protocol.variant_codes[-1])
    assert note()["aside"] is None
