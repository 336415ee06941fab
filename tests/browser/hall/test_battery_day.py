"""A battery day for a class with every kind of score, by keyboard and by touch; then the database
is asked."""

from __future__ import annotations

import re
import time
import uuid
from typing import Any

from playwright.sync_api import Page, expect

from tests.support.fields import choose, pick
from tests.support.hall import rail, type_in
from tests.support.messages import say
from tests.support.served import Served, manage, wait_for

#: Every kind of score: the test, what is typed, what must be kept, what is shown.
KINDS = [
    ("Height", "4ft 3in", 1295, "129.5 cm"),
    ("Weight", "69lb", 31_300, "31.3 kg"),
    ("Resting pulse", "14/10s", 84, "84 bpm"),
    ("Sit and reach at the wall", "-5", -50, "−5 cm"),
    ("Shoulder reach, both sides", "y n", 1, "left"),
    ("Standing long jump", "41in", 1040, "104 cm"),
    ("Vertical jump, two marks", "142 171", 290, "29 cm"),
    ("Ten underarm shots at a box", "xoxxxoxxox", 7, "7/10"),
    ("Press-ups in 60 s", "22", 22, "22"),
    ("Plank to the limit", "1:05.3", 65_300, "1:05.3"),
    ("Laps in 3 min", "7+12m", None, "7 laps + 12 m"),
    ("240 in 25 minutes", "c40+60+70", 170, "170"),
    ("20 m shuttle run, even steps from 8.5 km/h", "4.6", None, "4.6"),
    ("One-mile run on a measured course", "480m run", None, "not finished"),
    ("Roll along the floor", "8 hands", None, "8 hands"),
]
SITTING = """
    SELECT t.name, a.typed, a.value, a.reason, a.try_number, a.parts
    FROM records_attempt a
    JOIN lessons_activity act ON act.id = a.activity_id
    JOIN lessons_lesson l ON l.id = act.lesson_id
    JOIN catalogue_battery b ON b.id = l.battery_id
    JOIN catalogue_protocolversion v ON v.id = act.protocol_id
    JOIN catalogue_test t ON t.id = v.test_id
    LEFT JOIN records_attempt later ON later.succeeds_id = a.id
    WHERE b.name = 'Everything' AND later.id IS NULL
      AND coalesce(a.reason, '') <> 'withdrawn'
    ORDER BY act.position, a.received_at
"""


def make_battery(page: Page, names: list[str]) -> None:
    """By the screen, as the head of PE."""
    page.get_by_role("link", name="Batteries", exact=True).click()
    page.get_by_role("button", name=say("catalogue.newBattery")).click()
    page.get_by_label(say("catalogue.nameForExampleAutumnTermCheck")).fill("Everything")
    box = page.get_by_role("combobox", name=re.compile(say("challenges.testsInOrder")))
    for name in names:
        choose(box, name)
    page.keyboard.press("Escape")
    page.get_by_role("button", name=say("catalogue.saveBattery")).click()
    expect(page.get_by_role("heading", name="Everything")).to_be_visible()


def give_to(page: Page, school_class: str) -> None:
    pick(page.get_by_label("Class for Everything"), school_class)
    board = page.locator("section.battery", has=page.get_by_role("heading", name="Everything"))
    board.get_by_role("button", name=say("catalogue.startWithThisClass")).click()
    expect(page.locator("table.grid")).to_be_visible()


