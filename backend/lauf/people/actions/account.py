"""What a person does with their own sign-in: password, second factor, sessions, calendar."""

from __future__ import annotations

import base64
import secrets
from datetime import datetime
from typing import Final
from uuid import UUID

import pyotp
from django.contrib.sessions.models import Session
from django.db import transaction
from django.db.models import F
from django.utils import timezone

from lauf.errors import NotFound, Refused
from lauf.messages import say
from lauf.people.actions.audit_log import log
from lauf.people.actions.sign_ins import end_sign_ins
from lauf.people.models import Change, SecondFactor, SignIn, Staff
from lauf.people.permissions import May, demand
from lauf.people.tokens import token_hash

#: Codes on paper that are handed out, and how many letters one has.
_PAPERS: Final = 10
_STEP: Final = 30
WRONG_CODE: Final = say("This code is wrong or was already used. Wait for the next one.")


def keep_hashed_anew(account: Staff, password: str) -> None:
    """The same password, hashed as new ones are; not while they are signed in somewhere: sessions
    are bound to how it is kept, and a device in a hall stays signed in."""
    kept = Staff.objects.filter(pk=account.pk, password=account.password, sign_ins=None)
    if kept.update(password=password):
        account.password = password


@transaction.atomic
def change_password(staff: Staff, password: str) -> Staff:
    """One's own password, hashed; every other session ends."""
    staff.password = password
    staff.save(update_fields=["password"])
    end_sign_ins(staff)
    log(
        staff,
        Change.What.STAFF,
        say("{name} has changed their password", name=staff.name),
        staff.id,
    )
    return staff


@transaction.atomic
def end_sessions(staff: Staff) -> Staff:
    """End every session of one's own; who asks is signed in anew by the caller."""
    staff.sessions_from += 1
    staff.save(update_fields=["sessions_from"])
    end_sign_ins(staff)
    log(
        staff,
        Change.What.STAFF,
        say("{name} has signed out everywhere else", name=staff.name),
        staff.id,
    )
    return staff


def signed_in(staff: Staff, session_key: str, device: str) -> SignIn:
    """Remember a device that somebody signed in on; those whose session is over are forgotten."""
    alive = Session.objects.filter(expire_date__gt=timezone.now()).values("session_key")
    SignIn.objects.filter(staff=staff).exclude(session_key__in=alive).delete()
    return SignIn.objects.create(staff=staff, session_key=session_key, device=device[:80])


@transaction.atomic
def end_sign_in(staff: Staff, sign_in_id: UUID) -> None:
    """Sign one of one's own devices out. Raises NotFound."""
    found = SignIn.objects.filter(pk=sign_in_id, staff=staff).first()
    if found is None:
        raise NotFound(say("device"))
    Session.objects.filter(session_key=found.session_key).delete()
    found.delete()
    log(
        staff,
        Change.What.STAFF,
        say("{name} has signed out a device, {device}", name=staff.name, device=found.device),
        staff.id,
    )


@transaction.atomic
def begin_second_factor(staff: Staff) -> str:
    """A new secret, as an address that apps for such codes read (otpauth). It asks for nothing
    before it was proved; one that was proved stays until then. Raises Refused where one is."""
    held = SecondFactor.objects.filter(staff=staff).first()
    if held is not None and held.proved_at is not None:
        raise Refused(say("Two-step sign-in is already on. Turn it off first."))
    secret = pyotp.random_base32()
    SecondFactor.objects.update_or_create(staff=staff, defaults={"secret": secret, "papers": []})
    return pyotp.TOTP(secret).provisioning_uri(name=staff.username, issuer_name="Lauf")


@transaction.atomic
def prove_second_factor(staff: Staff, code: str, now: datetime) -> list[str]:
    """The first code right, it is asked for from now on: the codes on paper, shown this one time.
    Raises Refused."""
    factor = SecondFactor.objects.select_for_update().filter(staff=staff, proved_at=None).first()
    if factor is None:
        raise Refused(say("The set-up has expired. Start again."))
    step = _step_of(factor, code, now)
    if step is None:
        raise Refused(WRONG_CODE)
    papers = [base64.b32encode(secrets.token_bytes(5)).decode().lower() for _ in range(_PAPERS)]
    factor.proved_at, factor.last_step = now, step
    factor.papers = [token_hash(paper) for paper in papers]
    factor.save()
    log(
        staff,
        Change.What.STAFF,
        say("{name} has turned on two-step sign-in", name=staff.name),
        staff.id,
    )
    return papers


