"""Who changed what."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.http import HttpRequest
from ninja import Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.people import queries

router = Router(tags=["school"])


class ChangeRow(Schema):
    """One line of the school's log: who changed what."""

    id: int
    at: datetime
    by: str
    what: str
    words: str


@router.get("/log", response=list[ChangeRow])
def get_log(
    request: HttpRequest, before: int | None = None, sensitive: bool = False
) -> list[dict[str, Any]]:
    """The newest lines of the log, or those before a line; all, or of sensitive things alone."""
    return queries.change_log(asker(request), before, sensitive=sensitive)
