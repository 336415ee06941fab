"""The arithmetic of a judgement in one line each, in the child's units: for who asks why."""

from __future__ import annotations

import math
from fractions import Fraction

from lauf.messages import say
from lauf.rules.judging.change import Change, TypicalError, Verdict, smallest_change
from lauf.rules.judging.ladders import Benchmark, Judgement, Rung
from lauf.rules.judging.targets import own_step, stepped
from lauf.rules.reading.kinds import dimension_of, format_difference, format_value
from lauf.rules.reading.quantities import Better, Dimension, Measure, decimal

#: What is kept in thousandths is calculated with in these units.
_UNITS = {
    Dimension.MILLISECONDS: (1000, "s"), Dimension.MILLIMETRES: (10, "cm"),
    Dimension.GRAMS: (1000, "kg"),
}  # fmt: skip


def kept_as(value: int, measure: Measure) -> str:
    """The canonical value: "1,041 mm", "65,000 ms", "18"."""
    names = {
        Dimension.MILLISECONDS: "ms", Dimension.MILLIMETRES: "mm", Dimension.GRAMS: "g",
    }  # fmt: skip
    unit = names.get(dimension_of(measure.kind), "")
    return f"{value:,} {unit}".strip()


def rung_rule(rung: Rung, measure: Measure) -> str:
    """ "at least 12"; "less than 1:05"."""
    at = format_value(rung.threshold, measure)
    if measure.better is Better.UP:
        return f"{'more than' if rung.beyond else 'at least'} {at}"
    return f"{'less than' if rung.beyond else 'at most'} {at}"


def rung_working(value: int, found: Judgement, ladder: Benchmark, measure: Measure) -> str:
    """Why a score stands on its rung and what the next one asks."""
    shown = format_value(value, measure)
    parts = []
    if found.reached is not None:
        rung = ladder.rungs[found.reached]
        parts.append(
            say(
                "{shown} is {rung_rule}: {name}",
                shown=shown,
                rung_rule=rung_rule(rung, measure),
                name=rung.name,
            )
        )
    if found.to_next is not None:
        rung = ladder.rungs[0 if found.reached is None else found.reached + 1]
        short = format_difference(found.to_next, measure)
        parts.append(
            say(
                "{name} needs {rung_rule}, {short} more",
                name=rung.name,
                rung_rule=rung_rule(rung, measure),
                short=short,
            )
        )
    return ". ".join(parts)


def error_words(error: TypicalError, level: int, measure: Measure) -> str:
    """The typical error at a level, with its 90 % interval."""
    low, high = error.interval
    if error.share:
        return say(
            "typical error {value} of the score (90 %: {low} to {high}), here {at}",
            value=_percent(error.value),
            low=_percent(low),
            high=_percent(high),
            at=_amount(error.at(level), measure),
        )
    return say(
        "typical error {at} (90 %: {low} to {high})",
        at=_amount(error.at(level), measure),
        low=_amount(low, measure),
        high=_amount(high, measure),
    )


def change_working(
    now: int, then: int, change: Change, error: TypicalError, measure: Measure
) -> str:
    """The arithmetic of a change: the difference, what counts as more than day-to-day variation
    (MDC90 = 1.645·√2·TE), and which of the two is larger."""
    scale, _ = _scale(measure)
    at = error.at(then)
    limit = smallest_change(at)
    difference = f"{_plain(now, scale)} − {_plain(then, scale)} = {_plain(now - then, scale)}"
    needed = f"1.645 × √2 × {_significant(at / scale)} = {_significant(limit / scale)}"
    match change.verdict:
        case Verdict.STEADY:
            beside = say("{now} is less, so this is steady", now=_plain(abs(now - then), scale))
        case Verdict.BETTER | Verdict.LOWER:
            beside = say(
                "{now} is as much or more, so this is a change", now=_plain(abs(now - then), scale)
            )
        case _:
            beside = say("the maximum of the test is reached, so it cannot show more")
    return say(
        "{difference}. Day-to-day variation is {needed}. {beside}",
        difference=difference,
        needed=needed,
        beside=beside,
    )


def target_working(best: int, rung: int | None, mdc90: float, measure: Measure) -> str:
    """Why the next target is what it is: the nearer of the next rung and the own best with half of
    what counts as a change."""
    own = stepped(best, mdc90, measure)
    steps = own_step(mdc90, measure)
    sign = "+" if measure.better is Better.UP else "−"
    words = say(
        "own best {best} {sign} {steps} = {own}",
        best=format_value(best, measure),
        sign=sign,
        steps=format_difference(steps, measure),
        own=format_value(own, measure),
    )
    if own != best + measure.better.sign * steps:
        words += say(", the maximum") if measure.top is not None else say(", the end of the test")
    if rung is not None:
        words += say(
            ". The next rung begins at {rung}. The nearer of the two counts",
            rung=format_value(rung, measure),
        )
    return words


def _scale(measure: Measure) -> tuple[int, str]:
    return _UNITS.get(dimension_of(measure.kind), (1, ""))


def _plain(value: int, scale: int) -> str:
    """An amount in the unit it is calculated with, as exact as it is kept."""
    places = {1: 0, 10: 1, 1000: 3}[scale]
    return decimal(Fraction(value, scale), places).replace("-", "−")


def _amount(value: float, measure: Measure) -> str:
    scale, unit = _scale(measure)
    return f"{_significant(value / scale)} {unit}".strip()


def _percent(share: float) -> str:
    return f"{_significant(share * 100)} %"


def _significant(value: float) -> str:
    """Three significant digits, without an exponent."""
    if not value:
        return "0"
    places = max(0, 2 - math.floor(math.log10(abs(value))))
    return decimal(Fraction(value), places)
