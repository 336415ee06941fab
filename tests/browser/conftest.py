"""A served Lauf on demo data, and Chromium to use it with."""

from __future__ import annotations

import json
import time
import uuid
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, ViewportSize, expect, sync_playwright

from tests.support import templates
from tests.support.served import (
    CHROMIUM,
    CHROMIUM_FLAGS,
    ROOT,
    Served,
    served,
)
from tests.support.waits import LIMIT_MS

PHONE: ViewportSize = {"width": 360, "height": 740}
AXE = ROOT / "frontend" / "node_modules" / "axe-core" / "axe.min.js"
expect.set_options(timeout=LIMIT_MS)


@pytest.fixture(scope="session")
def demo_template(tmp_path_factory: pytest.TempPathFactory, worker_id: str) -> str:
    return templates.demo(tmp_path_factory, worker_id)


@pytest.fixture(scope="session")
def server(demo_template: str) -> Iterator[Served]:
    """One server for all tests of a process: starting one takes longer than most of them."""
    with served(demo_template) as running:
        yield running


@pytest.fixture
def lauf(server: Served, demo_template: str) -> Served:
    """The server over a database as it was in the beginning."""
    server.begin_anew(demo_template)
    return server


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
        yield browser
        browser.close()


#: Subject signed in before in this process: the cookies, and the session the server knew them by.
_SESSIONS: dict[str, tuple[Any, ...]] = {}


