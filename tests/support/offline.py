"""A browser that is killed and opened again, with what it kept in its folder."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from playwright.sync_api import Browser, BrowserContext, Page, expect

from tests.support.served import CHROMIUM, CHROMIUM_FLAGS
from tests.support.waits import LIMIT_MS


@contextmanager
def tablet(chromium: Browser, folder: Path, **more: Any) -> Iterator[BrowserContext]:
    """A browser with what an earlier one left in its folder."""
    context = chromium.browser_type.launch_persistent_context(
        str(folder), executable_path=CHROMIUM, args=CHROMIUM_FLAGS, reduced_motion="reduce",
        **{"viewport": {"width": 1280, "height": 800}, **more},
    )  # fmt: skip
    context.set_default_timeout(LIMIT_MS)
    yield context
    context.close()


def open_page(context: BrowserContext, address: str) -> Page:
    page = context.pages[0]
    page.goto(address)
    expect(page.get_by_role("heading", level=1).first).to_be_attached()
    return page
