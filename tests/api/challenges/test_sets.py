"""Sets: several challenges of a day against a rival of any kind, and each child's sheet."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Any

import pytest
from django.utils import timezone

from lauf.catalogue.models import Ladder
from lauf.catalogue.models import Test as Catalogued
from lauf.challenges.models import Challenge, ChallengeWeek
from lauf.lessons.models import Activity, Lesson
from lauf.people.actions import create_house
from lauf.people.models import Pupil
from lauf.records.models import Attempt
from lauf.rules.contests.sets import READY_SETS
from tests.api.conftest import World
from tests.api.weeks import a_week, added, person

TEN = READY_SETS["Ten in a row"]


def new_set(world: World, slugs: Sequence[str], **more: Any) -> dict[str, Any]:
    tests = dict(Catalogued.objects.filter(school=world.school).values_list("slug", "id"))
    today = timezone.localdate()
    body = {
        "name": "Ten in a row", "starts_on": today, "ends_on": today + timedelta(days=4),
        "class_ids": [world.school_class.id], "points": {"took_part": 1, "beat_rival": 3},
        "test_ids": [tests[slug] for slug in slugs], "spread": "one_day", **more,
    }  # fmt: skip
    answer = world.teacher.ask("POST", "/api/weeks", body)
    assert answer.status_code == 201, answer.content
    made: dict[str, Any] = answer.json()
    return made


def sheet(world: World, week_id: Any, on: date | None = None) -> dict[str, Any]:
    day = on or timezone.localdate()
    answer = world.teacher.ask("GET", f"/api/weeks/{week_id}/sheet?on={day}")
    assert answer.status_code == 200, answer.content
    found: dict[str, Any] = answer.json()
    return found


def hold(world: World, week_id: Any) -> Lesson:
    choice = {"class_id": world.school_class.id, "on": timezone.localdate()}
    answer = world.teacher.ask("POST", f"/api/weeks/{week_id}/hold", choice)
    assert answer.status_code == 200, answer.content
    return Lesson.objects.get(pk=answer.json()["id"])


#: Worked on paper. The rival's ten marks, then five children: their ten scores (blank: not done,
#: ~ a guess), in how many the rival is beaten and in how many it is level.
RIVAL = ["30", "12", "20", "18", "34", "10", "40", "8", "50", "16"]
FIVE = [
    ("31 13 21 19 35 11 41 9 51 17", 10, 0),
    ("30 12 20 18 34 10 40 8 50 16", 0, 10),
    ("29 13 20 17 36 9 41 8 49 18", 4, 2),
    ("31 - - 19 - - - - 50 -", 2, 1),
    ("40~ 11 25~ 17 33 9 39 7 49 15", 0, 0),
]


def held(world: World, lesson: Lesson) -> None:
    """The five children's scores, each in the usual form."""
    activities = list(lesson.activities.order_by("position"))
    for pupil, (scores, _, _) in zip(world.pupils, FIVE, strict=False):
        for activity, typed in zip(activities, scores.split(), strict=True):
            code = activity.protocol.usual_variant
            if typed != "-":
                world.record(pupil, typed, activity, variant=code, wave=None)


def test_a_set_of_ten_for_five_children_worked_on_paper(world: World) -> None:
    week = new_set(world, TEN)
    ids = [one["id"] for one in week["challenges"]]
    assert [one["test"] for one in week["challenges"]][:2] == [
        "Star jumps in 30 s", "Press-ups in 30 s",
    ]  # fmt: skip
    marks = [{"challenge_id": one, "typed": typed}
             for one, typed in zip(ids, RIVAL, strict=True)]  # fmt: skip
    row = {"kind": "person", "name": "Brook", "marks": marks}
    assert world.teacher.ask("PUT", f"/api/weeks/{week['id']}/rival", row).status_code == 200
    held(world, hold(world, week["id"]))
    page = sheet(world, week["id"])
    for pupil, (scores, beaten, level) in zip(world.pupils, FIVE, strict=False):
        child = next(one for one in page["children"] if one["pupil_id"] == str(pupil.id))
        assert child["beaten"] == beaten == sum(cell["beaten"] for cell in child["cells"])
        assert f"beaten in {beaten} of 10" in child["words"]
        assert (f"level in {level}" in child["words"]) is (level > 0)
        measured = [typed for typed in scores.split() if typed != "-" and "~" not in typed]
        assert child["done"] == len(measured)
    # By how much, and from whom; a guess beats nobody.
    first, last = page["children"][0]["cells"][0], page["children"][4]["cells"][0]
    assert first["rival"] == "beat Brook by 1" and (last["best"], last["rival"]) == ("40 ~", "")
    assert [one["beat_rival"] for one in page["challenges"]] == [2, 2, 1, 2, 2, 1, 2, 1, 1, 2]
    assert points_of_five(world, week["id"]) == [10 + 30, 10, 10 + 4 * 3, 3 + 2 * 3, 10]


