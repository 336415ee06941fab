"""Backups, and children who are erased."""

from __future__ import annotations

from datetime import date, datetime
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.exchange import actions, queries
from lauf.exchange.queries.backups import Backups
from lauf.exchange.queries.server import Server

router = Router(tags=["exchange"])


@router.get("/school/backups", response=Backups)
def get_backups(request: HttpRequest) -> Backups:
    return queries.backups(signed_in_staff(request), timezone.now())


@router.get("/school/server", response=Server)
def get_server(request: HttpRequest) -> Server:
    return queries.server(signed_in_staff(request), timezone.now())


class Erased(Schema):
    """How many entries went, or stay as numbers of nobody; until when backups still hold them."""

    entries: int
    stay: bool
    backups_until: datetime | None


@router.post("/pupils/{pupil_id}/erase", response=Erased)
def erase(request: HttpRequest, pupil_id: UUID) -> Erased:
    """Everything that says who a child was goes for good."""
    staff = signed_in_staff(request)
    erased = actions.erase_pupil(staff, pupil_id)
    until = queries.backups(staff, timezone.now())["last_until"]
    return Erased(entries=erased.entries, stay=erased.stay, backups_until=until)


class DueLeaver(Schema):
    id: UUID
    name: str
    left_on: date
    left_from: str


@router.get("/school/leavers-due", response=list[DueLeaver])
def leavers_due(request: HttpRequest) -> list[DueLeaver]:
    """Leavers whose record was kept as long as the school keeps one."""
    found = actions.due_to_go(signed_in_staff(request), timezone.localdate())
    return [
        DueLeaver(id=one.id, name=one.name, left_on=one.left_on, left_from=str(one.left_from))
        for one in found
        if one.left_on is not None
    ]


class LeaverChoice(Schema):
    pupil_ids: list[UUID] = Field(max_length=1000)


class Count(Schema):
    number: int


@router.post("/school/leavers-due", response=Count)
def erase_due(request: HttpRequest, choice: LeaverChoice) -> dict[str, int]:
    """Erase those that were shown."""
    staff = signed_in_staff(request)
    return {"number": actions.erase_due(staff, choice.pupil_ids, timezone.localdate())}
