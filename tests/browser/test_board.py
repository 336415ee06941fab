"""The class over all its tests: why a score stands where it does, and without names for showing."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page, expect

from tests.support.fields import pick
from tests.support.messages import say
from tests.support.served import Served


def test_a_class_over_its_tests(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be()
    page.goto(f"{one.url}/classes")
    page.locator("ul.classes a", has_text="4 Heron").click()
    grid = page.get_by_role("region", name=say("progress.theClassInAllItsTests"))
    expect(grid.get_by_role("row")).to_have_count(1 + 28)
    expect(grid.get_by_role("button", name="Press-ups in 60 s")).to_be_visible()
    for private in ("Height", "Weight"):
        expect(page.get_by_text(private, exact=True)).to_have_count(0)
    # A press says why; by keyboard too.
    score = grid.get_by_role("row", name="Aaron Pascoe").get_by_role("button").first
    score.press("Enter")
    expect(score).to_have_attribute("aria-expanded", "true")
    expect(grid.get_by_test_id("why")).to_contain_text("Day-to-day variation")
    assert one.faults() == []
    # For showing: no name is on the page, in no corner of it.
    page.get_by_label(say("progress.hideNames")).check()
    expect(grid.get_by_test_id("why")).to_contain_text("Day-to-day variation")
    expect(grid.get_by_role("row", name="Child 1", exact=False).first).to_be_visible()
    source = page.locator("main").inner_html()
    assert "Pascoe" not in source and "Aaron" not in source
    page.get_by_label(say("progress.hideNames")).uncheck()
    pick(page.get_by_label(say("progress.order")), say("progress.whoNeedsACloserLook2"))
    expect(page.get_by_role("heading", name=say("progress.whoNeedsACloserLook"))).to_be_visible()
    expect(grid.get_by_role("row").nth(1)).to_contain_text(say("progress.needsACloserLook"))
