"""Soft flags: ask for a look, never discard.

Hard limits are the reader's business (`entry`); what gets here is a possible score.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from itertools import pairwise
from statistics import fmean, median
from typing import Final

import numpy as np

from lauf.messages import say
from lauf.rules.reading.clocks import CLOCK_SLACK_MS
from lauf.rules.reading.kinds import dimension_of, format_value
from lauf.rules.reading.quantities import Dimension, Kind, Measure, to_step
from lauf.rules.reading.rounding import fixed, whole

#: Iglewicz & Hoaglin 1993, "How to Detect and Handle Outliers": modified z-scores beyond 3.5
#: are looked at. The class needs this many scores for the comparison to mean anything.
MODIFIED_Z_LIMIT: Final = 3.5
CLASS_NEEDED: Final = 8
#: A change of more than this many times the day-to-day band is worth a second look (our choice).
HISTORY_BANDS: Final = 2.5
#: Slips of the pen: how many times too large or too small, what happened, and in which dimension
#: (rules of thumb for looking, not for refusing).
_SLIPS: Final = (
    (10.0, say("a digit too many"), say("a digit too few"), None),
    (100.0, say("two digits too many"), say("two digits too few"), None),
    (12.0, say("inches for feet"), say("feet for inches"), Dimension.MILLIMETRES),
    (2.54, say("centimetres for inches"), say("inches for centimetres"), Dimension.MILLIMETRES),
    (2.2, say("pounds for kilograms"), say("kilograms for pounds"), Dimension.GRAMS),
    (60.0, say("minutes for seconds"), say("seconds for minutes"), Dimension.MILLISECONDS),
)
#: How near a slip's factor a ratio lies: within 2 %.
SLIP_TOLERANCE: Final = 0.02
#: Metres a second that no child of an age runs: over some seconds, and over a minute or more
#: (common practice, from memory: the fastest children of 11 reach about 7 and 5).
_SPRINT_SPEEDS: Final = ((4, 5.0), (7, 6.5), (11, 8.0))
_LONG_SPEEDS: Final = ((4, 3.6), (7, 4.6), (11, 5.6))
_LONG_FROM_MS: Final = 60_000


def fastest_speed(age: float | None, time_ms: int) -> float:
    """Metres a second that nobody of this age runs over so long a time; those of the oldest where
    the age is not known."""
    table = _LONG_SPEEDS if time_ms >= _LONG_FROM_MS else _SPRINT_SPEEDS
    if age is None or age >= table[-1][0]:
        return table[-1][1]
    if age <= table[0][0]:
        return table[0][1]
    for (young, slow), (old, fast) in pairwise(table):
        if age <= old:
            return slow + (fast - slow) * (age - young) / (old - young)
    raise AssertionError("ages are in order")


def speed_of(
    value: int, measure: Measure, *, course_mm: int | None, seconds: int | None
) -> tuple[float, int] | None:
    """Metres a second of a run and how long it took in milliseconds; None for what is not run.

    Counts on a course are lengths run in the clock's seconds; laps are metres run in them; a time
    over a set distance is that distance.
    """
    if measure.kind is Kind.TIME and measure.target_mm and value > 0:
        return measure.target_mm / value, value
    if not seconds:
        return None
    if measure.kind is Kind.COUNT and course_mm:
        return value * course_mm / 1000 / seconds, seconds * 1000
    if measure.kind is Kind.LAPS:
        return value / 1000 / seconds, seconds * 1000
    return None


class FlagCode(StrEnum):
    """Why a score wants a look."""

    RATE = "rate"
    SPEED = "speed"
    AGE = "age"
    CLOCK = "clock"
    SLIP = "slip"
    HISTORY = "history"
    CLASS = "class"
    # Two people counted the same try, and not the same.
    TWO_COUNTS = "two_counts"
    ESTIMATE = "estimate"

    @property
    def holds_out(self) -> bool:
        """Whether a score of which it is asked takes no part until it is settled; a guess takes the
        part of a guess."""
        return self is not FlagCode.ESTIMATE


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
        raise ValueError(say("no values"))
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
    course_mm: int | None = None,
    age: float | None = None,
    bounds: Sequence[Sequence[int]] = (),
    ran_ms: int | None = None,
    earlier: Sequence[int] = (),
    band: float | None = None,
    class_z: float | None = None,
    estimate: bool = False,
) -> tuple[Flag, ...]:
    """Every soft flag on one score.

    seconds, most_a_second   length of the effort and how many a second a body can do (counts)
    course_mm, age           length of the course, and the child's age: nobody runs faster than so
    bounds                   by age what no child lies below or beyond: (years, least, most)
    ran_ms                   for times: how long the longest clock of this test had gone that day
    earlier                  the child's earlier scores under the same key, oldest first
    band                     MDC90 in canonical units, or None when unknown
    estimate                 the number is a guess: kept, and looked at
    class_z                  modified z-score within the class, or None below `CLASS_NEEDED` scores
    """
    words = {
        FlagCode.SPEED: _too_fast(value, measure, course_mm, seconds, age),
        FlagCode.RATE: _too_many(value, measure, course_mm, seconds, most_a_second),
        FlagCode.AGE: _beyond_age(value, measure, bounds, age),
        FlagCode.CLOCK: _beyond_clock(value, measure, ran_ms),
        **_beside_history(value, measure, earlier, band),
        FlagCode.CLASS: _beside_class(class_z),
        FlagCode.ESTIMATE: say("An estimate. It is saved but cannot be a best.")
        if estimate
        else None,
    }
    if words[FlagCode.SPEED]:
        words[FlagCode.RATE] = None  # said already
    return tuple(Flag(code, text) for code, text in words.items() if text)


def _too_fast(
    value: int, measure: Measure, course_mm: int | None, seconds: int | None, age: float | None
) -> str | None:
    speed = speed_of(value, measure, course_mm=course_mm, seconds=seconds)
    if speed is None or speed[0] <= fastest_speed(age, speed[1]):
        return None
    return say("{speed} metres a second is faster than a child can run.", speed=fixed(speed[0], 1))


def _too_many(
    value: int,
    measure: Measure,
    course_mm: int | None,
    seconds: int | None,
    most_a_second: float | None,
) -> str | None:
    if measure.kind is not Kind.COUNT or course_mm or not (seconds and most_a_second):
        return None
    most = int(seconds * most_a_second)
    return (
        say(
            "More than {most} in {seconds} s is faster than most children can move.",
            most=most,
            seconds=seconds,
        )
        if value > most
        else None
    )


def _beyond_clock(value: int, measure: Measure, ran_ms: int | None) -> str | None:
    if measure.kind is not Kind.TIME or ran_ms is None or value <= ran_ms + CLOCK_SLACK_MS:
        return None
    ran = format_value(to_step(Fraction(ran_ms), 1000), measure)
    return say("Longer than the clock of this test, which ran for {ran}.", ran=ran)


def _beside_history(
    value: int, measure: Measure, earlier: Sequence[int], band: float | None
) -> dict[FlagCode, str]:
    if not earlier:
        return {}
    last = format_value(earlier[-1], measure)
    if slip := _slip(value, earlier[-1], dimension_of(measure.kind)):
        return {FlagCode.SLIP: say("{slip}? Last time: {last}.", slip=slip, last=last)}
    if band and abs(value - median(earlier)) > HISTORY_BANDS * band:
        return {
            FlagCode.HISTORY: say(
                "Far from this child's other scores. Last time: {last}.", last=last
            )
        }
    return {}


def _beside_class(class_z: float | None) -> str | None:
    if class_z is None or abs(class_z) <= MODIFIED_Z_LIMIT:
        return None
    return say(
        "Far {value} the rest of the class today.",
        value=say("above") if class_z > 0 else say("below"),
    )


def _beyond_age(
    value: int, measure: Measure, bounds: Sequence[Sequence[int]], age: float | None
) -> str | None:
    """What is odd about a score at an age; where that is not known, at any of the ages. Between two
    ages of the table least and most lie on the line."""
    if not bounds:
        return None
    ages, least, most = (list(column) for column in zip(*bounds, strict=True))
    if age is None:
        who, low, high = say("a child here"), float(min(least)), float(max(most))
    else:
        who = say("a child of {age}", age=int(age))
        low, high = float(np.interp(age, ages, least)), float(np.interp(age, ages, most))
    if value < low:
        return say(
            "Lower than expected of {who}. Usually {low} or more.",
            who=who,
            low=format_value(whole(low), measure),
        )
    if value > high:
        return say(
            "Higher than expected of {who}. Usually up to {high}.",
            who=who,
            high=format_value(whole(high), measure),
        )
    return None


def _slip(value: int, last: int, dimension: Dimension) -> str | None:
    if last <= 0 or value <= 0:
        return None
    for factor, more, less, only in _SLIPS:
        if only not in (None, dimension):
            continue
        if abs(value / last - factor) <= factor * SLIP_TOLERANCE:
            return more.capitalize()
        if abs(last / value - factor) <= factor * SLIP_TOLERANCE:
            return less.capitalize()
    return None
