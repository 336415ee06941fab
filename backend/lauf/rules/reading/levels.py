"""Levels of a movement (easier, usual, harder) counted apart, and what they add up to."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping, Sequence
from enum import StrEnum
from fractions import Fraction
from typing import Final

from lauf.messages import say
from lauf.rules.reading.quantities import decimal


class Level(StrEnum):
    """A form of a movement, beside the usual one."""

    EASIER = "easier"
    USUAL = "usual"
    HARDER = "harder"


#: From the easiest on; the first letter stands behind a count.
LEVELS: Final = tuple(Level)
#: Reps of each level, from the easiest on.
Reps = tuple[int, int, int]
#: What one rep of each level counts; plain is one each.
Weights = tuple[Fraction, Fraction, Fraction]
PLAIN: Final[Weights] = (Fraction(1), Fraction(1), Fraction(1))
#: As many of a level as show that a child does it, and not only tried it (our choice).
SHOWN_FROM: Final = 5
_WEIGHT: Final = r"\d{1,2}(?:[.,]\d{1,2})?"
_WEIGHTS: Final = re.compile(rf"({_WEIGHT})\s*/\s*({_WEIGHT})\s*/\s*({_WEIGHT})")


def read_weights(text: str) -> Weights:
    """What one rep of each level counts, the easiest first, as typed. Raises ValueError with what
    is accepted; a harder rep never counts less than an easier one.

    >>> [str(weight) for weight in read_weights("0.5/1/2")]
    ['1/2', '1', '2']
    """
    found = _WEIGHTS.fullmatch(text.strip())
    if not found:
        raise ValueError(
            say("Type what an easier, a usual and a harder rep count, such as 0.5/1/2.")
        )
    easier, usual, harder = (Fraction(one.replace(",", ".")) for one in found.groups())
    if not 0 < easier <= usual <= harder:
        raise ValueError(
            say("An easier rep must count more than zero, and a harder one at least as much.")
        )
    if harder > 10:
        raise ValueError(say("A rep counts at most ten."))
    return easier, usual, harder


def weights_typed(weights: Weights) -> str:
    """Weights as `read_weights` reads them."""
    return "/".join(decimal(weight, 2) for weight in weights)


def weighed(movements: Sequence[Reps], weights: Weights = PLAIN) -> int:
    """What the reps of all movements add up to: whole reps only, the rest of one is none.

    >>> weighed([(20, 10, 5)], read_weights("0.5/1/2"))
    30
    """
    return math.floor(
        sum(
            (count * weight for reps in movements for count, weight in zip(reps, weights,
                                                                           strict=True)),
            Fraction(0),
        )
    )  # fmt: skip


def highest(reps: Reps) -> Level | None:
    """The highest level of which a child did `SHOWN_FROM` or more."""
    shown = [level for level, count in zip(LEVELS, reps, strict=True) if count >= SHOWN_FROM]
    return shown[-1] if shown else None


def moved_up(now: Mapping[str, Reps], before: Sequence[Mapping[str, Reps]]) -> tuple[str, ...]:
    """What a child does at a higher level than ever before, in words; movements by name. A movement
    it never did before is nothing to compare with.

    >>> moved_up({"squats": (0, 6, 0)}, [{"squats": (12, 2, 0)}])
    ('squats: usual for the first time, easier before',)
    """
    told = []
    for name, reps in now.items():
        earlier = [highest(one[name]) for one in before if name in one]
        known = [LEVELS.index(level) for level in earlier if level is not None]
        level = highest(reps)
        if level is not None and known and LEVELS.index(level) > max(known):
            told.append(
                say(
                    "{name}: {level} for the first time, {levels} before",
                    name=name,
                    level=level,
                    levels=LEVELS[max(known)],
                )
            )
    return tuple(told)
