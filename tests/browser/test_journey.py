"""The whole job by keyboard, from sign-in to the file; then the database is asked."""

from __future__ import annotations

import csv
import re
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, expect

from tests.support.hall import cell, rail, skip_to, type_in
from tests.support.messages import say
from tests.support.served import Served

HERON = """
    SELECT a.typed, a.value, a.reason, a.estimate, a.variant, a.why, a.succeeds_id IS NOT NULL
    FROM records_attempt a
    JOIN lessons_activity act ON act.id = a.activity_id
    JOIN lessons_lesson l ON l.id = act.lesson_id
    JOIN people_pupil p ON p.id = a.pupil_id
    JOIN people_schoolclass c ON c.id = l.school_class_id
    WHERE c.name = '4 Heron' AND l.starts_at::date = current_date
    ORDER BY p.given_name, a.received_at
"""


RUNS = """
    SELECT wave, ended FROM lessons_run
    WHERE revision > 0 AND changed_at > now() - interval '5 min' AND activity_id = (
        SELECT act.id FROM lessons_activity act
        JOIN lessons_lesson l ON l.id = act.lesson_id
        JOIN people_schoolclass c ON c.id = l.school_class_id
        WHERE c.name = '4 Heron' AND l.starts_at::date = current_date)
    ORDER BY wave, anchor_ms
"""


def open_lesson(page: Page) -> None:
    page.locator("a.lesson", has_text="4 Heron").press("Enter")
    expect(page.get_by_role("button", name="Start the lesson")).to_be_visible()


def open_capture(page: Page) -> None:
    """The list of the lesson's test, which the rail of its blocks leads to."""
    open_lesson(page)
    rail(page, "Press-ups").press("Enter")
    expect(cell(page)).to_be_focused()


def section(page: Page, heading: str) -> Any:
    return page.locator("section", has=page.get_by_role("heading", name=heading)).last


def saved(page: Page, count: int) -> None:
    expect(page.locator("[data-state=saved]")).to_have_count(count)


def test_the_whole_job_by_keyboard(visit: Any, lauf: Served, downloads: Path) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.hold_time()
    one.sign_in(typed=True)
    card = page.locator("a.lesson", has_text="4 Heron")
    expect(card).to_contain_text("28 children")
    expect(card).to_contain_text("medical notes")
    open_capture(page)
    expect(page.get_by_text("Keep inhalers at hand")).to_be_visible()

    two_waves(one)
    capture(page)
    check(page)
    rows = scores_file(page, downloads)
    first = {key: rows[0][key] for key in ("raw", "value", "unit", "variant", "status")}
    assert first == {
        "raw": "18",
        "value": "18",
        "unit": "reps",
        "variant": "full",
        "status": "measured",
    }

    # A child's page shows the lane and the history in time.
    section(page, "All scores").get_by_role("link").first.press("Enter")
    expect(page.locator("ul.lanes svg[role=img]").first).to_be_visible()
    page.locator("ul.lanes button").first.press("Enter")
    expect(page.get_by_role("heading", name=say("progress.overTime"))).to_be_visible()

    assert lauf.sql(RUNS) == [(1, "complete"), (2, "restarted"), (2, "early")]
    kept = lauf.sql(HERON)
    assert ("18", 18, None, False, "full", "", False) in kept
    assert ("22~", 22, None, True, "full", "", False) in kept
    assert ("24", 24, None, False, "full", "counted again", True) in kept
    assert {row[2] for row in kept} >= {
        "absent",
        "sat_out",
        "did_not_want",
        "void",
        "withdrawn",
    }
    counted = [row for row in kept if row[4] == "knees" and row[1] is not None]
    assert sorted(row[1] for row in counted) == list(range(9, 29))
    assert lauf.sql(
        "SELECT count(*) FROM lessons_lesson WHERE closed_at > now() - interval '5 min'"
    ) == [(1,)]


def two_waves(one: Any) -> None:
    """Wave one: paused, reloaded in mid-run, resumed, run to its end; by the one large button."""
    page: Page = one.page
    page.keyboard.press("Space")
    now = page.get_by_test_id("now")
    skip_to(page, "Press-ups")
    expect(page.get_by_role("button", name=say("lessons.readyStart"))).to_be_visible()
    page.keyboard.press("Space")
    one.ahead(20_000)
    expect(now).to_contain_text("Work")
    page.keyboard.press("Space")
    expect(page.get_by_test_id("paused")).to_be_visible()
    left = page.get_by_test_id("clock").inner_text()
    page.reload()
    expect(page.get_by_test_id("paused")).to_be_visible()
    expect(page.get_by_test_id("clock")).to_have_text(left)
    page.keyboard.press("Space")
    # The partners change over, and the clock waits until they are ready.
    one.ahead(600_000)
    expect(page.get_by_role("button", name="Start: wave 2")).to_be_visible()

    # Wave two: started, done again, then stopped early; the record says so.
    page.keyboard.press("Space")
    one.ahead(620_000)
    expect(now).to_contain_text("Work")
    page.get_by_role("button", name="More", exact=True).press("Enter")
    page.get_by_role("button", name=say("lessons.repeatThisGo2")).press("Enter")
    page.get_by_role("button", name=say("lessons.repeat"), exact=True).press("Enter")
    expect(page.get_by_role("alertdialog")).to_have_count(0)  # keys go to the page again
    page.get_by_role("button", name=say("lessons.continue")).press("Enter")
    one.ahead(640_000)
    expect(now).to_contain_text("Work")
    page.keyboard.press("Shift+ArrowRight")  # work is stopped
    page.keyboard.press("Shift+ArrowRight")
    expect(page.get_by_test_id("block")).not_to_contain_text("Press-ups")


