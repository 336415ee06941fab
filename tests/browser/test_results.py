"""After the lesson, on demo data: from the last score to the reports, a child over three terms, and
the same words on the board, the child's page, in the PDF and in the workbook."""

from __future__ import annotations

import io
import re
import uuid
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import openpyxl
from playwright.sync_api import Page, expect

from tests.support.hall import cell, rail, type_in
from tests.support.messages import say
from tests.support.papers import pages_of
from tests.support.served import Served

#: What a family reads of a verdict.
FOR_A_FAMILY = {
    "first": "This is the first score.",
    "better": "Better than last time, by ",
    "steady": "same as last time.",
    "lower": "Lower than last time, by ",
    "at_the_top": "The highest score of this test, as last time.",
    "reached_the_top": "The highest score of this test, for the first time.",
    "moved_up": "Now does a harder form.",
    "not_comparable": "so the two are not compared.",
}


def heron(one: Any) -> dict[str, Any]:
    """The demo's tested class."""
    classes = one.ask("GET", "/api/classes")["classes"]
    return next(group for group in classes if group["name"] == "4 Heron")


def saved_pdf(page: Page) -> list[str]:
    """The text of each page of the file that the page offers to save."""
    link = page.get_by_role("link", name="Save")
    expect(link).to_be_visible()
    with page.expect_download() as download:
        link.click()
    return pages_of(Path(download.value.path()).read_bytes())


def same(seen: dict[str, Any], lane: dict[str, Any], row: list[str], printed: str) -> None:
    """A score on the board, the child's page, in the workbook and on paper."""
    # Score, rung, change, the score before, best and next aim.
    said = [lane["shown"], lane["rung_name"], lane["change"], lane["then"],
            lane["best"] or "", lane["target"] or ""]  # fmt: skip
    assert [row[0].removesuffix(" ~"), *row[1:]] == said
    assert [seen["shown"], seen["rung_name"], seen["words"], seen["then"]] == said[:4]
    assert (seen["verdict"], seen["attempt_id"]) == (lane["verdict"], lane["attempt_id"])
    assert [words for words in said[:2] if words not in printed] == []
    assert FOR_A_FAMILY[lane["verdict"]] in printed


def board_child_and_workbook_say_the_same(one: Any, pages: list[str]) -> None:
    """As the reports do, of every child and test of a whole class."""
    page: Page = one.page
    group = heron(one)
    board = one.ask("GET", f"/api/classes/{group['id']}/board")
    assert len(board["children"]) == 28 and len(board["tests"]) >= 9
    content = page.request.get(f"{one.url}/api/classes/{group['id']}/scores.xlsx").body()
    sheet = openpyxl.load_workbook(io.BytesIO(content))["What it says"]
    head, *rows = [[cell.value or "" for cell in row] for row in sheet.rows]
    told = 0
    for child, row, printed in zip(board["children"], rows, pages, strict=True):
        record = one.ask("GET", f"/api/pupils/{child['pupil_id']}")
        lanes = {test["test"]: test["lanes"] for test in record["tests"]}
        assert child["name"] in printed
        for test, seen in zip(board["tests"], child["cells"], strict=True):
            if seen["attempt_id"]:
                at = head.index(test["test"])
                same(seen, lanes[test["test"]][0], row[at : at + 6], printed)
                told += 1
    assert told > 200
    # And the page shows what it was answered.
    child = board["children"][0]
    page.goto(f"{one.url}/pupils/{child['pupil_id']}")
    shown = " ".join(page.locator("ul.lanes").inner_text().split())
    for seen in child["cells"]:
        if seen["attempt_id"]:
            assert seen["shown"] in shown and seen["words"] in shown


def test_from_the_last_score_in_four_actions_to_reports_that_say_what_all_pages_say(
    visit: Any, lauf: Served
) -> None:
    one = visit(viewport={"width": 1280, "height": 800}, accept_downloads=True)
    page: Page = one.page
    one.sign_in()
    page.locator("a.lesson", has_text="4 Heron").press("Enter")
    rail(page, "Press-ups").press("Enter")
    expect(cell(page)).to_be_focused()
    type_in(page, "18")
    expect(page.locator("[data-state=saved]")).to_have_count(1)
    # One: what it showed. Two: the reports. Three: make them. Four: keep the file.
    page.get_by_role("link", name="Results", exact=True).click()
    found = page.locator("section.found")
    expect(found.locator(".aloud")).to_contain_text("of us")
    found.get_by_role("link", name=say("progress.familyReports")).click()
    page.get_by_role("button", name="Make 28 reports").click()
    pages = saved_pdf(page)
    assert len(pages) == 28
    first = one.ask("GET", f"/api/classes/{heron(one)['id']}")["pupils"][0]["name"]
    assert first in pages[0] and "Press-ups in 60 s" in pages[0] and "18" in pages[0]
    board_child_and_workbook_say_the_same(one, pages)


