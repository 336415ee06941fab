"""The days on which a school holds lessons, and when a test is due again."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.planning.school_days import RETEST_WEEKS, Span, days_of, is_due_again, is_school_day

AUTUMN = Span(date(2026, 9, 3), date(2026, 12, 18))
SPRING = Span(date(2027, 1, 5), date(2027, 3, 26))
HALF = Span(date(2026, 10, 26), date(2026, 10, 30))


@pytest.mark.parametrize(
    ("day", "held"),
    [
        (date(2026, 9, 2), False), (date(2026, 9, 3), True), (date(2026, 10, 25), True),
        (date(2026, 10, 26), False), (date(2026, 10, 30), False), (date(2026, 10, 31), True),
        (date(2026, 12, 18), True), (date(2026, 12, 19), False), (date(2027, 1, 5), True),
    ],
)  # fmt: skip
def test_lessons_are_in_a_term_and_not_in_a_holiday(day: date, held: bool) -> None:
    assert is_school_day(day, [AUTUMN, SPRING], [HALF]) is held


def test_a_school_without_terms_has_lessons_but_in_its_holidays() -> None:
    assert is_school_day(date(2026, 8, 1), [], [HALF])
    assert not is_school_day(date(2026, 10, 28), [], [HALF])


DAYS = st.dates(date(2020, 1, 1), date(2040, 1, 1))


@given(st.integers(0, 6), DAYS, st.integers(0, 400))
def test_days_of_a_weekday_are_all_of_it_and_nothing_else(
    weekday: int, first: date, length: int
) -> None:
    span = Span(first, first + timedelta(days=length))
    found = list(days_of(weekday, span, [], []))
    every = [first + timedelta(days=n) for n in range(length + 1)]
    assert found == [day for day in every if day.weekday() == weekday]


@pytest.mark.parametrize(
    ("last", "today", "due"),
    [
        (date(2026, 9, 10), date(2026, 11, 4), False),  # in this term, seven weeks and six days
        (date(2026, 9, 10), date(2026, 11, 5), True),  # eight weeks
        (date(2026, 12, 10), date(2027, 1, 6), True),  # in the term before
        (date(2026, 12, 18), date(2027, 1, 6), False),  # in its last days
        (date(2026, 7, 1), date(2026, 8, 1), False),  # no term is on
        (date(2025, 9, 10), date(2026, 11, 5), True),  # every autumn
        (date(2025, 7, 1), date(2026, 11, 5), False),  # dropped: the class does it no more
    ],
)
def test_a_test_is_due_again_in_a_later_term_or_after_weeks(
    last: date, today: date, due: bool
) -> None:
    assert is_due_again(last, today, [AUTUMN, SPRING]) is due
    assert RETEST_WEEKS == 8
