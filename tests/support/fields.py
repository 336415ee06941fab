"""What tests do in fields that many screens have."""

from __future__ import annotations

import re

from playwright.sync_api import Locator


def choose(box: Locator, wanted: str) -> None:
    """Choose in a searchable list by key: one that is filtered between press and release takes no
    click."""
    box.fill(wanted)
    box.page.get_by_role("option", name=wanted, exact=True).wait_for()
    box.press("Enter")


def pick(box: Locator, wanted: str | re.Pattern[str]) -> None:
    """Choose a line of a list that opens by key or press. A list that is drawn anew between press
    and release takes no click: it is pressed and released at once."""
    box.press("ArrowDown")
    option = box.page.get_by_role("option", name=wanted, exact=True)
    option.wait_for()
    option.dispatch_event("click")
