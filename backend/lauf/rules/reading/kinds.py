"""The kinds of score, each described once: what it counts in, how it is read and written.

A new kind is a member of `Kind`, an entry here, and its reader in `rules.readers`.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from typing import Final

from lauf.messages import say, say_many
from lauf.rules.reading.quantities import GRAMS, MILLIMETRES, Dimension, Kind, Measure, decimal
from lauf.rules.reading.readers import counted, laps, lengths, masses, times
from lauf.rules.reading.readers.text import Read
from lauf.rules.reading.shuttle import stage_of

Reader = Callable[[str, Measure], Read]
Writer = Callable[[int, Measure], str]


@dataclass(frozen=True, slots=True)
class ScoreKind:
    """One kind of score.

    name         what it is called where a test is edited
    units        the units it may be shown in, the usual one first
    dimension    what its canonical value counts in
    read         reads the plain body of an entry
    form         what an entry looks like, with {low} {high} {of} filled in
    write        a value as it would be typed back, without its unit
    apart        an unsigned difference, with its unit
    signs        what may stand in an entry beside digits, blanks, dashes and ~; words beside them
    bare         its number says by itself what it is, so no unit is shown
    noise_grows  day-to-day variation is a share of the score (times of runs, jumps, holds)
    any_course   a distance, or a time over a fixed one: compared whatever the course
    separates    several things are typed in a row, so that a comma may stand between them
    pad          keys that an entry needs beside the digits
    """

    name: str
    units: tuple[str, ...]
    dimension: Dimension
    read: Reader
    form: str
    write: Writer
    apart: Writer
    signs: str = ""
    words: str = ""
    bare: bool = False
    noise_grows: bool = False
    any_course: bool = False
    separates: bool = False
    pad: tuple[str, ...] = ()


def _number(value: int, _: Measure) -> str:
    return str(value)


def _time(value: int, _: Measure) -> str:
    # A whole minute and more is written m:ss, as on every stopwatch.
    minutes, rest = divmod(value, 60_000)
    seconds = decimal(Fraction(rest, 1000), 3)
    if minutes == 0:
        return seconds
    whole, _dot, part = seconds.partition(".")
    return f"{minutes}:{int(whole):02d}" + (f".{part}" if part else "")


def _length(value: int, measure: Measure) -> str:
    return decimal(Fraction(value) / MILLIMETRES[measure.unit], measure.places)


def _offset(value: int, measure: Measure) -> str:
    text = _length(value, measure)
    return text if value <= 0 else f"+{text}"


def _mass(value: int, measure: Measure) -> str:
    return decimal(Fraction(value) / GRAMS[measure.unit], min(3, measure.places))


def _stage(value: int, measure: Measure) -> str:
    stage, shuttle = stage_of(value, measure.schedule)
    return f"{stage}.{shuttle}"


def _hits(value: int, measure: Measure) -> str:
    return f"{value}/{measure.of}" if measure.of else str(value)


def _sides(value: int, _: Measure) -> str:
    return say("{value} of 2", value=value)


def _laps(value: int, measure: Measure) -> str:
    if not measure.lap_mm:
        return f"{decimal(Fraction(value, 1000), 3)}m"
    whole, beyond = divmod(value, measure.lap_mm)
    return f"{whole}+{decimal(Fraction(beyond, 1000), 3)}m" if beyond else str(whole)


#: The finest that a difference is shown to, in decimal places.
_FINEST: Final = 4


def _not_as_nothing(exact: Fraction, places: int) -> str:
    """A difference to so many places, and to more where it would read as none: a millimetre is
    0.04 in, not 0."""
    shown = (decimal(exact, more) for more in range(places, _FINEST + 1))
    return next((text for text in shown if text != "0"), "0")


def _length_apart(value: int, measure: Measure) -> str:
    exact = Fraction(value) / MILLIMETRES[measure.unit]
    return f"{_not_as_nothing(exact, measure.places)} {measure.unit}"


def _seconds_apart(value: int, _: Measure) -> str:
    return f"{decimal(Fraction(value, 1000), 3)} s"


def _shuttles_apart(value: int, _: Measure) -> str:
    return say_many("{n} shuttle", "{n} shuttles", value)


def _metres_apart(value: int, _: Measure) -> str:
    return f"{_not_as_nothing(Fraction(value, 1000), 1)} m"


def _mass_apart(value: int, measure: Measure) -> str:
    exact = Fraction(value) / GRAMS[measure.unit]
    return f"{_not_as_nothing(exact, min(3, measure.places))} {measure.unit}"


def _beats_apart(value: int, measure: Measure) -> str:
    return f"{value} {measure.unit}"


_LENGTH_SIGNS: Final = ".,'\"’`´′′”“″½¼¾⅓⅔⅛⅜⅝⅞/"
_LENGTH_WORDS: Final = (
    "mms?|cms?|kms?|m|milli|centi|kilo|metres?|meters?|inch(?:es)?|ins?|ft|feet-lengths?|feet|foot|"
    "yds?|yards?|miles?|hands?|spans?|steps?|paces?|and"
)
_MASS_WORDS: Final = "kgs?|kilos?|kilograms?|g|grams?|lbs?|pounds?|stones?|st|and"

KINDS: Final[dict[Kind, ScoreKind]] = {
    Kind.COUNT: ScoreKind(
        say("Count of reps"), ("reps",), Dimension.NUMBER,
        counted.read_count, say("a whole number from {low} to {high}"),
        _number, _number, words="reps?|times", bare=True,
    ),
    Kind.TIME: ScoreKind(
        say("Time, held or taken"), ("s",), Dimension.MILLISECONDS,
        times.read_time_entry,
        say("a time such as 48.5 or 1:05.3, from {low} to {high}"),
        _time, _seconds_apart, signs=":.,½¼¾+'\"’′”″/",
        words="minutes?|mins?|m|seconds?|secs?|s|and|laps?|metres?|meters?|kms?|yds?|yards?|"
        "miles?|run",
        noise_grows=True, any_course=True, pad=(":", "."),
    ),
    Kind.LENGTH: ScoreKind(
        say("Length"), ("cm", "m", "mm"), Dimension.MILLIMETRES,
        lengths.read_length_entry,
        say("a length such as 127, 127cm, 1.27m or 4ft 2in, from {low} to {high}"),
        _length, _length_apart, signs=_LENGTH_SIGNS, words=_LENGTH_WORDS, noise_grows=True,
        pad=(".", "'"),
    ),
    Kind.MARKS: ScoreKind(
        say("Difference of two marks"), ("cm",), Dimension.MILLIMETRES,
        lengths.read_marks,
        say("the two marks, standing then jumping, such as 142 171, or the difference "
"alone"),
        _length, _length_apart, signs=f"{_LENGTH_SIGNS}>→;", words=f"{_LENGTH_WORDS}|to|then",
        noise_grows=True, separates=True, pad=(".", " "),
    ),
    Kind.OFFSET: ScoreKind(
        say("Distance from zero, with a sign"), ("cm",), Dimension.MILLIMETRES,
        lengths.read_offset,
        say("the distance from zero, such as -5, 0 or +3, from {low} to {high}"),
        _offset, _length_apart, signs=f"{_LENGTH_SIGNS}+",
        words=f"{_LENGTH_WORDS}|past|beyond|over|short", pad=("-", "+"),
    ),
    Kind.SIDES: ScoreKind(
        say("Yes or no, each side"), ("sides",), Dimension.NUMBER,
        counted.read_sides,
        say("each side, such as L y R n or y n (left, right), both, none"),
        _sides, _number, signs=".,;:=/✓✔☑✗✘☒×lryn",
        words="left|right|yes|no|tick|cross|both|b|none|neither|only|of|x",
        bare=True, separates=True,
    ),
    Kind.HITS: ScoreKind(
        say("Hits out of N"), ("hits",), Dimension.NUMBER,
        counted.read_hits,
        say(
            "the hits, such as 7 or 7/{of}, or every shot as x (hit) or o (miss)"
        ),
        _hits, _number, signs=".,;xo×/✓✔☑✗✘☒yn", words="of|out of|hits?", bare=True,
        separates=True, pad=("x", "o"),
    ),
    Kind.STAGE: ScoreKind(
        say("Stage and shuttle"), ("shuttles",), Dimension.NUMBER,
        counted.read_stage,
        say("the last completed stage and shuttle, such as 4.6"),
        _stage, _shuttles_apart, signs=".,:/", words="stage|level|shuttles?", bare=True,
        any_course=True, pad=(".",),
    ),
    Kind.LAPS: ScoreKind(
        say("Laps and part of a lap"), ("m",), Dimension.MILLIMETRES,
        laps.read_laps, say("laps and the part beyond, such as 7, 7+12m or 7.5"),
        _laps, _metres_apart, signs=f"{_LENGTH_SIGNS}+", words=f"laps?|{_LENGTH_WORDS}",
        noise_grows=True, any_course=True, pad=("+", "."),
    ),
    Kind.TOTAL: ScoreKind(
        say("Total over movements"), ("reps",), Dimension.NUMBER,
        counted.read_total,
        say(
            "a total up to {high}, or its parts such as 50+60+40, c40 (carried in) or "
            "20e/10/5h"
        ),
        _number, _number, signs="ceuh+/,", words="by", bare=True, pad=("+", "c"),
    ),
    Kind.MASS: ScoreKind(
        say("Weight"), ("kg",), Dimension.GRAMS,
        masses.read_mass, say("a weight such as 31.5, 31.5kg or 69lb, from {low} to {high}"),
        _mass, _mass_apart, signs=".,½¼¾/", words=_MASS_WORDS, pad=(".",),
    ),
    Kind.PULSE: ScoreKind(
        say("Pulse"), ("bpm",), Dimension.BEATS,
        counted.read_pulse,
        say("beats a minute from {low} to {high}, or beats in a time, such as 22/10s"),
        _number, _beats_apart, signs="/×x", words="bpm|a minute|beats?|in|seconds?|secs?|s",
        pad=("/",),
    ),
}  # fmt: skip


def dimension_of(kind: Kind) -> Dimension:
    """What a kind's canonical value counts in."""
    return KINDS[kind].dimension


