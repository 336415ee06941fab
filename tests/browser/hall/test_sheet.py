"""What must be true on every way of taking scores, point by point: what the screen says is what the
database holds."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page, expect

from tests.browser.hall.test_ways import BOUNCE, KEPT, TARGET, activity_of, begin
from tests.support.hall import by_one_clock, cell, type_in
from tests.support.messages import say
from tests.support.served import Served, wait_for

PRESS_UPS = "Press-ups in 60 s"
JUMP = "Standing long jump"
PLANK = "Plank to 30 s"
SIDES = "Shoulder reach, both sides"
MILE = "One-mile run on a measured course"

FORMS = """
    SELECT u.given_name || ' ' || u.family_name, a.typed, a.variant, a.try_number
    FROM records_attempt a JOIN people_pupil u ON u.id = a.pupil_id
    WHERE a.activity_id = %s AND coalesce(a.reason, '') <> 'withdrawn'
      AND NOT EXISTS (SELECT 1 FROM records_attempt l WHERE l.succeeds_id = a.id)
    ORDER BY u.given_name, u.family_name, a.try_number
"""


def open_list(one: Any, address: str) -> Page:
    """The list of a test, with the typing in its first cell."""
    page: Page = one.page
    page.goto(address % "list")
    expect(cell(page)).to_be_focused()
    return page


def kept(lauf: Served, address: str, number: int) -> list[tuple[Any, ...]]:
    """What is in the database of a test, once so many are there."""
    return wait_for(
        lambda: lauf.sql(FORMS, activity_of(address)), lambda found: len(found) == number
    )


def test_letters_and_digits_are_kept_by_enter_and_nothing_before_it(
    visit: Any, lauf: Served
) -> None:
    one, at = begin(visit, PRESS_UPS, SIDES)
    page = open_list(one, at[PRESS_UPS])
    # A letter says what it means; left for another child it was never kept.
    page.keyboard.type("k")
    expect(page.get_by_test_id("kept")).to_contain_text("no kit or helper or a form")
    page.keyboard.press("Escape")
    page.keyboard.type("x")
    expect(page.get_by_test_id("kept")).to_have_text("= sat out")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowUp")
    expect(cell(page)).to_have_value("")
    page.keyboard.type("1")
    expect(page.get_by_test_id("kept")).to_have_text("= 1 rep")
    page.keyboard.type("2")
    page.keyboard.press("Enter")
    # The Enter that keeps a letter goes to the next child, and to no other.
    page.keyboard.type("a")
    page.keyboard.press("Enter")
    expect(page.locator("#child-2")).to_have_class(re.compile("active"))
    rows = kept(lauf, at[PRESS_UPS], 2)
    assert [row[1] for row in rows] == ["12", "a"]
    # Words that begin with a letter of a reason are words.
    open_list(one, at[SIDES])
    page.keyboard.type("R y L n")
    expect(page.get_by_test_id("kept")).to_contain_text("right")
    page.keyboard.press("Enter")
    expect(page.locator("#child-0 .score")).to_contain_text("right")
    # Who is absent is so for every test of the lesson: the typing goes past.
    expect(page.locator("#child-2")).to_have_class(re.compile("active"))
    expect(cell(page)).to_have_value("")
    assert sorted(row[1] for row in kept(lauf, at[SIDES], 2)) == ["R y L n", "absent"]


def test_a_bare_number_says_its_unit_before_it_is_kept(visit: Any, lauf: Served) -> None:
    one, at = begin(visit, JUMP)
    page = open_list(one, at[JUMP])
    page.keyboard.type("1.21m")
    expect(page.get_by_test_id("kept")).to_contain_text("121 cm")
    page.keyboard.press("Escape")
    page.keyboard.type("4")
    said = page.locator(".child.active").get_by_text(re.compile(r"4 cm|unit"))
    expect(said.first).to_be_visible()
    assert lauf.sql(FORMS, activity_of(at[JUMP])) == []


def test_each_child_has_a_form_of_its_own_and_another_go_stands_beside_the_first(
    visit: Any, lauf: Served
) -> None:
    one, at = begin(visit, PRESS_UPS)
    page = open_list(one, at[PRESS_UPS])
    marks = page.locator(".child .variant, .child kbd.form, .child .form")
    before = [mark.inner_text() for mark in marks.all()]
    page.keyboard.press("*")
    type_in(page, "11", "12")
    assert [mark.inner_text() for mark in marks.all()][1:] == before[1:]
    # The class is turned on purpose only, and it says how many that changes.
    everybody = page.get_by_label(say("sheet.formForEveryoneWithoutAScore"))
    turned = everybody.locator("option", has_text=re.compile(r"^on the knees: changes \d+$"))
    expect(turned).to_have_count(1)
    everybody.select_option(value="knees")
    expect(cell(page)).to_be_focused()
    type_in(page, "13")
    rows = kept(lauf, at[PRESS_UPS], 3)
    assert [row[2] for row in rows] == ["knees", "full", "knees"]
    # Another go: beside, not over.
    page.locator("#child-1 .name").click()
    page.get_by_role("button", name=say("sheet.saveAsAnotherGo")).click()
    type_in(page, "15")
    rows = kept(lauf, at[PRESS_UPS], 4)
    assert [(row[1], row[3]) for row in rows if row[0] == rows[1][0]] == [("12", 1), ("15", 2)]


def test_a_hold_ends_at_its_maximum_and_all_left_reached_it_by_one_tap(
    visit: Any, lauf: Served
) -> None:
    one, at = begin(visit, PLANK)
    page: Page = one.page
    page.goto(at[PLANK] % "tap")
    by_one_clock(page).click()
    one.ahead(12_000)
    page.locator("button.tile").first.click()
    one.ahead(33_000)
    reached = page.get_by_role("button", name=re.compile(r"All \d+ left reached 30"))
    reached.click()
    expect(page.get_by_test_id("going")).to_have_text("0 going")
    rows = wait_for(lambda: lauf.sql(KEPT, activity_of(at[PLANK])), lambda found: len(found) > 20)
    values = sorted(row[2] for row in rows)
    assert values[0] == 12_000 and set(values[1:]) == {30_000}
    # One undo takes back what that one tap kept, and nothing else.
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_test_id("announcement")).to_contain_text(say("app.undone"))
    left = wait_for(lambda: lauf.sql(KEPT, activity_of(at[PLANK])), lambda found: len(found) == 1)
    assert [row[2] for row in left] == [12_000]


def test_a_clock_started_again_loses_no_time_and_its_undo_takes_back_one(
    visit: Any, lauf: Served
) -> None:
    one, at = begin(visit, "Plank to the limit")
    page: Page = one.page
    page.goto(at["Plank to the limit"] % "tap")
    by_one_clock(page).click()
    tiles = page.locator("button.tile")
    for child, ms in ((0, 20_000), (1, 25_000)):
        one.ahead(ms)
        tiles.nth(child).click()
    expect(page.locator("[data-state=saved]")).to_have_count(2)
    page.get_by_role("button", name="Start again").click()
    page.get_by_role("alertdialog").get_by_role("button", name="Start again").click()
    one.ahead(60_000)
    tiles.nth(0).click()
    rows = kept(lauf, at["Plank to the limit"], 3)
    assert [row[3] for row in rows] == [1, 2, 1]
    page.keyboard.press("Control+z")
    assert [row[3] for row in kept(lauf, at["Plank to the limit"], 2)] == [1, 1]


def test_a_refused_entry_of_a_target_stops_nobody_else_and_900_reps_are_asked_about(
    visit: Any, lauf: Served
) -> None:
    one, at = begin(visit, TARGET)
    page: Page = one.page
    page.goto(at[TARGET] % "target")
    page.get_by_role("button", name="Start the lesson").press("Enter")
    expect(page.get_by_role("button", name="Pause")).to_be_visible()
    one.ahead(70_000)
    field = page.locator("input.reps")
    field.click()
    page.keyboard.type("900")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("more than the clock allows")
    assert lauf.sql(FORMS, activity_of(at[TARGET])) == []
    page.keyboard.press("Escape")
    # The server says no to one child: the next ones go on, and their totals with them.
    refused: list[str] = []

    def refuse_first(route: Any) -> None:
        if refused:
            route.continue_()
            return
        refused.append(route.request.url)
        route.fulfill(status=422, json={"message": "No.", "accepted": "", "choices": []})

    page.route(re.compile(r"/attempts$"), refuse_first)
    page.keyboard.type("20")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("No.")
    page.keyboard.press(">")  # later: it stays open, the next one goes on
    page.keyboard.type("30")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="1 open")).to_be_visible()
    # What is held in the browser goes on only while the browser is asked: the page first.
    expect(page.locator("tbody tr").nth(1).locator("[data-state=saved]")).to_be_visible()
    assert [row[1] for row in kept(lauf, at[TARGET], 1)] == ["30"]


def test_an_odd_score_is_asked_about_and_a_best_is_told_on_every_way(
    visit: Any, lauf: Served
) -> None:
    one, at = begin(visit, PRESS_UPS, BOUNCE)
    page: Page = one.page
    page.goto(at[PRESS_UPS] % "partner")
    expect(page.locator("input.said")).to_be_focused()
    odd = page.get_by_role("alert", name=say("sheet.unusualScore"))
    for number in range(4):
        page.keyboard.type("58")
        page.keyboard.press("Enter")
        expect(odd).to_contain_text("58")
        expect(page.get_by_test_id("announcement")).to_contain_text("open, and counts once")
        if number % 2:
            page.keyboard.press("!")
        else:
            page.get_by_role("button", name="It is right").click()
        expect(odd).to_have_count(0)
        expect(page.get_by_test_id("announcement")).to_contain_text("new best")
    assert wait_for(
        lambda: lauf.sql("SELECT count(*) FROM records_settlement"), lambda found: found[0][0] > 0
    )


def test_inches_come_back_as_they_were_typed(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be("head")
    one.ask("PUT", "/api/school/units", {"imperial": True})
    lesson, activities = one.lesson("4 Heron", JUMP)
    address = f"{one.url}/lessons/{lesson}/list?activity={activities[JUMP]}"
    page.goto(address)
    for number, typed in enumerate(("41.5in", "3ft 5½in", "47 in")):
        expect(cell(page)).to_be_focused()
        page.keyboard.type(typed)
        page.keyboard.press("Enter")
        expect(page.locator(f"#child-{number} [data-state=saved]")).to_be_visible()
    page.reload()
    for number, shown in enumerate((r"41(\.5|½) in", r"41(\.5|½) in|3 ft 5½ in", "47 in")):
        expect(page.locator(f"#child-{number} .score")).to_contain_text(re.compile(shown))
    assert [row[1] for row in kept(lauf, address, 3)] == ["41.5in", "3ft 5½in", "47 in"]


def test_a_measured_course_fills_in_its_laps_and_fewer_are_not_finished(
    visit: Any, lauf: Served
) -> None:
    one, at = begin(visit, MILE)
    page: Page = one.page
    one.ask("POST", "/api/courses", {"name": "Round the pond", "lap": "134.112m"})
    page.goto(at[MILE] % "tap")
    page.get_by_role("button", name=re.compile("course length")).click()
    page.get_by_role("button", name="Round the pond").click()
    expect(page.get_by_label("Laps")).to_have_value("12")
    by_one_clock(page).click()
    for lap in range(1, 4):
        one.ahead(lap * 60_000)
        page.locator("button.tile").first.click()
    page.get_by_role("button", name="All in", exact=True).click()
    page.get_by_role("alertdialog").get_by_role("button", name="All in").click()
    rows = wait_for(lambda: lauf.sql(KEPT, activity_of(at[MILE])), bool)
    assert [(row[2], row[3]) for row in rows] == [(None, "unfinished")]


def test_after_any_button_digits_go_where_the_cursor_is(visit: Any, lauf: Served) -> None:
    one, at = begin(visit, PRESS_UPS)
    page = open_list(one, at[PRESS_UPS])
    number = 10
    for name in (
        "Undo",
        "Pad",
        "Keys",
        "Pad",
        "How it is done",
        say("lessons.fullScreen"),
        say("lessons.collapse"),
        "on the knees",
    ):
        page.get_by_role("button", name=re.compile(f"{re.escape(name)}$")).first.click()
        if name == say("lessons.fullScreen"):
            continue  # the clock alone: it says plainly that nothing is typed there
        type_in(page, str(number))
        number += 1
    rows = kept(lauf, at[PRESS_UPS], 7)
    assert [row[1] for row in rows] == [str(n) for n in range(10, 17)]
    # The cell that is typed in is never under the clock or a head that stays.
    page.keyboard.press("End")
    page.keyboard.press("Home")
    box, bar = cell(page).bounding_box(), page.get_by_test_id("messages").bounding_box()
    assert box and bar and box["y"] >= bar["y"] + bar["height"]


def test_everything_is_reached_on_a_phone(visit: Any, lauf: Served) -> None:
    tests = (PRESS_UPS, BOUNCE, JUMP, TARGET, "20 m shuttle run, even steps from 8.5 km/h", PLANK)
    one, at = begin(visit, *tests, viewport={"width": 360, "height": 740}, has_touch=True)
    page: Page = one.page
    lesson = at[PRESS_UPS].split("/lessons/")[1].split("/")[0]
    sitting = one.ask("GET", "/api/sittings")[0]["id"]
    wide = []
    for address, ready in (
        (one.url, "a.lesson"),
        (f"{one.url}/lessons/new", "form"),
        (at[PRESS_UPS] % "list", ".child"),
        (at[BOUNCE] % "tally", ".area"),
        (at[BOUNCE] % "partner", ".question"),
        (at[JUMP] % "measure", ".large"),
        (at[TARGET] % "target", "input.reps"),
        (at[tests[4]] % "beeps", ".tile"),
        (at[PLANK] % "tap", ".tile"),
        (f"{one.url}/lessons/{lesson}/hall?block=pulses", "table.pulses"),
        (f"{one.url}/lessons/{sitting}/hall", "table.grid"),
        (f"{one.url}/lessons/{lesson}/plan", "li.block"),
        (f"{one.url}/lessons/{lesson}/results", "li.item"),
        (f"{one.url}/lessons/{lesson}/projector", "main"),
    ):
        page.goto(address)
        expect(page.locator(ready).first).to_be_visible()
        width = page.evaluate("document.documentElement.scrollWidth")
        if width > 360:
            wide.append((address.removeprefix(one.url), width))
    assert wide == []
    # The navigation folds into a menu, and is whole in it.
    page.goto(one.url)
    page.get_by_role("button", name="Menu").tap()
    page.get_by_role("link", name="Laps", exact=True).tap()
    expect(page.get_by_test_id("whole")).to_be_visible()


def test_a_screen_reader_hears_the_page_what_was_kept_and_what_is_wrong(
    visit: Any, lauf: Served
) -> None:
    one, at = begin(visit, PRESS_UPS)
    page: Page = one.page
    page.goto(at[PRESS_UPS] % "list")
    expect(page).to_have_title("Hall · Lauf")
    expect(cell(page)).to_be_focused()
    page.keyboard.type("19")
    page.keyboard.press("Enter")
    said = page.get_by_test_id("announcement")
    assert (said.get_attribute("role"), said.get_attribute("aria-live")) == ("status", "polite")
    expect(said).to_contain_text("19")
    page.keyboard.type("900")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("whole number")
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Results", exact=True).click()
    expect(page).to_have_title("Results · Lauf")
    expect(page.locator("main")).to_be_focused()
    page.goto(one.url)
    expect(page.locator("a.lesson").first).to_be_visible()
    page.keyboard.press("Tab")
    expect(page.get_by_role("link", name=say("app.skipToContent"))).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("main")).to_be_focused()
