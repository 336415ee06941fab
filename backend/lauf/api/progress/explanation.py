"""Why a score is judged as it is, and notes set aside."""

from __future__ import annotations

from datetime import date
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.asker import asker
from lauf.api.lessons.scores import Lane
from lauf.api.progress.board import Aside
from lauf.api.shape import Schema
from lauf.progress import why
from lauf.records import actions
from lauf.rules.judging.attention import Need

router = Router(tags=["progress"])


class WhyStep(Schema):
    """One line of a working: what it is about, its words, and where it comes from."""

    what: str
    words: str
    source: str


class Why(Schema):
    """The working of a score, from what was typed to the next aim."""

    attempt_id: UUID
    pupil_id: UUID
    name: str
    test: str
    on: date
    shown: str
    words: list[str]
    lane: Lane | None
    steps: list[WhyStep]


@router.get("/attempts/{attempt_id}/why", response=Why)
def get_why(request: HttpRequest, attempt_id: UUID) -> dict[str, Any]:
    """Why a score stands where it does."""
    return why.why(asker(request), attempt_id)


class AsideEntry(Schema):
    """The note as it was read, and why it is all right."""

    words: str = Field(max_length=1000)
    why: str = Field(max_length=240)


@router.put("/pupils/{pupil_id}/notes/{need}", response=Aside)
def set_aside(
    request: HttpRequest, pupil_id: UUID, need: Need, entry: AsideEntry
) -> dict[str, Any]:
    """Set what the board notes of a child aside, with a reason."""
    kept = actions.set_aside(asker(request), pupil_id, need, entry.words, entry.why)
    return {"why": kept.why, "by": kept.by.name, "at": kept.at}


@router.delete("/pupils/{pupil_id}/notes/{need}", response={204: None})
def look_again(request: HttpRequest, pupil_id: UUID, need: Need) -> Any:
    """The note counts again."""
    actions.look_again(asker(request), pupil_id, need)
    return Status(204, None)
