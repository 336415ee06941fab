"""Routes for challenges."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import ClassChoice, Made, Reason
from lauf.challenges import actions, queries
from lauf.challenges.actions import Spread
from lauf.challenges.queries.ledger import ChallengePage, PupilPoints
from lauf.challenges.queries.weeks import (
    OpenChallenge,
    WeekPage,
    WeekRow,
    WeekWall,
)
from lauf.people.shapes import Day
from lauf.rules.contests.points import PointRule
from lauf.rules.contests.sets import MOST_IN_A_SET, WRITE_DOWN

router = Router(tags=["challenges"])


Clock = Annotated[int, Field(ge=5, le=3600)]


class NewWeek(Schema):
    """A week, with its tests if they are known: one a day, or all of the first day as a set;
    `seconds` is the clock of each, where they are counted against one. `id` is the device's own:
    the same twice is made once."""

    id: UUID | None = None
    name: str = Field(max_length=120)
    starts_on: Day
    ends_on: Day
    class_ids: list[UUID] = Field(max_length=60)
    points: dict[PointRule, int]
    test_ids: list[UUID] = Field([], max_length=2 * MOST_IN_A_SET)
    spread: Spread = Spread.DAY_EACH
    seconds: Clock | None = None
    pause: int = WRITE_DOWN


class NewChallenges(Schema):
    on: Day
    test_ids: list[UUID] = Field(max_length=MOST_IN_A_SET)
    seconds: Clock | None = None


class Opened(Schema):
    lesson_id: UUID
    activity_id: UUID


@router.get("/weeks", response=list[WeekRow])
def list_weeks(request: HttpRequest) -> list[WeekRow]:
    return queries.week_list(signed_in_staff(request))


@router.post("/weeks", response={201: WeekPage})
def make_week(request: HttpRequest, new: NewWeek) -> Any:
    staff, wish = signed_in_staff(request), new.model_dump()
    week = actions.make_week(staff, week_id=wish.pop("id"), **wish)
    return Status(201, queries.week_page(staff, week.id))


@router.get("/weeks/{week_id}", response=WeekPage)
def get_week(request: HttpRequest, week_id: UUID) -> WeekPage:
    return queries.week_page(signed_in_staff(request), week_id)


@router.get("/weeks/{week_id}/wall", response=WeekWall)
def get_week_wall(request: HttpRequest, week_id: UUID) -> WeekWall:
    """Houses and classes, taking part first; nobody's name."""
    return queries.week_wall(signed_in_staff(request), week_id)


@router.post("/weeks/{week_id}/again", response=Made)
def try_all_again(request: HttpRequest, week_id: UUID, choice: ClassChoice) -> Any:
    """A lesson of today in which a class tries all of the week's challenges again."""
    return actions.try_all_again(signed_in_staff(request), week_id, choice.class_id)


@router.delete("/weeks/{week_id}", response={204: None})
def delete_week(request: HttpRequest, week_id: UUID) -> Any:
    actions.delete_week(signed_in_staff(request), week_id)
    return Status(204, None)


@router.post("/weeks/{week_id}/challenges", response=WeekPage)
def add_challenges(request: HttpRequest, week_id: UUID, new: NewChallenges) -> WeekPage:
    """Tests as challenges of a day; one that the day has already stays as it is."""
    staff = signed_in_staff(request)
    actions.add_challenges(staff, week_id, **new.model_dump())
    return queries.week_page(staff, week_id)


@router.post("/weeks/{week_id}/points", response=WeekPage)
def give_all_points(request: HttpRequest, week_id: UUID) -> WeekPage:
    """What was earned in any challenge of the week and not given yet."""
    staff = signed_in_staff(request)
    actions.give_all_points(staff, week_id)
    return queries.week_page(staff, week_id)


@router.get("/open-challenges", response=list[OpenChallenge])
def list_open(request: HttpRequest) -> list[OpenChallenge]:
    """The challenges that can be tried today."""
    return queries.due_today(signed_in_staff(request), timezone.localdate())


@router.get("/pupils/{pupil_id}/points", response=PupilPoints)
def get_pupil_points(request: HttpRequest, pupil_id: UUID) -> PupilPoints:
    return queries.pupil_points(signed_in_staff(request), pupil_id)


@router.get("/challenges/{challenge_id}", response=ChallengePage)
def get_challenge(request: HttpRequest, challenge_id: UUID) -> ChallengePage:
    return queries.challenge_page(signed_in_staff(request), challenge_id)


@router.delete("/challenges/{challenge_id}", response=WeekPage)
def take_out_challenge(request: HttpRequest, challenge_id: UUID) -> WeekPage:
    staff = signed_in_staff(request)
    week = actions.take_out_challenge(staff, challenge_id)
    return queries.week_page(staff, week.id)


@router.post("/challenges/{challenge_id}/open", response=Opened)
def open_challenge(request: HttpRequest, challenge_id: UUID, choice: ClassChoice) -> Any:
    """Where a class's scores of it are taken today."""
    made = actions.open_challenge(signed_in_staff(request), challenge_id, choice.class_id)
    return {"lesson_id": made.lesson_id, "activity_id": made.id}


@router.post("/challenges/{challenge_id}/points", response=ChallengePage)
def give_points(request: HttpRequest, challenge_id: UUID) -> ChallengePage:
    staff = signed_in_staff(request)
    actions.give_points(staff, challenge_id)
    return queries.challenge_page(staff, challenge_id)


@router.post("/points/{point_id}/reverse", response=ChallengePage)
def reverse_point(request: HttpRequest, point_id: UUID, reason: Reason) -> ChallengePage:
    staff = signed_in_staff(request)
    line = actions.reverse_point(staff, point_id, reason.why)
    return queries.challenge_page(staff, line.challenge_id)
