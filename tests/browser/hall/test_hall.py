"""Whole lessons in the hall: stations on two screens, a mile with laps, a
hold; each reloaded in the middle, and the database asked afterwards."""

from __future__ import annotations

import random
import re
from itertools import pairwise
from typing import Any

from playwright.sync_api import Page, expect

from tests.support.fields import pick
from tests.support.hall import by_one_clock, follow, skip_to
from tests.support.messages import say
from tests.support.plans import as_entry
from tests.support.served import Served, wait_for

MILE = "One-mile run on a measured course"
PLANK = "Plank to the limit"


def test_stations_on_two_screens(visit: Any, lauf: Served) -> None:
    lead, wall = (visit(viewport={"width": 1280, "height": 800}) for _ in range(2))
    for one in (lead, wall):
        one.hold_time()
        one.be()
    page, screen = lead.page, wall.page
    ((lesson, position),) = lauf.sql(
        "SELECT b.lesson_id, b.position FROM lessons_planblock b WHERE b.kind = 'stations'"
    )
    # A child who joined the class after the groups were made is put into one by hand.
    plan = lead.ask("GET", f"/api/lessons/{lesson}/plan")
    late = plan["blocks"][position]["entry"]["groups"]["members"][0].pop()
    entries = [as_entry(block) for block in plan["blocks"]]
    body = {"based_on": plan["revision"], "blocks": entries}
    lead.ask("PUT", f"/api/lessons/{lesson}/plan", body)
    page.goto(f"{lead.url}/lessons/{lesson}/plan")
    page.locator("li.block .title", has_text="work 4 ×").press("Enter")
    page.get_by_role("button", name="Move a child").press("Enter")
    new = page.locator(
        ".columns section", has=page.get_by_role("heading", name=say("lessons.newGroupsMade"))
    )
    pick(new.get_by_label(re.compile("^Group of ")), "Group 2")
    expect(new).to_have_count(0)
    expect(page.get_by_text(say("lessons.saved"))).to_be_visible()
    plan = lead.ask("GET", f"/api/lessons/{lesson}/plan")
    assert late in plan["blocks"][position]["entry"]["groups"]["members"][1]
    page.locator("li.block .title", has_text="work 4 ×").press("Enter")
    # Groups made anew by house, in the plan, by keyboard; then the cards.
    page.locator("li.block .title", has_text="work 4 ×").press("Enter")
    page.get_by_role("button", name="By house").press("Enter")
    expect(page.get_by_text("By house.")).to_be_visible()
    page.get_by_role("button", name="Move a child").press("Enter")
    mover = page.get_by_label(re.compile("^Group of ")).first
    moved = (mover.get_attribute("aria-label") or "").removeprefix("Group of ")
    pick(mover, "Elm")
    expect(page.get_by_text(say("lessons.groupsChangedByHand"))).to_be_visible()
    expect(page.get_by_text(say("lessons.saved"))).to_be_visible()
    page.locator("li.block .title", has_text="work 4 ×").press("Enter")
    page.get_by_role("link", name="Groups, rounds and cards").press("Enter")
    expect(page.locator(".groups section")).to_have_count(4)
    expect(page.locator(".groups section").nth(3)).to_contain_text(moved)
    page.emulate_media(media="print")
    expect(page.locator("article.card")).to_have_count(4)
    expect(page.locator("article.card").first).to_be_visible()
    page.emulate_media(media="screen")
    groups = [group.inner_text() for group in page.locator(".groups h3").all()]
    assert groups == ["Alder", "Birch", "Cedar", "Elm"]

    screen.goto(f"{wall.url}/lessons/{lesson}/projector")
    page.get_by_role("link", name="Hall", exact=True).press("Enter")
    expect(page.get_by_role("button", name="Start the lesson")).to_be_visible()
    page.locator("body").press("Space")
    skip_to(page, "Stations")
    follow(page)
    page.keyboard.press("ArrowRight")
    rounds = []
    for number in range(1, 5):
        expect(page.get_by_test_id("now")).to_contain_text(f"Round {number} of 4")
        expect(screen.get_by_test_id("now")).to_contain_text(f"Round {number} of 4")
        shown = page.get_by_test_id("round").inner_text()
        expect(screen.get_by_test_id("round")).to_have_text(re.compile("Alder"))
        assert screen.get_by_test_id("round").inner_text() == shown, "the wall shows the same"
        rounds.append(shown.split("\n"))
        if number == 2:
            page.reload()
            screen.reload()
            expect(page.get_by_test_id("now")).to_contain_text("Round 2 of 4")
            expect(screen.get_by_test_id("now")).to_contain_text("Round 2 of 4")
        if number == 3:
            # One station is swapped on the spot; the wall hears of it too.
            page.keyboard.press("s")
            expect(page.get_by_label(say("lessons.whatToDoFromNowOn"))).to_be_focused()
            pick(page.get_by_label("Station"), "skipping")
            page.get_by_label(say("lessons.whatToDoFromNowOn")).fill("hopping")
            page.keyboard.press("Enter")
            expect(page.get_by_test_id("round")).to_contain_text("hopping")
            expect(screen.get_by_test_id("round")).to_contain_text("hopping")
        if number < 4:
            page.keyboard.press("ArrowRight")  # to moving on
            expect(page.get_by_test_id("now")).to_contain_text("Move on")
            page.keyboard.press("ArrowRight")
    for place, group in enumerate(groups):
        been = {lines[2 * place + 1].replace("hopping", "skipping") for lines in rounds}
        assert len(been) == 4, f"{group} was at every station once"

    # No name is on the wall before it was chosen, and confirmed.
    names = [row[0] for row in lauf.sql(
        "SELECT u.given_name FROM people_pupil u JOIN lessons_lesson l "
        "ON l.school_class_id = u.school_class_id WHERE l.id = %s", lesson)]  # fmt: skip
    assert not any(name in screen.locator("main").inner_text() for name in names)
    page.get_by_role("button", name="More", exact=True).press("Enter")
    pick(page.get_by_label(say("lessons.wallShows")), say("lessons.namesToo"))
    page.get_by_role("alertdialog").get_by_role("button", name=say("lessons.show")).press("Enter")
    expect(screen.get_by_test_id("round")).to_contain_text(names[0])
    pick(page.get_by_label(say("lessons.wallShows")), say("lessons.theClock"))
    expect(screen.get_by_test_id("round")).not_to_contain_text(names[0])
    assert position is not None
    expect(page.get_by_text("not sent yet")).to_have_count(0)
    page.get_by_text("What was done").click()
    expect(page.get_by_text("hopping instead of skipping").first).to_be_visible()


