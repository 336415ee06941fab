"""What is compared with what: goals, clocks and courses in a score's key, and what asks again."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from lauf.catalogue.models import Ladder
from lauf.catalogue.models import Test as Protocol
from lauf.people.models import Pupil
from tests.api.catalogue.test_tests import norm_body
from tests.api.conftest import World
from tests.api.weeks import a_week, added, person


def card(world: World, slug: str) -> dict[str, Any]:
    test = Protocol.objects.get(school=world.school, slug=slug)
    found: dict[str, Any] = world.head.ask("GET", f"/api/tests/{test.id}").json()
    return found


def edit(world: World, slug: str, **change: Any) -> dict[str, Any]:
    shown = card(world, slug)
    body = {"based_on": shown["version"], "protocol": {**shown["protocol"], **change}}
    answer = world.head.ask("POST", f"/api/tests/{shown['id']}/versions", body)
    assert answer.status_code == 201, answer.content
    found: dict[str, Any] = answer.json()
    return found


def scores(world: World, slug: str, typed: list[str], **more: Any) -> list[str]:
    """The words of each score of one child, in lessons of this and the last days."""
    said = []
    for number, one in enumerate(typed):
        days = len(typed) - number
        at = timezone.now() - timedelta(days=days)
        activity = world.lesson_on(days, slug)
        world.record(world.pupils[0], one, activity, recorded_at=at,
                     **{"variant": "", "wave": None, **more})  # fmt: skip
        said.append(" ".join(world.child(world.pupils[0], activity)["words"]))
    return said


def test_a_run_of_another_distance_is_another_run(world: World) -> None:
    """1:58 over 400 m is no best of a child who ran 800 m in 4:10."""
    goal = card(world, "mile-run")["protocol"]["target_mm"]
    scores(world, "mile-run", ["10:10"])
    edit(world, "mile-run", target_mm=goal // 2)
    (said,) = scores(world, "mile-run", ["5:02"])
    assert "new best" not in said and "better" not in said
    assert "under different rules" in said


@pytest.mark.parametrize(
    ("change", "compared"),
    [
        ({"easier": "With a walk between."}, True),
        ({"changeover_seconds": 90}, True),
        ({"counts": ["Both feet over the line."]}, False),
    ],
)
def test_only_a_change_of_meaning_parts_the_scores(
    world: World, change: dict[str, Any], compared: bool
) -> None:
    scores(world, "mile-run", ["10:10"])
    edit(world, "mile-run", **change)
    (said,) = scores(world, "mile-run", ["9:02"])
    assert ("under different rules" not in said) is compared


def test_another_clock_asks_which_sentences_limits_and_ladders_still_fit(world: World) -> None:
    shown = card(world, "press-ups-60")
    half = {**shown["protocol"], "seconds": 30, "say": ["Sixty.", "You have 60 seconds."]}
    path = f"/api/tests/{shown['id']}/effects"
    told = {**shown["protocol"], "say": half["say"]}
    assert world.head.ask("POST", path, {"based_on": 1, "protocol": told}).json()["questions"] == []
    asked = world.head.ask("POST", path, {"based_on": 1, "protocol": half}).json()["questions"]
    words = " ".join(asked)
    assert "Is this still right? “You have 60 seconds.”" in asked
    assert "the highest possible score" in words and "A count is never scaled" in words
    made = world.head.ask(
        "POST", "/api/tests",
        {"name": "Half a minute", "family": "", "copy_of": shown["id"], "protocol": half},
    )  # fmt: skip
    assert made.status_code == 201, made.content
    assert not Ladder.objects.filter(test=made.json()["id"]).exists()


def ladder_body(world: World, **more: Any) -> dict[str, Any]:
    year = str(world.school_class.year_group_id)
    return {
        "year_group_id": year, "variant": "full", "sex": "female",
        "rungs": [{"name": name, "at": ""} for name in ("Kerb", "Bench", "Fence")], **more,
    }  # fmt: skip


@pytest.mark.parametrize("printed", ["seven to nine", "7-9, 11-o5", "9, 7", "7–9 and more"])
def test_ranges_that_cannot_be_read_cannot_be_kept(world: World, printed: str) -> None:
    """Whatever the last good reading was: it is not kept in the place of what is on the card."""
    path = f"/api/tests/{card(world, 'press-ups-60')['id']}/ladders"
    rungs = [{"name": name, "at": at} for name, at in (("A", "7"), ("B", "11"), ("C", "19"))]
    before = Ladder.objects.count()
    answer = world.head.ask("POST", path, ladder_body(world, printed=printed, rungs=rungs))
    assert answer.status_code == 422, answer.content
    assert Ladder.objects.count() == before


def test_a_ladder_names_its_course(world: World) -> None:
    shown = card(world, "shuttles-30")
    usual = shown["protocol"]["conditions"]["course_mm"]
    rungs = [{"name": "Kerb", "at": "5"}, {"name": "Bench", "at": "9"}]
    body = ladder_body(world, variant="", rungs=rungs, course="6 m")
    assert usual != 6000
    made = world.head.ask("POST", f"/api/tests/{shown['id']}/ladders", body)
    assert made.status_code == 201, made.content
    assert Ladder.objects.get(pk=made.json()["id"]).conditions["course_mm"] == 6000
    page = world.head.ask("GET", f"/api/tests/{shown['id']}/benchmarks").json()
    found = next(one for one in page["ladders"] if one["id"] == made.json()["id"])
    assert "another course" in str(found["findings"]) or "6 m" in str(found["findings"])


def test_a_rival_is_met_on_the_course_the_mark_was_set_on(world: World) -> None:
    week = a_week(world)
    test = card(world, "shuttles-30")
    challenge = added(world, week, week.starts_on, test["id"])
    path = f"/api/weeks/{week.id}/rival"
    mark = person("Brook", (challenge, "8"), course="6 m")
    assert world.teacher.ask("PUT", path, mark).status_code == 200
    activity = world.lesson_on(0, "shuttles-30")
    for number, course in ((0, None), (1, 6000)):
        own = {"course_mm": course} if course else {}
        world.record(world.pupils[number], "10", activity, variant="", conditions=own)
    children = world.teacher.ask("GET", f"/api/challenges/{challenge.id}").json()["children"]
    said = {child["pupil_id"]: child["rival"] for child in children}
    assert said[str(world.pupils[0].id)].startswith("not compared")
    assert said[str(world.pupils[1].id)] == "beat Brook by 2"
    assert "6 m" in str(world.teacher.ask("GET", f"/api/challenges/{challenge.id}").json()["rival"])
    wrong = world.teacher.ask("PUT", path, person("Brook", (challenge, "8"), course="six"))
    assert wrong.status_code == 422


def test_a_best_is_of_one_form(world: World) -> None:
    """Forty on the knees are no best to beat for somebody who does full ones."""
    pupil = world.pupils[0]
    world.record(pupil, "40", world.lesson_on(20), variant="knees")
    world.record(pupil, "15", world.lesson_on(10))
    child = world.post(pupil, "18").json()
    assert child["lane"]["best"] == 18
    assert any("new best" in words for words in child["words"])


def test_a_norm_of_another_clock_places_nobody(world: World) -> None:
    test = card(world, "press-ups-60")["id"]
    text = "sex,age,P5,P50,P95\ngirl,8,6,14,25\ngirl,9,9,18,30\n"
    at = f"/api/tests/{test}"
    assert world.head.ask("POST", f"{at}/norms", norm_body(text=text)).status_code == 201
    shown = card(world, "press-ups-60")
    edit = {"based_on": shown["version"], "protocol": {**shown["protocol"], "seconds": 30}}
    assert world.head.ask("POST", f"{at}/versions", edit).status_code == 201
    pupil = world.pupils[0]
    Pupil.objects.filter(pk=pupil.pk).update(
        born=timezone.localdate() - timedelta(days=9 * 365), sex="female"
    )
    world.record(pupil, "14", world.lesson_on(0))
    record = world.teacher.ask("GET", f"/api/pupils/{pupil.id}").json()
    (norm,) = record["tests"][0]["lanes"][0]["norms"]
    assert norm["why_not"] == "the norm is for 60 s"
