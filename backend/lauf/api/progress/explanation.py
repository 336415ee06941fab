"""Why a score is judged as it is, and notes set aside."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.progress.board import Aside, aside_row
from lauf.progress.pupil import explanation
from lauf.progress.pupil.explanation import Why
from lauf.records import actions
from lauf.rules.judging.attention import Need

router = Router(tags=["progress"])


@router.get("/attempts/{attempt_id}/why", response=Why)
def get_why(request: HttpRequest, attempt_id: UUID) -> Why:
    """Why a score stands where it does."""
    return explanation.explain(signed_in_staff(request), attempt_id)


class AsideEntry(Schema):
    """The note as it was read, and why it is all right."""

    words: str = Field(max_length=1000)
    why: str = Field(max_length=240)


@router.put("/pupils/{pupil_id}/notes/{need}", response=Aside)
def set_aside(request: HttpRequest, pupil_id: UUID, need: Need, entry: AsideEntry) -> Aside:
    """Set what the board notes of a child aside, with a reason."""
    return aside_row(
        actions.set_aside(signed_in_staff(request), pupil_id, need, entry.words, entry.why)
    )


@router.delete("/pupils/{pupil_id}/notes/{need}", response={204: None})
def look_again(request: HttpRequest, pupil_id: UUID, need: Need) -> Any:
    """The note counts again."""
    actions.look_again(signed_in_staff(request), pupil_id, need)
    return Status(204, None)
