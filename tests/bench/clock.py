"""How exactly the conductor calls: the real page in Chromium, its main thread blocked at random.

A whole half-hour lesson of intervals, and ten minutes called to a beat, on a simulated clock
(timers, frames and `performance.now` are the browser driver's; a block is time that passes without
any of them being served); and one minute of each in real time with the page's own thread kept busy.
"""

from __future__ import annotations

import random
import statistics
import time
from dataclasses import dataclass
from typing import Any, Final

from playwright.sync_api import Browser, Page, sync_playwright

from tests.bench.saying import said
from tests.support.served import CHROMIUM, CHROMIUM_FLAGS, drop, make_template, served

TEMPLATE: Final = "lauf_bench_clock"
LONGEST_BLOCK_MS: Final = 400
CUE_AIM_MS: Final = 50
DRIFT_AIM_MS: Final = 20
#: A timer is set in whole milliseconds, rounded up: a block that begins before it is served holds
#: it up.
TIMER_MS: Final = 2
LISTEN: Final = """
    window.called = [];
    addEventListener("lauf-cue", (event) => {
        window.called.push([event.detail.kind, performance.now(), event.detail.late]);
    });
"""


@dataclass(frozen=True)
class Called:
    """A cue as it was called: when (milliseconds of the page), and when it was due."""

    kind: str
    at: float
    due: float


def main() -> None:
    make_template(TEMPLATE, demo=True)
    with served(TEMPLATE) as lauf, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
        simulated(browser, lauf.url, "half an hour of intervals", _intervals(1_830))
        simulated(browser, lauf.url, "ten minutes to a beat", _beats(600))
        real_minute(browser, lauf.url, "one minute of intervals", _intervals(120))
        real_minute(browser, lauf.url, "one minute to a beat", _beats(70))
        browser.close()
    drop(TEMPLATE)


