"""Scores as workbooks (XLSX, ISO/IEC 29500) that a spreadsheet opens rightly: numbers are numbers,
days are days, and nothing is run as a formula."""

from __future__ import annotations

import io
from collections.abc import Iterable, Sequence
from datetime import date
from typing import Any
from uuid import UUID

from django.utils import timezone
from openpyxl import Workbook
from openpyxl.styles import Font
from openpyxl.utils import get_column_letter
from openpyxl.worksheet.page import PrintPageSetup
from openpyxl.worksheet.properties import PageSetupProperties, WorksheetProperties
from openpyxl.worksheet.worksheet import Worksheet

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import for_everybody, seen
from lauf.exchange.score_sheet import everyday, unit_of
from lauf.judgement.rows import scores
from lauf.judgement.statements import shown_of
from lauf.lessons.models import Activity
from lauf.messages import say
from lauf.people.models import Pupil, Staff
from lauf.people.queries import class_of
from lauf.progress.histories import Histories, histories_of
from lauf.progress.lesson.grid import GridTest, battery_grid
from lauf.progress.lesson.lanes import Score
from lauf.records.queries import Row, counting, reason_words, rows
from lauf.rules.reading.entry import sides_words
from lauf.rules.reading.quantities import Kind
from lauf.rules.reading.words import CONTROLS

_WIDEST = 44


def class_workbook(staff: Staff, class_id: UUID) -> tuple[str, bytes]:
    """A file name and every score of a class's children that counts, without body measurements: a
    sheet with each child's latest score a test, one with what is said of it, and one with all of
    them, oldest first. Eleven queries. Raises NotFound."""
    group, public = class_of(staff, class_id), for_everybody(staff)
    pupils = {one.id: one for one in group.pupils.select_related("house")}
    found = scores(
        rows(seen(public, counting().filter(pupil__in=pupils), "protocol__test")), staff.school_id
    )
    # The protocol version of each activity there is a score in.
    versions = {
        one.id: one.protocol
        for one in Activity.objects.filter(
            pk__in={row.activity_id for row in found}
        ).select_related("protocol__test__school")
    }
    book = Workbook()
    latest: dict[tuple[UUID, UUID], Any] = {(row.pupil_id, row.test_id): row for row in found}
    names = {one.test_id: one.test.name for one in versions.values()}
    units = {one.test_id: _unit(one) for one in versions.values()}
    tests = sorted({test for _, test in latest}, key=lambda test: names[test])
    heads = [_head(names[test], units[test]) for test in tests]
    _sheet(
        book, "Latest",
        ["No.", say("Given name"), say("Family name"), say("House"), *heads],
        (
            [
                number, one.given_name, one.family_name, one.house.name if one.house else "",
                *(_shown(latest.get((one.id, test)), versions) for test in tests),
            ]
            for number, one in enumerate(pupils.values(), 1)
        ),
    )  # fmt: skip
    _what_it_says(book, staff, list(pupils.values()), group.id)
    heads = [
        say("Day"), say("Test"), say("Version"), say("Given name"), say("Family name"),
        say("Typed"), say("Value"), say("Unit"), say("How it was"), say("Form"),
    ]  # fmt: skip
    _sheet(
        book, say("All scores"), heads,
        (
            [
                row.on, names[row.test_id], versions[row.activity_id].number,
                pupils[row.pupil_id].given_name, pupils[row.pupil_id].family_name,
                row.typed,
                _number(row, versions[row.activity_id]),
                _unit(versions[row.activity_id]) if row.kept is not None else "",
                _how_it_was(row),
                row.variant,
            ]
            for row in found
        ),
    )  # fmt: skip
    return f"{group.name}.xlsx", _bytes(book)


def battery_workbook(staff: Staff, lesson_id: UUID) -> tuple[str, bytes]:
    """A file name and a battery's grid: score, rung and change of each child and test. As many
    queries as `battery_grid`. Raises NotFound or Refused."""
    grid = battery_grid(for_everybody(staff), lesson_id)
    heads = ["No.", say("Child")]
    for test in grid["tests"]:
        heads += [
            _head(test["test"], unit_of(test["kind"], test["unit"])),
            say("Rung"),
            say("Change"),
        ]
    book = Workbook()
    _sheet(
        book, grid["battery"] or say("Battery"), heads,
        (
            [
                child["number"], child["name"],
                *(
                    part
                    for test, cell in zip(grid["tests"], child["cells"], strict=True)
                    for part in (_cell(cell["score"], test), cell["rung"], cell["change"])
                ),
            ]
            for child in grid["children"]
        ),
    )  # fmt: skip
    return say(
        "{grid} {grid2} {grid3}.xlsx",
        grid=grid["class_name"],
        grid2=grid["battery"],
        grid3=grid["on"],
    ), _bytes(book)


