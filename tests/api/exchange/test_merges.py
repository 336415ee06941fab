"""Two records of one child made one and apart again, and a child erased."""

from __future__ import annotations

import json
import zipfile
from datetime import timedelta
from io import BytesIO
from typing import Any

import pytest
from django.db import Error, connection, transaction
from django.utils import timezone

from lauf.challenges.models import Point
from lauf.exchange.package.write import write_package
from lauf.people.models import Change, Pupil
from lauf.records.models import Attempt, PulseReading
from lauf.records.queries import repeats_of
from tests.api.conftest import World
from tests.api.weeks import a_challenge, a_week


@pytest.fixture
def double(world: World) -> Pupil:
    return Pupil.objects.create(
        school=world.school, school_class=world.school_class, given_name="Chid", family_name="Oo",
        number="77", medical_note="inhaler in the puce bag",
    )  # fmt: skip


def rows() -> list[tuple[Any, ...]]:
    """Who has which score, and what is kept of it."""
    fields = ("id", "pupil_id", "typed", "value", "succeeds_id", "counted_by_id")
    return sorted(Attempt.objects.values_list(*fields), key=str)


def test_two_records_become_one_and_two_again(world: World, double: Pupil) -> None:
    kept = world.pupils[0]
    earlier, other = world.lesson_on(20), world.lesson_on(10)
    world.record(kept, "18", earlier)
    first = world.record(double, "20", other)
    world.record(double, "21", other, succeeds=first.id, why="misread")
    world.record(world.pupils[1], "12", other, counted_by=double.id)
    before = rows()
    at = f"/api/pupils/{kept.id}/doubles"
    (merge,) = world.head.ask("POST", at, {"double_id": double.id}).json()
    assert merge["name"] == "Chid Oo"
    history = world.teacher.ask("GET", f"/api/pupils/{kept.id}").json()
    assert "18" in str(history) and "21" in str(history)
    kept.refresh_from_db()
    assert (kept.number, kept.medical_note) == ("77", "inhaler in the puce bag"), (
        "what only the double knew"
    )
    assert world.head.ask("GET", f"/api/pupils/{double.id}").status_code == 404
    page = world.teacher.ask("GET", f"/api/classes/{world.school_class.id}").json()
    assert "Chid Oo" not in [one["name"] for one in page["pupils"]]
    assert world.head.ask("GET", "/api/search?q=chid").json()["pupils"] == []
    # Kept since: it stays with the record that goes on.
    world.record(kept, "25")
    assert world.head.ask("DELETE", f"/api/merges/{merge['id']}").status_code == 200
    assert [row for row in rows() if row in before] == before
    assert Attempt.objects.get(typed="25").pupil_id == kept.id
    assert world.head.ask("GET", f"/api/pupils/{double.id}").status_code == 200
    assert world.head.ask("GET", at).json() == []


def test_what_both_are_kept_from_is_kept_once(world: World, double: Pupil) -> None:
    kept = world.pupils[0]
    for pupil, what in ((kept, "hanging"), (double, "hanging"), (double, "running")):
        pupil.exclusions.create(what=what, by=world.head.staff)
    at = f"/api/pupils/{kept.id}/doubles"
    assert world.head.ask("POST", at, {"double_id": double.id}).status_code == 200
    assert sorted(kept.exclusions.values_list("what", flat=True)) == ["hanging", "running"]


def test_two_who_were_scored_in_one_lesson_are_not_one_child(world: World, double: Pupil) -> None:
    world.record(world.pupils[0], "18")
    world.record(double, "20")
    before = rows()
    at = f"/api/pupils/{world.pupils[0].id}/doubles"
    answer = world.head.ask("POST", at, {"double_id": double.id})
    assert (
        answer.status_code == 422 and "Both have a score in Press-ups" in answer.json()["message"]
    )
    itself = world.head.ask("POST", at, {"double_id": world.pupils[0].id})
    assert itself.status_code == 422
    assert rows() == before and not Pupil.objects.exclude(merged_into=None).exists()


@pytest.mark.parametrize(
    "sql",
    ["UPDATE records_attempt SET value = 99", "DELETE FROM records_attempt",
     "UPDATE records_attempt SET pupil_id = pupil_id", "DELETE FROM records_settlement"],
)  # fmt: skip
def test_the_guards_stand_beside_the_door(world: World, sql: str) -> None:
    attempt = world.record(world.pupils[0], "18~")
    world.teacher.ask("POST", f"/api/attempts/{attempt.id}/confirm", {"flag": "estimate"})
    with pytest.raises(Error, match="append-only"), transaction.atomic():
        connection.cursor().execute(sql)


