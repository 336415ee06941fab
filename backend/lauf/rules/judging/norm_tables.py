"""Norm tables from files: percentile and LMS tables as CSV, read with every fault by row and
column.

Two forms, told apart by their head (any order, upper or lower case):
  sex, age, P5, P50, P95 …   scores of percentiles
  sex, age, L, M, S          an LMS table
`sex` is girl/female/f or boy/male/m, or empty for both; `age` is in years.
"""

from __future__ import annotations

import csv
import re
from dataclasses import dataclass
from typing import Final

from lauf.messages import say
from lauf.rules.judging.norms import LmsRow, LmsTable, PercentileTable
from lauf.rules.reading.quantities import Better
from lauf.rules.reading.separated import cells_of

SEXES: Final = {
    "girl": "female", "girls": "female", "female": "female", "f": "female",
    "boy": "male", "boys": "male", "male": "male", "m": "male", "": "", "both": "", "all": "",
}  # fmt: skip
MOST_ROWS: Final = 5000
#: Beyond this a power bends a measurement out of any shape.
_MOST_POWER: Final = 10
_PERCENTILE: Final = re.compile(r"p(\d{1,2}(?:\.\d+)?)")


@dataclass(frozen=True, slots=True)
class TableFault:
    """What is wrong, in which row of the file (1 is the head) and which column, and what would be
    accepted."""

    row: int
    column: str
    words: str


@dataclass(frozen=True, slots=True)
class ReadTable:
    """A table read from a file: one of the two forms, or only faults."""

    faults: tuple[TableFault, ...]
    percentiles: PercentileTable | None = None
    lms: LmsTable | None = None


def read_table(text: str, better: Better = Better.UP, *, at_points: bool = False) -> ReadTable:
    """Read a norm table; scores stay in the file's own unit."""
    rows = _cells(text.lstrip("\ufeff"))
    if isinstance(rows, TableFault):
        return _only(rows)
    head = [cell.strip().lower() for cell in rows[0]]
    marks = {i: float(f[1]) for i, c in enumerate(head) if (f := _PERCENTILE.fullmatch(c))}
    is_lms = {"l", "m", "s"} <= set(head)
    if fault := _head_fault(head, list(marks.values()), is_lms=is_lms):
        return _only(fault)
    if len(rows) - 1 > MOST_ROWS:
        return _only(
            TableFault(
                MOST_ROWS + 2, "", say("A table has at most {most_rows} rows.", most_rows=MOST_ROWS)
            )
        )
    columns = (
        [head.index(name) for name in "lms"] if is_lms else sorted(marks, key=lambda i: marks[i])
    )
    reader = _Rows(head, columns, lms=is_lms)
    for number, row in enumerate(rows[1:], 2):
        if any(cell.strip() for cell in row):
            reader.read(number, row)
    if not reader.found and not reader.faults:
        reader.faults.append(TableFault(2, "", say("There are no rows below the heading.")))
    if not is_lms:
        reader.check_order(better, [head[i].upper() for i in columns])
    if reader.faults:
        return ReadTable(tuple(sorted(reader.faults, key=lambda fault: fault.row)))
    if is_lms:
        return ReadTable((), lms=reader.lms())
    percents = tuple(marks[i] for i in columns)
    ready = {key: cells for key, (_, cells) in reader.found.items()}
    return ReadTable((), PercentileTable(percents, ready, better, at_points))


def _cells(text: str) -> list[list[str]] | TableFault:
    """The rows of the file, at least one; or why there are none."""
    try:
        rows = cells_of(text)
    except csv.Error as problem:
        return TableFault(1, "", say("This is not a table of cells ({problem}).", problem=problem))
    return rows or TableFault(1, "", say("The file is empty."))


def _head_fault(head: list[str], marks: list[float], *, is_lms: bool) -> TableFault | None:
    """What is wrong with the names of the columns."""
    for name in ("sex", "age"):
        if name not in head:
            return TableFault(1, name, say("The first row has no column “{name}”.", name=name))
    if is_lms:
        return None
    if not marks:
        words = say(
            "Name the percentile columns P5, P50 and so on, or give the columns L, M and S."
        )
        return TableFault(1, "", words)
    if any(not 0 < mark < 100 for mark in marks):
        return TableFault(1, "", say("Percentiles must be between 0 and 100."))
    if len(set(marks)) < len(marks):
        return TableFault(1, "", say("One percentile has two columns."))
    return None


