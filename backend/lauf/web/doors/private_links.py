"""Addresses that open without a sign-in to who has a secret: a child's own page, a calendar."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Path, Router

from lauf.api.exchange.files import file_answer
from lauf.exchange import queries
from lauf.messages import say
from lauf.people.actions import calendar_owner, opened_by
from lauf.progress.pupil.own_page import OwnPage, own_page
from lauf.web.throttling import secret_door

router = Router()
Secret = Annotated[str, Path(max_length=100)]


@router.get("/own/{code}", auth=None, response=OwnPage, tags=["progress"])
def get_own_by_code(request: HttpRequest, code: Secret) -> OwnPage:
    """The child's own page, for who has its code."""
    with secret_door(request, "code"):
        pupil, staff = opened_by(code, timezone.now())
    return own_page(pupil, staff, timezone.localdate())


@router.get("/calendar/{token}.ics", auth=None, url_name="calendar", tags=["exchange"])
def get_calendar(request: HttpRequest, token: Secret) -> HttpResponse:
    """Somebody's lessons, for who has their private address."""
    with secret_door(request, say("calendar address")):
        staff = calendar_owner(token)
    return file_answer(
        "lessons.ics", queries.lessons_calendar(staff, timezone.now()), "text/calendar"
    )
