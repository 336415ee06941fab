"""Whom to look after: what several tests say together, as a table of cases."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.judging.attention import Need, Seen, notes_on
from lauf.rules.judging.change import Verdict

B, L, S, F = Verdict.BETTER, Verdict.LOWER, Verdict.STEADY, Verdict.FIRST


def seen(*rows: tuple[Verdict | None, int | None]) -> list[Seen]:
    """Tests A, B, C … with a ladder of three rungs; None for the verdict is no score."""
    return [
        Seen("ABCDEFG"[n], verdict, rung, 3 if verdict else 0, measured=verdict is not None)
        for n, (verdict, rung) in enumerate(rows)
    ]


@pytest.mark.parametrize(
    ("rows", "needs"),
    [
        (seen((L, 1), (L, 2)), [Need.LOWER]),
        (seen((L, 1), (S, 1)), []),  # one test is a day
        (seen((None, None), (None, None)), [Need.NEVER]),
        (seen((None, None)), []),
        (seen((None, None), (S, 1)), []),
        (seen((F, 0), (S, None)), [Need.FIRST_RUNG]),
        (seen((F, 0), (S, 1)), []),
        (seen((Verdict.AT_THE_TOP, 2), (S, 1)), [Need.AT_END]),
        (seen((B, 1), (Verdict.MOVED_UP, 1)), [Need.PRAISE]),
        (seen((B, 1), (B, 1), (L, 1)), []),  # no praise over what went down
        (seen((L, 0), (L, 0)), [Need.LOWER, Need.FIRST_RUNG]),
        ([], []),
    ],
)
def test_what_several_tests_say_of_a_child(rows: list[Seen], needs: list[Need]) -> None:
    assert [note.need for note in notes_on(rows)] == needs


@pytest.mark.parametrize(
    ("rates", "words"),
    [
        ([], None),
        ([130], None),  # one is counted again
        ([60, 120, 90], None),  # both ends are within
        ([130, 90, 55], "resting pulse outside 60 to 120 in 2 lessons: 130 and 55"),
    ],
)
def test_a_resting_pulse_out_of_range_twice_is_told_to_the_nurse(
    rates: list[int], words: str | None
) -> None:
    notes = notes_on([], rates)
    assert [note.words for note in notes] == ([words] if words else [])
    assert all("school nurse" in note.next_step for note in notes)


def test_the_words_name_the_tests_their_numbers_and_a_next_step() -> None:
    (note,) = notes_on(seen((L, 1), (L, 2), (L, 1)))
    assert note.words == "lower than before in A, B and C"
    assert note.next_step
    told = Seen("Press-ups", L, 1, 3, measured=True, numbers="30, then 12")
    (note,) = notes_on([told, told._replace(test="Plank", numbers="40 s, then 25 s")])
    assert note.words == (
        "lower than before in Press-ups (30, then 12) and Plank (40 s, then 25 s)"
    )
    low = Seen("Press-ups", F, 0, 3, measured=True, easier="on the knees", harder="feet up")
    (note,) = notes_on([low, low._replace(test="Plank", easier="")])
    assert note.next_step == "start with an easier form: on the knees (Press-ups)"
    (note,) = notes_on([low._replace(verdict=Verdict.AT_THE_TOP, rung=2)])
    assert note.next_step == "try a harder form: feet up (Press-ups)"


SEEN = st.builds(
    Seen, st.sampled_from("ABCDE"), st.none() | st.sampled_from(list(Verdict)),
    st.none() | st.integers(0, 2), st.just(3), measured=st.booleans(),
)  # fmt: skip


@given(st.lists(SEEN, max_size=8))
def test_nobody_is_noted_twice_for_the_same_and_the_order_does_not_matter(rows: list[Seen]) -> None:
    needs = [note.need for note in notes_on(rows)]
    assert len(needs) == len(set(needs))
    assert {note.need for note in notes_on(rows[::-1])} == set(needs)
