"""A lesson on a phone of 360 pixels, by touch alone, with the server away."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Final

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.support.devices import Device
from tests.support.hall import by_one_clock
from tests.support.messages import say
from tests.support.offline import AHEAD, KEPT, Hall, lesson_with, prepared, tablet
from tests.support.served import Served, served, wait_for

BOUNCE: Final = "Speed bounce in 30 s"
PRESS: Final = "Press-ups in 60 s"
JUMP: Final = "Vertical jump, two marks"
PLANK: Final = "Plank to the limit"
TARGET: Final = "240 in 25 minutes"
PHONE: Final = {"viewport": {"width": 360, "height": 740}, "has_touch": True, "is_mobile": True}


@pytest.fixture
def lauf(demo_template: str) -> Iterator[Served]:
    """A server of its own, that others do not miss when it is away."""
    with served(demo_template) as running:
        yield running


def press(page: Page, *entries: str) -> None:
    """Each entry by the pad's keys, and its Save."""
    pad = page.locator(".pad[role=group]")
    for entry in entries:
        for key in entry:
            pad.get_by_role("button", name=key, exact=True).tap()
        pad.get_by_role("button", name=say("sheet.save"), exact=True).tap()
    expect(page.locator("[data-state=saving]")).to_have_count(0)


def fits(page: Page) -> None:
    assert page.evaluate("document.documentElement.scrollWidth") <= 360, page.url


def test_a_phone_takes_scores_by_touch_without_a_server(
    chromium: Browser, lauf: Served, tmp_path: Path
) -> None:
    teacher = Device(lauf).sign_in("demo")
    lesson, at = lesson_with(teacher, BOUNCE, PRESS, JUMP, PLANK, TARGET)
    folder = tmp_path / "phone"
    with tablet(chromium, folder, **PHONE) as context:
        prepared(context, lauf, lesson)
    lauf.stop()

    with tablet(chromium, folder, **PHONE) as context:
        context.add_init_script(AHEAD)
        context.set_offline(True)
        hall = Hall(context, lauf.url, lesson, at)
        page = hall.way("list", PRESS)
        expect(page.locator("#child-0")).to_be_visible()
        press(page, "21", "22", "19")
        page.locator(".pad[role=group]").get_by_role("button", name=say("sheet.undo")).tap()
        press(page, "23")
        fits(page)
        hall.again()
        expect(page.locator("#child-2 .score")).to_contain_text("23")

        page = hall.way("tally", BOUNCE)
        areas = page.locator(".area")
        for place, times in ((0, 3), (1, 2)):
            for _ in range(times):
                areas.nth(place).tap()
        fits(page)
        hall.again()
        expect(areas.nth(0)).to_contain_text("3")
        page.get_by_role("button", name=say("sheet.saveThese")).tap()
        expect(page.get_by_text(say("sheet.nScoreSaved", n=2))).to_be_visible()

        page = hall.way("measure", JUMP)
        press(page, "152", "181")
        fits(page)
        hall.again()

    with tablet(chromium, folder, **PHONE) as context:
        context.add_init_script(AHEAD)
        context.set_offline(True)
        hall = Hall(context, lauf.url, lesson, at)
        page = hall.way("tap", PLANK)
        by_one_clock(page).tap()
        hall.ahead(20_000)
        page.locator("button.tile").nth(0).tap()
        hall.again()
        hall.ahead(26_000)
        page.locator("button.tile").nth(1).tap()
        expect(page.locator("[data-state=waiting]")).to_have_count(2)
        fits(page)

        page = hall.way("target", TARGET)
        expect(page.get_by_role("rowheader").first).to_be_visible()
        press(page, "40")
        fits(page)
        hall.again()
        expect(page.locator("tbody tr .total").first).to_contain_text("40")

        lauf.start()
        context.set_offline(False)
        page.goto(f"{hall.lesson}/hall")
        wanted = {PRESS: ["21", "22", "23"], BOUNCE: ["2", "3"], JUMP: ["152 181"], TARGET: ["40"]}

        def kept() -> dict[str, list[str]]:
            found: dict[str, list[str]] = {}
            for name, typed in lauf.sql(KEPT, lesson):
                found.setdefault(name, []).append(typed)
            return {name: sorted(entries) for name, entries in found.items()}

        wait_for(
            kept,
            lambda found: wanted.items() <= found.items() and len(found.get(PLANK, [])) == 2,
        )
        expect(page.locator("[data-state=waiting], [data-state=saving]")).to_have_count(0)
