"""Writes of who signs in: let in by a link, given permissions, shut out."""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from datetime import timedelta
from typing import Final
from uuid import UUID

from django.contrib.auth.hashers import make_password
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import IntegrityError, transaction
from django.utils import timezone

from lauf.errors import NotFound, Refused
from lauf.messages import say
from lauf.people.actions.audit_log import log
from lauf.people.actions.room import demand_room
from lauf.people.actions.sign_ins import end_sign_ins
from lauf.people.models import (
    Change,
    Invitation,
    School,
    SchoolClass,
    SecondFactor,
    SecondPost,
    Staff,
)
from lauf.people.permissions import RIGHTS_WORDS, May, Rights, demand, rights_of
from lauf.people.tokens import token_hash
from lauf.people.usernames import written_plainly

#: How long a link lets somebody in.
LINK_LASTS: Final = timedelta(days=3)
NO_LINK: Final = say("This link does not work or has expired. Ask your head of PE for a new one.")


def demand_password(password: str, person: Staff) -> None:
    """Raises Refused for a password that is too weak, or holds what is known of its person."""
    try:
        validate_password(password, person)
    except ValidationError as error:
        raise Refused(" ".join(error.messages)) from error


@transaction.atomic
def invite(
    head: Staff, *, name: str, username: str, role: str, class_ids: Sequence[UUID],
    rights: Rights, email: str = "",
) -> tuple[Staff, str]:  # fmt: skip
    """Let somebody into the school: the person, who cannot sign in before the link was used, and
    the link's token. Raises Denied, NotFound for a class, or Refused."""
    demand(head, May.MANAGE_SCHOOL)
    if not name.strip() or len(name.strip()) > 120:
        raise Refused(say("Give the person's name in up to 120 letters."))
    _demand_mail_address(email)
    if not 1 <= len(written_plainly(username)) <= 60:
        raise Refused(say("Give a user name of up to 60 letters."))
    try:
        with transaction.atomic():
            person = Staff.objects.create(
                school_id=head.school_id,
                username=written_plainly(username),
                name=name.strip(),
                role=_role(role),
                password=make_password(None),
                email=email.strip(),
                at_office=head.at_office,
                **rights._asdict(),
            )
    except IntegrityError as error:
        raise Refused(say("That user name is taken. Choose another.")) from error
    demand_room(head.school_id)
    person.classes.set(_classes(head, class_ids))
    log(
        head,
        Change.What.STAFF,
        say("{name} invited as {label}", name=person.name, label=_role(role).label),
        person.id,
    )
    for what, words in _differences(Rights(), rights):
        log(head, what, f"{person.name} {words}", person.id)
    return person, make_link(head, person)


@transaction.atomic
def link_anew(head: Staff, staff_id: UUID) -> tuple[Staff, str]:
    """A new link for somebody who lost the first, the password, or what their second factor is on;
    an earlier link is worth nothing any more. Raises Denied, NotFound, or Refused for somebody who
    is shut out."""
    demand(head, May.MANAGE_SCHOOL)
    person = _person(head, staff_id)
    if not person.is_active:
        raise Refused(say("{name} is suspended. Restore the sign-in first.", name=person.name))
    log(
        head,
        Change.What.STAFF,
        say("A link to set a password made for {name}", name=person.name),
        person.id,
    )
    return person, make_link(head, person)


def make_link(head: Staff, person: Staff) -> str:
    """The token of a new link for somebody; one before it is worth nothing."""
    token = secrets.token_urlsafe(24)
    Invitation.objects.update_or_create(
        staff=person,
        defaults={
            "proof": token_hash(token), "by": head, "expires_at": timezone.now() + LINK_LASTS,
        },
    )  # fmt: skip
    return token


def invited(token: str) -> Staff:
    """Whom a link lets in. Raises Refused for one that was used, is too old, or never was. One
    query."""
    found = (
        Invitation.objects.filter(proof=token_hash(token), expires_at__gt=timezone.now())
        .select_related("staff__school")
        .first()
    )
    if found is None or not found.staff.is_active:
        raise Refused(NO_LINK)
    return found.staff


