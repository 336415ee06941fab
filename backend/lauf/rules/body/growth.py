"""Height and weight. Private, never ranked, no labels."""

from __future__ import annotations

from datetime import date
from fractions import Fraction
from typing import Final

from lauf.messages import say

HEIGHT_MM: Final = (500, 2200)
WEIGHT_G: Final = (8_000, 150_000)
#: Over a shorter time, measuring error is larger than growth.
DAYS_NEEDED: Final = 90


def growth_a_year(earlier: tuple[date, int], later: tuple[date, int]) -> Fraction | None:
    """Change a year between two (day, value), in the same unit; None under 90 days."""
    days = (later[0] - earlier[0]).days
    if days < DAYS_NEEDED:
        return None
    return Fraction(later[1] - earlier[1]) * Fraction(36525, 100) / days


def body_mass_index(weight_g: int, height_mm: int) -> Fraction:
    """kg/m² from grams and millimetres, exact. Raises ValueError for no height."""
    if height_mm <= 0:
        raise ValueError(say("A height must be above zero."))
    return Fraction(weight_g * 1000, height_mm * height_mm)
