"""Every kind of score, read as people type it: a table of good and bad entries."""

from __future__ import annotations

import re
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.entry import REASON_KEYS, EntryError, NotDone, quick_check, read_entry
from lauf.rules.quantities import Better, Kind, Measure, format_number, format_value, to_step
from lauf.rules.shuttle import EVEN, JUMP, most_shuttles

LONG_JUMP = Measure(Kind.LENGTH, unit="cm", resolution=10, highest=4_000)
REACH = Measure(Kind.MARKS, unit="cm", resolution=10, highest=1_000)
SIT_REACH = Measure(Kind.OFFSET, unit="cm", resolution=5, lowest=-400, highest=400)
WALL = Measure(Kind.OFFSET, unit="cm", resolution=10, lowest=-400, highest=0, cap=0)
SIDES = Measure(Kind.SIDES, highest=2)
HITS = Measure(Kind.HITS, highest=10, of=10)
STAGED = Measure(Kind.STAGE, highest=most_shuttles(EVEN), schedule=EVEN)
STAGED_JUMP = Measure(Kind.STAGE, highest=most_shuttles(JUMP), schedule=JUMP)
LAPS = Measure(Kind.LAPS, unit="m", resolution=100, highest=5_000_000, lap_mm=48_000)
MILE = Measure(
    Kind.TIME, Better.DOWN, "s", 1000, 3_600_000, 240_000, lap_mm=160_934, target_mm=1_609_344
)
TOTAL = Measure(Kind.TOTAL, highest=300)
WEIGHT = Measure(Kind.MASS, unit="kg", resolution=100, lowest=8_000, highest=150_000)
PULSE = Measure(Kind.PULSE, unit="bpm", lowest=30, highest=240)
HOLD = Measure(Kind.TIME, unit="s", resolution=100, highest=900_000)

