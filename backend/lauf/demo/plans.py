"""The demo's planned lessons."""

from __future__ import annotations

from typing import Final

from lauf.lessons.actions import save_plan
from lauf.lessons.models import Activity, Lesson
from lauf.lessons.queries.templates import from_template
from lauf.people.models import Staff
from lauf.progress.lesson.groups import propose_groups
from lauf.rules.body.pulse import CountSeconds
from lauf.rules.planning.blocks import (
    BlockEntry,
    BlockKind,
    Groups,
    MovementEntry,
    PulseEntry,
)
from lauf.rules.planning.rotation import GroupsBy

SEED: Final = 20_260


def plan_from(lesson: Lesson, teacher: Staff, template: str) -> None:
    """A lesson planned from a ready template, with groups of four at random."""
    proposed = from_template(teacher, lesson.id, template)
    groups = propose_groups(teacher, lesson.id, GroupsBy.RANDOM, 4, SEED, None)
    entries: list[BlockEntry] = []
    for block in proposed["blocks"]:
        entry = block["entry"]
        if entry["kind"] is BlockKind.STATIONS:
            made = Groups(how=groups["how"], names=groups["names"], members=groups["members"])
            entry = {**entry, "groups": made}
        entries.append(entry)
    save_plan(teacher, lesson.id, based_on=lesson.plan_revision, entries=entries)


def plan_around(activity: Activity) -> None:
    """A lesson around the test: talk, warm-up, pulse, test, water, intervals, cool-down, report."""
    test = activity.protocol.test.name
    levels = [[1, 30], [2, 60], [3, 45], [2, 30], [4, 15], [1, 30]]
    moves: list[MovementEntry] = [
        {"name": "star jumps", "efforts": "25/15/25/15"},
        {"name": "high knees", "efforts": "20/10/10"},
    ]
    pulse: PulseEntry = {
        "kind": BlockKind.PULSE,
        "label": "",
        "count_seconds": CountSeconds.TEN,
        "seconds": 60,
        "hold": 10,
    }
    lesson = activity.lesson
    entries: list[BlockEntry] = [
        {"kind": BlockKind.BRIEFING, "label": "What we do today", "seconds": 150},
        {**pulse, "label": "Pulse at rest"},
        {"kind": BlockKind.WARM_UP, "label": "Warm-up in four levels", "levels": levels},
        {**pulse, "label": "Pulse after the warm-up"},
        {"kind": BlockKind.TEST, "label": test, "test_id": activity.protocol.test_id},
        {"kind": BlockKind.WATER, "label": "Water", "seconds": 90},
        {"kind": BlockKind.INTERVALS, "label": "Jumps and knees", "movements": moves},
        {
            "kind": BlockKind.COOL_DOWN,
            "label": "Cool-down",
            "steps": 40,
            "hold": 3,
            "seconds": 120,
        },
        {"kind": BlockKind.REPORT, "label": "What we found", "seconds": 240},
    ]
    save_plan(lesson.teacher, lesson.id, based_on=lesson.plan_revision, entries=entries)
