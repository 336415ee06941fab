"""A whole lesson by what is read out: roles, names and descriptions, nothing that is only seen."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page, expect

from tests.support.messages import say
from tests.support.served import Served, wait_for

PRESS_UPS = re.compile(r"^Press-ups in 60 s")


def test_a_lesson_is_given_by_the_accessibility_tree_alone(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    sign_in(one)
    page.get_by_role("link", name=re.compile("4 Heron.*medical notes", re.DOTALL)).press("Enter")
    page.get_by_role("button", name=say("lessons.startTheLesson"), exact=True).press("Enter")
    blocks = page.get_by_role("navigation", name=say("lessons.blocks"))
    blocks.get_by_role("button", name=PRESS_UPS).press("Enter")
    score = page.get_by_role("textbox", name=re.compile("^Score of "))
    first = "Aaron Pascoe"
    expect(score).to_be_focused()
    expect(score).to_have_accessible_name(say("sheet.scoreOfName", name=first))

    # A refusal is announced with the child's name, and is what the cell is described by.
    page.keyboard.type("4o")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text(first)
    expect(score).to_have_attribute("aria-invalid", "true")
    expect(score).to_have_accessible_description(re.compile("a whole number from 0 to 60"))
    page.keyboard.press("Escape")
    # How it will be kept, too, and a question about an unusual one.
    page.keyboard.type("18")
    expect(score).to_have_accessible_description("= 18 reps")
    page.keyboard.press("Enter")
    page.keyboard.type("59")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert", name=say("sheet.unusualScore"))).to_contain_text("Abel Demir")
    page.keyboard.press("!")

    # What is opened beside the list gives the keys back to what opened it.
    targets = page.get_by_role("button", name=say("sheet.ownTargets"))
    targets.press("Enter")
    beside = page.get_by_role("complementary", name=say("sheet.ownTargets"))
    beside.get_by_role("button", name=say("lessons.close")).press("Enter")
    expect(targets).to_be_focused()
    targets.press("Enter")
    page.keyboard.press("Escape")
    expect(targets).to_be_focused()

    score.focus()
    for _ in range(26):
        page.keyboard.type("a")
        page.keyboard.press("Enter")
    expect(page.locator(":focus")).to_contain_text(say("sheet.allIn"))
    page.get_by_role("link", name="Results", exact=True).press("Enter")
    page.get_by_role("button", name=say("progress.closeLesson")).press("Enter")
    sure = page.get_by_role("button", name=say("progress.closeAnyway"))
    closed = page.get_by_text("Closed by Robin Ashgrove")
    expect(sure.or_(closed)).to_be_visible()
    if sure.is_visible():
        sure.press("Enter")
    expect(closed).to_be_visible()
    kept = (
        "SELECT a.typed FROM records_attempt a JOIN lessons_activity t ON t.id = a.activity_id"
        " JOIN lessons_lesson l ON l.id = t.lesson_id JOIN people_schoolclass c"
        " ON c.id = l.school_class_id WHERE c.name = '4 Heron' AND l.starts_at::date = current_date"
    )
    # The last one typed may still be on its way.
    rows = wait_for(lambda: lauf.sql(kept), lambda rows: len(rows) == 28)
    assert sorted(typed for (typed,) in rows) == ["18", "59", *["a"] * 26]


def sign_in(one: Any) -> None:
    """Which field is missing is said at the field; then as everybody."""
    page: Page = one.page
    page.goto(one.url)
    name = page.get_by_role("textbox", name=say("account.userName"))
    expect(name).to_be_focused()
    page.keyboard.press("Enter")
    expect(name).to_have_accessible_description(say("account.enterYourUserName"))
    page.keyboard.type("demo")
    page.keyboard.press("Enter")
    password = page.get_by_label(say("account.password"), exact=True)
    expect(password).to_be_focused()
    expect(password).to_have_accessible_description(say("account.enterYourPassword"))
    page.keyboard.type("painted-floor-7")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_contain_text("day")