def everywhere(words: str) -> list[str]:
    """Tables of the database in which a word stands."""
    found = []
    with connection.cursor() as cursor:
        cursor.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")
        for (table,) in cursor.fetchall():
            cursor.execute(
                f'SELECT 1 FROM "{table}" t WHERE t::text ILIKE %s LIMIT 1', [f"%{words}%"]
            )
            if cursor.fetchone():
                found.append(table)
    return found


@pytest.mark.parametrize("stay", [False, True])
def test_erased_is_absent_everywhere(world: World, double: Pupil, stay: bool) -> None:
    """Name, number and note are in no table; scores go, or are nobody's."""
    Pupil.objects.filter(pk=double.pk).update(given_name="Zephyrine", family_name="Quillfeather")
    pupil = Pupil.objects.get(pk=double.pk)
    keeping = {"keep_years": 2, "scores_outlive": stay}
    assert world.head.ask("PUT", "/api/school/keeping", keeping).status_code == 200
    score = world.record(pupil, "23", why="Zephyrine counted twice")
    world.teacher.ask("POST", f"/api/attempts/{score.id}/confirm", {"flag": "estimate"})
    world.record(world.pupils[1], "12", counted_by=pupil.id)
    pulse = {
        "id": "5a1f0d58-9a3f-4f4e-8d5d-3c9d6c9a0001", "pupil_id": pupil.id, "position": 0,
        "moment": "rest", "typed": "14", "seconds": 10, "recorded_at": timezone.now().isoformat(),
    }  # fmt: skip
    lesson = f"/api/lessons/{world.activity.lesson_id}"
    assert world.teacher.ask("POST", f"{lesson}/pulses", pulse).status_code == 200
    world.teacher.ask("PUT", f"/api/pupils/{pupil.id}/care",
                      {"measuring": "refused", "exclusions": [{"what": "hanging"}]})  # fmt: skip
    world.head.ask("POST", f"/api/pupils/{pupil.id}/move", {"class_id": world.school_class.id})
    assert {"people_pupil", "people_change"} <= set(everywhere("zephyrine"))
    answer = world.head.ask("POST", f"/api/pupils/{pupil.id}/erase").json()
    assert (answer["entries"], answer["stay"]) == (2, stay)
    for words in ("zephyrine", "quillfeather", "puce bag"):
        assert everywhere(words) == [], words
    assert Attempt.objects.filter(typed="23").exists() is stay
    assert PulseReading.objects.exists() is stay
    assert Attempt.objects.filter(typed="12").exists(), "another child's score stays"
    for path in ("/api/log", f"/api/classes/{world.school_class.id}", "/api/search?q=zeph",
                 f"{lesson}/results", f"/api/activities/{world.activity.id}/lanes"):  # fmt: skip
        assert b"Zeph" not in world.head.ask("GET", path).content, path
    with zipfile.ZipFile(BytesIO(write_package(world.school))) as packed:
        whole = b"".join(packed.read(name) for name in packed.namelist())
    assert b"Zeph" not in whole and b"puce bag" not in whole
    assert world.head.ask("GET", f"/api/pupils/{pupil.id}").status_code == 404
    assert world.head.ask("POST", f"/api/pupils/{pupil.id}/erase").status_code == 404
    said = Change.objects.filter(what="care").values_list("words", flat=True)
    assert any(one.startswith("A child was erased") for one in said)
    # The door is shut again, within the same connection.
    with pytest.raises(Error, match="append-only"), transaction.atomic():
        Attempt.objects.update(value=1)


def test_leavers_go_when_their_time_is_over(world: World) -> None:
    today = timezone.localdate()
    ages = {world.pupils[0]: 3, world.pupils[1]: 1}
    for pupil, years in ages.items():
        world.head.ask("POST", f"/api/pupils/{pupil.id}/leave")
        Pupil.objects.filter(pk=pupil.pk).update(
            left_on=today.replace(day=1, year=today.year - years)
        )
    at = "/api/school/leavers-due"
    assert world.head.ask("GET", at).json() == [], "the school has not said how long"
    world.head.ask("PUT", "/api/school/keeping", {"keep_years": 2, "scores_outlive": False})
    (due,) = world.head.ask("GET", at).json()
    assert due["name"] == "Child 00"
    early = world.head.ask("POST", at, {"pupil_ids": [due["id"], str(world.pupils[1].id)]})
    assert early.status_code == 422 and Pupil.objects.filter(pk=due["id"]).exists()
    assert world.head.ask("POST", at, {"pupil_ids": [due["id"]]}).json() == {"number": 1}
    assert not Pupil.objects.filter(pk=due["id"]).exists()
    # Who left first stands first, whatever the names.
    for pupil, years in ((world.pupils[2], 3), (world.pupils[3], 4)):
        world.head.ask("POST", f"/api/pupils/{pupil.id}/leave")
        Pupil.objects.filter(pk=pupil.pk).update(
            left_on=today.replace(day=1, year=today.year - years)
        )
    names = [one["name"] for one in world.head.ask("GET", at).json()]
    assert names == [world.pupils[3].name, world.pupils[2].name]


