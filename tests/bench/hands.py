"""Hands that do not wait for the screen, 5,000 numbers or taps a way: how many reached another
child than the one meant, and how many were lost without a word. By itself: `./lauf bench hands`."""

from __future__ import annotations

import os
from typing import Final

from playwright.sync_api import sync_playwright

from tests.bench.saying import said
from tests.browser.conftest import Visit
from tests.support import hands_ways as ways
from tests.support.hands import Hands
from tests.support.served import CHROMIUM, CHROMIUM_FLAGS, drop, make_template, served

TEMPLATE: Final = "lauf_bench_hands"
REFUSED: Final = 0.04
#: So many numbers or taps on each way.
EACH: Final = int(os.environ.get("LAUF_HANDS", "5000"))
#: Of the ways, these: "list tap", or all.
WAYS: Final = os.environ.get("LAUF_HANDS_WAYS", "").split() or [*ways.TYPED, *ways.TAPPED]
FASTER: Final = 100


def main() -> None:
    make_template(TEMPLATE, demo=True)
    wrong = 0
    with served(TEMPLATE) as lauf, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
        for way in WAYS:
            one = Visit(browser, lauf, viewport={"width": 1280, "height": 800})
            one.be()
            hands = Hands(one.page, seed=len(way), faster=FASTER)
            all_of_it = hands.tally
            take = ways.type_a_lesson if way in ways.TYPED else ways.tap_a_lesson
            while all_of_it.typed + all_of_it.taps < EACH:
                before = len(all_of_it.wrong)
                hands.log.clear()
                take(one, lauf, hands, way, refused=REFUSED)
                if len(all_of_it.wrong) > before:
                    said(f"  {' '.join(hands.log)}")
            one.context.close()
            number = all_of_it.typed + all_of_it.taps
            said(
                f"hands, {way}: {number} {'typed' if all_of_it.typed else 'taps'}, "
                f"{all_of_it.asked} answers given, {all_of_it.held} with something held, "
                f"{len(all_of_it.wrong)} for another child or lost without a word"
            )
            for one in all_of_it.wrong:
                said(f"  {one}")
            wrong += len(all_of_it.wrong)
        browser.close()
    drop(TEMPLATE)
    if wrong:
        raise SystemExit(1)


if __name__ == "__main__":
    main()
