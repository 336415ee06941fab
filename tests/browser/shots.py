"""Take the pictures in docs/screenshots from the demo data: `./lauf shots`."""

from __future__ import annotations

import io
import re
import time
from typing import Final

import pypdfium2
from PIL import Image
from playwright.sync_api import Page, expect, sync_playwright

from tests.support.fields import choose, pick
from tests.support.hall import skip_to, type_in
from tests.support.messages import say
from tests.support.pictures import not_fit
from tests.support.served import CHROMIUM, CHROMIUM_FLAGS, ROOT, make_template, served
from tests.support.waits import LIMIT_MS

FOLDER = ROOT / "docs" / "screenshots"
#: Pictures of a question or a refusal, which is what they show.
_MAY_SAY: Final = ("hall-list", "hall-phone", "benchmarks", "wall")
TEMPLATE = "lauf_shots"
#: What the class scores in the picture, in the order of the list.
SCORES = ["18", "22~", "a", "17", "23", "*", "19", "15", "14", "x", "16", "19", "12"]


def main() -> None:
    make_template(TEMPLATE, demo=True, past=True)
    FOLDER.mkdir(parents=True, exist_ok=True)
    with served(TEMPLATE) as lauf, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
        context = browser.new_context(viewport={"width": 1280, "height": 800})
        context.add_init_script(
            # Ten times as fast, from the same beginning after every reload.
            f"const t0 = {_now_ms()}; window.laufTimeSource = () => t0 + (Date.now() - t0) * 10"
        )
        take_all(context.new_page(), lauf.url)
        browser.close()


def _now_ms() -> int:
    return int(time.time() * 1000)


