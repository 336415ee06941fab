"""Soft flags: ask for a look, never discard.

Hard limits are the reader's business (`entry`); what gets here is a possible score.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from statistics import fmean, median
from typing import Final

from lauf.rules.quantities import Dimension, Kind, Measure, format_value

#: Iglewicz & Hoaglin 1993, "How to Detect and Handle Outliers": modified z-scores beyond 3.5
#: are looked at. The class needs this many scores for the comparison to mean anything.
MODIFIED_Z_LIMIT: Final = 3.5
CLASS_NEEDED: Final = 8
#: A change of more than this many times the day-to-day band is worth a second look (our choice).
HISTORY_BANDS: Final = 2.5
#: Slips of the pen: how many times too large or too small, what happened, and in which dimension.
_SLIPS: Final = (
    (10.0, "a digit too many", "a digit too few", None),
    (2.54, "centimetres for inches", "inches for centimetres", Dimension.MILLIMETRES),
    (60.0, "minutes for seconds", "seconds for minutes", Dimension.MILLISECONDS),
)


class FlagCode(StrEnum):
    """Why a score wants a look."""

    RATE = "rate"
    SLIP = "slip"
    HISTORY = "history"
    CLASS = "class"
    ESTIMATE = "estimate"


@dataclass(frozen=True, slots=True)
class Flag:
    """One question about a score, with the sentence shown to the teacher."""

    code: FlagCode
    words: str


def modified_z_scores(values: Sequence[float]) -> list[float]:
    """Modified z-score of each value: 0.6745·(x − median)/MAD (Iglewicz & Hoaglin 1993).

    With MAD = 0 the mean absolute deviation form is used: (x − median)/(1.253314·MeanAD).
    All values equal: all zero. Raises ValueError for an empty list.
    """
    if not values:
        raise ValueError("no values")
    middle = median(values)
    deviations = [abs(value - middle) for value in values]
    if spread := median(deviations):
        return [0.6745 * (value - middle) / spread for value in values]
    if mean_spread := fmean(deviations):
        return [(value - middle) / (1.253314 * mean_spread) for value in values]
    return [0.0 for _ in values]


def flags_for(
    value: int,
    measure: Measure,
    *,
    seconds: int | None = None,
    most_a_second: float | None = None,
    earlier: Sequence[int] = (),
    band: float | None = None,
    class_z: float | None = None,
    estimate: bool = False,
) -> tuple[Flag, ...]:
    """Every soft flag on one score.

    seconds, most_a_second   length of the effort and how many a second a body can do (counts)
    earlier                  the child's earlier scores under the same key, oldest first
    band                     MDC90 in canonical units, or None when unknown
    estimate                 the number is a guess: kept, and looked at
    class_z                  modified z-score within the class, or None below `CLASS_NEEDED` scores
    """
    found: list[Flag] = []
    if measure.kind is Kind.COUNT and seconds and most_a_second:
        most = int(seconds * most_a_second)
        if value > most:
            words = f"More than {most} in {seconds} s is faster than most can move."
            found.append(Flag(FlagCode.RATE, words))
    if earlier:
        last = earlier[-1]
        slip = _slip(value, last, measure.dimension)
        if slip:
            words = f"{slip}? Last time: {format_value(last, measure)}."
            found.append(Flag(FlagCode.SLIP, words))
        elif band and abs(value - median(earlier)) > HISTORY_BANDS * band:
            words = f"Far from this child's own scores; last time {format_value(last, measure)}."
            found.append(Flag(FlagCode.HISTORY, words))
    if class_z is not None and abs(class_z) > MODIFIED_Z_LIMIT:
        side = "above" if class_z > 0 else "below"
        found.append(Flag(FlagCode.CLASS, f"Far {side} the rest of the class today."))
    if estimate:
        found.append(Flag(FlagCode.ESTIMATE, "An estimate: kept, but it wins no best."))
    return tuple(found)


def _slip(value: int, last: int, dimension: Dimension) -> str | None:
    if last <= 0 or value <= 0:
        return None
    for factor, more, less, only in _SLIPS:
        if only not in (None, dimension):
            continue
        if abs(value / last - factor) <= factor * 0.02:
            return more.capitalize()
        if abs(last / value - factor) <= factor * 0.02:
            return less.capitalize()
    return None
