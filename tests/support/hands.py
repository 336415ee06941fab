"""A model of hands in the hall: somebody who types on from a paper list and taps where the tiles
were, while questions and refusals come: 80 to 600 ms between two presses, by the page's own clock.

What a child did is 10 more than its place in the class: an entry kept for anybody else shows.
"""

from __future__ import annotations

import json
import random
import re
import time
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field

from playwright.sync_api import Page, Route, expect

#: What the page takes for the time between two presses is what the hands let pass, however busy the
#: machine is; its network and its timers go on as they do.
CLOCK = "window.laufHands = 1e6; performance.now = () => window.laufHands;"
#: Keys that a hand which does not look presses by mistake and takes back at once.
SLIPS = 0.03
#: Enter twice: the second must do nothing.
DOUBLE = 0.03


@dataclass
class Tally:
    """What the hands did, and what went wrong."""

    typed: int = 0
    taps: int = 0
    held: int = 0
    asked: int = 0
    wrong: list[str] = field(default_factory=list)

    def add(self, other: Tally) -> None:
        self.typed += other.typed
        self.taps += other.taps
        self.held += other.held
        self.asked += other.asked
        self.wrong += other.wrong


class Hands:
    """One pair of hands at one page; `seed` names what they do."""

    def __init__(self, page: Page, seed: int, *, faster: int = 20) -> None:
        """`faster`: how much shorter than the hands' pauses the real ones are."""
        self.page, self.chance, self._faster = page, random.Random(seed), faster
        self.tally = Tally()
        self._refuse = 0.0
        #: Every press, and what the screen said when it was looked at.
        self.log: list[str] = []
        #: By taps: who was tapped, and what is to be kept where the taps say it.
        self.meant: dict[str, str] = {}
        page.add_init_script(CLOCK)

    def pause(self, least: float = 80, most: float = 600) -> None:
        ms = self.chance.uniform(least, most)
        time.sleep(ms / 1000 / self._faster)
        # What is answered in the browser's name is, meanwhile.
        self.page.evaluate(f"window.laufHands += {ms}")

    def some_are_refused(self, share: float) -> None:
        """So many of the entries are refused, some time after they were typed."""
        self._refuse = share
        self.page.route(re.compile(r"/(attempts|pulses)$"), self._answer)

    def _answer(self, route: Route) -> None:
        if route.request.method != "POST" or self.chance.random() >= self._refuse:
            route.continue_()
            return
        said = {"message": "The hall says no.", "accepted": "Type it again.", "choices": []}
        route.fulfill(status=422, content_type="application/json", body=json.dumps(said))

    def key(self, key: str) -> None:
        self.log.append(key)
        self.page.keyboard.press(key)
        self.pause()

    def enter(self) -> None:
        self.log.append("⏎")
        self.page.keyboard.press("Enter")
        if self.chance.random() < DOUBLE:
            self.log.append("⏎ again")
            self.pause(80, 200)
            self.page.keyboard.press("Enter")
        self.pause()

    def number(self, text: str) -> None:
        """A number by its digits and Enter, with a slip now and then."""
        if self.chance.random() < SLIPS:
            self.key("9")
            self.key("Backspace")
        for digit in text:
            self.key(digit)
        self.enter()
        self.tally.typed += 1


@dataclass
class Sheet:
    """A way that is typed in, as the hands see it."""

    #: Subject is typed, in the order of the paper, and what for each.
    order: list[str]
    value: dict[str, str]
    #: The child the typing is at; "" for nobody.
    at: Callable[[], str]
    #: The same entry made impossible, as a slip of the hand makes it.
    slip: Callable[[str], str]


def type_from_paper(hands: Hands, sheet: Sheet) -> None:
    """The paper from top to bottom. Who hears that something is asked types some entries more
    before looking up; then it is answered by a key, and the hands go on where the screen says."""
    page, chance = hands.page, hands.chance
    asks = page.locator(".message.asks")
    place = 0
    bad: set[int] = set()
    blind = 0
    while place < len(sheet.order):
        text = sheet.value[child_of(sheet.order[place])]
        if place not in bad and chance.random() < 0.08:
            text = sheet.slip(text)
            bad.add(place)
        hands.number(text)
        place += 1
        if not asks.count():
            blind = 0
            continue
        blind += 1
        if blind <= chance.randrange(4):
            continue
        blind = 0
        place = _answer_all(hands, sheet, place)
    for _ in range(3):  # the last answers may still be on their way
        expect(page.locator("[data-state=saving], [data-state=waiting]")).to_have_count(0)
        if asks.count():
            _answer_all(hands, sheet, place)


def _answer_all(hands: Hands, sheet: Sheet, place: int) -> int:
    """Look up and answer; where on the paper the hands go on."""
    page, chance, tally = hands.page, hands.chance, hands.tally
    asks = page.locator(".message.asks")
    for _ in range(40):
        hands.pause(750, 1500)
        if not asks.count():
            break
        text = asks.inner_text()
        said = asks.get_by_test_id("problem").inner_text()
        tally.asked += 1
        hands.log.append(f"[{' '.join(text.split())}] at {sheet.at()}")
        if asks.get_by_test_id("held").count():
            tally.held += 1
        if asks.get_by_role("button", name="It is right").count():
            hands.key("!")
        elif "Not saved yet" in said or chance.random() < 0.25:
            hands.key(">")
        else:
            name = said.partition(":")[0]
            hands.key("<")
            if child_of(sheet.at()) != name:
                tally.wrong.append(f"corrected {sheet.at()} instead of {name}: {text}")
            hands.number(sheet.value[name])
    else:
        tally.wrong.append(f"never ends asking: {asks.inner_text()}")
    here = sheet.at()
    if not here:
        return len(sheet.order)
    return sheet.order.index(here)


def check(hands: Hands, sheet: Sheet, kept: list[tuple[str, str]], said_open: list[str]) -> None:
    """Nobody has what somebody else did, and what is missing is said: it stands open."""
    for name, typed in kept:
        if typed != sheet.value[name]:
            hands.tally.wrong.append(f"{name}: {typed} was kept, {sheet.value[name]} was meant")
    for name, number in Counter(map(child_of, sheet.order)).items():
        has = sum(name == one for one, _ in kept)
        if has < number and not any(name in one for one in said_open):
            hands.tally.wrong.append(f"{name}: {number - has} not kept, and nothing said")


def child_of(place: str) -> str:
    """Whose a place on the paper is: "Ada Berg#2" is her second try."""
    return place.partition("#")[0]