def _only(fault: TableFault) -> ReadTable:
    return ReadTable((fault,))


class _Rows:
    """Rows as they are read, with their faults."""

    def __init__(self, head: list[str], columns: list[int], *, lms: bool) -> None:
        self._head, self._columns, self._lms = head, columns, lms
        self.found: dict[tuple[str, float], tuple[int, tuple[float, ...]]] = {}
        self.faults: list[TableFault] = []

    def read(self, number: int, row: list[str]) -> None:
        if len(row) < len(self._head):
            words = say(
                "This row has {row} cells, but the heading has {head}.",
                row=len(row),
                head=len(self._head),
            )
            self.faults.append(TableFault(number, "", words))
            return
        sex = row[self._head.index("sex")].strip().lower()
        if sex not in SEXES:
            words = say(
                "“{sex}” is not a known sex. Use girl or boy, or leave it empty for both.",
                sex=sex[:40],
            )
            self.faults.append(TableFault(number, "sex", words))
            return
        age = self._number(number, "age", row[self._head.index("age")])
        cells = [self._number(number, self._head[i].upper(), row[i]) for i in self._columns]
        if age is None or None in cells:
            return
        if not 0 < age < 25:
            self.faults.append(
                TableFault(number, "age", say("Ages must be between 0 and 25 years."))
            )
            return
        if self._lms and (fault := self._not_lms(number, [c for c in cells if c is not None])):
            self.faults.append(fault)
            return
        key = (SEXES[sex], age)
        if key in self.found:
            words = say("Row {found} already has this sex and age.", found=self.found[key][0])
            self.faults.append(TableFault(number, "age", words))
            return
        self.found[key] = number, tuple(cell for cell in cells if cell is not None)

    @staticmethod
    def _not_lms(number: int, cells: list[float]) -> TableFault | None:
        """L, M and S that no measurement could be judged by (Cole & Green 1992: M is the median, S
        the coefficient of variation, L the power)."""
        power, middle, spread = cells
        if middle <= 0:
            return TableFault(number, "M", say("M is the median and must be above zero."))
        if not 0 < spread < 1:
            return TableFault(
                number, "S", say("S is the coefficient of variation and must be between 0 and 1.")
            )
        if abs(power) > _MOST_POWER:
            return TableFault(
                number,
                "L",
                say("L must be between −{most_power} and {most_power}.", most_power=_MOST_POWER),
            )
        return None

    def _number(self, number: int, column: str, cell: str) -> float | None:
        text = cell.strip().replace(",", ".")
        if re.fullmatch(r"[-+]?(\d{1,9}(\.\d*)?|\.\d+)", text):
            return float(text)
        problem = (
            say("“{cell}” is not a number.", cell=cell.strip()[:40])
            if text
            else say("The cell is empty.")
        )
        if re.fullmatch(r"[-+]?\d{10,}(\.\d*)?", text):
            problem = say(
                "“{text}” has more than nine digits before the decimal point.", text=text[:40]
            )
        self.faults.append(
            TableFault(
                number, column, say("{problem} Give a number such as 12.5.", problem=problem)
            )
        )
        return None

    def check_order(self, better: Better, names: list[str]) -> None:
        """Scores must improve with the percentile."""
        for number, cells in self.found.values():
            for at in range(1, len(cells)):
                if (cells[at] - cells[at - 1]) * better.sign < 0:
                    words = say(
                        "{cells} is worse than {cells2} in column {names}.",
                        cells=f"{cells[at]:g}",
                        cells2=f"{cells[at - 1]:g}",
                        names=names[at - 1],
                    )
                    self.faults.append(TableFault(number, names[at], words))

    def lms(self) -> LmsTable:
        grouped: dict[str, list[LmsRow]] = {}
        for (sex, age), (_, cells) in sorted(self.found.items()):
            grouped.setdefault(sex, []).append(LmsRow(age, *cells))
        return LmsTable({sex: tuple(rows) for sex, rows in grouped.items()})
