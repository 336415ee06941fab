"""Reads of the school itself: what the head of PE sets, the log, and moving up."""

from __future__ import annotations

import re
from datetime import datetime
from typing import Any, Final

from django.contrib.sessions.models import Session
from django.utils import timezone

from lauf.people.models import Change, Invitation, MoveUp, Pupil, School, SecondFactor, Staff
from lauf.people.permissions import May, demand, rights_of
from lauf.rules.body.ages import YEAR_GROUP_WAYS


def school_settings(staff: Staff) -> dict[str, Any]:
    """All that the head of PE sets: the school, its year groups, houses and terms, how long records
    are kept, and who signs in with what they may. Six queries. Raises Denied."""
    demand(staff, May.MANAGE_SCHOOL)
    school = staff.school
    related = ("invitation", "second_factor")
    people = school.staff.select_related(*related).prefetch_related("classes")
    return {
        "ways": [
            {"name": way, "rows": [{"name": name, "age": age} for name, age in rows]}
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
        "year_groups": [dict(row) for row in school.year_groups.values("id", "name", "age")],
        "houses": [dict(row) for row in school.houses.values("id", "name")],
        "terms": [dict(row) for row in school.terms.values("kind", "name", "starts", "ends")],
        "staff": [
            {
                "id": one.id,
                "name": one.name,
                "username": one.username,
                "role": one.role,
                "email": one.email,
                "second_factor": _has_second_factor(one),
                **rights_of(one)._asdict(),
                "is_active": one.is_active,
                "has_password": one.has_usable_password(),
                "link_until": link.expires_at if (link := _link_of(one)) else None,
                "class_ids": [group.id for group in one.classes.all()],
            }
            for one in people.order_by("-is_active", "name")
        ],
    }


def _scheme_shown(kept: dict[str, Any]) -> dict[str, Any] | None:
    if not kept:
        return None
    marks = [{"begins": begins, "words": words} for begins, words in kept["words"]]
    return {name: kept[name] for name in ("below", "points", "fewest")} | {"marks": marks}


def _has_second_factor(staff: Staff) -> bool:
    factor: SecondFactor | None = getattr(staff, "second_factor", None)
    return factor is not None and factor.proved_at is not None


def _link_of(staff: Staff) -> Invitation | None:
    return getattr(staff, "invitation", None)


#: How many lines of the log are shown.
LOG_LINES: Final = 200


#: What is about things that not everybody may see: bodies, care, who may see them, files.
_SENSITIVE: Final = (Change.What.SEEN, Change.What.CARE, Change.What.PERMISSION)


def change_log(
    staff: Staff, before: int | None = None, *, sensitive: bool = False
) -> list[dict[str, Any]]:
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


def own_account(staff: Staff, session_key: str) -> dict[str, Any]:
    """What a person sees of their own sign-in; `session_key` is of the device that asks. Three
    queries."""
    factor = SecondFactor.objects.filter(staff=staff, proved_at__isnull=False).first()
    alive = Session.objects.filter(expire_date__gt=timezone.now()).values("session_key")
    return {
        "username": staff.username,
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


def last_move_up(school: School) -> MoveUp | None:
    """The last time the school moved up, unless that was taken back. One query."""
    return school.moves_up.filter(undone_at=None).first()


def is_scored_since(school: School, at: datetime) -> bool:
    """Whether a score or a pulse was kept after a moment. Two queries."""
    children = Pupil.objects.filter(school=school)
    return (
        children.filter(attempts__received_at__gt=at).exists()
        or children.filter(pulses__received_at__gt=at).exists()
    )


def move_up_preview(staff: Staff) -> dict[str, Any]:
    """Where each class would go, by its place among the year groups, and whether the last move up
    can still be taken back. Six queries. Raises Denied."""
    demand(staff, May.MANAGE_SCHOOL)
    school = staff.school
    years = list(school.year_groups.all())
    following = {one.id: later for one, later in zip(years, [*years[1:], None], strict=True)}
    children: dict[Any, list[dict[str, Any]]] = {}
    for pupil in Pupil.objects.filter(school=school, school_class__isnull=False):
        row = {"id": pupil.id, "name": pupil.name}
        children.setdefault(pupil.school_class_id, []).append(row)
    last = last_move_up(school)
    rows = []
    for one in school.classes.filter(closed_on=None).select_related("year_group"):
        to = following[one.year_group_id]
        rows.append(
            {
                "id": one.id,
                "name": one.name,
                "year_group": one.year_group.name,
                "to_name": _moved_name(one.name, one.year_group.name, to.name) if to else one.name,
                "to_year_group_id": to.id if to else None,
                "pupils": children.get(one.id, []),
            }
        )
    return {
        "year_groups": [{"id": one.id, "name": one.name} for one in years],
        "classes": rows,
        "last": last.at if last else None,
        "undoable": last is not None and not is_scored_since(school, last.at),
    }


_NUMBER: Final = re.compile(r"\d+")


def _moved_name(name: str, year: str, to: str) -> str:
    """A class's name a year on: its year group's number, where the name holds it, is the next one's
    ("3 Owl" in Year 3 becomes "4 Owl"), else the name stays."""
    before, after = _NUMBER.search(year), _NUMBER.search(to)
    if not before or not after:
        return name
    return re.sub(rf"(?<!\d){before[0]}(?!\d)", after[0], name, count=1)
