"""Every way to take scores in the hall, by keyboard and by touch, with the database asked."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page, expect

from tests.support.fields import pick
from tests.support.hall import cell, rail
from tests.support.messages import say
from tests.support.served import Served, wait_for

BOUNCE = "Speed bounce in 30 s"
JUMP = "Vertical jump, two marks"
TARGET = "240 in 25 minutes"
RUN = "20 m shuttle run, even steps from 8.5 km/h"

KEPT = """
    SELECT u.given_name || ' ' || u.family_name, a.typed, a.value, a.reason, c.given_name
    FROM records_attempt a JOIN people_pupil u ON u.id = a.pupil_id
    LEFT JOIN people_pupil c ON c.id = a.counted_by_id
    WHERE a.activity_id = %s AND coalesce(a.reason, '') <> 'withdrawn'
      AND NOT EXISTS (SELECT 1 FROM records_attempt l WHERE l.succeeds_id = a.id)
    ORDER BY u.given_name, u.family_name, a.try_number
"""


def begin(visit: Any, *tests: str, **context: Any) -> tuple[Any, dict[str, str]]:
    """A lesson of 4 Heron with these tests; addresses of their screens."""
    one = visit(**{"viewport": {"width": 1280, "height": 800}, **context})
    one.hold_time()
    one.be()
    lesson, activities = one.lesson("4 Heron", *tests)
    return one, {
        name: f"{one.url}/lessons/{lesson}/%s?activity={activity}"
        for name, activity in activities.items()
    }


def activity_of(address: str) -> str:
    return address.rpartition("=")[2]


def test_six_are_tallied_at_once(visit: Any, lauf: Served) -> None:
    one, at = begin(visit, BOUNCE)
    page: Page = one.page
    page.goto(at[BOUNCE] % "tally")
    areas = page.locator(".area")
    expect(areas).to_have_count(6)
    # With the hall's clock: what is tapped before go and after stop does not count.
    page.get_by_role("button", name="Start the lesson").press("Enter")
    expect(page.get_by_role("button", name="Pause")).to_be_visible()
    page.keyboard.press("1")
    expect(page.get_by_text("that does not count")).to_be_visible()
    one.ahead(10_500)
    expect(page.get_by_test_id("now")).to_contain_text("Work")
    for key, times in (("1", 7), ("2", 5), ("3", 4), ("5", 1)):
        for _ in range(times):
            page.keyboard.press(key)
    page.keyboard.press("Shift+Digit1")
    page.keyboard.press("Control+z")  # the one of 5
    page.reload()
    expect(areas.nth(0)).to_contain_text("6")
    one.ahead(41_000)
    expect(page.get_by_test_id("now")).not_to_contain_text("Work")
    page.keyboard.press("2")
    keep = page.get_by_role("button", name=say("sheet.saveThese"))
    expect(keep).to_be_enabled()
    assert one.small_targets(".tally") == []
    keep.press("Enter")
    expect(page.get_by_text(say("sheet.nScoreSaved", n=3))).to_be_visible()
    names = [name.inner_text() for name in page.locator(".area .name").all()]
    rows = wait_for(lambda: lauf.sql(KEPT, activity_of(at[BOUNCE])), lambda found: len(found) == 3)
    assert [row[2] for row in rows] == [6, 5, 4], "who was not tapped stays blank"
    assert not any(row[0] in name for row in rows for name in names), "the next six stand there"


def test_a_tally_by_touch_is_taken_back_by_a_swipe(visit: Any, lauf: Served) -> None:
    one, at = begin(visit, BOUNCE, viewport={"width": 1024, "height": 768}, has_touch=True)
    page: Page = one.page
    page.goto(at[BOUNCE] % "tally")
    first = page.locator(".area").first
    for _ in range(3):
        first.tap()
    expect(first).to_contain_text("3")
    box = first.bounding_box()
    assert box is not None
    y, x = box["y"] + box["height"] / 2, box["x"] + box["width"] * 0.8
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 120, y, steps=6)
    page.mouse.up()
    expect(first).to_contain_text("2")
    page.get_by_role("button", name=say("sheet.saveThese")).tap()
    rows = wait_for(lambda: lauf.sql(KEPT, activity_of(at[BOUNCE])), bool)
    assert [row[2] for row in rows] == [2]


def test_the_partner_says_the_score(visit: Any, lauf: Served) -> None:
    one, at = begin(visit, BOUNCE)
    page: Page = one.page
    page.goto(at[BOUNCE] % "partner")
    question = page.get_by_test_id("question")
    asked = []
    for entry in ("31", "28~", "a"):
        asked.append(question.inner_text())
        page.keyboard.type(entry)
        page.keyboard.press("Enter")
        expect(question).not_to_have_text(asked[-1])
    # Bad input stays and says what is accepted; undo comes back to the one before.
    page.keyboard.type("12x")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("whole number")
    page.keyboard.press("Control+z")
    expect(question).to_have_text(asked[2])
    # Each child's entries go their own way: what was said last may be there, and gone again, first.
    rows = wait_for(
        lambda: lauf.sql(KEPT, activity_of(at[BOUNCE])),
        lambda found: [row[1] for row in found] == ["31", "28~"],
    )
    assert [(row[1], row[2]) for row in rows] == [("31", 31), ("28~", 28)]
    for row, words in zip(rows, asked, strict=False):
        assert words.startswith(row[4]) and row[0].split()[0] in words
    assert one.small_targets(".partner") == []


def test_answers_that_overtake_each_other_leave_what_is_kept(visit: Any, lauf: Served) -> None:
    """Two tries of a child are on their way at once, and the first one's answer comes last."""
    one, at = begin(visit, JUMP)
    page: Page = one.page
    page.goto(at[JUMP] % "measure")
    expect(page.get_by_label(say("sheet.standingReachUnit", unit="cm"))).to_be_focused()
    held: list[Any] = []

    def last_first(route: Any) -> None:
        held.append((route, route.fetch()))
        if len(held) == 2:
            for waiting, answered in reversed(held):
                waiting.fulfill(response=answered)

    page.route(re.compile("/attempts$"), last_first)
    for entry in ("152", "181", "184"):
        page.keyboard.type(entry)
        page.keyboard.press("Enter")
    expect(page.locator("[data-state=saving], [data-state=waiting]")).to_have_count(0)
    rows = wait_for(lambda: lauf.sql(KEPT, activity_of(at[JUMP])), lambda found: len(found) == 2)
    assert [row[1] for row in rows] == ["152 181", "152 184"]
    # Both are answered; what is shown at last is what is kept, without another press.
    assert len(held) == 2
    expect(page.locator("[data-state=saved]")).to_have_count(2)
    expect(page.get_by_test_id("best")).to_have_text("32 cm")


