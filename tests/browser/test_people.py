"""A school's people by the office's lists, as a head of PE brings them in."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page, expect

from tests.exchange.lists import sheet
from tests.support.fields import pick
from tests.support.messages import say
from tests.support.served import Served, wait_for

LIST = (
    "Admission no\tForename\tSurname\tDOB\tGender\tForm\tHouse\tMedical conditions\n"
    "101\tAda\tQuill\t03/04/2018\tF\t4 Heron\tElm\t\n"
    "102\tBjörn\tde Vance\t05/06/2018\tM\tOwls\tAlder\tAsthma: blue inhaler\n"
    "103\tZoë\tRuiz\t03/01/1988\tF\tOwls\tElm\t\n"
    "104\tAaron\tPasco\t\tM\t4 Heron\t\t\n"
)
KEPT = """
    SELECT p.given_name, p.born::text, c.name, y.name, p.medical_note FROM people_pupil p
    JOIN people_schoolclass c ON c.id = p.school_class_id
    JOIN people_yeargroup y ON y.id = c.year_group_id WHERE p.number IN ('101', '102', '104')
    ORDER BY p.number
"""


def row(page: Page, name: str) -> Any:
    return page.locator("tbody tr", has_text=name)


def test_a_list_is_pasted_put_right_agreed_to_and_kept(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head")
    page.get_by_role("link", name="Classes", exact=True).click()
    page.get_by_role("link", name=say("app.importChildrenFromAList")).click()
    page.get_by_label("Paste the cells").fill(LIST)
    expect(page.get_by_test_id("summary")).to_contain_text("2 cannot")
    keep = page.get_by_role("button", name=say("catalogue.saveBattery"))
    expect(keep).to_be_disabled()
    expect(page.get_by_text(say("people.firstChooseWhat"))).to_contain_text("the day or the month")
    # A birth date that cannot be is said; a child who is nearly one we have is asked about.
    expect(row(page, "Zoë Ruiz")).to_contain_text("which makes 38 years")
    expect(row(page, "Aaron Pasco")).to_contain_text("There is Aaron Pascoe")
    pick(page.get_by_label(say("people.datesStartWith")), say("people.theMonth"))
    pick(page.get_by_label("Owls is new"), "Year 3")
    pick(page.get_by_label("Who is Aaron Pasco?"), say("people.thisIsChild", child="Aaron Pascoe"))
    expect(row(page, "Aaron Pasco")).to_contain_text("family name: Pascoe → Pasco")
    expect(row(page, "Ada Quill")).to_contain_text("new")
    expect(keep).to_be_enabled()
    assert one.axe() == []
    # A column put right is read so at once, and back again.
    medical = page.get_by_label(say("people.whatColumnContains", column="Medical conditions"))
    pick(medical, "leave out")
    expect(page.get_by_text("Asthma: blue inhaler", exact=True)).to_be_visible()
    pick(medical, "medical note")
    page.get_by_label("Nico Selwyn").check()
    expect(keep).to_be_enabled()  # once what was put right has been read again
    keep.press("Enter")
    expect(page.get_by_role("status").filter(has_text=say("people.saved"))).to_contain_text(
        "2 new children, 1 changed, 1 left"
    )
    assert lauf.sql(KEPT) == [
        ("Ada", "2018-03-04", "4 Heron", "Year 4", ""),
        ("Björn", "2018-05-06", "Owls", "Year 3", "Asthma: blue inhaler"),
        ("Aaron", "2018-03-15", "4 Heron", "Year 4", "Asthma: blue inhaler in the red bag"),
    ]
    # The same list again changes nothing: there is nothing to keep.
    page.get_by_label("Paste the cells").fill(LIST)
    pick(page.get_by_label(say("people.datesStartWith")), say("people.theMonth"))
    expect(page.get_by_test_id("summary")).to_have_text("1 cannot · 3 same")
    expect(keep).to_be_disabled()


def test_a_spreadsheet_is_chosen_as_a_file_on_a_phone(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 360, "height": 740})
    page: Page = one.page
    one.be("head")
    page.goto(f"{one.url}/classes/list")
    for name, data, says in (
        ("old.xls", b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1", "an old kind of spreadsheet"),
        ("empty.csv", b"\n", "The list is empty"),
    ):
        page.get_by_label("or choose a file").set_input_files(
            {"name": name, "mimeType": "application/octet-stream", "buffer": data}
        )
        expect(page.get_by_role("alert")).to_contain_text(says)
    book = sheet([["Name", "Class"], ["Ivo Larch", "4 Heron"], ["Una Moss", "4 Heron"]])
    page.get_by_label("or choose a file").set_input_files(
        {"name": "heron.xlsx", "mimeType": "application/octet-stream", "buffer": book}
    )
    expect(page.get_by_test_id("summary")).to_have_text("2 new")
    wide = "document.documentElement.scrollWidth - document.documentElement.clientWidth"
    assert page.evaluate(wide) == 0
    page.get_by_role("button", name=say("catalogue.saveBattery")).click()
    expect(page.get_by_role("status").filter(has_text=say("people.saved"))).to_be_visible()
    assert lauf.sql("SELECT count(*) FROM people_pupil WHERE family_name IN ('Larch', 'Moss')") == [
        (2,)
    ]


def test_a_child_is_added_changed_found_and_gone(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be("head")
    page.goto(f"{one.url}/classes")
    page.locator("ul.classes a", has_text="4 Heron").click()
    page.get_by_role("link", name="Children and lessons").click()
    page.get_by_role("button", name="Add a child").click()
    page.get_by_label("First name").fill("Ivo")
    page.get_by_label("Last name").fill("Larch")
    page.get_by_label("Born").fill("2005-05-31")
    page.keyboard.press("Enter")
    # A slip of the year is asked about, and nothing typed is lost.
    expect(page.get_by_role("alert")).to_contain_text("Is that right?")
    expect(page.get_by_label("First name")).to_have_value("Ivo")
    page.get_by_label("Born").fill("")
    page.get_by_role("button", name="Add", exact=True).click()
    row = page.locator("tbody tr", has_text="Ivo Larch")
    expect(row).to_be_visible()
    page.get_by_role("button", name=say("people.editChild", child="Ivo Larch")).press("Enter")
    page.get_by_label("Medical note").fill("Glasses off for forward rolls")
    page.get_by_role("button", name=say("challenges.save"), exact=True).click()
    expect(row).to_contain_text("Glasses off for forward rolls")
    assert one.axe() == []
    page.get_by_role("button", name=say("people.editChild", child="Ivo Larch")).press("Enter")
    page.get_by_role("button", name=say("people.markAsLeft")).click()
    page.get_by_role("dialog").get_by_role("button", name=say("people.markAsLeft")).click()
    expect(row).to_have_count(0)
    asked = (
        "SELECT left_on IS NOT NULL, school_class_id FROM people_pupil WHERE family_name = 'Larch'"
    )
    # The row gives way to its form at once: what was kept is asked of the database.
    assert wait_for(lambda: lauf.sql(asked), lambda rows: rows[0][0]) == [(True, None)]
    # Still found by who leads the school, by any part of the name; and the arrow keys choose.
    page.goto(f"{one.url}/classes")
    expect(page.locator("ul.classes li").first).to_be_visible()
    page.keyboard.press("/")
    page.get_by_role("combobox", name="Find a child or a class").fill("lar iv")
    expect(page.get_by_role("option")).to_have_text("Ivo Larch has left")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Ivo Larch")
