"""What a child is kept from: said in the plan and in its cell, and held to unless the teacher says
otherwise for the lesson."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from lauf.people.models import Change, Pupil
from lauf.records.models import Attempt
from tests.api.conftest import World


def care(world: World, pupil: Pupil, measuring: str = "", **until: Any) -> Any:
    body = {
        "measuring": measuring,
        "exclusions": [{"what": what, "until": day} for what, day in until.items()],
    }
    return world.teacher.ask("PUT", f"/api/pupils/{pupil.id}/care", body)


def allow(world: World, pupil: Pupil, what: str, lesson: Any, *, allowed: bool = True) -> Any:
    body = {"pupil_id": pupil.id, "what": [what], "allowed": allowed}
    return world.teacher.ask("PUT", f"/api/lessons/{lesson}/allowed", body)


def test_a_child_that_is_not_to_hang_does_not_without_the_teachers_word(world: World) -> None:
    hang = world.lesson_on(0, "flexed-arm-hang")
    ada, ben = world.pupils[0], world.pupils[1]
    assert care(world, ada, hanging=None).status_code == 200
    shown = world.child(ada, hang)["care"]
    assert shown == {"what": ["hanging"], "words": "is not to hang from a bar", "allowed": False}
    assert world.child(ben, hang)["care"] is None
    assert world.child(ada)["care"] is None, "press-ups ask for something else"
    at = f"/api/activities/{hang.id}/attempts"
    refused = world.teacher.ask("POST", at, world.body(ada, "12", variant=""))
    assert refused.status_code == 422
    assert "Child 00 is not to hang from a bar" in refused.json()["message"]
    assert not Attempt.objects.filter(pupil=ada).exists()
    # Why there is no score is always taken.
    assert world.teacher.ask("POST", at, world.body(ada, "x", variant="")).status_code == 200
    # The plan says it before anybody stands below the bar.
    plan = {"blocks": [{"kind": "test", "label": "", "test_id": str(hang.protocol.test_id)}]}
    page = world.teacher.ask("POST", f"/api/lessons/{hang.lesson_id}/plan/preview", plan).json()
    (said,) = [one for one in page["warnings"] if one["code"] == "care"]
    assert said["words"].startswith("Child 00 is not to hang from a bar: Flexed-arm hang")
    # The teacher's word, for this lesson only, on record, twice the same as once; and undone.
    first = Attempt.objects.get(pupil=ada)
    for _ in range(2):
        assert allow(world, ada, "hanging", hang.lesson_id).status_code == 204
    assert world.child(ada, hang)["care"]["allowed"]
    body = world.body(ada, "12", variant="", succeeds=first.id)
    assert world.teacher.ask("POST", at, body).status_code == 200
    other = world.lesson_on(1, "flexed-arm-hang")
    assert not world.child(ada, other)["care"]["allowed"]
    words = Change.objects.filter(what="care", about=str(ada.id)).values_list("words", flat=True)
    assert sum("allowed for this lesson" in one for one in words) == 1
    allow(world, ada, "hanging", hang.lesson_id, allowed=False)
    assert not world.child(ada, hang)["care"]["allowed"]


def test_an_exclusion_ends_by_itself(world: World) -> None:
    today = timezone.localdate()
    hang = world.lesson_on(0, "flexed-arm-hang")
    for until, kept in ((today, True), (today - timedelta(days=1), False)):
        care(world, world.pupils[0], hanging=until.isoformat())
        assert (world.child(world.pupils[0], hang)["care"] is not None) is kept


@pytest.mark.parametrize(("consent", "taken"), [("", True), ("given", True), ("refused", False)])
def test_nobody_is_weighed_whose_family_has_said_no(
    world: World, consent: str, taken: bool
) -> None:
    world.permit(world.teacher.staff, may_see_growth=True)
    weight = world.lesson_on(0, "weight")
    care(world, world.pupils[0], measuring=consent)
    at = f"/api/activities/{weight.id}/attempts"
    answer = world.teacher.ask("POST", at, world.body(world.pupils[0], "25", variant=""))
    assert (answer.status_code == 200) is taken, answer.content
    shown = world.child(world.pupils[0], weight)["care"]
    assert (shown is None) is taken


def test_what_is_kept_of_care_goes_to_nobody_elses_staff(world: World) -> None:
    """Nothing of it is in an answer to those who may not see the child."""
    care(world, world.pupils[0], "refused", hanging=None, running="2099-01-01")
    page = world.teacher.ask("GET", f"/api/classes/{world.school_class.id}").json()["pupils"][0]
    assert page["measuring"] == "refused"
    assert page["exclusions"] == [
        {"what": "hanging", "until": None}, {"what": "running", "until": "2099-01-01"},
    ]  # fmt: skip
    wall = world.teacher.ask("GET", f"/api/activities/{world.activity.id}/wall").content
    assert b"exclusion" not in wall and b"care" not in wall and b"measuring" not in wall
    for person in (world.colleague, world.stranger, world.stranger_head, world.nobody):
        for path in ("/api/classes", "/api/today", "/api/search?q=child", "/api/timetable"):
            said = person.ask("GET", path).content
            assert b"hanging" not in said and b"measuring" not in said, path
    log = [line["words"] for line in world.head.ask("GET", "/api/log").json()]
    assert any("measuring not agreed" in one and "run to their limit until" in one for one in log)


def test_a_class_that_was_weighed_is_looked_at_on_record_and_the_log_can_be_narrowed(
    world: World,
) -> None:
    world.permit(world.teacher.staff, may_see_growth=True)
    weight = world.lesson_on(0, "weight")
    for activity in (weight, weight, world.activity):
        path = f"/api/activities/{activity.id}/lanes"
        assert world.teacher.ask("GET", path).status_code == 200
    care(world, world.pupils[0], "given")
    world.head.ask("PUT", "/api/school/units", {"imperial": False})
    whole = [one["words"] for one in world.head.ask("GET", "/api/log").json()]
    narrow = [one["words"] for one in world.head.ask("GET", "/api/log?sensitive=true").json()]
    assert narrow == [
        "Child 00: measuring agreed",
        "4 T: Weight viewed",
        "Teacher may see height and weight",
    ]
    assert len(whole) > len(narrow)


def test_looking_at_growth_is_on_record_once_a_day(world: World) -> None:
    world.permit(world.teacher.staff, may_see_growth=True)
    for _ in range(3):
        assert (
            world.teacher.ask("GET", f"/api/pupils/{world.pupils[0].id}/growth").status_code == 200
        )
    seen = Change.objects.filter(what="seen", about=str(world.pupils[0].id))
    assert [(one.by.name, one.words) for one in seen] == [
        ("Teacher", "Child 00: height and weight viewed")
    ]
