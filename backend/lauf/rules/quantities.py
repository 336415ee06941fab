"""Kinds of score, their canonical units, and how a value is written for people."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from typing import Final

from lauf.rules.shuttle import stage_of


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


DIMENSIONS: Final[dict[Kind, Dimension]] = {
    Kind.COUNT: Dimension.NUMBER,
    Kind.TOTAL: Dimension.NUMBER,
    Kind.HITS: Dimension.NUMBER,
    Kind.SIDES: Dimension.NUMBER,
    Kind.STAGE: Dimension.NUMBER,
    Kind.TIME: Dimension.MILLISECONDS,
    Kind.LENGTH: Dimension.MILLIMETRES,
    Kind.MARKS: Dimension.MILLIMETRES,
    Kind.OFFSET: Dimension.MILLIMETRES,
    Kind.LAPS: Dimension.MILLIMETRES,
    Kind.MASS: Dimension.GRAMS,
    Kind.PULSE: Dimension.BEATS,
}


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

    @property
    def ceiling(self) -> int:
        """The highest value that can be stored: the cap where there is one."""
        return self.highest if self.cap is None else min(self.cap, self.highest)

    @property
    def dimension(self) -> Dimension:
        return DIMENSIONS[self.kind]


#: Units of a school that measures in inches, feet and pounds.
_IMPERIAL: Final[dict[str, str]] = {"mm": "in", "cm": "in", "m": "ft", "g": "lb", "kg": "lb"}


def in_imperial(measure: Measure) -> Measure:
    """The measure typed without a unit, and shown, in inches, feet or pounds to one place; kept to
    the millimetre or gram, so that 33 in stays 33 in."""
    unit = _IMPERIAL.get(measure.unit)
    if unit is None:
        return measure
    return replace(measure, unit=unit, resolution=1, places=1)


def to_step(exact: Fraction, resolution: int) -> int:
    """Nearest multiple of the resolution, halves up (a person's rounding, not a banker's)."""
    steps = exact / resolution
    return ((2 * steps.numerator + steps.denominator) // (2 * steps.denominator)) * resolution


def decimal(exact: Fraction, places: int) -> str:
    """A decimal number without trailing noughts, to at most so many places."""
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
    kind = measure.kind
    if kind is Kind.HITS:
        return f"{value}/{measure.of}" if measure.of else str(value)
    if kind is Kind.SIDES:
        return f"{value} of 2"
    if kind is Kind.STAGE:
        stage, shuttle = stage_of(value, measure.schedule)
        return f"{stage}.{shuttle}"
    if kind is Kind.OFFSET:
        text = decimal(Fraction(value) / MILLIMETRES[measure.unit], measure.places)
        return text if value <= 0 else f"+{text}"
    if kind is Kind.LAPS and measure.lap_mm:
        laps, beyond = divmod(value, measure.lap_mm)
        return f"{laps}+{decimal(Fraction(beyond, 1000), 3)}m" if beyond else str(laps)
    match measure.dimension:
        case Dimension.NUMBER | Dimension.BEATS:
            return str(value)
        case Dimension.MILLISECONDS:
            return _format_time(value)
        case Dimension.GRAMS:
            return decimal(Fraction(value) / GRAMS[measure.unit], min(3, measure.places))
        case Dimension.MILLIMETRES:
            return decimal(Fraction(value) / MILLIMETRES[measure.unit], measure.places)


def _format_time(value: int) -> str:
    # A whole minute and more is written m:ss, as on every stopwatch.
    minutes, rest = divmod(value, 60_000)
    seconds = decimal(Fraction(rest, 1000), 3)
    if minutes == 0:
        return seconds
    whole, _, part = seconds.partition(".")
    return f"{minutes}:{int(whole):02d}" + (f".{part}" if part else "")


#: Kinds whose number says by itself what it is.
_BARE: Final = {Kind.COUNT, Kind.TOTAL, Kind.HITS, Kind.SIDES, Kind.STAGE}


def format_value(value: int, measure: Measure) -> str:
    """The value with its unit: '42', '48.5 s', '1:05.3', '127 cm', '7/10', '4.6', '7+12m laps'."""
    text = format_number(value, measure)
    if measure.kind in _BARE or ":" in text:
        return text
    if measure.kind is Kind.LAPS:
        return f"{text} laps"
    return f"{text} {measure.unit}"


def format_difference(amount: int, measure: Measure) -> str:
    """An unsigned amount in the child's units: '3', '1.5 s', '12 cm', '2 shuttles', '240 m'."""
    match measure.kind:
        case Kind.TIME:
            return f"{decimal(Fraction(amount, 1000), 3)} s"
        case Kind.STAGE:
            return f"{amount} shuttle{'' if amount == 1 else 's'}"
        case Kind.LAPS:
            return f"{decimal(Fraction(amount, 1000), 1)} m"
        case Kind.OFFSET:
            exact = Fraction(amount) / MILLIMETRES[measure.unit]
            return f"{decimal(exact, measure.places)} {measure.unit}"
        case Kind.HITS | Kind.SIDES:
            return str(amount)
        case _:
            return format_value(amount, measure)
