"""Tests found and edited, ladders from printed ranges, norm tables from files, laps; by the
screens, checked in the database."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, expect

from tests.support.fields import pick
from tests.support.messages import say
from tests.support.served import Served


def open_test(page: Page, name: str) -> None:
    page.get_by_role("link", name="Catalogue", exact=True).click()
    page.locator("a.test", has_text=name).click()
    expect(page.get_by_role("heading", name=name)).to_be_visible()


def test_a_ladder_built_from_printed_ranges_with_a_hole(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head")
    open_test(page, "Press-ups in 60 s")
    page.get_by_role("link", name="Benchmarks").click()
    page.get_by_role("button", name=say("catalogue.newLadder")).click()
    pick(page.get_by_label("For", exact=True), say("catalogue.anyAge"))
    page.get_by_label("From", exact=True).fill("8")
    page.get_by_label("To", exact=True).fill("9")
    printed = page.get_by_label(say("catalogue.rangesAsPrintedLowestFirst"))
    printed.fill("eight to ten")
    expect(page.get_by_role("alert")).to_contain_text("is not a range")
    expect(printed).to_have_value("eight to ten")
    printed.fill("7–9, 11–15, more than 19")
    expect(page.get_by_text("10 is in no range")).to_be_visible()
    expect(page.get_by_text("16 to 19 are in no range")).to_be_visible()
    expect(page.get_by_test_id("rung-Far line")).to_contain_text("more than 19")
    page.get_by_role("button", name=say("catalogue.turnIntoRungs")).click()
    expect(page.get_by_label("Threshold of rung 2")).to_have_value("11")
    page.get_by_label("Threshold of rung 2").fill("10")
    expect(page.get_by_text(say("catalogue.theRungsAreInOrderWith"))).to_be_visible()
    page.get_by_label(say("catalogue.source")).fill("our wall card")
    page.get_by_role("button", name=say("catalogue.saveLadder")).click()
    expect(page.get_by_role("row", name="ages 8–9")).to_contain_text("our wall card")
    kept = lauf.sql(
        "SELECT r.name, r.threshold, r.beyond, l.from_age, l.to_age, l.seconds, l.variant "
        "FROM catalogue_ladderrung r JOIN catalogue_ladder l ON l.id = r.ladder_id "
        "WHERE l.source = 'our wall card' ORDER BY r.position"
    )
    assert kept == [
        ("Near line", 7, False, 8, 9, 60, "full"),
        ("Centre line", 10, False, 8, 9, 60, "full"),
        ("Far line", 19, True, 8, 9, 60, "full"),
    ]


def test_an_import_with_two_bad_rows(visit: Any, lauf: Served, tmp_path: Path) -> None:
    bad = tmp_path / "our county.csv"
    bad.write_text("sex,age,P5,P50,P95\ngirl,8,6,14,25\nboy,nine,7,16,28\nboy,8,7,30,28\n")
    good = tmp_path / "put right.csv"
    good.write_text("sex,age,P5,P50,P95\ngirl,8,6,14,25\nboy,9,7,16,28\nboy,8,7,16,28\n")
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head")
    open_test(page, "Press-ups in 60 s")
    page.get_by_role("link", name="Benchmarks").click()
    page.get_by_role("button", name=say("catalogue.importNorms")).click()
    page.get_by_label(say("catalogue.file")).set_input_files(bad)
    expect(page.get_by_text("2 errors in the file")).to_be_visible()
    faults = page.locator(".faults tbody tr")
    expect(faults.nth(0)).to_contain_text("3")
    expect(faults.nth(0)).to_contain_text("age")
    expect(faults.nth(1)).to_contain_text("P95")
    expect(page.get_by_role("button", name=say("catalogue.saveNorms"))).to_be_disabled()
    assert lauf.sql("SELECT count(*) FROM catalogue_normtable WHERE name LIKE 'our%%'") == [(0,)]
    page.get_by_label(say("catalogue.file")).set_input_files(good)
    page.get_by_label("Source").fill("our county's PE advisers")
    page.get_by_label("Measured on").fill("children of our county")
    page.get_by_label(say("catalogue.evidence")).fill("a leaflet")
    page.get_by_role("button", name=say("catalogue.saveNorms")).click()
    article = page.locator("article.norm")
    expect(article).to_contain_text("our county's PE advisers, children of our county")
    expect(article).to_contain_text("a leaflet")
    ((rows, percentiles),) = lauf.sql(
        "SELECT rows, percentiles FROM catalogue_normtable WHERE standing = 'a leaflet'"
    )
    assert percentiles == [5, 50, 95] and len(rows) == 3


def test_a_test_is_found_edited_and_planned(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head")
    page.get_by_role("link", name="Catalogue", exact=True).click()
    all_tests = page.locator("a.test")
    expect(all_tests.first).to_be_visible()
    many = all_tests.count()
    pick(page.get_by_label(say("catalogue.kitYouHave")), say("catalogue.noKit"))
    pick(page.get_by_label("Load"), "legs")
    expect(all_tests).not_to_have_count(many)
    assert 0 < all_tests.count() < many
    page.get_by_role("button", name="Show all").click()
    open_test(page, "Press-ups in 60 s")
    page.get_by_role("link", name="Edit").click()
    expect(page.get_by_label(say("catalogue.clockSeconds"))).to_have_value("60")
    page.get_by_label(say("catalogue.clockSeconds")).fill("45")
    expect(page.get_by_text("the clock is different")).to_be_visible()
    page.get_by_label(say("catalogue.reasonForTheChange")).fill("shorter for our hall")
    page.get_by_role("button", name=say("catalogue.saveAsANewVersion")).click()
    expect(page.get_by_text("shorter for our hall")).to_be_visible()
    versions = lauf.sql(
        "SELECT v.number, v.seconds FROM catalogue_protocolversion v JOIN catalogue_test t "
        "ON t.id = v.test_id WHERE t.slug = 'press-ups-60' ORDER BY v.number"
    )
    assert versions == [(1, 60), (2, 45)]
    page.get_by_role("link", name="Plan a lesson with it").click()
    # Beside it stands what was done about this time of the week.
    expect(page.locator("ol.chosen")).to_contain_text("Press-ups in 60 s")


def test_laps_beside_the_course(visit: Any, lauf: Served) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in()
    page.get_by_role("link", name="Laps", exact=True).click()
    pick(page.get_by_label(say("catalogue.lapMeasuredIn")), say("catalogue.steps"))
    # Common practice: a mile in laps of 26 big steps is 62 laps.
    expect(page.get_by_test_id("whole")).to_have_text("62")
    page.get_by_text(say("catalogue.measureThisClasssStep")).click()
    page.get_by_label("Steps counted").fill("25")
    page.get_by_role("button", name="Use this step").click()
    expect(page.get_by_text("a step is 80 cm")).to_be_visible()
    expect(page.get_by_test_id("whole")).to_have_text("78")
    page.get_by_label("Name of this course").fill("Round the oak")
    page.get_by_role("button", name=say("catalogue.saveCourse")).click()
    expect(page.get_by_text(say("catalogue.courseNameSaved", name="Round the oak"))).to_be_visible()
    page.get_by_label(say("catalogue.didNotFinishLapsRun")).fill("7+12m")
    expect(page.get_by_text("157.6 m run")).to_be_visible()
    assert lauf.sql(
        "SELECT lap_mm, steps, step_mm FROM catalogue_course WHERE name LIKE 'R%%'"
    ) == [(20_800, 26.0, 800)]


def test_axe_finds_nothing_on_the_new_screens(visit: Any) -> None:
    found: dict[str, list[str]] = {}
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.sign_in("head")
    page.get_by_role("link", name="Catalogue", exact=True).click()
    expect(page.locator("a.test").first).to_be_visible()
    found["catalogue"] = one.axe()
    page.locator("a.test", has_text="Press-ups in 60 s").click()
    expect(page.get_by_role("heading", name="Show and say")).to_be_visible()
    found["card"] = one.axe()
    page.get_by_role("link", name="Benchmarks").click()
    page.get_by_role("button", name=say("catalogue.newLadder")).click()
    page.get_by_label(say("catalogue.rangesAsPrintedLowestFirst")).fill("7–9, 11–15")
    expect(page.get_by_text("10 is in no range")).to_be_visible()
    page.get_by_role("button", name=say("catalogue.importNorms")).click()
    found["benchmarks"] = one.axe()
    page.get_by_role("link", name="Press-ups in 60 s").click()
    page.get_by_role("link", name="Edit").click()
    expect(page.get_by_label(say("catalogue.clockSeconds"))).to_have_value("60")
    found["edit"] = one.axe()
    page.get_by_role("link", name="Laps", exact=True).click()
    expect(page.get_by_test_id("whole")).to_be_visible()
    found["laps"] = one.axe()
    page.get_by_role("link", name="School", exact=True).click()
    expect(page.get_by_role("heading", name="Units shown")).to_be_visible()
    found["school"] = one.axe()
    page.get_by_role("link", name="Batteries", exact=True).click()
    expect(page.get_by_role("heading", name="Term check")).to_be_visible()
    found["batteries"] = one.axe()
    page.get_by_role("link", name="4 Heron").first.click()
    expect(page.locator("table.grid")).to_be_visible()
    found["grid"] = one.axe()
    page.get_by_role("button", name="Pulses", exact=True).click()
    expect(page.locator("table.pulses")).to_be_visible()
    found["pulse"] = one.axe()
    page.get_by_role("button", name=re.compile("^Standing long jump")).click()
    page.get_by_role("button", name="List", exact=True).click()
    expect(page.locator(".child").first).to_be_visible()
    found["tries"] = one.axe()
    assert {screen: faults for screen, faults in found.items() if faults} == {}
