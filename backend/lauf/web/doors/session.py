"""Signing in and out, and creating the first school."""

from __future__ import annotations

import base64
import hmac
import time
from typing import Annotated, Any, Final
from uuid import UUID

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from django.views.decorators.csrf import ensure_csrf_cookie
from ninja import Field, Router
from ninja.decorators import decorate_view
from ninja.errors import HttpError
from ninja.security import django_auth
from ninja.utils import check_csrf

from lauf.api.shape import Schema
from lauf.catalogue.actions import install_ready
from lauf.demo.school import DEMO_SIGN_INS, DemoSignIn
from lauf.errors import Denied, Refused
from lauf.exchange.actions import read_package
from lauf.messages import say
from lauf.people.actions import (
    WRONG_CODE,
    has_second_factor,
    invited,
    set_up_school,
    use_code,
    welcome,
)
from lauf.people.models import School, Staff
from lauf.people.queries import setup_needed
from lauf.people.usernames import folded
from lauf.web.doors.devices import is_tablet, remember
from lauf.web.hashing import hashed
from lauf.web.throttling import code_door, make_known, secret_door, sign_in_door

router = Router(tags=["session"])
_BACKEND: Final = "lauf.web.hashing.PasswordBackend"


class Person(Schema):
    id: UUID
    name: str
    role: str
    school: str
    may_see_growth: bool
    # Everybody in this school has a second factor, and this person is still to set theirs up.
    factor_missing: bool


class Session(Schema):
    person: Person | None
    setup_needed: bool
    # The password was right; the code of the second factor is still to come.
    code_needed: bool = False
    # Whether simulated belts and gates can be switched on.
    stand_ins: bool
    demo_sign_ins: list[DemoSignIn]
    # The server's clock, which all devices keep to: milliseconds since 1970.
    now_ms: int


Password = Annotated[str, Field(max_length=256)]


class SignIn(Schema):
    """`code` is of the second factor, or one on paper, for who has one."""

    username: str = Field(max_length=200)
    password: Password
    code: str = Field("", max_length=40)


class SetUp(Schema):
    setup_code: str = Field(max_length=100)
    school_name: str = Field(max_length=200)
    name: str = Field(max_length=200)
    username: str = Field(max_length=200)
    password: Password


def session_of(request: HttpRequest, *, code_needed: bool = False) -> Session:
    """What a page needs to know of who is there."""
    staff = request.user if isinstance(request.user, Staff) else None
    shown = settings.SHOW_DEMO and staff is None
    person = (
        None
        if staff is None
        else Person(
            id=staff.id,
            name=staff.name,
            role=staff.role,
            school=staff.school.name,
            may_see_growth=staff.may_see_growth,
            factor_missing=_factor_missing(request),
        )
    )
    return Session(
        person=person,
        setup_needed=staff is None and setup_needed(),
        code_needed=code_needed,
        demo_sign_ins=DEMO_SIGN_INS if shown else [],
        stand_ins=settings.DEMO,
        now_ms=round(time.time() * 1000),
    )


def same_site(request: HttpRequest) -> None:
    """These addresses work before sign-in, so the API's own CSRF check does not cover them."""
    if check_csrf(request):
        raise HttpError(403, say("Reload the page and try again."))


@router.get("/session", auth=None, response=Session)
@decorate_view(ensure_csrf_cookie)
def get_session(request: HttpRequest) -> Session:
    return session_of(request)


@router.post("/session", auth=None, response=Session)
def sign_in(request: HttpRequest, response: HttpResponse, given: SignIn) -> Session:
    same_site(request)
    credentials = {"username": folded(given.username), "password": given.password}
    with sign_in_door(request, credentials["username"]):
        person = authenticate(request, **credentials)
        if person is None:
            raise HttpError(401, say("The user name or the password is wrong."))
        if has_second_factor(person):
            if not given.code.strip():
                return session_of(request, code_needed=True)
            name = credentials["username"]
            with code_door(request, say("second factor of {pk}", pk=person.pk), name):
                if not use_code(person, given.code, timezone.now()):
                    raise Refused(WRONG_CODE)
    begin(request, response, person)
    return session_of(request)


#: Addresses that are open to who has still to set up a second factor.
_BEFORE_THE_FACTOR: Final = "/api/session"
MISSING: Final = "factor_missing"


def _factor_missing(request: HttpRequest) -> bool:
    return bool(request.session.get(MISSING))