@transaction.atomic
def welcome(token: str, password: str) -> Staff:
    """Take up a link with a password, hashed: it works once. Sessions from
    before end. Raises Refused."""
    person = invited(token)
    taken, _ = Invitation.objects.filter(staff=person, proof=token_hash(token)).delete()
    if not taken:
        raise Refused(NO_LINK)
    person.password = password
    person.sessions_from += 1
    person.save(update_fields=["password", "sessions_from"])
    SecondFactor.objects.filter(staff=person).delete()
    # With a password of their own here they sign in by that.
    SecondPost.objects.filter(post=person).delete()
    end_sign_ins(person)
    log(
        person,
        Change.What.STAFF,
        say("{name} has set a password by a link", name=person.name),
        person.id,
    )
    return person


@transaction.atomic
def change_staff(
    head: Staff, staff_id: UUID, *, name: str, role: str, class_ids: Sequence[UUID],
    rights: Rights, is_active: bool, email: str = "",
) -> Staff:  # fmt: skip
    """Change who somebody is and what they may; shutting somebody out ends their sessions. Raises
    Denied, NotFound, or Refused where no head would be left."""
    demand(head, May.MANAGE_SCHOOL)
    # One at a time: two heads who shut each other out would leave none.
    School.objects.select_for_update().get(pk=head.school_id)
    person = _person(head, staff_id)
    _demand_mail_address(email)
    if not name.strip() or len(name.strip()) > 120:
        raise Refused(say("Give the person's name in up to 120 letters."))
    stays_head = is_active and _role(role) is Staff.Role.HEAD
    heads = Staff.objects.filter(school_id=head.school_id, role=Staff.Role.HEAD, is_active=True)
    if person.is_head and not stays_head and not heads.exclude(pk=person.pk).exists():
        raise Refused(
            say(
                "{name} is the only head of PE. Make someone else head of PE first.",
                name=person.name,
            )
        )
    lines = []
    if person.role != role:
        lines.append((Change.What.STAFF, say("is now {label}", label=_role(role).label)))
    if person.is_active != is_active:
        lines.append(
            (Change.What.STAFF, say("sign-in restored") if is_active else say("suspended"))
        )
    lines += _differences(rights_of(person), rights)
    was_active = person.is_active
    person.name, person.role, person.is_active = name.strip(), _role(role), is_active
    person.email = email.strip()
    for right, now in rights._asdict().items():
        setattr(person, right, now)
    if not is_active:
        person.sessions_from += 1
        person.calendar_proof = ""
        Invitation.objects.filter(staff=person).delete()
        end_sign_ins(person)
    person.save()
    if is_active and not was_active:
        demand_room(head.school_id)
    person.classes.set(_classes(head, class_ids))
    for what, words in lines:
        words = say(
            "{name} {words} (by themselves)" if person == head else "{name} {words}",
            name=person.name,
            words=words,
        )
        log(head, what, words, person.id)
    return person


def _demand_mail_address(email: str) -> None:
    """Raises Refused for what no mail server could send to (RFC 5321, 4.5.3.1.1: 64 letters before
    the @; RFC 1035, 2.3.4: 63 letters a label of the domain)."""
    if not email.strip():
        return
    local, _, domain = email.strip().rpartition("@")
    try:
        validate_email(email.strip())
        domain.encode("idna")
        if len(local) > 64:
            raise ValidationError(say("too long before the @"))
    except (ValidationError, UnicodeError) as error:
        raise Refused(
            say(
                "That is not a mail address. Give one such as name@school.example, or "
                "leave it empty."
            )
        ) from error


def _differences(before: Rights, now: Rights) -> list[tuple[Change.What, str]]:
    """Which permissions change, as it is put on record."""
    held, given = before._asdict(), now._asdict()
    return [
        (Change.What.PERMISSION, f"{'may' if given[right] else 'may no longer'} {words}")
        for right, words in RIGHTS_WORDS.items()
        if held[right] != given[right]
    ]


def _person(head: Staff, staff_id: UUID) -> Staff:
    found = Staff.objects.filter(pk=staff_id, school_id=head.school_id).first()
    if found is None:
        raise NotFound(say("person"))
    return found


def _role(role: str) -> Staff.Role:
    return Staff.Role(role)


def _classes(head: Staff, class_ids: Sequence[UUID]) -> list[SchoolClass]:
    wanted = set(class_ids)
    found = list(SchoolClass.objects.filter(pk__in=wanted, school_id=head.school_id))
    if len(found) < len(wanted):
        raise NotFound(say("class"))
    return found
