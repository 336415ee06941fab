"""A child's lanes in a test: one a form, with what the latest score says."""

from __future__ import annotations

from datetime import date
from typing import Final
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.models import ProtocolVersion
from lauf.judgement.judge import Judge, Placed
from lauf.judgement.picture import Lane, lane_of, put_to_scale
from lauf.judgement.statements import shown_of
from lauf.judgement.subject import Subject
from lauf.judgement.words import sure_words
from lauf.messages import mark, say
from lauf.people.models import Pupil
from lauf.progress.histories import Histories
from lauf.records.queries import Row
from lauf.rules.judging.change import band_steps, smallest_change
from lauf.rules.judging.norms import change_of_standing
from lauf.rules.judging.summaries import amount_words, signed_words
from lauf.rules.judging.trends import Trend, trend
from lauf.rules.reading.kinds import format_difference
from lauf.rules.reading.quantities import Better
from lauf.rules.reading.rounding import fixed

_MONTH: Final = 30.4375 / 7


class NormRow(TypedDict):
    """Where a child stands in published norms."""

    name: str
    words: str
    why_not: str | None
    moved: str | None
    # What children of the same standing gain in that time, and what is beyond it.
    gain: str | None
    source: str
    population: str
    year: int
    standing: str


class PupilLane(TypedDict):
    """One form of a test: its lane and what the latest score says, `then` the one it is compared
    with."""

    attempt_id: UUID
    variant: str
    lane: Lane
    latest_on: date
    shown: str
    then: str
    best: str | None
    target: str | None
    rung_name: str
    verdict: str
    change: str
    words: list[str]
    band_words: str | None
    # How sure the last change is, and what the trend was worked out by: for who asks.
    sure: str | None
    trend: str | None
    trend_statistics: str | None
    norms: list[NormRow]
    ladder_source: str


def lanes_of(pupil: Pupil, protocol: ProtocolVersion, histories: Histories) -> list[PupilLane]:
    """A child's lanes in a test, one a form of it, the one done last first."""
    mine = histories.of(pupil, protocol.test_id)
    by_form: dict[str, list[int]] = {}
    for place, row in enumerate(mine):
        if row.value is not None:
            by_form.setdefault(row.variant, []).append(place)
    lanes = [
        _lane(histories, pupil, mine, places)
        for places in sorted(by_form.values(), key=lambda places: -places[-1])
    ]
    put_to_scale([entry["lane"] for entry in lanes], protocol.measure.kind)
    return lanes


def _lane(histories: Histories, pupil: Pupil, mine: list[Row], places: list[int]) -> PupilLane:
    """The lane of one form of a test: its scores stand at `places`, the last of them is what it
    shows, judged as it is everywhere else."""
    statement = histories.statement(pupil, mine, places[-1])
    last, now, who = statement.row, statement.judge, statement.who
    same = [mine[place] for place in places]
    key = now.key(last)
    over_time = trend([
        ((r.on - same[0].on).days, float(r.value or 0))
        for r in same if now.key(r) == key and not r.estimate
    ])  # fmt: skip
    return {
        "attempt_id": last.id,
        "variant": statement.form,
        "lane": lane_of(now, last, same[:-1], last.variant, who, last.on),
        "latest_on": last.on,
        "shown": statement.shown,
        "best": statement.best_shown or None,
        "target": statement.target or None,
        "then": "" if statement.before is None else shown_of(statement.before, now),
        "rung_name": statement.rung_words,
        "verdict": statement.change.verdict.value,
        "change": statement.change_words,
        "words": statement.words,
        "band_words": _band_words(now, last, who),
        "sure": sure_words(now, last, statement.earlier, who),
        "trend": _trend_words(over_time, now),
        "trend_statistics": _trend_statistics(over_time, now),
        "norms": [_norm_row(p, now, same, who) for p in now.placed(last, who)],
        "ladder_source": now.ladder_source(last.variant, who, last.on),
    }


