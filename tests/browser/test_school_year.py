"""A school begins with an empty Lauf, lives in it for a year, and leaves with everything; and what
is kept about care stands where it is needed."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pyotp
import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import Visit
from tests.support import templates
from tests.support.fields import choose
from tests.support.hall import cell
from tests.support.messages import say
from tests.support.served import Served, served, wait_for

PASSWORD = "quiet-painted-lines-3"
CHILDREN = (
    "No,First name,Last name,Date of birth,Gender,Class,House\n"
    "101,Ada,Quill,14/03/2018,F,4 Heron,Elm\n"
    "102,Björn,de Vance,25/11/2017,M,4 Heron,Oak\n"
    "103,Zoë,Ruiz,30/01/2018,F,4 Heron,Elm\n"
)
#: The next term's: one name put right, one new, one gone.
NEXT = CHILDREN.replace("Ada,Quill", "Ada,Quill-Fenn").replace(
    "103,Zoë,Ruiz,30/01/2018,F", "104,Ivo,Larch,02/05/2018,M"
)


@pytest.fixture(scope="session")
def blank(tmp_path_factory: pytest.TempPathFactory, worker_id: str) -> str:
    """A database that was never set up."""
    return templates.migrated(tmp_path_factory, worker_id)


@pytest.fixture
def empty(blank: str) -> Iterator[Served]:
    with served(blank, demo=False) as running:
        yield running


@pytest.fixture
def another(blank: str) -> Iterator[Served]:
    with served(blank, demo=False) as running:
        yield running


class Beginner:
    """Somebody who has never seen it; what they press or choose is counted, what they type not."""

    def __init__(self, page: Page) -> None:
        self.page, self.actions = page, 0

    def press(self, name: str, role: Any = "button") -> None:
        self.actions += 1
        self.page.get_by_role(role, name=name, exact=True).first.click()

    def fill(self, label: str, text: str) -> None:
        self.page.get_by_label(label, exact=True).fill(text)

    def choose(self, label: str, wanted: str) -> None:
        self.actions += 1
        box = self.page.get_by_role("combobox", name=label)
        box.fill(wanted)
        self.page.get_by_role("option", name=wanted, exact=True).wait_for()
        box.press("Enter")


def set_up(who: Beginner, lauf: Served) -> None:
    page = who.page
    page.goto(lauf.url)
    expect(page.get_by_role("heading", level=1)).to_have_text(say("school.welcomeToLauf"))
    who.fill("Set-up code", "test-code")
    who.fill("School", "Fernhill Primary")
    who.fill("Your name", "Sam Reed")
    who.fill(say("school.userNameForSigningIn"), "sam")
    who.fill(say("school.passwordAtLeast10Characters"), PASSWORD)
    who.press(say("school.createSchool"))
    expect(page.get_by_role("heading", level=1)).to_have_text(say("account.setUp"))


def import_list(who: Beginner, text: str) -> None:
    page = who.page
    page.get_by_label(re.compile("Paste")).fill(text)
    keep = page.get_by_role("button", name=re.compile("^Save"))
    expect(keep).to_be_enabled()
    who.actions += 1
    keep.click()
    expect(page.get_by_role("status").filter(has_text=say("people.saved"))).to_be_visible()


def test_from_an_empty_machine_through_a_year_and_out_again(
    chromium: Browser, empty: Served, another: Served, tmp_path: Path
) -> None:
    one = Visit(chromium, empty, viewport={"width": 1280, "height": 800}, accept_downloads=True)
    page, who = one.page, Beginner(one.page)
    set_up(who, empty)
    # Step by step: what is right already is kept by one press, what can wait waits.
    who.press(say("challenges.save"))
    expect(page.get_by_role("heading", name="Year groups", level=2)).to_be_visible()
    who.press(say("challenges.save"))
    expect(page.get_by_role("heading", name="Houses", level=2)).to_be_visible()
    who.press("Later")
    who.press("Later")
    who.press(say("app.importChildrenFromAList"), "link")
    import_list(who, CHILDREN)
    who.press("Today", "link")
    who.press("New lesson", "link")
    who.choose("Class", "4 Heron")
    who.choose(say("challenges.testsInOrder"), "Press-ups in 60 s")
    page.keyboard.press("Escape")
    who.press(say("lessons.openLesson"))
    expect(page.get_by_role("button", name="Start the lesson")).to_be_visible()
    who.actions += 1
    page.keyboard.press("Space")
    page.get_by_role("button", name="List").click() if page.get_by_role(
        "button", name="List"
    ).count() else None
    cell(page).click()
    for score in ("18", "22~", "x"):
        page.keyboard.type(score)
        page.keyboard.press("Enter")
    row = page.locator("li.child", has_text="Ada Quill")
    expect(row.locator(".words")).to_contain_text(re.compile("[a-z]{4}"))
    kept = "SELECT typed FROM records_attempt ORDER BY recorded_at"
    assert wait_for(lambda: empty.sql(kept), lambda rows: len(rows) == 3) == [
        ("18",), ("22~",), ("x",),
    ]  # fmt: skip
    # From the first page to the first judged score.
    assert who.actions <= 20, who.actions

    # A term, next term's list, with a leaver proposed and agreed to.
    page.goto(f"{empty.url}/school")
    page.get_by_role("button", name="Terms and holidays").click()
    page.get_by_role("button", name=say("school.addTerm")).click()
    page.get_by_label("Name of row 1").fill("This one")
    page.get_by_label("First day of row 1").fill("2026-09-01")
    page.get_by_label("Last day of row 1").fill("2027-07-20")
    terms = page.locator(".fold-out", has_text="Terms and holidays")
    terms.get_by_role("button", name=say("challenges.save"), exact=True).click()
    expect(page.get_by_text(say("parts.saved"), exact=True)).to_be_visible()
    page.goto(f"{empty.url}/classes/list")
    page.get_by_label(re.compile("Paste")).fill(NEXT)
    page.get_by_label(re.compile("Zoë Ruiz")).check()
    page.get_by_role("button", name=re.compile("^Save")).click()
    expect(page.get_by_role("status").filter(has_text=say("people.saved"))).to_be_visible()
    names = "SELECT given_name, family_name, left_on IS NOT NULL FROM people_pupil ORDER BY 1"
    assert empty.sql(names) == [
        ("Ada", "Quill-Fenn", False), ("Björn", "de Vance", False), ("Ivo", "Larch", False),
        ("Zoë", "Ruiz", True),
    ]  # fmt: skip

    # The whole school moves up; what was tested stays in Year 4.
    page.goto(f"{empty.url}/school/move-up")
    expect(page.get_by_label(say("school.newNameOfClass", **{"class": "4 Heron"}))).to_have_value(
        "5 Heron"
    )
    assert one.axe() == []
    page.get_by_role("button", name="Move up", exact=True).click()
    page.get_by_role("dialog").get_by_role("button", name="Move up").click()
    expect(page.get_by_text("The school moved up on")).to_be_visible()
    years = """SELECT c.name, now.name, was.name FROM lessons_lesson l
        JOIN people_schoolclass c ON c.id = l.school_class_id
        JOIN people_yeargroup now ON now.id = c.year_group_id
        JOIN people_yeargroup was ON was.id = l.year_group_id"""
    assert empty.sql(years) == [("5 Heron", "Year 5", "Year 4")]
    page.get_by_role("button", name=say("school.undo")).click()
    expect(page.get_by_label(say("school.newNameOfClass", **{"class": "4 Heron"}))).to_be_visible()
    assert empty.sql(years) == [("4 Heron", "Year 4", "Year 4")]

    # One child is erased for good.
    page.goto(f"{empty.url}/classes")
    page.locator("ul.classes a", has_text="4 Heron").click()
    page.get_by_role("link", name="Children and lessons").click()
    page.get_by_role("button", name="Record of Björn de Vance").click()
    page.get_by_role("button", name="Erase", exact=True).click()
    page.get_by_role("dialog").get_by_role("button", name="Erase for good").click()
    expect(page.get_by_text("Erased: 1 entry are gone")).to_have_count(0)
    expect(page.get_by_text(re.compile("^1 entry erased"))).to_be_visible()
    assert empty.sql("SELECT count(*) FROM people_pupil WHERE given_name LIKE 'Bj%%'") == [(0,)]
    assert len(empty.sql(kept)) == 2

    # Everything leaves with the school, and is the same in another Lauf.
    page.goto(f"{empty.url}/school")
    page.get_by_label("Sam Reed may see height and weight").check()
    with page.expect_download() as download:
        page.get_by_role("link", name=say("school.downloadSchool")).click()
    file = tmp_path / "school.zip"
    download.value.save_as(file)
    two = Visit(chromium, another, viewport={"width": 1280, "height": 800})
    other = two.page
    other.goto(another.url)
    other.get_by_label(say("school.orRestoreAWholeSchoolSaved")).set_input_files(file)
    other.get_by_label("Set-up code").fill("test-code")
    other.get_by_label(say("school.userNameForSigningIn")).fill("sam")
    other.get_by_label(say("school.passwordAtLeast10Characters")).fill(PASSWORD)
    other.get_by_role("button", name=say("school.restoreSchool")).click()
    expect(other.get_by_role("heading", level=1)).to_contain_text("day")
    for table in ("people_pupil", "records_attempt", "lessons_lesson", "people_term"):
        rows = f"SELECT * FROM {table} ORDER BY id"
        assert another.sql(rows) == empty.sql(rows), table
    for visit in (one, two):
        assert visit.errors == []
        visit.context.close()


def test_who_is_kept_from_what_is_said_where_scores_are_taken(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be()
    lesson, at = one.lesson("4 Heron", "Flexed-arm hang")
    page.goto(f"{one.url}/lessons/{lesson}/list?activity={at['Flexed-arm hang']}")
    expect(page.get_by_test_id("messages")).to_contain_text("Bram Iqbal is not to hang from a bar")
    page.get_by_role("button", name="How it is done").click()
    note = page.get_by_role("group", name=say("sheet.notAllowed"))
    expect(note).to_contain_text("Bram Iqbal is not to hang from a bar")
    row = page.locator("li.child", has_text="Bram Iqbal")
    row.get_by_role("button", name="Bram Iqbal").click()
    page.keyboard.type("12")
    page.keyboard.press("Enter")
    refused = page.get_by_test_id("messages").get_by_role("alert")
    expect(refused).to_contain_text("Bram Iqbal")
    expect(refused).to_contain_text("is not to hang from a bar")
    kept = """SELECT typed FROM records_attempt a JOIN people_pupil p ON p.id = a.pupil_id
        WHERE p.given_name = 'Bram' AND a.activity_id = %s"""
    assert lauf.sql(kept, at["Flexed-arm hang"]) == []
    # The teacher's word goes over it, for this lesson.
    note.get_by_role("button", name="Allow today: Bram Iqbal").click()
    expect(note).to_contain_text(say("sheet.allowedTodayYourDecision"))
    page.get_by_role("button", name=say("app.discard")).click()
    row.get_by_role("button", name="Bram Iqbal").click()
    page.keyboard.type("12")
    page.keyboard.press("Enter")
    wait_for(lambda: lauf.sql(kept, at["Flexed-arm hang"]), bool)
    assert lauf.sql(kept, at["Flexed-arm hang"]) == [("12",)]
    # Notes, sheet and how it is done beside each other: the sheet had a third of the screen.
    assert page.evaluate("document.documentElement.scrollWidth") <= 1280
    assert one.axe() == []
    assert page.goto(f"{one.url}/lessons/{lesson}/projector") is not None
    expect(page.get_by_text("Bram")).to_have_count(0)


def test_a_second_factor_is_set_up_asked_for_and_a_paper_code_lets_in(
    visit: Any, lauf: Served
) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.type_sign_in("other")
    expect(page.get_by_role("heading", level=1)).to_contain_text("day")
    page.goto(f"{one.url}/account")
    page.get_by_role("button", name=say("account.setUpTwoStepSignIn")).click()
    page.get_by_label("Your password", exact=True).fill("painted-floor-7")
    page.keyboard.press("Enter")
    secret = page.get_by_test_id("secret").inner_text()
    page.get_by_label(say("account.codeShownInTheApp")).fill("000000")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("This code is wrong")
    page.get_by_label(say("account.codeShownInTheApp")).fill(pyotp.TOTP(secret).now())
    page.keyboard.press("Enter")
    expect(page.get_by_text(say("account.twoStepSignInIsOn"))).to_be_visible()
    paper = page.locator(".papers li").first.inner_text()
    assert one.axe() == []
    page.get_by_role("button", name="Sign out", exact=True).first.click()
    expect(page.get_by_label("User name")).to_be_visible()
    page.get_by_label("User name").fill("other")
    page.get_by_label("Password").fill("painted-floor-7")
    page.keyboard.press("Enter")
    expect(page.get_by_label(re.compile("Code from your phone"))).to_be_focused()
    page.keyboard.type(paper)
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_contain_text("day")


def test_the_timetable_opens_its_lesson_and_slash_finds_from_anywhere(
    visit: Any, lauf: Served
) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be("head")
    every = "UPDATE lessons_slot SET weekday = extract(isodow FROM now())::int - 1, at = '16:15'"
    three = "WHERE school_class_id = (SELECT id FROM people_schoolclass WHERE name = '3 Swift')"
    lauf.sql(f"DELETE FROM lessons_slot {three} AND weekday > 0 RETURNING id")
    lauf.sql(f"{every} {three} RETURNING id")
    # Whatever day it is, the demo school is in.
    lauf.sql("DELETE FROM people_term RETURNING id")
    page.goto(one.url)
    page.locator(".to-come", has_text="3 Swift").click()
    expect(page.get_by_label(say("lessons.starts"))).to_have_value(re.compile("T16:15"))
    choose(page.get_by_role("combobox", name="Tests"), "Plank to the limit")
    page.keyboard.press("Escape")
    page.get_by_role("button", name=say("lessons.openLesson")).click()
    expect(
        page.get_by_role("button", name=re.compile("^Start (everybody|wave 1)$"))
    ).to_be_visible()
    page.goto(one.url)
    expect(page.locator(".lesson", has_text="3 Swift")).not_to_contain_text("not planned yet")
    page.keyboard.press("/")
    expect(page.get_by_role("combobox", name="Find a child or a class")).to_be_focused()
    page.keyboard.type("4 her")
    expect(page.get_by_role("option").first).to_contain_text("4 Heron")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_have_text("4 Heron")


def test_axe_finds_nothing_and_nothing_is_wider_than_the_screen(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head", typed=True)

    def fits(words: str) -> None:
        assert one.faults() == [], words

    page.goto(f"{one.url}/school")
    for fold in page.locator(".fold-out > * > button").all():
        fold.click()
    expect(page.get_by_role("heading", name="Backups")).to_be_visible()
    fits("school")
    page.goto(f"{one.url}/school/begin")
    expect(page.get_by_role("heading", level=2)).to_be_visible()
    fits("begin")
    page.goto(f"{one.url}/school/move-up")
    page.get_by_role("button", name="28").first.click()
    fits("move up")
    page.goto(f"{one.url}/account")
    expect(page.get_by_text(say("account.thisDevice"))).to_be_visible()
    fits("account")
    page.goto(f"{one.url}/classes")
    page.locator("ul.classes a", has_text="4 Heron").click()
    page.get_by_role("link", name="Children and lessons").click()
    page.get_by_role("button", name="Class and timetable").click()
    expect(page.get_by_label("Day of lesson 1")).to_be_visible()
    page.get_by_role("button", name="Groups", exact=True).click()
    expect(page.get_by_role("button", name="Done")).to_be_visible()
    page.get_by_role("button", name="Care for Aaron").click()
    expect(page.get_by_label("hang from a bar")).to_be_visible()
    fits("class and care")
    page.get_by_role("button", name="Record of Abel").click()
    fits("record")
