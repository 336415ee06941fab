"""Pulse: beats counted, what they resolve, and a lesson's series. For planning effort only."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import IntEnum, StrEnum
from fractions import Fraction
from typing import Final

from lauf.messages import say
from lauf.rules.reading.quantities import decimal


#: How long beats are counted; 60 also stands for a number read as beats a minute.
class CountSeconds(IntEnum):
    """How long beats are counted, in seconds."""

    TEN = 10
    FIFTEEN = 15
    TWENTY = 20
    THIRTY = 30
    SIXTY = 60


COUNT_SECONDS: Final = tuple(one.value for one in CountSeconds)
#: Nothing outside is a child's pulse.
LOWEST_BPM: Final = 30
HIGHEST_BPM: Final = 240
#: Ages 4–11 at rest; outside it, count again (range: common practice, from memory).
RESTING_BPM: Final = (60, 120)

CAUTION: Final = say(
    "An estimate for planning effort, never a diagnosis. Stop for pain, dizziness, "
    "chest tightness or wheeze. Ask the school nurse or a doctor."
)


class Moment(StrEnum):
    """When in a lesson a pulse was taken."""

    REST = "rest"
    WARM_UP = "warm_up"
    ACTIVITY = "activity"
    RECOVERY = "recovery"


MOMENT_WORDS: Final[dict[Moment, str]] = {
    Moment.REST: say("at rest"),
    Moment.WARM_UP: say("after the warm-up"),
    Moment.ACTIVITY: say("after an activity"),
    Moment.RECOVERY: say("recovery"),
}


class Formula(StrEnum):
    """How a maximal heart rate is estimated."""

    TANAKA = "tanaka"
    AGE_220 = "220"


def bpm(beats: int, seconds: int) -> Fraction:
    """Beats in some seconds as beats a minute, exact."""
    return Fraction(beats * 60, seconds)


def resolution(seconds: int) -> Fraction:
    """What one beat more or less changes: 60/seconds. Counting for 10 s gives ±6 a minute."""
    return Fraction(60, seconds)


def same(one: Fraction | float, seconds: int, other: Fraction | float, other_seconds: int) -> bool:
    """Whether two readings lie closer than the coarser of their resolutions."""
    apart = abs(Fraction(one) - Fraction(other))
    return apart < max(resolution(seconds), resolution(other_seconds))


def estimated_maximum(age: float, formula: Formula = Formula.TANAKA) -> float:
    """Estimated maximal heart rate: 208 − 0.7·age (Tanaka, Monahan & Seals 2001, J Am Coll Cardiol
    37:153–156), or 220 − age (common practice). Made from adults; for children a rough guide."""
    return 208 - 0.7 * age if formula is Formula.TANAKA else 220 - age


def reserve_percent(pulse: float, resting: float, maximum: float) -> float:
    """Percent of heart-rate reserve (Karvonen, Kentala & Mustala 1957, Ann Med Exp Biol Fenn
    35:307–315). Raises ValueError when the maximum is not above the resting pulse."""
    if maximum <= resting:
        raise ValueError(say("The maximum must be above the resting pulse."))
    return 100 * (pulse - resting) / (maximum - resting)


@dataclass(frozen=True, slots=True)
class Reading:
    """One pulse: beats counted in seconds (60 for a rate that was read), at a moment. `waited` is
    how many seconds after the effort a recovery pulse began; `label` names the activity."""

    moment: Moment
    beats: int
    seconds: int
    label: str = ""
    waited: int | None = None

    @property
    def rate(self) -> Fraction:
        return bpm(self.beats, self.seconds)

    @property
    def shown(self) -> str:
        return decimal(self.rate, 0)


@dataclass(frozen=True, slots=True)
class Series:
    """What a child's readings of one lesson say; None where a reading is missing."""

    resting: Fraction | None
    peak: Fraction | None
    peak_after: str
    rise: Fraction | None
    recovery_drop: Fraction | None
    recovery_seconds: int | None
    percent_of_maximum: float | None
    reserve: float | None


