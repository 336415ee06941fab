"""Pulses of a lesson: converted once, shown with what they resolve, slips asked about."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from django.db import DatabaseError, connection, transaction
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from lauf.people.models import Pupil
from lauf.records.models import PulseReading
from tests.api.conftest import World

PLACES = {"rest": 0, "warm_up": 1, "activity": 2, "recovery": 3}


def take(
    world: World, moment: str, typed: str, seconds: int = 10, who: int = 0, **more: Any
) -> Any:
    body = {
        "id": str(uuid.uuid4()),
        "pupil_id": str(world.pupils[who].id),
        "position": PLACES[moment],
        "moment": moment,
        "typed": typed,
        "seconds": seconds,
        "recorded_at": timezone.now().isoformat(),
        **more,
    }
    return world.teacher.ask("POST", f"/api/lessons/{world.activity.lesson_id}/pulses", body)


def page(world: World) -> dict[str, Any]:
    answer = world.teacher.ask("GET", f"/api/lessons/{world.activity.lesson_id}/pulse")
    found: dict[str, Any] = answer.json()
    return found


def test_a_series_is_converted_once_and_summed_up(world: World) -> None:
    Pupil.objects.filter(pk=world.pupils[0].pk).update(born=timezone.localdate().replace(
        year=timezone.localdate().year - 10, day=1))  # fmt: skip
    take(world, "rest", "14")
    take(world, "warm_up", "20")
    take(world, "activity", "26", label="Press-ups in 60 s")
    child = take(world, "recovery", "38", 20, waited=60).json()
    assert [r["shown"] for r in child["readings"]] == ["84", "120", "156", "114"]
    # 208 − 0.7·10 = 201 (Tanaka 2001): 156 is 78 %; Karvonen 1957: (156 − 84)/(201 − 84) = 62 %.
    assert child["words"][:3] == ["peak 156 after Press-ups in 60 s", "72 above rest",
                                  "down 42 after 60 s"]  # fmt: skip
    assert child["words"][3] in ("78 % of the estimated maximum", "77 % of the estimated maximum")
    said = page(world)
    assert [(c["words"], c["median"]) for c in said["columns"]] == [
        ("At rest", 84), ("After the warm-up", 120), ("After Press-ups in 60 s", 156),
        ("Recovery", 114),
    ]  # fmt: skip
    assert said["most"].startswith("Press-ups in 60 s raised our pulse most")
    assert "never a diagnosis" in said["caution"]


def test_one_beat_more_in_ten_seconds_is_no_change(world: World) -> None:
    take(world, "rest", "14", 15)
    child = take(world, "warm_up", "10").json()
    assert child["words"][1] == "the same as at rest, within ±6"


@pytest.mark.parametrize(
    ("typed", "seconds", "says"),
    [("84", 10, "already beats a minute"), ("14", 60, "beats in 10 s"), ("fast", 10, "not a num")],
)
def test_what_cannot_be_a_pulse_is_stopped_with_a_guess_at_why(
    world: World, typed: str, seconds: int, says: str
) -> None:
    answer = take(world, "rest", typed, seconds)
    assert answer.status_code == 422
    assert says in answer.json()["message"] and "Type the beats" in answer.json()["accepted"]


def test_odd_ones_are_asked_about_and_confirmed(world: World) -> None:
    take(world, "rest", "14")
    child = take(world, "activity", "12").json()
    reading = child["readings"][1]
    assert [flag["code"] for flag in reading["flags"]] == ["below_rest"]
    child = take(world, "activity", "12", succeeds=reading["id"], confirmed=True).json()
    assert child["readings"][1]["flags"] == []
    assert PulseReading.objects.count() == 3


def test_kept_once_corrected_by_succession_and_taken_back(world: World) -> None:
    same = str(uuid.uuid4())
    answers = [take(world, "rest", "14", id=same) for _ in range(2)]
    assert [answer.status_code for answer in answers] == [200, 200]
    assert take(world, "rest", "15").status_code == 409, "another device's entry stands there"
    taken = take(world, "rest", "", succeeds=same, withdrawn=True).json()
    assert taken["readings"][0]["taken_back"] is True
    assert take(world, "rest", "15").json()["readings"][0]["shown"] == "90"
    assert PulseReading.objects.count() == 3
    with pytest.raises(DatabaseError, match="append-only"), transaction.atomic():
        PulseReading.objects.update(beats=20)
    assert world.pupils[0].pulses.count() == 3


def test_an_earlier_reading_is_put_back_and_another_device_is_named(world: World) -> None:
    first = take(world, "recovery", "18", 20, waited=45).json()["readings"][0]
    other = take(world, "recovery", "25")
    assert other.status_code == 409
    assert (other.json()["current"]["typed"], other.json()["current"]["by"]) == ("18", "Teacher")
    second = take(world, "recovery", "x", succeeds=first["id"]).json()["readings"][0]
    back = {"succeeds": second["id"], "restores": first["id"]}
    (third,) = take(world, "recovery", "", **back).json()["readings"]
    assert (third["typed"], third["seconds"], third["rate"]) == ("18", 20, 54)
    assert PulseReading.objects.get(pk=third["id"]).waited == 45
    # Exactly the one that is named, of all that stood there.
    again = {"succeeds": third["id"], "restores": second["id"]}
    (fourth,) = take(world, "recovery", "", **again).json()["readings"]
    assert (fourth["typed"], fourth["rate"]) == ("x", None)
    assert take(world, "rest", "", restores=first["id"]).status_code == 404
    # The same moment of another lesson is another pulse.
    there = world.lesson_on(7)
    path = f"/api/lessons/{there.lesson_id}/pulses"
    body = {
        "id": str(uuid.uuid4()), "pupil_id": str(world.pupils[0].id), "position": 3,
        "moment": "recovery", "typed": "21", "seconds": 10,
        "recorded_at": timezone.now().isoformat(),
    }  # fmt: skip
    assert world.teacher.ask("POST", path, body).status_code == 200


def test_the_page_takes_a_constant_number_of_queries(world: World) -> None:
    counts = []
    for many in (1, 9):
        for who in range(many):
            take(world, "rest", "15", who=who)
        with CaptureQueriesContext(connection) as queries:
            page(world)
        counts.append(len(queries))
    assert counts[0] == counts[1] <= 8


def test_blanks_beside_pulses_are_named_in_the_results(world: World) -> None:
    """A column that stayed half empty looked like one that was all in."""
    take(world, "rest", "14", who=0)
    take(world, "rest", "15", who=1)
    take(world, "activity", "26", label="Press-ups in 60 s")
    path = f"/api/lessons/{world.activity.lesson_id}/results"
    found = world.teacher.ask("GET", path).json()
    assert found["pulses"] == 3
    blanks = {one["moment"]: one["names"] for one in found["pulse_blanks"]}
    others = [pupil.name for pupil in world.pupils[2:]]
    assert blanks == {
        "At rest": others,
        "After Press-ups in 60 s": [world.pupils[1].name, *others],
    }
    assert world.queries(path) <= 12


def test_what_a_lesson_of_pulses_found_is_of_all_together(world: World) -> None:
    for who in range(5):
        take(world, "rest", str(14 + who % 2), who=who)
        take(world, "activity", str(26 + who % 2), who=who, label="Press-ups in 60 s")
    # Two children after the warm-up are too few to be told.
    for who in range(2):
        take(world, "warm_up", "20", who=who)
    found = world.teacher.ask("GET", f"/api/lessons/{world.activity.lesson_id}/found").json()
    assert found["tests"] == []
    assert found["pulses"] == [
        "Five of us counted our pulse.",
        "The class median in beats a minute was 84 at rest, 156 after Press-ups in 60 s.",
        "Press-ups in 60 s raised our pulse most.",
    ]
    assert not any(pupil.given_name in " ".join(found["pulses"]) for pupil in world.pupils)
