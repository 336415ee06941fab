"""Hands and steps measured against a tape."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.records import actions

router = Router(tags=["scores"])


class NewCalibration(Schema):
    """So many hands or steps over a known distance, of a child or a class."""

    class_id: UUID | None = None
    pupil_id: UUID | None = None
    unit: str = Field(max_length=12)
    known: str = Field(max_length=40)
    counted: float = Field(gt=0, le=10_000)


class CalibrationRow(Schema):
    unit: str
    millimetres: float


@router.post("/calibrations", response={201: CalibrationRow})
def calibrate(request: HttpRequest, new: NewCalibration) -> Any:
    return Status(201, actions.calibrate(signed_in_staff(request), **new.model_dump()))