@transaction.atomic
def take_second_factor_away(staff: Staff, code: str, now: datetime) -> None:
    """Sign in by the password alone again. Raises Refused where the school asks for more, or for a
    code that is not right."""
    if staff.school.second_factor_required:
        raise Refused(say("Your school requires two-step sign-in, so it cannot be turned off."))
    if has_second_factor(staff) and not use_code(staff, code, now):
        raise Refused(WRONG_CODE)
    if SecondFactor.objects.filter(staff=staff).delete()[0]:
        log(
            staff,
            Change.What.STAFF,
            say("{name} has turned off two-step sign-in", name=staff.name),
            staff.id,
        )


def has_second_factor(staff: Staff) -> bool:
    """Whether a person is asked for a code. One query."""
    return SecondFactor.objects.filter(staff=staff, proved_at__isnull=False).exists()


@transaction.atomic
def use_code(staff: Staff, code: str, now: datetime) -> bool:
    """Whether a code lets a person in: one of now, or one on paper; each works once."""
    factor = SecondFactor.objects.select_for_update().get(staff=staff, proved_at__isnull=False)
    step = _step_of(factor, code, now)
    paper = token_hash(code.strip().lower())
    if step is not None:
        factor.last_step = step
    elif paper in factor.papers:
        factor.papers.remove(paper)
        left = len(factor.papers)
        log(
            staff,
            Change.What.STAFF,
            say("{name} used a recovery code, {left} left", name=staff.name, left=left),
            staff.id,
        )
    else:
        return False
    factor.save()
    return True


def _step_of(factor: SecondFactor, code: str, now: datetime) -> int | None:
    """The half minute a code is of: of now, or one to either side, for a clock that is a little
    off; later than the last that was used (RFC 6238, sections 5.2 and 6)."""
    plain = code.replace(" ", "").strip()
    current = int(now.timestamp()) // _STEP
    for step in (current, current - 1, current + 1):
        if step > factor.last_step and pyotp.utils.strings_equal(
            pyotp.TOTP(factor.secret).at(step * _STEP), plain
        ):
            return step
    return None


@transaction.atomic
def require_second_factor(head: Staff, *, required: bool) -> None:
    """Whether everybody in the school needs one; who has none is signed out, and sets it up after
    signing in again. Raises Denied, or Refused for a head who has none."""
    demand(head, May.MANAGE_SCHOOL)
    if required and not has_second_factor(head):
        raise Refused(
            say("First set up two-step sign-in for yourself, under your name at the top.")
        )
    if head.school.second_factor_required == required:
        return
    head.school.second_factor_required = required
    head.school.save(update_fields=["second_factor_required"])
    if required:
        proved = SecondFactor.objects.filter(proved_at__isnull=False).values("staff")
        without = Staff.objects.filter(school_id=head.school_id).exclude(pk__in=proved)
        SignIn.objects.filter(staff__in=without).delete()
        without.update(sessions_from=F("sessions_from") + 1)
    words = (
        say("Two-step sign-in is required for everyone")
        if required
        else say("Two-step sign-in is not required")
    )
    log(head, Change.What.SCHOOL, words, head.school_id)


@transaction.atomic
def new_calendar_address(staff: Staff) -> str:
    """The private part of the address of one's own calendar; an earlier address shows nothing any
    more."""
    token = secrets.token_urlsafe(24)
    staff.calendar_proof = token_hash(token)
    staff.save(update_fields=["calendar_proof"])
    log(
        staff,
        Change.What.STAFF,
        say("{name} has a new calendar address", name=staff.name),
        staff.id,
    )
    return token


def calendar_owner(token: str) -> Staff:
    """Whose calendar an address shows. Raises NotFound. One query."""
    asked = Staff.objects.filter(
        calendar_proof=token_hash(token), is_active=True, school__paused_at=None
    )
    found = asked.select_related("school").first()
    if found is None or not token:
        raise NotFound(say("calendar"))
    return found
