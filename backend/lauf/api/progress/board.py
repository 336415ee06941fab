"""Routes for a class over all its tests: the board, why, what a lesson found, what is next."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.people.shapes import Day
from lauf.progress import board
from lauf.progress.board import ClassBoard
from lauf.rules.planning.school_days import Span

router = Router(tags=["progress"])


@router.get("/classes/{class_id}/board", response=ClassBoard)
def get_board(
    request: HttpRequest, class_id: UUID, since: Day | None = None, until: Day | None = None,
    beside_since: Day | None = None, beside_until: Day | None = None,
) -> ClassBoard:  # fmt: skip
    """A class over all its tests of these days, of the term of today if none are named; beside the
    scores before, or those of other days."""
    today = timezone.localdate()
    span = Span(since, until or today) if since else None
    beside = Span(beside_since, beside_until) if beside_since and beside_until else None
    return board.class_board(signed_in_staff(request), class_id, today, span, beside)
