"""Reading scores as people type them: a table of written entries, and what holds for any text."""

from __future__ import annotations

import re
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.reading.entry import (
    EntryError,
    accepted_words,
    entry_words,
    quick_check,
    read_entry,
    reason_keys,
)
from lauf.rules.reading.kinds import format_number, format_value
from lauf.rules.reading.quantities import Kind, Measure, to_step
from lauf.rules.reading.reasons import REASON_KEYS, REASON_TYPED, NotDone
from tests.rules.reading.entries import (
    ASKED,
    BAD,
    BOX,
    COUNT,
    GOOD,
    HITS,
    HOLD,
    IN_INCHES,
    KNEES,
    LAPS,
    LONG_JUMP,
    MILE,
    PULSE,
    REACH,
    SIDES,
    SPRINT,
    STAGED,
    STAGED_JUMP,
    TOTAL,
    WALL,
    WEIGHT,
)


def named(case: tuple[str, Measure, object] | tuple[str, Measure]) -> str:
    return f"{case[0]} as {case[1].kind}"


@pytest.mark.parametrize("case", GOOD, ids=named)
def test_what_is_certain_is_read(case: tuple[str, Measure, int]) -> None:
    typed, measure, value = case
    entry = read_entry(typed, measure)
    assert (entry.value, entry.reason, entry.estimate) == (value, None, False)
    guess = read_entry(f"{typed}~", measure)
    assert (guess.value, guess.estimate) == (value, True)
    assert read_entry(f"about {typed}", measure).estimate
    # What the browser may hold back never includes what the reader takes.
    assert re.fullmatch(quick_check(measure).pattern, typed.strip(), re.I)


@pytest.mark.parametrize("case", ASKED, ids=named)
def test_what_is_not_certain_is_asked(case: tuple[str, Measure, list[int | None]]) -> None:
    typed, measure, readings = case
    with pytest.raises(EntryError) as asked:
        read_entry(typed, measure)
    chosen = [read_entry(choice.typed, measure) for choice in asked.value.choices]
    assert [entry.value for entry in chosen] == readings
    assert all(choice.words for choice in asked.value.choices)
    assert asked.value.accepted.startswith("Type ")
    # The question is the reader's, not the browser's.
    assert re.fullmatch(quick_check(measure).pattern, typed.strip(), re.I)


@pytest.mark.parametrize("case", BAD, ids=lambda case: f"{case[0][:20]!r} as {case[1].kind}")
def test_what_cannot_be_read_says_what_is_accepted(case: tuple[str, Measure]) -> None:
    typed, measure = case
    with pytest.raises(EntryError) as refused:
        read_entry(typed, measure)
    assert refused.value.message and not refused.value.choices
    assert refused.value.accepted.startswith(("Type ", "Set "))


def test_the_table_is_as_long_as_promised() -> None:
    assert len({(typed, measure) for typed, measure, *_ in [*GOOD, *ASKED, *BAD]}) >= 400
    assert {measure.kind for _, measure, _ in GOOD} == set(Kind)


def test_what_a_score_is_made_of_is_kept() -> None:
    assert read_entry("142 171", REACH).parts == {"standing_mm": 1420, "jumping_mm": 1710}
    assert read_entry("142.3 171.4", REACH).parts == {"standing_mm": 1423, "jumping_mm": 1714}
    assert read_entry("L y R n", SIDES).parts == {"left": True, "right": False}
    assert read_entry("R y L n", SIDES).parts == {"left": False, "right": True}
    assert read_entry("✓ ×", SIDES).parts == {"left": True, "right": False}
    assert read_entry("xxoxooxxxo", HITS).parts == {"shots": "xxoxooxxxo", "of": 10}
    assert read_entry("✓✓✗✓✗✗✓✓✓✗", HITS).parts == {"shots": "xxoxooxxxo", "of": 10}
    assert read_entry("4.6", STAGED).parts == {"stage": 4, "shuttle": 6}
    assert read_entry("c40+100+60", TOTAL).parts == {"carried": 40, "movements": [100, 60]}
    assert read_entry("22/10s", PULSE).parts == {"beats": 22, "seconds": 10}
    assert read_entry("22×6", PULSE).parts == {"beats": 22, "seconds": 10}
    assert read_entry("2:20 4:55 7:30 9:58", MILE).parts == {
        "splits": [140_000, 295_000, 450_000, 598_000]
    }


