"""The ways of taking scores as the model of hands uses them: a lesson each, all of it typed or
tapped."""

from __future__ import annotations

import re
from collections import Counter
from typing import Any, Final

from playwright.sync_api import Page, expect

from tests.support.fields import pick
from tests.support.hall import by_one_clock
from tests.support.hands import DOUBLE, Hands, Sheet, check, type_from_paper
from tests.support.messages import say
from tests.support.served import Served

PRESS_UPS: Final = "Press-ups in 60 s"
TARGET: Final = "240 in 25 minutes"
LONG_JUMP: Final = "Standing long jump"
PLANK: Final = "Plank to the limit"
RUN: Final = "20 m shuttle run, even steps from 8.5 km/h"

#: A way that is typed in: its test, its address, where its cell says whose it is.
_CELLS: Final[dict[str, tuple[str, str, str]]] = {
    "list": (PRESS_UPS, "list?activity=%s", r"Score of (.+)"),
    "partner": (PRESS_UPS, "partner?activity=%s", r"Score of (.+)"),
    "measure": (LONG_JUMP, "measure?activity=%s", ""),
    "target": (TARGET, "target?activity=%s", r"Reps of (.+)"),
    "grid": (PRESS_UPS, "grid", rf"{PRESS_UPS} of (.+)"),
    "pulse": (PRESS_UPS, "pulse", r"Beats of (.+), .+"),
}
TYPED: Final = tuple(_CELLS)
TAPPED: Final = ("tap", "tally", "beeps")
#: One try each: the paper has one number a child.
_OPEN: Final = ".child.open .name, tr:has(.open) .name, tr.open th, .turns .open, .everybody .open"

_ATTEMPTS: Final = """
    SELECT u.given_name || ' ' || u.family_name, a.typed
    FROM records_attempt a JOIN people_pupil u ON u.id = a.pupil_id
    WHERE a.activity_id = %s AND coalesce(a.reason, '') <> 'withdrawn'
      AND NOT EXISTS (SELECT 1 FROM records_attempt l WHERE l.succeeds_id = a.id)
"""
_PULSES: Final = """
    SELECT u.given_name || ' ' || u.family_name, p.typed
    FROM records_pulsereading p JOIN people_pupil u ON u.id = p.pupil_id
    WHERE p.lesson_id = %s AND coalesce(p.reason, '') <> 'withdrawn'
      AND NOT EXISTS (SELECT 1 FROM records_pulsereading l WHERE l.succeeds_id = p.id)
"""


def type_a_lesson(one: Any, lauf: Served, hands: Hands, way: str, *, refused: float) -> None:
    """A whole class typed in a new lesson; what went wrong stands in the hands' tally."""
    test, address, names = _CELLS[way]
    lesson, activities = one.lesson("4 Heron", test, LONG_JUMP if test != LONG_JUMP else PRESS_UPS)
    page: Page = one.page
    page.unroute_all()
    hands.some_are_refused(refused)
    page.goto(f"{one.url}/lessons/{lesson}/{address.replace('%s', activities[test])}")
    expect(page.locator("input[data-cell]")).to_be_focused()

    def at() -> str:
        cell = page.locator("input[data-cell]")
        if not cell.count():
            return ""
        if way == "measure":
            name = page.get_by_test_id("child").inner_text().split("✚")[0].strip()
            return f"{name}#{_label(page).split()[1].strip(',')}"
        found = re.fullmatch(names, cell.get_attribute("aria-label") or _label(page))
        # The next test of the battery is not on this paper.
        return found.group(1) if found else ""

    order = _order(page, way)
    base = 110 if way == "measure" else 11
    value = {name: str(base + place) for place, name in enumerate(sorted(order))}
    if way == "measure":
        # Three tries a child: the same jump in each, so that one number names the child.
        order = [f"{name}#{number}" for name in order for number in (1, 2, 3)]
    sheet = Sheet(order, value, at, slip=lambda text: f"{text}x" if way == "target" else "9" * 5)
    type_from_paper(hands, sheet)
    asked = _PULSES if way == "pulse" else _ATTEMPTS
    rows = lauf.sql(asked, lesson if way == "pulse" else activities[test])
    check(hands, sheet, rows, page.locator(_OPEN).all_inner_texts())


def _label(page: Page) -> str:
    """The words of the label that the cell stands in."""
    return page.locator(".labelled:has(> input[data-cell])").inner_text().strip()


def _order(page: Page, way: str) -> list[str]:
    """The children in the order in which the typing goes through them."""
    where = {
        "list": ".child .name",
        "partner": ".turns li span:first-child",
        "measure": ".everybody button",
        "target": "tbody th",
        "grid": "tbody th",
        "pulse": "tbody th",
    }[way]
    found = page.locator(where).all_inner_texts()
    return [re.split(r"[✚⊘\n]", name)[0].strip() for name in found]


