"""Helpers in a lesson: in by the code, offline and back, on the teacher's screen at once, two
counts of one child, and the end."""

from __future__ import annotations

import io
import re
from collections.abc import Iterator

import pytest
from PIL import Image
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import PHONE, Visit
from tests.support.messages import say
from tests.support.served import Served, wait_for

COUNTED = """
    SELECT p.given_name, a.typed, coalesce(h.name, s.name)
    FROM records_attempt a JOIN people_pupil p ON p.id = a.pupil_id
    JOIN people_staff s ON s.id = a.recorded_by_id LEFT JOIN lessons_helper h ON h.id = a.helper_id
    WHERE a.activity_id = %s
      AND NOT EXISTS (SELECT 1 FROM records_attempt b WHERE b.succeeds_id = a.id)
"""


@pytest.fixture
def teacher(chromium: Browser, lauf: Served) -> Iterator[Visit]:
    visit = Visit(chromium, lauf)
    visit.sign_in()
    yield visit
    assert visit.errors == []
    visit.context.close()


def open_to_helpers(page: Page) -> str:
    page.get_by_role("button", name=say("lessons.more"), exact=True).first.click()
    page.get_by_role("button", name=say("lessons.helpers"), exact=True).click()
    page.get_by_role("button", name=say("lessons.openToHelpers")).click()
    code = page.get_by_test_id("code").inner_text()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    return code


def helper(chromium: Browser, lauf: Served, code: str, name: str) -> Visit:
    visit = Visit(chromium, lauf, viewport=PHONE, has_touch=True, is_mobile=True)
    visit.page.goto(f"{lauf.url}/help")
    visit.page.get_by_label(say("lessons.codeFromTheTeacher")).fill(code)
    visit.page.get_by_label(say("lessons.yourName")).fill(name)
    visit.page.get_by_role("button", name=say("lessons.startHelping")).tap()
    expect(visit.page.locator("#child-0")).to_be_visible()
    return visit


def press(page: Page, *keys: str) -> None:
    for key in keys:
        page.locator(".pad").get_by_role("button", name=key, exact=True).tap()


def row(page: Page, name: str) -> str:
    """Where a child stands in a list."""
    found = page.locator("li.child", has_text=re.compile(rf"\b{name}\b")).get_attribute("id")
    assert found is not None
    return f"#{found}"


def test_two_helpers_count_beside_the_teacher_and_one_has_no_network(
    chromium: Browser, lauf: Served, teacher: Visit
) -> None:
    lesson, activities = teacher.lesson("4 Heron", "Press-ups in 60 s")
    (activity,) = activities.values()
    teacher.page.goto(f"{lauf.url}/lessons/{lesson}/hall")
    code = open_to_helpers(teacher.page)
    kim, alex = (helper(chromium, lauf, code, name) for name in ("Kim", "Alex"))
    first = kim.page.locator("#child-0 .name").inner_text().split("\n")[0]

    # A tap on the phone is on the teacher's screen, who has done nothing.
    last = kim.page.locator("li.child").count() - 1
    kim.page.locator(f"#child-{last}").tap()
    press(kim.page, "+1", "+1", say("sheet.save"))
    there = teacher.page.locator(f"#child-{last} .score")
    expect(there).to_have_text("2")

    # Without network the phone keeps on, through a reload, and sends what it has once it can.
    kim.context.set_offline(True)
    kim.page.locator("#child-0").tap()
    press(kim.page, "1", "7", say("sheet.save"))
    press(kim.page, "1", "8", say("sheet.save"))
    expect(kim.page.get_by_text(say("lessons.noNetworkKeepOn"))).to_be_visible()
    expect(kim.page.get_by_text(say("lessons.nNotSentYet", n=2))).to_be_visible()

    # Meanwhile the other one counts the first child, and both do the second.
    alex.page.locator("#child-0").tap()
    press(alex.page, "1", "9", say("sheet.save"))
    expect(alex.page.locator("#child-0 .cells")).to_have_text("19")
    # It is shown at once; the other one comes when it is kept.
    expect(alex.page.locator("[data-state=waiting], [data-state=saving]")).to_have_count(0)
    kim.context.set_offline(False)
    expect(kim.page.get_by_text(say("lessons.noNetworkKeepOn"))).to_have_count(0)
    expect(kim.page.locator("[data-state=waiting], [data-state=saving]")).to_have_count(0)
    assert kim.page.locator("#child-0 .cells").inner_text().strip() == "17", "its own count"

    teacher.page.goto(f"{lauf.url}/lessons/{lesson}/results")
    counts = teacher.page.locator("li.item", has_text=first)
    expect(counts).to_contain_text("Alex: 19")
    counts.get_by_role(
        "button", name=say("progress.takeScoreOfName", score="17", name="Kim")
    ).click()
    expect(teacher.page.get_by_text("Alex: 19")).to_have_count(0)
    kept = wait_for(
        lambda: {one[0]: one[1:] for one in lauf.sql(COUNTED, activity)},
        lambda found: len(found) == 3,
    )
    assert kept[first] == ("17", "Robin Ashgrove"), "the teacher chose"
    assert sorted(kept.values()) == [
        ("17", "Robin Ashgrove"), ("18", "Kim"), ("2", "Kim"),
    ]  # fmt: skip
    assert lauf.sql("SELECT typed FROM records_recount") == [("17",)], "both counts are kept"
    for visit in (kim, alex):
        assert visit.faults() == []
        assert visit.errors == []

    # The lesson is closed: what is entered then waits on the phone, and goes when it is opened.
    teacher.ask("POST", f"/api/lessons/{lesson}/close")
    expect(alex.page.get_by_text(say("lessons.notOpenToHelpersNow"))).to_be_visible()
    alex.page.locator("#child-5").tap()
    press(alex.page, "2", "0", say("sheet.save"))
    expect(alex.page.get_by_text(say("lessons.nNotSentYet", n=1))).to_be_visible()
    assert len(lauf.sql(COUNTED, activity)) == 3
    teacher.ask("POST", f"/api/lessons/{lesson}/reopen")
    wait_for(lambda: lauf.sql(COUNTED, activity), lambda found: len(found) == 4)
    kim.context.close()
    alex.context.close()


