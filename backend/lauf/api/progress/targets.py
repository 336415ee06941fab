"""Rep targets, and groups even in strength."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Query, Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.progress.lesson import groups, targets
from lauf.progress.lesson.groups import GroupProposal
from lauf.progress.lesson.targets import TargetPage
from lauf.rules.planning.rotation import GroupsBy

router = Router(tags=["progress"])


class GroupWish(Schema):
    how: GroupsBy
    number: int = 4
    seed: int = Field(1, ge=0, le=2**31)
    test_id: UUID | None = None


@router.post("/lessons/{lesson_id}/plan/groups", response=GroupProposal)
def propose_groups(request: HttpRequest, lesson_id: UUID, wish: GroupWish) -> GroupProposal:
    """Groups of the class for stations; nothing is kept."""
    return groups.propose_groups(signed_in_staff(request), lesson_id, **wish.model_dump())


@router.get("/activities/{activity_id}/target", response=TargetPage)
def get_target(
    request: HttpRequest, activity_id: UUID, elapsed: Annotated[int, Query(ge=0, le=86_400)] = 0
) -> TargetPage:
    """A rep target after so many seconds."""
    return targets.target_page(signed_in_staff(request), activity_id, elapsed)