def test_all_about_a_child_is_in_one_file(world: World) -> None:
    pupil = world.pupils[0]
    world.record(pupil, "18~")
    path = f"/api/pupils/{pupil.id}/everything.zip"
    assert world.head.ask("GET", path).status_code == 403, "height and weight are in it"
    world.permit(world.head.staff, may_see_growth=True)
    answer = world.head.ask("GET", path)
    with zipfile.ZipFile(BytesIO(answer.content)) as packed:
        about, page = json.loads(packed.read("child.json")), packed.read("child.html").decode()
    assert about["child"]["given_name"] == "Child 00"
    (score,) = about["scores"]
    assert (score["typed"], score["value"], score["estimate"]) == ("18~", 18, True)
    assert (score["test"], score["taken_by"]) == ("Press-ups in 60 s", "Teacher")
    assert about["who_did_what"][-1]["what"].endswith("as a file, viewed")
    assert "<td>18~</td>" in page and "<script" not in page


def test_two_with_points_in_one_challenge_are_not_made_one(world: World, double: Pupil) -> None:
    """Which of the two was given the points rightly, a person has to say."""
    challenge = a_challenge(world, a_week(world))
    world.record(world.pupils[0], "31", world.lesson_on(0))
    world.record(double, "32", world.lesson_on(0))
    given = world.teacher.ask("POST", f"/api/challenges/{challenge.id}/points")
    assert given.status_code == 200
    before = sorted(Point.objects.values_list("pupil_id", flat=True), key=str)
    assert {world.pupils[0].id, double.id} <= set(before)
    at = f"/api/pupils/{world.pupils[0].id}/doubles"
    answer = world.head.ask("POST", at, {"double_id": double.id})
    assert answer.status_code == 422 and "points in the same challenge" in answer.json()["message"]
    assert sorted(Point.objects.values_list("pupil_id", flat=True), key=str) == before


def test_numbers_that_stay_are_nobodys_and_sums_are_made_anew(world: World) -> None:
    pupil = world.pupils[0]
    Pupil.objects.filter(pk=pupil.pk).update(born="2017-03-01", sex="female", measuring="refused")
    for days, typed in ((20, "18"), (13, "22")):
        world.record(pupil, typed, world.lesson_on(days))
    tomorrow = timezone.localdate() + timedelta(days=1)

    def pairs() -> int:
        return sum(one.pairs for one in repeats_of([world.activity.protocol], tomorrow).values())

    assert pairs() == 1
    world.head.ask("PUT", "/api/school/keeping", {"keep_years": 2, "scores_outlive": True})
    assert world.head.ask("POST", f"/api/pupils/{pupil.id}/erase").json()["stay"] is True
    pupil.refresh_from_db()
    assert (pupil.born, pupil.sex, pupil.measuring, pupil.school_class) == (None, "", "", None)
    # Scores that go take what they added up to with them.
    other = world.pupils[1]
    for days, typed in ((20, "18"), (13, "22")):
        world.record(other, typed, world.lesson_on(days))
    assert pairs() == 2
    world.head.ask("PUT", "/api/school/keeping", {"keep_years": 2, "scores_outlive": False})
    assert world.head.ask("POST", f"/api/pupils/{other.id}/erase").json()["stay"] is False
    assert pairs() == 1


def test_a_record_is_due_on_the_day_itself_and_not_before(world: World) -> None:
    today = timezone.localdate()
    leap = (today.month, today.day) == (2, 29)
    day = today.replace(day=28 if leap else today.day, year=today.year - 2)
    world.head.ask("PUT", "/api/school/keeping", {"keep_years": 2, "scores_outlive": False})
    for pupil, left_on in zip(world.pupils, (day, day + timedelta(days=1)), strict=False):
        world.head.ask("POST", f"/api/pupils/{pupil.id}/leave")
        Pupil.objects.filter(pk=pupil.pk).update(left_on=left_on)
    due = world.head.ask("GET", "/api/school/leavers-due").json()
    assert [one["name"] for one in due] == [world.pupils[0].name]
