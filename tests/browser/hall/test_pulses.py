"""Pulses in the hall: counted together, written down, and what they showed."""

from __future__ import annotations

import re
from datetime import timedelta
from typing import Any

from playwright.sync_api import Page, expect

from tests.support.fields import pick
from tests.support.hall import follow, skip_to
from tests.support.messages import say
from tests.support.served import Served, wait_for


def test_an_interval_lesson_with_a_pulse_after_every_activity(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.hold_time()
    one.be()
    lesson, _ = one.lesson("4 Heron", "Star jumps in 30 s")
    page.goto(f"{one.url}/lessons/{lesson}/plan")
    pick(page.get_by_label("Template", exact=True), re.compile("^What raises our pulse"))
    use = page.get_by_role("button", name=say("lessons.useTemplate"))
    expect(use).to_be_enabled()
    use.press("Enter")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("Pulse after burpees")
    dialog.get_by_role("button", name=say("lessons.useThis")).press("Enter")
    expect(page.locator("li.block")).to_have_count(16)
    expect(page.get_by_text(say("lessons.saved"))).to_be_visible()
    # All sixteen blocks, the kit and the children's list are printed on one page.
    printed = page.pdf(format="A4")
    assert len(re.findall(rb"/Type\s*/Page\b", printed)) == 1
    page.get_by_role("link", name="Hall", exact=True).press("Enter")
    expect(page.get_by_role("button", name="Start the lesson")).to_be_visible()
    page.locator("body").press("Space")

    def pulses(block: str, beats: list[int]) -> None:
        """At a pulse check of the lesson: found, counted, and written down, child after child."""
        skip_to(page, block)
        expect(page.get_by_test_id("clock")).to_be_visible()
        page.keyboard.press("Shift+ArrowRight")
        expect(page.get_by_test_id("now")).to_contain_text("Count")
        page.keyboard.press("Shift+ArrowRight")
        # The count is over: the clock folds, and the typing is where the beats go.
        expect(page.locator("input.beats")).to_be_focused()
        expect(page.get_by_test_id("clock")).to_be_visible()
        for number in beats:
            page.keyboard.type(str(number))
            page.keyboard.press("Enter")
        expect(page.get_by_test_id("block")).to_contain_text(block)

    pulses("Pulse at rest", [14, 15, 13, 14, 14])
    pulses("Pulse after the warm-up", [20, 22, 19, 20, 21])
    pulses("Pulse after star jumps", [24, 25, 23, 24, 24])
    page.keyboard.press("Space")
    expect(page.get_by_test_id("paused")).to_be_visible()
    page.reload()
    expect(page.get_by_test_id("paused")).to_be_visible()
    expect(page.get_by_test_id("block")).to_contain_text("Pulse after star jumps")
    page.locator("body").press("Space")
    # The plan said high knees; today it is squats, and the record says so.
    skip_to(page, "High knees")
    follow(page)
    page.keyboard.press("Shift+ArrowRight")  # from get ready to work
    page.keyboard.press("s")
    page.get_by_label(say("lessons.whatToDoFromNowOn")).fill("squats")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("now")).to_contain_text("squats")
    # Every key press is heard, however fast: nine seconds of work, then on.
    one.ahead(9_000)
    page.keyboard.press("Shift+ArrowRight")
    skip_to(page, "Pulse after high knees")
    # While it is found and counted the column gets the name of what was really done.
    expect(page.get_by_role("button", name="After squats", include_hidden=True)).to_have_count(1)
    pulses("Pulse after high knees", [26, 27, 25, 26, 26])
    pulses("Pulse after burpees", [29, 30, 28, 29, 29])
    # However long it takes to write them down, the clock waits; and it knows how long they rested.
    one.ahead(189_000)
    expect(page.get_by_role("button", name=say("lessons.allInContinue"))).to_be_visible()
    expect(page.get_by_test_id("block")).to_contain_text("Pulse after burpees")
    pulses("Pulse after resting", [18, 19, 17, 18, 18])
    expect(page.get_by_label("Seconds of rest before the count")).to_have_value("180")
    expect(
        page.get_by_text("Burpees raised our pulse most. The class median was 174")
    ).to_be_visible()
    one.ahead(249_000)
    expect(page.get_by_role("button", name=say("lessons.allInContinue"))).to_be_visible()
    page.locator("body").press("Space")
    one.ahead(253_000)
    expect(page.get_by_test_id("block")).to_contain_text("What we found out")
    follow(page)
    found = page.get_by_label("What we found")
    expect(found).to_contain_text("Five of us counted our pulse.")
    expect(found).to_contain_text("156 after squats, 174 after Burpees, 108 after resting")
    expect(found).to_contain_text("Burpees raised our pulse most.")
    page.get_by_role("button", name="More", exact=True).click()
    page.get_by_text("What was done").click()
    row = page.get_by_role("row", name=re.compile("High knees squats"))
    expect(row).to_contain_text("instead of high knees")
    expect(row).to_contain_text("9 s of")

    asked = (
        "SELECT p.position, p.moment, p.label, array_agg(p.beats ORDER BY u.given_name) "
        "FROM records_pulsereading p JOIN people_pupil u ON u.id = p.pupil_id "
        "WHERE p.lesson_id = %s GROUP BY 1, 2, 3 ORDER BY 1"
    )
    # The last one typed may still be on its way.
    kept = wait_for(
        lambda: lauf.sql(asked, lesson), lambda rows: sum(len(row[3]) for row in rows) == 30
    )
    assert [row[1:] for row in kept] == [
        ("rest", "", [14, 15, 13, 14, 14]),
        ("warm_up", "", [20, 22, 19, 20, 21]),
        ("activity", "Star jumps", [24, 25, 23, 24, 24]),
        ("activity", "squats", [26, 27, 25, 26, 26]),
        ("activity", "Burpees", [29, 30, 28, 29, 29]),
        ("recovery", "", [18, 19, 17, 18, 18]),
    ]


def test_the_count_is_called_for_everybody(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.hold_time()
    one.be()
    lesson, _ = one.lesson("4 Heron", "Star jumps in 30 s")
    page.goto(f"{one.url}/lessons/{lesson}/pulse")
    page.get_by_role("button", name="Count 10 s together").press("Enter")
    expect(page.get_by_text("Find your pulse")).to_be_visible()
    one.ahead(6_000)
    expect(page.get_by_text("Ready", exact=True)).to_be_visible()
    one.ahead(9_000)
    expect(page.get_by_text("Count", exact=True)).to_be_visible()
    expect(page.get_by_test_id("count")).to_have_text("9")
    one.ahead(int(timedelta(seconds=18.1) / timedelta(milliseconds=1)))
    expect(page.get_by_test_id("count")).to_have_count(0)
    # The beats are typed at once, down the class.
    expect(page.locator("input.beats")).to_be_focused()
    page.keyboard.type("14")
    page.keyboard.press("Enter")
    expect(page.get_by_text("84").first).to_be_visible()
