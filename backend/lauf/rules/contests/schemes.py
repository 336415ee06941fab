"""An overall statement over several tests, where a school wants one: rungs to points, points to
words. The school states the scheme; every step of it is shown."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Any, Final, NamedTuple

from lauf.rules.judging.attention import joined
from lauf.rules.reading.quantities import decimal
from lauf.rules.reading.words import plural

_MOST_POINTS: Final = 100
_MOST_STEPS: Final = 12


class SchemeError(ValueError):
    """The scheme cannot be used; the words say why."""


@dataclass(frozen=True, slots=True)
class Scheme:
    """A school's scheme.

    below    points for a score below the first rung
    points   points for the first rung, the second, …; further ones count as the last
    words    (from this mean of points on, what is said), ascending
    fewest   tests with a rung that are needed for a statement
    """

    below: int
    points: tuple[int, ...]
    words: tuple[tuple[Fraction, str], ...]
    fewest: int = 3


class Standing(NamedTuple):
    """What one test gives: its name, the rung's index (None below the first) and name."""

    test: str
    rung: int | None
    rung_name: str


@dataclass(frozen=True, slots=True)
class Overall:
    """The statement, or why there is none; and the working, a line a step."""

    words: str
    why_not: str
    mean: Fraction | None
    working: tuple[str, ...]


def read_scheme(kept: Mapping[str, Any]) -> Scheme | None:
    """A scheme as it is kept; None where there is none. Raises SchemeError.

    kept   {"below": 0, "points": [1, 2, 3], "words": [["2.5", "strong"]], "fewest": 3}
    """
    if not kept:
        return None
    points = tuple(kept.get("points", ()))
    below, fewest = kept.get("below", 0), kept.get("fewest", 3)
    if not points or len(points) > _MOST_STEPS:
        raise SchemeError(f"Give points for 1 to {_MOST_STEPS} rungs.")
    steps = (below, *points)
    if list(steps) != sorted(steps) or not 0 <= below <= points[-1] <= _MOST_POINTS:
        raise SchemeError(f"Points rise from rung to rung, from 0 to {_MOST_POINTS}.")
    words = tuple((Fraction(str(start)), str(said).strip()) for start, said in kept["words"])
    starts = [start for start, _ in words]
    if not words or len(words) > _MOST_STEPS or any(not said for _, said in words):
        raise SchemeError(f"Give 1 to {_MOST_STEPS} marks or words, each with what it begins at.")
    if starts != sorted(set(starts)):
        raise SchemeError("Each mark begins at more points than the one before.")
    if not 1 <= fewest <= 20:
        raise SchemeError("Ask for 1 to 20 tests.")
    return Scheme(below, points, words, fewest)


def overall(scheme: Scheme, standings: Sequence[Standing]) -> Overall:
    """The statement over these tests: the mean of their points, and the last words that begin at it
    or below. Tests without a score or a ladder are left out: a blank is not nought.

    >>> scheme = Scheme(0, (1, 2, 3), ((Fraction(0), "on the way"), (Fraction(2), "strong")), 2)
    >>> overall(scheme, [Standing("Plank", 2, "far"), Standing("Jump", 0, "near")]).words
    'strong'
    """
    if len(standings) < scheme.fewest:
        why = f"{plural(len(standings), 'test')} with a rung so far, {scheme.fewest} are needed"
        return Overall("", why, None, ())
    given = [_points(scheme, one) for one in standings]
    working = [
        f"{one.test}: {one.rung_name or 'below the first rung'}, {plural(points, 'point')}"
        for one, points in zip(standings, given, strict=True)
    ]
    mean = Fraction(sum(given), len(given))
    sums = " + ".join(str(points) for points in given)
    working.append(f"({sums}) ÷ {len(given)} = {decimal(mean, 2)} points a test")
    said = [words for start, words in scheme.words if start <= mean]
    if not said:
        first = scheme.words[0]
        working.append(f"“{first[1]}” begins at {decimal(first[0], 2)}")
        return Overall("", f"below {decimal(first[0], 2)} points a test", mean, tuple(working))
    begins = scheme.words[len(said) - 1][0]
    working.append(f"“{said[-1]}” from {decimal(begins, 2)} on")
    return Overall(said[-1], "", mean, tuple(working))


def _points(scheme: Scheme, one: Standing) -> int:
    if one.rung is None:
        return scheme.below
    return scheme.points[min(one.rung, len(scheme.points) - 1)]


def scheme_words(scheme: Scheme) -> str:
    """The scheme in one sentence, for whoever reads a report."""
    points = joined([str(point) for point in scheme.points])
    marks = joined([f"“{said}” from {decimal(start, 2)}" for start, said in scheme.words])
    return (
        f"Rungs give {points} points from the first up, {scheme.below} below the first; the mean "
        f"of at least {plural(scheme.fewest, 'test')} gives {marks}."
    )
