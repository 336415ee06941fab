"""The hall's frame: zones of one place and size on every way, at every size and whatever is said; the
page does not scroll. Measured boxes, in CSS pixels."""

from __future__ import annotations

import json
import re
from typing import Any

import pytest
from playwright.sync_api import Page, Route, expect

from tests.support.hall import rail
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


def below(one: list[int]) -> int:
    return one[1] + one[3]


def refuse(route: Route) -> None:
    said = {"message": "The hall says no.", "accepted": "Type another.", "choices": []}
    route.fulfill(status=422, content_type="application/json", body=json.dumps(said))


@pytest.mark.parametrize("size", SIZES)
def test_the_frame_holds_on_every_way_at_every_message(
    visit: Any, lauf: Served, size: str
) -> None:
    width, height, touch, least = SIZES[size]
    viewport = {"width": width, "height": height}
    one = visit(viewport=viewport, has_touch=touch, is_mobile=touch)
    one.hold_time()
    one.be()
    tests = (PRESS_UPS, PLANK, MARKS, TARGET, RUN)
    lesson, at = one.lesson("4 Heron", *tests)
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
        before = measure(page, everybody)
        heights.add((before["messages"][3], before["messages"][1] - before["strip"][1] > 0))

        def holds(when: str) -> None:
            now = measure(page, everybody)
            assert now == before, f"{way}, {when}"

        # The page does not scroll; every zone is whole on it, and none is over another.
        assert before["page"] == [height, width, 0], way
        pad = before.get("pad")
        for name in ("strip", "messages", "tools", "way", "pad"):
            if box := before.get(name):
                assert box[0] >= 0 and box[1] >= 0, (way, name)
                assert box[0] + box[2] <= width and below(box) <= height, (way, name)
        assert below(before["strip"]) <= before["messages"][1]
        assert below(before["messages"]) <= before["tools"][1]
        assert below(before["tools"]) <= before["way"][1]
        if pad:
            beside = pad[0] >= before["way"][0] + before["way"][2]
            assert beside or below(before["way"]) <= pad[1], f"{way}: something runs under the pad"
        # Before a key is pressed: so many of everybody, whole.
        if way in ("list", "target", "grid", "pulse"):
            top, end = before["way"][1], below(before["way"])
            head = page.locator(".way thead")
            top += round(box["height"]) if head.count() and (box := head.bounding_box()) else 0
            whole = [one for one in before["all"] if one[1] >= top - 1 and below(one) <= end + 1]
            wanted = least if way in ("list",) or size == "desk" else 1
            assert len(whole) >= wanted, f"{way}: {len(whole)} whole rows"
        if way in ("tap", "beeps") and size == "desk":
            end = below(before["way"])
            assert all(below(one) <= end + 8 for one in before["all"]), f"{way}: all tiles in view"

        if way in TYPED:
            say_everything(page, way, holds)
        elif way == "tap":
            page.get_by_role("button", name="Start everybody").click()
            expect(page.get_by_role("button", name="Somebody")).to_be_visible()
            holds("started")
            page.get_by_role("button", name="Somebody").click()
            expect(page.get_by_text("Who was it?")).to_be_visible()
            holds("who was it")
            page.route(re.compile(r"/attempts$"), refuse)
            page.locator(".tile:enabled").nth(1).click()
            expect(page.get_by_text("The hall says no.")).to_be_visible()
            holds("a time that is not taken")
            one.ahead(31_000)
            expect(page.get_by_role("button", name=re.compile("left reached"))).to_be_enabled()
            holds("the most is reached")
            one.ahead(0)
        # What is shown is named at every width, and its time is there.
        strip = page.get_by_test_id("strip")
        if way in ("tap", "beeps"):
            assert test[:12] in strip.inner_text(), way
        clocks = strip.locator("[data-testid=clock], [data-testid=stage], [data-testid=left]")
        if way != "pulse":
            assert clocks.count() == 1, way
            box = clocks.bounding_box()
            assert box and box["y"] >= 0 and box["x"] + box["width"] <= width
        small = [name for name in one.small_targets(".hall") if name not in _ROWS]
        assert not touch or not small or size == "lying", (way, small)
    assert len(heights) == 1, "the message line has one height"


#: What is pressed in rows of the list, whose whole row is the target.
_ROWS = ("Why?",)


def say_everything(page: Page, way: str, holds: Any) -> None:
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
    expect(strip).to_contain_text(f"The plan goes on: {PRESS_UPS}")
    expect(primary).to_have_text("Start everybody")
    primary.click()
    expect(strip).to_contain_text(f"The plan waits at {PRESS_UPS}")
    expect(strip.get_by_test_id("clock")).to_have_count(1)
    expect(primary).to_have_count(1)
    page.get_by_role("button", name=re.compile("^Show what is on")).click()
    expect(strip.get_by_test_id("paused")).to_be_visible()
    expect(primary).to_have_text("Go on")


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
    badge = page.get_by_role("button", name=re.compile("1 refused"))
    expect(badge).to_be_visible()
    expect(badge).not_to_contain_text("not sent")
    badge.click()
    listed = page.get_by_role("dialog")
    expect(listed).to_contain_text(name)
    expect(listed).to_contain_text("240")
    expect(listed).to_contain_text("over this test's most")
    listed.get_by_role("link", name="Settle it").click()
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