def take_all(page: Page, url: str) -> None:
    page.goto(url)
    page.get_by_role("button", name="Robin Ashgrove").click()
    page.locator(".lesson").first.wait_for()
    expect(page.get_by_test_id("ready")).to_contain_text("without a network", timeout=120_000)
    shoot(page, "today")
    page.locator(".lesson", has_text="4 Heron").first.click()
    page.get_by_role("button", name="Start the lesson").wait_for()
    page.get_by_role("link", name="Plan", exact=True).click()
    page.locator("li.block").first.wait_for()
    shoot(page, "plan")
    page.get_by_role("link", name="Hall", exact=True).click()
    page.get_by_role("button", name="Start the lesson").click()
    skip_to(page, "Press-ups")
    page.get_by_role("button", name=say("lessons.readyStart")).click()
    page.get_by_test_id("clock").filter(has_text="4").first.wait_for()
    page.get_by_role("button", name="Pause").click()
    page.get_by_test_id("paused").wait_for()
    shoot(page, "hall-test")
    for typed in SCORES:
        if typed == "*":  # the other form, for this child only
            page.keyboard.type(typed)
        else:
            type_in(page, typed)
    page.keyboard.type("6o")
    page.keyboard.press("Enter")
    expect(page.locator("[data-state=saved]")).to_have_count(12)
    shoot(page, "hall-list")
    page.keyboard.press("Escape")
    page.get_by_role("button", name=say("lessons.more"), exact=True).first.click()
    page.get_by_role("button", name=say("lessons.helpers"), exact=True).click()
    page.get_by_role("button", name=say("lessons.openToHelpers")).click()
    code = page.get_by_test_id("code").inner_text()
    page.keyboard.press("Escape")
    phones = [teachers_phone(page), helpers_phone(page, url, code)]
    walls = [code_on_the_wall(page)]
    page.get_by_role("link", name="Results", exact=True).click()
    page.get_by_role("heading", name="Missing").wait_for()
    page.get_by_role("heading", name=say("progress.whatWeFound")).wait_for()
    shoot(page, "results")
    page.get_by_role("link", name="Hall", exact=True).click()
    page.get_by_role("button", name=say("lessons.continue")).click()
    page.get_by_role("button", name="Pause").click()
    page.get_by_test_id("paused").wait_for()
    lesson = page.url.partition("/hall")[0]
    page.goto(f"{lesson}/results")
    page.get_by_role("heading", name="Missing").wait_for()
    page.locator("table a").nth(1).click()
    page.locator("ul.lanes li").first.wait_for()
    shoot(page, "pupil")
    page.locator("ul.lanes li", has_text="Standing long jump").get_by_role("button").click()
    page.get_by_role("button", name=re.compile("^Why")).first.click()
    page.get_by_test_id("why").get_by_text("Next target").wait_for()
    page.get_by_test_id("why").scroll_into_view_if_needed()
    shoot(page, "why")
    page.get_by_role("link", name="Classes", exact=True).click()
    page.get_by_role("heading", name="Classes", exact=True).wait_for()
    page.get_by_text("4 Heron").first.click()
    page.get_by_role("link", name="Children and lessons").click()
    # The second newest with press-ups: today's has no pulses yet.
    page.locator(".lessons li", has_text="Press-ups").nth(1).locator("a").click()
    page.get_by_role("link", name="Hall", exact=True).click()
    page.get_by_role("button", name=re.compile("^Pulse")).first.click()
    page.locator("figure.plot").wait_for()
    shoot(page, "hall-pulse")
    challenges(page, url, phones, walls)
    on_the_floor("phones", *phones)
    on_the_floor("walls", *walls, height=420)
    page.get_by_role("button", name="Sign out").click()
    page.get_by_role("button", name="Sam Pellgrave").click()
    page.get_by_role("link", name="Catalogue", exact=True).click()
    page.locator("a.test").first.wait_for()
    page.get_by_role("link", name="Press-ups in 60 s").click()
    page.get_by_role("link", name="Benchmarks").click()
    page.get_by_role("button", name=say("catalogue.newLadder")).click()
    pick(page.get_by_label("For", exact=True), say("catalogue.anyAge"))
    page.get_by_label("From", exact=True).fill("8")
    page.get_by_label("To", exact=True).fill("9")
    page.get_by_label(say("catalogue.rangesAsPrintedLowestFirst")).fill("7–9, 11–15, more than 19")
    page.get_by_text("10 is in no range").wait_for()
    shoot(page, "benchmarks")
    page.get_by_role("link", name="Batteries", exact=True).click()
    page.get_by_role("link", name="4 Heron").first.click()
    page.locator("table.grid").wait_for()
    shoot(page, "grid")
    page.get_by_role("link", name="School", exact=True).click()
    page.get_by_role("link", name="School picture").click()
    page.locator("table tbody tr").first.wait_for()
    # The bars are drawn by code of their own, which comes later than the numbers.
    expect(page.locator("main svg path[fill]")).not_to_have_count(0)
    shoot(page, "school-picture")
    page.get_by_role("link", name="Classes", exact=True).click()
    page.locator("ul.classes a", has_text="4 Heron").click()
    page.locator("button.cell").first.wait_for()
    shoot(page, "board")
    page.get_by_role("link", name=say("app.handouts")).click()
    report = made(page, "Make 28 reports")
    page.get_by_role("button", name="Certificates").click()
    certificate = made(page, re.compile("^Make .* certificate"))
    page.get_by_role("button", name="Recording sheets").click()
    choose(page.get_by_role("combobox", name="Which"), "Press-ups in 60 s")
    page.get_by_label(say("exchange.printEarlierBestsInGrey")).check()
    lay_out(report, certificate, made(page, say("exchange.makeSheet")))
    page.get_by_role("button", name="Sign out").click()
    page.get_by_role("button", name="Lee Farrow").click()
    page.locator("main tbody tr").first.wait_for()
    shoot(page, "trust")


def challenges(page: Page, url: str, phones: list[Image.Image], walls: list[Image.Image]) -> None:
    """A week, a set's sheet with one child's, and the board of the warm-up game; a child's phone
    and the houses on the wall."""
    page.get_by_role("link", name="Challenges", exact=True).click()
    page.locator("a.week", has_text="Bounce and jump").click()
    page.locator("li.day").first.wait_for()
    shoot(page, "week")
    phones.append(childs_phone(page, url))
    page.get_by_role("link", name="Wall", exact=True).click()
    page.get_by_role("heading", name="Taking part, by class").wait_for()
    # Until the last row of the points stands there.
    onward = page.get_by_role("button", name="Next")
    while onward.is_enabled():
        page.keyboard.press("Space")
    walls.append(picture(page, "wall"))
    page.go_back()
    page.locator("li.day").first.wait_for()
    page.go_back()
    page.locator("a.week", has_text="Ten in a row").click()
    page.get_by_role("link", name="As a set").click()
    page.locator(".sheet tbody tr").first.wait_for()
    shoot(page, "set")
    page.goto(f"{page.url.partition('/challenges')[0]}/challenges/warm-up?number=2027")
    page.get_by_role("region", name="The board").wait_for()
    for _ in range(8):
        page.keyboard.press("Space")
    shoot(page, "warm-up")


def made(page: Page, button: str | re.Pattern[str]) -> Image.Image:
    """The first page of a handout."""
    page.get_by_role("button", name=button).click()
    link = page.get_by_role("link", name="Save")
    link.wait_for(timeout=LIMIT_MS)
    with page.expect_download() as download:
        link.click()
    return pypdfium2.PdfDocument(download.value.path())[0].render(scale=1.3).to_pil()


