"""Games between schools: by file, on one Lauf, and what is not as it should be."""

from __future__ import annotations

import json
from copy import deepcopy
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import jsonschema
import pytest
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey
from django.utils import timezone

from lauf.catalogue.actions import make_test
from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.protocol import Protocol
from lauf.challenges.models import GamesKey
from lauf.exchange.games.signing import check_digits, is_as_signed, signed
from lauf.lessons.models import Activity, Lesson
from lauf.people.models import House, Pupil, SchoolClass
from tests.api.conftest import Person, World
from tests.api.games import FarSchool, file_of, new_games, send
from tests.support.scores import record_attempt

ROOT = Path(__file__).resolve().parents[3]


def page(world: World, games_id: str, who: Person | None = None) -> Any:
    answer = (who or world.head).ask("GET", f"/api/games/{games_id}")
    assert answer.status_code == 200, answer.content
    return answer.json()


def table(world: World, games_id: str) -> list[tuple[int, str, int, str]]:
    lines = page(world, games_id)["schools"]
    return [(one["place"], one["name"], one["points"], one["a_child"]) for one in lines]


def know(world: World, games_id: str, school: str) -> None:
    row = next(one for one in page(world, games_id)["files"] if one["school"] == school)
    path = f"/api/games/{games_id}/schools/{row['school_id']}"
    assert world.head.ask("PUT", path, {"yes": True}).status_code == 200


def test_signing_is_that_of_the_standard() -> None:
    """RFC 8032, 7.1, test 1: the key of that secret; and RFC 8785, 3.2.3: the order of properties
    and the form of numbers do not change what was signed."""
    secret = bytes.fromhex("9d61b19deffd5a60ba844af492ec2cc44449c5697b326919703bac031cae7f60")
    private = Ed25519PrivateKey.from_private_bytes(secret)
    public = private.public_key().public_bytes_raw()
    assert public.hex() == "d75a980182b10ab7d54bfed3c964073a0ee172f3daa62325af021a68f707511a"
    key = GamesKey(private="nWGxne/9WmC6hEr0kuwsxERJxWl7MmkZcDusAxyuf2A=",
                   public="11qYAYKxCrfVS/7TyWQHOg7hcvPapiMlrwIaaPcHURo=")  # fmt: skip
    file = signed({"b": 2.0, "a": "é"}, key)
    assert file["signed_by"] == key.public
    assert is_as_signed({"a": "é", "b": 2}, file["signed_by"], file["signature"])
    assert not is_as_signed({"a": "e", "b": 2}, file["signed_by"], file["signature"])


def test_the_files_are_those_of_the_published_schema(world: World) -> None:
    schema = json.loads((ROOT / "docs" / "formats" / "games.schema.json").read_text())
    games = new_games(world)
    file = file_of(world, games["id"])
    far = FarSchool("Harbour School", file)
    for each in (file, far.result()):
        jsonschema.validate(each, schema)
    for spoil in ({"kind": "games result"}, {"tests": []}, {"more": 1}):
        with pytest.raises(jsonschema.ValidationError):
            jsonschema.validate({**file, "body": {**file["body"], **spoil}}, schema)


def test_a_round_by_file(world: World) -> None:
    """By hand: 10 of 20 took part, two on the first rung and two on the second: 10 + 2 + 4 = 16."""
    games = new_games(world)
    file = file_of(world, games["id"])
    far = FarSchool("Harbour School", file)
    taken = send(world, games["id"], far.result())
    assert taken.status_code == 200, taken.content
    row = taken.json()["page"]["files"][0]
    assert row["state"] == "unknown" and row["check_digits"] == check_digits(far.key.public)
    assert table(world, games["id"]) == [], "until somebody has compared the digits"
    know(world, games["id"], "Harbour School")
    assert table(world, games["id"]) == [(1, "Harbour School", 16, "0.80")]
    # A newer one takes the place of the one before; the older one, once more, does not.
    assert send(world, games["id"], far.result(2, took_part=15)).status_code == 200
    again = send(world, games["id"], far.result(1)).json()
    assert "was opened again. It counts once" in again["words"]
    assert table(world, games["id"]) == [(1, "Harbour School", 21, "1.05")]
    assert [one["state"] for one in page(world, games["id"])["files"]] == ["counts", "older"]


