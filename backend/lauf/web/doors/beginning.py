"""Coming in for the first time: by a link, or by creating the first school."""

from __future__ import annotations

import base64
import hmac

from django.conf import settings
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from ninja import Field, Router

from lauf.api.shape import Schema
from lauf.catalogue.actions import install_ready
from lauf.errors import Refused
from lauf.exchange.actions import read_package
from lauf.messages import say
from lauf.people.actions import invited, set_up_school, take_second_post, welcome
from lauf.people.models import School, Staff
from lauf.web.doors.session import Password, Session, SignIn, begin, proved, same_site, session_of
from lauf.web.hashing import hashed
from lauf.web.throttling import code_door, secret_door

router = Router(tags=["session"])


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


class PostEntry(Link, SignIn):
    """A link, and the sign-in that somebody has in another school already."""


@router.put("/welcome/post", auth=None, response=Session)
def take_up_link_by_account(
    request: HttpRequest, response: HttpResponse, entry: PostEntry
) -> Session:
    """Use an own sign-in of another school here too, and be signed in here."""
    same_site(request)
    with secret_door(request, "link"):
        invited(entry.token)
    account = proved(request, entry)
    if account is None:
        return session_of(request, code_needed=True)
    begin(request, response, take_second_post(entry.token, account), account)
    return session_of(request)


class SetUp(Schema):
    setup_code: str = Field(max_length=100)
    school_name: str = Field(max_length=200)
    name: str = Field(max_length=200)
    username: str = Field(max_length=200)
    password: Password


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