def format_number(value: int, measure: Measure) -> str:
    """The value alone, without its unit, as it would be typed back.

    >>> format_number(65_300, Measure(Kind.TIME, unit="s", resolution=100))
    '1:05.3'
    >>> format_number(1270, Measure(Kind.LENGTH, unit="cm", resolution=10))
    '127'
    """
    return KINDS[measure.kind].write(value, measure)


def format_value(value: int, measure: Measure) -> str:
    """The value with its unit: '42', '48.5 s', '1:05.3', '127 cm', '−5 cm', '7/10',
    '7 laps + 12 m'."""
    text = re.sub(r"(?<!\d)-(?=\d)", "−", format_number(value, measure))
    if KINDS[measure.kind].bare or ":" in text:
        return text
    if measure.kind is Kind.LAPS:
        if not measure.lap_mm:
            return text
        whole, plus, beyond = text.partition("+")
        return f"{say_many('{n} lap', '{n} laps', int(whole))}" + (
            f" + {beyond[:-1]} m" if plus else ""
        )
    return f"{text} {measure.unit}"


def format_difference(amount: int, measure: Measure) -> str:
    """An unsigned amount in the child's units: '3', '1.5 s', '12 cm', '2 shuttles', '240 m'."""
    return KINDS[measure.kind].apart(amount, measure)


def form_words(measure: Measure) -> str:
    """What an entry of this kind looks like: the middle of "Type … ; or a absent"."""
    low, high = format_value(measure.lowest, measure), format_value(measure.ceiling, measure)
    words = KINDS[measure.kind].form.format(low=low, high=high, of=measure.of)
    if measure.kind is Kind.TIME and measure.target_mm:
        return say(
            "{words}, or for an unfinished try the distance run, such as 5+20m or 480m run",
            words=words,
        )
    return words
