"""Another test done instead, in the middle of its go: its own clock, its own scores, one "now"."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page, expect

from tests.support.fields import choose
from tests.support.hall import rail, type_in
from tests.support.messages import say
from tests.support.served import Served, wait_for

PLANNED, INSTEAD = "Star jumps in 60 s", "Burpees in 30 s"


def test_a_test_swapped_in_the_middle_of_its_go_is_the_new_one_in_everything(
    visit: Any, lauf: Served
) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.hold_time()
    one.be()
    lesson, _ = one.lesson("4 Heron", PLANNED)
    test = next(each for each in one.ask("GET", "/api/tests") if each["name"] == PLANNED)
    block = {"kind": "test", "label": PLANNED, "test_id": test["id"], "setup": 0, "waits": False}
    one.ask("PUT", f"/api/lessons/{lesson}/plan", {"based_on": 0, "blocks": [block]})
    page.goto(f"{one.url}/lessons/{lesson}/hall")
    expect(page.get_by_role("button", name="Start the lesson")).to_be_visible()
    page.locator("body").press("Space")
    expect(page.get_by_role("button", name="Pause", exact=True)).to_be_visible()
    one.ahead(30_000)
    expect(page.get_by_test_id("now")).to_contain_text("Work")

    # The keys are the cell's while one is typed in: Swap is under More.
    page.get_by_role("button", name="More", exact=True).click()
    page.get_by_role("button", name="Swap", exact=True).click()
    choose(page.get_by_role("combobox", name=say("lessons.testToDoInsteadFromNow")), INSTEAD)
    expect(page.get_by_test_id("clock-after")).to_contain_text(
        say("lessons.eachGoNowTakesSecondsS", seconds=30)
    )
    page.get_by_role("dialog").get_by_role("button", name="Swap").press("Enter")
    # Only what is done now wears "now"; what was planned stands beside it, with nothing in.
    expect(rail(page, INSTEAD)).to_contain_text("now")
    expect(page.get_by_role("navigation", name="Blocks").get_by_text("now")).to_have_count(1)
    expect(rail(page, PLANNED)).not_to_contain_text("now")
    # The go that was on begins again and is as long as the new test.
    page.locator("body").press("Space")
    expect(page.get_by_test_id("waiting")).to_have_count(0)
    one.ahead(30_000 + 15_000)
    expect(page.get_by_test_id("now")).to_contain_text("Work")
    expect(page.get_by_test_id("clock")).to_contain_text("25")
    one.ahead(30_000 + 41_000)
    expect(page.get_by_test_id("now")).not_to_contain_text("Work")
    type_in(page, "9", "11")

    kept = wait_for(
        lambda: lauf.sql(
            "SELECT t.name, v.seconds, a.typed "
            "FROM records_attempt a JOIN lessons_activity y ON y.id = a.activity_id "
            "JOIN catalogue_protocolversion v ON v.id = y.protocol_id "
            "JOIN catalogue_test t ON t.id = v.test_id "
            "WHERE y.lesson_id = %s ORDER BY a.recorded_at",
            lesson,
        ),
        lambda rows: len(rows) == 2,
    )
    assert kept == [(INSTEAD, 30, "9"), (INSTEAD, 30, "11")]
    # The only run that counts is of the new test, over its own time.
    runs = lauf.sql(
        "SELECT t.name, r.way, r.wave, r.ended, r.worked_seconds FROM lessons_run r "
        "JOIN lessons_activity y ON y.id = r.activity_id "
        "JOIN catalogue_protocolversion v ON v.id = y.protocol_id "
        "JOIN catalogue_test t ON t.id = v.test_id WHERE y.lesson_id = %s",
        lesson,
    )
    assert runs == [(INSTEAD, "wave", 1, "complete", 30)]
    # Results have both, and say of which nothing is in.
    results = one.ask("GET", f"/api/lessons/{lesson}/results")
    assert {row["test"]: row["recorded"] for row in results["tests"]} == {PLANNED: 0, INSTEAD: 2}
