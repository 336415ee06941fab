"""What keeping a score costs the browser: script and layout for an entry typed in a class of
twenty-eight, against the same in a class of six. What draws its row and the zones that say it costs
the same in both. By itself: `./lauf bench draws`."""

from __future__ import annotations

from statistics import median
from typing import Any, Final

from playwright.sync_api import Page, expect, sync_playwright

from tests.bench.saying import said
from tests.browser.conftest import Visit
from tests.support.served import CHROMIUM, CHROMIUM_FLAGS, drop, make_template, served

TEMPLATE: Final = "lauf_bench_draws"
#: A test that nobody in the demo has done: nothing is asked about.
TEST: Final = "Arm circles in 30 s"
FEW: Final = 6
#: Turns of both classes, and entries in each.
TURNS, ENTRIES = 5, 5
AIM: Final = 1.3


def class_of_few(one: Visit) -> str:
    years = one.ask("GET", "/api/school")["year_groups"]
    year = next(row["id"] for row in years if row["name"] == "Year 4")
    children = "\n".join(f"Runner {letter}" for letter in "ABCDEF"[:FEW])
    made = {"name": "4 Few", "year_group_id": year, "children": children}
    one.ask("POST", "/api/classes", made)
    return "4 Few"


def milliseconds(page: Page) -> dict[str, float]:
    session = page.context.new_cdp_session(page)
    session.send("Performance.enable", {"timeDomain": "threadTicks"})

    def read() -> dict[str, float]:
        found = session.send("Performance.getMetrics")["metrics"]
        return {one["name"]: one["value"] * 1000 for one in found}

    before = read()
    for count in range(ENTRIES):
        page.keyboard.type(str(12 + count))
        page.keyboard.press("Enter")
        # All that the entry draws is drawn when its answer is there.
        expect(page.locator("[data-state=saving], [data-state=waiting]")).to_have_count(0)
        expect(page.locator("[data-state=saved]")).to_have_count(count + 1)
    after = read()
    session.detach()
    return {
        name: (after[name] - before[name]) / ENTRIES
        for name in ("ScriptDuration", "RecalcStyleDuration", "LayoutDuration")
    }


def main() -> None:
    make_template(TEMPLATE, demo=True)
    taken: dict[str, list[dict[str, float]]] = {}
    with served(TEMPLATE) as lauf, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
        one: Any = Visit(browser, lauf, viewport={"width": 1280, "height": 800})
        one.be("head")
        few = class_of_few(one)
        for turn in range(TURNS + 1):
            for name in (few, "4 Heron"):
                lesson, at = one.lesson(name, TEST)
                one.page.goto(f"{one.url}/lessons/{lesson}/list?activity={at[TEST]}")
                expect(one.page.locator("input[data-cell]")).to_be_focused()
                found = milliseconds(one.page)
                if turn:  # the first warms both up
                    taken.setdefault(name, []).append(found)
        browser.close()
    drop(TEMPLATE)
    for what, words in (
        ("ScriptDuration", "script"), ("RecalcStyleDuration", "styles"),
        ("LayoutDuration", "layout"),
    ):  # fmt: skip
        small, whole = (median(row[what] for row in taken[name]) for name in (few, "4 Heron"))
        said(
            f"an entry, {words}: {whole:.1f} ms in a class of 28, {small:.1f} ms in one of {FEW}, "
            f"ratio {whole / small:.1f} (aim: {AIM} or less)"
        )


if __name__ == "__main__":
    main()