def test_two_marks_and_the_best_of_three(visit: Any, lauf: Served) -> None:
    one, at = begin(visit, JUMP)
    page: Page = one.page
    page.goto(at[JUMP] % "measure")
    expect(page.get_by_label(say("sheet.standingReachUnit", unit="cm"))).to_be_focused()
    for entry in ("152", "181", "184", "v"):
        page.keyboard.type(entry)
        page.keyboard.press("Enter")
    # The fall is jumped again by the next child's turn: a fourth try is offered to who fell.
    expect(page.get_by_test_id("child")).not_to_have_text("")
    page.get_by_role("button", name="Back").click()
    expect(page.get_by_test_id("best")).to_have_text("32 cm")
    expect(page.get_by_label(say("sheet.standingReachUnit", unit="cm"))).to_have_value("152")
    page.reload()
    page.locator("button.child").first.click()
    expect(page.get_by_label(say("sheet.standingReachUnit", unit="cm"))).to_have_value("152")
    expect(page.get_by_test_id("best")).to_have_text("32 cm")
    rows = lauf.sql(KEPT, activity_of(at[JUMP]))
    assert [(row[1], row[2], row[3]) for row in rows] == [
        ("152 181", 290, None), ("152 184", 320, None), ("v", None, "void"),
    ]  # fmt: skip
    # Without a standing mark nothing is entered, and it says so.
    page.locator("button.child").nth(2).click()
    expect(page.get_by_label(say("sheet.standingReachUnit", unit="cm"))).to_be_focused()
    page.get_by_label("Mark at the top, try 1").fill("170")
    page.get_by_label("Mark at the top, try 1").press("Enter")
    expect(page.get_by_role("alert")).to_contain_text(say("sheet.measureTheStandingReachFirst"))
    expect(page.get_by_label("Mark at the top, try 1")).to_have_value("170")
    # Measured then, the jump that waited for it is kept by one more key.
    expect(page.get_by_label(say("sheet.standingReachUnit", unit="cm"))).to_be_focused()
    page.keyboard.type("140")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Mark at the top, try 1")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("best")).to_have_text("30 cm")
    assert one.small_targets(".one") == []