def test_a_battery_day_with_every_kind_of_score(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head")
    make_battery(page, [name for name, *_ in KINDS])
    give_to(page, "5 Kestrel")

    # The first child through all tests, by keyboard alone.
    page.get_by_role("button", name=say("sheet.alongTheRow")).press("Enter")
    page.locator("tbody tr").first.locator("td").first.click()
    first = page.locator("tbody tr").first.locator("td")
    for place, (name, typed, _, shown) in enumerate(KINDS):
        box = page.get_by_role("textbox", name=f"{name} of ")
        expect(box).to_be_focused()
        if name == "Plank to the limit":
            # Two readings are possible: the cursor comes back with what was typed, and asks.
            page.keyboard.type("1.05")
            page.keyboard.press("Enter")
            expect(page.get_by_test_id("problem")).to_contain_text("1 min 05 s or 1.05 s")
            page.keyboard.press("<")
            expect(box).to_have_value("1.05")
        if name == "Standing long jump":
            page.keyboard.type("4o")
            page.keyboard.press("Enter")
            page.keyboard.press("Escape")
            page.keyboard.type("900")
            page.keyboard.press("Enter")
            expect(page.get_by_test_id("problem")).to_contain_text("would be too much here")
            page.keyboard.press("<")  # correct it
        type_in(page, typed)
        expect(first.nth(place)).to_contain_text(shown)
    expect(page.get_by_test_id("filled")).to_have_text(f"{len(KINDS)} / {30 * len(KINDS)}")

    # The second child is absent: for all tests at once (two that are private are said one by one);
    # the third is not, and that is undone as once.
    for _ in range(3):
        page.keyboard.type("a")
        page.keyboard.press("Enter")
    page.keyboard.press("Control+z")
    expect(page.get_by_test_id("announcement")).to_contain_text(say("app.undone"))
    expect(page.get_by_test_id("filled")).to_have_text(f"{2 * len(KINDS)} / {30 * len(KINDS)}")
    page.reload()
    expect(page.get_by_test_id("filled")).to_have_text(f"{2 * len(KINDS)} / {30 * len(KINDS)}")

    expect(page.locator("[data-state=saving], [data-state=waiting]")).to_have_count(0)
    kept = lauf.sql(SITTING)
    for (name, typed, value, _), row in zip(KINDS, kept_of_first(kept), strict=True):
        assert (row[0], row[1]) == (name, typed)
        assert value is None or row[2] == value, name
    assert [row[3] for row in kept].count("absent") == len(KINDS)
    by_name = {row[0]: row for row in kept_of_first(kept)}
    assert by_name["One-mile run on a measured course"][3] == "unfinished"
    assert by_name["One-mile run on a measured course"][5] == {"distance_mm": 480_000}
    assert by_name["Vertical jump, two marks"][5] == {"standing_mm": 1420, "jumping_mm": 1710}
    assert by_name["Roll along the floor"][5]["informal"] == 8000


def kept_of_first(rows: list[tuple[Any, ...]]) -> list[tuple[Any, ...]]:
    return [row for row in rows if row[3] != "absent"]


def test_an_undo_sent_while_the_grid_is_being_fetched_stays_on_the_screen(
    visit: Any, lauf: Served
) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head")
    make_battery(page, ["Press-ups in 60 s", "Plank to the limit"])
    give_to(page, "5 Kestrel")
    page.locator("tbody tr").first.locator("td").first.click()
    page.keyboard.type("22")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("announcement")).to_contain_text("22")

    # The undo is still to be sent when the page is opened again.
    opened: list[Any] = []
    sent: list[Any] = []
    page.route(
        re.compile("/attempts$"), lambda route: sent.append(route) if opened else route.abort()
    )
    page.keyboard.press("Control+z")
    expect(page.get_by_test_id("announcement")).to_contain_text(say("app.undone"))

    # Its answer comes after the grid was read on the server, and before the grid is here.
    read: list[tuple[Any, Any]] = []
    page.route(
        re.compile(r"/grid(\?|$)"),
        lambda route: (
            read.append((route, route.fetch())) if opened and not read else route.continue_()
        ),
    )
    page.once("framenavigated", lambda frame: opened.append(frame))
    page.reload(wait_until="commit")
    wait_for(lambda: page.wait_for_timeout(20) or (sent and read), bool)
    with page.expect_response(re.compile("/attempts$")) as answered:
        sent[0].continue_()
    assert answered.value.ok
    route, response = read[0]
    route.fulfill(response=response)
    # Before the grid is asked for again by itself, every 20 s.
    expect(page.get_by_test_id("filled")).to_have_text("0 / 60")


