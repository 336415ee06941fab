"""A battery given to a class."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import Made
from lauf.lessons import actions

router = Router(tags=["lessons"])


class Sitting(Schema):
    class_id: UUID


@router.post("/batteries/{battery_id}/sittings", response={201: Made})
def start_sitting(request: HttpRequest, battery_id: UUID, given: Sitting) -> Any:
    return Status(201, actions.start_sitting(signed_in_staff(request), battery_id, given.class_id))
