"""A week of challenges to test with."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from django.utils import timezone

from lauf.challenges.actions import give_points, make_week, set_day
from lauf.challenges.models import Challenge, ChallengeWeek
from lauf.people.models import Staff
from lauf.rules.points import PointRule
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
    return set_day(
        by,
        week.id,
        on=week.starts_on,
        test_id=world.activity.protocol.test_id,
        rival="Brook" if rival else "",
        rival_typed=rival,
        rival_variant="full" if rival else "",
    )


def challenge_ids(world: World, staff: Staff) -> dict[str, Any]:
    """Real ids of a week somebody made, a challenge and a line of its ledger."""
    week = a_week(world, staff=staff)
    challenge = a_challenge(world, week, staff=staff)
    world.record(world.pupils[2], "31")
    give_points(staff, challenge.id)
    point = challenge.points.first()
    assert point is not None
    return {"week_id": week.id, "challenge_id": challenge.id, "point_id": point.id}