def lay_out(report: Image.Image, certificate: Image.Image, sheet: Image.Image) -> None:
    """Pages on the floor: two upright beside each other, the wide one over their ends."""
    floor = Image.new("RGB", (1280, 800), "#e9eee8")
    for paper, place, size in (
        (report, (16, 16), (545, 768)),
        (sheet, (719, 16), (545, 768)),
        (certificate, (430, 500), (400, 283)),
    ):
        paper.thumbnail(size)
        floor.paste(paper, place)
    floor.save(FOLDER / "paper.png")


def small(page: Page, *, signed_in: bool = False) -> Page:
    """A page on a phone."""
    browser = page.context.browser
    assert browser
    state = page.context.storage_state() if signed_in else None
    context = browser.new_context(
        viewport={"width": 360, "height": 740}, has_touch=True, is_mobile=True, storage_state=state
    )
    return context.new_page()


def teachers_phone(page: Page) -> Image.Image:
    """The same list on a phone with its pad."""
    shown = small(page, signed_in=True)
    shown.goto(page.url)
    shown.get_by_role("group", name="Pad").wait_for()
    return picture(shown, "hall-phone")


def helpers_phone(page: Page, url: str, code: str) -> Image.Image:
    """A helper who counts beside the teacher, and has come to something else for the first."""
    shown = small(page)
    shown.goto(f"{url}/help")
    shown.get_by_label(say("lessons.codeFromTheTeacher")).fill(code)
    shown.get_by_label(say("lessons.yourName")).fill("Kim")
    shown.get_by_role("button", name=say("lessons.startHelping")).tap()
    for child, keys in (("#child-0", "21"), ("#child-13", "20")):
        shown.locator(child).tap()
        for key in (*keys, say("sheet.save")):
            shown.locator(".pad").get_by_role("button", name=key, exact=True).tap()
    expect(shown.locator("[data-state=saving], [data-state=waiting]")).to_have_count(0)
    return picture(shown, "hall-phone")


def childs_phone(page: Page, url: str) -> Image.Image:
    """A child that has chosen its picture, with what it did."""
    page.get_by_role("link", name=say("challenges.childrensEntries")).click()
    code = page.get_by_test_id("code").first.inner_text()
    page.go_back()
    page.locator("li.day").first.wait_for()
    shown = small(page)
    shown.goto(f"{url}/mine#{code}")
    shown.locator(".pictures button").nth(1).tap()
    for key in ("3", "1", say("sheet.save"), "3", "4"):
        shown.locator(".pad").get_by_role("button", name=key, exact=True).tap()
    shown.locator("[data-standing=waiting]").nth(1).wait_for()
    shown.get_by_text("= 34").wait_for()
    shown.evaluate("scrollTo(0, 0)")
    return picture(shown, "hall-phone")


def code_on_the_wall(page: Page) -> Image.Image:
    """The wall of the lesson with the code for helpers, and how many scores are in."""
    shows = page.get_by_label(say("lessons.wallShows"))
    if not shows.count():
        page.get_by_role("button", name=say("lessons.more"), exact=True).first.click()
    pick(shows, say("lessons.theHelpersCode"))
    wall = page.context.new_page()
    wall.goto(f"{page.url.partition('/hall')[0]}/projector")
    wall.get_by_test_id("code").wait_for()
    shown = picture(wall, "wall")
    wall.close()
    return shown


def on_the_floor(name: str, *shown: Image.Image, height: int = 800) -> None:
    """Pictures beside each other on the floor, as large as there is room."""
    floor = Image.new("RGB", (1280, height), "#e9eee8")
    room = (1280 - 16) // len(shown)
    for at, one in enumerate(shown):
        one.thumbnail((room - 16, height - 32))
        floor.paste(one, (16 + at * room + (room - 16 - one.width) // 2, 16))
    floor.save(FOLDER / f"{name}.png")


def picture(page: Page, name: str) -> Image.Image:
    page.evaluate("document.fonts.ready")
    # A lesson is followed by a stream that never ends.
    if "/lessons/" not in page.url and "/help" not in page.url:
        page.wait_for_load_state("networkidle")
    expect(page.locator("[data-loading]")).to_have_count(0)
    reason = not_fit(page)
    assert not reason or name in _MAY_SAY, f"{name}: {reason}"
    return Image.open(io.BytesIO(page.screenshot()))


def shoot(page: Page, name: str) -> None:
    picture(page, name).save(FOLDER / f"{name}.png")


if __name__ == "__main__":
    main()
