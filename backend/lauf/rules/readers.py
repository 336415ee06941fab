"""What was typed, taken apart: one reader for each kind of score.

Called by `entry`, which knows reasons, estimates and limits. Readers get plain lower-case ASCII.
"""

from __future__ import annotations

import itertools
import re
from collections.abc import Callable
from dataclasses import dataclass, field
from fractions import Fraction
from typing import Any, Final

from lauf.rules.quantities import GRAMS, MILLIMETRES, Kind, Measure, format_value, to_step
from lauf.rules.shuttle import total_shuttles

# Curly quotes, primes, dashes and ticks arrive from phones' keyboards.
PLAIN: Final = str.maketrans(
    {"’": "'", "′": "'", "”": '"', "″": '"', "−": "-", "–": "-", ",": ".", "✓": "y", "✗": "n",
     "½": ".5", "×": "x"}
)  # fmt: skip

_NUMBER: Final = r"(\d+(?:\.\d+)?|\.\d+)"
_CLOCK: Final = re.compile(r"(\d+):([0-5]?\d(?:\.\d+)?)")
_MINUTES: Final = re.compile(rf"{_NUMBER}\s*(?:m|min|mins)(?:\s*{_NUMBER}\s*(?:s|sec|secs)?)?")
_SECONDS: Final = re.compile(rf"{_NUMBER}\s*(?:s|sec|secs)?")
_TWO_DIGITS: Final = re.compile(r"(\d+)\.([0-5]\d)")
_FEET: Final = re.compile(
    rf"{_NUMBER}\s*(?:'|ft|feet|foot)\s*(?:{_NUMBER}\s*(?:\"|''|in|inch|inches)?)?"
)
_LENGTH: Final = re.compile(rf"{_NUMBER}\s*(mm|cm|m|in|inch|inches|\"|yd|yds|mile|miles)?")
_INFORMAL: Final = re.compile(rf"{_NUMBER}\s*(hands?|spans?|steps?|feet-lengths?|paces?)")
_MASS: Final = re.compile(rf"{_NUMBER}\s*(g|kg|kgs|lb|lbs)?")
_STONE: Final = re.compile(rf"{_NUMBER}\s*st(?:one)?\s*(?:{_NUMBER}\s*(?:lbs?)?)?")
_UNIT_NAMES: Final = {
    "inch": "in",
    "inches": "in",
    '"': "in",
    "yds": "yd",
    "miles": "mile",
    "kgs": "kg",
    "lbs": "lb",
}
#: Informal units as kept: "hand", "step", "pace", …
_INFORMAL_NAMES: Final = {"spans": "hand", "span": "hand", "paces": "step", "pace": "step"}
INFORMAL_UNITS: Final = ("hand", "step", "feet-length")
_YES: Final = {"y", "yes", "1", "x"}
_NO: Final = {"n", "no", "0", "-"}


class Unreadable(ValueError):
    """What is wrong with an entry, to be said after the entry itself; perhaps what is accepted
    instead, and readings to choose from as (typed, words)."""

    def __init__(
        self, message: str, accepted: str = "", choices: tuple[tuple[str, str], ...] = ()
    ) -> None:
        super().__init__(message)
        self.accepted = accepted
        self.choices = choices


@dataclass(frozen=True, slots=True)
class Read:
    """The exact value in canonical units (None for none), and what it is made of."""

    exact: Fraction | None
    parts: dict[str, Any] = field(default_factory=dict)


def read(body: str, measure: Measure) -> Read:
    """Read the body of an entry. Raises `Unreadable`."""
    if re.fullmatch(r"-\s*[\d.:]+.*", body) and measure.kind not in (Kind.OFFSET, Kind.SIDES):
        raise Unreadable("is below zero.")
    return _READERS[measure.kind](body, measure)