class Visit:
    """One person's browser: the page, and what went wrong in its console."""

    def __init__(self, browser: Browser, lauf: Served, **context: Any) -> None:
        self.lauf = lauf
        self.url = lauf.url
        self.errors: list[str] = []
        # Without movement on screen nobody waits for it to end. Every visit is the first one to
        # its browser: what it would keep for the next is fetched by nobody.
        self.context = browser.new_context(
            **{"reduced_motion": "reduce", "service_workers": "block", **context}
        )
        self.context.set_default_timeout(LIMIT_MS)
        self.page: Page = self.context.new_page()
        self.page.on("pageerror", lambda error: self.errors.append(str(error)))
        self.page.on(
            "console",
            lambda said: self.errors.append(said.text) if "Content Security" in said.text else None,
        )

    def hold_time(self) -> None:
        """A clock that stands until it is told how far ahead it is; a reload does not move it."""
        start = int(time.time() * 1000)
        self.page.add_init_script(
            f"""window.laufAhead = (ms) => sessionStorage.setItem("ahead", ms);
            window.laufTimeSource = () => {start} + Number(sessionStorage.getItem("ahead") ?? 0);"""
        )

    def ahead(self, ms: int) -> None:
        self.page.evaluate(f"window.laufAhead({ms})")

    def ask(self, method: str, path: str, body: Any = None) -> Any:
        """Ask the API as this browser: what a test needs but does not show. No page is needed."""
        token = next(
            (one["value"] for one in self.context.cookies() if one["name"] == "csrftoken"), ""
        )
        answer = self.context.request.fetch(
            f"{self.url}{path}",
            method=method,
            headers={"X-CSRFToken": token, "Content-Type": "application/json"},
            data=None if body is None else json.dumps(body),
        )
        assert answer.ok, f"{answer.status}: {answer.text()}"
        return None if answer.status == 204 else answer.json()

    def lesson(self, class_name: str, *slugs: str) -> tuple[str, dict[str, str]]:
        """A new lesson of a class with these tests: its id, and its activities by test's name."""
        tests = {test["name"]: test["id"] for test in self.ask("GET", "/api/tests")}
        classes = self.ask("GET", "/api/classes")["classes"]
        made = self.ask(
            "POST",
            "/api/lessons",
            {
                "class_id": next(one["id"] for one in classes if one["name"] == class_name),
                "test_ids": [tests[name] for name in slugs],
                "starts_at": datetime.now(UTC).isoformat(),
                "minutes": 50,
                "place": "Hall",
            },
        )
        page = self.ask("GET", f"/api/lessons/{made['id']}")
        return made["id"], {one["test"]: one["id"] for one in page["activities"]}

    def small_targets(self, within: str, least: int = 48) -> list[str]:
        """Buttons and links there that a hurried thumb would miss."""
        found = self.page.locator(f"{within} :is(button, a, .v-field)").all()
        return [
            one.inner_text() or (one.get_attribute("aria-label") or "?")
            for one in found
            if one.is_visible()
            and (box := one.bounding_box())
            and min(box["width"], box["height"]) < least - 0.5
        ]

    def sign_in(self, username: str = "demo", *, typed: bool = False) -> None:
        """Sign in as one of the demo's people and stand on Today."""
        if typed or not self._begin_with_session(username):
            self.type_sign_in(username)
        else:
            self.page.goto(self.url)
        today = self.page.get_by_role("heading", level=1)
        expect(today).to_contain_text("day")
        self._remember_session(username)

    def be(self, username: str = "demo") -> None:
        """One of the demo's people who has signed in; no page is open yet."""
        if not self._begin_with_session(username):
            self.sign_in(username, typed=True)

    def _begin_with_session(self, username: str) -> bool:
        """Typing a sign-in and checking a password take longer than many a test, so later ones
        begin with a copy of the first one's session; whether there was one."""
        if username not in _SESSIONS:
            return False
        cookies, *session = _SESSIONS[username]
        self.lauf.sql(
            "INSERT INTO django_session VALUES (%s, %s, %s) RETURNING session_key",
            key := uuid.uuid4().hex, *session,
        )  # fmt: skip
        self.context.add_cookies(
            [{**one, "value": key} if one["name"] == "sessionid" else one for one in cookies]
        )
        return True

    def _remember_session(self, username: str) -> None:
        if username in _SESSIONS:
            return
        cookies = self.context.cookies()
        key = next(one["value"] for one in cookies if one["name"] == "sessionid")
        asked = "SELECT session_data, expire_date FROM django_session WHERE session_key = %s"
        _SESSIONS[username] = (cookies, *self.lauf.sql(asked, key)[0])

    def type_sign_in(self, username: str, password: str = "painted-floor-7") -> None:
        self.page.goto(self.url)
        # The field takes the focus once it is in view; typing before that could land in it.
        expect(self.page.get_by_label("User name")).to_be_focused()
        self.page.get_by_label("User name").fill(username)
        self.page.get_by_label("Password").fill(password)
        self.page.keyboard.press("Enter")

    def axe(self) -> list[str]:
        """Accessibility violations on the page as it stands, and those of colour on the other of
        the two floors, which differs in nothing else."""
        found = self._axe("{ resultTypes: ['violations'] }")
        self._turn("dark")
        dark = self._axe("{ resultTypes: ['violations'], runOnly: ['color-contrast'] }")
        self._turn("light")
        return found + [f"dark: {fault}" for fault in dark]

    def faults(self) -> list[str]:
        """What axe finds, and whether the page is wider than the screen: as it stands, and then as
        it is on a phone."""
        found = self.axe() + self.too_wide()
        before = self.page.viewport_size
        assert before is not None
        self.page.set_viewport_size(PHONE)
        # Drawn anew: what is there only on such a screen is there by then.
        self.page.evaluate("() => new Promise((done) => requestAnimationFrame(() => done()))")
        on_phone = self._axe("{ resultTypes: ['violations'] }") + self.too_wide()
        self.page.set_viewport_size(before)
        return found + [f"on a phone: {fault}" for fault in on_phone]

    def too_wide(self) -> list[str]:
        wide = self.page.evaluate("document.documentElement.scrollWidth")
        size = self.page.viewport_size
        screen = size["width"] if size else 0
        return [f"{wide} px on a screen of {screen}"] if wide > screen else []

    def _turn(self, floor: Any) -> None:
        self.page.emulate_media(color_scheme=floor)
        expect(self.page.locator(f".v-theme--{floor}").first).to_be_attached()

    def _axe(self, options: str) -> list[str]:
        session = self.context.new_cdp_session(self.page)

        def run(script: str) -> Any:
            asked = {"expression": script, "awaitPromise": True, "returnByValue": True}
            return session.send("Runtime.evaluate", asked)["result"].get("value")

        if run("typeof axe") != "object":
            run(AXE.read_text())
        violations = run(f"axe.run({options}).then(r => r.violations)")
        session.detach()
        return [f"{v['id']}: {[n['html'][:160] for n in v['nodes'][:3]]}" for v in violations]


@pytest.fixture
def visit(chromium: Browser, lauf: Served) -> Iterator[Any]:
    """Makes visits; afterwards none of them may have met an error."""
    made: list[Visit] = []

    def begin(**context: Any) -> Visit:
        made.append(Visit(chromium, lauf, **context))
        return made[-1]

    yield begin
    errors = [error for one in made for error in one.errors]
    for one in made:
        one.context.close()
    assert errors == []


@pytest.fixture
def downloads(tmp_path: Path) -> Path:
    return tmp_path
