"""Ages and school years."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.body.ages import CutOff, age_in_years, age_on_cut_off, decimal_age, school_year

DAYS = st.dates(date(2005, 1, 1), date(2035, 12, 31))


@pytest.mark.parametrize(
    ("born", "on", "years"),
    [
        (date(2018, 9, 1), date(2026, 8, 31), 7),
        (date(2018, 9, 1), date(2026, 9, 1), 8),
        (date(2016, 2, 29), date(2025, 2, 28), 8),
        (date(2016, 2, 29), date(2025, 3, 1), 9),
        (date(2016, 2, 29), date(2024, 2, 29), 8),
    ],
)
def test_completed_years(born: date, on: date, years: int) -> None:
    assert age_in_years(born, on) == years


def test_the_year_group_is_decided_by_the_cut_off() -> None:
    # Common practice: in Year 4 a child turns nine between 1 September and 31 August.
    assert age_on_cut_off(date(2018, 8, 31), date(2026, 11, 1)) == 8
    assert age_on_cut_off(date(2018, 9, 1), date(2026, 11, 1)) == 7
    assert school_year(date(2026, 8, 31)) == 2025
    assert school_year(date(2026, 9, 1)) == 2026
    assert school_year(date(2026, 3, 1), CutOff(1, 1)) == 2026


def test_nobody_is_tested_before_birth() -> None:
    with pytest.raises(ValueError, match="before the birth"):
        age_in_years(date(2020, 1, 2), date(2020, 1, 1))


@given(DAYS, DAYS, DAYS)
def test_decimal_age_grows_with_the_day_and_is_whole_on_birthdays(
    born: date, one: date, other: date
) -> None:
    earlier, later = sorted((one, other))
    if earlier < born:
        return
    assert decimal_age(born, earlier) <= decimal_age(born, later)
    assert int(decimal_age(born, later)) == age_in_years(born, later)
