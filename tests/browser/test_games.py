"""A round of games between two schools, each on its own Lauf, with a file changed."""

from __future__ import annotations

import json
import uuid
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import Visit
from tests.support import templates
from tests.support.fields import choose
from tests.support.messages import say
from tests.support.served import Served, served

TEST = "Star jumps in 30 s"


@pytest.fixture
def far_lauf(tmp_path_factory: pytest.TempPathFactory, worker_id: str) -> Iterator[Served]:
    """Another school's Lauf, not set up yet."""
    with served(templates.migrated(tmp_path_factory, worker_id), demo=False) as running:
        yield running


def saved(page: Page, button: str, folder: Path) -> Path:
    """The file that a button saves."""
    with page.expect_download() as download:
        page.get_by_role("button", name=button, exact=True).click()
    file = folder / download.value.suggested_filename
    download.value.save_as(file)
    return file


def settle(far: Visit) -> str:
    """Set the far school up, with seven children of eight years; returns their class."""
    far.page.goto(far.url)
    who = {
        "setup_code": "test-code", "school_name": "Fernside School", "name": "Kim Rowan",
        "username": "kim", "password": "a-long-test-password",
    }  # fmt: skip
    far.ask("POST", "/api/setup", who)
    years = far.ask("GET", "/api/school")["year_groups"]
    names = "\n".join(f"Runner {letter}" for letter in "ABCDEFG")
    year = next(one["id"] for one in years if one["name"] == "Year 4")
    made = far.ask("POST", "/api/classes", {"name": "4 F", "year_group_id": year,
                                            "children": names})  # fmt: skip
    return str(made["id"])


def take_scores(far: Visit, class_id: str) -> None:
    """Six of them do the test in a lesson, one is away."""
    tests = {one["name"]: one["id"] for one in far.ask("GET", "/api/tests")}
    now = datetime.now(UTC).isoformat()
    lesson = far.ask("POST", "/api/lessons", {
        "class_id": class_id, "test_ids": [tests[TEST]], "starts_at": now, "minutes": 30,
        "place": "Hall",
    })["id"]  # fmt: skip
    (activity,) = far.ask("GET", f"/api/lessons/{lesson}")["activities"]
    lanes = far.ask("GET", f"/api/activities/{activity['id']}/lanes")["children"]
    for child, typed in zip(lanes, ("3", "14", "19", "24", "31", "36", "a"), strict=True):
        far.ask("POST", f"/api/activities/{activity['id']}/attempts", {
            "id": str(uuid.uuid4()), "pupil_id": child["pupil_id"], "typed": typed, "variant": "",
            "wave": 1, "recorded_at": now,
        })  # fmt: skip


def test_a_round_of_games_by_file(
    visit: Any, chromium: Browser, far_lauf: Served, downloads: Path
) -> None:
    # The organiser makes the games and saves their file.
    near = visit(viewport={"width": 1280, "height": 800})
    near.be("head")
    page: Page = near.page
    page.goto(f"{near.url}/games")
    page.get_by_role("button", name="New games").click()
    page.get_by_label("Name", exact=True).fill("Winter Games")
    choose(page.get_by_role("combobox", name=say("challenges.testsInOrder")), TEST)
    page.keyboard.press("Escape")
    page.get_by_role("button", name=say("challenges.createGames")).click()
    expect(page.get_by_role("heading", name="Winter Games")).to_be_visible()
    expect(page.get_by_text("No results count yet.")).to_be_visible()
    games = saved(page, say("challenges.saveGamesFile"), downloads)

    # The far school opens it, compares the digits and takes part; its children are its own affair.
    far = Visit(chromium, far_lauf, viewport={"width": 1280, "height": 800})
    class_id = settle(far)
    far.page.goto(f"{far.url}/games")
    expect(far.page.get_by_text("No games yet.")).to_be_visible()
    altered = downloads / "altered games.json"
    altered.write_text(games.read_text().replace("Winter Games", "Winter Gamez"))
    opens = far.page.locator("input[type=file]")
    opens.set_input_files(altered)
    expect(far.page.get_by_role("alert")).to_contain_text("changed")
    opens.set_input_files(games)
    opened = far.page.get_by_test_id("opened")
    expect(opened).to_contain_text(TEST)
    file = json.loads(games.read_text())
    shown = opened.locator(".digits").inner_text()
    look = {"text": games.read_text()}
    assert shown == near.ask("POST", "/api/games/look", look)["check_digits"]
    far.page.get_by_role("button", name=say("challenges.theDigitsMatchTakePart")).click()
    expect(far.page.get_by_text("so nothing is shown")).to_be_visible()
    take_scores(far, class_id)
    far.page.reload()
    expect(far.page.get_by_text("6 of 7")).to_have_count(2)
    result = saved(far.page, say("challenges.sendResults"), downloads)
    expect(far.page.get_by_text("send it to the organiser")).to_be_visible()
    own_digits = far.page.get_by_test_id("own-digits").inner_text()
    text = result.read_text()
    assert "Runner" not in text and file["signed_by"] not in text

    # On the way somebody makes one more of it; the true file comes too, and twice.
    spoiled = downloads / "spoiled.json"
    spoiled.write_text(text.replace('"took_part": 6', '"took_part": 7'))
    again = downloads / "again.json"
    again.write_text(json.dumps(json.loads(text)))  # another layout is the same file
    page.get_by_label(say("challenges.openResults")).set_input_files([spoiled, result, again])
    said = page.get_by_role("status").filter(has_text="spoiled.json")
    expect(said).to_contain_text("changed")
    expect(said).to_contain_text("Result 1 from Fernside School received.")
    expect(said).to_contain_text("was opened again. It counts once")
    expect(page.get_by_text("No results count yet.")).to_be_visible()
    row = page.locator(".files li[data-state]")
    expect(row).to_have_count(1)
    expect(row).to_contain_text(own_digits)
    page.get_by_role("button", name=say("challenges.theDigitsMatch")).press("Enter")
    table = page.get_by_test_id("schools")
    expect(table.locator("tbody tr")).to_have_count(1)
    expect(table).to_contain_text("Fernside School")
    expect(table).to_contain_text("6 of 7")
    expect(page.get_by_text("was changed on the way and does not count")).to_be_visible()
    # The organiser's own sums need no file.
    page.get_by_role("button", name=say("challenges.sendResults")).press("Enter")
    expect(page.get_by_text(say("challenges.resultsSentTheyAreInThe"))).to_be_visible()
    expect(table.locator("tbody tr")).to_have_count(2)
    page.reload()
    expect(table.locator("tbody tr")).to_have_count(2)
    assert near.axe() == [] and far.axe() == []
    assert far.errors == []
    page.set_viewport_size({"width": 360, "height": 740})
    assert page.evaluate("document.documentElement.scrollWidth") <= 360
    far.context.close()
