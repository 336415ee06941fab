"""Lengths, marks, offsets and hand spans. Canonical unit: the millimetre."""

from __future__ import annotations

import re
from fractions import Fraction
from typing import Final

from lauf.messages import mark, say
from lauf.rules.reading.quantities import MILLIMETRES, Measure, decimal, to_step
from lauf.rules.reading.readers.text import MIXED, NUMBER, Parts, Read, Unreadable, ask, fraction

#: Units as people write them, singular and plural.
UNIT_WORDS: Final = {
    "mm": "mm", "mms": "mm", "millimetre": "mm", "millimetres": "mm", "millimeters": "mm",
    "cm": "cm", "cms": "cm", "centimetre": "cm", "centimetres": "cm", "centimeter": "cm",
    "centimeters": "cm", "m": "m", "metre": "m", "metres": "m", "meter": "m",
    "meters": "m", "km": "km", "kms": "km", "kilometre": "km", "kilometres": "km",
    "in": "in", "ins": "in", "inch": "in", "inches": "in", '"': "in",
    "ft": "ft", "feet": "ft", "foot": "ft", "'": "ft", "yd": "yd", "yds": "yd", "yard": "yd",
    "yards": "yd", "mile": "mile", "miles": "mile",
}  # fmt: skip
_MM: Final = {**MILLIMETRES, "km": Fraction(1_000_000)}
_WORDS: Final = "|".join(sorted(map(re.escape, UNIT_WORDS), key=len, reverse=True))
_FEET: Final = "feet|foot|ft|'"
_INCH: Final = 'inches|inch|ins|in|"'
_ONE: Final = re.compile(rf"({MIXED}|{NUMBER})\s*({_WORDS})?\.?")
_FEET_INCHES: Final = re.compile(
    rf"({NUMBER})\s*(?:{_FEET})\.?\s*(?:and )?({MIXED}|{NUMBER})\s*(?:{_INCH})?\.?"
)
_METRES_CM: Final = re.compile(
    rf"({NUMBER})\s*(?:metres?|meters?|m)\.?\s*(?:and )?({NUMBER})"
    r"\s*(cms?|centimetres?|centimeters?)?\.?"
)
#: Informal units as kept: "hand", "step", "feet-length".
INFORMAL_UNITS: Final = ("hand", "step", "feet-length")
_INFORMAL_NAMES: Final = {
    "hand": "hand", "hands": "hand", "span": "hand", "spans": "hand", "hand spans": "hand",
    "step": "step", "steps": "step", "pace": "step", "paces": "step",
    "feet-length": "feet-length", "feet-lengths": "feet-length",
}  # fmt: skip
_INFORMAL: Final = re.compile(
    rf"({NUMBER}|{MIXED})\s*({'|'.join(sorted(_INFORMAL_NAMES, key=len, reverse=True))})"
)
#: A number without a unit under this share of the most there can be may have been meant in a
#: larger unit (our choice).
_TINY: Final = Fraction(1, 50)
#: Nor is a number without a unit certain that has a place a hundredth of what the test measures
#: (our choice).
_TOO_FINE: Final = 100

_NO_LENGTH: Final = mark("“{typed}” is not a length.")


def read_length(body: str, unit: str) -> Fraction:
    """A length in millimetres, `unit` where none is typed. Raises `Unreadable`.

    >>> read_length("4ft 2in", "cm")
    Fraction(1270, 1)
    """
    exact, _ = _read(body, unit)
    return exact


def _read(body: str, unit: str) -> tuple[Fraction, bool]:
    """A length and whether its unit was typed."""
    if found := _FEET_INCHES.fullmatch(body):
        feet, inches = Fraction(found[1]), fraction(found[2])
        if feet.denominator != 1:
            raise Unreadable("“{typed}” has a part of a foot before the inches.")
        if inches >= 12:
            raise Unreadable(
                "“{typed}” has 12 inches or more after the feet, which is another foot."
            )
        return feet * MILLIMETRES["ft"] + inches * MILLIMETRES["in"], True
    if found := _METRES_CM.fullmatch(body):
        return _metres_and_centimetres(*found.groups()), True
    if found := _ONE.fullmatch(body):
        name = UNIT_WORDS[found[2]] if found[2] else unit
        if name == "ft" and (split := _INCHES_AFTER.fullmatch(found[1])):
            raise _feet_and_inches(found[1], *split.groups())
        # "33½" is half a centimetre more; 33/2 is no length.
        if "/" in found[1] and _metric(name) and not found[1].endswith("1/2"):
            raise Unreadable("“{typed}” has a fraction, but fractions are for inches.")
        return fraction(found[1]) * _MM[name], bool(found[2])
    raise Unreadable(_NO_LENGTH)


