"""Signing in and out."""

from __future__ import annotations

import time
from collections.abc import Sequence
from typing import Annotated, Any, Final
from uuid import UUID

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from django.views.decorators.csrf import ensure_csrf_cookie
from ninja import Field, Router
from ninja.decorators import decorate_view
from ninja.errors import HttpError
from ninja.security import django_auth
from ninja.utils import check_csrf

from lauf.api.shape import Schema
from lauf.demo.school import DEMO_SIGN_INS, OFFICE_SIGN_IN, DemoSignIn
from lauf.errors import Denied, Locked, Refused
from lauf.messages import say
from lauf.people.actions import (
    WRONG_CODE,
    has_second_factor,
    use_code,
)
from lauf.people.models import School, Staff
from lauf.people.queries import account_of, posts_of, setup_needed
from lauf.people.usernames import folded
from lauf.web.doors.devices import is_tablet, remember
from lauf.web.throttling import code_door, make_known, sign_in_door

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
    # In the office of a trust, which sees its schools and no child.
    at_office: bool


class Post(Schema):
    """A school that somebody can sign in to, by who they are in it."""

    id: UUID
    school: str


class Session(Schema):
    person: Person | None
    setup_needed: bool
    # The password was right; the code of the second factor is still to come.
    code_needed: bool = False
    # All is right, and somebody works in several schools: one is still to be chosen.
    posts: list[Post]
    # Whether simulated belts and gates can be switched on.
    stand_ins: bool
    demo_sign_ins: list[DemoSignIn]
    # The server's clock, which all devices keep to: milliseconds since 1970.
    now_ms: int


Password = Annotated[str, Field(max_length=256)]


class SignIn(Schema):
    """`code` is of the second factor, or one on paper, for who has one; `post` the school, for who
    works in several."""

    username: str = Field(max_length=200)
    password: Password
    code: str = Field("", max_length=40)
    post: UUID | None = None


def session_of(
    request: HttpRequest, *, code_needed: bool = False, posts: Sequence[Staff] = ()
) -> Session:
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
            at_office=staff.at_office,
        )
    )
    return Session(
        person=person,
        setup_needed=staff is None and setup_needed(),
        code_needed=code_needed,
        posts=[Post(id=one.id, school=one.school.name) for one in posts],
        demo_sign_ins=_demo_sign_ins() if shown else [],
        stand_ins=settings.DEMO,
        now_ms=round(time.time() * 1000),
    )


def _demo_sign_ins() -> list[DemoSignIn]:
    has_office = Staff.objects.filter(username=OFFICE_SIGN_IN["username"], at_office=True).exists()
    return [*DEMO_SIGN_INS, OFFICE_SIGN_IN] if has_office else DEMO_SIGN_INS


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
    account = proved(request, given)
    if account is None:
        return session_of(request, code_needed=True)
    posts = posts_of(account)
    if len(posts) > 1 and given.post is None:
        # What a code has proved is not asked for once more.
        request.session[_PROVED] = [str(account.pk), int(time.time())]
        return session_of(request, posts=posts)
    wanted = account.pk if given.post is None else given.post
    person = next((one for one in posts if one.pk == wanted), None)
    if person is None:
        raise Refused(say("You do not work in this school any more. Choose another."))
    begin(request, response, person, account)
    return session_of(request)


#: Who has proved everything and is still to choose a school, and when; seconds that holds for.
_PROVED: Final = "proved"
_CHOOSES_FOR: Final = 300


def proved(request: HttpRequest, given: SignIn) -> Staff | None:
    """Who signs in; None where the code of their second factor is still to come. Raises for a wrong
    password or code."""
    name = folded(given.username)
    with sign_in_door(request, name):
        found = authenticate(request, username=name, password=given.password)
        if not isinstance(found, Staff):
            raise HttpError(401, say("The user name or the password is wrong."))
        if not has_second_factor(found):
            return found
        who, at = request.session.pop(_PROVED, ("", 0))
        if given.post is not None and who == str(found.pk) and time.time() - at < _CHOOSES_FOR:
            return found
        if not given.code.strip():
            return None
        with code_door(request, say("second factor of {pk}", pk=found.pk), name):
            if not use_code(found, given.code, timezone.now()):
                raise Refused(WRONG_CODE)
    return found


#: Addresses that are open to who has still to set up a second factor.
_BEFORE_THE_FACTOR: Final = "/api/session"
#: All that is open to a trust's office.
_OFFICE: Final = ("/api/session", "/api/trust", "/api/staff", "/api/log")
PAUSED: Final = say(
    "Your school is closed for now. Ask your trust's office. What is on this device stays on it."
)
MISSING: Final = "factor_missing"


def _factor_missing(request: HttpRequest) -> bool:
    return bool(request.session.get(MISSING))


def signed_in(request: HttpRequest) -> Any:
    """The API's check of every request: who asks, and whether they have all that their school wants
    of them. Raises Denied, or Locked while the school is closed."""
    staff = django_auth(request)
    is_own = request.path.startswith(_BEFORE_THE_FACTOR)
    if staff and getattr(staff, "school_paused_at", None) is not None and not is_own:
        raise Locked(PAUSED)
    if staff and staff.at_office and not request.path.startswith(_OFFICE):
        raise Denied(say("The trust's office sees no child and no score. Ask the school."))
    if staff and _was_idle(request, staff):
        logout(request)
        return None
    if staff and _factor_missing(request) and not is_own:
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


def begin(
    request: HttpRequest, response: HttpResponse, person: Staff, account: Staff | None = None
) -> None:
    """Sign somebody in, always under a new session's key: one that was known before is worth
    nothing. `account` is whose password it was, where that is another of theirs. Raises Locked
    while the school is closed."""
    if person.school.paused_at is not None:
        raise Locked(PAUSED)
    by = account or account_of(person)
    login(request, person, backend=_BACKEND)
    request.session.cycle_key()
    request.session[MISSING] = person.school.second_factor_required and not has_second_factor(by)
    _use(request, person, int(time.time()))
    remember(request, person)
    make_known(request, response, by.get_username())


@router.delete("/session", response=Session)
def sign_out(request: HttpRequest) -> Session:
    logout(request)
    return session_of(request)