#: 1 ft = 304.8 mm, 1 in = 25.4 mm, 1 yd = 914.4 mm exactly (agreement of 1959);
#: 1 lb = 453.59237 g exactly; 1 stone = 14 lb.
GOOD = [
    ("127", LONG_JUMP, 1270), ("127cm", LONG_JUMP, 1270), ("1.27m", LONG_JUMP, 1270),
    ("1,27 m", LONG_JUMP, 1270), ("4ft 2in", LONG_JUMP, 1270), ("4'2\"", LONG_JUMP, 1270),
    ("50in", LONG_JUMP, 1270), ("1270mm", LONG_JUMP, 1270), ("1yd", LONG_JUMP, 910),
    ("142 171", REACH, 290), ("142/171", REACH, 290), ("142cm 1.71m", REACH, 290),
    ("4'8 5'7", REACH, 280), ("29", REACH, 290), ("142 -> 171", REACH, 290),
    ("-5", SIT_REACH, -50), ("−5", SIT_REACH, -50), ("+3", SIT_REACH, 30), ("3", SIT_REACH, 30),
    ("0", SIT_REACH, 0), ("-2.5", SIT_REACH, -25), ("-2in", SIT_REACH, -50), ("-0", WALL, 0),
    ("-8", WALL, -80), ("+ 3cm", SIT_REACH, 30),
    ("L y R n", SIDES, 1), ("l y r y", SIDES, 2), ("R n L n", SIDES, 0), ("y n", SIDES, 1),
    ("yy", SIDES, 2), ("n,y", SIDES, 1), ("both", SIDES, 2), ("none", SIDES, 0),
    ("✓ ✗", SIDES, 1), ("yes/no", SIDES, 1), ("Ly Rn", SIDES, 1),
    ("7/10", HITS, 7), ("7", HITS, 7), ("7 of 10", HITS, 7), ("0", HITS, 0),
    ("xxoxooxxxo", HITS, 6), ("10 out of 10", HITS, 10),
    ("4.6", STAGED, 29), ("1.0", STAGED, 0), ("1.7", STAGED, 7), ("2.1", STAGED, 8),
    ("2.8", STAGED_JUMP, 15), ("5:3", STAGED, 34), ("4 6", STAGED, 29),
    ("7", LAPS, 336_000), ("7+12m", LAPS, 348_000), ("7+12", LAPS, 348_000),
    ("7.5", LAPS, 360_000), ("7 laps", LAPS, 336_000), ("480m", LAPS, 480_000),
    ("500yd", LAPS, 457_200), ("7½", LAPS, 360_000), ("0", LAPS, 0),
    ("9:58", MILE, 598_000), ("12m30", MILE, 750_000), ("10", MILE, None),
    ("2:20 4:55 7:30 9:58", MILE, 598_000),
    ("250", TOTAL, 250), ("50+60+40", TOTAL, 150), ("c40+100+60", TOTAL, 200),
    ("c40 + 20", TOTAL, 60), ("0", TOTAL, 0),
    ("31.5", WEIGHT, 31_500), ("31.5kg", WEIGHT, 31_500), ("69lb", WEIGHT, 31_300),
    ("69 lbs", WEIGHT, 31_300), ("4st 13lb", WEIGHT, 31_300), ("5 stone", WEIGHT, 31_800),
    ("31500g", WEIGHT, 31_500),
    ("132", PULSE, 132), ("22/10s", PULSE, 132), ("22/10", PULSE, 132), ("33 in 15", PULSE, 132),
    ("66/30", PULSE, 132), ("132bpm", PULSE, 132), ("44/20s", PULSE, 132),
]  # fmt: skip
BAD = [
    ("127kg", LONG_JUMP), ("-5", LONG_JUMP), ("12 7", LONG_JUMP), ("9m", LONG_JUMP),
    ("171 142", REACH), ("142 171 180", REACH), ("2m 4m", REACH),
    ("+1", WALL), ("--5", SIT_REACH), ("-60", SIT_REACH), ("five", SIT_REACH),
    ("y", SIDES), ("1", SIDES), ("L y", SIDES), ("L y L n", SIDES), ("maybe no", SIDES),
    ("11", HITS), ("11/10", HITS), ("7/12", HITS), ("xox", HITS), ("7.5", HITS),
    ("1.8", STAGED), ("0.3", STAGED), ("22.1", STAGED), ("4", STAGED), ("46", STAGED),
    ("7+48m", LAPS), ("7.5+12", LAPS), ("-1", LAPS), ("7 8", LAPS),
    ("3:30", MILE), ("9:58 9:40", MILE), ("10+5m", MILE), ("1609.344m run", MILE), ("61:00", MILE),
    ("301", TOTAL), ("c40+c40", TOTAL), ("50+-3", TOTAL), ("50+", TOTAL),
    ("7kg", WEIGHT), ("400lb", WEIGHT), ("31.5cm", WEIGHT),
    ("22", PULSE), ("241", PULSE), ("22/12", PULSE), ("60/10", PULSE),
    ("٤٢", LONG_JUMP), ("12cm3", LONG_JUMP), ("", HITS), ("~", HITS),
]  # fmt: skip


@pytest.mark.parametrize(("typed", "measure", "value"), [g for g in GOOD if g[2] is not None])
def test_good_entries(typed: str, measure: Measure, value: int) -> None:
    entry = read_entry(typed, measure)
    assert entry.value == value
    assert entry.reason is None and not entry.estimate
    # What the browser may hold back never includes what the reader takes.
    assert re.fullmatch(quick_check(measure).pattern, typed.strip(), re.I)


@pytest.mark.parametrize(("typed", "measure"), BAD)
def test_bad_entries_say_what_is_accepted(typed: str, measure: Measure) -> None:
    with pytest.raises(EntryError) as refused:
        read_entry(typed, measure)
    assert refused.value.message
    assert refused.value.accepted.startswith(("Type ", "Set "))


def test_the_table_is_as_long_as_promised() -> None:
    assert len(GOOD) + len(BAD) >= 80