def form_words(measure: Measure) -> str:
    """What an entry of this kind looks like: the middle of "Type … ; or a absent"."""
    low = format_value(measure.lowest, measure)
    high = format_value(measure.ceiling, measure)
    match measure.kind:
        case Kind.COUNT:
            return f"a whole number from {low} to {high}"
        case Kind.TIME:
            form = f"a time such as 48.5 or 1:05.3, from {low} to {high}"
            if measure.target_mm:
                form += "; for an unfinished try the distance run, such as 5+20m or 480m run"
            return form
        case Kind.LENGTH:
            return f"a length such as 127, 127cm, 1.27m or 4ft 2in, from {low} to {high}"
        case Kind.MARKS:
            return "the two marks, standing then jumping, such as 142 171, or the difference alone"
        case Kind.OFFSET:
            return f"the distance from zero, such as -5, 0 or +3, from {low} to {high}"
        case Kind.SIDES:
            return "each side: L y R n, or y n (left, right), both, none"
        case Kind.HITS:
            return f"the hits, such as 7 or 7/{measure.of}"
        case Kind.STAGE:
            return "the last completed stage and shuttle, such as 4.6"
        case Kind.LAPS:
            return "laps and what is beyond, such as 7, 7+12m or 7.5"
        case Kind.TOTAL:
            return f"a total, or its parts such as 50+60+40 (c40 for carried in), up to {high}"
        case Kind.MASS:
            return f"a weight such as 31.5, 31.5kg or 69lb, from {low} to {high}"
        case Kind.PULSE:
            return f"beats a minute from {low} to {high}, or beats in a time, such as 22/10s"


def _count(body: str, measure: Measure) -> Read:
    if re.fullmatch(r"\d+", body):
        return Read(Fraction(int(body)))
    if re.fullmatch(_NUMBER, body):
        raise Unreadable("is not a whole number: count only finished ones.")
    raise Unreadable("is not a count.")


def read_time(body: str, measure: Measure) -> Fraction:
    """A time in milliseconds. Raises `Unreadable`, with choices for 1.05 when both can be."""
    if found := _CLOCK.fullmatch(body):
        return Fraction(found[1]) * 60_000 + Fraction(found[2]) * 1000
    if found := _MINUTES.fullmatch(body):
        return Fraction(found[1]) * 60_000 + Fraction(found[2] or 0) * 1000
    if found := _SECONDS.fullmatch(body):
        if pair := _TWO_DIGITS.fullmatch(body):
            _refuse_if_ambiguous(pair, measure)
        return Fraction(found[1]) * 1000
    raise Unreadable("is not a time.")


def _refuse_if_ambiguous(pair: re.Match[str], measure: Measure) -> None:
    """1.05 may be a decimal of seconds or minutes and seconds: ask when both can be."""
    minutes, seconds = int(pair[1]), int(pair[2])
    as_clock = minutes * 60_000 + seconds * 1000
    as_decimal = Fraction(pair[0]) * 1000
    if minutes and as_clock <= measure.ceiling and measure.lowest <= as_decimal <= measure.ceiling:
        clock, plain = f"{minutes}:{pair[2]}", f"{pair[0]}s"
        raise Unreadable(
            f"could be {minutes} min {pair[2]} s or {pair[0]} s.",
            f"Type {clock} or {plain}.",
            ((clock, f"{minutes} min {pair[2]} s"), (plain, f"{pair[0]} s")),
        )


_METRES_RUN: Final = re.compile(rf"{_NUMBER}\s*(m|km|yd|yds|mile|miles)\s*run")
_LAPS_FORM: Final = re.compile(rf"{_NUMBER}\s*(?:laps?)?(?:\s*\+\s*{_NUMBER}\s*m?)?")


def _time(body: str, measure: Measure) -> Read:
    """A time; where a distance is set also an unfinished try (laps, metres run), or the times at
    the end of each lap, the last of which is the finish."""
    if measure.target_mm:
        if found := _METRES_RUN.fullmatch(body):
            unit = {"km": Fraction(1_000_000)}.get(found[2]) or MILLIMETRES[
                _UNIT_NAMES.get(found[2], found[2])
            ]
            return _unfinished(Fraction(found[1]) * unit, measure)
        if measure.lap_mm and ("lap" in body or "+" in body) and _LAPS_FORM.fullmatch(body):
            return _unfinished(_laps(body, measure).exact or Fraction(0), measure)
        times = body.split()
        if len(times) > 1 and all(_CLOCK.fullmatch(one) for one in times):
            splits = [to_step(read_time(one, measure), measure.resolution) for one in times]
            if any(late <= early for early, late in itertools.pairwise(splits)):
                raise Unreadable("is not a row of lap times: each must be later than the last.")
            return Read(Fraction(splits[-1]), {"splits": splits})
    return Read(read_time(body, measure))


