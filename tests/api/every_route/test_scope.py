"""Whose children, whose weeks, whose heights: what is shared is no way to more than one's own."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from lauf.catalogue.models import Test as Protocol
from lauf.challenges.actions import (
    Mark,
    RivalWish,
    add_challenges,
    give_points,
    make_week,
    set_rival,
)
from lauf.challenges.models import Challenge, ChallengeWeek, Point
from lauf.lessons.models import Activity, Lesson
from lauf.people.models import Pupil, YearGroup
from lauf.records.models import Settlement
from lauf.rules.contests.rivals import RivalKind
from tests.api.conftest import World
from tests.api.weeks import POINTS
from tests.api.weeks import person as their_mark
from tests.support.scores import record_attempt


@dataclass
class Shared:
    """A week of two classes that the head made: the teacher's and, in `theirs`, a colleague's."""

    week: ChallengeWeek
    challenge: Challenge
    theirs: list[Pupil]

    def points_of(self, pupil: Pupil) -> Point:
        return Point.objects.filter(challenge=self.challenge, pupil=pupil).latest("at")


@pytest.fixture
def shared(world: World) -> Shared:
    head, colleague = world.head.staff, world.colleague.staff
    assert head is not None and colleague is not None
    year = YearGroup.objects.get(school=world.school, name="Year 5")
    other = world.school.classes.create(name="5 T", year_group=year)
    other.teachers.add(colleague)
    theirs = Pupil.objects.bulk_create(
        Pupil(school=world.school, school_class=other, given_name=f"Other {n}") for n in range(3)
    )
    today = timezone.localdate()
    week = make_week(
        head,
        name="Both classes",
        starts_on=today,
        ends_on=today + timedelta(days=4),
        class_ids=[world.school_class.id, other.id],
        points=POINTS,
    )
    test_id = world.activity.protocol.test_id
    (challenge,) = add_challenges(head, week.id, on=today, test_ids=[test_id])
    brook = RivalWish(RivalKind.PERSON, "Brook")
    set_rival(head, week.id, brook, [Mark(challenge.id, "30", "full")])
    lesson = Lesson.objects.create(
        school=world.school, school_class=other, teacher=colleague, starts_at=timezone.now()
    )
    there = Activity.objects.create(lesson=lesson, protocol=world.activity.protocol)
    record_attempt(
        colleague, there.id, attempt_id=uuid.uuid4(), pupil_id=theirs[0].id, typed="33",
        variant="full", wave=1, recorded_at=timezone.now(),
    )  # fmt: skip
    world.record(world.pupils[0], "31")
    give_points(head, challenge.id)
    return Shared(week, challenge, theirs)


def test_in_a_shared_week_everybody_sees_their_own_children(world: World, shared: Shared) -> None:
    own, theirs = {one.name for one in world.pupils}, {one.name for one in shared.theirs}
    for person, seen in (
        (world.teacher, own),
        (world.co_teacher, own),
        (world.colleague, theirs),
        (world.head, own | theirs),
    ):
        for path in (f"weeks/{shared.week.id}", f"challenges/{shared.challenge.id}"):
            page = person.ask("GET", f"/api/{path}").json()
            assert {child["name"] for child in page["children"]} == seen, path
    for path in (f"weeks/{shared.week.id}", f"challenges/{shared.challenge.id}"):
        assert world.stranger_head.ask("GET", f"/api/{path}").status_code == 404


def test_another_class_is_not_opened_given_points_or_robbed_of_them(
    world: World, shared: Shared
) -> None:
    reverse = f"/api/points/{shared.points_of(shared.theirs[0]).id}/reverse"
    for person in (world.teacher, world.co_teacher, world.stranger_head):
        assert person.ask("POST", reverse, {"why": "why not"}).status_code == 404
    class_id = str(shared.theirs[0].school_class_id)
    opened = f"/api/challenges/{shared.challenge.id}/open"
    assert world.teacher.ask("POST", opened, {"class_id": class_id}).status_code == 404
    # What another class earned is given by its own teacher.
    world.record(world.pupils[1], "32")
    give_points(world.colleague.staff, shared.challenge.id)  # type: ignore[arg-type]
    assert not Point.objects.filter(pupil=world.pupils[1]).exists()
    assert world.colleague.ask("POST", reverse, {"why": "miscounted"}).status_code == 200
    mine = f"/api/points/{shared.points_of(world.pupils[0]).id}/reverse"
    assert world.colleague.ask("POST", mine, {"why": "why not"}).status_code == 404
    assert world.co_teacher.ask("POST", mine, {"why": "miscounted"}).status_code == 200


def test_a_week_is_changed_by_who_made_it_or_the_head(world: World, shared: Shared) -> None:
    week, on = f"/api/weeks/{shared.week.id}", timezone.localdate() + timedelta(days=1)
    jumps = str(Protocol.objects.get(school=world.school, slug="star-jumps-30").id)
    new = {"on": on, "test_ids": [jumps]}
    mark = their_mark("Ash", (shared.challenge, "33"))
    for person in (world.teacher, world.colleague):
        for method, path, body in (
            ("POST", f"{week}/challenges", new),
            ("PUT", f"{week}/rival", mark),
            ("DELETE", f"/api/challenges/{shared.challenge.id}", None),
            ("DELETE", week, None),
        ):
            answer = person.ask(method, path, body)
            assert answer.status_code == 403, (method, path)
            assert "made the week" in answer.json()["message"]
    assert world.head.ask("POST", f"{week}/challenges", new).status_code == 200
    assert ChallengeWeek.objects.get(pk=shared.week.pk).challenges.count() == 2


@pytest.fixture
def measured(world: World) -> Activity:
    """Heights of the class, taken by a head who may see them."""
    head = world.head.staff
    assert head is not None
    head.may_see_growth = True
    head.save()
    activity = world.lesson_on(0, "height")
    for number, pupil in enumerate(world.pupils):
        record_attempt(
            head, activity.id, attempt_id=uuid.uuid4(), pupil_id=pupil.id,
            typed=str(120 + number), variant="", wave=None, recorded_at=timezone.now(),
        )  # fmt: skip
    return activity


def asked_of_growth(activity: Activity, body: dict[str, Any]) -> list[tuple[str, str, Any]]:
    taken = activity.attempts.first()
    assert taken is not None
    at = f"/api/activities/{activity.id}"
    return [
        ("GET", f"{at}/lanes", None),
        ("GET", f"{at}/check", None),
        ("POST", f"{at}/attempts", body),
        ("PUT", f"{at}/conditions", {"conditions": {}}),
        ("POST", f"/api/attempts/{taken.id}/confirm", {"flag": "class"}),
        ("GET", f"/api/tests/{activity.protocol.test_id}", None),
        ("GET", f"/api/tests/{activity.protocol.test_id}/benchmarks", None),
        ("POST", f"/api/lessons/{activity.lesson_id}/activities",
         {"test_id": str(activity.protocol.test_id)}),
    ]  # fmt: skip


def test_growth_is_for_staff_with_that_permission_at_every_door(
    world: World, measured: Activity
) -> None:
    """Its own teacher, the co-teacher and a colleague get what a stranger gets."""
    for person in (world.teacher, world.co_teacher, world.colleague, world.stranger_head):
        for method, path, body in asked_of_growth(measured, world.body(world.pupils[0], "131")):
            assert person.ask(method, path, body).status_code == 404, (method, path)
    assert not Settlement.objects.exists()
    lesson = world.teacher.ask("GET", f"/api/lessons/{measured.lesson_id}").json()
    assert lesson["activities"] == []
    child = world.teacher.ask("GET", f"/api/pupils/{world.pupils[3].id}")
    assert b"123 cm" not in child.content and b"Height" not in child.content
    answers = [
        world.head.ask(method, path, body).status_code
        for method, path, body in asked_of_growth(
            measured, world.body(world.pupils[0], "131", variant="", wave=None)
        )
    ]
    assert set(answers) <= {200, 201, 409}, answers


def test_growth_is_no_challenge_and_makes_no_groups(world: World, measured: Activity) -> None:
    """Asked by a head who may see it: it is still nobody's contest."""
    test = str(measured.protocol.test_id)
    today = timezone.localdate()
    new = {
        "name": "W", "starts_on": today, "ends_on": today, "points": {"took_part": 1},
        "class_ids": [world.school_class.id],
    }  # fmt: skip
    week = world.head.ask("POST", "/api/weeks", new).json()["id"]
    answer = world.head.ask(
        "POST", f"/api/weeks/{week}/challenges", {"on": today, "test_ids": [test]}
    )
    assert (answer.status_code, answer.json()["message"]) == (
        422,
        "Height and weight cannot be a challenge.",
    )
    groups = f"/api/lessons/{world.activity.lesson_id}/plan/groups"
    balanced = {"how": "balanced", "number": 3, "test_id": test}
    answer = world.head.ask("POST", groups, balanced)
    assert answer.status_code == 422 and "height or weight" in answer.json()["message"]