def points_of_five(world: World, week_id: Any) -> list[int]:
    """Of all ten challenges by one press; a second press gives nothing."""
    for _ in range(2):
        after = world.teacher.ask("POST", f"/api/weeks/{week_id}/points").json()
    by_child = {one["pupil_id"]: one["points"] for one in after["children"]}
    mine = [by_child[str(pupil.id)] for pupil in world.pupils[:5]]
    assert sum(by_child.values()) == sum(mine)
    return mine


def test_a_set_is_led_by_the_clock_one_after_the_other(world: World) -> None:
    week = new_set(world, TEN[:3], pause=20)
    lesson = hold(world, week["id"])
    assert hold(world, week["id"]).id == lesson.id, "a second press is the same lesson"
    plan = world.teacher.ask("GET", f"/api/lessons/{lesson.id}/plan").json()
    assert [block["entry"]["label"] for block in plan["blocks"]] == [
        "Star jumps in 30 s", "Press-ups in 30 s", "Squats in 30 s",
    ]  # fmt: skip
    page = world.teacher.ask("GET", f"/api/lessons/{lesson.id}/timeline").json()
    assert not any(one["waits"] for one in page["segments"])
    assert "Write it down. Next: Squats in 30 s" in [cue["say"] for cue in page["cues"]]


def test_a_test_against_another_clock_is_a_test_of_its_own(world: World) -> None:
    """30 in a minute and 30 in half a minute are never one score."""
    world.permit(world.teacher.staff, may_edit_tests=True)
    week = new_set(world, ["press-ups-60", "sit-ups-60-held", "burpees-30"], seconds=30)
    assert [one["seconds"] for one in week["challenges"]] == [30, 30, 30]
    names = [one["test"] for one in week["challenges"]]
    assert names == ["Press-ups in 30 s", "Sit-ups in 30 s, feet held", "Burpees in 30 s"]
    assert Catalogued.objects.filter(school=world.school, name__in=names).count() == 3
    again = new_set(world, ["press-ups-60", "plank-limit"], seconds=20)
    assert [(one["test"], one["seconds"]) for one in again["challenges"]] == [
        ("Press-ups in 20 s", 20), ("Plank to the limit", None),
    ]  # fmt: skip
    made = Catalogued.objects.get(school=world.school, name="Press-ups in 20 s")
    assert not made.ladders.exists(), "a ladder is tied to its clock"


@pytest.fixture
def jumps(world: World) -> tuple[ChallengeWeek, Challenge, Activity]:
    """Star jumps from today on; the class's scores of ten days ago are 20, 22, 24, …"""
    earlier = world.lesson_on(10, "star-jumps-30")
    for number, pupil in enumerate(world.pupils):
        world.record(pupil, str(20 + 2 * number), earlier, variant="", wave=None)
    week = a_week(world, timezone.localdate())
    challenge = added(world, week, week.starts_on, earlier.protocol.test_id)
    return week, challenge, world.lesson_on(0, "star-jumps-30")


def rival_words(world: World, challenge: Challenge) -> dict[str, str]:
    page = world.teacher.ask("GET", f"/api/challenges/{challenge.id}").json()
    return {child["pupil_id"]: child["rival"] for child in page["children"]}


def test_myself_last_time_is_each_childs_own_mark(world: World, jumps: Any) -> None:
    week, challenge, today = jumps
    row = {"kind": "self", "marks": [{"challenge_id": challenge.id}]}
    assert world.teacher.ask("PUT", f"/api/weeks/{week.id}/rival", row).status_code == 200
    for number, typed in enumerate(("23", "22", "19")):
        world.record(world.pupils[number], typed, today, variant="", wave=None)
    said = rival_words(world, challenge)
    assert [said[str(world.pupils[n].id)] for n in range(3)] == [
        "beat last time by 3", "level with last time", "5 short of last time",
    ]  # fmt: skip


