"""Times, sizes and encodings at their ends: refused in words where they come in, and nothing that
is kept takes a page down."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.db import IntegrityError, transaction
from django.utils import timezone

from lauf.challenges.models import ChallengeWeek
from lauf.lessons.models import Lesson
from lauf.records.models import Attempt, PulseReading
from lauf.web.shapes import LARGEST_FILE, LARGEST_SCHOOL
from tests.api.conftest import World

#: Before and after what calendars and clocks can count with, and at the very ends.
OUT_OF_TIME = (
    "0001-01-01T00:00:00Z",
    "0001-01-01T00:00:00+14:00",
    "1999-12-31T23:59:59Z",
    "2100-01-01T00:00:00Z",
    "9999-12-31T23:59:59-12:00",
)


def bodies(world: World, moment: str) -> dict[str, tuple[str, str, Any]]:
    """Every address that takes a moment or a day, with one."""
    lesson, pupil = world.activity.lesson_id, str(world.pupils[0].id)
    place = {
        "class_id": str(world.school_class.id), "starts_at": moment, "minutes": 40, "place": "Hall",
    }  # fmt: skip
    day, good = moment[:10], timezone.localdate().isoformat()
    week = {"name": "W", "points": {"took_part": 1}, "class_ids": [place["class_id"]]}
    pulse = {
        "id": str(uuid.uuid4()), "pupil_id": pupil, "position": 0, "moment": "rest",
        "typed": "14", "seconds": 10, "recorded_at": moment,
    }  # fmt: skip
    test = str(world.activity.protocol.test_id)
    return {
        "new lesson": ("POST", "/api/lessons", {**place, "test_ids": [test]}),
        "lesson": ("PUT", f"/api/lessons/{lesson}", place),
        "copy": ("POST", f"/api/lessons/{lesson}/copy", {"starts_at": moment}),
        "suggested": (
            "GET", "/api/lessons/suggested?at=" + moment.replace("+", "%2B"), None,
        ),
        "score": (
            "POST", f"/api/activities/{world.activity.id}/attempts",
            world.body(world.pupils[0], "20", recorded_at=moment),
        ),
        "pulse": ("POST", f"/api/lessons/{lesson}/pulses", pulse),
        "week": ("POST", "/api/weeks", {**week, "starts_on": day, "ends_on": day}),
        "week's end": ("POST", "/api/weeks", {**week, "starts_on": good, "ends_on": day}),
    }  # fmt: skip


@pytest.mark.parametrize("moment", OUT_OF_TIME)
def test_a_time_of_no_age_is_refused_wherever_it_comes_in(world: World, moment: str) -> None:
    for what, (method, path, body) in bodies(world, moment).items():
        if what in ("score", "pulse"):
            continue  # they are kept, as below
        answer = world.teacher.ask(method, path, body)
        assert answer.status_code == 422, (what, answer.content)
        assert "between 2000 and 2099" in answer.json()["message"], what
    assert world.teacher.ask("GET", "/api/today").status_code == 200


@pytest.mark.parametrize("moment", OUT_OF_TIME)
def test_an_entry_of_a_device_with_a_wrong_clock_is_kept_and_that_is_said(
    world: World, moment: str
) -> None:
    """A tablet whose battery was empty says 1970: what was taken on it is not lost for that."""
    for what in ("score", "pulse"):
        method, path, body = bodies(world, moment)[what]
        begun = timezone.now()
        answer = world.teacher.ask(method, path, body)
        assert answer.status_code == 200, answer.content
        assert "clock is wrong" in answer.json()["device_clock"]
        kept = {"score": Attempt, "pulse": PulseReading}[what].objects.get(pk=body["id"])
        assert begun <= kept.recorded_at <= timezone.now()
        right = bodies(world, timezone.now().isoformat())[what]
        body = {**right[2], "id": str(uuid.uuid4()), "pupil_id": str(world.pupils[1].id)}
        assert world.teacher.ask(method, path, body).json()["device_clock"] == ""


@pytest.mark.parametrize("moment", ["2000-01-01T00:00:00Z", "2099-12-30T23:59:00+14:00"])
def test_at_the_ends_of_time_every_page_opens(world: World, moment: str) -> None:
    for what, (method, path, body) in bodies(world, moment).items():
        if what != "week's end":
            assert world.teacher.ask(method, path, body).status_code in (200, 201), what
    pages = [f"classes/{world.school_class.id}/lessons", f"pupils/{world.pupils[0].id}"]
    for path in ("today", "weeks", "open-challenges", *pages):
        assert world.teacher.ask("GET", f"/api/{path}").status_code == 200, path
    for lesson in Lesson.objects.all():
        for part in ("", "/results", "/timeline", "/plan", "/pulse"):
            answer = world.teacher.ask("GET", f"/api/lessons/{lesson.id}{part}")
            assert answer.status_code == 200, (part, answer.content)


def test_the_database_takes_no_such_time_from_anybody(world: World) -> None:
    for year in (1999, 2100):
        at = datetime(year, 6, 1, tzinfo=UTC)
        with pytest.raises(IntegrityError, match="of_this_age"), transaction.atomic():
            Lesson.objects.filter(pk=world.activity.lesson_id).update(starts_at=at)
        with pytest.raises(IntegrityError, match="of_this_age"), transaction.atomic():
            world.record(world.pupils[0], "20", recorded_at=at)
        with pytest.raises(IntegrityError, match="of_this_age"), transaction.atomic():
            ChallengeWeek.objects.create(
                school=world.school, name="W", starts_on=at.date(), points={},
                ends_on=at.date() + timedelta(days=1), by=world.head.staff,
            )  # fmt: skip


CSV = "sex,age,P50\ngirl,8,20\nboy,8,22\n"


@pytest.mark.parametrize("ends", ["\n", "\r\n", "\r"])
def test_a_table_is_read_whatever_ends_its_lines(world: World, ends: str) -> None:
    path = f"/api/tests/{world.activity.protocol.test_id}/norms/preview"
    answer = world.head.ask("POST", path, {"text": CSV.replace("\n", ends), "unit": "reps"})
    assert (answer.status_code, answer.json()["faults"]) == (200, [])
    assert len(answer.json()["rows"]) == 2


def test_a_cell_of_any_size_is_a_fault_and_no_crash(world: World) -> None:
    path = f"/api/tests/{world.activity.protocol.test_id}/norms"
    for cell in ("x" * 131_073, '"' + "\n" * 140_000, "1" * 400, "1" * 200_000):
        file = {"text": f"sex,age,P50\ngirl,8,{cell}", "unit": "reps", "variant": "full"}
        answer = world.head.ask("POST", f"{path}/preview", file)
        assert answer.status_code == 200 and answer.json()["faults"], len(cell)
        whole = {**file, "name": "N", "source": "S", "population": "P"}
        assert world.head.ask("POST", path, whole).status_code == 422


def test_as_much_as_the_guard_lets_through_is_read_and_more_is_refused(world: World) -> None:
    """Between the one limit and the other it was a 500."""
    path = f"/api/tests/{world.activity.protocol.test_id}/norms/preview"
    for size, status in ((LARGEST_FILE - 200, 422), (LARGEST_SCHOOL + 1, 413)):
        answer = world.head.ask("POST", path, {"text": "x" * size, "unit": "reps"})
        assert answer.status_code == status, answer.content[:200]
        assert answer.json()["message"]


@pytest.mark.parametrize(
    "kind",
    ["multipart/form-data", "multipart/form-data; boundary=x", "text/plain",
     "application/x-www-form-urlencoded", "application/json; charset=utf-7"],
)  # fmt: skip
def test_what_is_not_json_is_said_to_be_not(world: World, kind: str) -> None:
    path = f"/api/activities/{world.activity.id}/attempts"
    for person in (world.teacher, world.nobody):
        answer = person.client.generic("POST", path, b"--x\r\n\r\n\xff", content_type=kind)
        assert answer.status_code in ((415, 400, 401) if "json" in kind else (415,)), kind
        assert answer.json()["message"]