def test_an_unfinished_try_keeps_its_metres_and_has_no_time() -> None:
    cases = (("3 laps", 1_207_000), ("3+20m", 1_227_000), ("1.2km run", 1_200_000),
             ("480m run", 480_000), ("480 metres run", 480_000))  # fmt: skip
    for typed, distance in cases:
        entry = read_entry(typed, MILE)
        assert (entry.value, entry.reason) == (None, NotDone.UNFINISHED)
        assert entry.parts["distance_mm"] == distance


def test_an_informal_length_has_no_value_of_its_own() -> None:
    for typed in ("8 hands", "8 spans", "8 hand spans"):
        entry = read_entry(typed, LONG_JUMP)
        assert entry.informal and entry.value is None and entry.reason is None
        assert entry.parts == {"informal": 8000, "informal_unit": "hand"}
    assert read_entry("6½ spans~", LONG_JUMP).parts["informal"] == 6500
    assert read_entry("6.5 spans~", LONG_JUMP).estimate


@pytest.mark.parametrize(
    ("typed", "reason"),
    [
        ("a", NotDone.ABSENT),
        ("X", NotDone.SAT_OUT),
        (" k", NotDone.NO_KIT),
        ("r", NotDone.DID_NOT_WANT),
        ("v", NotDone.VOID),
        ("Absent", NotDone.ABSENT),
        ("no kit", NotDone.NO_KIT),
        ("sat out", NotDone.SAT_OUT),
    ],
)
def test_reasons_are_values_of_their_own(typed: str, reason: NotDone) -> None:
    for measure in (COUNT, HOLD, LONG_JUMP):
        entry = read_entry(typed, measure)
        assert (entry.reason, entry.value) == (reason, None)
    # In full they mean the same wherever the letter alone would be asked about.
    if len(typed.strip()) > 1:
        assert read_entry(typed, SIDES).reason is reason
        assert read_entry(typed, KNEES).reason is reason


def test_a_letter_that_names_no_variant_is_the_reason_it_was() -> None:
    """A child is absent every day, and "a" begins a word of half of all variants."""
    named = replace(COUNT, variants=("with arms", "arms and legs", "on a bench"))
    assert read_entry("a", named).reason is NotDone.ABSENT
    with pytest.raises(EntryError, match="could be absent or a form"):
        read_entry("a", replace(COUNT, variants=("A", "B")))
    assert read_entry("r", KNEES).reason is NotDone.DID_NOT_WANT
    assert read_entry("k", COUNT).reason is NotDone.NO_KIT


def test_a_time_cannot_outlast_the_run_it_was_taken_by_unless_the_teacher_is_sure() -> None:
    assert read_entry("58", HOLD, ran_ms=60_000).value == 58_000
    assert read_entry("60.9", HOLD, ran_ms=60_000).value == 60_900  # a hand's slack
    with pytest.raises(EntryError, match="longer than the clock ran") as asked:
        read_entry("9:48", MILE, ran_ms=71_000)
    assert asked.value.sure
    assert read_entry("9:48", MILE, ran_ms=71_000, sure=True).value == 588_000
    # Being sure lifts the clock's limit and no other.
    with pytest.raises(EntryError, match="more than anyone"):
        read_entry("16:00", HOLD, ran_ms=71_000, sure=True)


def test_a_most_that_is_an_estimate_asks_and_does_not_refuse() -> None:
    """94 sit-ups in a minute by somebody fit, where our most was 83: asked, and kept as typed."""
    sit_ups = Measure(Kind.COUNT, highest=83)
    with pytest.raises(EntryError, match="more than anyone here is known") as asked:
        read_entry("94", sit_ups)
    assert asked.value.sure
    assert read_entry("94", sit_ups, sure=True).value == 94
    assert read_entry("83", sit_ups).value == 83
    for typed, measure in (("167", sit_ups), ("11", HITS), ("61", replace(COUNT, cap=60))):
        for sure in (False, True):
            with pytest.raises(EntryError) as refused:
                read_entry(typed, measure, sure=sure)
            assert not refused.value.sure


MEASURES = [COUNT, HOLD, SPRINT, LONG_JUMP, IN_INCHES, BOX, WALL, HITS, STAGED, STAGED_JUMP, LAPS,
            TOTAL, WEIGHT, PULSE]  # fmt: skip


@st.composite
def values_with_measures(draw: st.DrawFn) -> tuple[int, Measure]:
    measure = draw(st.sampled_from(MEASURES))
    value = draw(st.integers(measure.lowest, measure.ceiling))
    stepped = to_step(Fraction(value), measure.resolution)
    return min(max(stepped, measure.lowest), measure.ceiling), measure


