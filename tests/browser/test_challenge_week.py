"""A challenge from the week's making to the points, and one of them taken back."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.support.served import Served


def test_a_week_is_made_scores_are_taken_and_points_given(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in()
    page.get_by_role("link", name="Challenges", exact=True).press("Enter")
    page.get_by_role("button", name="New week").press("Enter")
    page.get_by_label("Name").fill("Windy week")
    page.get_by_role("button", name="Make the week").press("Enter")
    expect(page.locator("p[role=alert]")).to_contain_text("at least one class")
    expect(page.get_by_label("Name")).to_have_value("Windy week")
    page.get_by_label("4 Heron").press("Space")
    page.get_by_label("beat the rival").fill("5")
    page.get_by_role("button", name="Make the week").press("Enter")
    expect(page.get_by_role("heading", level=1)).to_have_text("Windy week")
    expect(page.locator("li.day")).to_have_count(5)

    page.get_by_role("button", name="Choose").first.press("Enter")
    box = page.get_by_role("combobox", name="Test")
    box.fill("Burpees in 30 s")
    page.get_by_role("option", name="Burpees in 30 s").click()
    page.get_by_label("Rival (or nobody)").fill("the caretaker")
    page.get_by_label("Mark, in the same test").fill("lots")
    page.get_by_role("button", name="Keep").press("Enter")
    expect(page.locator("p[role=alert]")).to_contain_text("Type")
    page.get_by_label("Mark, in the same test").fill("12")
    page.get_by_role("button", name="Keep").press("Enter")
    expect(page.get_by_text("the caretaker:")).to_contain_text("12")

    page.get_by_role("link", name="Burpees in 30 s").press("Enter")
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
    page.get_by_role("button", name="Take back").press("Enter")
    expect(rows.nth(0)).to_contain_text("taken back: counted two too many")
    ledger = lauf.sql(
        "SELECT p.rule, p.points, p.why FROM challenges_point p "
        "JOIN challenges_challenge c ON c.id = p.challenge_id "
        "JOIN challenges_challengeweek w ON w.id = c.week_id "
        "WHERE w.name = 'Windy week' ORDER BY p.at, p.points"
    )
    assert [row[1] for row in ledger if row[0] == "took_part"] == [1, 1, 1, 1]
    assert [row[1:] for row in ledger if row[0] == "beat_rival"] == [
        (5, "beat the caretaker by 2: 14 in Burpees in 30 s"),
        (-5, "counted two too many"),
    ]


@pytest.mark.parametrize("width", [360, 1280])
def test_a_warm_up_game_by_the_space_bar_and_the_wall_without_a_name(
    visit: Any, lauf: Served, width: int
) -> None:
    one = visit(viewport={"width": width, "height": 800})
    page: Page = one.page
    one.sign_in()
    page.goto(f"{one.url}/challenges/warm-up?number=2027")
    board = page.get_by_role("region", name="The board")
    expect(board.locator("td")).to_have_count(40)
    expect(page.get_by_test_id("game-left")).to_have_text("10:00")
    for team in "ABC":
        page.keyboard.press("Space")
        expect(page.locator(".said")).to_contain_text(f"{team} ")
    stood = board.locator(".counters").all_inner_texts()
    page.reload()
    expect(page.get_by_role("button", name="Throw for D")).to_be_visible()
    assert board.locator(".counters").all_inner_texts() == stood, "a reload loses nothing"
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    assert one.axe() == []
    page.goto(f"{one.url}/challenges")
    page.locator("a.week").first.click()
    page.get_by_role("link", name="Wall").click()
    expect(page.get_by_role("heading", name="Taking part, by class")).to_be_visible()
    following = page.get_by_role("button", name="Next")
    while following.is_enabled():
        following.click()
    expect(page.get_by_role("heading", name="Points a child")).to_be_visible()
    expect(page.locator(".row", has_text="a child").last).to_be_visible()
    assert "Pascoe" not in page.content()
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    assert one.axe() == []
