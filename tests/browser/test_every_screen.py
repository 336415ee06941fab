"""Every screen of the router: read out, enlarged, touched, and on both floors."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from typing import Any, Final

import pytest
from playwright.sync_api import Page, ViewportSize, expect

from tests.browser.conftest import PHONE, Visit

DESK: Final[ViewportSize] = {"width": 1280, "height": 800}
#: A window of 1280 x 800 at 200 % and at 400 % (WCAG 2.2, 1.4.4 and 1.4.10).
ENLARGED: Final[tuple[ViewportSize, ...]] = (
    {"width": 640, "height": 400},
    {"width": 320, "height": 256},
)
#: What a finger misses: less than 44 px either way (WCAG 2.2, 2.5.5). A link in a sentence is as
#: high as its line; a score cell is pressed by its row, a sign in a field by its field.
SMALL: Final = """() => [...document.querySelectorAll(
    'button, a, [role=button], [role=tab], select, input:not([type=hidden])')].filter((one) => {
  if (!one.checkVisibility({ visibilityProperty: true, opacityProperty: true })) return false;
  if (one.closest('.v-field') && !one.matches('input')) return false;
  if (one.matches('a') && getComputedStyle(one).display === 'inline') return false;
  const box = one.matches('input, select')
    ? one.closest('.v-field, .v-selection-control, label, [data-row], li, td') ?? one : one;
  const { width, height, right, bottom } = box.getBoundingClientRect();
  return width && height && right > 0 && bottom > 0 && Math.min(width, height) < 43.5;
}).map((one) => `small: ${one.ariaLabel || one.innerText || one.className}`)"""
#: Letters under 14 px, outside drawings.
TINY: Final = """() => {
  const found = new Set();
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let at = texts.nextNode(); at; at = texts.nextNode()) {
    const inside = at.parentElement;
    if (!at.data.trim() || inside.closest('script, style, noscript, svg')) continue;
    if (inside.checkVisibility({ visibilityProperty: true, opacityProperty: true })
        && parseFloat(getComputedStyle(inside).fontSize) < 13.9)
      found.add(`tiny: ${at.data.trim()}`);
  }
  return [...found];
}"""


def of_class(one: Visit) -> Mapping[str, str]:
    group = next(c for c in one.ask("GET", "/api/classes")["classes"] if c["name"] == "4 Heron")
    at = f"/classes/{group['id']}"
    child = one.ask("GET", f"/api{at}")["pupils"][0]["id"]
    week = one.ask("GET", "/api/weeks")[-1]["id"]
    challenge = one.ask("GET", f"/api/weeks/{week}")["challenges"][0]
    weeks = f"/challenges/weeks/{week}"
    return {
        "today": "/", "classes": "/classes", "board": at, "list": f"{at}/list",
        "next": f"{at}/next", "handouts": f"{at}/hand-outs", "child": f"/pupils/{child}",
        "challenges": "/challenges", "week": weeks, "set": f"{weeks}/set?on={challenge['on']}",
        "wall": f"{weeks}/wall", "series": f"/challenges/series/{group['id']}",
        "challenge": f"/challenges/{challenge['id']}", "warm-up": "/challenges/warm-up?number=7",
        "account": "/account", "new lesson": "/lessons/new", "lost": "/nowhere",
        "help": "/help", "mine": "/mine", "goes": f"{weeks}/goes",
    }  # fmt: skip


def of_lesson(one: Visit) -> Mapping[str, str]:
    lesson, _ = one.lesson(
        "4 Heron", "Press-ups in 60 s", "Standing long jump", "Shuttles in 3 min"
    )
    at = f"/lessons/{lesson}"
    ways = ("list", "tally", "tap", "measure", "beeps", "partner", "pulse", "grid")
    return {
        "plan": f"{at}/plan", "hall": f"{at}/hall", "results": f"{at}/results",
        "projector": f"{at}/projector", **{way: f"{at}/{way}" for way in ways},
    }  # fmt: skip


def of_school(one: Visit) -> Mapping[str, str]:
    test = next(t for t in one.ask("GET", "/api/tests") if t["name"] == "Press-ups in 60 s")["id"]
    at = f"/tests/{test}"
    return {
        "catalogue": "/catalogue", "test": at, "edit": f"{at}/edit", "copy": f"{at}/copy",
        "new test": "/tests/new", "benchmarks": f"{at}/benchmarks", "batteries": "/batteries",
        "laps": "/laps", "games": "/games", "school": "/school", "picture": "/school/picture",
        "move up": "/school/move-up", "begin": "/school/begin",
    }  # fmt: skip


def opened(page: Page, address: str) -> None:
    page.goto(address)
    expect(page.get_by_role("heading", level=1).first).to_be_attached()
    expect(page.locator("[data-loading]")).to_have_count(0)


@pytest.mark.parametrize(
    ("who", "screens"),
    [("demo", of_class), ("demo", of_lesson), ("head", of_school)],
    ids=["class", "lesson", "school"],
)
def test_every_screen_is_for_everybody(
    visit: Any, who: str, screens: Callable[[Visit], Mapping[str, str]]
) -> None:
    desk = visit(viewport=DESK)
    desk.be(who)
    touched = visit(viewport=DESK, has_touch=True, is_mobile=True)
    touched.be(who)
    faults: dict[str, list[str]] = {}
    for name, path in screens(desk).items():
        opened(desk.page, f"{desk.url}{path}")
        found = desk.faults()
        opened(touched.page, f"{touched.url}{path}")
        for size in (DESK, PHONE):
            touched.page.set_viewport_size(size)
            found += touched.page.evaluate(SMALL) + touched.page.evaluate(TINY)
        for size in ENLARGED:
            desk.page.set_viewport_size(size)
            found += [f"enlarged: {fault}" for fault in desk.too_wide()]
        desk.page.set_viewport_size(DESK)
        touched.page.set_viewport_size(DESK)
        if found:
            faults[name] = list(dict.fromkeys(found))
    assert faults == {}, json.dumps(faults, indent=1, ensure_ascii=False)
    assert desk.errors == touched.errors == []
