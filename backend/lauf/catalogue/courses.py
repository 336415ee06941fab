"""Laps and the mile: what was typed, worked out by the rules and put into words."""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction
from typing import Final

from lauf.errors import Refused
from lauf.messages import say
from lauf.rules.reading import laps as rules
from lauf.rules.reading.kinds import format_value
from lauf.rules.reading.quantities import Kind, Measure, decimal
from lauf.rules.reading.readers.lengths import read_length
from lauf.rules.reading.readers.text import Unreadable
from lauf.rules.reading.readers.times import read_time
from lauf.rules.reading.rounding import whole

_RUN: Final = Measure(Kind.TIME, unit="s", resolution=100, highest=24 * 3_600_000)
_LAPS_RUN: Final = re.compile(r"(?P<laps>\d{1,5}(\.\d{1,3})?)\s*(laps?)?\s*(\+\s*(?P<more>\S.*))?")


@dataclass(frozen=True, slots=True)
class LapSum:
    """Laps for a distance, and what a time or a try that was not finished says of it."""

    lap_mm: int
    lap_shown: str
    distance_mm: int
    exact: str
    whole: int
    beyond: str
    finish_mm: int
    finish: str
    lap_words: str
    pace_km: str | None
    pace_mile: str | None
    halves: str | None
    splits: list[str]
    projected: str | None
    run: str | None


def read_metres(text: str, what: str) -> int:
    """A length such as "42", "42m", "46 yd", "1 mile" or "1.6 km" in millimetres, metres when no
    unit is typed. Raises Refused with what is accepted."""
    return whole(_exact(text, what))


def _exact(text: str, what: str) -> Fraction:
    plain = text.strip().lower().replace(",", ".")
    try:
        exact = read_length(plain, "m")
    except Unreadable as problem:
        problem_words = (
            problem.words(text.strip()) if plain else say("The {what} is empty.", what=what)
        )
        raise Refused(
            say(
                "{problem_words} Type the {what} such as 42m, 46yd, 1 mile or 1.5km. Without a "
                "unit it is metres.",
                problem_words=problem_words,
                what=what,
            )
        ) from problem
    if not 0 < exact <= 100_000_000:
        raise Refused(say("The {what} must be above zero and at most 100 km.", what=what))
    return exact


def step_from(known: str, steps: float) -> Fraction:
    """Length of a step in millimetres. Raises Refused, or ValueError for one nobody can take."""
    step = rules.step_length(read_metres(known, "distance"), Fraction(steps))
    if not 100 <= step <= 2500:
        raise ValueError(
            say(
                "That makes a step shorter than 10 cm or longer than 2.5 m. Count and "
                "measure again."
            )
        )
    return step


def lap_sum(*, distance: str, lap: str, steps: float | None, step_mm: int | None, time: str,
            done: str) -> LapSum:  # fmt: skip
    """Everything about a distance on a course. A lap is typed, or so many steps of `step_mm` (one
    metre, common practice, where no step was measured). Raises Refused."""
    whole_mm = _exact(distance, "distance")
    if steps is not None:
        lap_mm = Fraction(steps) * (step_mm or rules.DEFAULT_STEP_MM)
    else:
        lap_mm = _exact(lap, "lap")
    if not 1000 <= lap_mm <= 5_000_000:
        raise Refused(say("A lap must be 1 m to 5 km long."))
    plan = rules.plan_laps(whole_mm, lap_mm)
    ends = _times(time)
    finish = _metres(plan.finish_mm) if plan.finish_mm else say("the start line")
    splits, halves, projected = _splits_shown(ends, lap_mm, whole_mm)
    # One time is the finish of the whole distance; several are the ends of laps.
    run_mm = whole_mm if len(ends) == 1 else min(whole_mm, len(ends) * lap_mm)
    return LapSum(
        lap_mm=whole(lap_mm),
        lap_shown=_metres(lap_mm),
        distance_mm=whole(whole_mm),
        exact=decimal(plan.exact, 3),
        whole=plan.whole,
        beyond=_metres(plan.beyond_mm),
        finish_mm=whole(plan.finish_mm),
        finish=finish,
        lap_words=say(
            "{whole} whole laps go {metres} further",
            whole=plan.whole,
            metres=_metres(plan.beyond_mm),
        )
        if plan.beyond_mm
        else say("{whole} whole laps are the distance exactly", whole=plan.whole),
        pace_km=_time(rules.pace(ends[-1], run_mm, rules.KM_MM)) if ends else None,
        pace_mile=_time(rules.pace(ends[-1], run_mm, rules.MILE_MM)) if ends else None,
        halves=halves,
        splits=splits,
        projected=projected,
        run=_part_run(done, lap_mm, whole_mm) if done.strip() else None,
    )


def _times(text: str) -> list[int]:
    found = []
    for word in text.split():
        try:
            found.append(whole(read_time(word.lower(), _RUN)))
        except Unreadable as problem:
            raise Refused(
                say(
                    "{problem} Type the finish such as 12:40, or the clock at each lap with "
                    "spaces between.",
                    problem=problem.words(word),
                )
            ) from problem
    return found


def _splits_shown(
    ends: list[int], lap_mm: Fraction, distance_mm: Fraction
) -> tuple[list[str], str | None, str | None]:
    if len(ends) < 2:
        return [], None, None
    try:
        read = rules.read_splits(ends, lap_mm, distance_mm)
    except ValueError as problem:
        raise Refused(
            say("These lap times are not possible. {problem}", problem=problem)
        ) from problem
    first, second = (_time(half) for half in read.halves)
    projected = None if read.projected is None else _time(read.projected)
    return (
        [_time(Fraction(lap)) for lap in read.laps],
        f"{read.words}: {first}, {second}",
        projected,
    )


def _part_run(done: str, lap_mm: Fraction, whole_mm: Fraction) -> str:
    """Metres run in so many laps and part laps ("7", "7.5", "7+12m")."""
    found = _LAPS_RUN.fullmatch(done.strip().lower().replace(",", "."))
    if found is None:
        raise Refused(say("Type the laps run such as 7, 7.5 or 7+12m."))
    beyond = _exact(found["more"], say("part lap")) if found["more"] else Fraction(0)
    run = rules.distance(Fraction(found["laps"]), lap_mm) + beyond
    left = whole_mm - run
    words = say("{metres} run", metres=_metres(run))
    return (
        say("{words}, {metres} to go", words=words, metres=_metres(left))
        if left > 0
        else say("{words}, the whole distance", words=words)
    )


def _metres(millimetres: Fraction | int) -> str:
    return f"{decimal(Fraction(millimetres, 1000), 2)} m"


def _time(milliseconds: Fraction) -> str:
    return format_value(whole(milliseconds / 100) * 100, _RUN)
