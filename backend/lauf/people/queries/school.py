"""Reads of the school itself: what the head of PE sets, the log, and moving up."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from typing import Annotated, Any, Final, NotRequired
from uuid import UUID

from annotated_types import MaxLen, MinLen
from django.contrib.sessions.models import Session
from django.utils import timezone
from pydantic import Field
from typing_extensions import TypedDict

from lauf.people.models import (
    Change,
    Invitation,
    SecondFactor,
    Staff,
    TermKind,
)
from lauf.people.permissions import May, demand, rights_of
from lauf.people.queries.posts import account_of
from lauf.people.shapes import Day
from lauf.rules.body.ages import YEAR_GROUP_WAYS


class YearGroupEntry(TypedDict):
    """A year group; `age` in completed years when the school year begins. None: a new one."""

    id: NotRequired[UUID | None]
    name: Annotated[str, MaxLen(100)]
    age: int


class HouseEntry(TypedDict):
    """A house. None: a new one."""

    id: NotRequired[UUID | None]
    name: Annotated[str, MaxLen(100)]


class TermEntry(TypedDict):
    """A term or a holiday; both days included."""

    kind: TermKind
    name: Annotated[str, MaxLen(100)]
    starts: Day
    ends: Day


class SchemeMark(TypedDict):
    """A mark or words, and the mean of points a test that it begins at, as a decimal."""

    begins: Annotated[str, Field(pattern=r"^\d{1,3}(\.\d{1,2})?$")]
    words: Annotated[str, MinLen(1), MaxLen(60)]


class SchemeEntry(TypedDict):
    """How rungs become one statement over several tests."""

    below: int
    points: Annotated[list[int], MaxLen(20)]
    marks: Annotated[list[SchemeMark], MaxLen(20)]
    fewest: int


class YearGroupWay(TypedDict):
    """A way schools name their year groups."""

    name: str
    rows: list[YearGroupEntry]


class SchoolSettings(TypedDict):
    """All that the head of PE sets."""

    ways: list[YearGroupWay]
    name: str
    cut_off_month: int
    cut_off_day: int
    imperial: bool
    second_factor_required: bool
    idle_days: int
    tablet_idle_days: int
    keep_years: int | None
    scores_outlive: bool
    scheme: SchemeEntry | None
    year_groups: list[YearGroupEntry]
    houses: list[HouseEntry]
    terms: list[TermEntry]
    staff: list[StaffRow]


class StaffRow(TypedDict):
    """Somebody who signs in, and what they may."""

    id: UUID
    name: str
    username: str
    role: str
    email: str
    may_see_growth: bool
    may_edit_tests: bool
    may_see_school: bool
    is_active: bool
    second_factor: bool
    # Whether a password was set: somebody invited has none yet.
    has_password: bool
    # Until when a link lets in that was not used yet.
    link_until: datetime | None
    class_ids: list[UUID]


def school_settings(staff: Staff) -> SchoolSettings:
    """All that the head of PE sets: the school, its year groups, houses and terms, how long records
    are kept, and who signs in with what they may. Six queries. Raises Denied."""
    demand(staff, May.MANAGE_SCHOOL)
    school = staff.school
    related = ("invitation", "second_factor")
    people = school.staff.select_related(*related).prefetch_related("classes")
    return {
        "ways": [
            {"name": way, "rows": [{"id": None, "name": name, "age": age} for name, age in rows]}
            for way, rows in YEAR_GROUP_WAYS.items()
        ],
        "name": school.name,
        "cut_off_month": school.cut_off_month,
        "cut_off_day": school.cut_off_day,
        "imperial": school.imperial,
        "second_factor_required": school.second_factor_required,
        "idle_days": school.idle_days,
        "tablet_idle_days": school.tablet_idle_days,
        "keep_years": school.keep_years,
        "scores_outlive": school.scores_outlive,
        "scheme": _scheme_shown(school.scheme),
        "year_groups": [
            {"id": one.id, "name": one.name, "age": one.age} for one in school.year_groups.all()
        ],
        "houses": [{"id": one.id, "name": one.name} for one in school.houses.all()],
        "terms": [
            {"kind": TermKind(one.kind), "name": one.name, "starts": one.starts, "ends": one.ends}
            for one in school.terms.all()
        ],
        "staff": [
            {
                "id": one.id,
                "name": one.name,
                "username": one.username,
                "role": one.role,
                "email": one.email,
                "second_factor": _has_second_factor(one),
                "may_see_growth": rights.may_see_growth,
                "may_edit_tests": rights.may_edit_tests,
                "may_see_school": rights.may_see_school,
                "is_active": one.is_active,
                "has_password": one.has_usable_password(),
                "link_until": link.expires_at if (link := _link_of(one)) else None,
                "class_ids": [group.id for group in one.classes.all()],
            }
            for one in people.order_by("-is_active", "name")
            for rights in (rights_of(one),)
        ],
    }


def _scheme_shown(kept: Mapping[str, Any]) -> SchemeEntry | None:
    if not kept:
        return None
    return {
        "below": kept["below"],
        "points": kept["points"],
        "fewest": kept["fewest"],
        "marks": [{"begins": begins, "words": words} for begins, words in kept["words"]],
    }


def scheme_kept(scheme: SchemeEntry | None) -> dict[str, object]:
    """A scheme as the school keeps it; {} for none."""
    if scheme is None:
        return {}
    marks = [[one["begins"], one["words"]] for one in scheme["marks"]]
    return {
        "below": scheme["below"],
        "points": scheme["points"],
        "fewest": scheme["fewest"],
        "words": marks,
    }


def _has_second_factor(staff: Staff) -> bool:
    factor: SecondFactor | None = getattr(staff, "second_factor", None)
    return factor is not None and factor.proved_at is not None


def _link_of(staff: Staff) -> Invitation | None:
    return getattr(staff, "invitation", None)


#: How many lines of the log are shown.
LOG_LINES: Final = 200


#: What is about things that not everybody may see: bodies, care, who may see them, files.
_SENSITIVE: Final = (Change.What.SEEN, Change.What.CARE, Change.What.PERMISSION)


class ChangeRow(TypedDict):
    """One line of the school's log: who changed what."""

    id: int
    at: datetime
    by: str
    what: str
    words: str


