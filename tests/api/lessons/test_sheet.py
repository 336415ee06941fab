"""What the sheet asks of the server: how an entry would be kept, what is put back, which form."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime
from urllib.parse import quote

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from lauf.records.models import Attempt
from tests.api.conftest import World


def test_what_stood_before_is_put_back_exactly_as_it_stood(world: World) -> None:
    """Whatever could be read of it now: a time longer than its clock, said by a partner, under
    conditions of its own."""
    plank = world.lesson_on(0, "plank-limit")
    one, partner = world.pupils[:2]
    path = f"/api/activities/{plank.id}"
    begun = datetime(2026, 3, 10, 9, tzinfo=UTC)
    anchor = int(begun.timestamp() * 1000)
    clock = {"wave": 1, "revision": 1, "way": "taps", "anchor_ms": anchor, "pauses": []}
    run = uuid.uuid4()
    world.teacher.ask("PUT", f"{path}/runs/{run}", clock)
    held = {"run_id": str(run), "sure": True, "counted_by": str(partner.id), "variant": ""}
    first = world.body(one, "9:00~", **held, recorded_at="2026-03-10T09:01:00Z")
    assert world.teacher.ask("POST", f"{path}/attempts", first).status_code == 200
    second = world.body(one, "a", variant="", succeeds=first["id"])
    world.teacher.ask("POST", f"{path}/attempts", second)
    undone = world.body(one, "", restores=first["id"], succeeds=second["id"], why="undone")
    child = world.teacher.ask("POST", f"{path}/attempts", undone).json()
    assert (child["score"]["typed"], child["head"]) == ("9:00~", undone["id"])
    kept = ("typed", "value", "reason", "estimate", "parts", "conditions", "variant", "run_id",
            "counted_by_id", "protocol_id")  # fmt: skip
    rows = {str(row["id"]): row for row in Attempt.objects.values("id", *kept)}
    assert {**rows[undone["id"]], "id": 0} == {**rows[first["id"]], "id": 0}
    # Of another child, or of another try, there is nothing to put back.
    for other in (world.body(partner, "", restores=first["id"]),
                  world.body(one, "", restores=first["id"], try_number=2)):  # fmt: skip
        assert world.teacher.ask("POST", f"{path}/attempts", other).status_code == 404


@pytest.mark.parametrize(
    ("typed", "words", "problem"),
    [
        ("18", "18 reps", ""),
        ("1", "1 rep", ""),
        ("18~", "18 reps, an estimate", ""),
        ("a", "absent", ""),
        ("61", "", "above this test's maximum of 60"),
        ("4o", "", "is not a count"),
    ],
)
def test_how_an_entry_will_be_kept_is_said_before_it_is(
    world: World, typed: str, words: str, problem: str
) -> None:
    path = f"/api/activities/{world.activity.id}/reading"
    with CaptureQueriesContext(connection) as asked:
        said = world.teacher.ask("GET", f"{path}?typed={quote(typed)}").json()
    assert said["words"] == words and problem in said["problem"]
    assert len(asked) - 2 <= 2  # beside the session and its person
    assert Attempt.objects.count() == 0


def test_a_child_not_tested_yet_does_the_usual_form_not_the_hardest(world: World) -> None:
    activity = world.lesson_on(0, "press-ups-row")
    board = world.teacher.ask("GET", f"/api/activities/{activity.id}/lanes").json()
    assert [one["code"] for one in board["variants"]] == ["knees", "full", "raised"]
    assert {child["variant"] for child in board["children"]} == {"full"}
    # Its own afterwards, whatever the others do.
    world.record(world.pupils[0], "9", world.lesson_on(7, "press-ups-row"), variant="knees")
    board = world.teacher.ask("GET", f"/api/activities/{activity.id}/lanes").json()
    assert [child["variant"] for child in board["children"]][:3] == ["knees", "full", "full"]
