"""Kinds of score, their canonical units, and how a value is written for people."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from typing import Final


class Kind(StrEnum):
    """What sort of thing a score is. The value names the dimension."""

    COUNT = "count"
    TIME = "time"
    LENGTH = "length"


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


@dataclass(frozen=True, slots=True)
class Measure:
    """How one protocol's score is measured.

    kind        the dimension
    better      the better direction
    unit        the unit assumed when none is typed, and shown: "reps", "s", "cm", "m", "in"
    resolution  smallest step in canonical units (1 rep, 100 ms, 10 mm)
    highest     hard upper limit in canonical units: nobody can do more under this protocol
    lowest      hard lower limit in canonical units
    cap         the protocol's own maximum (a test that ends at 30 reps), or None
    """

    kind: Kind
    better: Better = Better.UP
    unit: str = "reps"
    resolution: int = 1
    highest: int = 10_000_000
    lowest: int = 0
    cap: int | None = None

    @property
    def ceiling(self) -> int:
        """The highest value that can be stored: the cap where there is one."""
        return self.highest if self.cap is None else min(self.cap, self.highest)


def to_step(exact: Fraction, resolution: int) -> int:
    """Nearest multiple of the resolution, halves up (a person's rounding, not a banker's)."""
    steps = exact / resolution
    return ((2 * steps.numerator + steps.denominator) // (2 * steps.denominator)) * resolution


def _decimal(exact: Fraction, places: int) -> str:
    scaled = to_step(exact * 10**places, 1)
    sign = "-" if scaled < 0 else ""
    whole, part = divmod(abs(scaled), 10**places)
    text = f"{whole}.{part:0{places}d}".rstrip("0").rstrip(".") if places else str(whole)
    return sign + text


def format_number(value: int, measure: Measure) -> str:
    """The value alone, without its unit, as it would be typed back.

    >>> format_number(65_300, Measure(Kind.TIME, unit="s", resolution=100))
    '1:05.3'
    >>> format_number(1270, Measure(Kind.LENGTH, unit="cm", resolution=10))
    '127'
    """
    if measure.kind is Kind.COUNT:
        return str(value)
    if measure.kind is Kind.TIME:
        # A whole minute and more is written m:ss, as on every stopwatch.
        minutes, rest = divmod(value, 60_000)
        seconds = _decimal(Fraction(rest, 1000), 3)
        if minutes == 0:
            return seconds
        whole, _, part = seconds.partition(".")
        return f"{minutes}:{int(whole):02d}" + (f".{part}" if part else "")
    return _decimal(Fraction(value) / MILLIMETRES[measure.unit], 4)


def format_value(value: int, measure: Measure) -> str:
    """The value with its unit: '42', '48.5 s', '1:05.3', '127 cm'."""
    text = format_number(value, measure)
    if measure.kind is Kind.COUNT or ":" in text:
        return text
    return f"{text} {measure.unit}"


def format_difference(amount: int, measure: Measure) -> str:
    """An unsigned amount in the child's units: '3', '1.5 s', '12 cm'."""
    if measure.kind is Kind.TIME:
        return f"{_decimal(Fraction(amount, 1000), 3)} s"
    return format_value(amount, measure)
