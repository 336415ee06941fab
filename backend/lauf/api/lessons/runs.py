"""The clocks of a test in a lesson."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.lessons import actions
from lauf.lessons.clock_state import RunRow, RunState

router = Router(tags=["lessons"])


@router.put("/activities/{activity_id}/runs/{run_id}", response=RunRow)
def report_run(request: HttpRequest, activity_id: UUID, run_id: UUID, state: RunState) -> Any:
    return actions.report_run(signed_in_staff(request), activity_id, run_id, state)