def test_a_rep_target_grows_and_says_the_pace_still_needed(visit: Any, lauf: Served) -> None:
    one, at = begin(visit, TARGET)
    page: Page = one.page
    lesson = at[TARGET].split("/lessons/")[1].split("/")[0]
    test = one.ask("GET", f"/api/lessons/{lesson}")["activities"][0]["test_id"]
    block = {
        "kind": "rep_target", "label": "300", "seconds": 1500, "test_id": test,
        "names": ["squats", "press-ups"], "carries": "squats",
    }  # fmt: skip
    one.ask("PUT", f"/api/lessons/{lesson}/plan", {"based_on": 0, "blocks": [block]})
    activity = one.ask("GET", f"/api/lessons/{lesson}")["activities"][0]["id"]
    page.goto(f"{one.url}/lessons/{lesson}/target?activity={activity}")
    # The cursor goes to the first child as soon as the class is there, and takes the keys with it.
    expect(page.get_by_role("rowheader").first).to_be_visible()
    page.get_by_role("button", name="Start the lesson").click()
    expect(page.get_by_role("button", name="Pause")).to_be_visible()
    one.ahead(610_000)
    expect(page.get_by_test_id("left")).to_have_text("15:00")
    field = page.locator("input.reps")
    field.click()
    page.keyboard.type("c40")
    page.keyboard.press("Enter")
    page.keyboard.press("ArrowUp")
    page.keyboard.type("30")
    page.keyboard.press("Enter")
    page.keyboard.press("ArrowUp")
    page.keyboard.press("ArrowRight")  # the next movement
    page.keyboard.type("15")
    page.keyboard.press("Enter")
    first = page.locator("tbody tr").first
    expect(first).to_contain_text("85")
    page.keyboard.type("-5")  # the second child has none yet
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("less than zero")
    page.keyboard.press("Escape")
    rows = wait_for(
        lambda: lauf.sql(KEPT, activity), lambda found: bool(found) and found[0][2] == 85
    )
    assert rows[0][1] == "c40+30+15"
    expect(first).to_contain_text("per minute")
    page.reload()
    expect(page.get_by_test_id("left")).to_have_text("15:00")
    expect(first).to_contain_text("85")
    # Nobody is left a blank that is not explained, and nought is a number.
    totals = page.locator("tbody tr .total")
    page.locator("tbody tr").nth(1).click()
    page.keyboard.type("a")
    page.keyboard.press("Enter")
    expect(totals.nth(1)).to_contain_text("absent")
    page.keyboard.type("0")
    page.keyboard.press("Enter")
    expect(totals.nth(2)).to_contain_text("0")
    expect(totals.nth(3)).to_contain_text("–")
    page.keyboard.press("ArrowUp")
    page.keyboard.press("ArrowUp")
    page.keyboard.type("12")  # came late
    page.keyboard.press("Enter")
    expect(totals.nth(1)).to_contain_text("12")


def test_a_progressive_run_warns_once_and_ends_at_the_second_miss(visit: Any, lauf: Served) -> None:
    """Beeps by hand from the definition: 72/8.5 s a shuttle in the first stage, seven of them."""
    one, at = begin(visit, RUN, viewport={"width": 1024, "height": 768}, has_touch=True)
    page: Page = one.page
    page.goto(at[RUN] % "beeps")
    pick(page.get_by_label(say("sheet.whoGoesWithThisClock")), say("sheet.everyone"))
    page.get_by_role("button", name="Start", exact=True).tap()
    tiles, stage = page.locator("button.tile"), page.get_by_test_id("stage")
    expect(tiles).to_have_count(28)
    ready, shuttle = 5_000, 72_000 / 8.5

    def after(beep: float) -> None:
        one.ahead(int(ready + beep * shuttle + 300))

    one.ahead(2_000)
    expect(stage).to_have_text("3")
    after(0)
    expect(stage).to_have_text("1.1")
    after(3)
    expect(stage).to_have_text("1.4")
    boxes = """() => [...document.querySelectorAll(".tiles li")].map((one) => {
        const { y, height } = one.getBoundingClientRect(); return [y, height]; })"""
    before = page.evaluate(boxes)
    for place in (0, 1):
        tiles.nth(place).tap()
    expect(page.get_by_text("! warned")).to_have_count(2)
    assert page.evaluate(boxes) == before, "no tile moves for a warning"
    after(4)
    tiles.nth(0).tap()  # the second in a row: out with 1.2; the other made this line
    tiles.nth(2).tap()  # the wrong child, undone
    page.get_by_role("button", name="Undo").tap()
    after(5)
    expect(page.get_by_text("! warned")).to_have_count(0)
    page.reload()
    expect(stage).to_have_text("1.6")
    tiles.nth(1).tap()
    expect(page.get_by_text("! warned")).to_have_count(1)
    page.get_by_role("button", name=" stops").nth(2).tap()  # the fourth child stops: 1.5
    one.ahead(int(ready + 7 * shuttle + 100))
    expect(stage).to_have_text("2.1")
    expect(page.get_by_test_id("running")).to_have_text("26 running")
    assert one.small_targets(".run") == []
    one.ahead(int(ready + 7 * shuttle + 8_000 + 100))
    page.get_by_role("button", name=say("sheet.stopAll")).tap()
    page.get_by_role("alertdialog").get_by_role("button", name=say("sheet.stopAll")).tap()
    expect(stage).to_have_text("End")
    rows = wait_for(lambda: lauf.sql(KEPT, activity_of(at[RUN])), lambda found: len(found) == 28)
    assert [row[1] for row in rows[:4]] == ["1.2", "2.1", "2.1", "1.5"]
    assert {row[1] for row in rows[4:]} == {"2.1"}
    assert [row[2] for row in rows[:4]] == [2, 8, 8, 5]