def test_a_classs_or_houses_mark_is_its_middle_or_best_and_names_nobody(
    world: World, jumps: Any
) -> None:
    week, challenge, today = jumps
    path = f"/api/weeks/{week.id}/rival"
    marks = [{"challenge_id": challenge.id}]
    row = {"kind": "group", "class_id": world.school_class.id, "marks": marks}
    for best, mark, name in ((False, "31", "median"), (True, "42", "best")):
        answer = world.teacher.ask("PUT", path, {**row, "best": best})
        assert answer.status_code == 200, answer.content
        (found,) = answer.json()["challenges"]
        # Twelve scores from 20 to 42: the median is 31.
        assert found["rival"]["shown"] == mark
        assert found["rival"]["name"] == f"{world.school_class.name}'s {name}"
        assert not any(pupil.name in str(found) for pupil in world.pupils)
    # Of today: what is scored afterwards does not move it.
    world.record(world.pupils[0], "60", today, variant="", wave=None)
    assert rival_words(world, challenge)[str(world.pupils[0].id)].startswith("beat")
    page = world.teacher.ask("GET", f"/api/weeks/{week.id}").json()
    assert page["challenges"][0]["rival"]["shown"] == "42"
    # Four children are too few.
    house = create_house(world.school, "Elm")
    Pupil.objects.filter(pk__in=[one.id for one in world.pupils[:4]]).update(house=house)
    few = {"kind": "group", "house_id": house.id, "marks": marks}
    answer = world.teacher.ask("PUT", path, few)
    assert answer.status_code == 422 and "nobody's score can be guessed" in answer.json()["message"]
    # Beside a test in which there are enough it is the rival of that one alone.
    other = added(world, week, week.starts_on, world.activity.protocol.test_id)
    Pupil.objects.filter(pk__in=[one.id for one in world.pupils[:6]]).update(house=house)
    both = {**few, "marks": [{"challenge_id": one.id} for one in (other, challenge)]}
    answer = world.teacher.ask("PUT", path, both)
    assert answer.status_code == 200, answer.content
    rivals = {one["id"]: one["rival"] for one in answer.json()["challenges"]}
    assert rivals[str(other.id)] is None
    assert rivals[str(challenge.id)]["name"] == "Elm's median"


def test_a_rung_is_reached_and_need_not_be_passed(world: World) -> None:
    week = a_week(world, timezone.localdate())
    challenge = added(world, week, week.starts_on, world.activity.protocol.test_id)
    row = {"kind": "rung", "rung": 1, "marks": [{"challenge_id": challenge.id}]}
    assert world.teacher.ask("PUT", f"/api/weeks/{week.id}/rival", row).status_code == 200
    (shown,) = world.teacher.ask("GET", f"/api/weeks/{week.id}").json()["challenges"]
    assert shown["rival"]["rung"] == 1 and shown["rival"]["made"] is True
    ladder = Ladder.objects.get(
        test=challenge.protocol.test_id, variant="full", year_group=world.school_class.year_group
    )
    least = ladder.rungs.all()[0].threshold
    for number, reps in enumerate((least, least + 2, least - 1)):
        world.record(world.pupils[number], str(reps))
    said = rival_words(world, challenge)
    name = ladder.rungs.all()[0].name
    assert [said[str(world.pupils[n].id)] for n in range(3)] == [
        f"reached {name}", f"passed {name} by 2", f"1 short of {name}",
    ]  # fmt: skip
    found = world.teacher.ask("POST", f"/api/challenges/{challenge.id}/points").json()
    won = {child["pupil_id"]: [one["rule"] for one in child["given"]]
           for child in found["children"]}  # fmt: skip
    assert ["beat_rival" in won[str(world.pupils[n].id)] for n in range(3)] == [True, True, False]


