"""A hold in two waves, taken by taps: each wave has its own clock."""

from __future__ import annotations

from collections import Counter
from typing import Any

from playwright.sync_api import Page, expect

from tests.support.served import Served, wait_for

PLANK_30 = "Plank to 30 s"
KEPT_BY_WAVE = "SELECT wave, reason, value FROM records_attempt WHERE activity_id = %s"


def test_a_clock_belongs_to_the_wave_that_goes_by_it(visit: Any, lauf: Served) -> None:
    """The children who hold second had tiles, and "all left reached it" gave them the top score
    before they had begun."""
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.hold_time()
    one.be()
    lesson, activities = one.lesson("4 Heron", PLANK_30)
    page.goto(f"{one.url}/lessons/{lesson}/tap?activity={activities[PLANK_30]}")
    tiles = page.locator("button.tile")
    expect(tiles).to_have_count(14)
    # Whoever is not there is said to be absent before the clock starts.
    page.get_by_label("What the next tap keeps").select_option(label="absent")
    tiles.nth(13).click()
    page.get_by_role("button", name="Start wave 1").click()
    expect(page.get_by_test_id("going")).to_have_text("13 going")
    one.ahead(12_000)
    tiles.nth(0).click()
    one.ahead(31_000)
    page.get_by_role("button", name="All 12 left reached 30 s").click()
    page.get_by_role("button", name="To wave 2").click()
    expect(page.get_by_role("button", name="Start wave 2")).to_be_visible()
    expect(tiles).to_have_count(14)
    kept = wait_for(lambda: lauf.sql(KEPT_BY_WAVE, activities[PLANK_30]), lambda r: len(r) == 14)
    assert Counter(kept) == {
        (1, "absent", None): 1, (1, None, 12_000): 1, (1, None, 30_000): 12,
    }  # fmt: skip
    page.reload()
    expect(page.get_by_role("button", name="To wave 2")).to_be_visible()
