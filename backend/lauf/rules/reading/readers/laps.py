"""Laps and what is beyond the last one. Canonical unit: the millimetre run."""

from __future__ import annotations

import re
from fractions import Fraction
from typing import Final

from lauf.messages import say, say_many
from lauf.rules.reading.quantities import Measure
from lauf.rules.reading.readers.lengths import read_length
from lauf.rules.reading.readers.text import MIXED, NUMBER, Read, Unreadable, ask, fraction, is_bare

#: "7", "7.5", "7 1/2 laps", "7+12m", "7 laps and 12 metres".
LAPS_FORM: Final = re.compile(
    rf"({MIXED}|{NUMBER})\s*(laps?)?(?:\s*(?:\+|and|(?<=laps)\s|(?<=lap)\s)\s*({NUMBER})"
    r"\s*(?:m|metres?|meters?)?)?\.?"
)
#: A point between thousands, as some write it.
_THOUSANDS: Final = re.compile(r"\d{1,3}\.\d{3}\s*(?:m|metres?|meters?)\.?")
_METRES: Final = re.compile(rf"{NUMBER}\s*(?:m|metres?|meters?|km|yds?|yards?|miles?)\.?")


def read_laps(body: str, measure: Measure) -> Read:
    """Laps and part laps, or a distance with its unit."""
    if _THOUSANDS.fullmatch(body):
        number = body[: body.index("m")].strip()
        whole = number.replace(".", "")
        # Nobody runs 1.234 m, and is asked all the same.
        few = [f"{float(number):g}"] if number.endswith("0") else []
        raise ask(
            "“{typed}” could be more than a thousand metres, or a few.",
            (f"{whole}m", f"{whole} m"),
            *((f"{one}m", f"{one} m") for one in few),
        )
    if _METRES.fullmatch(body):
        return Read(read_length(body, "m"))
    if not measure.lap_mm:
        raise Unreadable(
            "“{typed}” needs a lap length.", say("Set the lap length, or type metres such as 480m.")
        )
    found = LAPS_FORM.fullmatch(body)
    if not found:
        raise Unreadable("“{typed}” is not a number of laps.")
    laps, beyond = fraction(found[1]), Fraction(found[3] or 0) * 1000
    # "7/8 laps" are as likely seven of eight.
    if found[2] == "laps" and is_bare(found[1]):
        raise _part_or_some(found[1])
    if not found[2] and not found[3]:
        _ask_if_no_laps(found[1], laps, laps * measure.lap_mm > measure.ceiling)
    if beyond >= measure.lap_mm:
        raise Unreadable("“{typed}” has more beyond the last lap than a lap is long.")
    if found[3] and laps.denominator != 1:
        raise Unreadable("“{typed}” has two part laps.")
    return Read(
        laps * measure.lap_mm + beyond,
        {"laps": float(laps) if laps.denominator != 1 else int(laps), "beyond_mm": int(beyond)},
    )


def _part_or_some(number: str) -> Unreadable:
    run, of = number.split("/")
    part, some = (
        (f"{number} lap", say("{number} of a lap", number=number)),
        (f"{run} laps", say("{run} of {of} laps", run=run, of=of)),
    )
    return ask("“{typed}” could be a part of a lap, or laps out of so many.", part, some)


def _ask_if_no_laps(number: str, laps: Fraction, too_many: bool) -> None:
    """A number without a unit that may be something else than laps is asked about."""
    if is_bare(number):
        raise _part_or_some(number)
    whole, _, places = number.partition(".")
    if len(places) > 1 and (laps * 4).denominator != 1:
        metres = (
            f"{whole or 0}+{int(places)}m",
            say(
                "{laps} and {places} m",
                laps=say_many("{n} lap", "{n} laps", int(whole or 0)),
                places=int(places),
            ),
        )
        raise ask(
            "“{typed}” is an unusual part of a lap.",
            metres,
            (f"{number} laps",) * 2,
        )
    if too_many:
        raise ask(
            "“{typed}” would be more laps than anyone can run here.", (f"{number}m", f"{number} m")
        )
