"""The whole school out as an open data package, and in again into an empty Lauf."""

from __future__ import annotations

import base64
import csv
import io
import json
import uuid
import zipfile
from pathlib import Path
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from frictionless import validate

from lauf.challenges.models import GamesKey
from lauf.exchange.package.write import write_package
from lauf.people.models import School, Staff
from tests.api.conftest import PASSWORD, World, empty
from tests.api.games import FarSchool, file_of, new_games
from tests.api.games import send as send_result
from tests.api.people.test_staff import NEW, send


@pytest.fixture
def lived_in(world: World) -> World:
    """A school with a bit of everything that can be kept."""
    world.permit(world.head.staff, may_see_growth=True)
    for days in (60, 30):
        activity = world.lesson_on(days)
        for number, pupil in enumerate(world.pupils):
            world.record(pupil, f"{10 + number}{'~' if number == 3 else ''}", activity)
    first = world.record(world.pupils[0], "20")
    world.record(world.pupils[0], "21", succeeds=first.id, why="“misread”, said\r\nBen; 2nd")
    world.record(world.pupils[1], "x")
    world.teacher.ask("PUT", f"/api/pupils/{world.pupils[2].id}/care",
                      {"measuring": "given", "exclusions": [{"what": "hanging"}]})  # fmt: skip
    world.head.ask("PUT", f"/api/pupils/{world.pupils[4].id}/details",
                   {"given": "=1+1", "family": "Ärö ß", "note": "a,\"b\""})  # fmt: skip
    world.head.ask("POST", f"/api/pupils/{world.pupils[5].id}/leave")
    plan = {"based_on": 0, "blocks": [{"kind": "water", "label": "Water", "seconds": 60}]}
    world.teacher.ask("PUT", f"/api/lessons/{world.activity.lesson_id}/plan", plan)
    games = new_games(world)
    far = FarSchool("Harbour School", file_of(world, games["id"]))
    for _ in range(2):
        send_result(world, games["id"], far.result())
    # A Lauf has one school; the strangers are of other tests.
    other = School.objects.exclude(pk=world.school.pk).get()
    Staff.objects.filter(school=other).delete()
    other.year_groups.all().delete()
    other.delete()
    return world


#: What a page says: judgements, boards, growth, and files.
PAGES = (
    "/api/pupils/{pupil}", "/api/activities/{activity}/lanes", "/api/activities/{activity}/check",
    "/api/classes/{class}", "/api/pupils/{pupil}/growth", "/api/tests/{test}/benchmarks",
    "/api/lessons/{lesson}/plan", "/api/lessons/{lesson}/results", "/api/log",
    "/api/activities/{activity}/scores.csv", "/api/catalogue", "/api/lessons/{lesson}/pulse",
    "/api/lessons/{lesson}/timeline", "/api/activities/{activity}/wall", "/api/classes",
    "/api/classes/{class}/timetable", "/api/batteries", "/api/sittings", "/api/courses",
    "/api/weeks", "/api/pupils/{pupil}/points", "/api/school/move-up",
)  # fmt: skip


def pages(world: World, client: Client) -> dict[str, bytes]:
    ids = {
        "activity": world.activity.id, "class": world.school_class.id,
        "test": world.activity.protocol.test_id, "lesson": world.activity.lesson_id,
    }  # fmt: skip
    found = {}
    for pupil in (world.pupils[0], world.pupils[4]):
        for path in PAGES:
            asked = path.format(**ids, pupil=pupil.id)
            answer = client.get(asked)
            assert answer.status_code == 200, asked
            found[asked] = answer.content
    return found


def packed_into(packed: bytes, **change: Any) -> Any:
    body = {
        "setup_code": "test-code", "data": base64.b64encode(packed).decode(),
        "username": "head", "password": NEW, **change,
    }  # fmt: skip
    client = Client()
    return send(client, "POST", "/api/setup/package", body), client


def test_out_and_in_again_is_the_same_byte_for_byte(lived_in: World, tmp_path: Path) -> None:
    packed = write_package(lived_in.school)
    before = pages(lived_in, lived_in.head.client)
    packed = write_package(lived_in.school)  # looking at growth is on record
    file = tmp_path / "school.zip"
    file.write_bytes(packed)
    report = validate(str(file))
    assert report.valid, report.flatten(["name", "rowNumber", "fieldName", "note"])[:5]
    assert report.stats["tasks"] == 51
    empty()
    answer, client = packed_into(packed)
    assert answer.json()["person"]["name"] == "Head", answer.content
    school = School.objects.get()
    again = write_package(school)
    with zipfile.ZipFile(io.BytesIO(packed)) as one, zipfile.ZipFile(io.BytesIO(again)) as other:
        for name in one.namelist():
            assert one.read(name) == other.read(name), name
    assert again == packed
    assert pages(lived_in, client) == before
    # Everybody else comes by a link; the school goes on where it was.
    assert not Staff.objects.get(username="teacher").has_usable_password()
    told = send(client, "PUT", "/api/school/units", {"imperial": True})
    assert told.status_code == 200, "the log goes on after the last number of the package"


