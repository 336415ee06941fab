"""A judged score in words, in the order it is read."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from typing import Final

from lauf.judgement.judge import Judge
from lauf.judgement.subject import UNKNOWN, Subject
from lauf.messages import say, say_many
from lauf.records.queries import Row, reason_words
from lauf.rules.judging.change import Change, Verdict, probability_better, verdict_words
from lauf.rules.judging.comparability import (
    as_metres,
    course_mm,
    metres_run,
    why_not_comparable,
)
from lauf.rules.judging.ladders import Benchmark, Judgement
from lauf.rules.reading import laps, shuttle
from lauf.rules.reading.kinds import format_difference, format_value
from lauf.rules.reading.quantities import Better, Kind, decimal, to_step
from lauf.rules.reading.rounding import fixed, whole

#: Of a score with an open question.
OPEN_WORDS: Final = say("open, and counts once someone has checked it")


def rung_words(judge: Judge, found: Judgement, ladder: Benchmark | None) -> list[str]:
    """ "Centre line", "3 more to Far line"; or why there is no rung."""
    if found.why_not or ladder is None:
        return [say("not judged: {why_not}", why_not=found.why_not)]
    rungs = ladder.rungs
    words = [] if found.reached is None else [rungs[found.reached].name]
    if found.to_next is None:
        return [*words, say("top rung")]
    amount = format_difference(found.to_next, judge.measure)
    following = rungs[0 if found.reached is None else found.reached + 1].name
    up = judge.measure.better is Better.UP
    return [
        *words,
        say(
            "{amount} more to {following}" if up else "{amount} less to {following}",
            amount=amount,
            following=following,
        ),
    ]


def score_words(
    judge: Judge, row: Row, earlier: Sequence[Row], who: Subject = UNKNOWN
) -> list[str]:
    """Everything said of one score."""
    if row.reason:
        distance = row.parts.get("distance_mm")
        reason = reason_words(row.reason)
        if not distance:
            return [reason]
        metres = decimal(Fraction(distance, 1000), 0)
        return [say("{reason}, {metres} m run", reason=reason, metres=metres)]
    if row.is_open:
        return [OPEN_WORDS, *([say("an estimate, so not a best")] if row.estimate else [])]
    if row.value is None:
        return [say("saved as typed. Measure the child's hand or step to compare it")]
    if judge.measures_only:
        return [say("saved as a measurement"), *([say("an estimate")] if row.estimate else [])]
    words = []
    if judge.ladders:
        ladder = judge.ladder(row.variant, who, row.on)
        words = rung_words(judge, judge.rung(row, who), ladder)
    change = judge.change(row, earlier, who)
    words.append(change_words(judge, row, earlier, change))
    if _practice_counts(judge, row, earlier, change):
        words.append(say("second time, so practice counts too"))
    if row.estimate:
        words.append(say("an estimate, so not a best"))
    if judge.is_new_best(row, earlier):
        words.append(say("new best"))
    words += _run_words(judge, row, who)
    words += [f"{p.standing.words} ({p.norm.name})" for p in judge.placed(row, who)
              if p.standing.words]  # fmt: skip
    return words


def _practice_counts(judge: Judge, row: Row, earlier: Sequence[Row], change: Change) -> bool:
    """The second sitting of a test gains by practice: until a child has two, that is said."""
    if change.verdict not in (Verdict.BETTER, Verdict.REACHED_THE_TOP):
        return False
    same = judge.under((old for old in earlier if old.value is not None), judge.key(row))
    return len({old.on for old in same}) == 1


def _run_words(judge: Judge, row: Row, who: Subject) -> list[str]:
    """What a run says besides its score: pace and halves of a time over a set distance; metres,
    speed and estimate of a staged run."""
    if row.value is None:
        return []
    if judge.measure.kind is Kind.STAGE:
        return _stage_words(row.value, judge.measure.schedule, who.age(row.on))
    target = judge.measure.target_mm
    if not target:
        return []
    per_km = to_step(laps.pace(row.value, target, laps.KM_MM), 1000)
    words = [say("{per_km} a km", per_km=format_value(per_km, judge.measure))]
    if splits := row.parts.get("splits"):
        lap = course_mm(row.conditions)
        read = laps.read_splits(splits, lap, target) if lap else laps.read_splits(splits)
        words.append(say("halves: {words}", words=read.words))
    return words


def _stage_words(shuttles: int, schedule: str, age: int | None) -> list[str]:
    metres = shuttles * shuttle.SHUTTLE_MM // 1000
    words = [
        say_many("{n} shuttle, {metres} m", "{n} shuttles, {metres} m", shuttles, metres=metres)
    ]
    speed = shuttle.last_speed(shuttles, schedule)
    if speed is None:
        return words
    words.append(say("last full stage at {speed} km/h", speed=f"{speed:g}"))
    if age is not None and shuttle.ESTIMATE_AGES[0] <= age <= shuttle.ESTIMATE_AGES[1]:
        estimate = shuttle.estimated_vo2max(speed, age)
        words.append(
            say(
                "VO₂max about {estimate} ml/kg/min, an estimate (Léger 1988)",
                estimate=fixed(estimate, 1),
            )
        )
    return words


def change_words(judge: Judge, row: Row, earlier: Sequence[Row], change: Change) -> str:
    """A change of `row` against `earlier` in words; or why they are not compared."""
    if row.is_open:
        return OPEN_WORDS
    if change.verdict is Verdict.NOT_COMPARABLE:
        return _in_metres(judge, row, earlier) or _not_compared(judge, row, earlier)
    return verdict_words(change, judge.measure)


def sure_words(judge: Judge, row: Row, earlier: Sequence[Row], who: Subject) -> str | None:
    """How sure a change is: the probability of a real one in the better direction. None where
    nothing was compared."""
    change = judge.change(row, earlier, who)
    if change.verdict not in (Verdict.BETTER, Verdict.STEADY, Verdict.LOWER):
        return None
    error = judge.error(judge.key(row), who.age(row.on)).at((row.value or 0) - change.gain)
    sure = probability_better(change.gain, error)
    return say(
        "{value} in 100 chance that it is really better", value=min(99, max(1, whole(sure * 100)))
    )


def _not_compared(judge: Judge, row: Row, earlier: Sequence[Row]) -> str:
    measured = [old for old in earlier if old.value is not None and not old.estimate]
    if not measured:
        return say("nothing to compare with")
    same_form = [old for old in measured if old.variant == row.variant]
    if not same_form:
        before = judge.variants.get(measured[-1].variant)
        return say(
            "not compared: last time {name}", name=before.name if before else say("another form")
        )
    last = same_form[-1]
    if last.seconds != row.seconds:
        return say(
            "not compared: the clock ran {seconds} s, last time {seconds2} s",
            seconds=row.seconds,
            seconds2=last.seconds,
        )
    return say(
        "not compared: {why_not_comparable}",
        why_not_comparable=why_not_comparable(judge.key(row), judge.key(last), say("last time")),
    )


def _in_metres(judge: Judge, row: Row, earlier: Sequence[Row]) -> str | None:
    """Counts on courses of other lengths, compared as metres; None when they cannot be."""
    key = judge.key(row)
    for old in reversed(earlier):
        if old.value is None or old.estimate or not as_metres(key, judge.key(old)):
            continue
        now, then = metres_run(row.value or 0, key), metres_run(old.value, judge.key(old))
        shown, before = (decimal(Fraction(mm, 1000), 1) for mm in (now, then))
        return say(
            "as metres, on another course: {shown} m, last time {before} m",
            shown=shown,
            before=before,
        )
    return None
