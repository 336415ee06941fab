"""Children: their details, and what they are kept from."""

from __future__ import annotations

from typing import Any, Literal
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import ClassChoice, Made, Sex
from lauf.people import actions
from lauf.people.models import Pupil
from lauf.people.queries.classes import ExclusionRow
from lauf.people.shapes import Day

router = Router(tags=["people"])


class CareEntry(Schema):
    """What the family has said to height and weight, and what the child is not to do."""

    measuring: Pupil.Consent
    exclusions: list[ExclusionRow] = Field(max_length=10)


@router.put("/pupils/{pupil_id}/care", response=Made)
def set_care(request: HttpRequest, pupil_id: UUID, entry: CareEntry) -> Any:
    exclusions = {one["what"]: one.get("until") for one in entry.exclusions}
    return actions.set_care(
        signed_in_staff(request), pupil_id, measuring=entry.measuring, exclusions=exclusions
    )


class PupilEntry(Schema):
    """What is known about a child. `sure` keeps a birth date or a double that was asked about."""

    given: str = Field(max_length=100)
    family: str = Field("", max_length=100)
    born: Day | None = None
    sex: Sex | Literal[""] = ""
    house_id: UUID | None = None
    note: str = Field("", max_length=240)
    number: str = Field("", max_length=40)
    sure: bool = False


@router.post("/classes/{class_id}/pupils", response={201: Made})
def add_pupil(request: HttpRequest, class_id: UUID, entry: PupilEntry) -> Any:
    return Status(201, actions.add_pupil(signed_in_staff(request), class_id, **entry.model_dump()))


@router.put("/pupils/{pupil_id}/details", response=Made)
def change_pupil(request: HttpRequest, pupil_id: UUID, entry: PupilEntry) -> Any:
    return actions.change_pupil(signed_in_staff(request), pupil_id, **entry.model_dump())


@router.post("/pupils/{pupil_id}/move", response=Made)
def move_pupil(request: HttpRequest, pupil_id: UUID, choice: ClassChoice) -> Any:
    """Into another class, or back after having left."""
    return actions.move(signed_in_staff(request), pupil_id, choice.class_id)


@router.post("/pupils/{pupil_id}/leave", response=Made)
def leave(request: HttpRequest, pupil_id: UUID) -> Any:
    return actions.leave(signed_in_staff(request), pupil_id, on=timezone.localdate())
