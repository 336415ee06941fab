"""What a person does with their own sign-in."""

from __future__ import annotations

from typing import Any
from uuid import UUID

import segno
from django.contrib.auth.hashers import check_password
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Field, Router, Status
from ninja.errors import HttpError

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.messages import say
from lauf.people import actions
from lauf.people.actions import change_password, end_sessions
from lauf.people.models import Staff
from lauf.people.queries import account_of, own_account
from lauf.people.queries.school import Account
from lauf.web.doors.session import MISSING, Password, Session, begin, session_of
from lauf.web.hashing import hashed, in_turn
from lauf.web.throttling import code_door, sign_in_door

router = Router(tags=["session"])


@router.get("/session/account", response=Account)
def get_account(request: HttpRequest) -> Account:
    return own_account(signed_in_staff(request), request.session.session_key or "")


class PasswordChange(Schema):
    old: Password
    new: Password


@router.put("/session/password", response=Session)
def set_own_password(
    request: HttpRequest, response: HttpResponse, change: PasswordChange
) -> Session:
    """One's own password; every other session of one's own ends."""
    account = account_of(signed_in_staff(request))
    with sign_in_door(request, account.username):
        _demand_password(account, change.old)
    password = hashed(change.new, account)
    _go_on(request, response, change_password(account, password))
    return session_of(request)


@router.delete("/session/others", response=Session)
def end_other_sessions(request: HttpRequest, response: HttpResponse) -> Session:
    """Sign out everywhere but here."""
    _go_on(request, response, end_sessions(account_of(signed_in_staff(request))))
    return session_of(request)


def _go_on(request: HttpRequest, response: HttpResponse, account: Staff) -> None:
    """Every session was ended; this one goes on, in the school it was in."""
    here = signed_in_staff(request).pk
    person = account if account.pk == here else Staff.objects.get(pk=here)
    begin(request, response, person, account)


def _demand_password(staff: Staff, password: str) -> None:
    if not in_turn(check_password, password, staff.password, known=True):
        raise HttpError(422, say("That is not your current password."))


@router.delete("/session/devices/{device_id}", response=Account)
def end_device(request: HttpRequest, device_id: UUID) -> Account:
    """Sign one of one's own devices out."""
    staff = signed_in_staff(request)
    actions.end_sign_in(staff, device_id)
    return own_account(staff, request.session.session_key or "")


class Secret(Schema):
    """What an app for codes reads: the address as a picture (data URI), and to type by hand."""

    uri: str
    qr: str


class Code(Schema):
    code: str = Field(max_length=40)


class OwnPassword(Schema):
    password: Password


class Papers(Schema):
    """Codes for the day the phone is lost, each for once; they are shown this one time."""

    codes: list[str]


@router.post("/session/second-factor", response=Secret)
def begin_second_factor(request: HttpRequest, given: OwnPassword) -> Secret:
    staff = account_of(signed_in_staff(request))
    with sign_in_door(request, staff.username):
        _demand_password(staff, given.password)
    uri = actions.begin_second_factor(staff)
    return Secret(uri=uri, qr=segno.make(uri, error="m").svg_data_uri(scale=6, border=2))


@router.put("/session/second-factor", response=Papers)
def prove_second_factor(request: HttpRequest, given: Code) -> Papers:
    """The first code: from now on one is asked for."""
    staff = account_of(signed_in_staff(request))
    with sign_in_door(request, staff.username):
        codes = actions.prove_second_factor(staff, given.code, timezone.now())
    request.session[MISSING] = False
    return Papers(codes=codes)


class PasswordAndCode(OwnPassword):
    """Of the second factor, or one of those on paper."""

    code: str = Field(max_length=40)


@router.post("/session/second-factor/away", response={204: None})
def take_second_factor_away(request: HttpRequest, given: PasswordAndCode) -> Any:
    """Who has the password alone does not get rid of what is asked for beside it."""
    staff = account_of(signed_in_staff(request))
    with sign_in_door(request, staff.username):
        _demand_password(staff, given.password)
    with code_door(request, say("second factor of {pk}", pk=staff.pk), staff.username):
        actions.take_second_factor_away(staff, given.code, timezone.now())
    return Status(204, None)


class CalendarAddress(Schema):
    """The private address of one's own calendar; it is shown this one time."""

    url: str


@router.post("/session/calendar", response=CalendarAddress)
def new_calendar_address(request: HttpRequest) -> CalendarAddress:
    """A new address for the own calendar; an earlier one shows nothing any more."""
    token = actions.new_calendar_address(signed_in_staff(request))
    return CalendarAddress(url=request.build_absolute_uri(f"/api/calendar/{token}.ics"))
