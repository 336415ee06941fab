"""The blocks of a lesson's plan as they were entered and kept. Reads only."""

from __future__ import annotations

from collections.abc import Sequence
from typing import cast
from uuid import UUID

from lauf.catalogue.queries import seen
from lauf.errors import Refused
from lauf.lessons.models import Lesson, PlanBlock, PlanRevision
from lauf.messages import say
from lauf.people.models import Staff
from lauf.rules.planning.blocks import SETTINGS, BlockEntry, BlockKind, TestEntry


def saved_entries(lesson: Lesson) -> list[BlockEntry]:
    """The blocks as they were entered; for a lesson without a plan one for each of its tests. Two
    queries at most."""
    return _planned(lesson) or [*tests_alone(lesson)]


def with_closed(staff: Staff, lesson: Lesson, entries: Sequence[BlockEntry]) -> list[BlockEntry]:
    """A plan as somebody sends it, with the blocks that are closed to them as they are kept: each
    where it was put, or after the block it was kept after where it is not among them. Three queries
    at most."""
    hidden = closed_activities(staff, lesson)
    if not hidden:
        return list(entries)
    saved = saved_entries(lesson)
    kept = {str(one.get("id")): one for one in saved if one.get("activity_id") in hidden}
    found = [kept.pop(str(one.get("id")), one) for one in entries]
    places = {str(one.get("id")): place for place, one in enumerate(saved)}
    for key, one in kept.items():
        before = {str(other.get("id")) for other in saved[: places[key]]}
        after = [n for n, other in enumerate(found, 1) if str(other.get("id")) in before]
        found.insert(max(after, default=0), one)
    return found


def closed_activities(staff: Staff, lesson: Lesson) -> set[UUID]:
    """The tests of a lesson that this person does not see. One query."""
    shown = seen(staff, lesson.activities.order_by(), "protocol__test")
    return set(lesson.activities.exclude(pk__in=shown.values("pk")).values_list("id", flat=True))


def _planned(lesson: Lesson) -> list[BlockEntry]:
    return [entry_of(block) for block in lesson.blocks.select_related("activity__protocol")]


def hall_entries(lesson: Lesson) -> list[BlockEntry]:
    """The blocks as the clock goes by them. Two queries at most."""
    return _planned(lesson) or _unplanned(lesson)


def _unplanned(lesson: Lesson) -> list[BlockEntry]:
    """A lesson without a plan: everything is set up when the clock is started."""
    return [{**one, "setup": 0, "pause": 3} for one in tests_alone(lesson)]


def tests_alone(lesson: Lesson) -> list[TestEntry]:
    """The plan of a lesson before it has one: a block for each of its tests. One query."""
    return [
        {
            "id": activity.id,
            "kind": BlockKind.TEST,
            "label": activity.protocol.test.name,
            "test_id": activity.protocol.test_id,
            "activity_id": activity.id,
        }
        for activity in lesson.activities.select_related("protocol__test")
    ]


def entry_of(block: PlanBlock) -> BlockEntry:
    """A kept block as it was entered, by the activity that was read with it."""
    activity = block.activity
    kept = {
        **block.settings,
        "id": block.id,
        "kind": BlockKind(block.kind),
        "label": block.label,
        "test_id": activity.protocol.test_id if activity else None,
        "activity_id": activity.id if activity else None,
    }
    return cast("BlockEntry", kept)


def kept_entry(entry: BlockEntry, activity_id: UUID | None) -> dict[str, object]:
    """An entry as a plan's revision keeps it: plain JSON, with the activity it got."""
    ids = {"id": entry.get("id"), "test_id": entry.get("test_id"), "activity_id": activity_id}
    return {
        **settings_of(entry),
        **{name: None if value is None else str(value) for name, value in ids.items()},
        "kind": entry["kind"].value,
        "label": entry.get("label", ""),
    }


def entries_of_revision(lesson: Lesson, number: int) -> list[BlockEntry]:
    """The blocks of a plan as it was kept once, as the clock goes by them. Three queries at most.
    Raises Refused for a plan there never was."""
    kept = PlanRevision.objects.filter(lesson=lesson, number=number).first()
    if kept is not None:
        return [
            cast(
                "BlockEntry",
                {
                    **entry,
                    "kind": BlockKind(entry["kind"]),
                    "test_id": UUID(entry["test_id"]) if entry["test_id"] else None,
                    "activity_id": UUID(entry["activity_id"]) if entry["activity_id"] else None,
                },
            )
            for entry in kept.entries
        ]
    if number == lesson.plan_revision:
        return hall_entries(lesson)
    if number == 0:
        return _unplanned(lesson)
    raise Refused(say("This plan is out of date. Reload to see the plan of this lesson."))


def settings_of(entry: BlockEntry) -> dict[str, object]:
    """The settings of a block that were given, as they are kept: plain JSON."""
    names = SETTINGS[entry["kind"]]
    found = {
        name: value
        for name, value in entry.items()
        if name in names and value not in (None, "", [])
    }
    if entry["kind"] == BlockKind.STATIONS and (groups := entry.get("groups")):
        members = [[str(child) for child in group] for group in groups["members"]]
        found["groups"] = {**groups, "members": members}
    return found
