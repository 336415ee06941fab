"""Workbooks that a spreadsheet opens rightly, read by two readers."""

from __future__ import annotations

import io
from datetime import date
from typing import Any

from openpyxl import load_workbook
from python_calamine import CalamineWorkbook

from lauf.catalogue.actions import make_battery
from lauf.lessons.actions import start_sitting
from lauf.lessons.models import Activity
from tests.api.conftest import World


def both(content: bytes) -> dict[str, list[list[Any]]]:
    """The sheets as openpyxl reads them; python-calamine reads the same."""
    book = load_workbook(io.BytesIO(content))
    found = {
        sheet.title: [["" if c.value is None else c.value for c in row] for row in sheet.rows]
        for sheet in book.worksheets
    }
    other = CalamineWorkbook.from_filelike(io.BytesIO(content))
    assert other.sheet_names == list(found)
    for name, rows in found.items():
        plain = [[v.date() if hasattr(v, "date") else v for v in row] for row in rows]
        assert other.get_sheet_by_name(name).to_python() == plain, name
    for sheet in book.worksheets:
        assert all(cell.data_type != "f" for row in sheet.rows for cell in row), "no formula"
        # On paper: as wide as a page, the heads on every one.
        assert sheet.sheet_properties.pageSetUpPr.fitToPage and sheet.print_title_rows == "$1:$1"
        assert (sheet.page_setup.fitToWidth, sheet.page_setup.fitToHeight) == (1, 0)
    return found


def test_a_class_as_a_workbook(world: World) -> None:
    plank = world.lesson_on(5, "plank-30")
    world.head.ask("PUT", f"/api/pupils/{world.pupils[0].id}/details",
                   {"given": "=SUM(A1:A9)", "family": "+44"})  # fmt: skip
    world.record(world.pupils[0], "18", world.lesson_on(20))
    world.record(world.pupils[0], "21")
    world.record(world.pupils[1], "19~")
    world.record(world.pupils[2], "x")
    world.record(world.pupils[0], "12.5", plank, variant="")
    answer = world.teacher.ask("GET", f"/api/classes/{world.school_class.id}/scores.xlsx")
    assert answer["Content-Type"].endswith("spreadsheetml.sheet")
    sheets = both(answer.content)
    head, *rows = sheets["Latest"]
    plank_at, press_at = (
        next(n for n, name in enumerate(head) if str(name).startswith(what))
        for what in ("Plank", "Press-ups")
    )
    first = next(row for row in rows if row[1] == "=SUM(A1:A9)")
    assert (first[2], first[plank_at], first[press_at]) == ("+44", 12.5, 21)
    assert head[plank_at].endswith("(s)") and head[press_at].endswith("(reps)")
    shown = {row[1]: row[press_at] for row in rows}
    assert shown["Child 01"] == "19 ~" and shown["Child 03"] == ""
    assert shown["Child 02"] not in ("", 0), "blank is never nought: it says why"
    head, *rows = sheets["All scores"]
    (old,) = [row for row in rows if row[5] == "18"]
    assert old[head.index("Day")] and isinstance(old[0], date)
    assert (old[6], old[7], old[8]) == (18, "reps", "measured")
    assert [row[7] for row in rows if row[1].startswith("Plank")] == ["s"]


def test_lengths_are_in_the_unit_of_their_test_and_yes_and_no_are_words(world: World) -> None:
    jump, sides = world.lesson_on(4, "long-jump"), world.lesson_on(4, "shoulder-reach")
    world.record(world.pupils[0], "118", jump, variant="")
    world.record(world.pupils[0], "y n", sides, variant="")
    content = world.teacher.ask("GET", f"/api/classes/{world.school_class.id}/scores.xlsx").content
    head, row, *_ = both(content)["Latest"]
    shown = {str(name).partition(",")[0]: cell for name, cell in zip(head, row, strict=True)}
    assert shown["Standing long jump (cm)"] == 118
    assert isinstance(shown["Shoulder reach"], str) and shown["Shoulder reach"] not in ("", "y n")


def test_a_battery_as_a_workbook(world: World) -> None:
    staff = world.head.staff
    assert staff is not None
    jump = world.lesson_on(40, "long-jump").protocol.test_id
    battery = make_battery(staff, "Term check", [world.activity.protocol.test_id, jump])
    lesson = start_sitting(staff, battery.id, world.school_class.id)
    reps, jumps = Activity.objects.filter(lesson=lesson).order_by("position")
    world.record(world.pupils[0], "21", reps)
    world.record(world.pupils[0], "4ft 2in", jumps, variant="")
    content = world.teacher.ask("GET", f"/api/lessons/{lesson.id}/grid.xlsx").content
    head, *rows = both(content)["Term check"]
    assert head[:3] == ["No.", "Child", "Press-ups in 60 s (reps)"]
    assert head[5] == "Standing long jump (cm)"
    assert rows[0][:3] == [1, "Child 00", 21] and rows[1][2] == ""
    assert rows[0][5] == 127, "a length is a number, in the unit of its head"


def test_no_body_measurement_goes_into_a_workbook(world: World) -> None:
    world.permit(world.teacher.staff, may_see_growth=True)
    weight = world.lesson_on(0, "weight")
    world.record(world.pupils[0], "21", world.lesson_on(3))
    world.teacher.ask("POST", f"/api/activities/{weight.id}/attempts",
                      world.body(world.pupils[0], "47.3", variant=""))  # fmt: skip
    content = world.teacher.ask("GET", f"/api/classes/{world.school_class.id}/scores.xlsx").content
    assert "47.3" not in str(both(content)) and "Weight" not in str(both(content))
