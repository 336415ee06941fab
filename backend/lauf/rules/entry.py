"""Reading a score as a person types it.

One function, `read_entry`. It never guesses: what it cannot read for certain it refuses with
a sentence that says what is accepted, and offers the readings where two are possible.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from typing import Final

from lauf.rules.quantities import (
    MILLIMETRES,
    Better,
    Kind,
    Measure,
    format_value,
    to_step,
)


class NotDone(StrEnum):
    """Why there is no score. Blank is never zero."""

    ABSENT = "absent"
    SAT_OUT = "sat_out"
    NO_KIT = "no_kit"
    DID_NOT_WANT = "did_not_want"
    VOID = "void"


#: The one-letter keys, and what each is called on screen.
REASON_KEYS: Final[dict[str, NotDone]] = {
    "a": NotDone.ABSENT,
    "x": NotDone.SAT_OUT,
    "k": NotDone.NO_KIT,
    "r": NotDone.DID_NOT_WANT,
    "v": NotDone.VOID,
}
REASON_WORDS: Final[dict[NotDone, str]] = {
    NotDone.ABSENT: "absent",
    NotDone.SAT_OUT: "sat out",
    NotDone.NO_KIT: "no kit or helper",
    NotDone.DID_NOT_WANT: "did not want to",
    NotDone.VOID: "void",
}


@dataclass(frozen=True, slots=True)
class Entry:
    """What was typed, read: a canonical value or a reason, never both."""

    typed: str
    value: int | None = None
    reason: NotDone | None = None
    estimate: bool = False


@dataclass(frozen=True, slots=True)
class Choice:
    """One possible reading of an ambiguous entry: `typed` reads as exactly that."""

    typed: str
    words: str


class EntryError(ValueError):
    """The entry was refused.

    message   what is wrong with it
    accepted  what would be accepted instead
    choices   the readings to choose from, when it was ambiguous
    """

    def __init__(self, message: str, accepted: str, choices: tuple[Choice, ...] = ()) -> None:
        super().__init__(f"{message} {accepted}")
        self.message = message
        self.accepted = accepted
        self.choices = choices


_NUMBER: Final = r"(\d+(?:\.\d+)?|\.\d+)"
_CLOCK: Final = re.compile(r"(\d+):([0-5]?\d(?:\.\d+)?)")
_MINUTES: Final = re.compile(rf"{_NUMBER}\s*(?:m|min|mins)(?:\s*{_NUMBER}\s*(?:s|sec|secs)?)?")
_SECONDS: Final = re.compile(rf"{_NUMBER}\s*(?:s|sec|secs)?")
_TWO_DIGITS: Final = re.compile(r"(\d+)\.([0-5]\d)")
_FEET: Final = re.compile(
    rf"{_NUMBER}\s*(?:'|ft|feet|foot)\s*(?:{_NUMBER}\s*(?:\"|''|in|inch|inches)?)?"
)
_LENGTH: Final = re.compile(rf"{_NUMBER}\s*(mm|cm|m|in|inch|inches|\"|yd|yds|mile|miles)?")
_UNIT_NAMES: Final = {"inch": "in", "inches": "in", '"': "in", "yds": "yd", "miles": "mile"}
# Curly quotes, primes and dashes arrive from phones' keyboards.
_PLAIN: Final = str.maketrans(
    {"’": "'", "′": "'", "”": '"', "″": '"', "−": "-", "–": "-", ",": "."}
)
_REASONS: Final = "a absent, x sat out, k no kit, r did not want to, v void"
#: Longer than any score: stops a pasted page from reaching the patterns.
LONGEST_ENTRY: Final = 40


def accepted_words(measure: Measure) -> str:
    """One sentence saying what an entry for this measure may look like."""
    low = format_value(measure.lowest, measure)
    high = format_value(measure.ceiling, measure)
    if measure.kind is Kind.COUNT:
        form = f"a whole number from {low} to {high}"
    elif measure.kind is Kind.TIME:
        form = f"a time such as 48.5 or 1:05.3, from {low} to {high}"
    else:
        form = f"a length such as 127, 127cm, 1.27m or 4ft 2in, from {low} to {high}"
    return f"Type {form}; ~ after it for an estimate; or {_REASONS}."


@dataclass(frozen=True, slots=True)
class QuickCheck:
    """What a browser may compare an entry with before it is sent: a JavaScript and Python regular
    expression for the whole entry, and for plain counts the limits. The reader stays the judge."""

    pattern: str
    lowest: int | None = None
    highest: int | None = None


def quick_check(measure: Measure) -> QuickCheck:
    """A check that refuses no entry the reader accepts; for counts it is exact but for reasons."""
    if measure.kind is Kind.COUNT:
        return QuickCheck(r"~?\s*[0-9]+\s*~?", measure.lowest, measure.ceiling)
    return QuickCheck(r"[~0-9.].{0,39}")


def read_entry(text: str, measure: Measure) -> Entry:
    """Read one typed score for the measure at hand.

    Returns an `Entry` whose value is in canonical units, rounded to the measure's resolution.
    Raises `EntryError` for anything that is not certainly a score or a reason.

    >>> read_entry("42~", Measure(Kind.COUNT)).estimate
    True
    >>> read_entry("4ft 2in", Measure(Kind.LENGTH, unit="cm", resolution=10)).value
    1270
    """
    typed = text.strip()
    accepted = accepted_words(measure)
    if not typed:
        raise EntryError("Nothing was typed.", accepted)
    if len(typed) > LONGEST_ENTRY:
        raise EntryError("That is too long to be a score.", accepted)
    plain = typed.translate(_PLAIN).lower()
    if plain in REASON_KEYS:
        return Entry(typed=typed, reason=REASON_KEYS[plain])
    estimate = plain.endswith("~") or plain.startswith("~")
    body = plain.strip("~").strip()
    if estimate and body in REASON_KEYS:
        raise EntryError("A reason cannot be an estimate.", accepted)
    exact = _read_number(body, typed, measure, accepted)
    value = to_step(exact, measure.resolution)
    _check_limits(value, typed, measure, accepted)
    return Entry(typed=typed, value=value, estimate=estimate)


def _read_number(body: str, typed: str, measure: Measure, accepted: str) -> Fraction:
    if not body.isascii():  # \d would also match digits of other scripts
        raise EntryError(f"“{typed}” is not a score.", accepted)
    if re.fullmatch(r"-\s*[\d.:]+.*", body):
        raise EntryError(f"“{typed}” is below zero.", accepted)
    if measure.kind is Kind.COUNT:
        if re.fullmatch(r"\d+", body):
            return Fraction(int(body))
        if re.fullmatch(_NUMBER, body):
            raise EntryError(
                f"“{typed}” is not a whole number: count only finished ones.", accepted
            )
        raise EntryError(f"“{typed}” is not a count.", accepted)
    if measure.kind is Kind.TIME:
        return _read_time(body, typed, measure, accepted)
    return _read_length(body, typed, measure, accepted)


def _read_time(body: str, typed: str, measure: Measure, accepted: str) -> Fraction:
    if found := _CLOCK.fullmatch(body):
        return Fraction(found[1]) * 60_000 + Fraction(found[2]) * 1000
    if found := _MINUTES.fullmatch(body):
        return Fraction(found[1]) * 60_000 + Fraction(found[2] or 0) * 1000
    if found := _SECONDS.fullmatch(body):
        if pair := _TWO_DIGITS.fullmatch(body):
            _refuse_if_ambiguous(pair, typed, measure)
        return Fraction(found[1]) * 1000
    raise EntryError(f"“{typed}” is not a time.", accepted)


def _refuse_if_ambiguous(pair: re.Match[str], typed: str, measure: Measure) -> None:
    """1.05 may be a decimal of seconds or minutes and seconds: ask when both can be."""
    minutes, seconds = int(pair[1]), int(pair[2])
    as_clock = minutes * 60_000 + seconds * 1000
    as_decimal = Fraction(pair[0]) * 1000
    if minutes and as_clock <= measure.ceiling and measure.lowest <= as_decimal <= measure.ceiling:
        choices = (
            Choice(f"{minutes}:{pair[2]}", f"{minutes} min {pair[2]} s"),
            Choice(f"{pair[0]}s", f"{pair[0]} s"),
        )
        raise EntryError(
            f"“{typed}” could be {choices[0].words} or {choices[1].words}.",
            f"Type {choices[0].typed} or {choices[1].typed}.",
            choices,
        )


def _read_length(body: str, typed: str, measure: Measure, accepted: str) -> Fraction:
    if found := _FEET.fullmatch(body):
        return Fraction(found[1]) * MILLIMETRES["ft"] + Fraction(found[2] or 0) * MILLIMETRES["in"]
    if found := _LENGTH.fullmatch(body):
        unit = found[2] or measure.unit
        return Fraction(found[1]) * MILLIMETRES[_UNIT_NAMES.get(unit, unit)]
    raise EntryError(f"“{typed}” is not a length.", accepted)


def _check_limits(value: int, typed: str, measure: Measure, accepted: str) -> None:
    if measure.cap is not None and value > measure.cap:
        cap = format_value(measure.cap, measure)
        raise EntryError(f"“{typed}” is over this test's own maximum of {cap}.", accepted)
    if value > measure.highest:
        high = format_value(measure.highest, measure)
        raise EntryError(f"“{typed}” is more than anyone can do here ({high}).", accepted)
    if value < measure.lowest:
        low = format_value(measure.lowest, measure)
        end = "faster than anyone" if measure.better is Better.DOWN else "too small"
        raise EntryError(f"“{typed}” is {end}: the least is {low}.", accepted)
