"""The sheets of an XLSX workbook (ECMA-376), read row by row.

Spreadsheets come with their own dates and numbers: a date is written as ISO, a whole number without
a point, so that what is read is what the office saw.
"""

from __future__ import annotations

import io
from collections.abc import Iterator
from datetime import date, datetime
from typing import Any, Final

from openpyxl import load_workbook

from lauf.exchange.lists.tables import (
    MOST_COLUMNS,
    MOST_ROWS,
    MOST_SHEETS,
    ListFile,
    Unreadable,
    chosen,
    squared,
)
from lauf.messages import say

#: Rows in which a sheet begins that is not empty.
_FIRST_ROWS: Final = 60


def read_workbook(data: bytes, sheet: int) -> ListFile:
    """The names of the sheets that are not empty, and the cells of one. Raises Unreadable."""
    try:
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        if len(book.worksheets) > MOST_SHEETS:
            raise Unreadable(
                say("A workbook can have at most {most_sheets} sheets.", most_sheets=MOST_SHEETS)
            )
        begun = [one for one in book.worksheets if any(map(any, _rows(one, _FIRST_ROWS)))]
        names = [one.title for one in begun]
        return ListFile(names, squared(_rows(begun[chosen(names, sheet)], MOST_ROWS + 2)))
    except (Unreadable, MemoryError):
        raise
    except Exception as error:  # a broken workbook breaks in any way
        raise Unreadable(say("The spreadsheet cannot be opened. Save it again as XLSX.")) from error


def _rows(sheet: Any, most: int) -> Iterator[list[str]]:
    """What a workbook says of a sheet's size is not believed."""
    sheet.reset_dimensions()
    for row in sheet.iter_rows(values_only=True, max_row=most, max_col=MOST_COLUMNS):
        yield [_shown(cell) for cell in row]


def _shown(cell: Any) -> str:
    if cell is None:
        return ""
    if isinstance(cell, datetime):
        return cell.date().isoformat()
    if isinstance(cell, date):
        return cell.isoformat()
    if isinstance(cell, float) and cell.is_integer():
        return str(int(cell))
    return str(cell)