def _band_words(judge: Judge, row: Row, who: Subject) -> str | None:
    """Day-to-day variation of a test at a child's level, with what it is known from."""
    if judge.measures_only or row.value is None:
        return None
    measure = judge.measure
    error = judge.error(judge.key(row), who.age(row.on))
    steps = band_steps(smallest_change(error.at(row.value)), measure.resolution)
    if not steps:
        step = format_difference(measure.resolution, measure)
        return say(
            "Day-to-day variation is under {step}, {source}.", step=step, source=error.source
        )
    return say(
        "Day-to-day variation ±{steps}, {source}.",
        steps=format_difference(steps, measure),
        source=error.source,
    )


def _trend_words(found: Trend | None, judge: Judge) -> str | None:
    """ "about 12 s faster a month"; "no clear trend yet"; None without enough attempts."""
    if found is None or judge.measures_only:
        return None
    if not found.clear:
        return say("no clear trend yet")
    a_month = abs(found.slope * _MONTH)
    measure = judge.measure
    if measure.better is Better.DOWN:
        message = (
            mark("about {amount} faster a month")
            if found.slope < 0
            else mark("about {amount} slower a month")
        )
    else:
        message = (
            mark("about {amount} more a month")
            if found.slope > 0
            else mark("about {amount} less a month")
        )
    return say(message, amount=amount_words(a_month, measure))


def _trend_statistics(found: Trend | None, judge: Judge) -> str | None:
    if found is None or judge.measures_only:
        return None
    ends = sorted((found.low * _MONTH, found.high * _MONTH))
    slope, low, high = signed_words([found.slope * _MONTH, *ends], judge.measure)
    return say(
        "Theil–Sen slope {slope} a month (90 %: {low} to {high}), Kendall's tau {tau}",
        slope=slope,
        low=low,
        high=high,
        tau=fixed(found.tau, 2),
    ).replace("-", "−")


def _gain_words(
    placed: Placed, first: Placed | None, judge: Judge, same: list[Row], who: Subject
) -> str | None:
    """What a change is worth for the age: what children of the first standing gain in that time,
    and what is beyond it; None where the norm does not say."""
    then, now = same[0], same[-1]
    if first is None or first.standing.z is None or then.value is None or now.value is None:
        return None
    usual = placed.norm.score_of(first.standing.z, who.decimal_age(now.on), who.sex)
    band = judge.band(judge.key(now), now.value, who.age(now.on))
    if usual is None or now.on == then.on:
        return None
    sign, measure = judge.measure.better.sign, judge.measure
    expected, beyond = (usual - then.value) * sign, (now.value - usual) * sign
    gain = say(
        "{amount} better" if expected >= 0 else "{amount} less",
        amount=amount_words(abs(expected), measure),
    )
    known = f"±{amount_words(band, measure)}"
    if abs(beyond) < band:
        return say(
            "{gain} is usual for the age in this time. This child gained about the same, {known}",
            gain=gain,
            known=known,
        )
    more = say(
        "{amount} more than that" if beyond > 0 else "{amount} less than that",
        amount=amount_words(abs(beyond), measure),
    )
    return say(
        "{gain} is usual for the age in this time. This child gained {more}, {known}",
        gain=gain,
        more=more,
        known=known,
    )


def _norm_row(placed: Placed, judge: Judge, same: list[Row], who: Subject) -> NormRow:
    norm, standing = placed
    moved = None
    first = next((p for p in judge.placed(same[0], who) if p.norm.id == norm.id), None)
    if first and len(same) > 1:
        moved = change_of_standing(first.standing, standing)
    return {
        "name": norm.name,
        "words": standing.words,
        "why_not": standing.why_not,
        "moved": moved,
        "gain": _gain_words(placed, first, judge, same, who),
        "source": norm.source,
        "population": norm.population,
        "year": norm.year,
        "standing": norm.standing,
    }
