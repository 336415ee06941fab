"""A challenge from the week's making to the points, and one of them undone."""

from __future__ import annotations

import io
import re
from typing import Any

from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.support.fields import choose
from tests.support.hall import cell, rail, type_in
from tests.support.messages import say
from tests.support.newcomer import Newcomer
from tests.support.served import Served


def test_a_week_is_made_scores_are_taken_and_points_given(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in()
    page.get_by_role("link", name="Challenges", exact=True).press("Enter")
    page.get_by_role("button", name="New week").press("Enter")
    page.get_by_label("Name").fill("Windy week")
    page.get_by_role("button", name=say("challenges.createWeek")).press("Enter")
    expect(page.locator("p[role=alert]")).to_contain_text("at least one class")
    expect(page.get_by_label("Name")).to_have_value("Windy week")
    page.get_by_label("5 Kestrel").press("Space")
    page.get_by_text(say("challenges.pointsEachAtMostOncePer")).click()
    page.get_by_label("beat the rival").fill("5")
    page.get_by_role("button", name=say("challenges.createWeek")).press("Enter")
    expect(page.get_by_role("heading", level=1)).to_have_text("Windy week")
    expect(page.locator("li.day")).to_have_count(5)

    page.get_by_role("button", name="Choose").first.press("Enter")
    choose(page.get_by_role("combobox", name="Tests"), "Star jumps in 60 s")
    page.keyboard.press("Escape")
    page.get_by_role("button", name=say("challenges.save"), exact=True).press("Enter")
    expect(page.get_by_role("link", name="Star jumps in 60 s")).to_be_visible()
    page.get_by_role("button", name="Rival").press("Enter")
    page.get_by_label(say("challenges.name"), exact=True).fill("the caretaker")
    mark = page.get_by_role("textbox", name="Star jumps in 60 s")
    mark.fill("lots")
    mark.press("Enter")
    expect(page.locator("p[role=alert]")).to_contain_text("Star jumps in 60 s: ")
    expect(mark).to_have_value("lots")
    mark.fill("12")
    mark.press("Enter")
    expect(page.get_by_text("the caretaker:")).to_contain_text("12")

    page.locator("a.test", has_text="Star jumps in 60 s").press("Enter")
    page.get_by_role("button", name="Take scores").press("Enter")
    expect(page.locator(".child.active input")).to_be_focused()
    for entry in ("14", "9", "12", "20~"):
        page.keyboard.type(entry)
        page.keyboard.press("Enter")
    expect(page.locator("[data-state=saved]")).to_have_count(4)
    page.go_back()
    rows = page.locator("tbody tr")
    expect(rows.nth(0)).to_contain_text("beat the caretaker by 2")
    expect(rows.nth(1)).to_contain_text("3 short of the caretaker")
    expect(rows.nth(2)).to_contain_text("level with the caretaker")
    give = page.get_by_role("button", name=re.compile(r"Give \d+ points"))
    give.press("Enter")
    expect(page.get_by_role("button", name="No points to give")).to_be_visible()
    point = rows.nth(0).get_by_role("button", name="+5 beat the rival")
    expect(point).to_be_visible()
    point.press("Enter")
    page.get_by_label("Why").fill("counted two too many")
    page.get_by_role("button", name=say("challenges.removePoints")).press("Enter")
    expect(rows.nth(0)).to_contain_text(say("challenges.removedWhy", why="counted two too many"))
    ledger = lauf.sql(
        "SELECT p.rule, p.points, p.why FROM challenges_point p "
        "JOIN challenges_challenge c ON c.id = p.challenge_id "
        "JOIN challenges_challengeweek w ON w.id = c.week_id "
        "WHERE w.name = 'Windy week' ORDER BY p.at, p.points"
    )
    assert [row[1] for row in ledger if row[0] == "took_part"] == [1, 1, 1, 1]
    assert [row[1:] for row in ledger if row[0] == "beat_rival"] == [
        (5, "beat the caretaker by 2: 14 in Star jumps in 60 s"),
        (-5, "counted two too many"),
    ]


#: The rival's marks in "Ten in a row", as the rival's own go is typed.
MARKS = ("31", "17", "26", "19", "38", "16", "41", "10", "47", "22")


def test_a_set_of_ten_is_made_held_and_read_in_eight_actions(visit: Any, lauf: Served) -> None:
    """Counted: everything pressed, chosen or named beyond digits and Enter."""
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in()
    who = Newcomer(page)
    who.press("link", "Challenges")
    who.press("button", "New set")
    who.tick("5 Kestrel")
    who.press("button", "Ten in a row · 10")
    who.write(say("challenges.rivalOptional"), "Ms Pell")
    who.press("button", say("challenges.createSet"))
    # Ten marks in one row; Enter goes from one to the next, and keeps them after the last.
    row = page.get_by_role("form", name="The rival")
    expect(row.get_by_label("Star jumps in 30 s")).to_be_focused()
    for mark in MARKS:
        page.keyboard.type(mark)
        page.keyboard.press("Enter")
    expect(row).to_have_count(0)
    expect(page.locator("thead .mark")).to_have_text(list(MARKS))
    assert who.actions == 6
    who.press("button", say("challenges.startTheSet"))
    expect(page.get_by_role("button", name="Start the lesson")).to_be_visible()
    who.space()
    assert who.actions == 8

    # Along two children, in the table of all ten; a reload in the middle loses nothing.
    rail(page, "All tests").click()
    page.get_by_role("button", name=say("sheet.alongTheRow")).press("Enter")
    page.locator("tbody tr").first.locator("td").first.click()
    for place, mark in enumerate(MARKS):
        page.keyboard.type(str(int(mark) + (1 if place < 4 else -1 if place < 9 else 0)))
        page.keyboard.press("Enter")
        if place == 5:
            expect(page.get_by_test_id("filled")).to_have_text(re.compile("^6 /"))
            page.reload()
            expect(page.get_by_test_id("filled")).to_have_text(re.compile("^6 /"))
            page.get_by_role("button", name=say("sheet.alongTheRow")).press("Enter")
            page.locator("tbody tr").first.locator("td").nth(6).click()
    expect(page.get_by_test_id("filled")).to_have_text(re.compile("^10 /"))
    expect(page.locator("[data-state=saving], [data-state=waiting]")).to_have_count(0)
    expect(page.get_by_test_id("announcement")).to_contain_text("22")
    page.goto(f"{one.url}/challenges")
    page.get_by_role("link", name="Ten in a row 10").or_(page.locator("a.week").first).first.click()
    page.get_by_role("link", name="As a set").click()
    first = page.locator("tbody tr").first
    expect(first.locator(".sum")).to_have_text("4")
    expect(first.locator("td.beaten")).to_have_count(4)
    expect(first.locator(".ahead")).to_have_text(["+1"] * 4 + ["−1"] * 5 + ["="])
    first.get_by_role("button").press("Enter")
    sheet = page.locator("section.own")
    expect(sheet.locator(".foot")).to_contain_text("beaten in 4 of 10, level in 1")
    expect(sheet.get_by_text("beat Ms Pell by 1").first).to_be_visible()
    assert one.axe() == []
    page.set_viewport_size({"width": 360, "height": 740})
    assert page.evaluate("document.documentElement.scrollWidth") <= 360


def test_a_week_of_five_takes_seven_actions_and_fridays_retry_one(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in()
    who = Newcomer(page)
    who.press("link", "Challenges")
    who.press("button", "New week")
    who.tick("4 Heron")
    who.press("button", "Five quick ones · 5")
    who.write(say("challenges.rivalOptional"), "the caretaker")
    who.press("button", say("challenges.createWeek"))
    expect(page.locator("li.day")).to_have_count(5)
    expect(page.get_by_text("not set yet")).to_have_count(5)
    who.press("button", "Rival")
    row = page.get_by_role("form", name="The rival")
    expect(row.get_by_label("High knees in 20 s")).to_be_focused()
    for mark in ("60", "40", "50", "18", "34"):
        page.keyboard.type(mark)
        page.keyboard.press("Enter")
    expect(row).to_have_count(0)
    expect(page.get_by_text("the caretaker:")).to_have_count(5)
    assert who.actions == 7
    # Friday: the week began four days ago.
    lauf.sql_do(
        "UPDATE challenges_challengeweek SET starts_on = starts_on - 4, ends_on = ends_on - 4 "
        "WHERE name = 'Five quick ones'"
    )
    lauf.sql_do(
        'UPDATE challenges_challenge SET "on" = "on" - 4 WHERE week_id = '
        "(SELECT id FROM challenges_challengeweek WHERE name = 'Five quick ones')"
    )
    page.reload()
    who.press("button", say("challenges.repeatTheWholeWeek"))
    expect(page.get_by_role("navigation", name="Blocks")).to_contain_text("Speed bounce in 30 s")
    assert who.actions == 8
    rail(page, "Speed bounce").click()
    expect(page).to_have_url(re.compile("block="))  # the list before it had a cell too
    expect(cell(page)).to_be_focused()
    for entry in ("36", "30"):
        page.keyboard.type(entry)
        page.keyboard.press("Enter")
    expect(page.locator("[data-state=saved]")).to_have_count(2)
    page.goto(f"{one.url}/challenges")
    page.locator("a.week", has_text="Five quick ones").click()
    page.locator("a.test", has_text="Speed bounce in 30 s").click()
    expect(page.locator("tbody tr").first).to_contain_text("beat the caretaker by 2")
    expect(page.locator("tbody tr").nth(1)).to_contain_text("4 short of the caretaker")


def test_a_target_is_said_before_the_clock_and_judged_after(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be()
    page.goto(f"{one.url}/lessons/new")
    who = Newcomer(page)
    who.choose("Class", "3 Swift")
    who.choose(say("challenges.testsInOrder"), "Star jumps in 30 s")
    page.keyboard.press("Escape")
    who.press("button", say("lessons.openLesson"))
    who.press("button", "Own targets")
    own = page.get_by_role("region", name="Own targets")
    whole = own.get_by_label(say("sheet.targetOfGroup", group="The whole class"))
    whole.fill("about 100")
    whole.press("Enter")
    expect(own.get_by_role("alert")).to_contain_text("such as 240")
    whole.fill("100")
    whole.press("Enter")
    expect(own.get_by_role("alert")).to_have_count(0)
    says = own.locator("table").get_by_role("textbox")
    says.first.click()
    for typed in ("20", "lots", "30"):
        page.keyboard.type(typed)
        page.keyboard.press("Enter")
    expect(own.get_by_role("alert")).to_contain_text("“lots”")
    expect(says.nth(1)).to_have_value("lots")
    expect(says.nth(3)).to_be_focused()
    own.get_by_role("button", name=re.compile("^Use the suggested targets")).click()
    expect(own.get_by_role("button", name=re.compile("^Use the suggested targets"))).to_have_count(
        0
    )
    page.reload()
    rows = page.locator("ol.children > li")
    expect(rows.nth(0).get_by_test_id("aim")).to_contain_text("target 20")
    expect(rows.nth(2).get_by_test_id("aim")).to_contain_text("target 30")
    rows.nth(0).locator(".name").click()
    expect(cell(page)).to_be_focused()
    type_in(page, "23", "18", "28")
    expect(rows.nth(0).get_by_test_id("aim")).to_contain_text(
        "target 20: met, 3 more than the target"
    )
    expect(rows.nth(2).get_by_test_id("aim")).to_contain_text("target 30: 2 short of the target")
    # Robin Ashgrove's mark of the set two days ago is open to be beaten: another one is made live.
    mark = page.get_by_label("Mark of Robin Ashgrove")
    expect(mark).to_have_value("31")
    mark.fill("lots")
    mark.press("Enter")
    rivals = page.get_by_role("list", name="Rivals")
    expect(rivals.get_by_role("alert")).to_contain_text("“lots”")
    mark.fill("34")
    mark.press("Enter")
    expect(rivals).to_contain_text("34 to beat")
    who.press("button", "Own targets")
    expect(own.get_by_role("list", name="Together")).to_contain_text(
        "69 so far, 31 to go, 26 children still to come"
    )
    expect(own.get_by_role("status")).to_contain_text("of 3 met their target")
    assert one.axe() == []
    said = lauf.sql("SELECT count(*) FILTER (WHERE proposed), count(*) FROM records_aim")
    assert said == [(27, 29)], "two by themselves, the rest as proposed"


def test_a_warm_up_game_by_the_space_bar_and_the_wall_without_a_name(
    visit: Any, lauf: Served
) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be()
    page.goto(f"{one.url}/challenges/warm-up?number=2027")
    board = page.get_by_role("region", name="The board")
    expect(board.locator("td")).to_have_count(40)
    expect(page.get_by_test_id("game-left")).to_have_text("10:00")
    for team in "ABC":
        page.keyboard.press("Space")
        expect(page.locator(".announcement")).to_contain_text(f"{team} ")
    stood = board.locator(".counters").all_inner_texts()
    page.reload()
    expect(page.get_by_role("button", name="Throw for D")).to_be_visible()
    assert board.locator(".counters").all_inner_texts() == stood, "a reload loses nothing"
    (paper,) = PdfReader(io.BytesIO(page.pdf(prefer_css_page_size=True))).pages
    assert paper.mediabox.width > paper.mediabox.height, "a page that lies"
    assert "The same numbers make the same board again" in paper.extract_text()
    assert one.faults() == []
    page.goto(f"{one.url}/challenges")
    page.locator("a.week").first.click()
    page.get_by_role("link", name="Wall").click()
    expect(page.get_by_role("heading", name="Taking part, by class")).to_be_visible()
    following = page.get_by_role("button", name="Next")
    while following.is_enabled():
        following.click()
    expect(page.get_by_role("heading", name=say("challenges.pointsPerChild"))).to_be_visible()
    expect(page.locator(".row", has_text="per child").last).to_be_visible()
    assert "Pascoe" not in page.content()
    assert one.faults() == []
