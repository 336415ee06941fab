"""The picture of a lane in canonical units: rungs, marks, best and day-to-day band."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import date

from typing_extensions import TypedDict

from lauf.judgement.judge import Judge
from lauf.judgement.subject import Subject
from lauf.records.queries import Row
from lauf.rules.judging.comparability import Key
from lauf.rules.judging.ladders import Rung
from lauf.rules.reading.kinds import format_number, format_value
from lauf.rules.reading.quantities import Better, Kind, Measure


class LaneRung(TypedDict):
    """Where a rung is painted, in canonical units."""

    name: str
    at: int
    shown: str


class Mark(TypedDict):
    """Where a score is painted, in canonical units; a guess, and one that is open, apart."""

    at: int
    on: date
    shown: str
    estimate: bool


class Lane(TypedDict):
    """One lane in canonical units; `band` is what a day makes of the last score. `origin` and
    `scale` are where it begins and ends, once it was put to scale beside others."""

    better: Better
    variant: str
    rungs: list[LaneRung]
    earlier: list[Mark]
    today: Mark | None
    best: int | None
    band: list[float] | None
    origin: int
    scale: int


def lane_of(
    judge: Judge, today: Row | None, earlier: Sequence[Row], variant: str, who: Subject, on: date
) -> Lane:
    """One lane: a child's scores in one test under one key."""
    measure = judge.measure
    shown = today if today and today.kept is not None else None
    key = judge.key(shown) if shown else _latest_key(judge, earlier, variant)
    old = judge.under((row for row in earlier if row.value is not None), key)
    measured = [row for row in old if not row.estimate]
    last = measured[-1].value if measured else None
    ladder = judge.ladder(variant, who, on)
    judged = ladder is not None and ladder.key == key
    band = None
    if last is not None and not judge.measures_only:
        width = judge.band(key, last, who.age(on))
        band = [max(float(measure.lowest), last - width), last + width]
    return {
        "better": measure.better,
        "variant": variant,
        "rungs": rung_marks(ladder.rungs if ladder and judged else (), measure),
        "earlier": [_mark(judge, row) for row in old],
        "today": _mark(judge, shown) if shown else None,
        "best": None
        if judge.measures_only
        else judge.best([*old, *([shown] if shown else [])], key),
        "band": band,
        "origin": 0,
        "scale": 0,
    }


def rung_marks(rungs: Sequence[Rung], measure: Measure) -> list[LaneRung]:
    """Where the rungs of a ladder are painted."""
    return [
        {"name": rung.name, "at": rung.threshold, "shown": format_number(rung.threshold, measure)}
        for rung in rungs
    ]


def _latest_key(judge: Judge, earlier: Sequence[Row], variant: str) -> Key:
    """What a child would be compared with: the usual key, or the one last used if none is."""
    usual = judge.usual_key(variant)
    used = [judge.key(r) for r in earlier if r.value is not None and r.variant == variant]
    return usual if usual in used or not used else used[-1]


def _mark(judge: Judge, row: Row) -> Mark:
    return {
        "at": row.kept or 0,
        "on": row.on,
        "shown": format_value(row.kept or 0, judge.measure),
        # Drawn as what takes no full part.
        "estimate": row.estimate or row.is_open,
    }


def put_to_scale(lanes: Sequence[Lane], kind: Kind) -> None:
    """One scale for many lanes, so that their rungs line up: counts from nought to a little past
    the furthest mark; times, measures and offsets over the stretch that is used."""
    marks: list[float] = []
    for lane in lanes:
        marks += [rung["at"] for rung in lane["rungs"]]
        marks += [mark["at"] for mark in lane["earlier"]]
        marks += [lane["today"]["at"]] if lane["today"] else []
        marks += lane["band"] or []
    low, high = min(marks, default=0), max(marks, default=1)
    from_zero = kind not in (Kind.OFFSET, Kind.MASS, Kind.PULSE) and not any(
        lane["better"] == Better.DOWN for lane in lanes
    )
    if from_zero:
        origin, scale = 0, round(max(high, 1) * 1.06) + 1
    else:
        room = max(1, (high - low) * 0.12)
        origin, scale = math.floor(low - room), math.ceil(high + room)
    for lane in lanes:
        lane["origin"], lane["scale"] = origin, scale


def variant_of(today: Row | None, earlier: Sequence[Row], judge: Judge) -> str:
    """Which variant a child's lane shows: today's, else the one last used, else the usual."""
    if today and today.kept is not None:
        return today.variant
    used = [row.variant for row in earlier if row.value is not None]
    if used:
        return used[-1]
    return judge.protocol.usual_variant