def test_a_child_over_three_terms(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be()
    group = heron(one)
    pupil = one.ask("GET", f"/api/classes/{group['id']}")["pupils"][0]
    test = next(t for t in one.ask("GET", "/api/tests") if t["name"] == "Standing long jump")
    for days, jump in ((330, "96"), (220, "104")):
        at = datetime.now(UTC) - timedelta(days=days)
        lesson = one.ask("POST", "/api/lessons", {
            "class_id": group["id"], "test_ids": [test["id"]], "starts_at": at.isoformat(),
            "minutes": 40, "place": "Hall",
        })  # fmt: skip
        (activity,) = one.ask("GET", f"/api/lessons/{lesson['id']}")["activities"]
        one.ask("POST", f"/api/activities/{activity['id']}/attempts", {
            "id": str(uuid.uuid4()), "pupil_id": pupil["id"], "typed": jump, "variant": "",
            "recorded_at": (at + timedelta(minutes=5)).isoformat(), "wave": None,
        })  # fmt: skip
    page.goto(f"{one.url}/classes")
    page.locator("ul.classes a", has_text="4 Heron").click()
    page.get_by_role("link", name=pupil["name"]).click()
    card = page.locator("ul.lanes li", has_text="Standing long jump")
    expect(card.get_by_role("img")).to_be_visible()
    # The whole of it is on one screen.
    assert page.locator("ul.lanes").bounding_box()["y"] < 200
    last = page.locator("ul.lanes li").last.bounding_box()
    assert last is not None and last["y"] + last["height"] <= 800
    card.get_by_role("button").press("Enter")
    detail = page.get_by_role("region", name="Standing long jump")
    scores = detail.locator("tbody tr")
    expect(scores).to_have_count(4)
    expect(scores.nth(3)).to_contain_text("96 cm")
    expect(scores.nth(3)).to_contain_text("first score")
    scores.nth(2).get_by_role("button", name=re.compile("^Why")).click()
    why = scores.nth(2).get_by_test_id("why")
    expect(why).to_contain_text("104 − 96 = 8")
    expect(why).to_contain_text("Weir 2005")
    # What the child sees of it has none of that.
    page.get_by_role("button", name="A page for").click()
    page.get_by_role("button", name=say("progress.makeACode")).click()
    code = page.locator(".code").inner_text()
    own = visit(viewport={"width": 360, "height": 740})
    own.page.goto(f"{one.url}/own")
    own.page.get_by_label(say("progress.codeFromYourTeacher")).fill(code)
    own.page.keyboard.press("Enter")
    expect(own.page.get_by_role("heading", name=pupil["given"], exact=True)).to_be_visible()
    expect(own.page.get_by_role("heading", name="Standing long jump")).to_be_visible()
    assert pupil["family"] not in own.page.content()
    assert own.page.evaluate("document.documentElement.scrollWidth") <= 360


def test_axe_finds_nothing_and_nothing_is_wider_than_the_screen(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be("head")
    group = heron(one)
    pupil = one.ask("GET", f"/api/classes/{group['id']}")["pupils"][0]
    at, child = f"/classes/{group['id']}", f"/pupils/{pupil['id']}"
    # Where, and what stands there once the page is.
    for path, there in (
        (f"{at}/next", "Make a lesson"),
        (f"{at}/hand-outs", "Make 28 reports"),
        (f"{at}/hand-outs?kind=certificates", "Heading"),
        (f"{at}/hand-outs?kind=sheets", say("exchange.makeSheet")),
        (child, "best"),
        (f"{child}/own", say("progress.myNextTargetTarget")),
        ("/school/picture", say("progress.howThisTermsTestsFit")),
    ):
        page.goto(f"{one.url}{path}")
        expect(page.get_by_text(there).first).to_be_visible()
        # By then all that the page asks for is there too.
        assert one.faults() == [], path


def test_what_is_due_becomes_a_lesson_by_one_press(visit: Any, lauf: Served) -> None:
    one = visit()
    page: Page = one.page
    one.be()
    page.goto(f"{one.url}/classes/{heron(one)['id']}/next")
    due = page.locator("tbody tr", has_text="due again")
    expect(due.first).to_be_visible()
    names = [name.strip() for name in due.locator("th label").all_inner_texts()]
    page.get_by_role("button", name="Make a lesson").click()
    expect(page).to_have_url(re.compile("/plan$"))
    lesson = page.url.split("/")[-2]
    made = one.ask("GET", f"/api/lessons/{lesson}")["activities"]
    assert sorted(row["test"] for row in made) == sorted(names)
