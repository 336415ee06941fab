"""The days on which a school holds lessons, and when a test is due again."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from datetime import date, timedelta
from typing import Final, NamedTuple

#: A test is given again after about half a term (common practice: two or three times a year, never
#: within a few weeks).
RETEST_WEEKS: Final = 8
#: A test that was not given for so long has been dropped (common practice).
DROPPED_WEEKS: Final = 66


class Span(NamedTuple):
    """Days from one to another, both included."""

    starts: date
    ends: date

    def holds(self, day: date) -> bool:
        return self.starts <= day <= self.ends


def is_school_day(day: date, terms: Collection[Span], holidays: Collection[Span]) -> bool:
    """Whether lessons are held: within a term, where the school has said its terms, and not in a
    holiday. Which days of the week there are lessons on is the timetable's."""
    if any(holiday.holds(day) for holiday in holidays):
        return False
    return not terms or any(term.holds(day) for term in terms)


def days_of(
    weekday: int, span: Span, terms: Collection[Span], holidays: Collection[Span]
) -> Iterator[date]:
    """The school days of one day of the week (0 is Monday) within a span."""
    day = span.starts + timedelta(days=(weekday - span.starts.weekday()) % 7)
    while day <= span.ends:
        if is_school_day(day, terms, holidays):
            yield day
        day += timedelta(days=7)


def is_due_again(last: date, today: date, terms: Collection[Span]) -> bool:
    """Whether a test that was given last on a day is due: in a later term than that, or after so
    many weeks. One that was not given for longer than a school year and a term is not due: the
    class does it no more."""
    now = next((term for term in terms if term.holds(today)), None)
    weeks = (today - last).days / 7
    if weeks > DROPPED_WEEKS:
        return False
    if now is not None and last < now.starts:
        return weeks >= 3  # not in the first days after a short holiday
    return weeks >= RETEST_WEEKS
