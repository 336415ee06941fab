"""The office of a trust adds a school, limits and closes one; somebody works in two of them."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from playwright.sync_api import Page, expect

from tests.browser.test_every_screen import ENLARGED, SMALL, TINY
from tests.support.messages import say
from tests.support.served import Served

PASSWORD = "quiet-painted-lines-3"


def test_a_trusts_office_and_somebody_in_two_schools(
    visit: Any, lauf: Served, tmp_path: Path
) -> None:
    secret = tmp_path / "password"
    secret.write_text(PASSWORD)
    said = lauf.command(
        "create-trust", "--trust", "Riverside Trust", "--name", "Lee Farrow", "--username",
        "office", "--password-file", str(secret),
    )  # fmt: skip
    assert "with 1 schools" in said
    office = visit(viewport={"width": 1280, "height": 800})
    page: Page = office.page
    office.type_sign_in("office", PASSWORD)
    expect(page.get_by_role("heading", level=1)).to_have_text("Riverside Trust")
    expect(page.get_by_role("row").filter(has_text="Larkmere")).to_contain_text("192")
    # Every other page leads here: there is no child to see.
    page.goto(f"{office.url}/classes")
    expect(page.get_by_role("heading", level=1)).to_have_text("Riverside Trust")

    # A school that is there already is refused, and nothing typed is lost; then one that is new.
    page.get_by_role("button", name=say("school.addASchool")).click()
    page.get_by_label(say("school.nameOfTheSchool")).fill("Quarry Lane School")
    page.get_by_label(say("school.headOfPesName")).fill("Noor Vale")
    page.get_by_label(say("school.userNameForSigningIn")).fill("demo")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("taken")
    expect(page.get_by_label(say("school.nameOfTheSchool"))).to_have_value("Quarry Lane School")
    page.get_by_label(say("school.userNameForSigningIn")).fill("noor")
    page.keyboard.press("Enter")
    link = page.get_by_test_id("link").inner_text()
    quarry = page.get_by_role("row").filter(has_text="Quarry Lane School")
    expect(quarry).to_contain_text(say("school.waitsForItsHead"))
    assert office.faults() == []
    page.set_viewport_size({"width": 360, "height": 740})
    assert page.evaluate(TINY) == []
    for size in ENLARGED:
        page.set_viewport_size(size)
        assert office.too_wide() == []
    page.set_viewport_size({"width": 1280, "height": 800})

    # The first head comes by the link, and invites a teacher of the school beside.
    head = visit(viewport={"width": 1280, "height": 800})
    head.page.goto(link)
    head.page.get_by_label(say("account.chooseAPasswordAtLeast10")).fill(PASSWORD)
    head.page.keyboard.press("Enter")
    expect(head.page.get_by_role("heading", level=1)).to_contain_text("day")
    invited = head.ask(
        "POST", "/api/staff", {"name": "Robin A", "username": "robin-q", "role": "teacher"}
    )
    robin = visit(viewport={"width": 360, "height": 740}, has_touch=True, is_mobile=True)
    phone: Page = robin.page
    phone.goto(f"{robin.url}{invited['path']}")
    phone.get_by_role("button", name=say("account.iAlreadySignInAtAnother")).click()
    assert robin.axe() == [] and phone.evaluate(SMALL) == []
    phone.get_by_label(say("account.userName")).fill("demo")
    phone.get_by_label(say("account.password")).fill("painted-floor-7")
    phone.keyboard.press("Enter")
    expect(phone.get_by_role("heading", level=1)).to_contain_text("day")
    phone.context.clear_cookies()
    robin.type_sign_in("demo")
    choice = phone.get_by_role("region", name=say("account.whichSchool"))
    expect(choice.get_by_role("button").filter(has_text="School")).to_have_count(2)
    assert robin.axe() == [] and phone.evaluate(SMALL) == []
    choice.get_by_role("button", name="Quarry Lane School").click()
    expect(phone.get_by_role("heading", level=1)).to_contain_text("day")
    assert robin.ask("GET", "/api/session")["person"]["school"] == "Quarry Lane School"

    # A limit, and a school closed for a time, after a question.
    quarry.get_by_role("button", name="Limits").click()
    page.get_by_label(say("school.mostChildren")).fill("1")
    page.keyboard.press("Enter")
    expect(quarry).to_contain_text("0 of 1")
    quarry.get_by_role("button", name="Close").click()
    page.get_by_role("dialog").get_by_role("button", name=say("school.closeSchool")).click()
    expect(quarry).to_contain_text(say("school.closed"))
    phone.reload()
    expect(phone.get_by_text("closed for now").first).to_be_visible()
    quarry.get_by_role("button", name="Open").click()
    expect(quarry).not_to_contain_text(say("school.closed"))
    phone.reload()
    expect(phone.get_by_role("heading", level=1)).to_contain_text("day")
    # The log of the office says what it did.
    words = [
        row[0]
        for row in lauf.sql(
            "SELECT c.words FROM people_change c JOIN people_staff s ON s.id = c.by_id"
            " WHERE s.username = 'office'"
        )
    ]
    assert "Quarry Lane School paused" in words and "School Quarry Lane School added" in words
