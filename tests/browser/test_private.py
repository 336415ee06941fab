"""A weight is on the screen of who may see it, and on no wall, in no answer to a wall, and in no
colleague's plan."""

from __future__ import annotations

import re
import time
import uuid
from datetime import UTC, datetime
from typing import Any

from playwright.sync_api import Page, expect

from tests.support.served import Served, wait_for

PRESS_UPS = "Press-ups in 60 s"
#: The weight that was kept, by itself: a clock's milliseconds may hold its digits.
WEIGHED = re.compile(r"\b47[.,]3\b|\b47300\b")


def test_a_weight_stands_on_no_wall_and_closes_only_its_own_block(visit: Any, lauf: Served) -> None:
    head = visit(viewport={"width": 1280, "height": 800})
    head.be("head")
    lesson, activities = head.lesson("4 Heron", "Weight", PRESS_UPS)
    ((child, name),) = lauf.sql(
        "SELECT p.id::text, p.given_name FROM people_pupil p JOIN people_schoolclass c "
        "ON c.id = p.school_class_id WHERE c.name = '4 Heron' ORDER BY p.given_name LIMIT 1"
    )
    for test, typed, more in (("Weight", "47.3", {"variant": ""}), (PRESS_UPS, "23", {})):
        head.ask("POST", f"/api/activities/{activities[test]}/attempts", {
            "id": str(uuid.uuid4()), "pupil_id": child, "typed": typed, "variant": "full",
            "recorded_at": datetime.now(UTC).isoformat(), **more,
        })  # fmt: skip
    blocks = head.ask("GET", f"/api/lessons/{lesson}/timeline")["blocks"]
    assert [one["label"] for one in blocks] == ["Weight", PRESS_UPS]
    state = {"run_id": str(uuid.uuid4()), "revision": 0, "plan_revision": 0, "wall": "scores"}

    def stand_in(block: dict[str, Any]) -> None:
        """The lesson's clock stands in a block, with names and scores for the wall."""
        state["revision"] += 1
        state["anchor_ms"] = int(time.time() * 1000) - block["from_ms"] - 1_000
        state["paused_ms"] = block["from_ms"] + 1_000
        head.ask("PUT", f"/api/lessons/{lesson}/conduct", state)

    wall: Page = visit(viewport={"width": 1280, "height": 800}).page
    heard: list[str] = []
    wall.on("response", lambda answer: heard.append(answer.text()) if "/api/" in answer.url
            and answer.status == 200 else None)  # fmt: skip
    stand_in(blocks[0])
    wall.context.add_cookies(head.context.cookies())
    # It asks once, and then only when it is told of something.
    with wall.expect_response(lambda answer: answer.url.endswith("/wall")):
        wall.goto(f"{head.url}/lessons/{lesson}/projector")
    expect(wall.get_by_test_id("block")).to_contain_text("Weight")
    expect(wall.get_by_test_id("names")).to_have_count(0)
    stand_in(blocks[1])
    expect(wall.get_by_test_id("block")).to_contain_text(PRESS_UPS)
    expect(wall.get_by_test_id("names")).to_contain_text(name)
    expect(wall.get_by_test_id("names")).to_contain_text("23")
    assert heard and not [one for one in heard if WEIGHED.search(one)]

    # A colleague without the permission: the plan is there, its block closed; the hall says so.
    demo = visit(viewport={"width": 1280, "height": 800})
    demo.be()
    page: Page = demo.page
    page.goto(f"{demo.url}/lessons/{lesson}/plan")
    rows = page.locator("li.block")
    expect(rows).to_have_count(2)
    expect(rows.first).to_contain_text("Weight")
    expect(rows.first).to_contain_text("taff who may see growth")
    expect(rows.first.locator(".title")).to_be_disabled()
    page.get_by_role("button", name="Move Weight down").press("Enter")
    expect(rows.nth(1)).to_contain_text("Weight")
    page.get_by_role("button", name="Water", exact=True).press("Enter")
    expect(rows).to_have_count(3)
    in_plan = "SELECT count(*) FROM lessons_planblock WHERE lesson_id = %s"
    wait_for(lambda: lauf.sql(in_plan, lesson), lambda found: found == [(3,)])
    page.reload()
    expect(rows).to_have_count(3)
    expect(rows.nth(1)).to_contain_text("Weight")
    rows_kept = head.ask("GET", f"/api/lessons/{lesson}/plan")["blocks"]
    kept = [one["entry"] for one in rows_kept]
    assert [(one["label"], one["activity_id"]) for one in kept[:2]] == [
        (PRESS_UPS, activities[PRESS_UPS]),
        ("Weight", activities["Weight"]),
    ]
    page.goto(f"{demo.url}/lessons/{lesson}/hall?block={kept[1]['id']}")
    stand_in(blocks[0])
    expect(page.get_by_text("Weight is private")).to_be_visible()
