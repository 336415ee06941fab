"""Addresses of files, and of what reaches through all that is kept of a child."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any
from urllib.parse import quote
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Field, Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.exchange import actions, queries

router = Router(tags=["exchange"])
_XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def file_answer(name: str, content: str | bytes, kind: str) -> HttpResponse:
    """A file to keep, under its name."""
    answer = HttpResponse(content, content_type=kind)
    plain = "".join(c if c.isascii() and (c.isalnum() or c in " .-") else "-" for c in name)
    answer["Content-Disposition"] = (
        f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(name)}"
    )
    return answer


@router.get("/activities/{activity_id}/scores.csv", url_name="scores_csv")
def get_scores_csv(request: HttpRequest, activity_id: UUID) -> HttpResponse:
    return file_answer(*queries.scores_csv(asker(request), activity_id), "text/csv; charset=utf-8")


@router.get("/classes/{class_id}/scores.xlsx", url_name="class_xlsx")
def get_class_workbook(request: HttpRequest, class_id: UUID) -> HttpResponse:
    return file_answer(*queries.class_workbook(asker(request), class_id), _XLSX)


@router.get("/lessons/{lesson_id}/grid.xlsx", url_name="battery_xlsx")
def get_battery_workbook(request: HttpRequest, lesson_id: UUID) -> HttpResponse:
    return file_answer(*queries.battery_workbook(asker(request), lesson_id), _XLSX)


@router.get("/school/package.zip", url_name="school_package")
def get_package(request: HttpRequest) -> HttpResponse:
    """The whole school as a data package."""
    return file_answer(*queries.whole_school(asker(request)), "application/zip")


@router.get("/pupils/{pupil_id}/everything.zip", url_name="child_file")
def get_child_file(request: HttpRequest, pupil_id: UUID) -> HttpResponse:
    """All that is kept about one child."""
    return file_answer(*queries.child_file(asker(request), pupil_id), "application/zip")


class BackupRow(Schema):
    """A nightly backup; what is in it is kept until then."""

    name: str
    at: datetime
    bytes: int
    until: datetime


class Backups(Schema):
    files: list[BackupRow]
    # When the last of what is in them now is gone.
    last_until: datetime | None
    warning: str


@router.get("/school/backups", response=Backups)
def get_backups(request: HttpRequest) -> dict[str, Any]:
    return queries.backups(asker(request), timezone.now())


class DoubleChoice(Schema):
    """The record that becomes part of this one."""

    double_id: UUID


class MergeRow(Schema):
    """A double that was made part of a child's record."""

    id: UUID
    name: str
    at: datetime


@router.get("/pupils/{pupil_id}/doubles", response=list[MergeRow])
def list_doubles(request: HttpRequest, pupil_id: UUID) -> list[dict[str, Any]]:
    return actions.merges_of(asker(request), pupil_id)


@router.post("/pupils/{pupil_id}/doubles", response=list[MergeRow])
def merge(request: HttpRequest, pupil_id: UUID, choice: DoubleChoice) -> list[dict[str, Any]]:
    """Two records of one child become one."""
    staff = asker(request)
    actions.merge_pupils(staff, pupil_id, choice.double_id)
    return actions.merges_of(staff, pupil_id)


@router.delete("/merges/{merge_id}", response={200: MergeRow})
def part(request: HttpRequest, merge_id: UUID) -> dict[str, Any]:
    """They are two again."""
    double = actions.part_pupils(asker(request), merge_id)
    return {"id": double.id, "name": double.name, "at": timezone.now()}


class Erased(Schema):
    """How many entries went, or stay as numbers of nobody; until when backups still hold them."""

    entries: int
    stay: bool
    backups_until: datetime | None


@router.post("/pupils/{pupil_id}/erase", response=Erased)
def erase(request: HttpRequest, pupil_id: UUID) -> dict[str, Any]:
    """Everything that says who a child was goes for good."""
    staff = asker(request)
    erased = actions.erase_pupil(staff, pupil_id)
    until = queries.backups(staff, timezone.now())["last_until"]
    return {**erased._asdict(), "backups_until": until}


class DueLeaver(Schema):
    id: UUID
    name: str
    left_on: date
    left_from: str


@router.get("/school/leavers-due", response=list[DueLeaver])
def leavers_due(request: HttpRequest) -> list[dict[str, Any]]:
    """Leavers whose record was kept as long as the school keeps one."""
    found = actions.due_to_go(asker(request), timezone.localdate())
    return [
        {"id": one.id, "name": one.name, "left_on": one.left_on, "left_from": str(one.left_from)}
        for one in found
    ]


class LeaverChoice(Schema):
    pupil_ids: list[UUID] = Field(max_length=1000)


class Count(Schema):
    number: int


@router.post("/school/leavers-due", response=Count)
def erase_due(request: HttpRequest, choice: LeaverChoice) -> dict[str, int]:
    """Erase those that were shown."""
    staff = asker(request)
    return {"number": actions.erase_due(staff, choice.pupil_ids, timezone.localdate())}
