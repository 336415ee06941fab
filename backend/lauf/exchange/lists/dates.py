"""Birth dates as people and spreadsheets write them. A column is read in one order; where nothing
in it says which, the order is asked for."""

from __future__ import annotations

import re
from collections.abc import Iterable
from datetime import date, timedelta
from enum import StrEnum
from typing import Final

from lauf.messages import say


class Order(StrEnum):
    """Which number of a date comes first."""

    DAY = "day"
    MONTH = "month"


_ISO: Final = re.compile(r"(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[T ].*)?")
_NUMBERS: Final = re.compile(r"(\d{1,2})\s*([-/.])\s*(\d{1,2})\s*\2\s*(\d{4}|\d{2})(?: .*)?")
_NAMED: Final = re.compile(
    r"(?:(?P<d1>\d{1,2})(?:st|nd|rd|th|\.)?[\s/-]+(?P<m1>[^\W\d]{3,10})\.?[\s,/-]+"
    r"|(?P<m2>[^\W\d]{3,10})\.?[\s/-]+(?P<d2>\d{1,2})(?:st|nd|rd|th)?,?[\s/-]+)(?P<y>\d{4}|\d{2})"
)
_SERIAL: Final = re.compile(r"\d{5}(?:\.\d+)?")
#: Day 0 of spreadsheets (ECMA-376 part 1, 18.17.4.1: the 1900 date base), so that their day 60,
#: which never was, lies behind us.
_DAY_NOUGHT: Final = date(1899, 12, 30)
_MONTHS: Final = {
    name: number
    for number, names in enumerate(
        ("jan januar january jänner janvier enero",
         "feb februar february feber février fevrier febrero",
         "mar mär mrz märz march mars marzo", "apr april avril abril", "may mai mayo",
         "jun juni june juin junio", "jul juli july juillet julio", "aug august août aout agosto",
         "sep sept september septembre septiembre", "oct okt oktober october octobre octubre",
         "nov november novembre noviembre",
         "dec dez dezember december décembre decembre diciembre"),
        1,
    )
    for name in names.split()
}  # fmt: skip


def looks_like_date(cell: str) -> bool:
    """Whether a cell can be a date, a spreadsheet's bare number aside."""
    return bool(_ISO.fullmatch(cell) or _NUMBERS.fullmatch(cell) or _NAMED.fullmatch(cell.lower()))


def order_of(cells: Iterable[str]) -> tuple[set[Order], bool]:
    """The orders that a column of dates shows by a number that can be no month; and whether any
    date in it depends on the order."""
    shown: set[Order] = set()
    open_ = False
    for cell in cells:
        found = _NUMBERS.fullmatch(cell)
        if not found:
            continue
        first, mark, second = int(found[1]), found[2], int(found[3])
        if mark == ".":
            continue  # with points the day comes first, everywhere
        if first > 12 >= second:
            shown.add(Order.DAY)
        elif second > 12 >= first:
            shown.add(Order.MONTH)
        elif first != second:
            open_ = True
    return shown, open_


def read_date(cell: str, order: Order, today: date) -> date:
    """One date, read in an order. Raises ValueError saying what is accepted."""
    text = cell.strip()
    try:
        if found := _ISO.fullmatch(text):
            return date(int(found[1]), int(found[2]), int(found[3]))
        if found := _NUMBERS.fullmatch(text):
            first, second = int(found[1]), int(found[3])
            day_first = order is Order.DAY or found[2] == "."
            day, month = (first, second) if day_first else (second, first)
            return date(_year(found[4], today), month, day)
        if found := _NAMED.fullmatch(text.lower()):
            month = _MONTHS[found["m1"] or found["m2"]]
            return date(_year(found["y"], today), month, int(found["d1"] or found["d2"]))
        if _SERIAL.fullmatch(text):
            return _DAY_NOUGHT + timedelta(days=int(float(text)))
    except (ValueError, KeyError):
        pass
    raise ValueError(
        say(
            "“{cell}” is not a date. Write it as 2018-05-31, 31/05/2018 or 31 May 2018.",
            cell=cell,
        )
    )


def _year(digits: str, today: date) -> int:
    """Two digits are of the hundred years that end today: nobody is born later."""
    year = int(digits)
    if len(digits) == 4:
        return year
    year += today.year // 100 * 100
    return year if year <= today.year else year - 100