def change_log(
    staff: Staff, before: int | None = None, *, sensitive: bool = False
) -> list[ChangeRow]:
    """Who changed what, newest first, a page at a time: those before a line; with `sensitive`, who
    looked at or changed what not everybody may see. One query. Raises Denied."""
    demand(staff, May.SEE_LOG)
    lines = Change.objects.filter(school_id=staff.school_id).select_related("by")
    if sensitive:
        lines = lines.filter(what__in=_SENSITIVE)
    if before is not None:
        lines = lines.filter(pk__lt=before)
    return [
        {
            "id": line.id,
            "at": line.at,
            "by": line.by.name,
            "what": Change.What(line.what).label,
            "words": line.words,
        }
        for line in lines[:LOG_LINES]
    ]


class OwnDevice(TypedDict):
    """A device one is signed in on; `here` is the one that asks."""

    id: UUID
    device: str
    at: datetime
    here: bool


class Account(TypedDict):
    """A person's own sign-in; `papers_left` are codes on paper that were not used yet."""

    username: str
    second_factor: bool
    # Codes on paper that were not used yet.
    papers_left: int
    factor_required: bool
    has_calendar: bool
    devices: list[OwnDevice]


def own_account(staff: Staff, session_key: str) -> Account:
    """What a person sees of their own sign-in; `session_key` is of the device that asks. Four
    queries."""
    account = account_of(staff)
    factor = SecondFactor.objects.filter(staff=account, proved_at__isnull=False).first()
    alive = Session.objects.filter(expire_date__gt=timezone.now()).values("session_key")
    return {
        "username": account.username,
        "second_factor": factor is not None,
        "papers_left": len(factor.papers) if factor else 0,
        "factor_required": staff.school.second_factor_required,
        "has_calendar": bool(staff.calendar_proof),
        "devices": [
            {
                "id": one.id,
                "device": one.device,
                "at": one.at,
                "here": one.session_key == session_key,
            }
            for one in staff.sign_ins.filter(session_key__in=alive)
        ],
    }
