"""Children enter their own goes: a phone at home with a slip and without network, a tablet in class
with pictures; the teacher accepts them."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any, Final

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import PHONE, Visit
from tests.support.messages import say
from tests.support.offline import tablet
from tests.support.served import Served, wait_for

GOES = """
    SELECT g.typed, g.state, g.by_slip FROM challenges_go g
    JOIN challenges_slip s ON s.pupil_id = g.pupil_id WHERE s.id = %s ORDER BY g.made_at
"""

#: A family's phone, with what it kept in its folder.
AT_HOME: Final = {"viewport": PHONE, "has_touch": True, "is_mobile": True}


def press(page: Page, *keys: str) -> None:
    for key in keys:
        page.locator(".pad").get_by_role("button", name=key, exact=True).tap()


def standing(page: Page) -> list[str | None]:
    return [one.get_attribute("data-standing") for one in page.locator(".goes li").all()]


@pytest.fixture
def demo(visit: Any) -> Visit:
    """The class's own teacher."""
    one: Visit = visit()
    one.be("demo")
    return one


@pytest.fixture
def slip(demo: Visit, lauf: Served) -> tuple[str, str, str]:
    """A slip of 4 Heron in the demo's week whose child has entered nothing: id, code, week."""
    ((slip_id, code, week),) = lauf.sql(
        "SELECT s.id, s.code, s.week_id FROM challenges_slip s WHERE s.withdrawn_at IS NULL"
        " AND NOT EXISTS (SELECT 1 FROM challenges_go g WHERE g.pupil_id = s.pupil_id)"
        " ORDER BY s.picture LIMIT 1"
    )
    return str(slip_id), str(code), str(week)


def test_a_child_at_home_enters_goes_without_network_and_the_teacher_accepts_them(
    chromium: Browser, lauf: Served, demo: Visit, slip: tuple[str, str, str], tmp_path: Path
) -> None:
    slip_id, code, week = slip
    with tablet(chromium, tmp_path, **AT_HOME) as phone:
        page = phone.pages[0]
        page.goto(f"{lauf.url}/mine#{code}")
        expect(page.locator(".pad")).to_be_visible()
        assert page.evaluate("location.hash") == "", "the slip's code does not stay in the address"
        press(page, "2", "9", say("sheet.save"))
        expect(page.locator("[data-standing=waiting]")).to_have_count(1)
        page.evaluate("() => navigator.serviceWorker.ready.then(() => true)")

        # No network, a reload, a browser that is killed: the phone keeps what was done.
        phone.set_offline(True)
        press(page, "3", "1", say("sheet.save"))
        expect(page.locator("[data-standing=unsent]")).to_have_count(1)
        page.reload()
        expect(page.locator(".goes li")).to_have_count(2)
        assert standing(page) == ["unsent", "waiting"]
        press(page, "3", "3", say("sheet.save"))
        expect(page.locator("[data-standing=unsent]")).to_have_count(2)
        # One of them was a slip of the thumb.
        press(page, "9", "9", say("sheet.save"))
        page.locator("[data-standing=unsent]", has_text="99").get_by_role(
            "button", name=say("challenges.undo")
        ).tap()
        expect(page.locator("[data-standing=unsent]")).to_have_count(2)
    assert [one[0] for one in lauf.sql(GOES, slip_id)] == ["29"]

    with tablet(chromium, tmp_path, **AT_HOME) as phone:
        page = phone.pages[0]
        page.goto(f"{lauf.url}/mine")
        kept = wait_for(lambda: lauf.sql(GOES, slip_id), lambda found: len(found) == 3)
        assert kept == [("29", "waiting", True), ("31", "waiting", True), ("33", "waiting", True)]
        expect(page.locator("[data-standing=waiting]")).to_have_count(3)

        demo.page.goto(f"{lauf.url}/challenges/weeks/{week}/goes")
        waiting = demo.page.locator(".goes li")
        expect(waiting.first).to_be_visible()
        name = page.get_by_role("heading", level=1).inner_text()
        mine = waiting.filter(has_text=name)
        expect(mine).to_have_count(3)
        mine.nth(2).get_by_role("button", name=re.compile(say("challenges.decline"))).click()
        expect(demo.page.get_by_role("button", name=say("challenges.undo")).first).to_be_visible()
        for _ in range(2):
            rest = demo.page.locator(".goes").first.locator("li").filter(has_text=name)
            before = rest.count()
            rest.first.get_by_role("button", name=re.compile(say("challenges.accept"))).click()
            expect(rest).to_have_count(before - 1)
        assert [one[1] for one in lauf.sql(GOES, slip_id)] == ["accepted", "accepted", "declined"]
        typed = "SELECT a.typed FROM records_attempt a JOIN challenges_go g ON g.attempt_id = a.id"
        assert {("29",), ("31",)} <= set(lauf.sql(typed))
        page.reload()
        expect(page.locator("[data-standing=accepted]")).to_have_count(2)
        expect(page.locator("[data-standing=declined]")).to_have_count(1)
        assert demo.faults() == []