def test_what_a_score_is_made_of_is_kept() -> None:
    assert read_entry("142 171", REACH).parts == {"standing_mm": 1420, "jumping_mm": 1710}
    assert read_entry("L y R n", SIDES).parts == {"left": True, "right": False}
    assert read_entry("R y L n", SIDES).parts == {"left": False, "right": True}
    assert read_entry("xxoxooxxxo", HITS).parts == {"shots": "xxoxooxxxo", "of": 10}
    assert read_entry("4.6", STAGED).parts == {"stage": 4, "shuttle": 6}
    assert read_entry("c40+100+60", TOTAL).parts == {"carried": 40, "movements": [100, 60]}
    assert read_entry("22/10s", PULSE).parts == {"beats": 22, "seconds": 10}
    assert read_entry("2:20 4:55 7:30 9:58", MILE).parts == {
        "splits": [140_000, 295_000, 450_000, 598_000]
    }


def test_an_unfinished_try_keeps_its_metres_and_has_no_time() -> None:
    for typed, distance in (("6 laps", 965_600), ("6+20m", 985_600), ("1.2km run", 1_200_000)):
        entry = read_entry(typed, MILE)
        assert (entry.value, entry.reason) == (None, NotDone.UNFINISHED)
        assert entry.parts["distance_mm"] == distance


def test_an_informal_length_has_no_value_of_its_own() -> None:
    entry = read_entry("8 hands", LONG_JUMP)
    assert entry.informal and entry.value is None and entry.reason is None
    assert entry.parts == {"informal": 8000, "informal_unit": "hand"}
    assert read_entry("6.5 spans~", LONG_JUMP).parts["informal"] == 6500
    assert read_entry("6.5 spans~", LONG_JUMP).estimate


def test_a_hold_cannot_outlast_the_clock() -> None:
    assert read_entry("58", HOLD, ran_ms=60_000).value == 58_000
    assert read_entry("61.5", HOLD, ran_ms=60_000).value == 61_500  # a hand's slack
    with pytest.raises(EntryError, match="longer than the clock had run"):
        read_entry("70", HOLD, ran_ms=60_000)


def test_an_ambiguous_time_offers_both_readings() -> None:
    with pytest.raises(EntryError) as asked:
        read_entry("1.05", HOLD)
    values = [read_entry(choice.typed, HOLD).value for choice in asked.value.choices]
    assert values == [65_000, 1_100]


@st.composite
def values_with_measures(draw: st.DrawFn) -> tuple[int, Measure]:
    kinds = [LONG_JUMP, SIT_REACH, HITS, STAGED, STAGED_JUMP, LAPS, TOTAL, WEIGHT, PULSE, HOLD]
    measure = draw(st.sampled_from(kinds))
    steps = draw(st.integers(measure.lowest, measure.ceiling))
    return to_step(Fraction(steps), measure.resolution), measure


@given(values_with_measures())
def test_reading_what_was_formatted_gives_the_same_value(case: tuple[int, Measure]) -> None:
    value, measure = case
    if not measure.lowest <= value <= measure.ceiling:
        return
    shown = format_number(value, measure)
    if measure.kind is Kind.TIME and ":" not in shown:
        shown += "s"  # 1.05 alone is ambiguous, and says so
    assert read_entry(shown, measure).value == value
    assert format_value(value, measure)


@given(st.text(max_size=45), st.sampled_from([m for _, m, _ in GOOD]))
def test_any_text_is_read_or_refused_with_words(text: str, measure: Measure) -> None:
    try:
        entry = read_entry(text, measure)
    except EntryError as refused:
        assert refused.message and refused.accepted
        return
    shapes = (entry.value is not None, entry.reason is not None, entry.informal)
    assert sum(shapes) == 1
    if entry.value is not None:
        assert measure.lowest <= entry.value <= measure.ceiling
    if entry.reason not in (None, NotDone.UNFINISHED):
        assert text.strip().lower() in REASON_KEYS