def capture(page: Page) -> None:
    """Digits and Enter; a bad entry keeps the cursor and what was typed."""
    rail(page, "Press-ups").press("Enter")
    expect(cell(page)).to_be_focused()
    for bad in ("4o", "-3", "900"):
        page.keyboard.type(bad)
        page.keyboard.press("Enter")
        expect(page.get_by_test_id("problem")).to_contain_text("a whole number from 0 to 60")
        expect(cell(page)).to_have_value(bad)
        expect(cell(page)).to_be_focused()
        page.keyboard.press("Escape")
    type_in(page, "18", "22~")
    for letter, words in {
        "a": "absent",
        "x": "sat out",
        "r": "did not want to",
        "v": "void",
    }.items():
        page.keyboard.type(letter)
        # A letter is typed like a digit: it says what it means, and is kept by the same key.
        expect(page.get_by_test_id("kept")).to_have_text(f"= {words}")
        page.keyboard.press("Enter")
    everybody = page.get_by_label(say("sheet.formForEveryoneWithoutAScore"))
    everybody.select_option(value="knees")
    expect(cell(page)).to_be_focused()
    type_in(page, *map(str, range(9, 29)))
    # Of 28 children, 26 are entered; the last two stay missing for the check.
    saved(page, 26)
    expect(page.locator("#child-0 .words")).to_contain_text("line")
    page.keyboard.press("Control+z")
    saved(page, 25)
    page.reload()
    saved(page, 25)
    page.keyboard.press("/")
    second = page.locator("#child-1 .name").inner_text().split()[0]
    page.keyboard.type(second)
    page.keyboard.press("Enter")
    expect(page.locator("#child-1")).to_have_class(re.compile("active"))


def check(page: Page) -> None:
    """Settle the estimate, correct one, fill the gaps, close."""
    page.get_by_role("link", name="Results", exact=True).press("Enter")
    expect(page.get_by_test_id("missing")).to_have_text("3")
    estimate = page.locator("li.item", has_text="22 ~")
    estimate.get_by_role("button", name="Correct").press("Enter")
    estimate.get_by_label("Score").fill("24")
    estimate.get_by_label("Why").fill("counted again")
    page.keyboard.press("Enter")
    expect(page.get_by_role("cell", name="counted again")).to_be_visible()
    missing = section(page, "Missing").locator("li.item")
    for left_over in (2, 1, 0):
        missing.first.get_by_role("button", name="Absent").press("Enter")
        expect(missing).to_have_count(left_over)
    expect(page.get_by_test_id("missing")).to_have_text("0")
    asked = section(page, say("progress.toCheck")).locator("li.item")
    for left_over in reversed(range(asked.count())):
        asked.first.get_by_role("button", name="Confirm").press("Enter")
        expect(asked).to_have_count(left_over)
    expect(page.get_by_test_id("odd")).to_have_text("0")
    page.get_by_role("button", name=say("progress.closeLesson")).press("Enter")
    expect(page.get_by_text("Closed by Robin Ashgrove")).to_be_visible()


def scores_file(page: Page, downloads: Path) -> list[dict[str, str]]:
    with page.expect_download() as download:
        page.get_by_role("link", name=say("progress.scoresCsv")).press("Enter")
    file = downloads / "scores.csv"
    download.value.save_as(file)
    assert file.read_bytes().startswith(b"\xef\xbb\xbf")
    rows = list(csv.DictReader(file.read_text("utf-8-sig").splitlines()))
    assert len(rows) == 28
    assert re.fullmatch(r"\d{4}-\d\d-\d\d", rows[0]["date"])
    return rows


