"""A trust's schools as its office sees them: sums, and nothing of any child."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.contrib.auth.hashers import UNUSABLE_PASSWORD_PREFIX
from django.db.models import Count, Max, Q
from typing_extensions import TypedDict

from lauf.lessons.models import Lesson
from lauf.lessons.queries import day_bounds
from lauf.people.models import Pupil, SchoolClass, Staff, Trust
from lauf.people.permissions import May, demand, may
from lauf.records.queries import counting
from lauf.rules.body.ages import school_year
from lauf.rules.judging.summaries import FEWEST_TOLD


class TrustSchool(TypedDict):
    """A school in sums, of this school year. `tested` is how many children have a score: None where
    they, or those without one, are too few to be told."""

    id: UUID
    name: str
    children: int
    most_children: int | None
    staff: int
    most_staff: int | None
    classes: int
    lessons: int
    scores: int
    tested: int | None
    last_lesson: datetime | None
    paused_at: datetime | None
    # Nobody has signed in there yet, so the first invitation can be made again.
    waits_for_head: bool


class TrustColleague(TypedDict):
    """Somebody who signs in at the office."""

    id: UUID
    name: str
    username: str
    leads: bool
    is_active: bool


class TrustPage(TypedDict):
    """The trust, its schools by name, and who works in its office. `since`: the school year's
    first day, by the office's own setting."""

    name: str
    since: date
    may_change: bool
    fewest: int
    schools: list[TrustSchool]
    colleagues: list[TrustColleague]


def trust_page(staff: Staff, today: date) -> TrustPage:
    """The trust's schools in sums without names. Eight queries. Raises Denied."""
    demand(staff, May.SEE_TRUST)
    trust = Trust.objects.select_related("office").get(office=staff.school_id)
    cut_off = trust.office.cut_off
    since = date(school_year(today, cut_off), cut_off.month, cut_off.day)
    schools = list(trust.schools.order_by("name", "id"))
    ids = [one.id for one in schools]
    children = _counted(Pupil.objects.filter(school_class__isnull=False), ids, n=Count("id"))
    classes = _counted(SchoolClass.objects.filter(closed_on=None), ids, n=Count("id"))
    has_password = ~Q(password__startswith=UNUSABLE_PASSWORD_PREFIX)
    people = _counted(
        Staff.objects.all(), ids, n=Count("id", filter=Q(is_active=True)),
        known=Count("id", filter=has_password),
    )  # fmt: skip
    begun = Lesson.objects.filter(
        starts_at__gte=day_bounds(since)[0], starts_at__lt=day_bounds(today)[1]
    )
    lessons = _counted(begun, ids, n=Count("id"), last=Max("starts_at"))
    current = counting().filter(on__gte=since, value__isnull=False)
    scores = _counted(current, ids, n=Count("id"))
    tested = _counted(
        current.filter(pupil__school_class__isnull=False), ids, n=Count("pupil", distinct=True)
    )
    colleagues = Staff.objects.filter(school=trust.office).order_by("-is_active", "name")
    return {
        "name": trust.name,
        "since": since,
        "may_change": may(staff, May.LEAD_TRUST),
        "fewest": FEWEST_TOLD,
        "schools": [
            {
                "id": one.id,
                "name": one.name,
                "children": children.get(one.id, {}).get("n", 0),
                "most_children": one.most_children,
                "staff": people.get(one.id, {}).get("n", 0),
                "most_staff": one.most_staff,
                "classes": classes.get(one.id, {}).get("n", 0),
                "lessons": lessons.get(one.id, {}).get("n", 0),
                "scores": scores.get(one.id, {}).get("n", 0),
                "tested": _told(
                    tested.get(one.id, {}).get("n", 0), children.get(one.id, {}).get("n", 0)
                ),
                "last_lesson": lessons.get(one.id, {}).get("last"),
                "paused_at": one.paused_at,
                "waits_for_head": not people.get(one.id, {}).get("known", 0),
            }
            for one in schools
        ],
        "colleagues": [
            {
                "id": one.id,
                "name": one.name,
                "username": one.username,
                "leads": one.is_head,
                "is_active": one.is_active,
            }
            for one in colleagues
        ],
    }


def _counted(rows: Any, ids: list[UUID], **sums: Any) -> Mapping[UUID, Any]:
    """Sums by school. One query."""
    found = rows.filter(school__in=ids).order_by().values("school").annotate(**sums)
    return {one["school"]: one for one in found}


def _told(tested: int, children: int) -> int | None:
    """Some of them without the others are as easy to know as too small a group."""
    few = 0 < tested < FEWEST_TOLD or 0 < children - tested < FEWEST_TOLD
    return None if few or 0 < children < FEWEST_TOLD else tested
