"""Batteries: several tests that are taken together."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import Made
from lauf.catalogue import actions, queries
from lauf.catalogue.queries.batteries import BatteryRow

router = Router(tags=["catalogue"])


class NewBattery(Schema):
    name: str = Field(max_length=200)
    test_ids: list[UUID] = Field(max_length=40)


@router.get("/batteries", response=list[BatteryRow])
def list_batteries(request: HttpRequest) -> list[BatteryRow]:
    return queries.battery_list(signed_in_staff(request))


@router.post("/batteries", response={201: Made})
def make_battery(request: HttpRequest, new: NewBattery) -> Any:
    return Status(201, actions.make_battery(signed_in_staff(request), new.name, new.test_ids))
