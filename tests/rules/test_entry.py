"""Reading scores as people type them."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.entry import (
    Entry,
    EntryError,
    NotDone,
    accepted_words,
    quick_check,
    read_entry,
)
from lauf.rules.quantities import Better, Kind, Measure

COUNT = Measure(Kind.COUNT, highest=200, cap=60)
HOLD = Measure(Kind.TIME, unit="s", resolution=100, highest=900_000)
SPRINT = Measure(Kind.TIME, Better.DOWN, unit="s", resolution=10, highest=20_000, lowest=2_000)
JUMP = Measure(Kind.LENGTH, unit="cm", resolution=10, highest=4_000)
IN_INCHES = Measure(Kind.LENGTH, unit="in", resolution=1, highest=4_000)
MEASURES = [COUNT, HOLD, SPRINT, JUMP, IN_INCHES]


@pytest.mark.parametrize(
    ("typed", "measure", "value"),
    [
        ("42", COUNT, 42),
        (" 7 ", COUNT, 7),
        ("0", COUNT, 0),
        ("60", COUNT, 60),
        ("007", COUNT, 7),
        ("1:05", HOLD, 65_000),
        ("1:05.3", HOLD, 65_300),
        ("1:5", HOLD, 65_000),
        ("65", HOLD, 65_000),
        ("65.3", HOLD, 65_300),
        ("65,3", HOLD, 65_300),
        ("105s", HOLD, 105_000),
        ("105 sec", HOLD, 105_000),
        ("1m05", HOLD, 65_000),
        ("1m05s", HOLD, 65_000),
        ("1 min 5 s", HOLD, 65_000),
        ("2m", HOLD, 120_000),
        ("1.5 min", HOLD, 90_000),
        ("0.5", HOLD, 500),
        (".5", HOLD, 500),
        ("1.05s", HOLD, 1_100),  # to the hold's tenth of a second, halves up
        ("9.87", SPRINT, 9_870),
        ("9.8749", SPRINT, 9_870),
        # 33 in = 838.2 mm, to the centimetre 84 cm (1 in = 25.4 mm exactly).
        ("33in", JUMP, 840),
        ('33"', JUMP, 840),
        ("33”", JUMP, 840),
        ("33in", IN_INCHES, 838),
        ("33", IN_INCHES, 838),
        ("4'2", JUMP, 1270),
        ("4’2”", JUMP, 1270),
        ("4ft 2in", JUMP, 1270),
        ("4 feet", JUMP, 1220),
        ("127", JUMP, 1270),
        ("1.27m", JUMP, 1270),
        ("127cm", JUMP, 1270),
        ("1274 mm", JUMP, 1270),
        ("1275mm", JUMP, 1280),
        ("1yd", JUMP, 910),
    ],
)
def test_what_is_accepted(typed: str, measure: Measure, value: int) -> None:
    assert read_entry(typed, measure) == Entry(typed=typed.strip(), value=value)


@pytest.mark.parametrize(
    ("typed", "measure", "says"),
    [
        ("", COUNT, "Nothing was typed"),
        ("4o", COUNT, "is not a count"),
        ("-3", COUNT, "is below zero"),
        ("−3", COUNT, "is below zero"),
        ("900", COUNT, "over this test's own maximum of 60"),
        ("61", COUNT, "over this test's own maximum of 60"),
        ("12.5", COUNT, "count only finished ones"),
        ("4 2", COUNT, "is not a count"),
        ("1e3", COUNT, "is not a count"),
        ("٤٢", COUNT, "is not a score"),
        ("4²", COUNT, "is not a score"),
        ("1:75", HOLD, "is not a time"),
        ("1:05:09", HOLD, "is not a time"),
        ("16:00", HOLD, "more than anyone can do"),
        ("abc", HOLD, "is not a time"),
        ("1.9", SPRINT, "faster than anyone"),
        ("21", SPRINT, "more than anyone"),
        ("127kg", JUMP, "is not a length"),
        ("5m", JUMP, "more than anyone"),
        ("--", JUMP, "is not a length"),
        ("a~", COUNT, "reason cannot be an estimate"),
        ("~", COUNT, "is not a count"),
        ("9" * 200, COUNT, "too long"),
    ],
)
def test_what_is_refused_says_what_is_accepted(typed: str, measure: Measure, says: str) -> None:
    with pytest.raises(EntryError) as refused:
        read_entry(typed, measure)
    assert says in refused.value.message
    assert refused.value.accepted == accepted_words(measure)


@pytest.mark.parametrize(
    ("typed", "reason"),
    [
        ("a", NotDone.ABSENT),
        ("X", NotDone.SAT_OUT),
        (" k", NotDone.NO_KIT),
        ("r", NotDone.DID_NOT_WANT),
        ("v", NotDone.VOID),
    ],
)
def test_reasons_are_values_of_their_own(typed: str, reason: NotDone) -> None:
    for measure in MEASURES:
        entry = read_entry(typed, measure)
        assert (entry.reason, entry.value) == (reason, None)


@pytest.mark.parametrize("typed", ["42~", "42 ~", "~42"])
def test_a_tilde_marks_an_estimate(typed: str) -> None:
    assert read_entry(typed, COUNT) == Entry(typed=typed, value=42, estimate=True)


def test_minutes_and_seconds_typed_as_a_decimal_are_asked_about() -> None:
    with pytest.raises(EntryError) as asked:
        read_entry("1.05", HOLD)
    assert [choice.typed for choice in asked.value.choices] == ["1:05", "1.05s"]
    assert read_entry("1:05", HOLD).value == 65_000
    # Not ambiguous: 9.87 has no 87 seconds; 1.05 min would be longer than this sprint may last.
    assert read_entry("9.87", SPRINT).value == 9_870
    assert read_entry("3.05", SPRINT).value == 3_050


@given(st.text(max_size=50), st.sampled_from(MEASURES))
def test_any_text_is_an_entry_or_is_refused_with_what_is_accepted(
    text: str, measure: Measure
) -> None:
    try:
        entry = read_entry(text, measure)
    except EntryError as refused:
        assert refused.accepted
        return
    assert (entry.value is None) != (entry.reason is None)
    if entry.value is not None:
        assert measure.lowest <= entry.value <= measure.ceiling
        assert entry.value % measure.resolution == 0


@given(
    st.text(alphabet="0123456789.:~ '\"mscinft", min_size=1, max_size=9), st.sampled_from(MEASURES)
)
def test_the_browsers_quick_check_refuses_nothing_that_is_accepted(
    text: str, measure: Measure
) -> None:
    quick = quick_check(measure)
    try:
        entry = read_entry(text, measure)
    except EntryError:
        return
    if entry.value is not None:
        assert re.fullmatch(quick.pattern, text.strip(), re.I)
        assert quick.highest is None or entry.value <= quick.highest
