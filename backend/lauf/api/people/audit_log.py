"""Who changed what."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.people import queries
from lauf.people.queries.school import ChangeRow

router = Router(tags=["school"])


@router.get("/log", response=list[ChangeRow])
def get_log(
    request: HttpRequest, before: int | None = None, sensitive: bool = False
) -> list[ChangeRow]:
    """The newest lines of the log, or those before a line; all, or of sensitive things alone."""
    return queries.change_log(signed_in_staff(request), before, sensitive=sensitive)
