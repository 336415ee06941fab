"""Two records of one child: merged, and parted again."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.exchange import actions
from lauf.exchange.actions.merging import MergeRow

router = Router(tags=["exchange"])


class DoubleChoice(Schema):
    """The record that becomes part of this one."""

    double_id: UUID


@router.get("/pupils/{pupil_id}/doubles", response=list[MergeRow])
def list_doubles(request: HttpRequest, pupil_id: UUID) -> list[MergeRow]:
    return actions.merges_of(signed_in_staff(request), pupil_id)


@router.post("/pupils/{pupil_id}/doubles", response=list[MergeRow])
def merge(request: HttpRequest, pupil_id: UUID, choice: DoubleChoice) -> list[MergeRow]:
    """Two records of one child become one."""
    staff = signed_in_staff(request)
    actions.merge_pupils(staff, pupil_id, choice.double_id)
    return actions.merges_of(staff, pupil_id)


@router.delete("/merges/{merge_id}", response={200: MergeRow})
def part(request: HttpRequest, merge_id: UUID) -> MergeRow:
    """They are two again."""
    double = actions.part_pupils(signed_in_staff(request), merge_id)
    return {"id": double.id, "name": double.name, "at": timezone.now()}
