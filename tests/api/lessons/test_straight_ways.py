"""A score goes straight: from the typed entry to the answer in few reads, each of them once."""

from __future__ import annotations

import re
from collections import Counter

from django.db import connection
from django.test.utils import CaptureQueriesContext

from tests.api.conftest import World

#: Beside the session and its person.
MOST_SQL = 16


def test_a_typed_score_asks_the_database_for_each_thing_once(world: World) -> None:
    world.post(world.pupils[1], "18")  # what earlier scores add up to is kept from now on
    with CaptureQueriesContext(connection) as asked:
        answer = world.post(world.pupils[0], "21")
    assert answer.json()["score"]["value"] == 21
    said = [re.sub(r"'[^']*'", "?", one["sql"]) for one in asked.captured_queries]
    sql = [one for one in said if "SAVEPOINT" not in one]
    assert len(sql) - 2 <= MOST_SQL, sql
    assert not [one for one, times in Counter(sql).items() if times > 1]
