"""A browser that is killed and opened again, with what it kept in its folder."""

from __future__ import annotations

import re
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, Final

from django.utils import timezone
from playwright.sync_api import Browser, BrowserContext, Page, expect

from tests.support.devices import Device
from tests.support.messages import say
from tests.support.served import CHROMIUM, CHROMIUM_FLAGS, Served, wait_for
from tests.support.waits import LIMIT_MS

#: What stands in a lesson, by test.
KEPT: Final = """
    SELECT t.name, a.typed FROM records_attempt a
    JOIN lessons_activity c ON c.id = a.activity_id
    JOIN catalogue_protocolversion v ON v.id = c.protocol_id
    JOIN catalogue_test t ON t.id = v.test_id
    WHERE c.lesson_id = %s AND coalesce(a.reason, '') <> 'withdrawn'
      AND NOT EXISTS (SELECT 1 FROM records_attempt l WHERE l.succeeds_id = a.id)
"""
#: A clock that can be put ahead; in a browser that is opened anew it is the real one again.
AHEAD: Final = """window.laufAhead = (ms) => sessionStorage.setItem("ahead", ms);
window.laufTimeSource = () => Date.now() + Number(sessionStorage.getItem("ahead") ?? 0);"""


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


def lesson_with(teacher: Device, *tests: str) -> tuple[str, dict[str, str]]:
    """A lesson of today with these tests: its id, and its activities by test's name."""
    classes = teacher.ask("GET", "/api/classes")["classes"]
    known = {one["name"]: one["id"] for one in teacher.ask("GET", "/api/tests")}
    new = {
        "class_id": next(one["id"] for one in classes if one["name"] == "4 Heron"),
        "test_ids": [known[name] for name in tests],
        "starts_at": timezone.now().isoformat(),
        "minutes": 60,
        "place": "Hall",
    }
    lesson = teacher.ask("POST", "/api/lessons", new)["id"]
    page = teacher.ask("GET", f"/api/lessons/{lesson}")
    return lesson, {one["test"]: one["id"] for one in page["activities"]}


class Hall:
    """A lesson on a tablet without network, way by way."""

    def __init__(self, context: BrowserContext, url: str, lesson: str, at: dict[str, str]) -> None:
        self.page = context.pages[0]
        self.lesson = f"{url}/lessons/{lesson}"
        self.at = at

    def way(self, name: str, test: str) -> Page:
        self.page.goto(f"{self.lesson}/{name}?activity={self.at[test]}")
        self.stays()
        return self.page

    def stays(self) -> None:
        """The page is all there, without network."""
        expect(self.page.get_by_role("heading", level=1).first).to_be_attached()
        expect(self.page.locator("[data-loading]")).to_have_count(0)
        expect(self.page.get_by_text(say("parts.thisPageIsNotOnThisDevice"))).to_have_count(0)

    def again(self) -> None:
        self.page.reload()
        self.stays()

    def ahead(self, ms: int) -> None:
        self.page.evaluate(f"window.laufAhead({ms})")

    def type(self, *entries: str) -> None:
        for entry in entries:
            self.page.keyboard.type(entry)
            self.page.keyboard.press("Enter")
        expect(self.page.locator("[data-state=saving]")).to_have_count(0)


def prepared(context: BrowserContext, lauf: Served, lesson: str) -> None:
    """Signed in, and the lesson is on this device."""
    context.add_init_script(AHEAD)
    page = open_page(context, lauf.url)
    page.get_by_role("button", name=re.compile("Robin Ashgrove")).click()
    expect(page.get_by_test_id("ready")).to_contain_text("on this device")
    wait_for(lambda: page.evaluate("localStorage.getItem('lauf.ready') ?? ''"),
             lambda found: lesson in found)  # fmt: skip
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
