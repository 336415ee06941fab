"""Routes for plans, stations and templates."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Path, Router, Status
from pydantic import Discriminator

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.lessons import actions, queries
from lauf.lessons.queries.plans import PlanPage
from lauf.lessons.queries.stations import StationsPage
from lauf.lessons.queries.templates import TemplateRow
from lauf.rules.planning.blocks import BlockEntry

router = Router(tags=["lessons"])


class Plan(Schema):
    """A plan as it was drawn up, on the revision it was drawn up from."""

    based_on: int = 0
    blocks: list[Annotated[BlockEntry, Discriminator("kind")]] = Field(max_length=60)


@router.get("/lessons/{lesson_id}/plan", response=PlanPage)
def get_plan(request: HttpRequest, lesson_id: UUID) -> PlanPage:
    return queries.plan_page(signed_in_staff(request), lesson_id)


@router.put("/lessons/{lesson_id}/plan", response=PlanPage)
def save_plan(request: HttpRequest, lesson_id: UUID, plan: Plan) -> PlanPage:
    staff = signed_in_staff(request)
    actions.save_plan(staff, lesson_id, based_on=plan.based_on, entries=plan.blocks)
    return queries.plan_page(staff, lesson_id)


@router.post("/lessons/{lesson_id}/plan/preview", response=PlanPage)
def preview_plan(request: HttpRequest, lesson_id: UUID, plan: Plan) -> PlanPage:
    """What a plan would take; nothing is kept."""
    return queries.plan_page(signed_in_staff(request), lesson_id, plan.blocks)


@router.post("/lessons/{lesson_id}/plan/order", response=PlanPage)
def propose_order(request: HttpRequest, lesson_id: UUID, plan: Plan) -> PlanPage:
    """The same blocks in a good order; nothing is kept."""
    return queries.in_good_order(signed_in_staff(request), lesson_id, plan.blocks)


@router.post("/lessons/{lesson_id}/plan/fit", response=PlanPage)
def propose_fit(request: HttpRequest, lesson_id: UUID, plan: Plan) -> PlanPage:
    """The same blocks fitted to the lesson's time; nothing is kept."""
    return queries.fitted(signed_in_staff(request), lesson_id, plan.blocks)


@router.get("/lessons/{lesson_id}/stations/{block}", response=StationsPage)
def get_stations(
    request: HttpRequest, lesson_id: UUID, block: Annotated[int, Path(ge=0, le=1000)]
) -> StationsPage:
    return queries.stations_page(signed_in_staff(request), lesson_id, block)


class TemplateChoice(Schema):
    code: str = Field(max_length=40)


class TemplateName(Schema):
    name: str = Field(max_length=120)


@router.get("/templates", response=list[TemplateRow])
def list_templates(request: HttpRequest) -> list[TemplateRow]:
    return queries.template_list(signed_in_staff(request))


@router.post("/lessons/{lesson_id}/plan/template", response=PlanPage)
def propose_template(request: HttpRequest, lesson_id: UUID, choice: TemplateChoice) -> PlanPage:
    """A template as this lesson's plan; nothing is kept."""
    return queries.from_template(signed_in_staff(request), lesson_id, choice.code)


@router.post("/lessons/{lesson_id}/template", response={201: list[TemplateRow]})
def save_template(request: HttpRequest, lesson_id: UUID, given: TemplateName) -> Any:
    staff = signed_in_staff(request)
    actions.save_template(staff, lesson_id, given.name)
    return Status(201, queries.template_list(staff))


@router.delete("/templates/{code}", response=list[TemplateRow])
def delete_template(request: HttpRequest, code: str) -> list[TemplateRow]:
    staff = signed_in_staff(request)
    actions.delete_template(staff, code)
    return queries.template_list(staff)
