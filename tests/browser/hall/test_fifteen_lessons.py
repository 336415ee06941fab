"""A whole lesson of every kind of test, by keyboard and by touch, from Today to its results: what
has to be pressed or chosen beyond the scores themselves is counted."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Final

import pytest
from playwright.sync_api import Page, expect

from tests.support.hall import rail
from tests.support.messages import say
from tests.support.newcomer import Fingers, Newcomer
from tests.support.served import Served, wait_for

JUMP: Final = "Standing long jump"
REACH: Final = "Sit and reach at the wall"


@dataclass(frozen=True)
class Kind:
    """A kind of test; its lesson is planned, run, and its scores of three children are taken."""

    tests: tuple[str, ...]
    scores: Callable[[Any, Newcomer], None]
    #: Pressed or chosen beyond the scores, by keyboard and by touch.
    keys: int
    touches: int
    who: str = "demo"
    kept: int = 3


def typed(*scores: str, waves: int = 0) -> Callable[[Any, Newcomer], None]:
    """Typed down the list; where the test goes in waves, after the clock of each."""

    def take(one: Any, who: Newcomer) -> None:
        page: Page = one.page
        if waves:
            one.ahead(80_000)
            expect(page.get_by_test_id("waiting")).to_be_visible()
        expect(page.locator("input.field:focus, input[data-cell]:focus")).to_be_visible()
        who.type_in(*scores)
        for wave in range(1, waves):
            who.go()
            expect(page.get_by_test_id("waiting")).to_have_count(0)
            one.ahead(80_000 * (wave + 1) + 80_000)
            expect(page.get_by_test_id("now")).to_contain_text("The end")

    return take


def tapped(ahead: int, within: str = ".tile") -> Callable[[Any, Newcomer], None]:
    """Three tiles, or three numbers, as the forms go or the line is crossed."""

    def take(one: Any, who: Newcomer) -> None:
        page: Page = one.page
        expect(page.locator(".tile").nth(2)).to_be_visible()
        one.ahead(ahead)
        expect(page.locator(f"{within}:enabled").nth(2)).to_be_visible()
        who.pick(within, 3)

    return take


def in_a_table(one: Any, who: Newcomer) -> None:
    page: Page = one.page
    who.act(rail(page, "All tests"))
    expect(page.locator("input[data-cell]")).to_be_focused()
    who.type_in("120", "121", "122")
    who.cell(0, 1)
    who.type_in("-4", "-5", "-6")


def grown(one: Any, who: Newcomer) -> None:
    """Each a centimetre taller than last time, as a child is."""
    heights = """
        SELECT max(a.value) FROM records_attempt a JOIN people_pupil u ON u.id = a.pupil_id
        JOIN catalogue_protocolversion p ON p.id = a.protocol_id
        JOIN catalogue_test t ON t.id = p.test_id
        WHERE u.given_name || ' ' || u.family_name = %s AND t.slug = 'height'
    """
    children = one.page.locator(".everybody button")
    expect(children.nth(3)).to_be_visible()
    names = [name.strip() for name in children.all_inner_texts()[:3]]
    typed(*(f"{one.lauf.sql(heights, name)[0][0] // 10 + 1}" for name in names))(one, who)


KINDS: Final = {
    "reps against the clock": Kind(("Press-ups in 60 s",), typed("14", "15", "16", waves=2), 7, 9),
    "reps in a row": Kind(("Press-ups in a row",), typed("14", "15", "16"), 6, 8),
    "held": Kind(("Plank to 30 s",), tapped(12_000), 6, 8),
    "rounds": Kind(("18-12-6 of two movements",), tapped(150_000), 6, 8),
    "mile": Kind(("Mile run in laps",), tapped(500_000), 6, 8, kept=0),
    "shuttles": Kind(("Shuttles in 30 s",), typed("14", "15", "16", waves=2), 7, 9),
    "distance": Kind((JUMP,), typed("120", "121", "122"), 6, 8),
    "two marks": Kind(("Vertical jump, two marks",), typed("150", "170", "171", "172"), 6, 8),
    "sit and reach": Kind((REACH,), typed("-4", "-5", "-6"), 6, 8),
    "sides": Kind(("Shoulder reach, both sides",), typed("both", "left only", "right only"), 6, 8),
    "hits": Kind(("Ten underarm shots at a box",), typed("4", "5", "6"), 6, 8),
    "total": Kind(("240 in 25 minutes",), typed("14", "15", "16"), 6, 8),
    "stages": Kind(
        ("20 m shuttle run, even steps from 8.5 km/h",), tapped(40_000, ".after .v-btn"), 6, 8
    ),
    "growth": Kind(("Height",), grown, 6, 8, who="head"),
    "all tests": Kind((JUMP, REACH), in_a_table, 9, 12, kept=6),
}
SCORES: Final = """
    SELECT count(*) FROM records_attempt a JOIN lessons_activity t ON t.id = a.activity_id
    WHERE t.lesson_id = %s
"""


@pytest.mark.parametrize("touch", [False, True], ids=["keyboard", "touch"])
@pytest.mark.parametrize("name", KINDS)
def test_a_whole_lesson_takes_few_actions(visit: Any, lauf: Served, name: str, touch: bool) -> None:
    kind = KINDS[name]
    size = {"width": 800, "height": 1280} if touch else {"width": 1280, "height": 800}
    one = visit(viewport=size, has_touch=touch, is_mobile=touch)
    one.hold_time()
    one.sign_in(kind.who)
    page: Page = one.page
    who = (Fingers if touch else Newcomer)(page)
    who.press("link", "New lesson")
    who.choose("Class", "4 Heron")
    for test in kind.tests:
        who.choose(say("challenges.testsInOrder"), test)
    page.keyboard.press("Escape")
    expect(page.locator(".v-overlay--active")).to_have_count(0)
    who.press("button", say("lessons.openLesson"))
    main = page.get_by_test_id("strip").locator(".v-btn.bg-primary")
    expect(main).to_have_text(re.compile(r"^\s*Start"))
    who.go()
    expect(main.get_by_text(re.compile(r"^\s*Start"))).to_have_count(0)
    kind.scores(one, who)
    lesson = page.url.split("/lessons/")[1].split("/")[0]
    found = wait_for(lambda: lauf.sql(SCORES, lesson)[0][0], lambda number: number == kind.kept)
    assert found == kind.kept
    who.press("link", "Results")
    expect(page.get_by_test_id("missing")).to_be_visible()
    assert who.actions == (kind.touches if touch else kind.keys)