def test_a_package_holds_no_secret_and_says_what_its_numbers_are(lived_in: World) -> None:
    with zipfile.ZipFile(io.BytesIO(write_package(lived_in.school))) as packed:
        about = json.loads(packed.read("datapackage.json"))
        whole = b"".join(packed.read(name) for name in packed.namelist())
        rows = list(csv.DictReader(io.StringIO(packed.read("data/people_staff.csv").decode())))
    assert GamesKey.objects.get(school=lived_in.school).private.encode() not in whole
    hashed = Staff.objects.get(username="head").password
    assert hashed.encode() not in whole and b"password" not in whole
    assert {row["username"] for row in rows} >= {"head", "teacher"}
    fields = {
        field["name"]: field
        for resource in about["resources"] if resource["name"] == "records_attempt"
        for field in resource["schema"]["fields"]
    }  # fmt: skip
    assert "milliseconds" in fields["value"]["description"]
    # Somebody without Lauf can read every file: each table and column says what it holds.
    for resource in about["resources"]:
        assert resource["description"].endswith("."), resource["name"]
        for field in resource["schema"]["fields"]:
            assert field["description"].endswith("."), (resource["name"], field["name"])
    assert {"catalogue_protocolversion", "catalogue_normtable"} <= {
        one["name"] for one in about["resources"]
    }


def spoiled(packed: bytes, file: str, was: bytes, now: bytes, *, tell: bool) -> bytes:
    """The package with one file changed; with `tell` its new sum is written down as well."""
    import hashlib

    made = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(packed)) as old, zipfile.ZipFile(made, "w") as new:
        contents = {name: old.read(name) for name in old.namelist()}
        assert was in contents[file]
        contents[file] = contents[file].replace(was, now)
        if tell:
            about = json.loads(contents["datapackage.json"])
            for one in about["resources"]:
                one["hash"] = f"sha256:{hashlib.sha256(contents[one['path']]).hexdigest()}"
            contents["datapackage.json"] = json.dumps(about).encode()
        for name, content in contents.items():
            new.writestr(name, content)
    return made.getvalue()


def test_what_is_no_whole_school_is_refused_and_nothing_is_kept(lived_in: World) -> None:
    packed = write_package(lived_in.school)
    pupils, attempts = "data/people_pupil.csv", "data/records_attempt.csv"
    name, child = b"Child 07", str(lived_in.pupils[7].id).encode()
    cases: list[tuple[bytes, dict[str, Any], str]] = [
        (b"not a zip", {}, "This is not a school saved by Lauf"),
        (packed[: len(packed) // 2], {}, "This is not a school saved by Lauf"),
        (spoiled(packed, pupils, name, b"Child 99", tell=False), {}, "was changed after it"),
        (
            spoiled(packed, pupils, b"given_name", b"first_name", tell=True),
            {},
            "from a newer version of Lauf",
        ),
        (spoiled(packed, attempts, b",false,", b",perhaps,", tell=True), {}, "cannot be saved"),
        (spoiled(packed, pupils, child, b"0" * 8 + child[8:], tell=True), {}, "Nothing was saved"),
        (packed, {"username": "teacher"}, "is not a head of PE in this school"),
        (packed, {"setup_code": "wrong"}, "The set-up code"),
        (packed, {"password": "short"}, "too short"),
    ]
    assert packed_into(packed)[0].status_code == 422, "there is a school already"
    empty()
    for given, change, words in cases:
        answer, _ = packed_into(given, **change)
        assert answer.status_code == 422 and words in answer.json()["message"], answer.content
        assert not School.objects.exists()
        with connection.cursor() as cursor:  # a failed statement leaves nothing half done
            cursor.execute("SELECT 1")


def test_a_package_with_a_second_school_is_refused(lived_in: World) -> None:
    """Its rows would be of nobody: no address reaches them, and every backup has them."""
    packed = write_package(lived_in.school)
    with zipfile.ZipFile(io.BytesIO(packed)) as archive:
        (row,) = archive.read("data/people_school.csv").splitlines()[1:]
    other = row.replace(str(lived_in.school.id).encode(), str(uuid.uuid4()).encode())
    twice = spoiled(packed, "data/people_school.csv", row, row + b"\r\n" + other, tell=True)
    empty()
    answer, _ = packed_into(twice)
    assert answer.status_code == 422 and "exactly one school" in answer.json()["message"]
    assert not School.objects.exists()


def test_who_saves_the_school_is_on_record(world: World) -> None:
    world.permit(world.head.staff, may_see_growth=True)
    answer = world.head.ask("GET", "/api/school/package.zip")
    assert answer.status_code == 200 and answer["Content-Type"] == "application/zip"
    assert "The whole school was saved to a file" in str(world.head.ask("GET", "/api/log").json())
    assert PASSWORD.encode() not in answer.content