def _unfinished(distance: Fraction, measure: Measure) -> Read:
    if measure.target_mm is not None and distance >= measure.target_mm:
        raise Unreadable("is the whole distance: type the time it took.")
    return Read(None, {"distance_mm": to_step(distance, 100)})


def read_length(body: str, measure: Measure) -> Fraction:
    """A length in millimetres. Raises `Unreadable`."""
    if found := _FEET.fullmatch(body):
        return Fraction(found[1]) * MILLIMETRES["ft"] + Fraction(found[2] or 0) * MILLIMETRES["in"]
    if found := _LENGTH.fullmatch(body):
        unit = found[2] or measure.unit
        return Fraction(found[1]) * MILLIMETRES[_UNIT_NAMES.get(unit, unit)]
    raise Unreadable("is not a length.")


def _length(body: str, measure: Measure) -> Read:
    if found := _INFORMAL.fullmatch(body):
        name = _INFORMAL_NAMES.get(found[2], found[2].removesuffix("s"))
        return Read(
            None, {"informal": to_step(Fraction(found[1]) * 1000, 1), "informal_unit": name}
        )
    return Read(read_length(body, measure))


def _marks(body: str, measure: Measure) -> Read:
    pieces = [piece for piece in re.split(r"\s*(?:->|/|>|\bto\b|\s)\s*", body) if piece]
    if len(pieces) == 1:
        return Read(read_length(pieces[0], measure))
    if len(pieces) != 2:
        raise Unreadable("is not two marks.")
    low, high = (read_length(piece, measure) for piece in pieces)
    if high < low:
        raise Unreadable("has the jumping mark below the standing one.")
    step = measure.resolution
    parts = {"standing_mm": to_step(low, step), "jumping_mm": to_step(high, step)}
    return Read(Fraction(parts["jumping_mm"] - parts["standing_mm"]), parts)


def _offset(body: str, measure: Measure) -> Read:
    sign = -1 if body.startswith("-") else 1
    return Read(sign * read_length(re.sub(r"^[+-]\s*", "", body), measure))


_BOTH: Final = {"both": "yy", "b": "yy", "none": "nn", "neither": "nn"}


def _sides(body: str, measure: Measure) -> Read:
    plain = _BOTH.get(body, body)
    if found := re.fullmatch(r"l\s*(\w+|-)[\s.;/]*r\s*(\w+|-)", plain):
        left, right = found[1], found[2]
    elif found := re.fullmatch(r"r\s*(\w+|-)[\s.;/]*l\s*(\w+|-)", plain):
        right, left = found[1], found[2]
    elif found := re.fullmatch(r"(yes|no|y|n|-|1|0)[\s.;/]*(yes|no|y|n|-|1|0)", plain):
        left, right = found[1], found[2]
    else:
        raise Unreadable("does not say yes or no for each side.")
    answers = []
    for side in (left, right):
        if side not in _YES | _NO:
            raise Unreadable("does not say yes or no for each side.")
        answers.append(side in _YES)
    return Read(Fraction(sum(answers)), {"left": answers[0], "right": answers[1]})


def _hits(body: str, measure: Measure) -> Read:
    if shots := re.fullmatch(r"[xo]+", body):  # shot by shot: x a hit, o a miss
        if measure.of is not None and len(shots[0]) != measure.of:
            raise Unreadable(f"has {len(shots[0])} shots, not {measure.of}.")
        return Read(Fraction(shots[0].count("x")), {"shots": shots[0], "of": len(shots[0])})
    found = re.fullmatch(r"(\d+)(?:\s*(?:/|of|out of)\s*(\d+))?", body)
    if not found:
        raise Unreadable("is not a number of hits.")
    hits, of = int(found[1]), int(found[2]) if found[2] else measure.of
    if measure.of is not None and of != measure.of:
        raise Unreadable(f"is out of {of}; this test has {measure.of}.")
    if of is not None and hits > of:
        raise Unreadable(f"is more than the {of} there are.")
    return Read(Fraction(hits), {"of": of} if of is not None else {})


