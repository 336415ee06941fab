"""Why a child has no score: on every way, and once for all tests of a lesson."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page, expect

from tests.support.fields import choose, pick
from tests.support.hall import cell, rail
from tests.support.messages import say
from tests.support.served import Served, wait_for

JUMP = "Standing long jump"
SHOULDER = "Shoulder reach, both sides"
REACH = "Sit and reach at the wall"
BEEPS = "20 m shuttle run, even steps from 8.5 km/h"
PRESS_UPS = "Press-ups in 60 s"
STANDING = """
    SELECT t.name, a.reason, a.value FROM records_attempt a
    JOIN lessons_activity l ON l.id = a.activity_id
    JOIN catalogue_protocolversion v ON v.id = l.protocol_id
    JOIN catalogue_test t ON t.id = v.test_id
    WHERE l.lesson_id = %s AND NOT EXISTS
        (SELECT 1 FROM records_attempt b WHERE b.succeeds_id = a.id) ORDER BY 1
"""


def standing(lauf: Served, lesson: str, number: int) -> list[tuple[Any, ...]]:
    return list(wait_for(lambda: lauf.sql(STANDING, lesson), lambda rows: len(rows) == number))


def test_absent_is_said_once_for_all_tests_and_taken_back_as_once(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be()
    lesson, activities = one.lesson("4 Heron", JUMP, REACH, SHOULDER)
    # The other tests are on the device before anything is typed.
    with (
        page.expect_response(f"**/{activities[REACH]}/lanes"),
        page.expect_response(f"**/{activities[SHOULDER]}/lanes"),
    ):
        page.goto(f"{one.url}/lessons/{lesson}/hall?activity={activities[JUMP]}&way=list")
    expect(cell(page)).to_be_focused()
    page.keyboard.type("a")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("messages")).to_contain_text("for all 3 tests")
    kept = standing(lauf, lesson, 3)
    assert [reason for _, reason, _ in kept] == ["absent"] * 3
    rail(page, "All tests").click()
    expect(page.locator(".way tbody tr").first).to_contain_text("absent")
    # Undo in the table that it is seen in, and in which it was not done.
    page.keyboard.press("Control+z")
    back = wait_for(
        lambda: lauf.sql(STANDING, lesson),
        lambda rows: {reason for _, reason, _ in rows} == {"withdrawn"},
    )
    assert sorted(name for name, _, _ in back) == sorted([SHOULDER, REACH, JUMP])
    rail(page, JUMP).click()
    expect(page.locator(".way input").first).to_be_focused()
    # What a child has done stays: only what is empty is said.
    page.keyboard.type("120")
    page.keyboard.press("Enter")
    rail(page, REACH).click()
    expect(page.locator(".way input[data-cell]")).to_be_focused()
    page.keyboard.type("k")
    page.keyboard.press("Enter")
    rows = wait_for(
        lambda: lauf.sql(STANDING, lesson),
        lambda rows: sum(reason == "no_kit" for _, reason, _ in rows) == 2,
    )
    assert (JUMP, None, 1200) in rows


def test_a_runner_who_is_not_there_is_not_running(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.hold_time()
    one.be()
    lesson, activities = one.lesson("4 Heron", BEEPS)
    page.goto(f"{one.url}/lessons/{lesson}/beeps?activity={activities[BEEPS]}")
    tiles = page.locator(".tiles li")
    pick(page.get_by_label(say("sheet.whoGoesWithThisClock")), say("sheet.everyone"))
    expect(page.get_by_test_id("running")).to_have_text("28 running")
    pick(page.get_by_label(say("sheet.whatTheNextTapRecords")), "absent")
    tiles.nth(2).get_by_role("button").first.click()
    expect(tiles.nth(2)).to_contain_text("absent")
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_test_id("running")).to_have_text("27 running")
    one.ahead(40_000)
    page.get_by_role("button", name=say("sheet.stopAll")).click()
    page.get_by_role("dialog").get_by_role("button", name=say("sheet.stopAll")).click()
    kept = standing(lauf, lesson, 28)
    assert [reason for _, reason, _ in kept].count("absent") == 1


def test_whoever_is_not_counted_leaves_the_area_to_the_next(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be()
    lesson, activities = one.lesson("4 Heron", PRESS_UPS)
    page.goto(f"{one.url}/lessons/{lesson}/tally?activity={activities[PRESS_UPS]}")
    areas = page.locator("ol.areas > li")
    expect(areas).to_have_count(6)
    first, second = (areas.nth(n).locator(".name").inner_text() for n in (0, 1))
    areas.first.get_by_role("button", name=say("sheet.someoneElseOrWhyNot")).click()
    choose(page.get_by_role("combobox", name="Who is counted instead of"), "absent")
    ((_, reason, _),) = standing(lauf, lesson, 1)
    assert reason == "absent"
    expect(areas.first.locator(".name")).not_to_have_text(first)
    expect(areas.nth(1).locator(".name")).to_have_text(second)
    page.keyboard.press("Control+z")
    expect(areas.first.locator(".name")).to_have_text(first)
    wait_for(
        lambda: lauf.sql(STANDING, lesson), lambda rows: [one[1] for one in rows] == ["withdrawn"]
    )
