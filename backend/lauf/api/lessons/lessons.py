"""Routes for lessons, their tests and clocks."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import Followed, Made
from lauf.lessons import actions, queries
from lauf.lessons.queries.lessons import LessonPage, PastLesson, Suggestion
from lauf.people.shapes import Instant

router = Router(tags=["lessons"])


class NewLesson(Schema):
    """A lesson as it is begun. The id is the device's own; the same id twice is made once."""

    id: UUID | None = None
    class_id: UUID
    test_ids: list[UUID] = Field(max_length=40)
    starts_at: Instant
    minutes: int
    place: str
    # Under which a device without a network has taken scores already, in the order of the tests.
    activity_ids: list[UUID] = Field(default=[], max_length=40)
    # With a plan that takes the pulse at rest and after the last test.
    pulses: bool = False


class LessonChange(Schema):
    class_id: UUID
    starts_at: Instant
    minutes: int
    place: str


@router.get("/lessons/suggested", response=list[Suggestion])
def suggest_lessons(request: HttpRequest, at: Instant) -> list[Suggestion]:
    return queries.suggested_lessons(signed_in_staff(request), at)


@router.post("/lessons", response={201: Made})
def plan_lesson(request: HttpRequest, new: NewLesson) -> Any:
    fields = new.model_dump()
    return Status(
        201, actions.plan_lesson(signed_in_staff(request), lesson_id=fields.pop("id"), **fields)
    )


@router.get("/classes/{class_id}/lessons", response=list[PastLesson])
def list_lessons(request: HttpRequest, class_id: UUID) -> list[PastLesson]:
    return queries.class_lessons(signed_in_staff(request), class_id)


@router.get("/lessons/{lesson_id}/live", response=Followed)
def follow(request: HttpRequest, lesson_id: UUID) -> Followed:
    """The lesson whose events may be followed: `lauf.web.live` goes on as a stream."""
    return {"lesson_id": queries.lesson_of(signed_in_staff(request), lesson_id).id}


@router.get("/lessons/{lesson_id}", response=LessonPage)
def get_lesson(request: HttpRequest, lesson_id: UUID) -> LessonPage:
    return queries.lesson_page(signed_in_staff(request), lesson_id)


@router.put("/lessons/{lesson_id}", response=LessonPage)
def change_lesson(request: HttpRequest, lesson_id: UUID, change: LessonChange) -> LessonPage:
    staff = signed_in_staff(request)
    actions.change_lesson(staff, lesson_id, **change.model_dump())
    return queries.lesson_page(staff, lesson_id)


@router.delete("/lessons/{lesson_id}", response={204: None})
def delete_lesson(request: HttpRequest, lesson_id: UUID) -> Any:
    actions.delete_lesson(signed_in_staff(request), lesson_id)
    return Status(204, None)


@router.post("/lessons/{lesson_id}/close", response=LessonPage)
def close_lesson(request: HttpRequest, lesson_id: UUID) -> LessonPage:
    actions.close_lesson(signed_in_staff(request), lesson_id)
    return queries.lesson_page(signed_in_staff(request), lesson_id)


@router.post("/lessons/{lesson_id}/reopen", response=LessonPage)
def reopen_lesson(request: HttpRequest, lesson_id: UUID) -> LessonPage:
    actions.reopen_lesson(signed_in_staff(request), lesson_id)
    return queries.lesson_page(signed_in_staff(request), lesson_id)


class Conditions(Schema):
    conditions: dict[str, int | str] = Field(max_length=6)


@router.put("/activities/{activity_id}/conditions", response=Conditions)
def set_conditions(request: HttpRequest, activity_id: UUID, given: Conditions) -> Any:
    return actions.set_conditions(signed_in_staff(request), activity_id, given.conditions)


class Retest(Schema):
    """`id` is the device's own: the same twice is made once."""

    id: UUID | None = None
    starts_at: Instant


@router.post("/lessons/{lesson_id}/copy", response={201: Made})
def copy_lesson(request: HttpRequest, lesson_id: UUID, retest: Retest) -> Any:
    staff, copy_id = signed_in_staff(request), retest.id
    made = actions.copy_lesson(staff, lesson_id, starts_at=retest.starts_at, copy_id=copy_id)
    return Status(201, made)


class AnotherTest(Schema):
    test_id: UUID


class Added(Schema):
    id: UUID
    test: str


@router.post("/lessons/{lesson_id}/activities", response={201: Added})
def add_activity(request: HttpRequest, lesson_id: UUID, another: AnotherTest) -> Any:
    """Another test, decided on the spot."""
    made = actions.add_activity(signed_in_staff(request), lesson_id, another.test_id)
    return Status(201, {"id": made.id, "test": made.protocol.test.name})
