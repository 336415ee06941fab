"""Whatever plan a teacher makes, change by change: it is kept as it is, adds up, and is called."""

from __future__ import annotations

from collections import Counter
from itertools import pairwise
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from lauf.catalogue.models import ProtocolVersion
from lauf.records.models import Attempt
from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.blocks import BlockKind
from tests.api.conftest import MANY, World
from tests.support.plans import as_entry

KINDS = [kind for kind in BlockKind if kind is not BlockKind.TEST]
#: What is done to a plan: a kind of change, and two numbers that say where.
CHANGES = st.tuples(
    st.sampled_from(["add", "add test", "remove", "move", "order", "fit"]),
    st.integers(0, 99),
    st.integers(0, 99),
)


def test_any_changes_leave_a_plan_that_adds_up_and_can_be_called(world: World) -> None:
    path = f"/api/lessons/{world.activity.lesson_id}"
    own = str(world.activity.protocol.test_id)
    world.record(world.pupils[0], "20")
    tests = sorted(
        str(one)
        for one in ProtocolVersion.objects.filter(test__school=world.school, test__private=False)
        .values_list("test_id", flat=True)
        .distinct()
    )

    def changed(plan: list[dict[str, Any]], change: tuple[str, int, int]) -> Any:
        what, here, there = change
        if what == "add":
            kind = KINDS[here % len(KINDS)]
            new = {**BLOCK_KINDS[kind].new, "label": kind.value}
            plan.insert(there % (len(plan) + 1), new)
        elif what == "add test":
            new = {"kind": "test", "label": "", "test_id": tests[here % len(tests)]}
            plan.insert(there % (len(plan) + 1), new)
        elif what == "remove":
            gone = plan[here % len(plan)]
            # What was scored stays in the plan; the refusal is another test's.
            if len(plan) > 1 and gone.get("test_id") != own:
                plan.remove(gone)
        elif what == "move":
            plan.insert(there % len(plan), plan.pop(here % len(plan)))
        else:
            return what
        return None

    @settings(MANY, max_examples=10)
    @given(st.lists(CHANGES, min_size=1, max_size=8))
    def change_by_change(changes: list[tuple[str, int, int]]) -> None:
        page = world.teacher.ask("GET", f"{path}/plan").json()
        for change in changes:
            plan = [as_entry(block) for block in page["blocks"]]
            proposal = changed(plan, change)
            body = {"based_on": page["revision"], "blocks": plan}
            if proposal:
                said = world.teacher.ask("POST", f"{path}/plan/{proposal}", body)
                if said.status_code == 422:
                    assert proposal == "fit" and "too long" in said.json()["message"]
                    continue
                before, plan = plan, [as_entry(block) for block in said.json()["blocks"]]
                names = Counter(block["label"] for block in before)
                assert Counter(block["label"] for block in plan) == names, "nothing added or lost"
                if proposal == "fit":
                    assert said.json()["left_seconds"] >= 0
                body["blocks"] = plan
            kept = world.teacher.ask("PUT", f"{path}/plan", body)
            assert kept.status_code == 200, kept.content
            page = kept.json()
            assert page["total_seconds"] == sum(block["seconds"] for block in page["blocks"])
            assert page["left_seconds"] == page["minutes"] * 60 - page["total_seconds"]
            assert [one["entry"]["kind"] for one in page["blocks"]] == [one["kind"] for one in plan]
            assert world.teacher.ask("GET", f"{path}/plan").json() == page, "kept as it was said"
        called = world.teacher.ask("GET", f"{path}/timeline").json()
        assert called["total_ms"] == page["total_seconds"] * 1000
        spans = [(block["from_ms"], block["to_ms"]) for block in called["blocks"]]
        assert [to - begun for begun, to in spans] == [
            block["seconds"] * 1000 for block in page["blocks"]
        ]
        assert all(one[1] == following[0] for one, following in pairwise(spans))
        assert Attempt.objects.filter(activity=world.activity).count() == 1, "no score is lost"

    change_by_change()