#: Feet with a point after which the inches may stand: 4.11, 5.5.
_INCHES_AFTER: Final = re.compile(r"(\d+)\.([1-9]|1[01])")


def _feet_and_inches(number: str, feet: str, inches: str) -> Unreadable:
    as_inches = decimal(Fraction(number) * 12, 2)
    return ask(
        "“{typed}” could be {feet} ft {inches} in or {number} ft.",
        (f"{feet}ft {inches}in", f"{feet} ft {inches} in"),
        (f"{as_inches}in", f"{number} ft, {as_inches} in"),
        feet=feet,
        inches=inches,
        number=number,
    )


def _metres_and_centimetres(metres: str, rest: str, unit: str | None) -> Fraction:
    if "." in metres:
        raise Unreadable("“{typed}” has a part of a metre before the centimetres.")
    if unit is None:
        if len(rest) == 1:
            raise ask(
                "“{typed}” could be {metres} m {rest} cm or {metres}.{rest} m.",
                (f"{metres}m {rest}cm", f"{metres} m {rest} cm"),
                (f"{metres}.{rest}m", f"{metres}.{rest} m"),
                metres=metres,
                rest=rest,
            )
        if len(rest) != 2:
            raise Unreadable("“{typed}” is not metres and centimetres.")
    if Fraction(rest) >= 100:
        raise Unreadable("“{typed}” has 100 centimetres or more after the metres.")
    return Fraction(metres) * 1000 + Fraction(rest) * 10


def read_length_entry(body: str, measure: Measure) -> Read:
    """A length, or so many hands or steps."""
    if found := _INFORMAL.fullmatch(body):
        thousandths = to_step(fraction(found[1]) * 1000, 1)
        return Read(None, {"informal": thousandths, "informal_unit": _INFORMAL_NAMES[found[2]]})
    exact, with_unit = _read(body, measure.unit)
    if not with_unit:
        _ask_if_another_unit_fits(body, exact, measure)
    return Read(exact)


def _ask_if_another_unit_fits(body: str, exact: Fraction, measure: Measure) -> None:
    """A number whose size fits another unit far better than the protocol's own is asked about, and
    so is one with a place that nobody could measure in it: 1.27 in a field of whole centimetres."""
    low, high = max(Fraction(measure.lowest), measure.ceiling * _TINY), measure.ceiling
    own = MILLIMETRES[measure.unit]
    too_fine = own * _TOO_FINE <= measure.resolution * 10 ** len(body.partition(".")[2])
    if (low <= exact <= high or (exact == 0 and measure.lowest <= 0)) and not too_fine:
        return
    # A part of a unit where whole ones are measured says that it is another unit, or a slip.
    part = too_fine or ("." in body and measure.resolution >= own)
    number = exact / own
    units = [
        unit
        for unit in ("mm", "cm", "m", "in", "ft")
        if _metric(unit) == _metric(measure.unit)
        and (MILLIMETRES[unit] > own or (MILLIMETRES[unit] < own and not part))
        and (measure.lowest if part else low) <= number * MILLIMETRES[unit] <= high
    ]
    if not units and not part:
        return
    if measure.lowest <= exact <= high:
        units.append(measure.unit)
    written = decimal(number, 4)
    if exact < low:
        message = mark("“{typed}” has no unit, and {written} {unit} would be very little here.")
    elif exact > high:
        message = mark("“{typed}” has no unit, and {written} {unit} would be too much here.")
    else:
        message = mark("“{typed}” has no unit, and {written} {unit} would not be measured here.")
    choices = ((f"{written}{unit}", f"{written} {unit}") for unit in units)
    raise ask(message, *choices, written=written, unit=measure.unit)


def _metric(unit: str) -> bool:
    return unit in ("mm", "cm", "m", "km")


_SIGN: Final = re.compile(r"([+-])?\s*(.+?)\s*(past|beyond|over|short)?")


def read_offset(body: str, measure: Measure) -> Read:
    """A distance from zero, with its sign or a word for it."""
    found = _SIGN.fullmatch(body)
    if found is None or (found[1] and found[3]):
        raise Unreadable("“{typed}” is not a distance from zero.")
    sign = -1 if found[1] == "-" or found[3] == "short" else 1
    exact = sign * read_length(found[2], measure.unit)
    if exact > 0 and measure.cap == 0 and not found[1] and not found[3]:
        raise ask(
            "“{typed}” is beyond zero, which is the maximum here.",
            (f"-{body}", say("{body} short", body=body)),
        )
    return Read(exact)