def test_an_altered_file_is_told_and_never_counts(world: World) -> None:
    games = new_games(world)
    far = FarSchool("Harbour School", file_of(world, games["id"]))
    altered = deepcopy(far.result())
    altered["body"]["tests"][0]["cells"][0]["took_part"] = 19
    refused = send(world, games["id"], altered)
    assert refused.status_code == 422 and "changed" in refused.json()["message"]
    notes = page(world, games["id"])["notes"]
    assert notes[0]["words"] == (
        "A file claiming to be from Harbour School was changed on the way and does not count."
    )
    # Whoever signs anew in another's name is another school, and is said to be.
    send(world, games["id"], far.result())
    send(world, games["id"], FarSchool("harbour school", far.games).result(took_part=20))
    assert "Two schools sign as harbour school" in page(world, games["id"])["notes"][0]["words"]
    know(world, games["id"], "Harbour School")
    assert table(world, games["id"]) == [(1, "Harbour School", 16, "0.80")]


def test_a_result_for_another_edition_of_the_games_is_not_taken(world: World) -> None:
    """The same games by their key, but of other ages than those the school counted by."""
    games = new_games(world)
    file = file_of(world, games["id"])
    file["body"]["bands"][0]["to_age"] += 1
    far = FarSchool("Harbour School", file)
    refused = send(world, games["id"], far.result())
    assert refused.status_code == 422 and "another file of these" in refused.json()["message"]
    shown = page(world, games["id"])
    assert shown["files"] == [] and "for other games" in shown["notes"][0]["words"]


def test_a_file_of_other_games_or_of_no_such_test_is_not_taken(world: World) -> None:
    one, other = new_games(world), new_games(world, name="Other")
    far = FarSchool("Harbour School", file_of(world, other["id"]))
    assert "for other games" in send(world, one["id"], far.result()).json()["message"]
    far.games = file_of(world, one["id"])
    sums = far.result()["body"]["tests"][0]
    for wrong in ([{**sums, "code": "hops"}],
                  [{**sums, "cells": [{**sums["cells"][0], "rungs": [2]}]}],
                  [{**sums, "cells": [{**sums["cells"][0], "parts": [{"band": 4}]}]}]):  # fmt: skip
        answer = send(world, one["id"], far.result(tests=wrong))
        assert "does not have" in answer.json()["message"] or "tests, rungs or ages" in str(
            answer.json()
        )
    assert len(page(world, one["id"])["notes"]) == 4
    for text in ("", "{}", "[]", '{"body": 1}', "\\", '{"body": {"kind": "games"}}', "9" * 4000,
                 json.dumps(file_of(world, one["id"])), '{"body": {"kind": "games result"}, '
                 '"signed_by": "a", "signature": "\\u0000"}'):  # fmt: skip
        assert send(world, one["id"], text).status_code in (400, 422)
    small = far.result()["body"]["tests"][0]["cells"][0] | {"took_part": 4, "rungs": [0] * 4}
    few = far.result(tests=[{"code": sums["code"], "cells": [small]}])
    assert "has a mistake" in send(world, one["id"], few).json()["message"]


def test_late_files_count_once_they_are_let_in(world: World) -> None:
    today = timezone.localdate()
    begun, ended, closed = (today - timedelta(days=days) for days in (20, 9, 1))
    games = new_games(world, starts_on=begun, ends_on=ended, closes_on=closed)
    far = FarSchool("Harbour School", file_of(world, games["id"]))
    send(world, games["id"], far.result())
    know(world, games["id"], "Harbour School")
    (row,) = page(world, games["id"])["files"]
    assert row["state"] == "late" and table(world, games["id"]) == []
    path = f"/api/games/{games['id']}/results/{row['id']}"
    after = world.head.ask("PUT", path, {"yes": True}).json()
    assert after["files"][0]["words"].startswith("counts, accepted although late")
    assert table(world, games["id"]) == [(1, "Harbour School", 16, "0.80")]
    world.head.ask("PUT", path, {"yes": False})
    assert table(world, games["id"]) == []


