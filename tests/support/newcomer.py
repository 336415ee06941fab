"""Somebody whose every press and choice is counted, beyond digits and Enter."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page

from tests.support.fields import choose


class Newcomer:
    """Presses and chooses, and is counted."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.actions = 0

    def press(self, role: Any, name: str) -> None:
        self.actions += 1
        self.page.get_by_role(role, name=name, exact=True).click()

    def space(self) -> None:
        self.actions += 1
        self.page.keyboard.press("Space")

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
        for count in range(number):
            self.page.keyboard.type(str(14 + count))
            self.page.keyboard.press("Enter")
