"""What tests and pictures do in the hall: its rail, its clock, the cell that is typed in."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from tests.support.fields import pick
from tests.support.messages import say


def rail(page: Page, block: str) -> Locator:
    """The button of a block whose name begins so; on a phone it stands in the drawer."""
    viewport = page.viewport_size
    if viewport and viewport["width"] <= 600:
        page.get_by_role("button", name="More", exact=True).tap()
    blocks = page.get_by_role("navigation", name="Blocks")
    return blocks.get_by_role("button", name=re.compile(f"^{re.escape(block)}"))


def cell(page: Page) -> Locator:
    """The cell of the list that is typed in."""
    return page.locator(".child.active input")


def type_in(page: Page, *entries: str) -> None:
    """Each by its keys and Enter. What is asked about one is answered with "it is right" before the
    next is typed, as somebody does who looks up after every score."""
    for typed in entries:
        page.keyboard.type(typed)
        page.keyboard.press("Enter")
        settled = page.locator("[data-state=saving], [data-state=waiting]")
        expect(settled).to_have_count(0)
        if page.locator(".message.asks").get_by_role("button", name="It is right").count():
            page.keyboard.press("!")
            expect(page.locator(".message.asks")).to_have_count(0)


def skip_to(page: Page, block: str) -> None:
    """Skip, by key, until the clock that was started has come to a block."""
    expect(page.get_by_role("button", name="Start the lesson")).to_have_count(0)
    now = page.get_by_test_id("block")
    for _ in range(60):
        if block in now.inner_text():
            return
        page.keyboard.press("Shift+ArrowRight")
    raise AssertionError(f"no block {block}")


def follow(page: Page) -> bool:
    """Back to what the clock is at, where a sheet that was typed in has stayed; whether it had."""
    button = page.get_by_role("button", name=re.compile("^Back to the current block"))
    stayed = button.count() > 0
    if stayed:
        button.click()
    return stayed


def by_one_clock(page: Page) -> Locator:
    """The button that starts the whole class together, where it would go in waves."""
    start = page.get_by_role("button", name=re.compile("^Start (everyone|wave 1)$"))
    expect(start).to_be_visible()
    goes = page.get_by_label(say("sheet.whoGoesWithThisClock"))
    if goes.count():
        pick(goes, say("sheet.everyone"))
    return page.get_by_role("button", name=say("sheet.startEveryone"))
