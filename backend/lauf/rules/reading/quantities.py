"""Kinds of score, their canonical units, and how a value is written for people."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from typing import Final


class Kind(StrEnum):
    """How a score is made. Several kinds share a dimension and so a canonical unit.

    count  repetitions                    total   repetitions over several movements
    hits   hits out of N                  sides   how many of two sides were reached
    time   milliseconds                   stage   shuttles run in a staged run
    length millimetres                    marks   millimetres between two marks
    offset millimetres from zero, signed  laps    millimetres run in laps and part laps
    mass   grams                          pulse   beats per minute
    """

    COUNT = "count"
    TIME = "time"
    LENGTH = "length"
    MARKS = "marks"
    OFFSET = "offset"
    SIDES = "sides"
    HITS = "hits"
    STAGE = "stage"
    LAPS = "laps"
    TOTAL = "total"
    MASS = "mass"
    PULSE = "pulse"


class Dimension(StrEnum):
    """What a canonical value counts in."""

    NUMBER = "number"
    MILLISECONDS = "ms"
    MILLIMETRES = "mm"
    GRAMS = "g"
    BEATS = "bpm"


class Better(StrEnum):
    """Which direction of a score is the better one."""

    UP = "up"
    DOWN = "down"

    @property
    def sign(self) -> int:
        return 1 if self is Better.UP else -1


#: Millimetres in one unit of length. International yard and pound agreement of 1959:
#: 1 yd = 0.9144 m exactly; the foot, inch and mile follow from it.
MILLIMETRES: Final[dict[str, Fraction]] = {
    "mm": Fraction(1),
    "cm": Fraction(10),
    "m": Fraction(1000),
    "in": Fraction(254, 10),
    "ft": Fraction(3048, 10),
    "yd": Fraction(9144, 10),
    "mile": Fraction(1_609_344),
}

#: Grams in one unit of mass. The same agreement: 1 lb = 0.45359237 kg exactly.
GRAMS: Final[dict[str, Fraction]] = {
    "g": Fraction(1),
    "kg": Fraction(1000),
    "lb": Fraction(45_359_237, 100_000),
}

#: Milliseconds in one unit of time.
MILLISECONDS: Final[dict[str, Fraction]] = {
    "s": Fraction(1000),
    "min": Fraction(60_000),
}

#: One of each unit in canonical units, by what it counts in; no name stands for two.
UNITS: Final[dict[Dimension, dict[str, Fraction]]] = {
    Dimension.MILLISECONDS: MILLISECONDS,
    Dimension.MILLIMETRES: MILLIMETRES,
    Dimension.GRAMS: GRAMS,
}
UNIT_SIZES: Final = {unit: size for units in UNITS.values() for unit, size in units.items()}


def unit_size(unit: str) -> Fraction:
    """One of a unit in canonical units: 10 for cm, 1000 for s and kg, 1 for what is counted."""
    return UNIT_SIZES.get(unit, Fraction(1))


#: A `highest` that limits nothing.
UNLIMITED: Final = 10**9
#: A child has two sides.
SIDES_THERE_ARE: Final = 2


@dataclass(frozen=True, slots=True)
class Measure:
    """How one protocol's score is measured.

    kind        how the score is made; fixes the dimension
    better      the better direction
    unit        the unit assumed when none is typed, and shown: "reps", "s", "cm", "kg"
    resolution  smallest step in canonical units (1 rep, 100 ms, 10 mm)
    highest     hard upper limit in canonical units: nobody can do more under this protocol
    lowest      hard lower limit in canonical units
    cap         the protocol's own maximum (a test that ends at 30 reps), or None
    of          hits: out of how many
    lap_mm      laps: the length of one lap
    schedule    stage: the name of the schedule of shuttles a stage (see `shuttle`)
    target_mm   time: the distance to be covered, so that an unfinished try keeps its metres
    places      lengths and weights: decimal places shown
    variants    names of the variants, where a letter that names one could be meant for it
    """

    kind: Kind
    better: Better = Better.UP
    unit: str = "reps"
    resolution: int = 1
    highest: int = 10_000_000
    lowest: int = 0
    cap: int | None = None
    of: int | None = None
    lap_mm: int | None = None
    schedule: str = ""
    target_mm: int | None = None
    places: int = 4
    variants: tuple[str, ...] = ()

    @property
    def ceiling(self) -> int:
        """The highest value that can be stored: the cap where there is one."""
        return self.highest if self.cap is None else min(self.cap, self.highest)

    @property
    def top(self) -> int | None:
        """The test's end: its cap, or the most its kind allows (10 of 10, both sides). None where
        less is better or where there is no end."""
        if self.better is Better.DOWN:
            return None
        most = {Kind.HITS: self.of, Kind.SIDES: SIDES_THERE_ARE}.get(self.kind)
        ends = [end for end in (self.cap, most) if end is not None]
        return min(ends, default=None)

    @property
    def floor(self) -> int | None:
        """A true zero: nothing can lie below it. None on a reach box, where zero is the toes."""
        return 0 if self.better is Better.UP and self.lowest == 0 else None


#: Units of a school that measures in inches, feet and pounds.
_IMPERIAL: Final[dict[str, str]] = {"mm": "in", "cm": "in", "m": "ft", "g": "lb", "kg": "lb"}


def in_imperial(measure: Measure) -> Measure:
    """The measure typed without a unit, and shown, in inches, feet or pounds to one place; kept to
    the millimetre or gram, so that 41 in stays 41 in."""
    unit = _IMPERIAL.get(measure.unit)
    if unit is None:
        return measure
    return replace(measure, unit=unit, resolution=1, places=1)


def to_step(exact: Fraction, resolution: int) -> int:
    """Nearest multiple of the resolution, halves away from zero (a person's rounding, not a
    banker's; the same for a gain and for the loss that mirrors it)."""
    steps = abs(exact) / resolution
    whole = (2 * steps.numerator + steps.denominator) // (2 * steps.denominator)
    return (whole if exact >= 0 else -whole) * resolution


def decimal(exact: Fraction, places: int) -> str:
    """A decimal number without trailing noughts, to at most so many places."""
    scaled = to_step(exact * 10**places, 1)
    sign = "-" if scaled < 0 else ""
    whole, part = divmod(abs(scaled), 10**places)
    text = f"{whole}.{part:0{places}d}".rstrip("0").rstrip(".") if places else str(whole)
    return sign + text
