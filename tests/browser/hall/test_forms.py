"""Long forms: a reload or a look elsewhere loses nothing, pressed twice is made once."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page, Route, expect

from tests.support.fields import choose, pick
from tests.support.messages import say
from tests.support.served import Served

AS_LEFT = say("parts.draftNotSavedYet")


def test_what_was_typed_into_a_test_is_there_after_a_reload(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head")
    page.get_by_role("link", name="Catalogue", exact=True).click()
    page.locator("a.test", has_text="Press-ups in 60 s").click()
    page.get_by_role("link", name="Edit").click()
    seconds, why = (
        page.get_by_label(say("catalogue.clockSeconds")),
        page.get_by_label(say("catalogue.reasonForTheChange")),
    )
    note = page.get_by_text(AS_LEFT)
    expect(seconds).to_have_value("60")
    seconds.fill("45")
    why.fill("shorter for our hall")
    page.reload()
    expect(note).to_be_visible()
    expect(seconds).to_have_value("45")
    expect(why).to_have_value("shorter for our hall")
    # What it changes is said of what is shown.
    expect(page.get_by_text("the clock is different")).to_be_visible()
    page.get_by_role("button", name=say("parts.startAgain")).click()
    page.get_by_role("dialog").get_by_role("button", name=say("parts.startAgain")).click()
    expect(seconds).to_have_value("60")
    expect(why).to_have_value("")
    expect(note).to_have_count(0)
    seconds.fill("50")
    page.get_by_role("link", name="Today", exact=True).click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("day")
    page.go_back()
    expect(seconds).to_have_value("50")
    why.fill("fifty")
    page.get_by_role("button", name=say("catalogue.saveAsANewVersion")).click()
    expect(page.get_by_text("fifty")).to_be_visible()
    page.get_by_role("link", name="Edit").click()
    expect(seconds).to_have_value("50")
    expect(note).to_have_count(0)
    kept = lauf.sql(
        "SELECT v.number, v.seconds FROM catalogue_protocolversion v JOIN catalogue_test t "
        "ON t.id = v.test_id WHERE t.slug = 'press-ups-60' ORDER BY v.number"
    )
    assert kept == [(1, 60), (2, 50)]
    # A ladder too; and who comes next to this device finds nothing of it.
    page.go_back()
    page.get_by_role("link", name="Benchmarks").click()
    page.get_by_role("button", name=say("catalogue.newLadder")).click()
    page.get_by_label(say("catalogue.rangesAsPrintedLowestFirst")).fill("7–9, 11–15, more than 19")
    page.reload()
    page.get_by_role("button", name=say("catalogue.newLadder")).click()
    expect(note).to_be_visible()
    expect(page.get_by_test_id("rung-Far line")).to_contain_text("more than 19")
    page.get_by_role("button", name="Sign out").first.click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    assert "draft" not in page.evaluate("Object.keys(sessionStorage).join()")


def come_back(page: Page, path: str) -> None:
    """To a page after a look at another: what it shows is read again by then."""
    page.clock.install()
    page.clock.fast_forward(10_000)
    with page.expect_response(lambda told: told.url.endswith(path)):
        page.evaluate("window.dispatchEvent(new Event('visibilitychange'))")


def heron(one: Any) -> str:
    """The id of the demo's class 4 Heron."""
    classes = one.ask("GET", "/api/classes")["classes"]
    (found,) = [row["id"] for row in classes if row["name"] == "4 Heron"]
    return str(found)


def test_what_somebody_else_made_of_a_test_meanwhile_is_not_overwritten(visit: Any) -> None:
    """The page read the test again when it was looked at again, and took that for what was edited:
    the other's change was gone without a word."""
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head")
    (test,) = [row for row in one.ask("GET", "/api/tests") if row["name"] == "Press-ups in 60 s"]
    page.goto(f"{one.url}/tests/{test['id']}/edit")
    page.get_by_label(say("catalogue.reasonForTheChange")).fill("for the other hall")
    looks: list[Route] = []
    page.route("**/effects", lambda route: looks.append(route))
    with page.expect_request("**/effects"):
        page.get_by_label(say("catalogue.setUpSeconds")).fill("95")
    card = one.ask("GET", f"/api/tests/{test['id']}")
    other = {**card["protocol"], "easier": "From a wall."}
    edit = {"based_on": card["version"], "why": "clearer", "protocol": other}
    one.ask("POST", f"/api/tests/{test['id']}/versions", edit)
    come_back(page, f"/api/tests/{test['id']}")
    page.get_by_role("button", name=say("catalogue.saveAsANewVersion")).click()
    why_not = page.get_by_role("alert").filter(has_text="Someone else")
    expect(why_not).to_contain_text("Someone else has changed this test")
    # A look at what was typed that is answered only now does not wipe that away.
    for look in looks:
        with page.expect_response("**/effects"):
            look.continue_()
    expect(page.get_by_text("Changed:")).to_be_visible()
    expect(why_not).to_contain_text("Someone else has changed this test")
    expect(page.get_by_label(say("catalogue.setUpSeconds"))).to_have_value("95")
    kept = one.ask("GET", f"/api/tests/{test['id']}")["protocol"]
    assert (kept["easier"], kept["setup_seconds"]) == ("From a wall.", other["setup_seconds"])


