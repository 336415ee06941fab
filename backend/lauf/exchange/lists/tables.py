"""Tables of text as a list is read from, and their bounds."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Final

from lauf.errors import Refused
from lauf.messages import say

MOST_ROWS: Final = 5_000


MOST_COLUMNS: Final = 60


#: Letters of one cell, and of all cells together.
MOST_LETTERS: Final = 5_000


MOST_TEXT: Final = 5_000_000


MOST_SHEETS: Final = 100


Table = list[list[str]]


class Unreadable(Refused):
    """No table can be read from it; the message says what is accepted."""


@dataclass(frozen=True, slots=True)
class ListFile:
    """The names of a file's tables that are not empty, and the cells of the one that was chosen:
    text, rows of equal length."""

    sheets: Sequence[str]
    cells: Table

    def sheet_name(self, sheet: int) -> str:
        """What the chosen table is called, "" where it has no name."""
        return self.sheets[sheet] if sheet < len(self.sheets) else ""


def chosen(names: Sequence[str], sheet: int) -> int:
    """Which of the tables that are not empty is read. Raises Unreadable."""
    if not names:
        raise Unreadable(say("The list is empty. Paste cells, or choose a CSV or XLSX file."))
    if not 0 <= sheet < len(names):
        raise Unreadable(
            say(
                "The file has no sheet {sheet}. Its sheets are {names}.",
                sheet=sheet + 1,
                names=len(names),
            )
        )
    return sheet


def squared(rows: Iterable[Sequence[str]]) -> Table:
    """Rows of equal length, without empty ones at the end and empty columns at the right; spaces of
    all kinds taken off the ends. Raises Unreadable for more than can be a list of a school."""
    found: Table = []
    letters = 0
    for row in rows:
        if len(found) > MOST_ROWS:
            raise Unreadable(say("A list can have at most {most_rows} rows.", most_rows=MOST_ROWS))
        cells = row[:MOST_COLUMNS]
        if any(len(cell) > MOST_LETTERS for cell in cells):
            raise Unreadable(
                say("A cell can have at most {most_letters} letters.", most_letters=MOST_LETTERS)
            )
        letters += sum(map(len, cells))
        if letters > MOST_TEXT:
            raise Unreadable(
                say(
                    "A list can have at most {most_text} letters in total.",
                    most_text=f"{MOST_TEXT:,}",
                )
            )
        found.append([_clean(cell) for cell in cells])
    while found and not any(found[-1]):
        found.pop()
    width = max((len(row) - _empty_end(row) for row in found), default=0)
    return [(row + [""] * width)[:width] for row in found]


def _clean(cell: str) -> str:
    return " ".join(cell.replace("\ufeff", "").replace("\u200b", "").split())


def _empty_end(row: list[str]) -> int:
    count = 0
    for cell in reversed(row):
        if cell:
            break
        count += 1
    return count
