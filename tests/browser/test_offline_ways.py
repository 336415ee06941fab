"""A whole lesson in the hall with the server away: every way of taking scores, a reload in each,
the browser killed twice; afterwards the database says what the screens said."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any, Final

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.support.devices import Device
from tests.support.fields import pick
from tests.support.hall import by_one_clock
from tests.support.messages import say
from tests.support.offline import (
    AHEAD,
    KEPT,
    Hall,
    lesson_with,
    open_page,
    prepared,
    tablet,
)
from tests.support.served import Served, served, wait_for

BOUNCE: Final = "Speed bounce in 30 s"
PRESS: Final = "Press-ups in 60 s"
JUMP: Final = "Vertical jump, two marks"
PLANK: Final = "Plank to the limit"
RUN: Final = "20 m shuttle run, even steps from 8.5 km/h"
TARGET: Final = "240 in 25 minutes"
PULSES: Final = """
    SELECT beats FROM records_pulsereading p WHERE lesson_id = %s
      AND NOT EXISTS (SELECT 1 FROM records_pulsereading n WHERE n.succeeds_id = p.id)
    ORDER BY recorded_at
"""


@pytest.fixture
def lauf(demo_template: str) -> Iterator[Served]:
    """A server of its own, that others do not miss when it is away."""
    with served(demo_template) as running:
        yield running


def test_every_way_of_taking_scores_goes_on_without_a_server(
    chromium: Browser, lauf: Served, tmp_path: Path
) -> None:
    teacher = Device(lauf).sign_in("demo")
    lesson, at = lesson_with(teacher, BOUNCE, PRESS, JUMP, PLANK, RUN, TARGET)
    folder = tmp_path / "tablet"
    with tablet(chromium, folder) as context:
        prepared(context, lauf, lesson)
    lauf.stop()
    said: dict[str, list[str]] = {}

    with tablet(chromium, folder) as context:
        context.add_init_script(AHEAD)
        context.set_offline(True)
        hall = Hall(context, lauf.url, lesson, at)
        page = hall.way("list", PRESS)
        expect(page.locator("#child-0")).to_be_visible()
        hall.type("21", "22", "a", "19~")
        page.keyboard.press("Control+z")
        hall.type("23")
        hall.again()
        expect(page.locator("#child-3 .score")).to_contain_text("23")
        said[PRESS] = ["21", "22", "a", "23"]

        page = hall.way("partner", BOUNCE)
        question = page.get_by_test_id("question")
        first = question.inner_text()
        hall.type("31")
        expect(question).not_to_have_text(first)
        hall.type("28")
        hall.again()
        expect(question).not_to_have_text(first)

        page = hall.way("tally", BOUNCE)
        areas = page.locator(".area")
        expect(areas.first).to_be_visible()
        for place, times in ((0, 3), (1, 2)):
            for _ in range(times):
                areas.nth(place).click()
        hall.again()
        expect(areas.nth(0)).to_contain_text("3")
        page.get_by_role("button", name=say("sheet.saveThese")).click()
        expect(page.get_by_text(say("sheet.nScoreSaved", n=2))).to_be_visible()
        said[BOUNCE] = ["31", "28", "3", "2"]

        page = hall.way("measure", JUMP)
        standing = page.get_by_label(say("sheet.standingReachUnit", unit="cm"))
        expect(standing).to_be_focused()
        hall.type("152", "181", "184")
        hall.again()
        page.locator("button.child").first.click()
        expect(standing).to_have_value("152")
        expect(page.get_by_label("Mark at the top, try 2")).to_contain_text("152 184")
        said[JUMP] = ["152 181", "152 184"]

    # The battery is empty; another one, and on with it.
    with tablet(chromium, folder) as context:
        context.add_init_script(AHEAD)
        context.set_offline(True)
        hall = Hall(context, lauf.url, lesson, at)
        page = hall.way("tap", PLANK)
        by_one_clock(page).click()
        tiles = page.locator("button.tile")
        for child, ms in ((0, 20_000), (1, 25_000)):
            hall.ahead(ms)
            tiles.nth(child).click()
        hall.again()
        going = page.get_by_test_id("going")
        expect(going).to_contain_text("going")
        hall.ahead(31_000)
        tiles.nth(2).click()
        expect(page.locator("[data-state=waiting]")).to_have_count(3)

        page = hall.way("beeps", RUN)
        pick(page.get_by_label(say("sheet.whoGoesWithThisClock")), say("sheet.everyone"))
        page.get_by_role("button", name="Start", exact=True).click()
        stage = page.get_by_test_id("stage")
        shuttle = 72_000 / 8.5
        hall.ahead(int(31_000 + 5_000 + 3 * shuttle + 300))
        expect(stage).to_have_text("1.4")
        # Who was absent before does not run.
        running = page.get_by_test_id("running")
        expect(running).to_have_text("27 running")
        page.get_by_role("button", name=" stops").nth(0).click()
        expect(running).to_have_text("26 running")
        hall.again()
        expect(stage).to_have_text("1.4")
        expect(running).to_have_text("26 running")

        page = hall.way("target", TARGET)
        expect(page.get_by_role("rowheader").first).to_be_visible()
        page.locator("input.reps").click()
        hall.type("40")
        hall.again()
        expect(page.locator("tbody tr .total").first).to_contain_text("40")
        said[TARGET] = ["40"]

        page.goto(f"{hall.lesson}/pulse")
        hall.stays()
        boxes = page.get_by_role("textbox", name=re.compile("^Beats of"))
        expect(boxes).to_be_focused()
        hall.type("14", "15")
        hall.again()
        expect(page.locator("#pulse-0, #pulse-1").locator("[data-state=waiting]")).to_have_count(2)
        expect(page.locator("#pulse-1")).to_contain_text("15")

    with tablet(chromium, folder) as context:
        context.add_init_script(AHEAD)
        context.set_offline(True)
        hall = Hall(context, lauf.url, lesson, at)
        page = hall.page
        page.goto(f"{hall.lesson}/grid")
        hall.stays()
        expect(page.get_by_test_id("filled")).to_be_visible()
        page.goto(f"{hall.lesson}/results")
        hall.stays()
        expect(page.get_by_test_id("missing")).not_to_have_text("0")

        lauf.start()
        context.set_offline(False)
        page.goto(f"{hall.lesson}/grid")
        expect(page.get_by_test_id("filled")).to_be_visible()

        def kept() -> dict[str, list[str]]:
            found: dict[str, list[str]] = {}
            for name, typed in lauf.sql(KEPT, lesson):
                found.setdefault(name, []).append(typed)
            return found

        # Who is absent is so in every test.
        wanted = {
            name: sorted([*entries, *(["absent"] if name != PRESS else [])])
            for name, entries in said.items()
        }
        there = wait_for(
            kept, lambda found: all(sorted(found.get(n, [])) == w for n, w in wanted.items())
        )
        assert len(there[PLANK]) == 4 and sorted(there[RUN]) == ["1.3", "absent"], there
        wait_for(lambda: lauf.sql(PULSES, lesson), lambda found: found == [(14,), (15,)])
        expect(page.locator("[data-state=waiting], [data-state=saving]")).to_have_count(0)

        page.reload()
        says_what_is_kept(page, lauf, lesson)


def says_what_is_kept(page: Page, lauf: Served, lesson: str) -> None:
    """Cell by cell, the table of all tests on the screen is what the database has."""
    expect(page.get_by_test_id("filled")).to_be_visible()
    grid = Device(lauf).sign_in("demo").ask("GET", f"/api/lessons/{lesson}/grid")
    for child, row in zip(grid["children"], page.locator("tbody tr").all(), strict=True):
        cells = [one.inner_text() for one in row.locator("td").all()]
        for entry, words in zip(child["cells"], cells, strict=False):
            assert (entry["score"] or {"shown": ""})["shown"] in words, (child["name"], words)


def a_set(lauf: Served) -> str:
    """Ten in a row, held today: the lesson."""
    teacher = Device(lauf).sign_in("demo")
    week = next(one for one in teacher.ask("GET", "/api/weeks") if one["name"] == "Ten in a row")
    page = teacher.ask("GET", f"/api/weeks/{week['id']}")
    wish = {"class_id": page["classes"][0]["id"], "on": week["starts_on"]}
    return str(teacher.ask("POST", f"/api/weeks/{week['id']}/hold", wish)["id"])


def a_battery(lauf: Served) -> str:
    """A battery of three tests that is done today: the lesson."""
    head, teacher = Device(lauf).sign_in("head"), Device(lauf).sign_in("demo")
    known = {one["name"]: one["id"] for one in head.ask("GET", "/api/tests")}
    new = {"name": "Autumn check", "test_ids": [known[name] for name in (PRESS, BOUNCE, JUMP)]}
    battery = head.ask("POST", "/api/batteries", new)["id"]
    classes = teacher.ask("GET", "/api/classes")["classes"]
    choice = {"class_id": next(one["id"] for one in classes if one["name"] == "4 Heron")}
    return str(teacher.ask("POST", f"/api/batteries/{battery}/sittings", choice)["id"])


@pytest.mark.parametrize(
    ("make", "rows"),
    [
        (a_set, (["21", "14"], ["22", "a"])),
        (a_battery, (["21", "30", "152 181"], ["22", "31", "150 175"])),
    ],
    ids=["set", "battery"],
)
def test_a_set_and_a_battery_go_on_without_a_server(
    chromium: Browser, lauf: Served, tmp_path: Path, make: Any, rows: tuple[list[str], ...]
) -> None:
    lesson = make(lauf)
    folder = tmp_path / "tablet"
    with tablet(chromium, folder) as context:
        prepared(context, lauf, lesson)
    lauf.stop()
    for number, entries in enumerate(rows):
        with tablet(chromium, folder) as context:
            context.set_offline(True)
            hall = Hall(context, lauf.url, lesson, {})
            page = hall.page
            page.goto(f"{hall.lesson}/grid")
            hall.stays()
            page.get_by_role("button", name=say("sheet.alongTheRow")).click()
            page.locator("tbody tr").nth(number).locator("td").first.click()
            hall.type(*entries)
            hall.again()
            for cell, entry in zip(
                page.locator("tbody tr").nth(number).locator("td").all(), entries, strict=False
            ):
                expect(cell).to_contain_text(entry)
    with tablet(chromium, folder) as context:
        lauf.start()
        page = open_page(context, f"{lauf.url}/lessons/{lesson}/grid")
        typed = sorted(entry for entries in rows for entry in entries)
        wait_for(
            lambda: sorted(one for _, one in lauf.sql(KEPT, lesson)),
            lambda found: [one for one in found if one != "absent"] == typed,
        )
        expect(page.locator("[data-state=waiting], [data-state=saving]")).to_have_count(0)
        says_what_is_kept(page, lauf, lesson)