def test_tries_conditions_and_a_question_in_capture(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head")
    make_battery(page, ["Standing long jump", "Shuttles in 30 s"])
    give_to(page, "4 Heron")
    page.get_by_role("button", name=re.compile("^Standing long jump")).click()
    page.get_by_role("button", name="List", exact=True).click()
    page.get_by_role("button", name="all tries of one child").click()
    row = page.locator("#child-0")
    page.locator("#child-1 .name").click()
    row.locator(".name").click()
    for typed in ("121", "v", "1340"):
        expect(page.get_by_role("textbox", name=re.compile("^Try"))).to_be_focused()
        page.keyboard.type(typed)
        page.keyboard.press("Enter")
    # 13 metres is not possible: the cursor is back at the third try of the first child.
    expect(page.get_by_test_id("problem")).to_contain_text("would be too much here")
    page.keyboard.press("<")
    expect(page.get_by_role("textbox", name=re.compile("^Try 3 of"))).to_have_value("1340")
    expect(row.locator(".try, input")).to_have_count(4)  # a void one is jumped again
    page.keyboard.type("134")
    page.keyboard.press("Enter")
    expect(row.locator(".words")).to_contain_text("Centre line")

    # The next child's two tries put the earlier term's far behind: Lauf asks, one key settles it.
    expect(page.get_by_role("textbox", name=re.compile("^Try 4 of"))).to_be_focused()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Home")
    page.keyboard.press("ArrowDown")
    page.keyboard.type("310")
    page.keyboard.press("Enter")
    asked = page.get_by_role("alert", name=say("sheet.unusualScore"))
    expect(asked).to_contain_text("310 cm?")
    page.keyboard.press("!")
    expect(asked).to_have_count(0)

    # Conditions: set once for the class, another course for one child.
    page.get_by_role("button", name=re.compile("^Shuttles in 30 s")).click()
    page.get_by_role("button", name=re.compile("course length")).click()
    page.get_by_label("course length", exact=True).fill("5m")
    page.get_by_role("button", name=say("app.challengeSet"), exact=True).click()
    expect(page.get_by_role("button", name=re.compile("course length: 5 m"))).to_be_visible()
    page.locator("#child-2").click()
    page.get_by_role("button", name=re.compile("course length")).click()
    page.get_by_label("course length", exact=True).fill("4m")
    page.get_by_role("checkbox", name=re.compile("only for")).check()
    page.get_by_role("button", name=say("app.challengeSet"), exact=True).click()
    page.locator("#child-2 input").fill("12")
    page.locator("#child-2 input").press("Enter")
    page.locator("#child-3 input").fill("13")
    page.locator("#child-3 input").press("Enter")
    expect(page.locator("[data-state=saved]")).to_have_count(2)
    runs = lauf.sql(
        "SELECT a.value, a.conditions FROM records_attempt a JOIN catalogue_protocolversion v "
        "ON v.id = a.protocol_id JOIN catalogue_test t ON t.id = v.test_id "
        "WHERE t.slug = 'shuttles-30' ORDER BY a.value"
    )
    assert runs == [(12, {"course_mm": 4000}), (13, {"course_mm": 5000})]
    jumps = [(row[1], row[3], row[4]) for row in lauf.sql(SITTING) if "jump" in row[0]]
    assert ("121", None, 1) in jumps and ("v", "void", 2) in jumps and ("134", None, 3) in jumps
    settled = lauf.sql("SELECT flag FROM records_settlement")
    assert {flag for (flag,) in settled} <= {"age", "class", "history", "slip"} and settled


def test_a_time_typed_in_the_grid_is_held_against_the_clock_that_runs(
    visit: Any, lauf: Served
) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head")
    make_battery(page, ["Plank to the limit", "Press-ups in 60 s"])
    give_to(page, "5 Kestrel")
    lesson = page.url.split("/lessons/")[1].split("/")[0]
    activities = one.ask("GET", f"/api/lessons/{lesson}")["activities"]
    plank = next(each["id"] for each in activities if each["test"] == "Plank to the limit")
    begun = int(time.time() * 1000) - 60_000
    clock = {"wave": 1, "revision": 1, "way": "taps", "anchor_ms": begun, "pauses": []}
    one.ask("PUT", f"/api/activities/{plank}/runs/{uuid.uuid4()}", clock)
    page.reload()
    page.locator("tbody tr").first.locator("td").first.click()
    page.keyboard.type("9:00")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("problem")).to_contain_text("longer than the clock")
    page.get_by_role("button", name="It is right").click()
    expect(page.get_by_test_id("filled")).to_have_text("1 / 60")
    ((typed, parts),) = wait_for(
        lambda: [(row[1], row[5]) for row in lauf.sql(SITTING)], lambda found: len(found) == 1
    )
    assert (typed, parts["sure"]) == ("9:00", True)


