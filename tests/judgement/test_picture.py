"""The picture of a lane: what is painted where, and one scale for all."""

from __future__ import annotations

from typing import Any

import pytest

from lauf.judgement.judge import Judge
from lauf.judgement.picture import Lane, lane_of, put_to_scale
from lauf.records.queries import Row
from lauf.rules.reading.quantities import Better, Kind
from tests.support.judging import DAY, WHO, judge_of, ready, row

PRESS_UPS = judge_of(ready("press-ups-60"))
FULL: dict[str, Any] = {"variant": "full"}


def lane(judge: Judge, today: Row | None, *earlier: Row, variant: str = "full") -> Lane:
    return lane_of(judge, today, earlier, variant, WHO, DAY)


def test_a_lane_without_a_score_today_is_that_of_what_a_child_would_be_compared_with() -> None:
    usual = row(PRESS_UPS, 11, 1, **FULL)
    other = row(PRESS_UPS, 25, 2, seconds=30, **FULL)
    knees = row(PRESS_UPS, 30, 3, variant="knees")
    # The usual clock where it was used, whatever came after it.
    assert [one["at"] for one in lane(PRESS_UPS, None, usual, other, knees)["earlier"]] == [11]
    # Else the one last used in this form, and no other form.
    assert [one["at"] for one in lane(PRESS_UPS, None, other, knees)["earlier"]] == [25]
    assert lane(PRESS_UPS, None, knees)["earlier"] == []


def test_a_guess_and_an_open_score_are_painted_apart() -> None:
    sure, guess = row(PRESS_UPS, 11, 1, **FULL), row(PRESS_UPS, 12, 2, estimate=True, **FULL)
    made = lane(PRESS_UPS, row(PRESS_UPS, 40, 3, **FULL).put(is_open=True), sure, guess)
    assert [one["estimate"] for one in made["earlier"]] == [False, True]
    assert made["today"] is not None
    assert (made["today"]["at"], made["today"]["estimate"]) == (40, True)
    assert made["best"] == 11


def marked(*at: int, better: Better = Better.UP) -> Lane:
    """A lane with scores at these places."""
    return {
        "better": better, "variant": "", "rungs": [], "today": None, "best": None, "band": None,
        "earlier": [{"at": one, "on": DAY, "shown": "", "estimate": False} for one in at],
        "origin": 0, "scale": 0,
    }  # fmt: skip


@pytest.mark.parametrize(
    ("lanes", "kind", "ends"),
    [
        # Counts begin at nought and end a little past the furthest mark: 50 · 1.06 + 1.
        ([marked(20), marked(50)], Kind.COUNT, (0, 54)),
        ([marked(0)], Kind.COUNT, (0, 2)),
        ([], Kind.COUNT, ()),
        # Times, measures and offsets over the stretch that is used, with an eighth beside it.
        ([marked(1_000, 2_000, better=Better.DOWN)], Kind.TIME, (880, 2_120)),
        ([marked(1_000, 2_000)], Kind.TIME, (0, 2_121)),
        ([marked(-100, 100)], Kind.OFFSET, (-124, 124)),
        ([marked(70)], Kind.PULSE, (69, 71)),
    ],
)
def test_all_lanes_have_one_scale(lanes: list[Lane], kind: Kind, ends: tuple[int, ...]) -> None:
    put_to_scale(lanes, kind)
    assert {(one["origin"], one["scale"]) for one in lanes} == ({ends} if ends else set())
