"""Movements called to a beat or at the times of a list."""

from fractions import Fraction
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.planning.beats import (
    LATEST_MS,
    LEAST_APART_MS,
    MOST_CALLS,
    Call,
    FaultyTimes,
    on_the_beat,
    read_times,
)
from lauf.rules.planning.blocks import BlockKind
from lauf.rules.planning.timeline import CueKind, timeline
from tests.support.plans import called


def test_the_facts_of_the_trade() -> None:
    """Common practice: one burpee every other second is 30 in a minute; 10 press-ups in a minute is
    one every 6 s."""
    burpees = on_the_beat(60, 2, 30)
    assert burpees[-1] == Call(60_000, "30")
    assert {later.at_ms - sooner.at_ms for sooner, later in pairwise(burpees)} == {2_000}
    assert [call.at_ms for call in on_the_beat(120, 12, 10)] == [6_000 * n for n in range(1, 11)]


@given(st.integers(30, 240), st.integers(1, 16), st.integers(1, 200))
def test_no_call_ever_drifts_from_its_beat(bpm: int, every: int, calls: int) -> None:
    apart = Fraction(60_000 * every, bpm)
    if apart < LEAST_APART_MS or apart * calls > LATEST_MS:
        with pytest.raises(ValueError):
            on_the_beat(bpm, every, calls)
        return
    for number, call in enumerate(on_the_beat(bpm, every, calls), 1):
        assert abs(call.at_ms - apart * number) <= Fraction(1, 2)


@pytest.mark.parametrize(("bpm", "every", "calls"), [(29, 1, 9), (241, 4, 9), (120, 0, 9),
                                                     (120, 65, 9), (120, 4, 0),
                                                     (120, 4, MOST_CALLS + 1)])  # fmt: skip
def test_beats_nobody_can_move_to_are_refused(bpm: int, every: int, calls: int) -> None:
    with pytest.raises(ValueError):
        on_the_beat(bpm, every, calls)


def test_a_list_of_times_is_read_line_by_line() -> None:
    text = "\ufeff# first verse\n\n0\n2.5\n4,25 up\n0:06.125\tdown\r\n1:02 and rest\n"
    assert read_times(text) == (
        Call(0, "1"), Call(2_500, "2"), Call(4_250, "up"), Call(6_125, "down"),
        Call(62_000, "and rest"),
    )  # fmt: skip


@pytest.mark.parametrize(
    ("text", "lines", "words"),
    [
        ("1\nsoon\n3\n2\n9:99", [2, 4, 5], "Line 2 says “soon”, which is not a time."),
        ("1\n1.2", [2], "Line 2 is less than 0.25 s after line 1."),
        ("5\n5", [2], "Line 2 is less than 0.25 s after line 1."),
        ("# verse\n5\n\n4", [4], "Line 4 comes before line 2."),
        ("-1", [1], "is not a time"),
        ("61:00", [1], "more than an hour"),
        ("1:5", [1], "is not a time"),
        ("1.2345", [1], "is not a time"),
        ("٣", [1], "is not a time"),
        ("1 " + "la" * 16, [1], "30 letters"),
        ("\n".join(["x"] * 9), list(range(1, 10)), "4 more lines"),
    ],
)
def test_a_faulty_list_is_refused_by_line(text: str, lines: list[int], words: str) -> None:
    with pytest.raises(FaultyTimes) as refused:
        read_times(text)
    assert refused.value.lines == lines
    assert words in str(refused.value) and "1:04.25" in str(refused.value)


@pytest.mark.parametrize("text", ["", "\n\n# nothing\n", "\n".join(map(str, range(601)))])
def test_a_list_has_some_times_and_not_too_many(text: str) -> None:
    with pytest.raises(ValueError):
        read_times(text)


@given(st.lists(st.integers(0, LATEST_MS), min_size=1, max_size=40), st.booleans())
def test_what_was_tapped_is_read_as_it_was_tapped(times: list[int], minutes: bool) -> None:
    tapped = [at for before, at in pairwise([-LEAST_APART_MS, *sorted(times)])
              if at - before >= LEAST_APART_MS]  # fmt: skip

    def typed(at: int) -> str:
        if minutes:
            return f"{at // 60_000}:{at % 60_000 / 1000:06.3f}"
        return f"{at / 1000:.3f}"

    assert [call.at_ms for call in read_times("\n".join(map(typed, tapped)))] == tapped


@given(st.lists(st.integers(LEAST_APART_MS, 9_000), min_size=1, max_size=60), st.integers(0, 400),
       st.booleans())  # fmt: skip
def test_every_movement_is_called_at_its_time_and_nothing_between(
    gaps: list[int], seconds: int, at_once: bool
) -> None:
    at, calls = -gaps[0] if at_once else 0, []
    for number, gap in enumerate(gaps, 1):
        at += gap
        calls.append(Call(at, str(number)))
    times = "\n".join(f"{call.at_ms / 1000:.3f} {call.say}" for call in calls)
    made = timeline([called(BlockKind.BEATS, "Squats", seconds=seconds, times=times)])
    go = next(one for one in made.segments if one.phase == "work")
    during = [cue for cue in made.cues if go.from_ms <= cue.at_ms < go.to_ms]
    beats = [cue for cue in during if cue.kind is CueKind.BEAT]
    assert [(cue.at_ms - go.from_ms, cue.say) for cue in beats] == [
        (call.at_ms, call.say) for call in calls
    ]
    assert {cue.kind for cue in during} <= {CueKind.BEAT, CueKind.GO}
    assert go.to_ms - go.from_ms >= max(seconds * 1000, calls[-1].at_ms + 2_000)
    assert all(one.at_ms < other.at_ms for one, other in pairwise(made.cues))