def summarise(
    readings: Sequence[Reading], age: float | None, formula: Formula = Formula.TANAKA
) -> Series:
    """Rise from rest, peak and its activity, recovery drop, and percents of the estimated maximum.

    `readings` in the order they were taken; the last resting and the last recovery pulse count.
    """
    resting = next((r.rate for r in reversed(readings) if r.moment is Moment.REST), None)
    worked = [r for r in readings if r.moment in _WORK]
    top = max(worked, key=lambda r: r.rate, default=None)
    drop, waited = _recovery(readings)
    maximum = None if age is None else estimated_maximum(age, formula)
    percent = reserve = None
    if top is not None and maximum is not None:
        percent = 100 * float(top.rate) / maximum
        if resting is not None and resting < maximum:
            reserve = reserve_percent(float(top.rate), float(resting), maximum)
    return Series(
        resting=resting,
        peak=top.rate if top else None,
        peak_after=_after(top) if top else "",
        rise=top.rate - resting if top and resting is not None else None,
        recovery_drop=drop,
        recovery_seconds=waited,
        percent_of_maximum=percent,
        reserve=reserve,
    )


#: What a recovery is measured from.
_WORK: Final = (Moment.WARM_UP, Moment.ACTIVITY)


def _recovery(readings: Sequence[Reading]) -> tuple[Fraction | None, int | None]:
    """How far the last recovery pulse lies below the last work before it, and the seconds
    between."""
    after = next((r for r in reversed(readings) if r.moment is Moment.RECOVERY), None)
    if after is None:
        return None, None
    before = [r for r in readings[: readings.index(after)] if r.moment in _WORK]
    return (before[-1].rate - after.rate if before else None), after.waited


@dataclass(frozen=True, slots=True)
class PulseFlag:
    """One question about a reading; `code` settles it."""

    code: str
    words: str


def hard_problem(beats: int, seconds: int) -> str | None:
    """Why a reading cannot be a pulse at all, or None."""
    if seconds not in COUNT_SECONDS:
        return say("A pulse is counted for 10, 15, 20, 30 or 60 s.")
    rate = bpm(beats, seconds)
    if LOWEST_BPM <= rate <= HIGHEST_BPM:
        return None
    words = say(
        "{beats} in {seconds} s is {rate} a minute. A pulse is {lowest} to {highest}.",
        beats=beats,
        seconds=seconds,
        rate=decimal(rate, 0),
        lowest=LOWEST_BPM,
        highest=HIGHEST_BPM,
    )
    if seconds < 60 and LOWEST_BPM <= beats <= HIGHEST_BPM:
        ask = say("Was {beats} already beats a minute?", beats=beats)
    elif seconds == 60 and LOWEST_BPM <= beats * 6 <= HIGHEST_BPM:
        ask = say(
            "Were these {beats} beats in 10 s ({rate} a minute)?", beats=beats, rate=beats * 6
        )
    else:
        return words
    return f"{words} {ask}"


def flags(reading: Reading, others: Sequence[Reading]) -> tuple[PulseFlag, ...]:
    """What wants a look: a resting pulse out of the usual range, a pulse after work below the
    resting one, and the slips of multiplying twice or not at all (×6, ÷6 of another reading)."""
    found = []
    low, high = RESTING_BPM
    if reading.moment is Moment.REST and not low <= reading.rate <= high:
        found.append(
            PulseFlag(
                "resting",
                say("Unusual at rest. Count again. If it is the same, tell the school nurse."),
            )
        )
    resting = next((r.rate for r in reversed(others) if r.moment is Moment.REST), None)
    if (
        reading.moment in (Moment.WARM_UP, Moment.ACTIVITY)
        and resting is not None
        and reading.rate < resting - resolution(reading.seconds)
    ):
        found.append(PulseFlag("below_rest", say("Below this child's resting pulse. Count again?")))
    for other in reversed(others):
        if abs(reading.rate - 6 * other.rate) <= 3:
            found.append(
                PulseFlag("times_six", say("Six times another reading. Was it multiplied twice?"))
            )
            break
        if abs(6 * reading.rate - other.rate) <= 6:
            found.append(
                PulseFlag("over_six", say("A sixth of another reading. Was it not multiplied?"))
            )
            break
    return tuple(found)


def _after(reading: Reading) -> str:
    return (
        say("after {label}", label=reading.label) if reading.label else MOMENT_WORDS[reading.moment]
    )
