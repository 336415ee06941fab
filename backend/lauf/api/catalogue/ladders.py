"""Routes for ladders and norm tables."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import Made, Sex
from lauf.catalogue import actions
from lauf.catalogue.queries.ladders import RungEntry

router = Router(tags=["benchmarks"])


class LadderEntry(Schema):
    """A ladder as typed: for a year group or for ages, perhaps one sex. Ranges as printed come
    before the rungs; a clock or course of its own is said where it is not the test's."""

    year_group_id: UUID | None = None
    ages: tuple[int, int] | None = None
    sex: Sex | Literal[""] = ""
    variant: str = Field("", max_length=20)
    source: str = Field("", max_length=120)
    rungs: list[RungEntry] = Field(max_length=20)
    printed: str = Field("", max_length=400)
    seconds: Annotated[int, Field(ge=1, le=7200)] | None = None
    course: str = Field("", max_length=40)


class Copies(Schema):
    year_group_ids: list[UUID] = Field(max_length=30)


@router.post("/tests/{test_id}/ladders", response={201: Made})
def make_ladder(request: HttpRequest, test_id: UUID, entry: LadderEntry) -> Any:
    made = actions.save_ladder(
        signed_in_staff(request), test_id, ladder_id=None, **entry.model_dump()
    )
    return Status(201, made)


@router.put("/tests/{test_id}/ladders/{ladder_id}", response=Made)
def change_ladder(request: HttpRequest, test_id: UUID, ladder_id: UUID, entry: LadderEntry) -> Any:
    return actions.save_ladder(
        signed_in_staff(request), test_id, ladder_id=ladder_id, **entry.model_dump()
    )


@router.delete("/ladders/{ladder_id}", response={204: None})
def delete_ladder(request: HttpRequest, ladder_id: UUID) -> Any:
    actions.delete_ladder(signed_in_staff(request), ladder_id)
    return Status(204, None)


@router.post("/ladders/{ladder_id}/copy", response=list[Made])
def copy_ladder(request: HttpRequest, ladder_id: UUID, copies: Copies) -> Any:
    return actions.copy_ladder(signed_in_staff(request), ladder_id, copies.year_group_ids)
