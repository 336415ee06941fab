"""A score of which something is asked is shown, and takes no part in anything until it is settled:
one slip of a digit changes nothing but its own row."""

from __future__ import annotations

import csv
import io
import random
import threading
from typing import Any

import pytest
from django.db import connection

from lauf.lessons.models import Activity
from lauf.people.models import Pupil
from lauf.records.models import Question, RepeatSummary
from tests.api.conftest import World

JUMP = "long-jump"
CHILDREN = 14


def keep(world: World, activity: Activity, pupil: Pupil, typed: str, **more: Any) -> dict[str, Any]:
    """The child's row after a score, as the device that sent it gets it."""
    body = world.body(pupil, typed, **{"variant": "", "wave": None, **more})
    answer = world.teacher.ask("POST", f"/api/activities/{activity.id}/attempts", body)
    assert answer.status_code == 200, answer.content
    return dict(answer.json())


def confirm(world: World, child: dict[str, Any]) -> None:
    for flag in child["flags"]:
        path = f"/api/attempts/{child['score']['id']}/confirm"
        assert world.teacher.ask("POST", path, {"flag": flag["code"]}).status_code == 200


@pytest.fixture
def jumps(world: World) -> tuple[World, list[Pupil], list[Activity]]:
    """A class that has jumped on three days, everybody about as far each time."""
    world.more_children(CHILDREN - len(world.pupils))
    pupils = list(Pupil.objects.filter(school_class=world.school_class).order_by("given_name"))
    days = [world.lesson_on(ago, JUMP) for ago in (20, 13, 4)]
    chance = random.Random(4)
    for place, pupil in enumerate(pupils):
        for day in days:
            keep(world, day, pupil, str(110 + 2 * place + chance.randint(-2, 2)))
    assert not Question.objects.exists()
    return world, pupils, days


def all_pages(world: World, days: list[Activity], but: Pupil) -> dict[str, Any]:
    """What the school is told of everybody but one child, and of the class as a whole."""
    ask = world.teacher.ask
    board = ask("GET", f"/api/classes/{world.school_class.id}/board").json()
    test = next(one for one in board["tests"] if one["test"].startswith("Standing"))
    lanes = ask("GET", f"/api/activities/{days[2].id}/lanes").json()["children"]
    others = [
        ask("GET", f"/api/pupils/{one.id}").json()["tests"]
        for one in Pupil.objects.filter(school_class=world.school_class)[:4]
        if one != but
    ]
    return {
        "board": {k: test[k] for k in test if k not in ("missing", "n", "median", "middle_half")},
        "lanes": [
            {k: one[k] for k in ("words", "target", "flags")}
            for one in lanes
            if one["pupil_id"] != str(but.id)
        ],
        "others": others,
    }


def test_a_slip_that_is_asked_about_changes_nothing_but_its_own_row(
    jumps: tuple[World, list[Pupil], list[Activity]],
) -> None:
    world, pupils, days = jumps
    slipped, today = pupils[5], world.lesson_on(0, JUMP)
    for place, pupil in enumerate(pupils):
        if pupil != slipped:
            keep(world, today, pupil, str(112 + 2 * place))
    before = all_pages(world, [*days[:2], today], slipped)
    child = keep(world, today, slipped, "12")
    assert [one["code"] for one in child["flags"]] == ["age", "slip", "class"]
    assert child["score"]["open"] and child["score"]["shown"] == "12 cm"
    assert child["words"] == ["open, and counts once someone has checked it"]
    assert child["target"] is None
    assert child["lane"]["best"] > 1000, "the best is one of the days before"
    after = all_pages(world, [*days[:2], today], slipped)
    assert after == before

    # Shown as open, wherever it is shown.
    attempt = child["score"]["id"]
    ask = world.teacher.ask
    record = ask("GET", f"/api/pupils/{slipped.id}").json()["tests"][0]
    assert record["history"][0]["score"]["open"]
    assert record["lanes"][0]["shown"] != "12 cm"
    steps = ask("GET", f"/api/attempts/{attempt}/why").json()["steps"]
    assert [one["words"] for one in steps if one["what"] == "Asked"] == [
        flag["words"] for flag in sorted(child["flags"], key=lambda one: str(one["code"]))
    ]
    results = ask("GET", f"/api/lessons/{today.lesson_id}/results").json()
    assert [one["odd"] for one in results["tests"]] == [1]
    text = ask("GET", f"/api/activities/{today.id}/scores.csv").content.decode()
    rows = {row["given_name"]: row for row in csv.DictReader(io.StringIO(text))}
    assert (rows[slipped.given_name]["value"], rows[slipped.given_name]["status"]) == ("12", "open")

    # Settled it takes part; typed again, the old one is as if it had never been asked about.
    confirm(world, child)
    assert not world.child(slipped, today)["score"]["open"]
    assert all_pages(world, [*days[:2], today], slipped) != before
    again = keep(world, today, slipped, "120", succeeds=attempt)
    assert again["flags"] == []
    assert not again["score"]["open"] and "120 cm" in again["score"]["shown"], again["words"]


