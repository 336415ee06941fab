"""Announcement while scores are taken has a zone of its own in the hall: no tile or row moves for
it, and what was begun to be typed goes whole to where it belongs."""

from __future__ import annotations

import json
import re
from typing import Any

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.hall.test_ways import begin
from tests.support.hall import by_one_clock, cell, rail
from tests.support.messages import say
from tests.support.served import Served

PRESS_UPS = "Press-ups in 60 s"
PLANK = "Plank to 30 s"
JUMP = "Standing long jump"
ATTEMPTS = re.compile(r"/attempts$")
SIZES = [{"width": 1280, "height": 800}, {"width": 800, "height": 1280}]


def boxes(page: Page, selector: str) -> list[list[int]]:
    """Where everything of a kind is on its page, however that was scrolled by a click."""
    found: list[list[int]] = page.locator(selector).evaluate_all(
        "all => all.map((one) => { const b = one.getBoundingClientRect();"
        " return [b.x, b.y + window.scrollY, b.width, b.height].map(Math.round) })"
    )
    return found


def refuse(route: Route) -> None:
    said = {"message": "No such thing.", "accepted": "Type another.", "choices": []}
    route.fulfill(status=422, content_type="application/json", body=json.dumps(said))


@pytest.mark.parametrize("size", SIZES, ids=["desk", "tablet"])
def test_no_tile_moves_for_what_is_said(visit: Any, lauf: Served, size: dict[str, int]) -> None:
    """A question moved the tiles 99 px between two taps, and the second gave a time to the wrong
    child."""
    one, at = begin(visit, PLANK, viewport=size)
    page: Page = one.page
    page.goto(at[PLANK] % "tap")
    by_one_clock(page).click()
    said = page.get_by_test_id("messages")
    expect(page.get_by_role("button", name=say("sheet.unknownChild"))).to_be_visible()
    page.evaluate("document.fonts.ready")
    before = boxes(page, ".tiles li")
    assert len(before) > 20
    page.get_by_role("button", name=say("sheet.unknownChild")).click()
    expect(said).to_contain_text("Who was it?")
    assert boxes(page, ".tiles li") == before
    # A number goes into its field wherever the typing is, with all that follows it.
    page.keyboard.type("99s")
    field = page.get_by_label(say("sheet.numberOfTheChildWhoHas"))
    expect(field).to_have_value("99s")
    page.keyboard.press("Enter")
    expect(said).to_contain_text("There is no child 99s")
    assert page.get_by_role("dialog").count() == 0
    assert boxes(page, ".tiles li") == before
    page.route(ATTEMPTS, refuse)
    page.locator(".tile").nth(3).click()
    expect(said).to_contain_text("No such thing.")
    assert boxes(page, ".tiles li") == before
    one.ahead(31_000)
    expect(page.get_by_role("button", name=re.compile(r"^All \d+ left reached"))).to_be_visible()
    assert boxes(page, ".tiles li") == before


def test_no_row_moves_for_a_refusal_and_it_names_its_child(visit: Any, lauf: Served) -> None:
    one, at = begin(visit, PRESS_UPS)
    page: Page = one.page
    page.goto(at[PRESS_UPS] % "list")
    expect(cell(page)).to_be_focused()
    held: list[Route] = []
    page.route(ATTEMPTS, lambda route: held.append(route))
    name = page.locator("#child-0 .name strong").inner_text().strip()
    page.keyboard.type("21")
    page.keyboard.press("Enter")
    expect(page.locator("#child-1")).to_have_class(re.compile("active"))
    page.keyboard.type("2")
    before = boxes(page, ".child")
    page.wait_for_timeout(0)  # what is held in the browser comes only while it is asked
    assert held
    refuse(held[0])
    said = page.get_by_test_id("messages")
    expect(said).to_contain_text(name)
    expect(said).to_contain_text("No such thing.")
    expect(page.locator("#child-0")).to_have_class(re.compile(r"\bopen\b"))
    assert boxes(page, ".child") == before
    # What was typed meanwhile, and what goes on to be typed, is held and shown.
    page.keyboard.type("3")
    expect(page.get_by_test_id("held")).to_have_text("Waiting: 23")
    expect(cell(page)).to_have_value("")
    page.keyboard.press(">")
    expect(cell(page)).to_have_value("23")
    assert boxes(page, ".child") == before


def test_a_question_mark_after_a_number_is_part_of_the_entry(visit: Any, lauf: Served) -> None:
    """It opened the list of keys, and an exact 24 was kept."""
    one, at = begin(visit, PRESS_UPS)
    page: Page = one.page
    page.goto(at[PRESS_UPS] % "list")
    expect(cell(page)).to_be_focused()
    page.keyboard.type("24?")
    expect(cell(page)).to_have_value("24?")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("problem")).to_contain_text("24?")
    assert lauf.sql("SELECT 1 FROM records_attempt WHERE typed LIKE '24%%' AND activity_id = %s",
                    at[PRESS_UPS].rpartition("=")[2]) == []  # fmt: skip


def test_every_test_of_a_lesson_is_there_without_a_network(visit: Any, lauf: Served) -> None:
    one, at = begin(visit, PRESS_UPS, JUMP)
    page: Page = one.page
    jump = at[JUMP].rpartition("=")[2]
    with page.expect_response(re.compile(f"{jump}/lanes")):
        page.goto(at[PRESS_UPS] % "list")
    expect(cell(page)).to_be_focused()
    one.context.set_offline(True)
    rail(page, JUMP).click()
    expect(page.get_by_test_id("child")).to_be_visible()
    one.context.set_offline(False)


def test_a_second_press_of_start_ends_nothing(visit: Any, lauf: Served) -> None:
    """The button in its place ended a test without a clock of its own."""
    one, at = begin(visit, JUMP)
    page: Page = one.page
    page.goto(at[JUMP] % "measure")
    start = page.get_by_role("button", name="Start the lesson")
    expect(start).to_be_visible()
    start.focus()
    page.keyboard.press("Enter")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Next: the end")).to_be_visible()
    expect(page.get_by_test_id("child")).to_be_visible()


def test_a_body_measurement_is_not_looked_at_before_it_is_opened(visit: Any, lauf: Served) -> None:
    """Who sees one is on record; opening the hall is no look at it."""
    one = visit(viewport={"width": 1280, "height": 800})
    one.be("head")
    lesson, activities = one.lesson("4 Heron", PRESS_UPS, "Weight", JUMP)
    page: Page = one.page
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url))
    with page.expect_response(re.compile(f"{activities[JUMP]}/lanes")):
        page.goto(f"{one.url}/lessons/{lesson}/list?activity={activities[PRESS_UPS]}")
    expect(cell(page)).to_be_focused()
    assert not any(activities["Weight"] in url for url in asked), "it stands before the jump"


def test_a_list_that_arrives_leaves_the_keyboard_where_it_was_aimed(
    visit: Any, lauf: Served
) -> None:
    """Enter on “Start the lesson” went to the list that came between the look and the press."""
    one, at = begin(visit, PRESS_UPS)
    page: Page = one.page
    held: list[Route] = []
    page.route(re.compile("/lanes$"), lambda route: held.append(route))
    with page.expect_request(re.compile("/lanes$")):
        page.goto(at[PRESS_UPS] % "list")
    start = page.get_by_role("button", name="Start the lesson")
    start.focus()
    for route in held:
        route.continue_()
    expect(cell(page)).to_be_visible()
    expect(start).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Pause")).to_be_visible()
    expect(cell(page)).to_be_focused()
