"""Routes for batteries as a grid."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.messages import and_list
from lauf.people.actions import look_at_class
from lauf.progress.lesson import grid
from lauf.progress.lesson.grid import BatteryGrid, SittingRow

router = Router(tags=["batteries"])


@router.get("/sittings", response=list[SittingRow])
def list_sittings(request: HttpRequest) -> list[SittingRow]:
    return grid.sittings(signed_in_staff(request))


@router.get("/lessons/{lesson_id}/grid", response=BatteryGrid)
def get_grid(
    request: HttpRequest, lesson_id: UUID, compared_with: UUID | None = None
) -> BatteryGrid:
    staff = signed_in_staff(request)
    found = grid.battery_grid(staff, lesson_id, compared_with)
    bodies = [test["test"] for test in found["tests"] if test["private"]]
    if bodies:
        look_at_class(staff, found["class_id"], found["class_name"], and_list(bodies))
    return found
