"""Files opened by readers that are not ours say of every child what the screen says."""

from __future__ import annotations

import io
import random
from pathlib import Path
from typing import Any, Final

import frictionless
from openpyxl import load_workbook

from lauf.catalogue.actions import make_battery
from lauf.lessons.actions import start_sitting
from lauf.lessons.models import Activity
from tests.api.conftest import World
from tests.support import references

#: Tests of every unit, with what is typed into them: scores, guesses, reasons and blanks.
TESTS: Final = {
    "press-ups-60": ("21", "0", "18~", "34"),
    "long-jump": ("127", "1.18m", "4ft 2in", "140~"),
    "plank-30": ("12.5", "29.9", "7 s", "30"),
    "sit-reach-wall": ("-4", "0", "-12", "-1~"),
    "underarm-10": ("7", "x o x o x x x x x x", "10/10", "0"),
}
REASONS: Final = ("absent", "sat out", "")


def number_of(shown: str) -> float:
    """What is shown without its unit and its sign for a guess: "127 cm", "7/10", "0:30"."""
    text = shown.split(" ")[0].partition("/")[0].replace("−", "-")
    minutes, _, seconds = text.rpartition(":")
    return float(minutes or 0) * 60 + float(seconds)


def fill(world: World) -> tuple[Any, list[Activity]]:
    """A battery in which a class has done all of it, or said why not."""
    staff = world.head.staff
    assert staff is not None
    tests = {slug: world.lesson_on(40, slug).protocol for slug in TESTS}
    battery = make_battery(staff, "All units", [one.test_id for one in tests.values()])
    lesson = start_sitting(staff, battery.id, world.school_class.id)
    activities = list(Activity.objects.filter(lesson=lesson).order_by("position"))
    dice = random.Random(8)
    for activity, (slug, typed) in zip(activities, TESTS.items(), strict=True):
        for pupil in world.pupils:
            entry = dice.choice((*typed, *typed, *REASONS))
            if entry:
                form = tests[slug].usual_variant
                world.record(pupil, entry, activity, variant=form, wave=None)
    return lesson, activities


def test_every_row_of_a_csv_says_what_the_list_shows(world: World, tmp_path: Path) -> None:
    _, activities = fill(world)
    for activity in activities:
        lanes = world.teacher.ask("GET", f"/api/activities/{activity.id}/lanes").json()
        screen = {one["name"]: one["score"] for one in lanes["children"]}
        path = tmp_path / f"{activity.id}.csv"
        path.write_bytes(
            world.teacher.ask("GET", f"/api/activities/{activity.id}/scores.csv").content
        )
        report = frictionless.Resource(path=path.name, basepath=str(tmp_path)).validate()
        assert report.valid, report.flatten(["rowNumber", "note"])
        frame = references.pandas.read_csv(path, dtype=str, keep_default_na=False)
        assert len(frame) == len(screen)
        for row in frame.to_dict("records"):
            name = f"{row['given_name']} {row['family_name']}".strip()
            score = screen[name]
            if score is None:
                assert (row["raw"], row["value"], row["status"]) == ("", "", "not recorded")
                continue
            # What a spreadsheet might run has an apostrophe before it: "-1~" is no number.
            assert row["raw"].removeprefix("'") == score["typed"], name
            if score["reason"]:
                assert row["value"] == "" and row["status"] == score["shown"], name
            else:
                assert float(row["value"]) == number_of(score["shown"]), (row, score)
                assert (row["status"] == "estimate") is score["estimate"]


def test_every_cell_of_a_battery_says_what_the_table_shows(world: World) -> None:
    lesson, _ = fill(world)
    content = world.teacher.ask("GET", f"/api/lessons/{lesson.id}/grid.xlsx").content
    grid = world.teacher.ask("GET", f"/api/lessons/{lesson.id}/grid").json()
    frame = references.pandas.read_excel(io.BytesIO(content), header=0, dtype=object)
    frame = frame.astype(object).where(frame.notna(), "")
    columns = [
        next(n for n, head in enumerate(frame.columns) if str(head).startswith(test["test"]))
        for test in grid["tests"]
    ]
    rows = {row[1]: row for row in frame.values.tolist()}
    checked = 0
    for child in grid["children"]:
        for column, cell in zip(columns, child["cells"], strict=True):
            there, score = rows[child["name"]][column], cell["score"]
            if score is None:
                assert there == "", (child["name"], there)
            elif score["reason"] or score["estimate"]:
                shown = score["shown"].replace("−", "-")
                assert str(there).startswith(shown.split(" ")[0]), (there, score)
            else:
                assert float(there) == number_of(score["shown"]), (there, score)
            checked += 1
    assert checked == len(grid["children"]) * len(TESTS)
    # The same cells by another reader.
    plain = [
        ["" if cell.value is None else cell.value for cell in row]
        for row in load_workbook(io.BytesIO(content)).worksheets[0].iter_rows(min_row=2)
    ]
    assert [row[1] for row in plain] == [row[1] for row in frame.values.tolist()]
