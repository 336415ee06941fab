"""Cues of a timed wave."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.rules.timeline import CueKind, timed_wave


def test_a_minute_by_hand() -> None:
    wave = timed_wave(60)
    assert [(cue.at_ms, cue.say) for cue in wave.cues] == [
        (0, "Get ready"),
        (7_000, "3"),
        (8_000, "2"),
        (9_000, "1"),
        (10_000, "Go"),
        (40_000, "Half-way"),
        (65_000, "5"),
        (66_000, "4"),
        (67_000, "3"),
        (68_000, "2"),
        (69_000, "1"),
        (70_000, "Stop"),
    ]
    assert (wave.go_ms, wave.total_ms) == (10_000, 70_000)


@given(st.integers(1, 3600), st.integers(3, 120))
def test_every_wave_is_in_order_and_lasts_what_it_says(seconds: int, ready: int) -> None:
    wave = timed_wave(seconds, ready)
    times = [cue.at_ms for cue in wave.cues]
    assert times == sorted(set(times))
    kinds = [cue.kind for cue in wave.cues]
    assert kinds.count(CueKind.GO) == kinds.count(CueKind.STOP) == 1
    assert kinds[-1] is CueKind.STOP
    assert times[-1] == wave.total_ms == (ready + seconds) * 1000
    assert times[kinds.index(CueKind.GO)] == wave.go_ms == ready * 1000
    # The stop comes exactly the work after the go.
    assert wave.total_ms - wave.go_ms == seconds * 1000


@pytest.mark.parametrize(("seconds", "ready"), [(0, 10), (-5, 10), (60, 2)])
def test_what_cannot_be_called_is_refused(seconds: int, ready: int) -> None:
    with pytest.raises(ValueError, match="lasts at least"):
        timed_wave(seconds, ready)
