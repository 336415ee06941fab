"""The weekly timetable makes the lessons of Today, on school days; what is due is proposed."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import Any

import pytest
from django.utils import timezone

from lauf.lessons.models import Lesson
from lauf.progress.today import today_page
from tests.api.conftest import World

MONDAY = date(2026, 3, 2)


def at(day: date, hour: int = 8) -> datetime:
    return datetime(day.year, day.month, day.day, hour, tzinfo=timezone.get_current_timezone())


@pytest.fixture
def week(world: World) -> World:
    rows = [{"weekday": n, "at": "09:30", "minutes": 45, "place": "Hall"} for n in range(5)]
    path = f"/api/classes/{world.school_class.id}/timetable"
    answer = world.teacher.ask("PUT", path, {"rows": rows})
    assert answer.status_code == 200 and answer.json()[0]["teacher"] == "Teacher"
    Lesson.objects.update(starts_at=at(date(2026, 1, 5)))
    return world


def days(world: World, today: date, who: str = "teacher") -> list[date]:
    staff = getattr(world, who).staff
    return [timezone.localdate(one["starts_at"]) for one in today_page(staff, at(today))["to_come"]]


def test_a_week_has_its_lessons_but_not_at_the_weekend_or_in_a_holiday(week: World) -> None:
    whole = [MONDAY + timedelta(days=n) for n in (0, 1, 2, 3, 4, 7)]
    assert days(week, MONDAY) == whole
    terms = [
        {"kind": "term", "name": "Spring", "starts": "2026-01-05", "ends": "2026-03-06"},
        {"kind": "holiday", "name": "A day off", "starts": "2026-03-04", "ends": "2026-03-04"},
    ]
    kept = week.head.ask("PUT", "/api/school/terms", {"rows": terms})
    assert kept.status_code == 200, kept.content
    assert days(week, MONDAY) == [whole[0], whole[1], whole[3], whole[4]]
    assert days(week, MONDAY, "head") == days(week, MONDAY)
    for who in ("colleague", "stranger", "stranger_head"):
        assert days(week, MONDAY, who) == []


def test_a_lesson_of_the_timetable_is_begun_once_on_whichever_device(week: World) -> None:
    staff = week.teacher.staff
    assert staff is not None
    today = timezone.localdate()
    monday = today + timedelta(days=7 - today.weekday())
    first = next(one for one in today_page(staff, at(monday))["to_come"]
                 if timezone.localdate(one["starts_at"]) == monday)  # fmt: skip
    body = {
        "id": first["lesson_id"], "class_id": first["class_id"], "minutes": first["minutes"],
        "test_ids": [week.activity.protocol.test_id], "place": first["place"],
        "starts_at": first["starts_at"].isoformat(),
    }  # fmt: skip
    made = [week.teacher.ask("POST", "/api/lessons", body).json()["id"] for _ in range(2)]
    assert made == [str(first["lesson_id"])] * 2
    again = today_page(staff, at(monday))
    assert first["lesson_id"] not in [one["lesson_id"] for one in again["to_come"]]
    assert [one["id"] for one in again["lessons"]] == [first["lesson_id"]]


def test_a_timetable_that_cannot_be_is_refused(week: World) -> None:
    path = f"/api/classes/{week.school_class.id}/timetable"
    before = week.teacher.ask("GET", path).json()
    good: dict[str, Any] = {"weekday": 1, "at": "10:00", "minutes": 40, "place": "Hall"}
    for bad in ({"weekday": 7}, {"minutes": 1}, {"at": "25:00"}, {"minutes": 999}):
        answer = week.teacher.ask("PUT", path, {"rows": [{**good, **bad}]})
        assert answer.status_code == 422 and answer.json()["message"], bad
    twice = week.teacher.ask("PUT", path, {"rows": [good, good]})
    assert "two lessons at 10:00" in twice.json()["message"]
    theirs = {**good, "teacher_id": week.stranger.staff.id}  # type: ignore[union-attr]
    assert week.teacher.ask("PUT", path, {"rows": [theirs]}).status_code == 404
    assert week.teacher.ask("GET", path).json() == before


def test_what_was_tested_long_ago_is_due_and_what_was_not_is_not(week: World) -> None:
    today = timezone.localdate()
    staff = week.teacher.staff
    assert staff is not None
    old, new = week.lesson_on(70), week.lesson_on(10, "plank-30")
    for pupil in week.pupils[:8]:
        week.record(pupil, "20", old)
        week.record(pupil, "20", new, variant="")
    # A test that only a few have done is nobody's retest.
    for pupil in week.pupils[:3]:
        week.record(pupil, "5", week.lesson_on(71, "plank-30"), variant="")
    (due,) = today_page(staff, timezone.now())["due"]
    assert [one["name"] for one in due["tests"]] == ["Press-ups in 60 s"]
    assert due["class_name"] == "4 T" and due["last"] == today - timedelta(days=70)
    assert today_page(week.colleague.staff, timezone.now())["due"] == []  # type: ignore[arg-type]
    weight = week.lesson_on(90, "weight")
    week.permit(week.teacher.staff, may_see_growth=True)
    staff.refresh_from_db()
    for pupil in week.pupils:
        week.record(pupil, "25", weight, variant="")
    staff.may_see_growth = False
    assert "Weight" not in str(today_page(staff, timezone.now())["due"])