def test_a_live_rival_is_named_first_and_makes_its_mark_later(world: World, jumps: Any) -> None:
    week, challenge, today = jumps
    path = f"/api/weeks/{week.id}/rival"
    assert world.teacher.ask("PUT", path, person("Brook", (challenge, ""))).status_code == 200
    world.record(world.pupils[0], "23", today, variant="", wave=None)
    assert rival_words(world, challenge)[str(world.pupils[0].id)] == ""
    (shown,) = world.teacher.ask("GET", f"/api/weeks/{week.id}").json()["challenges"]
    assert (shown["rival"]["name"], shown["rival"]["made"]) == ("Brook", False)
    assert world.teacher.ask("PUT", path, person("Brook", (challenge, "21"))).status_code == 200
    assert rival_words(world, challenge)[str(world.pupils[0].id)] == "beat Brook by 2"


def test_another_go_in_the_same_lesson_is_a_go(world: World, jumps: Any) -> None:
    """The second go of a day replaced the first."""
    _, challenge, today = jumps
    for number, typed in enumerate(("23", "29", "25"), 1):
        world.record(world.pupils[0], typed, today, variant="", wave=None, try_number=number)
    page = world.teacher.ask("GET", f"/api/challenges/{challenge.id}").json()
    child = next(one for one in page["children"] if one["pupil_id"] == str(world.pupils[0].id))
    assert (child["first"], child["best"], child["tries"]) == ("23", "29", 3)
    assert child["gain"] == "6 better than the first"


def test_a_correction_leaves_the_goes_in_the_order_they_were_made(world: World, jumps: Any) -> None:
    """The first go was corrected after the second one: it stays the first."""
    _, challenge, today = jumps
    wrong = world.record(world.pupils[0], "32", today, variant="", wave=None)
    later = world.lesson_on(0, "star-jumps-30")
    world.record(world.pupils[0], "29", later, variant="", wave=None)
    world.record(world.pupils[0], "23", today, variant="", wave=None, succeeds=wrong.id)
    page = world.teacher.ask("GET", f"/api/challenges/{challenge.id}").json()
    child = next(one for one in page["children"] if one["pupil_id"] == str(world.pupils[0].id))
    assert (child["first"], child["best"], child["tries"]) == ("23", "29", 2)
    assert "beat_own_best" in [one["rule"] for one in child["waiting"]]


def test_a_day_has_each_test_once_in_its_order(world: World) -> None:
    week = new_set(world, TEN[:3])
    more = {"on": timezone.localdate(), "test_ids": [week["challenges"][0]["test_id"]]}
    path = f"/api/weeks/{week['id']}/challenges"
    assert len(world.teacher.ask("POST", path, more).json()["challenges"]) == 3
    every = list(Catalogued.objects.filter(school=world.school, private=False)[:13])
    many = {**more, "test_ids": [one.id for one in every[:12]]}
    answer = world.teacher.ask("POST", path, many)
    assert answer.status_code == 422 and "up to 12" in answer.json()["message"]
    assert Challenge.objects.filter(week=week["id"]).count() == 3, "whole or not at all"
    spread = new_set(world, TEN[:6], spread="day_each")
    days = [one["on"] for one in spread["challenges"]]
    start = timezone.localdate()
    assert days == [str(start + timedelta(days=min(n, 4))) for n in range(6)]


def test_the_sheet_takes_a_constant_number_of_queries(world: World) -> None:
    few = new_set(world, TEN[:2])
    on = timezone.localdate()
    lesson = hold(world, few["id"])
    for activity in lesson.activities.all():
        code = activity.protocol.variant_codes[0]
        world.record(world.pupils[0], "12", activity, variant=code, wave=None)
    asked = world.queries(f"/api/weeks/{few['id']}/sheet?on={on}")
    many = new_set(world, TEN, name="More")
    lesson = hold(world, many["id"])
    for activity in lesson.activities.all():
        code = activity.protocol.variant_codes[0]
        for pupil in world.pupils:
            world.record(pupil, "12", activity, variant=code, wave=None)
    assert world.queries(f"/api/weeks/{many['id']}/sheet?on={on}") == asked
    ready = world.teacher.ask("GET", "/api/ready-sets").json()
    assert ready[0]["name"] == "Ten in a row" and len(ready[0]["tests"]) == 10


