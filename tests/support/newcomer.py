"""Somebody whose every press and choice is counted, beyond the digits of scores and Enter."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Locator, Page, expect

from tests.support.fields import choose
from tests.support.messages import say


class Newcomer:
    """Presses and chooses with mouse and keys, and is counted."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.actions = 0

    def press(self, role: Any, name: str | re.Pattern[str]) -> None:
        self.act(self.page.get_by_role(role, name=name, exact=True))

    def act(self, what: Locator) -> None:
        self.actions += 1
        what.click()

    def space(self) -> None:
        self.actions += 1
        self.page.keyboard.press("Space")

    def go(self) -> None:
        """The hall's main button."""
        self.space()

    def tick(self, label: str) -> None:
        self.actions += 1
        self.page.get_by_label(label, exact=True).check()

    def write(self, label: str, words: str) -> None:
        """A name typed into a field: one action."""
        self.actions += 1
        self.page.get_by_label(label, exact=True).fill(words)

    def choose(self, label: str, wanted: str) -> None:
        """A few letters and Enter: one choice."""
        self.actions += 1
        choose(self.page.get_by_role("combobox", name=label), wanted)

    def enter(self, number: int) -> None:
        self.type_in(*(str(14 + count) for count in range(number)))

    def type_in(self, *scores: str) -> None:
        for score in scores:
            self.page.keyboard.type(score)
            self.page.keyboard.press("Enter")

    def pick(self, which: str, number: int) -> None:
        """So many children, by their number: a time of each is taken."""
        tiles = self.page.locator(which)
        if self.page.get_by_label(say("sheet.numberOfTheChildWhoHas")).count():
            numbers = tiles.locator(".number").all_inner_texts()
            self.type_in(*(numbers[:number] or map(str, range(1, number + 1))))
            return
        for count in range(number):
            tiles.nth(count).click()

    def cell(self, row: int, column: int) -> None:
        self.act(self.page.locator(".way tbody tr").nth(row).locator("td").nth(column))


class Fingers(Newcomer):
    """The same by touch, with the pad under the way."""

    def act(self, what: Locator) -> None:
        self.actions += 1
        what.tap()

    def go(self) -> None:
        strip = self.page.get_by_test_id("strip")
        self.act(strip.locator(".v-btn.bg-primary"))

    def choose(self, label: str, wanted: str) -> None:
        """A tap into the field, a few letters, a tap on what was found."""
        self.actions += 1
        box = self.page.get_by_role("combobox", name=label)
        box.fill(wanted)
        self.act(self.page.get_by_role("option", name=wanted, exact=True))

    def type_in(self, *scores: str) -> None:
        pad = self.page.get_by_role("group", name="Pad")
        for score in scores:
            expect(pad).to_be_visible()
            for key in re.findall(r"[a-z ]{2,}|.", score):
                pad.get_by_role("button", name=key, exact=True).tap()
            pad.get_by_role("button", name="Save", exact=True).tap()

    def pick(self, which: str, number: int) -> None:
        for count in range(number):
            self.page.locator(which).nth(count).tap()
