"""Addresses of files."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from lauf.api.asker import asker
from lauf.exchange import queries

router = Router(tags=["exchange"])


@router.get("/activities/{activity_id}/scores.csv", url_name="scores_csv")
def get_scores_csv(request: HttpRequest, activity_id: UUID) -> HttpResponse:
    name, text = queries.scores_csv(asker(request), activity_id)
    answer = HttpResponse(text, content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer
