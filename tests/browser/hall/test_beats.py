"""A warm-up to the teacher's own sound: tapped, called, counted, and carried into a rep target."""

from __future__ import annotations

import io
import math
import struct
import wave
from typing import Any

from playwright.sync_api import FilePayload, Page, expect

from tests.browser.hall.test_ways import KEPT, TARGET, begin
from tests.support.hall import cell, rail, skip_to
from tests.support.messages import say
from tests.support.served import Served, wait_for

LISTEN = """
    window.heard = []; window.played = [];
    addEventListener("lauf-cue", (event) => window.heard.push(event.detail.kind));
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (...asked) {
        window.played.push([this.buffer.duration, ...asked.slice(1)]);
        return start.apply(this, asked);
    };
"""


def tune(seconds: float) -> FilePayload:
    """A sound file of a plain tone."""
    held = io.BytesIO()
    with wave.open(held, "wb") as file:
        file.setparams((1, 2, 8_000, 0, "NONE", ""))
        for at in range(int(seconds * 8_000)):
            file.writeframesraw(struct.pack("<h", int(9_000 * math.sin(at / 3))))
    return {"name": "our-tune.wav", "mimeType": "audio/wav", "buffer": held.getvalue()}


def comes(page: Page, true: str) -> None:
    """Wait until something is true on the page."""
    wait_for(lambda: page.evaluate(true), bool)


def test_a_warm_up_to_music_is_tapped_called_counted_and_carried_in(
    visit: Any, lauf: Served
) -> None:
    one, at = begin(visit, TARGET)
    page: Page = one.page
    page.add_init_script(LISTEN)
    lesson = at[TARGET].split("/lessons/")[1].split("/")[0]
    plan = f"/api/lessons/{lesson}/plan"
    ids = {test["name"]: test["id"] for test in one.ask("GET", "/api/tests")}
    warm = {
        "kind": "beats", "label": "Squats to music", "movement": "squats", "bpm": 120,
        "every": 8, "calls": 5, "test_id": ids["Moves to the beat"],
    }  # fmt: skip
    target = {
        "kind": "rep_target", "label": "Target", "seconds": 1500, "test_id": ids[TARGET],
        "names": ["squats", "dips"], "carries": "squats", "apart": True, "weights": "0.5/1/2",
    }  # fmt: skip
    one.ask("PUT", plan, {"based_on": 0, "blocks": [warm, target]})

    # The sound stays here, and the times are tapped along to it.
    page.goto(f"{one.url}/lessons/{lesson}/plan")
    page.get_by_role("button", name="Squats to music", exact=False).first.click()
    sent: list[str] = []
    page.on("request", lambda asked: sent.append(asked.post_data or ""))
    page.get_by_label("Sound file").set_input_files(tune(30))
    expect(page.get_by_text("our-tune.wav")).to_be_visible()
    page.get_by_role("button", name=say("lessons.atTheTimesInAList")).click()
    page.get_by_role("button", name=say("lessons.tapTheTimes")).press("Enter")
    begun = page.evaluate("performance.now()")
    for tap in range(1, 4):
        comes(page, f"performance.now() > {begun + 400 * tap}")
        page.keyboard.press("Space")
        page.keyboard.press("Space")  # a key that bounces is one tap
    expect(page.locator(".pad b")).to_have_text("3")
    page.get_by_role("button", name=say("lessons.useTheseTimes")).click()
    tapped = wait_for(
        lambda: one.ask("GET", plan)["blocks"][0]["entry"].get("times", ""), bool
    ).split()
    times = [float(time) for time in tapped]
    assert len(times) == 3 and times[2] - times[0] >= 0.5
    assert one.ask("GET", plan)["blocks"][0]["entry"]["seconds"] == 30
    assert not any("our-tune" in body for body in sent)
    page.get_by_label(say("lessons.timesFromTheStartOnePer")).fill("1\n2\nlater\n")
    page.keyboard.press("Tab")
    expect(page.get_by_role("alert")).to_contain_text("Line 3 says “later”, which is not a time.")
    page.get_by_label(say("lessons.timesFromTheStartOnePer")).fill("1\n2\n3 up\n")
    page.keyboard.press("Tab")
    expect(page.get_by_role("alert")).to_have_count(0)
    wait_for(lambda: one.ask("GET", plan)["blocks"][0]["entry"]["times"].count("up"), bool)

    # Called on the clock, the sound with it and no further than the clock goes.
    page.goto(f"{one.url}/lessons/{lesson}/hall")
    page.get_by_role("button", name="Start the lesson").press("Enter")
    expect(page.get_by_role("button", name="Pause")).to_be_visible()
    one.ahead(11_050)
    comes(page, "heard.filter((kind) => kind === 'beat').length === 1")
    comes(page, "played.length > 0")
    assert page.evaluate("played.at(-1)[0]") == 30
    one.ahead(12_050)
    comes(page, "heard.filter((kind) => kind === 'beat').length === 2")
    page.get_by_role("button", name="Pause").press("Enter")
    page.get_by_role("button", name=say("lessons.continue")).press("Enter")
    comes(page, "played.length > 1")
    into = page.evaluate("played.at(-1)[1]")
    assert 2.0 <= into < 2.6, "it goes on where it stopped"
    one.ahead(13_050)
    expect(page.get_by_test_id("now")).to_contain_text("up")

    # Three were called: more cannot have been done.
    for typed in ("3", "2~"):
        cell(page).press_sequentially(typed)
        page.keyboard.press("Enter")
    cell(page).press_sequentially("4")
    page.keyboard.press("Enter")
    expect(page.get_by_text("maximum of 3").first).to_be_visible()
    page.keyboard.press("Escape")
    skip_to(page, "Target")
    rail(page, "Target").click()
    page.get_by_role("button", name=say("sheet.carryInTheCountsN", n=2)).click()
    rows = page.locator("tbody tr")
    expect(rows.nth(0).locator(".total")).to_contain_text("3")
    expect(rows.nth(1).locator(".total")).to_contain_text("2")
    expect(page.get_by_role("button", name="Carry in")).to_have_count(0)
    # What was about 2 is carried in as about 2.
    about = "SELECT typed, estimate FROM records_attempt WHERE typed LIKE 'c2%%'"
    assert wait_for(lambda: lauf.sql(about), bool) == [("c2~", True)]
    page.keyboard.type("5e/10/2h")
    page.keyboard.press("Enter")
    expect(rows.nth(0).locator(".total")).to_contain_text("19")  # 3 + 2½ + 10 + 4, whole reps
    page.keyboard.type("c4")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("3 squats were called. 4 is more")
    page.keyboard.press("Escape")
    page.reload()
    expect(rows.nth(0).locator(".total")).to_contain_text("19")
    activity = one.ask("GET", plan)["blocks"][1]["entry"]["activity_id"]
    kept = wait_for(lambda: lauf.sql(KEPT, activity), lambda found: len(found) == 2)
    assert [row[1:3] for row in kept] == [("c3+5e/10/2h by 0.5/1/2", 19), ("c2~", 2)]
    assert one.errors == []
