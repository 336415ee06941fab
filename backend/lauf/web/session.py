"""Signing in and out, and creating the first school."""

from __future__ import annotations

import hmac
import time
from typing import Annotated, Any, Final
from uuid import UUID

from axes.handlers.proxy import AxesProxyHandler
from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.db import transaction
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.csrf import ensure_csrf_cookie
from ninja import Field, Router, Schema
from ninja.decorators import decorate_view
from ninja.errors import HttpError
from ninja.utils import check_csrf

from lauf.api.asker import asker
from lauf.catalogue.actions import install_ready
from lauf.demo.school import DEMO_SIGN_INS
from lauf.errors import Refused
from lauf.people.actions import (
    change_password,
    end_sessions,
    hashed_password,
    invited,
    set_up_school,
    welcome,
)
from lauf.people.models import School, Staff
from lauf.people.queries import setup_needed
from lauf.web.doors import LOCKED_OUT, code_door, hashing, make_known, sign_in_door

router = Router(tags=["session"])
_BACKEND: Final = "lauf.web.doors.PasswordBackend"


def locked_out(*_: Any, **__: Any) -> JsonResponse:
    """What axes answers to the wrong password that locks a name out."""
    return JsonResponse({"message": LOCKED_OUT}, status=429)


class Person(Schema):
    id: UUID
    name: str
    role: str
    school: str
    may_see_growth: bool


class DemoSignIn(Schema):
    username: str
    password: str
    who: str


class Session(Schema):
    person: Person | None
    setup_needed: bool
    # Whether simulated belts and gates can be switched on.
    stand_ins: bool
    demo_sign_ins: list[DemoSignIn]
    # The server's clock, which all devices keep to: milliseconds since 1970.
    now_ms: int


Password = Annotated[str, Field(max_length=256)]


class SignIn(Schema):
    username: str = Field(max_length=200)
    password: Password


class SetUp(Schema):
    setup_code: str = Field(max_length=100)
    school_name: str = Field(max_length=200)
    name: str = Field(max_length=200)
    username: str = Field(max_length=200)
    password: Password


def _session(request: HttpRequest) -> dict[str, Any]:
    staff = request.user if isinstance(request.user, Staff) else None
    shown = settings.SHOW_DEMO and staff is None
    return {
        "person": {
            "id": staff.id,
            "name": staff.name,
            "role": staff.role,
            "school": staff.school.name,
            "may_see_growth": staff.may_see_growth,
        }
        if staff
        else None,
        "setup_needed": staff is None and setup_needed(),
        "demo_sign_ins": DEMO_SIGN_INS if shown else [],
        "stand_ins": settings.DEMO,
        "now_ms": round(time.time() * 1000),
    }


def _same_site(request: HttpRequest) -> None:
    """These addresses work before sign-in, so the API's own CSRF check does not cover them."""
    if check_csrf(request):
        raise HttpError(403, "Reload the page and try again.")


@router.get("/session", auth=None, response=Session)
@decorate_view(ensure_csrf_cookie)
def get_session(request: HttpRequest) -> dict[str, Any]:
    return _session(request)


@router.post("/session", auth=None, response=Session)
def sign_in(request: HttpRequest, response: HttpResponse, given: SignIn) -> dict[str, Any]:
    _same_site(request)
    credentials = {"username": given.username.strip(), "password": given.password}
    with sign_in_door(request, credentials["username"]):
        if not AxesProxyHandler.is_allowed(request, credentials):
            raise HttpError(429, LOCKED_OUT)
        person = authenticate(request, **credentials)
        if person is None:
            raise HttpError(401, "That user name and password do not go together.")
    _begin(request, response, person)
    return _session(request)


def _begin(request: HttpRequest, response: HttpResponse, person: Staff) -> None:
    """Sign somebody in, always under a new session's key: one that was known before is worth
    nothing."""
    login(request, person, backend=_BACKEND)
    request.session.cycle_key()
    make_known(request, response, person.get_username())


@router.delete("/session", response=Session)
def sign_out(request: HttpRequest) -> dict[str, Any]:
    logout(request)
    return _session(request)


class Link(Schema):
    token: str = Field(max_length=100)


class WelcomeEntry(Link):
    password: Password


class Welcome(Schema):
    """Whom a link lets in."""

    name: str
    username: str
    school: str


@router.post("/welcome", auth=None, response=Welcome)
def look_at_link(request: HttpRequest, link: Link) -> dict[str, Any]:
    """Whose link it is; nothing is taken up yet."""
    _same_site(request)
    with code_door(request, "link"):
        person = invited(link.token)
    return {"name": person.name, "username": person.username, "school": person.school.name}


@router.put("/welcome", auth=None, response=Session)
def take_up_link(
    request: HttpRequest, response: HttpResponse, entry: WelcomeEntry
) -> dict[str, Any]:
    """Set one's own password by a link, once, and be signed in."""
    _same_site(request)
    with code_door(request, "link"):
        person = invited(entry.token)
    with hashing():
        password = hashed_password(entry.password, person)
    person = welcome(entry.token, password)
    _begin(request, response, person)
    return _session(request)


class PasswordChange(Schema):
    old: Password
    new: Password


@router.put("/session/password", response=Session)
def set_own_password(
    request: HttpRequest, response: HttpResponse, change: PasswordChange
) -> dict[str, Any]:
    """One's own password; every other session of one's own ends."""
    staff = asker(request)
    with sign_in_door(request, staff.username):
        with hashing():
            good = staff.check_password(change.old)
        if not good:
            raise HttpError(422, "That is not your password of now.")
    with hashing():
        password = hashed_password(change.new, staff)
    _begin(request, response, change_password(staff, password))
    return _session(request)


@router.delete("/session/others", response=Session)
def end_other_sessions(request: HttpRequest, response: HttpResponse) -> dict[str, Any]:
    """Sign out everywhere but here."""
    _begin(request, response, end_sessions(asker(request)))
    return _session(request)


@router.post("/setup", auth=None, response=Session)
def set_up(request: HttpRequest, response: HttpResponse, given: SetUp) -> dict[str, Any]:
    """Create the first school and its head of PE, who is then signed in."""
    _same_site(request)
    code = settings.SETUP_CODE
    with code_door(request, "set-up code"):
        if not code or not hmac.compare_digest(given.setup_code.strip().encode(), code.encode()):
            raise Refused("The set-up code is the one printed in the terminal by ./lauf start.")
    fields = given.dict(exclude={"setup_code", "password"})
    with hashing():
        person = Staff(
            school=School(name=given.school_name), name=given.name, username=given.username
        )
        password = hashed_password(given.password, person)
    with transaction.atomic():
        staff = set_up_school(**fields, password=password)
        install_ready(staff.school)
    _begin(request, response, staff)
    return _session(request)