def test_scores_typed_without_network_are_kept_and_sent_later(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in()
    open_capture(page)
    one.context.set_offline(True)
    for typed in ("11", "12", "13"):
        page.keyboard.type(typed)
        page.keyboard.press("Enter")
    expect(page.locator("[data-state=waiting], [data-state=saving]")).to_have_count(3)
    expect(page.get_by_text("3 not sent yet")).to_be_visible()
    one.context.set_offline(False)
    saved(page, 3)
    assert [row[1] for row in lauf.sql(HERON)] == [11, 12, 13]


def test_what_the_device_has_not_written_yet_is_there_after_a_reload(
    visit: Any, lauf: Served
) -> None:
    """Typed, and the page is left in the same moment: the device's database never answers."""
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    page.add_init_script(
        """if (sessionStorage.getItem("slow")) {
            IDBFactory.prototype.open = () => new EventTarget();
        }"""
    )
    one.sign_in()
    open_capture(page)
    page.evaluate("sessionStorage.setItem('slow', '1')")
    page.reload()
    expect(cell(page)).to_be_focused()
    page.keyboard.type("18")
    page.keyboard.press("Enter")
    expect(page.locator("[data-state=waiting]")).to_have_count(1)
    assert lauf.sql(HERON) == []
    page.evaluate("sessionStorage.removeItem('slow')")
    page.reload()
    saved(page, 1)
    assert [row[1] for row in lauf.sql(HERON)] == [18]


def test_two_devices_on_one_child(visit: Any, lauf: Served) -> None:
    one, other = visit(), visit()
    for person in (one, other):
        person.sign_in()
        open_capture(person.page)
    # Typed before it can be known there that the child has a score.
    other.context.set_offline(True)
    other.page.keyboard.type("25")
    other.page.keyboard.press("Enter")
    one.page.keyboard.type("20")
    one.page.keyboard.press("Enter")
    saved(one.page, 1)
    other.context.set_offline(False)
    expect(other.page.get_by_text("on another device")).to_be_visible()
    other.page.get_by_role("button", name="Use 25").click()
    saved(other.page, 1)
    assert [(row[1], row[6]) for row in lauf.sql(HERON)] == [(20, False), (25, True)]


def test_capture_by_touch(visit: Any, lauf: Served) -> None:
    for width, height, first in ((360, 740, 0), (1024, 768, 2)):
        one = visit(viewport={"width": width, "height": height}, has_touch=True, is_mobile=True)
        page: Page = one.page
        one.sign_in()
        page.locator("a.lesson", has_text="4 Heron").tap()
        rail(page, "Press-ups").tap()
        pad = page.get_by_role("group", name="Pad")
        expect(pad).to_be_visible()
        small = [
            (box["width"], box["height"])
            for button in pad.get_by_role("button").all()
            if (box := button.bounding_box()) and min(box["width"], box["height"]) < 48
        ]
        assert small == []
        for key in ("1", "7", "Save"):
            pad.get_by_role("button", name=key, exact=True).tap()
        saved(page, first + 1)
        pad.get_by_role("button", name="absent").tap()
        expect(pad.get_by_text("absent").first).to_be_visible()
        pad.get_by_role("button", name="Save", exact=True).tap()
        saved(page, first + 2)
        assert page.evaluate("document.documentElement.scrollWidth") <= width
    kept = [(row[0], row[1], row[2]) for row in lauf.sql(HERON)]
    assert kept == [("17", 17, None), ("a", None, "absent")] * 2


def test_axe_finds_nothing_in_light_and_dark(visit: Any) -> None:
    found: dict[str, list[str]] = {}
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    page.goto(one.url)
    expect(page.get_by_label("User name")).to_be_visible()
    found["sign-in"] = one.axe()
    one.sign_in()
    expect(page.locator("a.lesson").first).to_be_visible()
    found["today"] = one.axe()
    open_lesson(page)
    found["hall"] = one.axe()
    rail(page, "Press-ups").press("Enter")
    expect(cell(page)).to_be_focused()
    page.keyboard.type("4o")
    page.keyboard.press("Enter")
    found["capture"] = one.axe()
    page.get_by_role("link", name="Results", exact=True).press("Enter")
    expect(page.get_by_role("heading", name="Missing")).to_be_visible()
    found["results"] = one.axe()
    section(page, "All scores").get_by_role("link").first.press("Enter")
    page.locator("ul.lanes button").first.press("Enter")
    expect(page.get_by_role("heading", name=say("progress.overTime"))).to_be_visible()
    found["pupil"] = one.axe()
    assert {screen: faults for screen, faults in found.items() if faults} == {}


def test_the_first_load_is_small(visit: Any) -> None:
    """At most 150 kB of compressed script until the sign-in stands: no database, no hall."""
    one = visit()
    sizes: list[int] = []

    def weigh(response: Any) -> None:
        if response.url.endswith(".js"):
            length = int(response.headers["content-length"])
            # What is too small to gain by it is sent as it is.
            assert response.headers.get("content-encoding") in ("br", "gzip") or length < 2_000
            sizes.append(length)

    one.page.on("response", weigh)
    one.page.goto(one.url)
    expect(one.page.get_by_label("User name")).to_be_visible()
    assert 10_000 < sum(sizes) <= 150_000
