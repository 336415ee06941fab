"""A battery as one grid: filled over days, blanks with reasons, compared with an earlier term."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from lauf.catalogue.actions import make_battery
from lauf.catalogue.models import Test as Protocol
from lauf.lessons.actions import start_sitting
from lauf.lessons.models import Activity, Lesson
from tests.api.conftest import World

SLUGS = ("height", "long-jump", "press-ups-60", "shoulder-reach", "plank-limit")


def sitting(world: World, days_ago: int = 0) -> tuple[Lesson, dict[str, Activity]]:
    staff = world.head.staff
    assert staff is not None
    battery = world.school.batteries.first() or make_head_battery(world)
    lesson = start_sitting(staff, battery.id, world.school_class.id)
    if days_ago:
        lesson.starts_at = timezone.now() - timedelta(days=days_ago)
        lesson.closed_at, lesson.closed_by = timezone.now(), staff
        lesson.save()
    activities = lesson.activities.select_related("protocol__test")
    return lesson, {activity.protocol.test.slug: activity for activity in activities}


def make_head_battery(world: World) -> Any:
    staff = world.head.staff
    assert staff is not None
    staff.may_see_growth = True
    staff.save()
    ids = dict(Protocol.objects.filter(school=world.school).values_list("slug", "id"))
    return make_battery(staff, "Term check", [ids[slug] for slug in SLUGS])


def grid(world: World, lesson: Lesson, query: str = "") -> dict[str, Any]:
    answer = world.teacher.ask("GET", f"/api/lessons/{lesson.id}/grid{query}")
    assert answer.status_code == 200
    found: dict[str, Any] = answer.json()
    return found


def fill(world: World, then: dict[str, Activity], now: dict[str, Activity]) -> None:
    """Twelve children jump 5 cm to 16 cm further than a term ago; one was absent."""
    before = timezone.now() - timedelta(days=90)
    for number, pupil in enumerate(world.pupils):
        world.record(pupil, str(120 + number), then["long-jump"], variant="", wave=None,
                     recorded_at=before)  # fmt: skip
        typed = "a" if number == 3 else str(125 + 2 * number)
        world.record(pupil, typed, now["long-jump"], variant="", wave=None)
    world.record(world.pupils[0], "20", now["press-ups-60"], variant="full", wave=1)


def test_the_grid_says_what_changed_since_the_earlier_term(world: World) -> None:
    earlier, then = sitting(world, 90)
    lesson, now = sitting(world)
    fill(world, then, now)
    found = grid(world, lesson)
    assert found["tests"][0]["test"] == "Standing long jump"
    jump = found["tests"][0]
    assert (found["compared_with"], jump["recorded"], jump["n"]) == (str(earlier.id), 12, 11)
    # The usual band of a long jump is wider than 16 cm: nobody has changed for sure.
    gains = [5 + n for n in range(12) if n != 3]
    assert jump["better"] + jump["steady"] + jump["lower"] == len(gains)
    assert jump["mean_change"].startswith("11 cm better (90 %: +9 cm to +13 cm)")
    assert jump["chance"] == "about 1 of 11 could be chance"
    cells = [child["cells"][0] for child in found["children"]]
    assert (cells[0]["score"]["shown"], cells[0]["then"]) == ("125 cm", "120 cm")
    assert cells[3]["score"]["reason"] == "absent"
    assert found["children"][1]["cells"][1]["score"] is None, "not done is not nought"
    assert cells[0]["change"].startswith(("steady", "better"))
    alone = grid(world, earlier)
    assert alone["compared_with"] is None
    backwards = grid(world, earlier, f"?compared_with={lesson.id}")
    assert backwards["compared_with"] == str(lesson.id)


def test_growth_is_in_the_grid_of_those_who_may_see_it_only(world: World) -> None:
    lesson, _ = sitting(world)
    seen = world.head.ask("GET", f"/api/lessons/{lesson.id}/grid").json()
    assert [test["private"] for test in seen["tests"]].count(True) == 1
    assert not any(test["private"] for test in grid(world, lesson)["tests"])
    tests = world.teacher.ask("GET", f"/api/lessons/{lesson.id}").json()["activities"]
    assert "Height" not in {activity["test"] for activity in tests}


def test_an_open_sitting_is_gone_on_with(world: World) -> None:
    first, _ = sitting(world)
    assert sitting(world)[0] == first
    shown = world.teacher.ask("GET", "/api/sittings").json()
    assert [row["battery"] for row in shown] == ["Term check"]


def test_scores_carry_the_day_they_were_taken(world: World) -> None:
    lesson, activities = sitting(world)
    Lesson.objects.filter(pk=lesson.pk).update(starts_at=timezone.now() - timedelta(days=4))
    activity = Activity.objects.select_related("lesson").get(pk=activities["long-jump"].pk)
    attempt = world.record(world.pupils[0], "120", activity, variant="", wave=None)
    assert attempt.on == timezone.localdate()


def test_the_grid_takes_a_constant_number_of_queries(world: World) -> None:
    counts = []
    for term in range(2):
        _, then = sitting(world, 90 + term)
        lesson, now = sitting(world)
        fill(world, then, now)
        grid(world, lesson)  # what repeat tests add up to is summed up once for the day
        with CaptureQueriesContext(connection) as queries:
            grid(world, lesson)
        counts.append(len(queries))
        lesson.closed_at, lesson.closed_by = timezone.now(), world.head.staff
        lesson.save()
    assert counts[0] == counts[1] <= 14


def test_the_tests_of_a_battery_stay_in_its_plan(world: World) -> None:
    staff = world.head.staff
    assert staff is not None
    tests = [world.lesson_on(40, slug).protocol.test_id for slug in ("long-jump", "press-ups-60")]
    battery = make_battery(staff, "Two", tests)
    lesson = start_sitting(staff, battery.id, world.school_class.id)
    path = f"/api/lessons/{lesson.id}/plan"

    def plan(*tests: Any) -> Any:
        blocks = [{"kind": "test", "label": "", "test_id": str(one)} for one in tests]
        return world.teacher.ask("PUT", path, {"based_on": 0, "blocks": blocks})

    other = world.lesson_on(40, "plank-30").protocol.test_id
    for wrong in ([tests[0]], [*tests, other]):
        answer = plan(*wrong)
        assert answer.status_code == 422 and "cannot change" in answer.json()["message"]
    held = Activity.objects.filter(lesson=lesson).values_list("protocol__test_id", flat=True)
    assert sorted(held) == sorted(tests)