def scored(world: World, who: Person, group: SchoolClass, version: Any, typed: list[str]) -> None:
    """A class has done the test; children of it as many as were typed."""
    assert who.staff is not None
    house = House.objects.filter(school=group.school).first()
    lesson = Lesson.objects.create(
        school=group.school, school_class=group, teacher=who.staff, place="Hall",
        starts_at=timezone.now(),
    )  # fmt: skip
    activity = Activity.objects.create(lesson=lesson, protocol=version)
    for number, entry in enumerate(typed):
        pupil = Pupil.objects.create(
            school=group.school, school_class=group, given_name=f"Runner {number}", house=house
        )
        record_attempt(
            who.staff, activity.id, attempt_id=pupil.id, pupil_id=pupil.id, typed=entry,
            variant="full", wave=1, recorded_at=timezone.now(),
        )  # fmt: skip


def test_two_schools_on_one_lauf_need_no_file(world: World) -> None:
    """Six of eighteen have done them; by the ladder of Year 4 as it was sent."""
    games = new_games(world, open_here=True)
    other = world.stranger_head
    (offered,) = other.ask("GET", "/api/games").json()["open"]
    joined = other.ask("POST", f"/api/games/{offered['id']}/join").json()["id"]
    assert other.ask("GET", "/api/games").json()["open"] == []
    group = SchoolClass.objects.create(
        school=other.staff.school,
        name="Fours",  # type: ignore[union-attr]
        year_group=other.staff.school.year_groups.get(name="Year 4"),  # type: ignore[union-attr]
    )
    there = page(world, joined, other)
    version = ProtocolVersion.objects.get(test=there["own"]["tests"][0]["test_id"])
    scored(world, other, group, version, ["2", "6", "9", "13", "30", "7~", "a"])
    rungs = file_of(world, games["id"])["body"]["tests"][0]["ladders"]
    year_4 = next(one["rungs"] for one in rungs if one["age"] == 8)
    highest = [sum(value >= rung["threshold"] for rung in year_4) for value in (2, 6, 9, 13, 30)]
    own = page(world, joined, other)["own"]
    assert (own["children"], own["took_part"]) == (7, 6), "absent is not taking part"
    assert own["points"] == 6 + sum(highest), "a guess takes part and reaches nothing"
    handed = other.ask("POST", f"/api/games/{joined}/result").json()
    assert handed["delivered"] and handed["name"].endswith(".json")
    assert table(world, games["id"])[0][1:3] == ("Stranger School", 6 + sum(highest))
    # No name of a child, nor anything of one alone, is in what was handed in.
    assert "Runner" not in handed["text"]
    # The organiser takes part as everybody does.
    world.head.ask("POST", f"/api/games/{games['id']}/result")
    assert {line[1] for line in table(world, games["id"])} == {"Test School", "Stranger School"}


def test_fewer_than_five_are_not_told(world: World) -> None:
    games = new_games(world)
    for number in range(4):
        world.record(world.pupils[number], "12")
    before = page(world, games["id"])["own"]
    assert (before["took_part"], before["points"], before["tests"][0]["groups"]) == (0, 0, [])
    world.record(world.pupils[4], "12")
    assert page(world, games["id"])["own"]["tests"][0]["groups"][0]["took_part"] == 5