def test_a_way_that_does_not_fit_the_test_gives_way_to_one_that_does(
    visit: Any, lauf: Served
) -> None:
    one, at = begin(visit, BOUNCE, RUN)
    page: Page = one.page
    page.goto(at[RUN] % "tally")
    expect(page.get_by_test_id("stage")).to_be_visible()
    page.get_by_role("button", name="List", exact=True).press("Enter")
    expect(cell(page)).to_be_focused()
    rail(page, BOUNCE).press("Enter")
    expect(cell(page)).to_be_focused()


def test_the_list_follows_the_order_the_children_sit_in(visit: Any, lauf: Served) -> None:
    one, at = begin(visit, BOUNCE)
    page: Page = one.page
    page.goto(f"{one.url}/classes")
    page.get_by_role("link", name="4 Heron").press("Enter")
    page.get_by_role("link", name="Children and lessons").press("Enter")
    page.get_by_role("button", name=say("people.classOrder")).press("Enter")
    names = [link.inner_text() for link in page.locator("tbody tr td:first-child a").all()]
    third = page.get_by_role("button", name=f"Move {names[2]} up")
    third.press("Enter")
    rows = page.locator("tbody tr td:first-child a")
    expect(rows.nth(1)).to_have_text(names[2])
    third.press("Alt+ArrowUp")
    expect(rows.nth(0)).to_have_text(names[2])
    page.goto(at[BOUNCE] % "capture")
    expect(page.locator(".child .name").first).to_contain_text(names[2])


def test_axe_finds_nothing_in_any_way_to_capture(visit: Any, lauf: Served) -> None:
    found: dict[str, list[str]] = {}
    plank = "Plank to the limit"
    one, at = begin(visit, BOUNCE, JUMP, TARGET, RUN, plank)
    page: Page = one.page
    for test, way, ready in (
        (BOUNCE, "tally", ".area"),
        (BOUNCE, "partner", ".question"),
        (JUMP, "measure", ".large"),
        (TARGET, "target", "input.reps"),
        (RUN, "beeps", ".tile"),
        (plank, "tap", ".tile"),
    ):
        page.goto(at[test] % way)
        expect(page.locator(ready).first).to_be_visible()
        found[way] = one.axe()
    lesson, block = lauf.sql(
        "SELECT lesson_id, position FROM lessons_planblock WHERE kind = 'stations'"
    )[0]
    page.goto(f"{one.url}/lessons/{lesson}/stations/{block}")
    expect(page.locator(".groups section").first).to_be_visible()
    found["stations"] = one.axe()
    page.goto(f"{one.url}/lessons/{lesson}/plan")
    page.locator("li.block .title", has_text="work 4 ×").click()
    expect(page.get_by_role("button", name="By house")).to_be_visible()
    found["stations in the plan"] = one.axe()
    page.goto(f"{one.url}/challenges")
    page.locator("a.week").first.click()
    expect(page.locator(".day").first).to_be_visible()
    found["week"] = one.axe()
    page.locator("a.test").first.click()
    expect(page.locator(".given").first).to_be_visible()
    found["challenge"] = one.axe()
    assert {screen: faults for screen, faults in found.items() if faults} == {}