def test_what_is_read_for_a_helper_is_gone_with_the_helper(
    chromium: Browser, lauf: Served, teacher: Visit
) -> None:
    lesson, _ = teacher.lesson("4 Heron", "Press-ups in 60 s")
    lauf.sql_do("UPDATE people_pupil SET family_name = 'Zyxwood', medical_note = 'quixotic'")
    teacher.page.goto(f"{lauf.url}/lessons/{lesson}/hall")
    kim = helper(chromium, lauf, open_to_helpers(teacher.page), "Kim")

    def stored() -> str:
        return str(
            kim.page.evaluate("""async () => {
              const found = [];
              for (const { name } of await indexedDB.databases()) {
                const database = await new Promise((done) => {
                  const opening = indexedDB.open(name);
                  opening.onsuccess = () => done(opening.result);
                });
                for (const store of database.objectStoreNames) {
                  const rows = database.transaction(store).objectStore(store).getAll();
                  await new Promise((done) => (rows.onsuccess = done));
                  found.push(...rows.result.map((one) => JSON.stringify(one)));
                }
                database.close();
              }
              return [...found, ...Object.values(localStorage)].join(" ");
            }""")
        )

    given = kim.page.locator("#child-0 .name").inner_text().split("\n")[0]
    wait_for(stored, lambda found: given in found)
    assert "Zyxwood" not in stored() and "quixotic" not in stored()
    kim.page.get_by_role("button", name=say("lessons.stopHelping")).tap()
    kim.page.get_by_role("dialog").get_by_role("button", name=say("lessons.stopHelping")).tap()
    expect(kim.page.get_by_label(say("lessons.codeFromTheTeacher"))).to_be_visible()
    wait_for(stored, lambda found: given not in found)
    kim.context.close()


def test_the_wall_counts_what_is_in_and_shows_the_code_and_no_name(
    chromium: Browser, lauf: Served, teacher: Visit
) -> None:
    lesson, activities = teacher.lesson("4 Heron", "Press-ups in 60 s")
    (activity,) = activities.values()
    teacher.page.goto(f"{lauf.url}/lessons/{lesson}/hall")
    code = open_to_helpers(teacher.page)
    teacher.page.get_by_role("button", name=say("lessons.startTheLesson")).click()
    wall = teacher.context.new_page()
    wall.goto(f"{lauf.url}/lessons/{lesson}/projector")
    expect(wall.get_by_test_id("in-so-far")).to_contain_text("0")
    kim = helper(chromium, lauf, code, "Kim")
    kim.page.locator("#child-0").tap()
    press(kim.page, "1", "7", say("sheet.save"))
    children = len(kim.page.locator("li.child").all())
    expect(wall.get_by_test_id("in-so-far")).to_have_text(
        say("lessons.nOfManyAreIn", n=1, many=children)
    )
    state = teacher.ask("GET", f"/api/lessons/{lesson}/conduct")
    state = {**state, "wall": "code", "revision": state["revision"] + 1}
    teacher.ask("PUT", f"/api/lessons/{lesson}/conduct", state)
    expect(wall.get_by_test_id("code")).to_have_text(code)
    # All of it is on the screen, and the square is dark on white, as a camera wants it.
    expect(wall.get_by_test_id("code")).to_be_in_viewport(ratio=1)
    square = wall.locator(".join img")
    expect(square).to_be_in_viewport(ratio=1)
    seen = Image.open(io.BytesIO(square.screenshot())).convert("L")
    assert seen.getextrema() == (0, 255) and seen.getpixel((3, 3)) == 255
    names = [one for (one,) in lauf.sql("SELECT given_name FROM people_pupil")]
    shown = wall.inner_text("body").split()
    assert not set(shown) & set(names)
    assert lauf.sql(COUNTED, activity)
    kim.context.close()
