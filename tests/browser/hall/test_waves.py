"""Tests in two waves, taken by taps or to beeps: each wave has its own clock."""

from __future__ import annotations

from collections import Counter
from typing import Any

from playwright.sync_api import Page, expect

from tests.support.fields import pick
from tests.support.messages import say
from tests.support.served import Served, wait_for

PLANK_30 = "Plank to 30 s"
RUN = "20 m shuttle run, even steps from 8.5 km/h"
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
    pick(page.get_by_label(say("sheet.whatTheNextTapRecords")), "absent")
    tiles.nth(13).click()
    page.get_by_role("button", name="Start wave 1").click()
    expect(page.get_by_test_id("going")).to_have_text("13 going")
    one.ahead(12_000)
    tiles.nth(0).click()
    one.ahead(31_000)
    page.get_by_role("button", name="All 12 left reached 30 s").click()
    page.get_by_role("button", name=say("sheet.nextWaveWave", wave=2)).click()
    expect(page.get_by_role("button", name="Start wave 2")).to_be_visible()
    expect(tiles).to_have_count(14)
    kept = wait_for(lambda: lauf.sql(KEPT_BY_WAVE, activities[PLANK_30]), lambda r: len(r) == 14)
    assert Counter(kept) == {
        (1, "absent", None): 1, (1, None, 12_000): 1, (1, None, 30_000): 12,
    }  # fmt: skip
    page.reload()
    expect(page.get_by_role("button", name=say("sheet.nextWaveWave", wave=2))).to_be_visible()


def test_the_second_wave_runs_to_beeps_of_its_own(visit: Any, lauf: Served) -> None:
    """One run stood for both waves: the second was a second go of the first."""
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.hold_time()
    one.be()
    lesson, activities = one.lesson("4 Heron", RUN)
    page.goto(f"{one.url}/lessons/{lesson}/beeps?activity={activities[RUN]}")
    ready, shuttle = 5_000, 72_000 / 8.5
    running, tiles = page.get_by_test_id("running"), page.locator("button.tile")

    def all_stop() -> None:
        page.get_by_role("button", name=say("sheet.stopAll")).click()
        page.get_by_role("alertdialog").get_by_role("button", name=say("sheet.stopAll")).click()
        expect(page.get_by_test_id("stage")).to_have_text("End")

    page.get_by_role("button", name="Start wave 1").click()
    expect(running).to_have_text("14 running")
    one.ahead(int(ready + 3 * shuttle + 300))
    expect(page.get_by_test_id("stage")).to_have_text("1.4")
    all_stop()
    # The second has its own beeps from the first line on; nobody of it has run, none of it is out.
    page.get_by_role("button", name=say("sheet.nextWaveWave", wave=2)).click()
    expect(tiles).to_have_count(14)
    expect(running).to_have_text("14 running")
    begun = int(ready + 3 * shuttle + 300)
    page.get_by_role("button", name="Start wave 2").click()
    page.reload()
    expect(running).to_have_text("14 running")
    one.ahead(begun + int(ready + 5 * shuttle + 300))
    expect(page.get_by_test_id("stage")).to_have_text("1.6")
    all_stop()
    kept = wait_for(
        lambda: lauf.sql(
            "SELECT wave, try_number, typed FROM records_attempt WHERE activity_id = %s",
            activities[RUN],
        ),
        lambda rows: len(rows) == 28,
    )
    assert Counter(kept) == {(1, 1, "1.3"): 14, (2, 1, "1.5"): 14}
    runs = "SELECT wave, try_number, ended FROM lessons_run WHERE activity_id = %s"
    told = wait_for(
        lambda: lauf.sql(runs, activities[RUN]),
        lambda rows: [row[2] for row in rows].count("complete") == 2,
    )
    assert sorted(told) == [(1, 1, "complete"), (2, 1, "complete")]
