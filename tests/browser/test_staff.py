"""A second teacher comes into the school by a link, works, and is shut out again."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page, expect

from tests.support.messages import say
from tests.support.served import Served

PASSWORD = "quiet-painted-lines-3"


def test_a_teacher_is_let_in_by_a_link_and_shut_out(visit: Any, lauf: Served) -> None:
    head = visit(viewport={"width": 1280, "height": 800})
    page: Page = head.page
    head.sign_in("head")
    page.get_by_role("link", name="School", exact=True).click()
    page.get_by_role("button", name=say("school.inviteAColleague")).click()
    page.get_by_label("Name", exact=True).fill("Kit Marsh")
    page.get_by_label("User name").fill("demo")
    page.get_by_label("3 Swift", exact=True).first.check()
    page.get_by_role("button", name=say("school.createInvitation")).press("Enter")
    # A name that is taken is said, and nothing typed is lost.
    expect(page.get_by_role("alert").filter(has_text="is taken")).to_be_visible()
    expect(page.get_by_label("Name", exact=True)).to_have_value("Kit Marsh")
    page.get_by_label("User name").fill("kit")
    page.get_by_role("button", name=say("school.createInvitation")).press("Enter")
    link = page.get_by_test_id("link").inner_text()
    assert link.startswith(head.url)
    row = page.locator(".staff tbody tr", has_text="Kit Marsh")
    expect(row).to_contain_text(say("school.invitedUntilDay"))
    assert head.axe() == []

    # On a phone of their own: whose link, a password, and in; the menu goes where they work.
    kit = visit(viewport={"width": 360, "height": 740})
    phone: Page = kit.page
    phone.goto(link)
    expect(phone.get_by_role("heading", level=1)).to_have_text("Welcome, Kit Marsh")
    phone.get_by_label(say("account.chooseAPasswordAtLeast10")).fill("kit-marsh-12345")
    phone.keyboard.press("Enter")
    expect(phone.get_by_role("alert")).to_contain_text("must not contain your name")
    assert kit.axe() == []
    phone.get_by_label(say("account.chooseAPasswordAtLeast10")).fill(PASSWORD)
    phone.keyboard.press("Enter")
    expect(phone.get_by_role("heading", level=1)).to_contain_text("day")
    phone.goto(f"{kit.url}/classes")
    expect(phone.locator("ul.classes li")).to_have_count(1)
    # The link worked once.
    other: Page = visit().page
    other.goto(link)
    expect(other.get_by_role("alert")).to_contain_text("does not work or has expired")

    # Their own password, from their own page.
    phone.goto(f"{kit.url}/account")
    phone.get_by_label(say("account.currentPassword")).fill("wrong")
    phone.get_by_label(say("account.newPasswordAtLeast10Characters")).fill(PASSWORD + "-4")
    phone.keyboard.press("Enter")
    expect(phone.get_by_role("alert")).to_contain_text("not your current password")
    phone.get_by_label(say("account.currentPassword")).fill(PASSWORD)
    phone.keyboard.press("Enter")
    expect(
        phone.get_by_role("status").filter(has_text=say("account.passwordChangedYourOtherDevices"))
    ).to_be_visible()
    assert kit.axe() == []

    # A permission by one tick; shut out, with a question first.
    page.get_by_label("Kit Marsh may edit tests and benchmarks").uncheck()
    asked = "SELECT may_edit_tests, is_active FROM people_staff WHERE username = 'kit'"
    expect(page.get_by_label("Kit Marsh may edit tests")).not_to_be_checked()
    page.get_by_role("button", name=say("school.suspendName2", name="Kit Marsh")).press("Enter")
    page.get_by_role("dialog").get_by_role("button", name=say("school.suspend")).press("Enter")
    expect(row).to_contain_text(say("school.suspended"))
    assert lauf.sql(asked) == [(False, False)]
    phone.goto(f"{kit.url}/classes")
    expect(phone.get_by_label("User name")).to_be_visible()