def _intervals(seconds: int) -> list[dict[str, Any]]:
    """Sets of intervals for at least so many seconds."""
    movements = [
        {"name": "star jumps", "efforts": "25/15/25/15"},
        {"name": "high knees", "efforts": "12/8/12"},
    ]
    return [
        {"kind": "intervals", "label": f"Set {number}", "movements": movements}
        for number in range(1, -(-seconds // 130) + 1)
    ]


def _beats(seconds: int) -> list[dict[str, Any]]:
    """A movement on every fourth beat of lively music."""
    called = {"movement": "squats", "bpm": 132, "every": 4, "calls": seconds * 132 // 240}
    return [{"kind": "beats", "label": "To the beat", **called}]


def _conduct(page: Page, url: str, blocks: list[dict[str, Any]]) -> dict[str, Any]:
    """Sign in and open the conductor of a new lesson of these blocks; returns its timeline."""
    page.goto(url)
    page.get_by_role("button", name="Robin Ashgrove").click()
    page.locator(".lesson").first.wait_for()
    timeline: dict[str, Any] = page.evaluate(
        """async (blocks) => {
            const token = /csrftoken=([^;]*)/.exec(document.cookie)[1];
            const headers = { "X-CSRFToken": token, "Content-Type": "application/json" };
            const ask = async (path) => (await fetch(path)).json();
            const { classes } = await ask("/api/classes");
            const [test] = await ask("/api/tests");
            const asked = { class_id: classes[0].id, test_ids: [test.id], minutes: 60,
                place: "Hall", starts_at: new Date().toISOString() };
            const made = await fetch("/api/lessons",
                { method: "POST", headers, body: JSON.stringify(asked) });
            const lesson = (await made.json()).id;
            const plan = await ask(`/api/lessons/${lesson}/plan`);
            const body = JSON.stringify({ based_on: plan.revision, blocks });
            const kept = await fetch(`/api/lessons/${lesson}/plan`,
                { method: "PUT", headers, body });
            if (!kept.ok) throw new Error(await kept.text());
            return (await fetch(`/api/lessons/${lesson}/timeline`)).json();
        }""",
        blocks,
    )
    page.goto(f"{url}/lessons/{timeline['lesson_id']}/conduct")
    page.get_by_role("button", name="Start the lesson").wait_for()
    page.evaluate(LISTEN)
    return timeline


def _called(page: Page) -> list[Called]:
    return [Called(kind, at, at - late) for kind, at, late in page.evaluate("window.called")]


def _after_block(cue: Called, blocks: list[tuple[float, float]]) -> float:
    """How late a cue was: after it was due, or after the block that it was due in had ended."""
    ends = [end for begun, end in blocks if begun - TIMER_MS <= cue.due <= end]
    return cue.at - max([cue.due, *ends])


def _say(words: str, called: list[Called], blocks: list[tuple[float, float]]) -> None:
    late = [_after_block(cue, blocks) for cue in called]
    # A clock that drifts is later at the end than at the beginning.
    few = max(3, len(late) // 20)
    drift = statistics.median(late[-few:]) - statistics.median(late[:few])
    said(
        f"{words}: {len(called)} cues, {len(blocks)} blocks of up to {LONGEST_BLOCK_MS} ms; after "
        f"its time or the block at most {max(late):.0f} ms, in the middle "
        f"{statistics.median(late):.0f} ms (aim: {CUE_AIM_MS}); drift from beginning to "
        f"end {abs(drift):.0f} ms (aim: under {DRIFT_AIM_MS})"
    )


def simulated(browser: Browser, url: str, words: str, plan: list[dict[str, Any]]) -> None:
    """Frames and timers are served one by one around every cue; where nothing is due the clock is
    set forward, as if nobody had looked."""
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    page.clock.install(time=time.time())
    timeline = _conduct(page, url, plan)
    page.clock.pause_at(page.evaluate("Date.now()") / 1000 + 1)
    page.keyboard.press("Space")
    page.get_by_role("button", name="Pause").wait_for()
    anchor = page.evaluate(
        "id => JSON.parse(localStorage.getItem(`lauf.conduct.${id}`)).anchor_ms",
        timeline["lesson_id"],
    ) - page.evaluate("performance.timeOrigin")
    chance = random.Random(words)
    now = page.evaluate("performance.now()")
    blocks: list[tuple[float, float]] = []
    for cue in timeline["cues"]:
        due = anchor + cue["at_ms"]
        if due - now > 800:
            page.clock.fast_forward(int(due - now - chance.randint(450, 700)))
            now = page.evaluate("performance.now()")
        if due > now and chance.random() < 0.6:
            length = chance.randint(20, LONGEST_BLOCK_MS)
            page.clock.run_for(max(1, int(due - now - chance.randint(1, length))))
            begun = page.evaluate("performance.now()")
            # Whatever falls due meanwhile is served once, afterwards: as after a blocked thread.
            page.clock.fast_forward(length)
            blocks.append((begun, begun + length))
            page.clock.run_for(50)
        elif due + 50 > now:
            page.clock.run_for(int(due + 50 - now))
        now = page.evaluate("performance.now()")
    called = _called(page)
    said(
        f"{words}, simulated: {timeline['total_ms'] / 60_000:.1f} min, {len(called)} of "
        f"{len(timeline['cues'])} cues called"
    )
    _say(f"conductor, {words} simulated", called, blocks)
    page.close()


def real_minute(browser: Browser, url: str, words: str, plan: list[dict[str, Any]]) -> None:
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    _conduct(page, url, plan)
    page.keyboard.press("Space")
    page.evaluate(
        f"""() => {{
            window.blocks = [];
            const block = () => {{
                const begun = performance.now();
                const until = begun + 20 + Math.random() * {LONGEST_BLOCK_MS - 20};
                while (performance.now() < until);
                window.blocks.push([begun, performance.now()]);
                setTimeout(block, 200 + Math.random() * 1500);
            }};
            setTimeout(block, 500);
        }}"""
    )
    page.wait_for_timeout(60_000)
    blocks = [(begun, end) for begun, end in page.evaluate("window.blocks")]
    _say(f"conductor, {words} in real time", _called(page), blocks)
    page.close()


if __name__ == "__main__":
    main()
