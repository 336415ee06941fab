"""Files of norm tables, read in a process of their own (`lauf.sandbox`)."""

from __future__ import annotations

from typing import Any

from lauf.plain_json import JsonObject
from lauf.rules.judging.norm_tables import ReadTable, TableFault, read_table
from lauf.rules.judging.norms import LmsRow, LmsTable, PercentileTable
from lauf.rules.reading.quantities import Better
from lauf.sandbox.run import read_apart


def read_norm_file(text: str, better: Better, *, at_points: bool) -> ReadTable:
    """`rules.tables.read_table`, within bounds. Raises Refused for a file that takes more."""
    found = read_apart(read_in_process, text.encode(), better=better.value, at_points=at_points)
    faults = tuple(TableFault(*one) for one in found["faults"])
    rows = found["rows"]
    match found["form"]:
        case "percentiles":
            scores = {(sex, age): tuple(cells) for sex, age, cells in rows}
            table = PercentileTable(tuple(found["percentiles"]), scores, better, at_points)
            return ReadTable(faults, percentiles=table)
        case "lms":
            by_sex = {
                sex: tuple(LmsRow(age, *cells) for one, age, cells in rows if one == sex)
                for sex, _, _ in rows
            }
            return ReadTable(faults, lms=LmsTable(by_sex))
        case _:
            return ReadTable(faults)


def read_in_process(data: bytes, *, better: str, at_points: bool) -> JsonObject:
    """What runs in the process: the table as JSON."""
    read = read_table(data.decode(), Better(better), at_points=at_points)
    form, percentiles, rows = "", list[float](), list[Any]()
    if read.percentiles:
        form, percentiles = "percentiles", list(read.percentiles.percentiles)
        rows = [[sex, age, list(cells)] for (sex, age), cells in read.percentiles.rows.items()]
    elif read.lms:
        form = "lms"
        rows = [
            [sex, row.age, [row.l, row.m, row.s]]
            for sex, found in read.lms.rows.items()
            for row in found
        ]
    faults = [[one.row, one.column, one.words] for one in read.faults]
    return {"form": form, "percentiles": percentiles, "rows": rows, "faults": faults}
