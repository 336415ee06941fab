"""What a trust's office does with its schools. It never sees who is in them."""

from __future__ import annotations

from datetime import datetime
from typing import NamedTuple
from uuid import UUID

from django.contrib.auth.hashers import UNUSABLE_PASSWORD_PREFIX, make_password
from django.db import IntegrityError, transaction
from django.db.models import Value

from lauf.errors import NotFound, Refused
from lauf.messages import say
from lauf.people.actions.audit_log import log
from lauf.people.actions.school import create_school
from lauf.people.actions.staff import make_link
from lauf.people.models import Change, School, Staff, Trust
from lauf.people.permissions import May, demand
from lauf.people.usernames import key_of, written_plainly

#: A school of so many children there is not; what is more is a slip of the finger.
MOST_LIMIT = 20_000


class Opened(NamedTuple):
    """A school, its first head of PE, and the token of the link that lets them in."""

    school: School
    head: Staff
    token: str


@transaction.atomic
def found_trust(*, trust_name: str, name: str, username: str, password: str) -> Trust:
    """A trust with its office and the first person in it, whose password comes hashed. The schools
    that are on this Lauf already and in no trust are in it from now on. Raises Refused."""
    if not 1 <= len(trust_name.strip()) <= 120:
        raise Refused(say("Give the trust's name in up to 120 letters."))
    there = list(School.objects.select_for_update(of=("self",)).filter(trust=None, office_of=None))
    office = School.objects.create(name=trust_name.strip())
    trust = Trust.objects.create(name=trust_name.strip(), office=office)
    School.objects.filter(pk__in=[one.pk for one in there]).update(trust=trust)
    _head_of(office, name, username, password, at_office=True)
    return trust


def _head_of(
    school: School, name: str, username: str, password: str, *, at_office: bool = False
) -> Staff:
    if not 1 <= len(name.strip()) <= 120 or not 1 <= len(written_plainly(username)) <= 60:
        raise Refused(say("Give the person's name and a user name of up to 60 letters."))
    try:
        with transaction.atomic():
            return Staff.objects.create(
                school=school, name=name.strip(), username=written_plainly(username),
                role=Staff.Role.HEAD, password=password, at_office=at_office,
            )  # fmt: skip
    except IntegrityError as error:
        raise Refused(say("That user name is taken. Choose another.")) from error


@transaction.atomic
def open_school(office: Staff, *, school_name: str, name: str, username: str) -> Opened:
    """A new school of the trust and its first head of PE, who comes by a link. Raises Denied or
    Refused."""
    trust = _trust_of(office)
    label = school_name.strip()
    if not 1 <= len(label) <= 120:
        raise Refused(say("Give the school's name in up to 120 letters."))
    if School.objects.filter(trust=trust, name__iexact=label).exists():
        raise Refused(say("Your trust already has a school called “{label}”.", label=label))
    school = create_school(label)
    school.trust = trust
    school.save(update_fields=["trust"])
    head = _head_of(school, name, username, make_password(None))
    log(office, Change.What.SCHOOL, say("School {label} added", label=label), school.id)
    return Opened(school, head, make_link(office, head))


@transaction.atomic
def first_link_anew(office: Staff, school_id: UUID) -> Opened:
    """A new link for the first head of PE of a school that nobody has signed in to yet. Afterwards
    links are the school's own affair: whoever has one sees its children. Raises Denied, NotFound
    or Refused."""
    school = _school_of(office, school_id)
    people = Staff.objects.filter(school=school)
    if people.exclude(password__startswith=UNUSABLE_PASSWORD_PREFIX).exists():
        raise Refused(
            say(
                "{name} already has staff who sign in. A head of PE there makes links for "
                "colleagues.",
                name=school.name,
            )
        )
    head = people.filter(role=Staff.Role.HEAD, is_active=True).order_by("username").first()
    if head is None:
        raise NotFound(say("person"))
    words = say("New invitation for the first head of PE of {name}", name=school.name)
    log(office, Change.What.SCHOOL, words, school.id)
    return Opened(school, head, make_link(office, head))


@transaction.atomic
def limit_school(
    office: Staff, school_id: UUID, *, most_children: int | None, most_staff: int | None
) -> School:
    """How many children on roll and staff who sign in a school may have (None: any number). Who is
    there already stays. Raises Denied, NotFound or Refused."""
    school = _school_of(office, school_id)
    for most in (most_children, most_staff):
        if most is not None and not 1 <= most <= MOST_LIMIT:
            words = say("Give a whole number from 1 to {most}, or nothing.", most=MOST_LIMIT)
            raise Refused(words)
    school.most_children, school.most_staff = most_children, most_staff
    school.save(update_fields=["most_children", "most_staff"])
    words = say(
        "{name}: up to {children} children and {staff} staff",
        name=school.name,
        children=most_children or say("any number of"),
        staff=most_staff or say("any number of"),
    )
    log(office, Change.What.SCHOOL, words, school.id)
    return school


@transaction.atomic
def pause_school(office: Staff, school_id: UUID, now: datetime | None) -> School:
    """Close a school from that moment on, or (None) open it again: nobody reads or writes anything
    of it, and what waits on devices stays there. Raises Denied or NotFound."""
    school = _school_of(office, school_id)
    if (school.paused_at is None) == (now is None):
        return school
    set_paused(school.id, now)
    words = say("{name} opened again", name=school.name)
    if now is not None:
        words = say("{name} paused", name=school.name)
    log(office, Change.What.SCHOOL, words, school.id)
    school.paused_at = now
    return school


@transaction.atomic
def set_paused(school_id: UUID, now: datetime | None) -> None:
    """The same, for who looks after the machine. Waits for what is being written."""
    # Every row that is written holds the school's by its key: this waits until they are kept.
    held = School.objects.select_for_update().get(pk=school_id)
    held.paused_at = now
    held.save(update_fields=["paused_at"])


@transaction.atomic
def head_link(school_id: UUID, username: str) -> str:
    """The token of a link for a head of PE, made by who looks after the machine. Raises
    NotFound."""
    heads = Staff.objects.filter(school=school_id, role=Staff.Role.HEAD, is_active=True)
    head = heads.annotate(key=key_of("username")).filter(key=key_of(Value(username))).first()
    if head is None:
        raise NotFound(say("head of PE"))
    words = say("A link to set a password made for {name}", name=head.name)
    log(head, Change.What.STAFF, words, head.id)
    return make_link(head, head)


def _trust_of(office: Staff) -> Trust:
    demand(office, May.LEAD_TRUST)
    return Trust.objects.get(office=office.school_id)


def _school_of(office: Staff, school_id: UUID) -> School:
    trust = _trust_of(office)
    found = School.objects.select_for_update().filter(pk=school_id, trust=trust).first()
    if found is None:
        raise NotFound(say("school"))
    return found