def test_a_tablet_in_class_goes_from_child_to_child_by_pictures(
    chromium: Browser, lauf: Served, demo: Visit, slip: tuple[str, str, str]
) -> None:
    slip_id, _, week = slip
    lauf.sql_do("UPDATE people_pupil SET family_name = 'Zyxwood' WHERE family_name <> ''")
    demo.page.goto(f"{lauf.url}/challenges/weeks/{week}/goes")
    code = demo.page.get_by_test_id("code").first.inner_text()
    tablet = Visit(chromium, lauf, viewport=PHONE, has_touch=True, is_mobile=True)
    page = tablet.page
    page.goto(f"{lauf.url}/mine")
    field = page.get_by_label(say("challenges.code"))
    field.fill("WRONG1")
    page.get_by_role("button", name=say("challenges.start")).tap()
    expect(page.get_by_role("alert")).to_be_visible()
    field.fill(code.lower())
    page.get_by_role("button", name=say("challenges.start")).tap()
    pictures = page.locator(".pictures button")
    expect(pictures.first).to_be_visible()
    assert tablet.faults() == []
    names = [one for (one,) in lauf.sql("SELECT given_name FROM people_pupil")]
    ((place,),) = lauf.sql("SELECT picture FROM challenges_slip WHERE id = %s", slip_id)
    pictures.nth(int(place)).tap()
    # A partner counts by taps.
    page.get_by_role("button", name=say("challenges.aPartnerCounts")).tap()
    page.locator(".pictures button").first.tap()
    press(page, *["+1"] * 12, say("sheet.save"))
    expect(page.locator("[data-standing=waiting]")).to_have_count(1)
    # What was begun and not saved is there when this child comes again, and for nobody else.
    press(page, "4", "0")
    page.get_by_role("button", name=say("challenges.nextChild")).tap()
    pictures.nth(0).tap()
    expect(page.get_by_label(say("challenges.iDid"))).to_have_value("")
    expect(page.locator(".goes li", has_text="12 ")).to_have_count(0)
    page.get_by_role("button", name=say("challenges.nextChild")).tap()
    pictures.nth(int(place)).tap()
    expect(page.get_by_label(say("challenges.iDid"))).to_have_value("40")
    assert tablet.faults() == []
    shown = page.inner_text("body").split()
    assert not set(shown) & {*names, "Zyxwood"}
    assert lauf.sql(GOES, slip_id) == [("12", "waiting", False)]
    assert tablet.errors == []
    tablet.context.close()


def test_a_go_is_in_the_lesson_of_its_day_at_once(
    chromium: Browser, lauf: Served, demo: Visit, slip: tuple[str, str, str]
) -> None:
    _, code, _ = slip
    lesson, _ = demo.lesson("4 Heron", "Press-ups in 60 s")
    demo.page.goto(f"{lauf.url}/lessons/{lesson}/results")
    link = demo.page.get_by_role("link", name=re.compile(say("progress.nGoWaits", n=6)))
    expect(link).to_be_visible()
    phone = Visit(chromium, lauf, viewport=PHONE, has_touch=True, is_mobile=True)
    phone.page.goto(f"{lauf.url}/mine#{code}")
    expect(phone.page.locator(".pad")).to_be_visible()
    press(phone.page, "3", "0", say("sheet.save"))
    expect(
        demo.page.get_by_role("link", name=re.compile(say("progress.nGoWaits", n=7)))
    ).to_be_visible()
    phone.context.close()
