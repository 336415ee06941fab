"""Routes for the conductor: timeline, state, what was done, beeps."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.lessons import actions, queries
from lauf.lessons.conductor import ConductState, state_of
from lauf.lessons.queries.hall import DoneRow, RunSheet, TimelinePage

router = Router(tags=["lessons"])


@router.get("/lessons/{lesson_id}/timeline", response=TimelinePage)
def get_timeline(request: HttpRequest, lesson_id: UUID, fresh: bool = False) -> TimelinePage:
    """What the conductor goes by; `fresh` asks for the plan as it stands, to begin with it."""
    return queries.lesson_timeline(signed_in_staff(request), lesson_id, fresh=fresh)


@router.get("/lessons/{lesson_id}/conduct", response=ConductState | None)
def get_conduct(request: HttpRequest, lesson_id: UUID) -> ConductState | None:
    return queries.conduct_state(queries.lesson_of(signed_in_staff(request), lesson_id))


@router.put("/lessons/{lesson_id}/conduct", response=ConductState)
def report_conduct(request: HttpRequest, lesson_id: UUID, state: ConductState) -> ConductState:
    return state_of(actions.report_conduct(signed_in_staff(request), lesson_id, state))


@router.get("/lessons/{lesson_id}/record", response=list[DoneRow])
def get_record(request: HttpRequest, lesson_id: UUID) -> list[DoneRow]:
    """What was really done in a conducted lesson."""
    return queries.conduct_record(signed_in_staff(request), lesson_id)


@router.get("/activities/{activity_id}/beeps", response=RunSheet)
def get_beeps(request: HttpRequest, activity_id: UUID) -> RunSheet:
    return queries.run_sheet(signed_in_staff(request), activity_id)
