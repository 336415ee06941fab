"""A score goes straight: from the typed entry to the answer in few reads, each of them once."""

from __future__ import annotations

import re
import traceback
from collections import Counter
from pathlib import Path
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

import lauf.api
from lauf.lessons.queries import hall
from tests.api.conftest import World

HOUSE = Path(lauf.api.__file__).parents[1]

#: Beside the session and its person.
MOST_SQL = 12
#: Functions that hand a score on, from its address to its row; from its key to the address it is
#: nine (`frontend/src/sheet/straight.test.ts`): twelve in all.
MOST_HANDS = 3


def test_a_typed_score_asks_the_database_for_each_thing_once(world: World) -> None:
    world.post(world.pupils[1], "18")  # what earlier scores add up to is kept from now on
    with CaptureQueriesContext(connection) as asked:
        answer = world.post(world.pupils[0], "21")
    assert answer.json()["score"]["value"] == 21
    said = [re.sub(r"'[^']*'", "?", one["sql"]) for one in asked.captured_queries]
    sql = [one for one in said if "SAVEPOINT" not in one]
    assert len(sql) - 2 <= MOST_SQL, sql
    assert not [one for one, times in Counter(sql).items() if times > 1]


def test_a_typed_score_goes_from_its_address_to_its_row_through_few_hands(world: World) -> None:
    hands: list[str] = []

    def see(execute: Any, sql: str, *asked: Any) -> Any:
        if sql.startswith('INSERT INTO "records_attempt"'):
            frames = [
                one for one in traceback.extract_stack() if HOUSE in Path(one.filename).parents
            ]
            hands.extend(f"{Path(one.filename).relative_to(HOUSE)}: {one.name}" for one in frames)
        return execute(sql, *asked)

    with connection.execute_wrapper(see):
        assert world.post(world.pupils[0], "21").status_code == 200
    way = [one for one in hands if not one.startswith("web/")]
    assert way[0] == "api/lessons/scores.py: record_attempt"
    assert len(way) <= MOST_HANDS, way


def _rooms(frames: traceback.StackSummary) -> list[str]:
    """Modules of ours that stand on the stack, the outermost first, each once."""
    ours = [Path(one.filename) for one in frames if HOUSE in Path(one.filename).parents]
    rooms = [str(one.relative_to(HOUSE).with_suffix("")) for one in ours]
    return list(dict.fromkeys(one for one in rooms if not one.startswith("web/")))


def test_a_block_goes_straight_from_the_plan_to_the_halls_clock(world: World) -> None:
    """On the page it is `usePlan` before, `useConductor` and `useHall` after: nine in all, and of
    shapes an entry, its row, the rule's block and its stretch of time."""
    ways: dict[str, list[str]] = {}

    def see(execute: Any, sql: str, *asked: Any) -> Any:
        if sql.startswith('INSERT INTO "lessons_planblock"'):
            ways["kept"] = _rooms(traceback.extract_stack())
        return execute(sql, *asked)

    lesson = f"/api/lessons/{world.activity.lesson_id}"
    body = {"based_on": 0, "blocks": [{"kind": "briefing", "label": "Welcome", "seconds": 60}]}
    with connection.execute_wrapper(see):
        answer = world.teacher.ask("PUT", f"{lesson}/plan", body)
    assert answer.status_code == 200, answer.content
    assert ways["kept"] == ["api/lessons/plans", "lessons/actions/plans"]

    made = hall.timeline

    def seen(plan: Any) -> Any:
        ways["called"] = _rooms(traceback.extract_stack())
        return made(plan)

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(hall, "timeline", seen)
        page = world.teacher.ask("GET", f"{lesson}/timeline").json()
    assert [one["label"] for one in page["blocks"]] == ["Welcome"]
    # It reads the plan by `lessons/queries/planning`, and has the rules put it on the clock.
    assert ways["called"] == ["api/lessons/conduct", "lessons/queries/hall"]
