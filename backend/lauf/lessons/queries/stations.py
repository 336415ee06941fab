"""Stations: who is where in which round, and the cards to print. Reads only."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any
from uuid import UUID

from lauf.errors import NotFound
from lauf.lessons.models import PlanBlock
from lauf.lessons.queries.lessons import lesson_of
from lauf.people.models import Staff
from lauf.rules.planning.blocks import BlockKind
from lauf.rules.planning.rotation import Station, rotate


def rotation_of(entry: dict[str, Any]) -> dict[str, Any]:
    """The rotation of a stations block as entered: by round, the index of each group's station;
    what it gave up, or why there is none."""
    stations = [one for one in entry.get("stations") or () if one["name"].strip()]
    labels = group_names(entry, len(stations))
    answer = {
        "stations": [one["name"].strip() for one in stations],
        "groups": labels,
        "rounds": [],
        "gave_up": [],
        "proved": True,
    }
    try:
        made = rotate(
            [Station(s["name"], frozenset(s.get("loads") or ()), s.get("room") or 1)
             for s in stations],
            len(labels),
            entry.get("rounds") or 0,
        )  # fmt: skip
    except ValueError as problem:
        return {**answer, "gave_up": [f"No rotation: {problem}"]}
    rounds = [list(row) for row in made.rounds]
    return {**answer, "rounds": rounds, "gave_up": list(made.gave_up), "proved": made.proved}


def check_groups(entry: dict[str, Any]) -> None:
    """Groups as they may be kept: each with its children, no child in two. Raises ValueError."""
    groups = entry.get("groups")
    if not groups:
        return
    if len(groups["names"]) != len(groups["members"]):
        raise ValueError("each group has one name and one list of children.")
    put = [str(child) for group in groups["members"] for child in group]
    if len(put) != len(set(put)):
        raise ValueError("a child is in one group only.")


def group_names(entry: dict[str, Any], stations: int) -> list[str]:
    """The names of a block's groups; one for each station while none were made."""
    made = (entry.get("groups") or {}).get("names") or []
    return list(made) or [f"Group {n}" for n in range(1, stations + 1)]


def stations_page(staff: Staff, lesson_id: UUID, position: int) -> dict[str, Any]:
    """A stations block of a lesson: groups with their children, and for each station what is done
    and who comes when. Three queries. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    block = PlanBlock.objects.filter(
        lesson=lesson, position=position, kind=BlockKind.STATIONS
    ).first()
    if block is None:
        raise NotFound("stations")
    entry = block.settings
    made = rotation_of(entry)
    pupils = {
        pupil["id"]: f"{pupil['given_name']} {pupil['family_name']}".strip()
        for pupil in lesson.school_class.pupils.values("id", "given_name", "family_name")
    }
    groups, late = members(entry, len(made["groups"]), list(pupils))
    return {
        "lesson_id": lesson.id,
        "class_name": lesson.school_class.name,
        "label": block.label,
        "work": entry.get("work") or 0,
        "change": entry.get("change") or 0,
        "rounds": made["rounds"],
        "gave_up": made["gave_up"]
        + ([f"New in the class, put to the smallest group: {', '.join(pupils[p] for p in late)}."]
           if late else []),
        "groups": [
            {"name": name, "children": [{"id": p, "name": pupils[p]} for p in group]}
            for name, group in zip(made["groups"], groups, strict=True)
        ],
        "stations": [
            {
                "name": station["name"],
                "loads": station.get("loads") or [],
                "room": station.get("room") or 1,
                "visits": [
                    [made["groups"][g] for g, at in enumerate(row) if at == index]
                    for row in made["rounds"]
                ],
            }
            for index, station in enumerate(s for s in entry["stations"] if s["name"].strip())
        ],
    }  # fmt: skip


def members(
    entry: dict[str, Any], groups: int, pupils: Sequence[UUID]
) -> tuple[list[list[UUID]], list[UUID]]:
    """The children of each group as they were put, and those who joined the class since, who go to
    the smallest. Nobody is in it until groups were made."""
    kept = (entry.get("groups") or {}).get("members") or []
    if not kept:
        return [[] for _ in range(groups)], []
    here = set(pupils)
    found = [[p for one in group if (p := UUID(str(one))) in here] for group in kept]
    put = {pupil for group in found for pupil in group}
    late = [pupil for pupil in pupils if pupil not in put]
    for pupil in late:
        min(found, key=len).append(pupil)
    return found, late