def test_the_same_test_is_used_and_another_is_made(world: World) -> None:
    """A school whose own press-ups are against another clock gets the organiser's beside them."""
    games = new_games(world, open_here=True)
    file = file_of(world, games["id"])
    other = world.stranger_head
    seen = other.ask("POST", "/api/games/look", {"text": json.dumps(file)}).json()
    assert seen["joined"] is None and seen["organiser"] == "Test School"
    assert seen["check_digits"] == check_digits(file["signed_by"])
    assert seen["bands"] == ["Middle (7 to 8)", "Oldest (9 to 11)"]
    staff = other.staff
    assert staff is not None
    definition = file["body"]["tests"][0]["definition"]
    own = make_test(
        staff, name="Press-ups in 60 s", family="timed_reps", copy_of=None,
        protocol=Protocol.model_validate({**definition, "seconds": 45}),
    )  # fmt: skip
    assert own.test.slug == "press-ups-in-60-s"
    joined = other.ask("POST", "/api/games/join", {"text": json.dumps(file)})
    assert joined.status_code == 201, joined.content
    again = other.ask("POST", "/api/games/join", {"text": json.dumps(file)})
    assert again.json() == joined.json()
    made = page(world, joined.json()["id"], other)["own"]["tests"][0]
    assert made["test_id"] != str(own.test_id)
    assert made["name"] == "Press-ups in 60 s, Autumn Games"
    # The organiser's own school goes on with its own test.
    assert page(world, games["id"])["own"]["tests"][0]["test_id"] == str(
        world.activity.protocol.test_id
    )


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"bands": [{"name": "A", "from_age": 7, "to_age": 9},
                    {"name": "B", "from_age": 9, "to_age": 11}]},
         "every age must be in exactly one band"),
        ({"bands": [{"name": "A", "from_age": 9, "to_age": 7}]},
         "every age must be in exactly one band"),
        ({"ends_on": "2025-01-01"}, "must be in this order"),
    ],
)  # fmt: skip
def test_games_that_cannot_be_are_refused(world: World, change: dict[str, Any], words: str) -> None:
    today = timezone.localdate()
    asked = {
        "key": "0e4c1f63-58a1-4f0e-9a52-0a0c7d2a9c11", "name": "Games", "starts_on": today,
        "ends_on": today, "closes_on": today, "test_ids": [world.activity.protocol.test_id],
        "bands": [{"name": "All", "from_age": 7, "to_age": 11}], **change,
    }  # fmt: skip
    refused = world.head.ask("POST", "/api/games", asked)
    assert refused.status_code == 422 and words in refused.json()["message"]


def test_weight_is_never_in_games(world: World) -> None:
    """Neither asked for here, nor by a file that somebody else has made."""
    world.permit(world.head.staff, may_see_growth=True)
    private = ProtocolVersion.objects.get(test__school=world.school, test__slug="weight")
    today = timezone.localdate()
    asked = {
        "key": "0e4c1f63-58a1-4f0e-9a52-0a0c7d2a9c11", "name": "Games", "starts_on": today,
        "ends_on": today, "closes_on": today, "test_ids": [private.test_id],
        "bands": [{"name": "All", "from_age": 7, "to_age": 11}],
    }  # fmt: skip
    refused = world.head.ask("POST", "/api/games", asked)
    assert refused.status_code == 422 and "cannot be part of games" in refused.json()["message"]
    body = file_of(world, new_games(world)["id"])["body"]
    far = FarSchool("Harbour School", {"body": body})
    for number, change in enumerate(({"code": "weight"}, {"code": "w", "definition": {
        **body["tests"][0]["definition"], "kind": "mass", "unit": "kg"}})):  # fmt: skip
        key = f"0e4c1f63-58a1-4f0e-9a52-0a0c7d2a9c2{number}"
        test = {**body["tests"][0], **change}
        file = signed({**body, "key": key, "tests": [test]}, far.key)
        for _ in range(2):
            joined = world.head.ask("POST", "/api/games/join", {"text": json.dumps(file)})
            assert (
                joined.status_code == 422 and "cannot be part of games" in joined.json()["message"]
            )


def test_the_page_takes_as_many_queries_for_many(world: World) -> None:
    games = new_games(world)
    path = f"/api/games/{games['id']}"
    for school in range(2):
        send(
            world, games["id"], FarSchool(f"School {school}", file_of(world, games["id"])).result()
        )
    for number in range(6):
        world.record(world.pupils[number], "12")
    few = world.queries(path)
    for school in range(2, 5):
        send(
            world, games["id"], FarSchool(f"School {school}", file_of(world, games["id"])).result()
        )
    world.more_children()
    assert world.queries(path) == few <= 14


def test_ages_are_those_of_the_first_day(world: World) -> None:
    """Born nine years before the second day: eight on the first, and so of the younger band."""
    games = new_games(world)
    first = datetime.fromisoformat(str(games["starts_on"])).date()
    for number in range(10):
        pupil = world.pupils[number]
        day = first + timedelta(days=1 if number < 5 else 0)
        pupil.born = day.replace(year=day.year - 9)
        pupil.save()
        world.record(pupil, "12")
    groups = page(world, games["id"])["own"]["tests"][0]["groups"]
    assert [(one["name"], one["took_part"]) for one in groups] == [("Middle", 5), ("Oldest", 5)]
