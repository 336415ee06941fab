"""What is typed while a sheet is on its way goes into it: how long it takes to come changes nothing
of what is kept."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from playwright.sync_api import Page, Route, expect

from tests.support.hall import cell, rail
from tests.support.messages import say
from tests.support.served import Served, wait_for

JUMP = "Standing long jump"
REACH = "Sit and reach at the wall"
VALUES = "SELECT typed FROM records_attempt WHERE activity_id = %s ORDER BY recorded_at"


def hold_back(page: Page) -> Callable[[], None]:
    """The table of all tests does not come until what is returned is called."""
    waiting: list[Route] = []
    let_go: list[bool] = []
    page.route("**/grid*", lambda route: route.continue_() if let_go else waiting.append(route))

    def release() -> None:
        let_go.append(True)
        for route in waiting:
            route.continue_()

    return release


def test_what_is_typed_before_a_table_is_there_goes_into_it(visit: Any, lauf: Served) -> None:
    """All of it went nowhere, and its first key to the sheet that was left."""
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be()
    lesson, activities = one.lesson("4 Heron", JUMP, REACH)
    release = hold_back(page)
    page.goto(f"{one.url}/lessons/{lesson}/hall?activity={activities[JUMP]}&way=list")
    expect(cell(page)).to_be_focused()
    rail(page, "All tests").click()
    for typed in ("120", "121", "1244"):
        page.keyboard.type(typed)
        if typed == "1244":
            page.keyboard.press("Backspace")
        else:
            page.keyboard.press("Enter")
    ahead = page.get_by_text(say("lessons.typedEarlyKeys"))
    expect(ahead).to_contain_text("120 ⏎ 121 ⏎ 124")
    release()
    table = page.locator(".way tbody input[data-cell]")
    expect(table).to_be_focused()
    expect(table).to_have_value("124")
    expect(ahead).to_have_count(0)
    page.keyboard.press("Enter")
    kept = wait_for(lambda: lauf.sql(VALUES, activities[JUMP]), lambda rows: len(rows) == 3)
    assert [typed for (typed,) in kept] == ["120", "121", "124"]
    rows = page.locator(".way tbody tr")
    for number, shown in enumerate(("120 cm", "121 cm", "124 cm")):
        expect(rows.nth(number)).to_contain_text(shown)


def test_what_was_typed_ahead_of_a_sheet_that_is_left_goes_nowhere_else(
    visit: Any, lauf: Served
) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be()
    lesson, activities = one.lesson("4 Heron", JUMP, REACH)
    hold_back(page)
    page.goto(f"{one.url}/lessons/{lesson}/hall?activity={activities[JUMP]}&way=list")
    expect(cell(page)).to_be_focused()
    rail(page, "All tests").click()
    page.keyboard.type("120")
    expect(page.get_by_text(say("lessons.typedEarlyKeys"))).to_be_visible()
    rail(page, REACH).click()
    field = page.locator(".way input[data-cell]")
    expect(field).to_be_focused()
    expect(field).to_have_value("")
    expect(page.get_by_text(say("lessons.typedEarlyKeys"))).to_have_count(0)
    assert not lauf.sql(VALUES, activities[JUMP]) + lauf.sql(VALUES, activities[REACH])
