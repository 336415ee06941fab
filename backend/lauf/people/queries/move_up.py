"""Reads of moving up: where each class would go."""

from __future__ import annotations

import re
from collections import defaultdict
from datetime import datetime
from typing import Final
from uuid import UUID

from typing_extensions import TypedDict

from lauf.people.models import MoveUp, Pupil, School, Staff
from lauf.people.permissions import May, demand
from lauf.people.shapes import Named


class MovingClass(TypedDict):
    """Where a class would go; without a year group after its own, its children leave."""

    id: UUID
    name: str
    year_group: str
    to_name: str
    to_year_group_id: UUID | None
    pupils: list[Named]


class MoveUpPreview(TypedDict):
    """Where every class would go; `last` is when the school moved up last, `undoable` whether that
    can still be taken back."""

    year_groups: list[Named]
    classes: list[MovingClass]
    last: datetime | None
    undoable: bool


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


def move_up_preview(staff: Staff) -> MoveUpPreview:
    """Where each class would go, by its place among the year groups, and whether the last move up
    can still be taken back. Six queries. Raises Denied."""
    demand(staff, May.MANAGE_SCHOOL)
    school = staff.school
    years = list(school.year_groups.all())
    following = {one.id: later for one, later in zip(years, [*years[1:], None], strict=True)}
    children: dict[UUID | None, list[Named]] = defaultdict(list)
    for pupil in Pupil.objects.filter(school=school, school_class__isnull=False):
        children[pupil.school_class_id].append({"id": pupil.id, "name": pupil.name})
    last = last_move_up(school)
    rows: list[MovingClass] = []
    for one in school.classes.filter(closed_on=None).select_related("year_group"):
        to = following[one.year_group_id]
        rows.append(
            {
                "id": one.id,
                "name": one.name,
                "year_group": one.year_group.name,
                "to_name": _moved_name(one.name, one.year_group.name, to.name) if to else one.name,
                "to_year_group_id": to.id if to else None,
                "pupils": children[one.id],
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
