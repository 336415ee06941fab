"""How much a newcomer has to do, counted: everything pressed or chosen beyond digits and Enter."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page, expect

from tests.support.hall import cell, follow, rail
from tests.support.messages import say
from tests.support.newcomer import Newcomer
from tests.support.served import Served, wait_for

TESTS = ("Star jumps in 30 s", "Speed bounce in 30 s", "Shuttles in 30 s")
CLASS = 28
CHILDREN = 3


def lesson_of_three_tests(one: Any, *, pulses: bool) -> Newcomer:
    """From Today to Results; the clock is put forward where a teacher would wait."""
    page: Page = one.page
    who = Newcomer(page)
    who.press("link", "New lesson")
    who.choose("Class", "4 Heron")
    for test in TESTS:
        who.choose(say("challenges.testsInOrder"), test)
    page.keyboard.press("Escape")
    expect(page.locator(".v-overlay--active")).to_have_count(0)
    if pulses:
        who.actions += 1
        page.get_by_label(say("lessons.withAPulseCountAtRest")).check()
    who.press("button", say("lessons.openLesson"))
    expect(page.get_by_role("button", name="Start the lesson")).to_be_visible()
    who.space()
    expect(page.get_by_role("button", name="Start the lesson")).to_have_count(0)
    ahead, left = 0, ["rest", *TESTS] if pulses else [*TESTS]
    while not ("Well done" in (hall := look(page))["now"] or "The end" in hall["now"]):
        if hall["waiting"]:
            # Before the second wave the scores of the first are taken.
            if left and left[0] in hall["block"] and "wave 2" in hall["strip"]:
                who.enter(CHILDREN)
                left.pop(0)
            who.space()
            expect(page.get_by_test_id("waiting")).to_have_count(0)
        elif "Pulse" in hall["block"] and "Write" in hall["now"]:
            who.actions += follow(page)
            expect(page.locator("input.beats")).to_be_focused()
            # Of the whole class: the clock waits for everybody's, and then goes on by itself.
            who.type_in(*(str(14 + number % 5) for number in range(CLASS)))
            left = left[1:] if left else left
            ahead += 60_000
            one.ahead(ahead)
            expect(page.get_by_test_id("now")).not_to_contain_text("Write")
        else:
            ahead += 8_000
            one.ahead(ahead)
            page.evaluate("() => new Promise((done) => requestAnimationFrame(() => done()))")
    who.press("link", "Results")
    expect(page.get_by_test_id("missing")).to_be_visible()
    return who


def look(page: Page) -> dict[str, str]:
    """What the hall says, all of it at one moment: "" for what is not there."""
    names = ["now", "block", "strip", "waiting"]
    text = "document.querySelector(`[data-testid=${name}]`)?.innerText ?? ''"
    found: dict[str, str] = page.evaluate(
        f"(names) => Object.fromEntries(names.map((name) => [name, {text}]))", names
    )
    return found


SCORES = """
    SELECT count(*) FROM records_attempt a JOIN lessons_activity t ON t.id = a.activity_id
    WHERE t.lesson_id = %s
"""
PULSES = "SELECT count(*) FROM records_pulsereading WHERE lesson_id = %s"


def kept(one: Any, lauf: Served, query: str, number: int) -> None:
    lesson = one.page.url.split("/lessons/")[1].split("/")[0]
    wait_for(lambda: lauf.sql(query, lesson)[0][0], lambda found: found == number)


def test_a_lesson_of_three_tests_and_two_pulses_takes_sixteen_actions(
    visit: Any, lauf: Served
) -> None:
    """Eight to plan it and open its results; one go for each of two waves of each test; one to
    come from the last list to the pulses."""
    one = visit(viewport={"width": 1280, "height": 800})
    one.hold_time()
    one.sign_in()
    who = lesson_of_three_tests(one, pulses=True)
    kept(one, lauf, SCORES, CHILDREN * len(TESTS))
    kept(one, lauf, PULSES, CLASS * 2)
    assert who.actions <= 16


def test_three_tests_without_a_plan_take_thirteen_actions(visit: Any, lauf: Served) -> None:
    """The first go is the start itself."""
    one = visit(viewport={"width": 1280, "height": 800})
    one.hold_time()
    one.sign_in()
    who = lesson_of_three_tests(one, pulses=False)
    kept(one, lauf, SCORES, CHILDREN * len(TESTS))
    assert who.actions <= 13


def test_a_first_judged_score_is_five_actions_from_the_door(visit: Any, lauf: Served) -> None:
    """Who one is, the lesson of now, its test, a number and Enter; eight are the most allowed."""
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    who = Newcomer(page)
    page.goto(one.url)
    who.act(page.get_by_role("button", name=re.compile("Robin Ashgrove")))
    who.act(page.locator("a.lesson", has_text="4 Heron"))
    who.act(rail(page, "Press-ups"))
    expect(cell(page)).to_be_focused()
    who.type_in("18")
    expect(page.locator("#child-0 .words")).to_contain_text("line")
    assert who.actions + 2 == 5


def test_the_page_that_was_asked_for_opens_after_signing_in_and_no_other_host(
    visit: Any, lauf: Served
) -> None:
    one = visit()
    page: Page = one.page

    def sign_in() -> None:
        expect(page.get_by_label("User name")).to_be_focused()
        page.get_by_role("button", name="Robin Ashgrove").click()

    page.goto(f"{one.url}/classes")
    sign_in()
    expect(page).to_have_url(f"{one.url}/classes")
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_label("User name")).to_be_visible()
    page.goto(f"{one.url}/sign-in?to=//elsewhere.example/classes")
    sign_in()
    expect(page).to_have_url(f"{one.url}/")