def test_what_is_asked_goes_by_the_whole_class_however_it_comes_in(
    jumps: tuple[World, list[Pupil], list[Activity]],
) -> None:
    """The first in is far from the rest only once the rest is in; and no longer, once they are."""
    world, pupils, _ = jumps
    reach = world.lesson_on(0, "sit-reach-23")
    first = keep(world, reach, pupils[0], "39")
    assert first["flags"] == []
    for place, pupil in enumerate(pupils[1:]):
        keep(world, reach, pupil, str(20 + place % 3))
    child = world.child(pupils[0], reach)
    assert [one["code"] for one in child["flags"]] == ["class"]
    assert child["score"]["open"]
    for place, pupil in enumerate(pupils[1:9]):
        head = world.child(pupil, reach)["head"]
        keep(world, reach, pupil, str(36 + place % 3), succeeds=head)
    assert world.child(pupils[0], reach)["flags"] == []


def test_two_that_are_kept_at_once_are_asked_about_beside_each_other(
    transactional_world: World,
) -> None:
    world = transactional_world
    world.more_children(8)
    pupils = list(Pupil.objects.filter(school_class=world.school_class).order_by("given_name"))
    for place, pupil in enumerate(pupils[:-2]):
        assert keep(world, world.activity, pupil, str(20 + place % 2), variant="full", wave=1)
    start = threading.Barrier(2)

    def write(pupil: Pupil, typed: str) -> None:
        start.wait(30)
        keep(world, world.activity, pupil, typed, variant="full", wave=1)
        connection.close()

    writing = [
        threading.Thread(target=write, args=pair)
        for pair in zip(pupils[-2:], ("39", "21"), strict=True)
    ]
    for one in writing:
        one.start()
    for one in writing:
        one.join()
    assert world.child(pupils[-2])["score"]["open"]


def test_repeat_tests_hold_what_is_settled_and_nothing_that_is_open(
    jumps: tuple[World, list[Pupil], list[Activity]],
) -> None:
    """By any order of reading, asking, settling and correcting the band is that of the scores that
    nothing is asked of."""
    world, pupils, days = jumps

    def band(pupil: Pupil) -> str:
        record = world.teacher.ask("GET", f"/api/pupils/{pupil.id}").json()["tests"][0]
        return str(record["lanes"][0]["band_words"])

    plain = band(pupils[0])
    child = world.child(pupils[3], days[1])
    slip = keep(world, days[1], pupils[3], "14", succeeds=child["head"])
    assert slip["score"]["open"]
    without = band(pupils[0])
    RepeatSummary.objects.all().delete()
    assert band(pupils[0]) == without
    assert f"from {CHILDREN} " in plain
    assert f"from {CHILDREN - 1} " in without
    confirm(world, slip)
    assert f"from {CHILDREN} " in band(pupils[0])
    keep(world, days[1], pupils[3], child["score"]["typed"], succeeds=slip["score"]["id"])
    assert band(pupils[0]) == plain
