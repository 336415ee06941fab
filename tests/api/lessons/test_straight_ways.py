"""A score goes straight: from the typed entry to the answer in few reads, each of them once."""

from __future__ import annotations

import re
import traceback
from collections import Counter
from pathlib import Path
from typing import Any

from django.db import connection
from django.test.utils import CaptureQueriesContext

import lauf.api
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
