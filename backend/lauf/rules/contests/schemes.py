"""An overall statement over several tests, where a school wants one: rungs to points, points to
words. The school states the scheme; every step of it is shown."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Any, Final, NamedTuple

from lauf.messages import and_list, say, say_many
from lauf.rules.reading.quantities import decimal

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
        raise SchemeError(say("Give points for 1 to {most_steps} rungs.", most_steps=_MOST_STEPS))
    steps = (below, *points)
    if list(steps) != sorted(steps) or not 0 <= below <= points[-1] <= _MOST_POINTS:
        raise SchemeError(
            say(
                "Points must rise from rung to rung, from 0 to {most_points}.",
                most_points=_MOST_POINTS,
            )
        )
    words = tuple((Fraction(str(start)), str(text).strip()) for start, text in kept["words"])
    starts = [start for start, _ in words]
    if not words or len(words) > _MOST_STEPS or any(not text for _, text in words):
        raise SchemeError(
            say(
                "Give 1 to {most_steps} grades or words, each with its lowest average.",
                most_steps=_MOST_STEPS,
            )
        )
    if starts != sorted(set(starts)):
        raise SchemeError(say("Each grade must begin at more points than the one before it."))
    if not 1 <= fewest <= 20:
        raise SchemeError(say("Require 1 to 20 tests."))
    return Scheme(below, points, words, fewest)


def overall(scheme: Scheme, standings: Sequence[Standing]) -> Overall:
    """The statement over these tests: the mean of their points, and the last words that begin at it
    or below. Tests without a score or a ladder are left out: a blank is not nought.

    >>> scheme = Scheme(0, (1, 2, 3), ((Fraction(0), "on the way"), (Fraction(2), "strong")), 2)
    >>> overall(scheme, [Standing("Plank", 2, "far"), Standing("Jump", 0, "near")]).words
    'strong'
    """
    if len(standings) < scheme.fewest:
        why = say(
            "{tests} with a rung so far, {fewest} needed",
            tests=say_many("{n} test", "{n} tests", len(standings)),
            fewest=scheme.fewest,
        )
        return Overall("", why, None, ())
    given = [_points(scheme, one) for one in standings]
    working = [
        f"{one.test}: {one.rung_name or say('below the first rung')}, "
        + say_many("{n} point", "{n} points", points)
        for one, points in zip(standings, given, strict=True)
    ]
    mean = Fraction(sum(given), len(given))
    sums = " + ".join(str(points) for points in given)
    working.append(
        say(
            "({sums}) ÷ {given} = {mean} points a test",
            sums=sums,
            given=len(given),
            mean=decimal(mean, 2),
        )
    )
    reached = [words for start, words in scheme.words if start <= mean]
    if not reached:
        first = scheme.words[0]
        working.append(
            say("“{first}” begins at {first2}", first=first[1], first2=decimal(first[0], 2))
        )
        return Overall(
            "", say("below {first} points a test", first=decimal(first[0], 2)), mean, tuple(working)
        )
    begins = scheme.words[len(reached) - 1][0]
    working.append(say("“{words}” from {begins} on", words=reached[-1], begins=decimal(begins, 2)))
    return Overall(reached[-1], "", mean, tuple(working))


def _points(scheme: Scheme, one: Standing) -> int:
    if one.rung is None:
        return scheme.below
    return scheme.points[min(one.rung, len(scheme.points) - 1)]


def scheme_words(scheme: Scheme) -> str:
    """The scheme in one sentence, for whoever reads a report."""
    points = and_list([str(point) for point in scheme.points])
    marks = and_list(
        [
            say("“{words}” from {start}", words=words, start=decimal(start, 2))
            for start, words in scheme.words
        ]
    )
    return say(
        "From the first rung up, the rungs give {points} points, and {below} below "
        "the first. The average of at least {tests} gives {marks}.",
        points=points,
        below=scheme.below,
        tests=say_many("{n} test", "{n} tests", scheme.fewest),
        marks=marks,
    )