def tap_a_lesson(one: Any, lauf: Served, hands: Hands, way: str, *, refused: float) -> None:
    """A whole class tapped where its tiles were before the first tap."""
    test = {"tap": PLANK, "tally": PRESS_UPS, "beeps": RUN}[way]
    lesson, activities = one.lesson("4 Heron", test, LONG_JUMP)
    page: Page = one.page
    page.unroute_all()
    hands.some_are_refused(refused)
    page.goto(f"{one.url}/lessons/{lesson}/{way}?activity={activities[test]}")
    {"tap": _tap, "tally": _count, "beeps": _miss}[way](hands, page)
    rows = [tuple(row) for row in lauf.sql(_ATTEMPTS, activities[test])]
    kept = {name for name, _ in rows}
    open_names = page.locator(".tiles li:has([data-state=refused])").all_inner_texts()
    for name, meant in hands.meant.items():
        said = any(name in " ".join(one.split()) for one in open_names)
        if name not in kept and not said:
            hands.tally.wrong.append(f"{name}: nothing kept, and nothing said")
        if meant and (name, meant) not in rows and not said:
            hands.tally.wrong.append(f"{name}: {dict(rows).get(name)} kept, {meant} meant")
    for name in kept - set(hands.meant):
        hands.tally.wrong.append(f"{name}: kept, and never tapped")


def _middles(page: Page, selector: str) -> dict[str, tuple[float, float]]:
    found = {}
    for tile in page.locator(selector).all():
        box = tile.bounding_box()
        name = " ".join(tile.locator(".name").inner_text().replace("✚", " ").split())
        name = re.sub(r"^\d+ |medical note:.*?(?= [A-Z]\w+ [A-Z]\w+$)", "", name).strip()
        assert box
        found[" ".join(name.split()[-2:])] = (box["x"] + box["width"] / 2, box["y"] + 20)
    return found


def _press(hands: Hands, at: tuple[float, float]) -> None:
    hands.page.mouse.click(*at)
    hands.tally.taps += 1
    if hands.chance.random() < DOUBLE:
        hands.pause(80, 200)
        hands.page.mouse.click(*at)
    hands.pause()


def _in_view(page: Page, at: tuple[float, float]) -> bool:
    box = page.locator(".way").bounding_box()
    return bool(box and box["y"] < at[1] < box["y"] + box["height"])


def _tap(hands: Hands, page: Page) -> None:
    by_one_clock(page).click()
    expect(page.get_by_role("button", name=say("sheet.unknownChild"))).to_be_visible()
    page.evaluate("document.fonts.ready")
    tiles = _middles(page, ".tile")
    hands.meant = {}
    order = [name for name, at in tiles.items() if _in_view(page, at)]
    hands.chance.shuffle(order)
    for name in order:
        if hands.chance.random() < 0.1:
            page.get_by_role(
                "button", name=say("sheet.unknownChild")
            ).click()  # a question opens, and stays
        _press(hands, tiles[name])
        hands.meant[name] = ""
    expect(page.locator("[data-state=saving], [data-state=waiting]")).to_have_count(0)
    done = page.locator(".tiles li.done").count()
    if done != len(order):
        hands.tally.wrong.append(f"{done} are done, {len(order)} were tapped")


def _count(hands: Hands, page: Page) -> None:
    expect(page.locator(".area")).to_have_count(6)
    page.evaluate("document.fonts.ready")
    areas = _middles(page, ".area")
    counted: Counter[str] = Counter()
    for _ in range(40):
        name = hands.chance.choice(list(areas))
        page.mouse.click(*areas[name])
        hands.tally.taps += 1
        counted[name] += 1
        hands.pause()
    page.get_by_role("button", name=say("sheet.saveThese")).click()
    expect(page.get_by_role("button", name=say("sheet.saveThese"))).to_be_disabled()
    expect(page.locator(".unsent", has_text="not sent yet")).to_have_count(0)
    hands.meant = {name: str(number) for name, number in counted.items()}
    # What was not taken of them is asked about: it is on this device and told.
    refused = page.locator(".message.asks")
    while refused.count():
        right = refused.get_by_role("button", name="It is right")
        if right.count():
            right.click()
        else:
            said = refused.get_by_test_id("problem").inner_text().partition(":")[0]
            hands.meant.pop(said, None)
            page.get_by_role("button", name=say("app.discard")).click()
        hands.tally.asked += 1
        hands.pause()


def _miss(hands: Hands, page: Page) -> None:
    pick(page.get_by_label(say("sheet.whoGoesWithThisClock")), say("sheet.everyone"))
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_role("button", name=say("sheet.stopAll"))).to_be_visible()
    page.evaluate("document.fonts.ready")
    hands.meant = {}
    stops = page.get_by_role("button", name=re.compile(" stops$"))
    while not stops.count():  # 5 s to toe the line
        hands.pause(900, 900)
        page.wait_for_timeout(100)
    tiles = {}
    for button in stops.all():
        box = button.bounding_box()
        assert box
        name = (button.get_attribute("aria-label") or "").removesuffix(" stops")
        tiles[name] = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    order = [name for name, at in tiles.items() if _in_view(page, at)]
    hands.chance.shuffle(order)
    hands.pause(1000, 1000)
    for name in order:
        page.mouse.click(*tiles[name])
        hands.tally.taps += 1
        hands.meant[name] = ""
        hands.pause()
    expect(page.locator("[data-state=saving], [data-state=waiting]")).to_have_count(0)
