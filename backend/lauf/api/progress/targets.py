"""Rep targets, and groups even in strength."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Query, Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.progress import groups, targets
from lauf.rules.planning.rotation import GroupsBy

router = Router(tags=["progress"])


class GroupProposal(Schema):
    """Groups for stations, as a plan's block takes them, and what they were made by."""

    how: str
    names: list[str]
    members: list[list[UUID]]
    words: str


class TargetChild(Schema):
    """One child in a rep target; `a_minute` is what is still needed for the next rung, `offered`
    what was counted before of the movement that is carried in, until it is."""

    pupil_id: UUID
    number: int
    name: str
    carried: int
    reps: list[int]
    total: int
    reason: str | None
    rung: str | None
    next_rung: str | None
    needed: int | None
    a_minute: str | None
    projected: int | None
    offered: int | None
    # Whether what is offered is a guess.
    offered_about: bool
    # Movements done at a higher level than ever before, in words.
    moved_up: list[str]


class TargetPage(Schema):
    activity_id: UUID
    seconds: int
    left: int
    names: list[str]
    carries: str
    # How many of the movement that is carried in were called to a beat: no more can be carried in.
    called: int | None
    # Easier, usual and harder reps are counted apart, and what one of each counts.
    apart: bool
    weights: str
    # Reps a second that nobody beats: more in the time that passed are asked about.
    most_a_second: float
    children: list[TargetChild]


class GroupWish(Schema):
    how: GroupsBy
    number: int = 4
    seed: int = Field(1, ge=0, le=2**31)
    test_id: UUID | None = None


@router.post("/lessons/{lesson_id}/plan/groups", response=GroupProposal)
def propose_groups(request: HttpRequest, lesson_id: UUID, wish: GroupWish) -> dict[str, Any]:
    """Groups of the class for stations; nothing is kept."""
    return groups.propose_groups(asker(request), lesson_id, **wish.model_dump())


@router.get("/activities/{activity_id}/target", response=TargetPage)
def get_target(
    request: HttpRequest, activity_id: UUID, elapsed: Annotated[int, Query(ge=0, le=86_400)] = 0
) -> dict[str, Any]:
    """A rep target after so many seconds."""
    return targets.target_page(asker(request), activity_id, elapsed)
