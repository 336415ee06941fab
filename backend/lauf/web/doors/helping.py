"""Addresses of helpers: who has the code of a lesson opens it, and holds a key of their own."""

from __future__ import annotations

from typing import Annotated, Any, Final, cast
from uuid import UUID

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Field, Query, Router, Status
from ninja.security import APIKeyCookie
from pydantic import AwareDatetime

from lauf.api.shape import Schema
from lauf.api.shared import Followed, taken_at
from lauf.errors import NotFound
from lauf.lessons import actions as lessons
from lauf.lessons.models import Helper
from lauf.messages import say
from lauf.progress.lesson import helping, lanes
from lauf.progress.lesson.helping import Entered, HelpedLesson
from lauf.progress.lesson.lanes import Reading
from lauf.records import actions
from lauf.records.models import Recount
from lauf.web.doors.session import same_site
from lauf.web.throttling import code_door, secret_door

router = Router(tags=["helping"])
COOKIE: Final = "lauf_helper"
#: Where the key is sent: nowhere else.
_PATH: Final = "/api/help"
_CODE: Final = say("helper code")
#: Letters of a code that is typed; what is longer is the secret of the square.
_TYPED: Final = 12


class HelperKey(APIKeyCookie):
    """The key of a helper's device, in a cookie that no script reads. As with a sign-in, a write
    needs the page's own token too."""

    param_name = COOKIE

    def authenticate(self, request: HttpRequest, key: str | None) -> Helper | None:  # noqa: ARG002
        return lessons.helper_by(key, timezone.now()) if key else None


_with_key = HelperKey()


def _helper(request: HttpRequest) -> Helper:
    return cast("Helper", request.auth)  # type: ignore[attr-defined]


class Joining(Schema):
    """The code that is read out, or the secret of the square; and what the helper is called."""

    code: str = Field(max_length=60)
    name: str = Field(max_length=80)


class HelperAttempt(Schema):
    """One entry as typed. The id is the device's own; the same id twice is stored once."""

    id: UUID
    pupil_id: UUID
    typed: str = Field("", max_length=200)
    variant: str = ""
    try_number: int = Field(1, ge=1, le=16)
    recorded_at: AwareDatetime
    withdrawn: bool = False
    # Who counted it on this device before this helper came in, in the same lesson.
    counted_by: UUID | None = None


class EnteredAt(Entered):
    """`device_clock`: what is wrong with the clock of the device."""

    device_clock: str


@router.post("/help", auth=None, response=HelpedLesson)
def join(request: HttpRequest, response: HttpResponse, given: Joining) -> HelpedLesson:
    same_site(request)
    now, name = timezone.now(), lessons.called(given.name)
    is_typed = len(given.code.strip()) <= _TYPED
    with code_door(request, _CODE) if is_typed else secret_door(request, _CODE):
        joined = lessons.join(given.code, name, now)
    response.set_cookie(
        COOKIE,
        joined.key,
        max_age=lessons.HOURS * 3600,
        path=_PATH,
        httponly=True,
        samesite="Strict",
        secure=request.is_secure(),
    )
    helper = lessons.helper_by(joined.key, now)
    if helper is None:
        raise NotFound(say("code"))
    return helping.helped_lesson(helper)


@router.get("/help", auth=_with_key, response=HelpedLesson)
def get_helped_lesson(request: HttpRequest) -> HelpedLesson:
    return helping.helped_lesson(_helper(request))


@router.get("/help/live", auth=_with_key, response=Followed)
def follow_as_helper(request: HttpRequest) -> Followed:
    """The lesson whose events a helper may follow: `live` goes on as a stream."""
    return {"lesson_id": _helper(request).lesson_id}


@router.delete("/help", auth=_with_key, response={204: None})
def leave(request: HttpRequest, response: HttpResponse) -> Any:
    lessons.leave(_helper(request), timezone.now())
    response.delete_cookie(COOKIE, path=_PATH)
    return Status(204, None)


@router.get("/help/activities/{activity_id}/reading", auth=_with_key, response=Reading)
def read_for_helper(
    request: HttpRequest, activity_id: UUID, typed: Annotated[str, Query(max_length=200)]
) -> Reading:
    return helping.helper_reading(_helper(request), activity_id, typed)


@router.post("/help/activities/{activity_id}/attempts", auth=_with_key, response=EnteredAt)
def record_for_helper(request: HttpRequest, activity_id: UUID, new: HelperAttempt) -> EnteredAt:
    helper = _helper(request)
    fields = new.model_dump()
    fields["recorded_at"], device_clock = taken_at(new.recorded_at)
    with transaction.atomic():
        taken = helping.test_in_turn(helper, activity_id)
        kept = actions.record_for_helper(helper, taken, attempt_id=fields.pop("id"), **fields)
        # What is to be asked of it is asked, as of the teacher's own.
        child = lanes.child_after(taken, new.pupil_id)
        odd = not isinstance(kept, Recount) and any(not one["settled"] for one in child["flags"])
        answer = helping.entered(taken, kept, odd=odd)
    return {**answer, "device_clock": device_clock}