@given(values_with_measures())
def test_what_was_written_is_read_back(case: tuple[int, Measure]) -> None:
    value, measure = case
    shown = format_value(value, measure)
    # A whole number of inches or of a foot's twelfth is exact; its millimetre is what is kept.
    slack = 3 if measure.unit == "in" else 0
    assert abs((read_entry(shown, measure).value or 0) - value) <= slack
    try:
        read = read_entry(format_number(value, measure), measure)
    except EntryError as asked:  # a bare 1.05, or a number whose unit is not certain
        assert asked.choices
        return
    assert abs((read.value or 0) - value) <= slack


@given(st.text(max_size=45), st.sampled_from([measure for _, measure, *_ in GOOD]))
def test_any_text_is_read_or_refused_with_words(text: str, measure: Measure) -> None:
    try:
        entry = read_entry(text, measure)
    except EntryError as refused:
        assert refused.message and refused.accepted
        return
    assert sum((entry.value is not None, entry.reason is not None, entry.informal)) == 1
    if entry.value is not None:
        assert measure.lowest <= entry.value <= measure.ceiling
    if entry.reason not in (None, NotDone.UNFINISHED):
        assert text.strip().lower() in REASON_KEYS | REASON_TYPED


_SIGNS = st.sampled_from([
    *"0123456789", *"0123456789", " ", ".", ",", ":", "'", "\"", "½", "/", "-", "+", "m", "cm",
    "ft", "in", " min ", "s", "x", "o", "✓", "✗", "y", "n", "L", "R", "st", "lb", "kg", " to ", "c",
])  # fmt: skip


@given(st.lists(_SIGNS, min_size=1, max_size=8).map("".join),
       st.sampled_from([measure for _, measure, *_ in GOOD]))  # fmt: skip
def test_what_looks_like_a_score_is_read_in_one_way_or_comes_back(
    text: str, measure: Measure
) -> None:
    """However digits, signs and units are strung together: what is read is within the test's limits
    and reads again as itself, and every offered reading is one the reader takes."""
    try:
        entry = read_entry(text, measure)
    except EntryError as refused:
        for choice in refused.choices:
            read_entry(choice.typed, measure)
        return
    assert read_entry(entry.typed, measure) == entry
    assert read_entry(f"  {text.upper()} ", measure).value == entry.value


def test_what_is_accepted_names_the_limits_and_the_reasons() -> None:
    assert accepted_words(COUNT) == (
        "Type a whole number from 0 to 60. Add ~ for an estimate. "
        "Or type a reason: a absent, x sat out, k no kit or helper, r did not want to, v void."
    )
    assert "x (hit) or o (miss)" in accepted_words(HITS)


@pytest.mark.parametrize("measure", [*MEASURES, replace(COUNT, variants=("on the knees", "full"))])
def test_what_is_offered_for_a_reason_is_read_as_it(measure: Measure) -> None:
    """A letter that could be a hit, a side or a variant is never offered: its words are."""
    offered = reason_keys(measure)
    assert set(offered.values()) == set(REASON_KEYS.values())
    for typed, reason in offered.items():
        assert read_entry(typed, measure).reason is reason
        assert typed in accepted_words(measure)
    for letter in REASON_KEYS.keys() - offered.keys():
        with pytest.raises(EntryError):
            read_entry(letter, measure)


@pytest.mark.parametrize(
    ("measure", "typed", "words"),
    [
        (Measure(Kind.TIME, unit="s", resolution=100), "2:05", "2 min 5 s"),
        (Measure(Kind.TIME, unit="s", resolution=100), "48.5~", "48.5 s, an estimate"),
        (Measure(Kind.LENGTH, unit="cm", resolution=10), "4", "4 cm"),
        (Measure(Kind.LENGTH, unit="m", resolution=10), "1.27", "1.27 m"),
        (Measure(Kind.LENGTH, unit="cm", resolution=10), "4ft 2in", "127 cm"),
        (HITS, "xoxxxoxxox", "7/10"),
        (Measure(Kind.COUNT), "r", "did not want to"),
    ],
)
def test_an_entry_is_said_as_it_will_be_kept(measure: Measure, typed: str, words: str) -> None:
    assert entry_words(read_entry(typed, measure), measure) == words


def test_a_hold_stopped_after_its_maximum_has_reached_it() -> None:
    hold = Measure(Kind.TIME, unit="s", resolution=100, highest=600_000, cap=30_000)
    with pytest.raises(EntryError) as over:
        read_entry("33.0", hold)
    (choice,) = over.value.choices
    assert read_entry(choice.typed, hold).value == 30_000
