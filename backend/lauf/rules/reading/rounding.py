"""Numbers as a person rounds them: halves away from zero. Nothing that is shown is rounded in
another way (`tests/rules/reading/test_rounding.py` looks through the code for one)."""

from __future__ import annotations

from fractions import Fraction

from lauf.rules.reading.quantities import to_step


def _exact(number: float | Fraction) -> Fraction:
    """A float as the decimal number that it is written as."""
    return Fraction(number) if isinstance(number, int | Fraction) else Fraction(repr(float(number)))


def whole(number: float | Fraction) -> int:
    """The nearest whole number.

    >>> whole(2.5), whole(-2.5), whole(0.49)
    (3, -3, 0)
    """
    return to_step(_exact(number), 1)


def places(number: float | Fraction, digits: int) -> float:
    """The nearest number of so many decimals.

    >>> places(0.285, 2)
    0.29
    """
    return float(Fraction(to_step(_exact(number) * 10**digits, 1), 10**digits))


def fixed(number: float | Fraction, digits: int) -> str:
    """The same as text, with all its decimals.

    >>> fixed(44.05, 1), fixed(-0.04, 1)
    ('44.1', '0.0')
    """
    scaled = to_step(_exact(number) * 10**digits, 1)
    whole_part, part = divmod(abs(scaled), 10**digits)
    return f"{'-' if scaled < 0 else ''}{whole_part}" + (f".{part:0{digits}d}" if digits else "")


def percent(share: float | Fraction) -> str:
    """A share of one as a whole percentage.

    >>> percent(Fraction(15, 24))
    '63%'
    """
    return f"{whole(_exact(share) * 100)}%"