def signed_in(request: HttpRequest) -> Any:
    """The API's check of every request: who asks, and whether they have all that their school wants
    of them. Raises Denied."""
    staff = django_auth(request)
    if staff and _was_idle(request, staff):
        logout(request)
        return None
    if staff and _factor_missing(request) and not request.path.startswith(_BEFORE_THE_FACTOR):
        raise Denied(say("Your school requires two-step sign-in. First set it up under your name."))
    return staff


#: When a session was used last, in seconds since 1970, and after how many without use it ends.
_SEEN: Final = "seen"
_IDLE: Final = "idle"
#: Seconds in which a session's use is not written down again.
_HELD: Final = 3600


def _was_idle(request: HttpRequest, staff: Any) -> bool:
    """Whether a session was without use for too long; if not, that it is used now is written down,
    about once an hour."""
    now, seen = int(time.time()), request.session.get(_SEEN)
    if seen is not None and now - seen > request.session[_IDLE]:
        return True
    if seen is None or now - seen > _HELD:
        _use(request, staff, now)
    return False


def _use(request: HttpRequest, staff: Any, now: int) -> None:
    # Not by `staff.school`: what the request goes on to change is read when it is.
    which = "tablet_idle_days" if is_tablet(request) else "idle_days"
    days = School.objects.values_list(which, flat=True).get(pk=staff.school_id)
    request.session[_SEEN], request.session[_IDLE] = now, days * 24 * 3600
    request.session.set_expiry(days * 24 * 3600)


def begin(request: HttpRequest, response: HttpResponse, person: Staff) -> None:
    """Sign somebody in, always under a new session's key: one that was known before is worth
    nothing."""
    login(request, person, backend=_BACKEND)
    request.session.cycle_key()
    request.session[MISSING] = person.school.second_factor_required and not has_second_factor(
        person
    )
    _use(request, person, int(time.time()))
    remember(request, person)
    make_known(request, response, person.get_username())


@router.delete("/session", response=Session)
def sign_out(request: HttpRequest) -> Session:
    logout(request)
    return session_of(request)


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
def look_at_link(request: HttpRequest, link: Link) -> Welcome:
    """Whose link it is; nothing is taken up yet."""
    same_site(request)
    with secret_door(request, "link"):
        person = invited(link.token)
    return Welcome(name=person.name, username=person.username, school=person.school.name)


@router.put("/welcome", auth=None, response=Session)
def take_up_link(request: HttpRequest, response: HttpResponse, entry: WelcomeEntry) -> Session:
    """Set one's own password by a link, once, and be signed in."""
    same_site(request)
    with secret_door(request, "link"):
        person = invited(entry.token)
    password = hashed(entry.password, person)
    person = welcome(entry.token, password)
    begin(request, response, person)
    return session_of(request)


class PackedSetUp(Schema):
    """A whole school that was saved from a Lauf (base64), and which head of PE comes first."""

    setup_code: str = Field(max_length=100)
    data: str
    username: str = Field(max_length=200)
    password: Password


def _demand_code(request: HttpRequest, given: str) -> None:
    code = settings.SETUP_CODE
    with code_door(request, say("set-up code")):
        if not code or not hmac.compare_digest(given.strip().encode(), code.encode()):
            raise Refused(say("The set-up code is printed in the terminal by ./lauf start."))


@router.post("/setup/package", auth=None, response=Session)
def set_up_from_package(
    request: HttpRequest, response: HttpResponse, given: PackedSetUp
) -> Session:
    """Put a whole school into an empty Lauf; the head of PE named is then signed in."""
    same_site(request)
    _demand_code(request, given.setup_code)
    try:
        packed = base64.b64decode(given.data, validate=True)
    except ValueError as error:
        raise Refused(say("The file did not arrive completely. Choose it again.")) from error
    head = Staff(school=School(name=given.username), name=given.username, username=given.username)
    password = hashed(given.password, head)
    begin(request, response, read_package(packed, username=given.username, password=password))
    return session_of(request)


@router.post("/setup", auth=None, response=Session)
def set_up(request: HttpRequest, response: HttpResponse, given: SetUp) -> Session:
    """Create the first school and its head of PE, who is then signed in."""
    same_site(request)
    _demand_code(request, given.setup_code)
    fields = given.model_dump(exclude={"setup_code", "password"})
    person = Staff(school=School(name=given.school_name), name=given.name, username=given.username)
    password = hashed(given.password, person)
    with transaction.atomic():
        staff = set_up_school(**fields, password=password)
        install_ready(staff.school)
    begin(request, response, staff)
    return session_of(request)