def _stage(body: str, measure: Measure) -> Read:
    found = re.fullmatch(r"(\d+)\s*[.:/ ]\s*(\d+)", body)
    if not found:
        raise Unreadable("is not a stage and a shuttle.")
    stage, shuttle = int(found[1]), int(found[2])
    try:
        total = total_shuttles(stage, shuttle, measure.schedule)
    except ValueError as problem:
        raise Unreadable(f"cannot be: {problem}.") from None
    return Read(Fraction(total), {"stage": stage, "shuttle": shuttle})


def _laps(body: str, measure: Measure) -> Read:
    if not measure.lap_mm:
        found = _LENGTH.fullmatch(body)
        if found and found[2]:
            return Read(read_length(body, measure))
        raise Unreadable("has no lap length to go by.", "Set the lap length, or type metres: 480m.")
    if re.fullmatch(rf"{_NUMBER}\s*(m|yd)", body):
        return Read(read_length(body, measure))
    found = _LAPS_FORM.fullmatch(body)
    if not found:
        raise Unreadable("is not a number of laps.")
    laps, beyond = Fraction(found[1]), Fraction(found[2] or 0) * 1000
    if beyond >= measure.lap_mm:
        raise Unreadable("has more beyond the last lap than a lap is long.")
    if found[2] and laps.denominator != 1:
        raise Unreadable("has part laps twice.")
    return Read(
        laps * measure.lap_mm + beyond,
        {"laps": float(laps) if laps.denominator != 1 else int(laps), "beyond_mm": int(beyond)},
    )


def _total(body: str, measure: Measure) -> Read:
    pieces = [piece.strip() for piece in body.split("+")]
    carried, parts = 0, []
    for piece in pieces:
        found = re.fullmatch(r"(c?)\s*(\d+)", piece)
        if not found:
            raise Unreadable("is not a total or a sum of counts.")
        if found[1]:
            if carried:
                raise Unreadable("carries in twice: only one movement is carried in, once.")
            carried = int(found[2])
        else:
            parts.append(int(found[2]))
    made_of = {"carried": carried, "movements": parts} if carried or len(parts) > 1 else {}
    return Read(Fraction(carried + sum(parts)), made_of)


def _mass(body: str, measure: Measure) -> Read:
    if found := _STONE.fullmatch(body):
        pounds = Fraction(found[1]) * 14 + Fraction(found[2] or 0)
        return Read(pounds * GRAMS["lb"])
    if found := _MASS.fullmatch(body):
        unit = found[2] or measure.unit
        return Read(Fraction(found[1]) * GRAMS[_UNIT_NAMES.get(unit, unit)])
    raise Unreadable("is not a weight.")


def _pulse(body: str, measure: Measure) -> Read:
    if found := re.fullmatch(r"(\d+)\s*(?:/|in)\s*(10|15|20|30|60)\s*(?:s|sec)?", body):
        beats, seconds = int(found[1]), int(found[2])
        return Read(Fraction(beats * 60, seconds), {"beats": beats, "seconds": seconds})
    if found := re.fullmatch(r"(\d+)\s*(?:bpm)?", body):
        return Read(Fraction(int(found[1])))
    raise Unreadable("is not a pulse.")


_READERS: Final[dict[Kind, Callable[[str, Measure], Read]]] = {
    Kind.COUNT: _count,
    Kind.TIME: _time,
    Kind.LENGTH: _length,
    Kind.MARKS: _marks,
    Kind.OFFSET: _offset,
    Kind.SIDES: _sides,
    Kind.HITS: _hits,
    Kind.STAGE: _stage,
    Kind.LAPS: _laps,
    Kind.TOTAL: _total,
    Kind.MASS: _mass,
    Kind.PULSE: _pulse,
}
