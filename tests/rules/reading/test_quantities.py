"""Units against their legal definitions, and values that come back as they were written."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.reading.entry import EntryError, read_entry
from lauf.rules.reading.kinds import format_difference, format_number, format_value
from lauf.rules.reading.quantities import GRAMS, MILLIMETRES, Better, Kind, Measure, to_step

COUNT = Measure(Kind.COUNT, highest=5000)
HOLD = Measure(Kind.TIME, unit="s", resolution=100, highest=3_600_000)
RUN = Measure(Kind.TIME, Better.DOWN, unit="s", resolution=10, highest=3_600_000)
JUMP = Measure(Kind.LENGTH, unit="cm", resolution=10, highest=4_000)
THROW = Measure(Kind.LENGTH, unit="m", resolution=10, highest=90_000)


@pytest.mark.parametrize(
    ("unit", "metres"),
    [
        # International yard and pound agreement, 1 July 1959: 1 yd = 0.9144 m exactly;
        # 3 ft = 1 yd, 36 in = 1 yd, 1760 yd = 1 mile.
        ("yd", Fraction(9144, 10_000)),
        ("ft", Fraction(9144, 10_000) / 3),
        ("in", Fraction(9144, 10_000) / 36),
        ("mile", Fraction(9144, 10_000) * 1760),
        # SI prefixes (BIPM, The International System of Units, 9th edition).
        ("mm", Fraction(1, 1000)),
        ("cm", Fraction(1, 100)),
        ("m", Fraction(1)),
    ],
)
def test_lengths_have_their_legal_factor(unit: str, metres: Fraction) -> None:
    assert MILLIMETRES[unit] == metres * 1000


def test_the_pound_has_its_legal_factor() -> None:
    # The same agreement: 1 lb = 0.45359237 kg exactly.
    assert GRAMS["lb"] / GRAMS["kg"] == Fraction(45_359_237, 100_000_000)


@pytest.mark.parametrize(
    ("value", "measure", "shown"),
    [
        (0, COUNT, "0"),
        (42, COUNT, "42"),
        (48_500, HOLD, "48.5 s"),
        (60_000, HOLD, "1:00"),
        (65_300, HOLD, "1:05.3"),
        (600_000, HOLD, "10:00"),
        (9_870, RUN, "9.87 s"),
        (1270, JUMP, "127 cm"),
        (12_340, THROW, "12.34 m"),
    ],
)
def test_values_are_written_as_teachers_write_them(
    value: int, measure: Measure, shown: str
) -> None:
    assert format_value(value, measure) == shown


def test_differences_carry_their_unit() -> None:
    assert format_difference(3, COUNT) == "3"
    assert format_difference(1_500, HOLD) == "1.5 s"
    assert format_difference(65_000, HOLD) == "65 s"
    assert format_difference(120, JUMP) == "12 cm"


@given(st.sampled_from([COUNT, HOLD, RUN, JUMP, THROW]), st.data())
def test_reading_what_was_formatted_gives_the_same_value(
    measure: Measure, data: st.DataObject
) -> None:
    steps = data.draw(st.integers(0, measure.highest // measure.resolution))
    value = steps * measure.resolution
    for text in (format_value(value, measure), format_number(value, measure)):
        # A bare decimal such as 1.05 may be ambiguous by design; with its unit it never is.
        if measure.kind is Kind.TIME and ":" not in text and not text.endswith("s"):
            text += " s"
        # A length so short that its unit is not certain is asked about, and offers this reading.
        try:
            assert read_entry(text, measure).value == value
        except EntryError as asked:
            assert value in [read_entry(one.typed, measure).value for one in asked.choices]


@given(st.fractions(min_value=0, max_value=10**6), st.integers(1, 1000))
def test_rounding_is_to_the_nearest_step_halves_away_from_nought(
    exact: Fraction, resolution: int
) -> None:
    rounded = to_step(exact, resolution)
    assert rounded % resolution == 0
    assert abs(exact - rounded) <= Fraction(resolution, 2)
    # Halves go away from nought: a loss is rounded as the gain that mirrors it.
    assert to_step(-exact, resolution) == -rounded
    assert to_step(Fraction(5, 2), 1) == 3 and to_step(Fraction(-5, 2), 1) == -3
