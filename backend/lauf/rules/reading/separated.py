"""Text with separators as rows of cells: comma, semicolon, tab or bar, any kind of line end."""

from __future__ import annotations

import csv
import io
from itertools import islice
from typing import Final

SEPARATORS: Final = "\t;,|"
#: Rows that are enough to tell the separator by.
_ENOUGH: Final = 60


def cells_of(text: str) -> list[list[str]]:
    """The rows of a text as they stand. A first line may name the separator, as spreadsheets do.
    Raises csv.Error for what is no table.

    >>> cells_of("sep=;\\na;b,c\\n1;2")
    [['a', 'b,c'], ['1', '2']]
    """
    first, _, rest = text.partition("\n")
    if first.strip().lower() in {f"sep={one}" for one in SEPARATORS}:
        text, separator = rest, first.strip()[4]
    else:
        separator = separator_of(text)
    return list(csv.reader(io.StringIO(text, newline=None), delimiter=separator))


def separator_of(text: str) -> str:
    """The separator that cuts the most rows into the same number of cells, more than one. Rows end
    as they do when the table is read: a line end of another kind stands inside a cell."""
    best, score = ",", 0.0
    for separator in SEPARATORS:
        rows = csv.reader(io.StringIO(text, newline=None), delimiter=separator)
        try:
            widths = [len(row) for row in islice(filter(any, rows), _ENOUGH)]
        except csv.Error:
            continue
        counts = {width: widths.count(width) for width in set(widths) if width > 1}
        if not counts:
            continue
        width = max(counts, key=lambda one: (counts[one], one))
        found = counts[width] + width / 100
        if found > score + 0.001:
            best, score = separator, found
    return best
