"""Routes for batteries, courses and laps."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import Made
from lauf.catalogue import actions, courses, queries
from lauf.catalogue.queries.batteries import CourseRow
from lauf.errors import Refused
from lauf.messages import say
from lauf.rules.reading.rounding import fixed, whole

router = Router(tags=["catalogue"])


class CourseEntry(Schema):
    """A course by its lap as typed ("42m", "46 yd"), or by steps and the length of one."""

    name: str = Field(max_length=200)
    lap: str = Field("", max_length=40)
    steps: Annotated[float, Field(gt=0, le=20_000)] | None = None
    step_mm: Annotated[int, Field(ge=1, le=5000)] | None = None


class LapWish(Schema):
    """What to work out: a distance in laps; perhaps a time, or a try that was not finished."""

    distance: str = Field(say("1 mile"), max_length=40)
    lap: str = Field("", max_length=40)
    steps: Annotated[float, Field(gt=0, le=20_000)] | None = None
    step_mm: Annotated[int, Field(ge=1, le=5000)] | None = None
    time: str = Field("", max_length=200)
    done: str = Field("", max_length=40)


class StepSum(Schema):
    """Steps that were counted over a known distance."""

    known: str = Field(max_length=40)
    steps: float = Field(gt=0, le=20_000)


class StepAnswer(Schema):
    step_mm: int
    words: str


@router.get("/courses", response=list[CourseRow])
def list_courses(request: HttpRequest) -> list[CourseRow]:
    return queries.course_list(signed_in_staff(request))


@router.post("/courses", response={201: Made})
def make_course(request: HttpRequest, entry: CourseEntry) -> Any:
    lap_mm = 0 if entry.steps else courses.read_metres(entry.lap, "lap")
    made = actions.save_course(
        signed_in_staff(request), course_id=None, name=entry.name, lap_mm=lap_mm,
        steps=entry.steps, step_mm=entry.step_mm,
    )  # fmt: skip
    return Status(201, made)


@router.delete("/courses/{course_id}", response={204: None})
def delete_course(request: HttpRequest, course_id: UUID) -> Any:
    actions.delete_course(signed_in_staff(request), course_id)
    return Status(204, None)


@router.post("/laps", response=courses.LapSum)
def work_out_laps(request: HttpRequest, asked: LapWish) -> courses.LapSum:
    """Laps for a distance on a course; nothing is kept."""
    return courses.lap_sum(**asked.model_dump())


@router.post("/laps/step", response=StepAnswer)
def work_out_step(request: HttpRequest, asked: StepSum) -> StepAnswer:
    """How long a step is, from counting steps over a known distance; nothing is kept."""
    try:
        step = courses.step_from(asked.known, asked.steps)
    except ValueError as problem:
        raise Refused(str(problem)) from problem
    return StepAnswer(step_mm=whole(step), words=say("{step} cm a step", step=fixed(step / 10, 1)))