def test_weeks_of_a_class_are_one_table_with_each_childs_story(world: World) -> None:
    today = timezone.localdate()
    path = f"/api/classes/{world.school_class.id}/series"
    weeks = []
    for ago, slug in ((15, "star-jumps-30"), (8, "frog-jumps-30"), (1, "squats-30")):
        week = a_week(world, today - timedelta(days=ago))
        activity = world.lesson_on(ago, slug)
        challenge = added(world, week, week.starts_on, activity.protocol.test_id)
        mark = person("Brook", (challenge, "20"))
        world.teacher.ask("PUT", f"/api/weeks/{week.id}/rival", mark)
        world.record(world.pupils[0], "19", activity, variant="", wave=None)
        weeks.append((week, activity, slug))
    few = world.queries(path)
    # Another go in the last week; the second child took part in the first one alone.
    world.record(world.pupils[0], "24", world.lesson_on(0, "squats-30"), variant="", wave=None)
    world.record(world.pupils[1], "30", weeks[0][1], variant="", wave=None)
    world.teacher.ask("POST", f"/api/weeks/{weeks[0][0].id}/points")
    page = world.teacher.ask("GET", path).json()
    assert [one["tests"] for one in page["weeks"]] == [
        ["Star jumps in 30 s"], ["Frog jumps in 30 s"], ["Squats in 30 s"],
    ]  # fmt: skip
    assert [one["took_part"] for one in page["weeks"]] == [2, 1, 1]
    rows = {one["pupil_id"]: one for one in page["children"]}
    first, second, third = (rows[str(world.pupils[n].id)] for n in range(3))
    assert first["story"] == (
        "took part in 3 of 3 weeks, improved with another attempt once, beat a rival once"
    )
    assert second["story"] == "took part in 1 of 3 weeks, beat a rival once"
    assert third["story"] == "has not taken part yet"
    # What a later week was scored is no go of an earlier one that is over.
    assert second["weeks"][0]["points"] == second["points"] == 1 + 2 + 3, "part, rung, rival"
    names = [one["name"] for one in page["like"]]
    assert names and not {"Squats in 30 s", "Star jumps in 30 s"} & set(names)
    world.more_children()
    assert world.queries(path) == few


def test_a_set_is_as_long_as_its_parts_and_says_what_comes(world: World) -> None:
    week = new_set(world, TEN[:3], pause=20, seconds=30)
    lesson = hold(world, week["id"])
    # Three times 30 s of work, 5 s to get ready and 20 s to write it down: within 20 minutes.
    assert lesson.minutes == 20
    blocks = list(lesson.blocks.order_by("position"))
    names = [one["test"] for one in week["challenges"]]
    said = [one.settings["say"] for one in blocks]
    assert said == [f"First: {names[0]}", *(f"Write it down. Next: {one}" for one in names[1:])]
    assert hold(world, week["id"]).id == lesson.id, "once begun, it is the same lesson"
    many = new_set(world, TEN, name="Long", pause=120)
    protocols = [
        one.protocol for one in Challenge.objects.filter(week=many["id"]).select_related("protocol")
    ]
    # 120 s to write each down, and each wave its 5 s, its clock and changing over.
    least = sum(120 + one.waves * one.tries * (5 + (one.seconds or 0)) for one in protocols)
    assert least <= 60 * hold(world, many["id"]).minutes <= least + 60 * len(protocols)


def test_a_go_of_another_class_says_nothing_about_this_classs_course(world: World) -> None:
    week = new_set(world, ["shuttle-20m-even", "press-ups-60"])
    other = world.school.classes.exclude(pk=world.school_class.pk).first()
    test = Challenge.objects.get(week=week["id"], protocol__test__slug="shuttle-20m-even")
    if other is None:
        other = world.school.classes.create(
            name="5 Other", year_group=world.school_class.year_group
        )
    pupil = world.school.pupils.create(school_class=other, given_name="Ola")
    lesson = Lesson.objects.create(
        school=world.school, school_class=other, teacher=world.head.staff,
        place="Hall", starts_at=timezone.now(), minutes=20,
    )  # fmt: skip
    there = Activity.objects.create(
        lesson=lesson, position=0, protocol=test.protocol, conditions={"course_mm": 9_000}
    )
    Attempt.objects.create(
        school=world.school, pupil=pupil, activity=there, protocol=test.protocol,
        kind=test.protocol.kind, on=timezone.localdate(), typed="3.2", value=18,
        recorded_by=world.head.staff, recorded_at=timezone.now(),
    )  # fmt: skip
    mine = hold(world, week["id"]).activities.get(protocol=test.protocol)
    assert mine.conditions.get("course_mm") != 9_000
