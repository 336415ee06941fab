"""Routes for the helpers of a lesson, as its teacher sees them."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shared import qr_of
from lauf.lessons import actions
from lauf.progress.lesson.helping import HelpersPage, helpers_page

router = Router(tags=["helpers"])


class HelpersAnswer(HelpersPage):
    """`address` opens the lesson on a helper's device; `qr` is the square of it, as a picture. Both
    empty while the lesson is not open to helpers."""

    address: str
    qr: str


def _answer(request: HttpRequest, page: HelpersPage) -> HelpersAnswer:
    if page["secret"] is None:
        return {**page, "address": "", "qr": ""}
    # After the number sign: it stands in no log.
    address = request.build_absolute_uri(f"/help#{page['secret']}")
    return {**page, "address": address, "qr": qr_of(address)}


@router.get("/lessons/{lesson_id}/helpers", response=HelpersAnswer)
def get_helpers(request: HttpRequest, lesson_id: UUID) -> HelpersAnswer:
    return _answer(request, helpers_page(signed_in_staff(request), lesson_id, timezone.now()))


@router.post("/lessons/{lesson_id}/helpers", response=HelpersAnswer)
def open_to_helpers(request: HttpRequest, lesson_id: UUID) -> HelpersAnswer:
    staff, now = signed_in_staff(request), timezone.now()
    actions.open_to_helpers(staff, lesson_id, now)
    return _answer(request, helpers_page(staff, lesson_id, now))


@router.delete("/lessons/{lesson_id}/helpers", response=HelpersAnswer)
def close_to_helpers(request: HttpRequest, lesson_id: UUID) -> HelpersAnswer:
    staff = signed_in_staff(request)
    actions.close_to_helpers(staff, lesson_id)
    return _answer(request, helpers_page(staff, lesson_id, timezone.now()))


@router.delete("/lessons/{lesson_id}/helpers/{helper_id}", response=HelpersAnswer)
def end_helper(request: HttpRequest, lesson_id: UUID, helper_id: UUID) -> HelpersAnswer:
    staff, now = signed_in_staff(request), timezone.now()
    actions.end_helper(staff, lesson_id, helper_id, now)
    return _answer(request, helpers_page(staff, lesson_id, now))