def test_a_week_is_made_once_however_often_enter_is_pressed(visit: Any, lauf: Served) -> None:
    """Two presses made two weeks."""
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in()
    page.goto(f"{one.url}/challenges")
    page.get_by_role("button", name="New week").click()
    page.get_by_label("4 Heron").check()
    choose(page.get_by_role("combobox", name=say("challenges.testsInOrder")), "Press-ups in 60 s")
    page.get_by_label("Name", exact=True).fill("Frost week")
    page.get_by_label(say("challenges.rivalOptional")).fill("the cook")
    page.reload()
    page.get_by_role("button", name="New week").click()
    expect(page.get_by_text(AS_LEFT)).to_be_visible()
    expect(page.get_by_label("4 Heron")).to_be_checked()
    expect(page.get_by_label(say("challenges.rivalOptional"))).to_have_value("the cook")
    page.get_by_label("Name", exact=True).focus()
    page.keyboard.press("Enter")
    page.keyboard.press("Enter")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Frost week")).to_be_visible()
    made = lauf.sql(
        "SELECT count(DISTINCT w.id), count(c.id) FROM challenges_challengeweek w "
        "JOIN challenges_challenge c ON c.week_id = w.id WHERE w.name = 'Frost week'"
    )
    assert made == [(1, 1)]
    page.get_by_role("button", name="Rival", exact=True).click()
    mark = page.get_by_role("textbox", name="Press-ups in 60 s")
    expect(page.get_by_label(say("challenges.name"), exact=True)).to_have_value("the cook")
    expect(page.get_by_text(AS_LEFT)).to_have_count(0)
    mark.fill("33")
    page.reload()
    page.get_by_role("button", name="Rival", exact=True).click()
    expect(page.get_by_text(AS_LEFT)).to_be_visible()
    expect(mark).to_have_value("33")
    page.goto(f"{one.url}/challenges")
    page.get_by_role("button", name="New week").click()
    expect(page.get_by_label("Name", exact=True)).to_have_value("")


def test_a_line_that_is_kept_chooses_nobody_anew_for_the_reports(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in()
    page.goto(f"{one.url}/classes/{heron(one)}/hand-outs")
    lines = page.get_by_label(say("exchange.commentForTheFamilyOfChild"))
    expect(lines).to_have_count(28)
    page.get_by_role("row").nth(1).get_by_role("checkbox").uncheck()
    lines.nth(1).fill("Swims on Fridays.")
    with page.expect_response(lambda told: told.request.method == "PUT"):
        lines.nth(1).press("Tab")
    come_back(page, "/family-lines")
    page.clock.run_for(1_000)
    expect(lines.nth(1)).to_have_value("Swims on Fridays.")
    expect(page.get_by_role("button", name="Make 27 reports")).to_be_visible()
    assert lauf.sql("SELECT text FROM records_familyline WHERE text = 'Swims on Fridays.'")


def test_what_was_chosen_for_the_next_year_stays_when_a_child_comes_meanwhile(visit: Any) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head")
    page.goto(f"{one.url}/school/move-up")
    name, goes = (
        page.get_by_label(say("school.newNameOfClass", **{"class": "4 Heron"})),
        page.get_by_label("Where 3 Swift goes"),
    )
    name.fill("5 Heron of the lake")
    pick(goes, "leave the school")
    row = page.get_by_role("row").filter(has=page.get_by_role("rowheader", name="4 Heron"))
    expect(row.get_by_role("button", name="28")).to_be_visible()
    new = {"given": "Odd", "family": "Ness", "born": None, "sex": "", "house_id": None}
    one.ask("POST", f"/api/classes/{heron(one)}/pupils", new)
    come_back(page, "/api/school/move-up")
    expect(row.get_by_role("button", name="29")).to_be_visible()
    expect(name).to_have_value("5 Heron of the lake")
    expect(goes).to_have_value("leave the school")
