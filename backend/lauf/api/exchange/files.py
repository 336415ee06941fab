"""Routes for files, and of what reaches through all that is kept of a child."""

from __future__ import annotations

from urllib.parse import quote
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.exchange import queries

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
    return file_answer(
        *queries.scores_csv(signed_in_staff(request), activity_id), "text/csv; charset=utf-8"
    )


@router.get("/classes/{class_id}/scores.xlsx", url_name="class_xlsx")
def get_class_workbook(request: HttpRequest, class_id: UUID) -> HttpResponse:
    return file_answer(*queries.class_workbook(signed_in_staff(request), class_id), _XLSX)


@router.get("/lessons/{lesson_id}/grid.xlsx", url_name="battery_xlsx")
def get_battery_workbook(request: HttpRequest, lesson_id: UUID) -> HttpResponse:
    return file_answer(*queries.battery_workbook(signed_in_staff(request), lesson_id), _XLSX)


@router.get("/school/package.zip", url_name="school_package")
def get_package(request: HttpRequest) -> HttpResponse:
    """The whole school as a data package."""
    return file_answer(*queries.whole_school(signed_in_staff(request)), "application/zip")


@router.get("/pupils/{pupil_id}/everything.zip", url_name="child_file")
def get_child_file(request: HttpRequest, pupil_id: UUID) -> HttpResponse:
    """All that is kept about one child."""
    return file_answer(*queries.child_file(signed_in_staff(request), pupil_id), "application/zip")
