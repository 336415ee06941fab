"""A week of challenges to test with."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from django.utils import timezone

from lauf.challenges.actions import (
    Mark,
    RivalWish,
    add_challenges,
    give_points,
    make_week,
    set_rival,
)
from lauf.challenges.models import Challenge, ChallengeWeek
from lauf.lessons.models import Activity
from lauf.people.models import Staff
from lauf.rules.contests.points import PointRule
from lauf.rules.contests.rivals import RivalKind
from tests.api.conftest import World

POINTS = {
    PointRule.TOOK_PART: 1,
    PointRule.BEAT_OWN_BEST: 2,
    PointRule.REACHED_RUNG: 2,
    PointRule.BEAT_RIVAL: 3,
}


def a_week(
    world: World, starts_on: date | None = None, days: int = 5, staff: Staff | None = None
) -> ChallengeWeek:
    """A week of the world's class that began yesterday, unless another day is named."""
    by = staff or world.teacher.staff
    assert by is not None
    start = starts_on or timezone.localdate() - timedelta(days=1)
    return make_week(
        by,
        name="Spring week",
        starts_on=start,
        ends_on=start + timedelta(days=days - 1),
        class_ids=[world.school_class.id],
        points=POINTS,
    )


def a_challenge(
    world: World, week: ChallengeWeek, rival: str = "30", staff: Staff | None = None
) -> Challenge:
    """Press-ups from the first day of the week on, against a rival's mark."""
    by = staff or world.teacher.staff
    assert by is not None
    test = world.activity.protocol.test_id
    (made,) = add_challenges(by, week.id, on=week.starts_on, test_ids=[test])
    if rival:
        set_rival(by, week.id, RivalWish(RivalKind.PERSON, "Brook"), [Mark(made.id, rival, "full")])
    return Challenge.objects.get(pk=made.id)


def added(world: World, week: ChallengeWeek, on: date, test_id: Any) -> Challenge:
    """A test as the challenge of a day, by the address."""
    new = {"on": on, "test_ids": [test_id]}
    answer = world.teacher.ask("POST", f"/api/weeks/{week.id}/challenges", new)
    assert answer.status_code == 200, answer.content
    return Challenge.objects.get(week=week, on=on, protocol__test=test_id)


def person(name: str, *marks: Any, **more: Any) -> dict[str, Any]:
    """What is sent for a person's marks: pairs of a challenge and what was typed for it."""
    rows = [{"challenge_id": one.id, "typed": typed, **more} for one, typed in marks]
    return {"kind": "person", "name": name, "marks": rows}


def challenge_ids(world: World, staff: Staff) -> dict[str, Any]:
    """Real ids of a week somebody made, a challenge and a line of its ledger."""
    week = a_week(world, staff=staff)
    challenge = a_challenge(world, week, staff=staff)
    world.record(world.pupils[2], "31")
    give_points(staff, challenge.id)
    point = challenge.points.first()
    assert point is not None
    return {
        "week_id": week.id,
        "challenge_id": challenge.id,
        "point_id": point.id,
    }


def page(world: World, challenge: Challenge) -> dict[str, Any]:
    """A challenge with its children, as the teacher sees it."""
    answer = world.teacher.ask("GET", f"/api/challenges/{challenge.id}")
    assert answer.status_code == 200, answer.content
    found: dict[str, Any] = answer.json()
    return found


def row(world: World, challenge: Challenge, number: int) -> dict[str, Any]:
    """One child in a challenge."""
    children = page(world, challenge)["children"]
    wanted = str(world.pupils[number].id)
    return next(child for child in children if child["pupil_id"] == wanted)


def rival_in(world: World, activity: Activity) -> dict[str, Any]:
    """The one whose mark is made in what the class does."""
    (found,) = world.teacher.ask("GET", f"/api/activities/{activity.id}/rivals").json()
    rival: dict[str, Any] = found["rival"]
    return rival
