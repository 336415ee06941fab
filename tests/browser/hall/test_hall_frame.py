"""The hall's frame: zones of one place and size on every way, at every size and whatever is said;
the page does not scroll. Measured boxes, in CSS pixels."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

import pytest
from playwright.sync_api import Page, Route, expect

from tests.support.hall import rail
from tests.support.messages import say
from tests.support.served import Served

PRESS_UPS = "Press-ups in 60 s"
PLANK = "Plank to 30 s"
JUMP = "Standing long jump"
MARKS = "Vertical jump, two marks"
TARGET = "240 in 25 minutes"
RUN = "20 m shuttle run, even steps from 8.5 km/h"
#: A way: its test, and what of everybody stands in it.
WAYS = {
    "list": (PRESS_UPS, ".child"),
    "tally": (PRESS_UPS, ".area"),
    "partner": (PRESS_UPS, ".turns li"),
    "tap": (PLANK, ".tiles li"),
    "measure": (MARKS, ".everybody button"),
    "target": (TARGET, "tbody tr"),
    "beeps": (RUN, ".tiles li"),
    "grid": ("", "tbody tr"),
    "pulse": ("", "tbody tr"),
}
TYPED = ("list", "partner", "measure", "target", "grid", "pulse")
#: Width, height, touch; the least of everybody in view where the way is a list of them.
SIZES = {
    "desk": (1280, 800, False, 10),
    "upright": (800, 1280, True, 14),
    "lying": (640, 400, True, 3),
    "phone": (360, 740, True, 3),
}
ZONES = {
    "strip": "[data-testid=strip]", "messages": "[data-testid=messages]",
    "tools": ".hall > .tools", "way": ".hall > .way", "pad": ".pad-zone .pad",
}  # fmt: skip
#: The boxes of the zones, and of everybody in the way, by the page and by the way.
MEASURE = """([zones, everybody]) => {
  const box = (one) => { const b = one.getBoundingClientRect();
    return [b.x, b.y, b.width, b.height].map(Math.round) };
  const found = {};
  for (const [name, which] of Object.entries(zones)) {
    const one = document.querySelector(which);
    if (one && one.getClientRects().length) found[name] = box(one);
  }
  const way = document.querySelector(zones.way);
  found.all = [...document.querySelectorAll(everybody)].map((one) => {
    const [x, y, w, h] = box(one); return [x, y + Math.round(way.scrollTop), w, h] });
  const root = document.scrollingElement;
  found.page = [root.scrollHeight, root.scrollWidth, root.scrollTop];
  return found;
}"""


def measure(page: Page, everybody: str) -> dict[str, Any]:
    found: dict[str, Any] = page.evaluate(MEASURE, [ZONES, everybody])
    return found


@dataclass
class Frame:
    """The zones and everybody in the way as they were before anything was said."""

    page: Page
    way: str
    everybody: str

    def __post_init__(self) -> None:
        self.before = measure(self.page, self.everybody)

    def holds(self, when: str) -> None:
        assert measure(self.page, self.everybody) == self.before, f"{self.way}, {when}"


def below(one: list[int]) -> int:
    return one[1] + one[3]


def refuse(route: Route) -> None:
    said = {"message": "The hall says no.", "accepted": "Type another.", "choices": []}
    route.fulfill(status=422, content_type="application/json", body=json.dumps(said))


@pytest.mark.parametrize("size", SIZES)
def test_the_frame_holds_on_every_way_at_every_message(visit: Any, lauf: Served, size: str) -> None:
    width, height, touch, _ = SIZES[size]
    viewport = {"width": width, "height": height}
    one = visit(viewport=viewport, has_touch=touch, is_mobile=touch)
    one.hold_time()
    one.be()
    lesson, at = one.lesson("4 Heron", PRESS_UPS, PLANK, MARKS, TARGET, RUN)
    page: Page = one.page
    heights = set()
    for way, (test, everybody) in WAYS.items():
        page.unroute_all()
        page.goto(f"{one.url}/lessons/{lesson}/{way}?activity={at.get(test, '')}")
        expect(page.locator(everybody).first).to_be_visible()
        page.evaluate("document.fonts.ready")
        if way in TYPED:
            expect(page.locator("[data-cell]").first).to_be_visible()
        if touch and way in TYPED:
            expect(page.locator(ZONES["pad"])).to_be_visible()
        frame = Frame(page, way, everybody)
        heights.add(frame.before["messages"][3])
        stands_right(frame, width, height)
        shows_enough(frame, size)
        names_itself(frame, test, width)
        if way in TYPED:
            say_everything(page, way, frame.holds)
        elif way == "tap":
            tap_everything(one, frame)
        if touch and size != "lying":
            assert [name for name in one.small_targets(".hall") if name not in _ROWS] == [], way
    assert len(heights) == 1, "the message line has one height"


def stands_right(frame: Frame, width: int, height: int) -> None:
    """The page does not scroll; every zone is whole on it, and none is over another."""
    now, way = frame.before, frame.way
    assert now["page"] == [height, width, 0], way
    for name in ZONES:
        if box := now.get(name):
            assert box[0] >= 0 and box[1] >= 0, (way, name)
            assert box[0] + box[2] <= width and below(box) <= height, (way, name)
    for upper, lower in pairwise(("strip", "messages", "tools", "way")):
        assert below(now[upper]) <= now[lower][1], (way, upper, lower)
    if pad := now.get("pad"):
        beside = pad[0] >= now["way"][0] + now["way"][2]
        assert beside or below(now["way"]) <= pad[1], f"{way}: something runs under the pad"


def shows_enough(frame: Frame, size: str) -> None:
    """Before a key is pressed: so many of everybody, whole."""
    page, way, now = frame.page, frame.way, frame.before
    top, end = now["way"][1], below(now["way"])
    if way in ("tap", "beeps") and size == "desk":
        assert all(below(one) <= end + 8 for one in now["all"]), f"{way}: all tiles in view"
    if way not in ("list", "target", "grid", "pulse") or (way != "list" and size != "desk"):
        return
    head = page.locator(".way thead")
    if head.count() and (box := head.bounding_box()):
        top += round(box["height"])
    whole = [one for one in now["all"] if one[1] >= top - 1 and below(one) <= end + 1]
    assert len(whole) >= SIZES[size][3], f"{way}: {len(whole)} whole rows"


def names_itself(frame: Frame, test: str, width: int) -> None:
    """What is shown is named at every width, and its one clock is there."""
    strip = frame.page.get_by_test_id("strip")
    if frame.way in ("tap", "beeps"):
        assert test[:12] in strip.inner_text(), frame.way
    if frame.way == "pulse":
        return
    clock = strip.locator("[data-testid=clock], [data-testid=stage], [data-testid=left]")
    assert clock.count() == 1, frame.way
    box = clock.bounding_box()
    assert box and box["y"] >= 0 and box["x"] + box["width"] <= width


def tap_everything(one: Any, frame: Frame) -> None:
    """Everything that the message line says while times are taken."""
    page = frame.page
    page.get_by_role("button", name="Start wave 1").click()
    expect(page.get_by_role("button", name=say("sheet.unknownChild"))).to_be_visible()
    frame.holds("started")
    page.get_by_role("button", name=say("sheet.unknownChild")).click()
    expect(page.get_by_text("Who was it?")).to_be_visible()
    frame.holds("who was it")
    page.route(re.compile(r"/attempts$"), refuse)
    page.locator(".tile:enabled").nth(1).click()
    expect(page.get_by_text("The hall says no.")).to_be_visible()
    frame.holds("a time that is not taken")
    one.ahead(31_000)
    expect(page.get_by_role("button", name=re.compile("left reached"))).to_be_enabled()
    frame.holds("the most is reached")
    one.ahead(0)


#: What is pressed in rows of the list, whose whole row is the target.
_ROWS = ("Why?",)


def say_everything(page: Page, way: str, holds: Callable[[str], None]) -> None:
    """Everything that the message line says while entries are typed."""
    said = page.get_by_test_id("messages")
    page.keyboard.type("1")
    expect(page.locator("input[data-cell], input.field")).not_to_have_count(0)
    holds("something is typed")
    page.keyboard.type("%")
    page.keyboard.press("Enter")
    if way == "measure":  # first the standing mark, which is not a cell
        page.locator("input[data-cell]").click()
        page.keyboard.type("99999%")
        page.keyboard.press("Enter")
    expect(said.get_by_test_id("problem")).to_be_visible()
    holds("an entry that is not taken")
    page.keyboard.type("12")
    expect(said.get_by_role("button", name=re.compile("12 for")).first).to_be_visible()
    holds("something is held")
    page.keyboard.press("Backspace")
    page.keyboard.press("Backspace")
    page.keyboard.press(">")
    expect(page.get_by_role("button", name=re.compile("[1-9] open")), way).to_be_visible()
    holds("it stays open")


def test_one_clock_where_a_test_is_opened_by_hand(visit: Any, lauf: Served) -> None:
    """The plan's clock and the test's were both on, with two start buttons."""
    one = visit(viewport={"width": 1280, "height": 800})
    one.hold_time()
    one.be()
    lesson, _ = one.lesson("4 Heron", PRESS_UPS, PLANK)
    page: Page = one.page
    page.goto(f"{one.url}/lessons/{lesson}/hall")
    strip = page.get_by_test_id("strip")
    primary = strip.locator(".v-btn.bg-primary")
    page.get_by_role("button", name="Start the lesson").click()
    expect(page.get_by_role("button", name="Pause")).to_be_visible()
    rail(page, PLANK).click()
    expect(strip.get_by_test_id("clock")).to_have_text("0.0")
    expect(strip).to_contain_text(say("lessons.thePlanIsGoingOnBlock", block=PRESS_UPS))
    expect(primary).to_have_text("Start wave 1")
    primary.click()
    expect(strip).to_contain_text(say("lessons.thePlanIsWaitingAtBlock", block=PRESS_UPS))
    expect(strip.get_by_test_id("clock")).to_have_count(1)
    expect(primary).to_have_count(1)
    page.get_by_role("button", name=re.compile("^Back to the current block")).click()
    expect(strip.get_by_test_id("paused")).to_be_visible()
    expect(primary).to_have_text(say("lessons.continue"))


def test_the_badge_says_refused_and_opens_what_it_counts(visit: Any, lauf: Served) -> None:
    """It counted refusals as not sent yet, and could not be pressed."""
    one = visit(viewport={"width": 1280, "height": 800})
    one.be()
    lesson, at = one.lesson("4 Heron", PRESS_UPS, JUMP)
    page: Page = one.page
    page.goto(f"{one.url}/lessons/{lesson}/list?activity={at[PRESS_UPS]}")
    expect(page.locator(".child.active input")).to_be_focused()
    name = page.locator("#child-0 .name strong").inner_text().strip()
    page.keyboard.type("240")
    page.keyboard.press("Enter")
    page.keyboard.press(">")  # later
    expect(page.locator("#child-0 [data-state=refused]")).to_be_visible()
    expect(page.locator("#child-1")).to_have_class(re.compile("active"))
    expect(page.get_by_test_id("count")).to_have_text("0 / 28")
    page.reload()
    expect(page.locator("#child-0 .score")).to_have_text("240")
    page.goto(one.url)
    badge = page.get_by_role("button", name=re.compile("1 not accepted"))
    expect(badge).to_be_visible()
    expect(badge).not_to_contain_text("not sent")
    badge.click()
    listed = page.get_by_role("dialog")
    expect(listed).to_contain_text(name)
    expect(listed).to_contain_text("240")
    expect(listed).to_contain_text("above the maximum of this test")
    listed.get_by_role("link", name=say("app.dealWithIt")).click()
    page.get_by_role("button", name="1 open").click()
    page.keyboard.press("<")
    page.keyboard.type("24")
    page.keyboard.press("Enter")
    expect(page.locator("#child-0 [data-state=saved]")).to_be_visible()
    expect(badge).to_have_count(0)


def test_a_second_press_on_an_empty_field_passes_nobody(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    one.be()
    lesson, at = one.lesson("4 Heron", PRESS_UPS, JUMP)
    page: Page = one.page
    page.add_init_script("window.at = 1e6; performance.now = () => window.at")
    page.goto(f"{one.url}/lessons/{lesson}/list?activity={at[PRESS_UPS]}")
    expect(page.locator(".child.active input")).to_be_focused()
    page.keyboard.type("18")
    page.keyboard.press("Enter")
    page.evaluate("window.at += 300")
    page.keyboard.press("Enter")
    expect(page.locator("#child-1")).to_have_class(re.compile("active"))
    page.evaluate("window.at += 500")
    page.keyboard.press("Enter")  # meant: this child is passed
    expect(page.locator("#child-2")).to_have_class(re.compile("active"))


def test_digits_go_to_the_field_of_own_targets(visit: Any, lauf: Served) -> None:
    """They went nowhere, because a button had the keyboard."""
    one = visit(viewport={"width": 1280, "height": 800})
    one.be()
    lesson, at = one.lesson("4 Heron", PRESS_UPS, JUMP)
    page: Page = one.page
    page.goto(f"{one.url}/lessons/{lesson}/list?activity={at[PRESS_UPS]}")
    expect(page.locator(".child.active input")).to_be_focused()
    page.get_by_role("button", name="Own targets").click()
    first = page.get_by_role("region", name="Own targets").locator("table input").first
    expect(first).to_be_focused()
    page.keyboard.type("21")
    expect(first).to_have_value("21")
    expect(page.locator(".child.active input")).to_have_value("")


#: What is drawn anew from now on: the zone, or the row, in which something changed.
DRAWN = """window.drawn = new Set();
new MutationObserver((all) => { for (const { target } of all) {
  const at = target.nodeType === 1 ? target : target.parentElement;
  const where = at?.closest(".child, [data-testid=strip], [data-testid=messages], .tools, .rail,"
    + " .app-bar, .drawer");
  const name = where?.id || where?.dataset.testid || where?.className || at?.className || "?";
  window.drawn.add(String(name));
} }).observe(document.body, { subtree: true, childList: true, attributes: true,
  characterData: true });"""


def test_keeping_a_score_draws_its_row_and_the_zones_that_say_it(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    one.be()
    lesson, at = one.lesson("4 Heron", PRESS_UPS, JUMP)
    page: Page = one.page
    page.goto(f"{one.url}/lessons/{lesson}/list?activity={at[PRESS_UPS]}")
    expect(page.locator(".child.active input")).to_be_focused()
    page.evaluate(DRAWN)
    page.keyboard.type("18")
    page.keyboard.press("Enter")
    expect(page.locator("#child-0 [data-state=saved]")).to_be_visible()
    expect(page.get_by_test_id("announcement")).not_to_be_empty()
    rows = [name for name in page.evaluate("[...window.drawn]") if name.startswith("child-")]
    assert set(rows) == {"child-0", "child-1"}, "the row that is kept, and the one typed in next"
