"""A lesson that is begun in a hall without network, with the browser killed in it: it is the
server's once there is one, with every score."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.support.fields import choose
from tests.support.messages import say
from tests.support.offline import open_page, tablet
from tests.support.served import Served, served, wait_for

BOUNCE = "Speed bounce in 30 s"


@pytest.fixture
def lauf(demo_template: str) -> Iterator[Served]:
    """A server of its own, that others do not miss when it is away."""
    with served(demo_template) as running:
        yield running


def type_scores(page: Page, first: int, scores: list[str]) -> None:
    for number, typed in enumerate(scores, first):
        expect(page.locator(f"#child-{number} input").first).to_be_focused()
        page.keyboard.type(typed)
        page.keyboard.press("Enter")


def test_a_lesson_begun_without_a_network_is_kept_whole(
    chromium: Browser, lauf: Served, tmp_path: Path
) -> None:
    with tablet(chromium, tmp_path / "tablet") as context:
        page = open_page(context, lauf.url)
        page.get_by_role("button", name="Robin Ashgrove").click()
        expect(page.get_by_test_id("ready")).to_contain_text("without a network: ")
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    rows = lauf.sql(
        "SELECT t.name FROM catalogue_test t JOIN catalogue_protocolversion v ON v.test_id = t.id"
        " JOIN lessons_activity a ON a.protocol_id = v.id JOIN lessons_lesson l ON"
        " l.id = a.lesson_id JOIN people_schoolclass c ON c.id = l.school_class_id WHERE"
        " c.name = '4 Heron' AND NOT t.private ORDER BY l.starts_at DESC, a.position LIMIT 1"
    )
    test = str(rows[0][0])
    lessons = lauf.sql("SELECT count(*) FROM lessons_lesson")
    lauf.stop()

    with tablet(chromium, tmp_path / "tablet") as context:
        page = open_page(context, f"{lauf.url}/lessons/new")
        choose(page.get_by_role("combobox", name=say("lessons.class")), "4 Heron")
        tests = page.get_by_role("combobox", name=say("lessons.testsInOrder"))
        choose(tests, BOUNCE if test != BOUNCE else "Press-ups in 60 s")
        choose(tests, test)
        begin = page.get_by_role("button", name=say("lessons.openLesson"))
        begin.click()
        # With two tests it cannot be: what can is said, and nothing that was chosen is lost.
        expect(page.get_by_role("alert")).to_contain_text(test)
        page.get_by_role("listitem").first.get_by_role("button").click()
        begin.click()
        expect(page.locator("#child-0 input").first).to_be_focused()
        type_scores(page, 0, ["11", "12", "13"])
        page.reload()
        expect(page.locator("#child-2 .score")).to_contain_text("13")
        lesson = page.url.partition("/lessons/")[2].partition("/")[0]
    # The battery was empty.
    with tablet(chromium, tmp_path / "tablet") as context:
        page = open_page(context, lauf.url)
        page.get_by_role("region", name=say("progress.begunHereNotSentYet")).get_by_role(
            "link"
        ).click()
        expect(page.locator("#child-2 .score")).to_contain_text("13")
        type_scores(page, 3, ["14"])
        expect(page.locator("#child-3 .score")).to_contain_text("14")
        lauf.start()
        page.evaluate("window.dispatchEvent(new Event('online'))")
        kept = wait_for(
            lambda: lauf.sql(
                "SELECT a.typed FROM records_attempt a JOIN lessons_activity c ON"
                " c.id = a.activity_id WHERE c.lesson_id = %s ORDER BY a.recorded_at",
                lesson,
            ),
            lambda found: len(found) == 4,
        )
        assert [typed for (typed,) in kept] == ["11", "12", "13", "14"]
        expect(page.locator("[data-state=waiting], [data-state=saving]")).to_have_count(0)
        page.goto(lauf.url)
        expect(page.get_by_text(say("progress.begunHereNotSentYet"))).to_have_count(0)
        expect(page.locator(f"a.lesson[href*='{lesson}']")).to_be_visible()
    assert lauf.sql("SELECT count(*) FROM lessons_lesson")[0][0] == lessons[0][0] + 1