def test_a_mile_of_twelve_laps_for_thirty_with_five_wrong_taps(visit: Any, lauf: Served) -> None:
    """Five taps a second at most, as the class comes in close together."""
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.hold_time()
    one.be()
    lesson, activities = one.lesson("5 Kestrel", MILE)
    twelve_laps(one, activities[MILE])
    page.goto(f"{one.url}/lessons/{lesson}/tap?activity={activities[MILE]}")
    expect(page.get_by_label("Laps")).to_have_value("12")
    by_one_clock(page).click()
    tiles = page.locator("button.tile")
    expect(tiles).to_have_count(30)
    chance = random.Random("thirty on the line")
    wrong = set(chance.sample(range(30, 300), 5))
    expected: dict[int, list[int]] = {child: [] for child in range(30)}
    at, taps = 0, 0
    for lap in range(12):
        order = list(range(30))
        chance.shuffle(order)
        at += 25_000
        for child in order:
            at += 200
            one.ahead(at)
            if taps in wrong:  # the neighbour first, undone at once by key
                tap(page, (child + 1) % 30)
                page.keyboard.press("Control+z")
            tap(page, child)
            taps += 1
            expected[child].append(at)
        if lap == 5:
            page.reload()
            expect(tiles).to_have_count(30)
            expect(page.locator(".lap").first).to_contain_text(re.compile(r"6 / 12, 6 to go"))
    expect(page.get_by_test_id("going")).to_have_text("0 going")
    expect(page.locator("[data-state=saved]")).to_have_count(30)
    kept = lauf.sql(
        "SELECT a.value, a.parts->'splits' FROM records_attempt a "
        "JOIN people_pupil u ON u.id = a.pupil_id WHERE a.activity_id = %s "
        "AND NOT EXISTS (SELECT 1 FROM records_attempt l WHERE l.succeeds_id = a.id) "
        "ORDER BY u.given_name, u.family_name, u.id",
        activities[MILE],
    )
    # The mile's protocol counts whole seconds.
    rounded = [[(ms + 500) // 1000 * 1000 for ms in expected[child]] for child in range(30)]
    assert [(row[0], row[1]) for row in kept] == [(laps[-1], laps) for laps in rounded]


def twelve_laps(one: Any, activity: str) -> None:
    """A course on which a mile is twelve laps."""
    conditions = {"course_mm": 134_112}
    one.ask("PUT", f"/api/activities/{activity}/conditions", {"conditions": conditions})


def tap(page: Page, child: int) -> None:
    """As fast as a thumb; the locator's own waiting would take longer than five taps a second."""
    page.evaluate("place => document.querySelectorAll('button.tile')[place].click()", child)


def test_thirty_let_go_within_twenty_seconds(visit: Any, lauf: Served) -> None:
    """The time of a press is the press's own, however many come within seconds."""
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    page.add_init_script(
        """const start = Date.now();
        window.laufTimeSource = () => start + (Date.now() - start) * 4;
        window.press = (button) => {
            const before = window.laufTimeSource();
            button.click();
            return [before, window.laufTimeSource()];
        };"""
    )
    one.be()
    lesson, activities = one.lesson("5 Kestrel", PLANK)
    page.goto(f"{one.url}/lessons/{lesson}/tap?activity={activities[PLANK]}")
    started = by_one_clock(page).evaluate("window.press")
    tiles = page.locator("button.tile")
    expect(tiles).to_have_count(30)
    tapped = page.evaluate(
        """() => new Promise((done) => {
            const tiles = [...document.querySelectorAll("button.tile")];
            let place = 0;
            const pressed = [];
            const next = () => {
                if (place === tiles.length) return done(pressed);
                pressed.push(window.press(tiles[place++]));
                setTimeout(next, 40 + (place * 53) % 110);
            };
            next();
        })"""
    )
    expect(page.locator("[data-state=saved]")).to_have_count(30)
    assert len(tapped) == 30
    kept = lauf.sql(
        "SELECT a.value FROM records_attempt a JOIN people_pupil u ON u.id = a.pupil_id "
        "WHERE a.activity_id = %s ORDER BY u.given_name, u.family_name, u.id",
        activities[PLANK],
    )
    for (value,), (before, after) in zip(kept, tapped, strict=True):
        # Between the press and its end, to the tenth that is kept.
        assert before - started[1] - 100 <= value <= after - started[0] + 100


def test_the_gate_takes_laps_and_the_belts_pulses_and_their_troubles_are_caught(
    visit: Any, lauf: Served
) -> None:
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.hold_time()
    one.be()
    lesson, activities = one.lesson("5 Kestrel", MILE)
    twelve_laps(one, activities[MILE])
    page.goto(f"{one.url}/lessons/{lesson}/tap?activity={activities[MILE]}")
    expect(page.get_by_label("Laps")).to_have_value("12")
    by_one_clock(page).click()
    pick(page.get_by_label("How the simulated gate behaves"), say("sheet.someRepeatAPassage"))
    page.get_by_role("button", name="Gate on").click()
    one.ahead(700_000)
    expect(page.get_by_test_id("going")).to_have_text("0 going")
    expect(page.get_by_text("left out:")).to_contain_text("sent twice")
    expect(page.locator("[data-state=saved]")).to_have_count(30)
    kept = lauf.sql(
        "SELECT a.parts->'splits' FROM records_attempt a WHERE a.activity_id = %s",
        activities[MILE],
    )
    assert len(kept) == 30
    for (splits,) in kept:
        # Laps of half a minute, each its own: a passage sent twice is no lap.
        assert len(splits) == 12
        assert all(later - lap > 20_000 for lap, later in pairwise(splits))

    page.goto(f"{one.url}/lessons/{lesson}/pulse")
    page.get_by_role("button", name="Belts").click()
    expect(page.get_by_text("Belts: 30 of 30")).to_be_visible()
    pick(page.get_by_label("How the simulated belts behave"), say("sheet.someCountEverySecondBeat"))
    expect(page.get_by_text("its beats make").first).to_be_visible()
    page.get_by_role("button", name=re.compile("Take 24 pulses now")).click()
    taken = "SELECT beats, seconds FROM records_pulsereading WHERE lesson_id = %s AND beats > 0"
    rows = wait_for(lambda: lauf.sql(taken, lesson), lambda found: len(found) == 24)
    assert {row[1] for row in rows} == {60} and all(60 < row[0] < 120 for row in rows)


def test_start_says_that_it_waits_and_begins_once_without_an_answer(
    visit: Any, lauf: Served
) -> None:
    """The plan is asked for once more at Start; a class does not wait for a server that is slow."""
    one = visit(viewport={"width": 1280, "height": 800})
    page: Page = one.page
    one.be()
    lesson, _ = one.lesson("4 Heron", "Star jumps in 30 s")
    page.goto(f"{one.url}/lessons/{lesson}/hall")
    start = page.get_by_role("button", name="Start the lesson")
    expect(start).to_be_visible()
    page.route(re.compile(r"/timeline\?fresh"), lambda _: None)  # never answered
    start.click()
    page.get_by_role("button", name=say("lessons.starting")).click()
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Pause", exact=True)).to_be_visible()
    page.keyboard.press("Space")
    expect(page.get_by_test_id("paused")).to_be_visible()
    sent = "SELECT revision FROM lessons_conduct WHERE lesson_id = %s"
    assert wait_for(lambda: lauf.sql(sent, lesson), lambda rows: rows == [(2,)]) == [(2,)]
