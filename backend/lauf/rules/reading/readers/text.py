"""What all readers share: signs made plain, numbers, and the answer "this cannot be read"."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass, field
from fractions import Fraction
from typing import Final, TypedDict

from lauf.messages import say

#: Stands where a fraction begins that was one sign.
_ONE_SIGN: Final = "\x00"
_FRACTIONS: Final = {
    "½": "1/2", "¼": "1/4", "¾": "3/4", "⅓": "1/3", "⅔": "2/3", "⅛": "1/8", "⅜": "3/8",
    "⅝": "5/8", "⅞": "7/8",
}  # fmt: skip
#: Quotes, primes, dashes, blanks, ticks and fractions arrive from phones' keyboards and from paper.
_PLAIN: Final = str.maketrans(
    {
        **dict.fromkeys("’‘`´′ʹ", "'"),
        **dict.fromkeys("”“″ʺ", '"'),
        **dict.fromkeys("−–—‐‑", "-"),
        **dict.fromkeys("\u00a0\u2009\u202f\t", " "),
        **dict.fromkeys("✓✔☑", "y"),
        **dict.fromkeys("✗✘☒", "n"),
        "×": "x",
        "→": ">",
        **{sign: _ONE_SIGN + written for sign, written in _FRACTIONS.items()},
    }
)


def plain(text: str) -> str:
    """The entry in lower case, its signs as a typewriter has them, blanks single. A fraction that
    was one sign has a whole number before it: nothing else than a fraction can be meant.

    >>> plain("33½ Inches"), plain("½ lap"), plain("1/2")
    ('33 1/2 inches', '0 1/2 lap', '1/2')
    """
    spaced = text.translate(_PLAIN).lower().replace("''", '"')
    spaced = re.sub(rf"(\d) *{_ONE_SIGN}", r"\1 ", spaced).replace(_ONE_SIGN, "0 ")
    return re.sub(r" +", " ", spaced).strip()


#: A number: "12", "1.5", ".5".
NUMBER: Final = r"(?:\d+(?:\.\d+)?|\.\d+)"
#: A number that may end in a fraction: "33 1/2", "3/4".
MIXED: Final = r"(?:\d+ )?\d+/\d+"
#: Parts that people write: halves, thirds, quarters, and those on a tape in inches (common
#: practice). Another stroke stands between two numbers.
_PARTS: Final = (2, 3, 4, 8, 16)


def fraction(text: str) -> Fraction:
    """The value of `NUMBER` or `MIXED`. Raises `Unreadable` for what is no part of one: "331/2" is
    no 33 1/2, and 12/13 is two numbers.

    >>> fraction("33 1/2")
    Fraction(67, 2)
    """
    whole, _, rest = text.strip().rpartition(" ")
    if "/" not in rest:
        return Fraction(text.strip())
    upper, lower = map(int, rest.split("/"))
    if upper >= lower:
        raise Unreadable("“{typed}” has a fraction above one. Type a space before it.")
    if lower not in _PARTS:
        raise Unreadable("“{typed}” has a stroke between two numbers that are not a fraction.")
    return Fraction(whole or 0) + Fraction(upper, lower)


def is_bare(number: str) -> bool:
    """Whether it is a fraction without a whole number: where no unit is typed either, "3/4" could
    be three of four."""
    return "/" in number and " " not in number


class Unreadable(ValueError):
    """What is wrong with an entry: a message in which `typed` stands for it; perhaps what is
    accepted instead, and readings to choose from as (typed, words)."""

    def __init__(
        self,
        message: str,
        accepted: str = "",
        choices: Iterable[tuple[str, str]] = (),
        **named: object,
    ) -> None:
        super().__init__(message)
        self.message = message
        self.accepted = accepted
        self.choices = tuple(choices)
        self._named = named

    def words(self, typed: str) -> str:
        """What is wrong with the entry, which is named in it."""
        return say(self.message, typed=typed, **self._named)


def ask(message: str, *choices: tuple[str, str], **named: object) -> Unreadable:
    """An entry with several readings: they are offered, and none is taken."""
    return Unreadable(message, "", choices, **named)


class Parts(TypedDict, total=False):
    """What a score is made of, by its kind; kept beside the value, as JSON."""

    # A total: carried in, each movement, and easier, usual and harder reps of each.
    carried: int
    movements: list[int]
    levels: list[list[int]]
    weights: str
    # Hits of how many; the shots one by one.
    of: int
    shots: str
    # A yes or no of each side.
    left: bool
    right: bool
    stage: int
    shuttle: int
    # A pulse as it was counted.
    beats: int
    seconds: int
    laps: int | float
    beyond_mm: int
    # A length in hands or steps of one's own, in thousandths.
    informal: int
    informal_unit: str
    standing_mm: int
    jumping_mm: int
    # The time at the end of each lap, in milliseconds.
    splits: list[int]
    # How far a run came that was not finished, and whether that is a guess.
    distance_mm: int
    estimate: bool
    # Said to be right whatever the clock says.
    sure: bool


@dataclass(frozen=True, slots=True)
class Read:
    """The exact value in canonical units (None for none), and what it is made of."""

    exact: Fraction | None
    parts: Parts = field(default_factory=Parts)


def comma_readings(body: str, *, separates: bool) -> list[str]:
    """Every way to read the commas of an entry: decimal, thousands, and (where several things are
    typed in a row) a separator. The entry itself where it has none.

    >>> comma_readings("1,250", separates=False)
    ['1.250', '1250']
    """
    if "," not in body:
        return [body]
    found = []
    # Between two things, not within a number.
    loose = re.sub(r"(?<!\d),|,(?!\d)", " " if separates else ",", body)
    if "," not in loose:
        return [re.sub(r" +", " ", loose).strip()]
    found.append(re.sub(r"(?<=\d),(?=\d)", ".", loose))
    thousands = re.sub(r"(?<![\d.,])(\d{1,3}(?:,\d{3})+)(?![\d,])",
                       lambda one: one[0].replace(",", ""), loose)  # fmt: skip
    if "," not in thousands:
        found.append(thousands)
    if separates:
        found.append(re.sub(r",", " ", loose))
    return list(dict.fromkeys(found))