#: A reach is at least this, and at most that (common practice).
_LEAST_REACH_MM: Final = 300
_MOST_REACH_MM: Final = 4000
_FRACTION: Final = re.compile(rf"(?:\d+ )?\d+/(?:2|3|4|8|16)\s*(?:{_WORDS})?\.?")
_BETWEEN: Final = re.compile(r"\s*(?:->|>|-|;|\bto\b|\bthen\b)\s*")


def read_marks(body: str, measure: Measure) -> Read:
    """Two marks, subtracted exactly; or the difference alone."""
    # "29 1/2" is one number: nobody jumps from 29 to a half.
    pairs = [] if _FRACTION.fullmatch(body) else _pairs(body)
    found: dict[tuple[Fraction, Fraction], tuple[str, str, bool, bool]] = {}
    problem: Unreadable | None = None
    for low_text, high_text in pairs:
        try:
            low, low_unit = _read(low_text, measure.unit)
            high, high_unit = _read(high_text, measure.unit)
        except Unreadable as error:
            problem = error
            continue
        found[low, high] = low_text, high_text, low_unit, high_unit
    if not found:
        if pairs and problem is not None and problem.message != _NO_LENGTH:
            raise problem
        try:
            return Read(read_length_entry(body, measure).exact)
        except Unreadable as odd:
            raise odd if odd.choices else Unreadable("“{typed}” is not two marks.") from None
    if len(found) > 1:
        raise Unreadable("“{typed}” can be split in more than one way.")
    ((low, high), (low_text, high_text, low_unit, high_unit)) = next(iter(found.items()))
    _check_mark_units(low_text, high_text, low_unit, high_unit, measure)
    if high < low:
        raise Unreadable("“{typed}” has the jumping mark below the standing one.")
    parts: Parts = {"standing_mm": to_step(low, 1), "jumping_mm": to_step(high, 1)}
    return Read(high - low, parts)


def _pairs(body: str) -> list[tuple[str, str]]:
    """Every way to take an entry apart into two."""
    if len(halves := [one for one in _BETWEEN.split(body) if one]) == 2:
        return [(halves[0], halves[1])]
    words = body.split(" ")
    pairs = [(" ".join(words[:at]), " ".join(words[at:])) for at in range(1, len(words))]
    # "142/171": a stroke that is no fraction of an inch.
    pairs += [
        (body[:at].strip(), body[at + 1 :].strip())
        for at, sign in enumerate(body)
        if sign == "/" and not re.search(r"\d \d+$", body[:at])
    ]
    return [pair for pair in dict.fromkeys(pairs) if all(pair)]


def _check_mark_units(low: str, high: str, low_unit: bool, high_unit: bool, measure: Measure,
                      ) -> None:  # fmt: skip
    """Marks of which one is metres and one may be centimetres are asked about."""
    own = measure.unit
    plausible = [
        _LEAST_REACH_MM <= _read(one, own)[0] <= _MOST_REACH_MM or with_unit
        for one, with_unit in ((low, low_unit), (high, high_unit))
    ]
    mixed = low_unit != high_unit and _unit_of(low if low_unit else high) != own
    if all(plausible) and not mixed:
        return
    choices = []
    typed = {_unit_of(one) for one, with_unit in ((low, low_unit), (high, high_unit)) if with_unit}
    for unit in ("cm", "m", "in", "ft"):
        if _metric(unit) != _metric(own) and unit not in typed:
            continue
        as_typed = [one if with_unit else f"{one}{unit}" for one, with_unit in
                    ((low, low_unit), (high, high_unit))]  # fmt: skip
        try:
            first, second = (_read(one, unit)[0] for one in as_typed)
        except Unreadable:
            continue
        reach = all(_LEAST_REACH_MM <= one <= _MOST_REACH_MM for one in (first, second))
        if reach and 0 <= second - first <= measure.ceiling:
            choices.append((" ".join(as_typed), " then ".join(as_typed)))
    if choices:
        raise ask("“{typed}” has marks in units that are not certain.", *choices)
    raise Unreadable("“{typed}” has a mark that cannot be a reach. Give each mark its unit.")


def _unit_of(text: str) -> str:
    found = _ONE.fullmatch(text)
    return UNIT_WORDS[found[2]] if found and found[2] else "ft" if "'" in text else "m"