def test_sides_and_shots_by_touch(visit: Any, lauf: Served) -> None:
    for width, height in ((360, 740), (1024, 768)):
        one = visit(viewport={"width": width, "height": height}, has_touch=True, is_mobile=True)
        page: Page = one.page
        one.be()
        page.goto(f"{one.url}/batteries")
        page.get_by_role("link", name=re.compile("^5 Kestrel")).first.tap()
        for test, taps, words in (
            ("Shoulder reach, both sides", ["left only"], "left"),
            ("Ten underarm shots at a box", ["● hit", "○ miss"] * 5, "5/10"),
        ):
            expect(page.locator("table.grid")).to_be_visible()
            rail(page, test).tap()
            pad = page.get_by_role("group", name="Pad")
            child = page.locator("#child-20 .name")
            child.evaluate("one => one.scrollIntoView({ block: 'center' })")
            child.tap()
            expect(pad).to_be_visible()
            for tap in taps:
                pad.get_by_role("button", name=tap).tap()
            small = [
                (button.inner_text(), box["width"], box["height"])
                for button in pad.get_by_role("button").all()
                if (box := button.bounding_box()) and min(box["width"], box["height"]) < 48
            ]
            assert small == []
            pad.get_by_role("button", name="Save", exact=True).tap()
            expect(page.locator("#child-20 .score")).to_contain_text(words)
            expect(page.locator("#child-20 [data-state=saved]")).to_be_visible()
            assert page.evaluate("document.documentElement.scrollWidth") <= width
            rail(page, "All tests").tap()


def test_pulses_down_the_class(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in()
    page.locator("a.lesson", has_text="4 Heron").click()
    page.get_by_role("button", name="Pulse at rest").click()
    boxes = page.get_by_role("textbox", name=re.compile("^Beats of"))
    expect(boxes).to_be_focused()
    for beats in ("14", "15", "13"):
        page.keyboard.type(beats)
        page.keyboard.press("Enter")
    page.keyboard.type("a")
    page.keyboard.press("Enter")
    expect(page.locator("[data-state=saved]")).to_have_count(4)
    page.get_by_role("button", name="After the warm-up", exact=True).click()
    expect(boxes).to_be_focused()
    page.keyboard.type("120")  # beats a minute typed as beats in 10 s
    page.keyboard.press("Enter")
    expect(page.get_by_text("Was 120 already beats a minute?")).to_be_visible()
    page.keyboard.press("<")
    expect(boxes).to_have_value("120")
    one.context.set_offline(True)
    page.keyboard.type("20")
    page.keyboard.press("Enter")
    expect(page.locator("[data-state=waiting], [data-state=saving]")).to_have_count(1)
    one.context.set_offline(False)
    expect(page.locator("[data-state=saved]")).to_have_count(5)
    expect(page.locator("#pulse-0 .words")).to_contain_text("36 above rest")
    page.keyboard.type("10")  # below this child's own resting pulse
    page.keyboard.press("Enter")
    page.get_by_role("button", name="It is right").click()
    expect(page.locator("#pulse-1 .flag")).to_have_count(0)
    page.reload()
    expect(page.locator("#pulse-1 .words")).to_contain_text("peak 60")
    kept = lauf.sql(
        "SELECT p.beats, p.seconds, p.moment, p.confirmed FROM records_pulsereading p "
        "JOIN lessons_lesson l ON l.id = p.lesson_id LEFT JOIN records_pulsereading n "
        "ON n.succeeds_id = p.id WHERE l.starts_at::date = current_date AND n.id IS NULL "
        "AND p.beats IS NOT NULL ORDER BY p.position, p.recorded_at"
    )
    assert kept == [
        (14, 10, "rest", False), (15, 10, "rest", False), (13, 10, "rest", False),
        (20, 10, "warm_up", False), (10, 10, "warm_up", True),
    ]  # fmt: skip


def test_the_demo_is_prepared_again_without_harm(lauf: Served) -> None:
    """A second start of the same Lauf adds nothing twice."""
    counts = "SELECT count(*) FROM records_attempt"
    before = lauf.sql(counts)
    manage(["prepare", "--without-past"], lauf.database)
    assert lauf.sql(counts) == before
