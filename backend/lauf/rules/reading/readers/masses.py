"""Weights. Canonical unit: the gram."""

from __future__ import annotations

import re
from fractions import Fraction
from typing import Final

from lauf.rules.reading.quantities import GRAMS, Measure
from lauf.rules.reading.readers.text import MIXED, NUMBER, Read, Unreadable, fraction

UNIT_WORDS: Final = {
    "g": "g", "gram": "g", "grams": "g", "kg": "kg", "kgs": "kg", "kilo": "kg", "kilos": "kg",
    "kilogram": "kg", "kilograms": "kg", "lb": "lb", "lbs": "lb", "pound": "lb", "pounds": "lb",
}  # fmt: skip
_WORDS: Final = "|".join(sorted(UNIT_WORDS, key=len, reverse=True))
_ONE: Final = re.compile(rf"({MIXED}|{NUMBER})\s*({_WORDS})?\.?")
_STONE: Final = re.compile(
    rf"({MIXED}|{NUMBER})\s*(?:stones?|st)\.?(?:\s*(?:and )?({MIXED}|{NUMBER})"
    r"\s*(?:lbs?|pounds?)?)?\.?"
)
_KILOS: Final = re.compile(rf"({NUMBER})\s*(?:kgs?|kilos?)\s*(?:and )?(\d+)\s*(?:g|grams?)\.?")
_POUNDS_A_STONE: Final = 14


def read_mass(body: str, measure: Measure) -> Read:
    """Kilograms, pounds, or stones and pounds."""
    if found := _STONE.fullmatch(body):
        stones, pounds = fraction(found[1]), fraction(found[2]) if found[2] else Fraction(0)
        if found[2] and stones.denominator != 1:
            raise Unreadable("“{typed}” has a part of a stone before the pounds.")
        if pounds >= _POUNDS_A_STONE:
            raise Unreadable(
                "“{typed}” has 14 pounds or more after the stones, which is another stone."
            )
        return Read((stones * _POUNDS_A_STONE + pounds) * GRAMS["lb"])
    if found := _KILOS.fullmatch(body):
        if "." in found[1] or int(found[2]) >= 1000:
            raise Unreadable("“{typed}” has grams that do not fit its kilograms.")
        return Read(Fraction(found[1]) * 1000 + int(found[2]))
    if found := _ONE.fullmatch(body):
        if "/" in found[1] and not found[1].endswith("1/2"):
            raise Unreadable("“{typed}” is not a weight.")
        unit = UNIT_WORDS[found[2]] if found[2] else measure.unit
        return Read(fraction(found[1]) * GRAMS[unit])
    raise Unreadable("“{typed}” is not a weight.")
