"""Addresses of children: who has the code of a class or a slip enters goes of a challenge."""

from __future__ import annotations

from typing import Annotated, Any, Final, NamedTuple, cast
from uuid import UUID

from django.core import signing
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Field, Query, Router, Status
from ninja.security import APIKeyCookie
from pydantic import AwareDatetime

from lauf.api.shape import Schema
from lauf.api.shared import taken_at
from lauf.challenges import actions
from lauf.challenges.queries import entering
from lauf.challenges.queries.entering import SLIP_SIGNS, Entrance, MyGoes, MyWeek
from lauf.messages import say
from lauf.progress.lesson.lanes import Reading
from lauf.web.doors.session import same_site
from lauf.web.throttling import code_door, secret_door

router = Router(tags=["entering"])
COOKIE: Final = "lauf_child"
#: Where the key is sent: nowhere else.
_PATH: Final = "/api/mine"
_CODE: Final = say("challenge code")
#: Days a device is known for: as long as a challenge can be open, and what is late.
_DAYS: Final = 32


class ChildKey(APIKeyCookie):
    """What a device came in by, signed, in a cookie that no script reads. As with a sign-in, a
    write needs the page's own token too."""

    param_name = COOKIE

    def authenticate(self, request: HttpRequest, key: str | None) -> Entrance | None:  # noqa: ARG002
        held = _held(key or "")
        return entering.entrance_of(*held, timezone.localdate()) if held else None


class _Held(NamedTuple):
    kind: str
    row_id: UUID


def _held(cookie: str) -> _Held | None:
    try:
        kind, row_id = signing.loads(cookie, salt=COOKIE, max_age=_DAYS * 24 * 3600)
        return _Held(str(kind), UUID(row_id))
    except (signing.BadSignature, ValueError, TypeError):
        return None


def child_key(entrance: Entrance) -> str:
    """What the cookie of a device says."""
    kind = "slip" if entrance.slip else "class"
    return signing.dumps([kind, str(entrance.id)], salt=COOKIE)


_with_key = ChildKey()


def _entrance(request: HttpRequest) -> Entrance:
    return cast("Entrance", request.auth)  # type: ignore[attr-defined]


class Opening(Schema):
    """The code of the class or of the slip."""

    code: str = Field(max_length=40)


class NewGo(Schema):
    """One go as typed. The id is the device's own; the same id twice is stored once. `counted_by`
    is the slip of the partner who counted."""

    id: UUID
    slip_id: UUID
    challenge_id: UUID
    typed: str = Field("", max_length=200)
    variant: str = Field("", max_length=20)
    made_at: AwareDatetime
    counted_by: UUID | None = None
    undone: bool = False


class EnteredGo(Schema):
    """`device_clock`: what is wrong with the clock of the device."""

    id: UUID
    state: str
    device_clock: str


@router.post("/mine", auth=None, response=MyWeek)
def open_my_week(request: HttpRequest, response: HttpResponse, given: Opening) -> MyWeek:
    same_site(request)
    is_slip = len(given.code.strip()) == SLIP_SIGNS
    with secret_door(request, _CODE) if is_slip else code_door(request, _CODE):
        entrance = entering.opened_by_children(given.code, timezone.localdate())
    response.set_cookie(
        COOKIE,
        child_key(entrance),
        max_age=_DAYS * 24 * 3600,
        path=_PATH,
        httponly=True,
        samesite="Strict",
        secure=request.is_secure(),
    )
    return entering.my_week(entrance)


@router.get("/mine", auth=_with_key, response=MyWeek)
def get_my_week(request: HttpRequest) -> MyWeek:
    return entering.my_week(_entrance(request))


@router.delete("/mine", auth=None, response={204: None})
def close_my_week(request: HttpRequest, response: HttpResponse) -> Any:
    """This device opens nothing any more."""
    same_site(request)
    response.delete_cookie(COOKIE, path=_PATH)
    return Status(204, None)


@router.get("/mine/challenges/{challenge_id}/reading", auth=_with_key, response=Reading)
def read_my_go(
    request: HttpRequest, challenge_id: UUID, typed: Annotated[str, Query(max_length=200)]
) -> Reading:
    return entering.go_reading(_entrance(request), challenge_id, typed)


@router.get("/mine/children/{slip_id}", auth=_with_key, response=MyGoes)
def get_my_goes(request: HttpRequest, slip_id: UUID) -> MyGoes:
    return entering.my_goes(_entrance(request), slip_id)


@router.post("/mine/goes", auth=_with_key, response=EnteredGo)
def enter_my_go(request: HttpRequest, new: NewGo) -> EnteredGo:
    """A go, or that it was undone."""
    entrance = _entrance(request)
    if new.undone:
        go = actions.undo_go(entrance, new.slip_id, new.id, timezone.now())
        return EnteredGo(id=go.id, state=go.state, device_clock="")
    made_at, device_clock = taken_at(new.made_at)
    go = actions.enter_go(
        entrance,
        new.slip_id,
        go_id=new.id,
        challenge_id=new.challenge_id,
        typed=new.typed,
        variant=new.variant,
        made_at=made_at,
        counted_by=new.counted_by,
    )
    return EnteredGo(id=go.id, state=go.state, device_clock=device_clock)