def _what_it_says(book: Workbook, staff: Staff, pupils: Sequence[Pupil], class_id: UUID) -> None:
    """The sheet of what is said of each child's latest score in every test."""
    histories = histories_of(staff, pupils, timezone.localdate(), class_id)
    heads = [
        head
        for one in histories.protocols.values()
        for head in (
            one.test.name,
            say("Rung"),
            say("Change"),
            say("Since"),
            say("Best"),
            say("Next target"),
        )
    ]
    lines = []
    for number, one in enumerate(pupils, 1):
        cells = [
            cell for test in histories.protocols for cell in _score_cells(histories, one, test)
        ]
        lines.append([number, one.name, *cells])
    _sheet(book, say("What it says"), ["No.", say("Child"), *heads], lines)


def _score_cells(histories: Histories, pupil: Pupil, test: UUID) -> list[str]:
    """What is said of a child's latest score in a test, as on every screen."""
    place = histories.latest(pupil, test)
    if place is None:
        return [""] * 6
    statement = histories.statement(pupil, histories.of(pupil, test), place)
    before = statement.before
    then = "" if before is None else shown_of(before, statement.judge)
    shown = f"{statement.shown} ~" if statement.row.estimate else statement.shown
    return [
        shown,
        statement.rung_words,
        statement.change_words,
        then,
        statement.best_shown,
        statement.target,
    ]


def _head(test: str, unit: str) -> str:
    return f"{test} ({unit})" if unit else test


def _cell(score: Score | None, test: GridTest) -> Any:
    """A score of the grid: a number in the unit of its test, or words."""
    if score is None:
        return ""
    if score["value"] is None or test["kind"] == Kind.SIDES:
        return score["shown"]
    number = everyday(score["value"], test["unit"])
    return _marked(number, is_open=score["open"], estimate=score["estimate"])


def _marked(number: Any, *, is_open: bool, estimate: bool) -> Any:
    """A number by itself, or with the sign that it is open (?) or a guess (~)."""
    sign = "?" if is_open else "~" if estimate else ""
    return f"{number} {sign}" if sign else number


def _shown(row: Row | None, versions: dict[UUID, ProtocolVersion]) -> Any:
    """A score in the sheet of the latest ones: a number, or why there is none."""
    if row is None:
        return ""
    if row.kept is None:
        return reason_words(row.reason) if row.reason else row.typed
    number = _number(row, versions[row.activity_id])
    return _marked(number, is_open=row.is_open, estimate=row.estimate)


def _number(row: Row, version: ProtocolVersion) -> Any:
    """A score as a spreadsheet can count with it, in the unit of `_unit`; words for yes and no."""
    if row.kept is None:
        return ""
    if version.kind == Kind.SIDES:
        return sides_words(row.parts)
    return everyday(row.kept, version.unit)


def _unit(version: ProtocolVersion) -> str:
    return unit_of(version.kind, version.unit)


def _how_it_was(row: Row) -> str:
    if row.reason:
        return reason_words(row.reason)
    if row.is_open:
        return say("open")
    return say("estimate") if row.estimate else say("measured")


def _sheet(
    book: Workbook, title: str, heads: Sequence[str], lines: Iterable[Sequence[Any]]
) -> Worksheet:
    sheet = book.active if book.active and book.active.title == "Sheet" else book.create_sheet()
    assert isinstance(sheet, Worksheet)
    sheet.title = "".join(c for c in title if c not in "[]:*?/\\")[:31]
    widths = [len(head) for head in heads]
    for number, line in enumerate([list(heads), *map(list, lines)], 1):
        for column, value in enumerate(line, 1):
            cell = sheet.cell(number, column)
            # A package may have brought what no page would take.
            cell.value = CONTROLS.sub("", value) if isinstance(value, str) else value
            if isinstance(value, str):
                cell.data_type = "s"  # whatever it begins with, it is text
            elif isinstance(value, date):
                cell.number_format = "yyyy-mm-dd"
            widths[column - 1] = max(widths[column - 1], len(str(value)))
    for column, width in enumerate(widths, 1):
        sheet.cell(1, column).font = Font(bold=True)
        sheet.column_dimensions[get_column_letter(column)].width = min(width + 2, _WIDEST)
    sheet.freeze_panes = "A2"
    _print_across(sheet)
    return sheet


def _print_across(sheet: Worksheet) -> None:
    """On paper: as wide as a page, as long as it takes, the heads on every one."""
    sheet.page_setup = PrintPageSetup(
        sheet, orientation=sheet.ORIENTATION_LANDSCAPE, paperSize=sheet.PAPERSIZE_A4,
        fitToWidth=1, fitToHeight=0,
    )  # fmt: skip
    sheet.sheet_properties = WorksheetProperties(pageSetUpPr=PageSetupProperties(fitToPage=True))
    sheet.print_title_rows = "1:1"


def _bytes(book: Workbook) -> bytes:
    file = io.BytesIO()
    book.save(file)
    return file.getvalue()
