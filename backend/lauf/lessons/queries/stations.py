"""Stations: who is where in which round, and the cards to print. Reads only."""

from __future__ import annotations

from collections.abc import Sequence
from typing import cast
from uuid import UUID

from typing_extensions import TypedDict

from lauf.errors import NotFound
from lauf.lessons.models import PlanBlock
from lauf.lessons.queries.entries import entry_of
from lauf.lessons.queries.lessons import lesson_of
from lauf.messages import say
from lauf.people.models import Staff
from lauf.rules.planning.blocks import BlockKind, StationsEntry, stations_of
from lauf.rules.planning.demands import Load
from lauf.rules.planning.rotation import Station, rotate


class Rotation(TypedDict):
    """By round, the index of each group's station; what it gave up, or why there is none."""

    stations: list[str]
    groups: list[str]
    rounds: list[list[int]]
    gave_up: list[str]
    proved: bool


def rotation_of(entry: StationsEntry) -> Rotation:
    """The rotation of a stations block as entered."""
    stations = stations_of(entry)
    labels = group_names(entry, len(stations))
    answer: Rotation = {
        "stations": [one["name"] for one in stations],
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
        return {**answer, "gave_up": [say("No rotation is possible. {problem}", problem=problem)]}
    rounds = [list(row) for row in made.rounds]
    return {**answer, "rounds": rounds, "gave_up": list(made.gave_up), "proved": made.proved}


def group_names(entry: StationsEntry, stations: int) -> list[str]:
    """The names of a block's groups; one for each station while none were made."""
    groups = entry.get("groups")
    return list(groups["names"] if groups else ()) or [
        say("Group {n}", n=n) for n in range(1, stations + 1)
    ]


class GroupChild(TypedDict):
    """A child of a group."""

    id: UUID
    name: str


class GroupRow(TypedDict):
    """A group and its children."""

    name: str
    children: list[GroupChild]


class StationCard(TypedDict):
    """A station with the groups that come in each round."""

    name: str
    loads: list[Load]
    room: int
    visits: list[list[str]]


class StationsPage(TypedDict):
    """A stations block of a lesson; `work` and `change` in seconds."""

    lesson_id: UUID
    class_name: str
    label: str
    work: int
    change: int
    rounds: list[list[int]]
    gave_up: list[str]
    groups: list[GroupRow]
    stations: list[StationCard]


def stations_page(staff: Staff, lesson_id: UUID, position: int) -> StationsPage:
    """A stations block of a lesson: groups with their children, and for each station what is done
    and who comes when. Three queries. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    block = PlanBlock.objects.filter(
        lesson=lesson, position=position, kind=BlockKind.STATIONS
    ).first()
    if block is None:
        raise NotFound(say("rota of stations"))
    entry = cast("StationsEntry", entry_of(block))
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
        + ([_added_late([pupils[p] for p in late])] if late else []),
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
            for index, station in enumerate(stations_of(entry))
        ],
    }  # fmt: skip


def members(
    entry: StationsEntry, groups: int, pupils: Sequence[UUID]
) -> tuple[list[list[UUID]], list[UUID]]:
    """The children of each group as they were put, and those who joined the class since, who go to
    the smallest. Nobody is in it until groups were made."""
    made = entry.get("groups")
    kept = made["members"] if made else []
    if not kept:
        return [[] for _ in range(groups)], []
    here = set(pupils)
    found = [[p for one in group if (p := UUID(str(one))) in here] for group in kept]
    put = {pupil for group in found for pupil in group}
    late = [pupil for pupil in pupils if pupil not in put]
    for pupil in late:
        min(found, key=len).append(pupil)
    return found, late


def _added_late(names: Sequence[str]) -> str:
    return say("New in the class and added to the smallest group: {names}.", names=", ".join(names))
