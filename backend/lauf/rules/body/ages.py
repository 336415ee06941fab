"""Ages and school years."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Final

from lauf.messages import say


@dataclass(frozen=True, slots=True)
class CutOff:
    """The day of the year on which a school's year groups change (default 1 September)."""

    month: int = 9
    day: int = 1


def school_year(on: date, cut_off: CutOff = CutOff()) -> int:
    """The calendar year in which the school year holding this day began."""
    return on.year if (on.month, on.day) >= (cut_off.month, cut_off.day) else on.year - 1


def age_in_years(born: date, on: date) -> int:
    """Completed years on that day. A child born on 29 February has its birthday on 1 March
    of a common year. Raises ValueError before birth."""
    if on < born:
        raise ValueError(say("The day is before the birth date."))
    return on.year - born.year - ((on.month, on.day) < (born.month, born.day))


def decimal_age(born: date, on: date) -> float:
    """Age in years with the part of the running year of life, to the day."""
    whole = age_in_years(born, on)
    last = _birthday(born, born.year + whole)
    following = _birthday(born, born.year + whole + 1)
    return whole + (on - last).days / (following - last).days


def age_on_cut_off(born: date, on: date, cut_off: CutOff = CutOff()) -> int:
    """Completed years on the day before the running school year began: decides the year group."""
    year = school_year(on, cut_off)
    return year - born.year - ((cut_off.month, cut_off.day) <= (born.month, born.day))


def _birthday(born: date, year: int) -> date:
    try:
        return born.replace(year=year)
    except ValueError:  # 29 February in a common year
        return date(year, 3, 1)


#: Years a child may be older or younger than its year group before the birth date is a slip
#: (common practice: children are put back or forward by a year or two at the most).
ODD_AGE: Final = 3


def is_odd_age(age: int, usual: int) -> bool:
    """Whether a child of an age, in completed years when the school year began, hardly can be in a
    year group of the usual one."""
    return abs(age - usual) > ODD_AGE


#: The ways schools name their year groups: name and age in completed years when the school year
#: begins (common practice; ages by the usual beginning of school in each).
YEAR_GROUP_WAYS: Final[dict[str, list[tuple[str, int]]]] = {
    "Years": [(say("Reception"), 4)] + [(say("Year {n}", n=n), n + 4) for n in range(1, 7)],
    "Grades": [(say("Kindergarten"), 5)] + [(say("Grade {n}", n=n), n + 5) for n in range(1, 6)],
    "Primaries": [(say("Primary {n}", n=n), n + 4) for n in range(1, 8)],
    "Klassen": [(say("Klasse {n}", n=n), n + 5) for n in range(1, 5)],
}
