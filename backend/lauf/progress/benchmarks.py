"""Benchmarks with the school's own records beside them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Hashable, Sequence
from datetime import date, timedelta
from statistics import median
from typing import Any, Final, NamedTuple
from uuid import UUID

import numpy as np
from django.utils import timezone

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import (
    benchmark_key,
    draft_rungs,
    for_everybody,
    key_conditions,
    ladder_findings,
    ladder_key,
    ladder_rows,
    ladders_for,
    newest_protocol,
    norms_for,
    seen,
)
from lauf.errors import NotFound
from lauf.judgement.picture import put_to_scale, rung_marks
from lauf.judgement.rows import scores
from lauf.people.models import Staff
from lauf.people.permissions import May, may
from lauf.progress.disclosure import COUNTED
from lauf.records.queries import counting, rows
from lauf.rules.body.ages import age_in_years
from lauf.rules.judging.batch import rungs_reached, thresholds
from lauf.rules.judging.comparability import COURSE, Key, condition_shown
from lauf.rules.judging.ladders import Benchmark, Fault, Rung
from lauf.rules.judging.norms import (
    OUTER_NEEDED,
    OWN_PERCENTILES,
    LmsTable,
    own_norm,
    quantile_interval,
)
from lauf.rules.judging.summaries import FEWEST_TOLD, told_together
from lauf.rules.reading.entry import accepted_words
from lauf.rules.reading.kinds import format_number, format_value
from lauf.rules.reading.quantities import Measure
from lauf.rules.reading.rounding import places, whole

#: Scores older than this are not what a new ladder is held against.
LAST_YEAR: Final = timedelta(days=365)
#: How much of a norm table is shown.
_SHOWN_ROWS: Final = 40
_OUTER: Final = (OWN_PERCENTILES[0], OWN_PERCENTILES[-1])


class Scored(NamedTuple):
    """A measured score of the school, with what a benchmark asks of the child."""

    pupil_id: UUID
    year_group_id: UUID
    sex: str
    age: int | None
    on: date
    value: int
    key: Key


def school_scores(
    staff: Staff, version: ProtocolVersion, since: date | None = None
) -> list[Scored]:
    """The measured scores of the whole school in one test, oldest first, estimates left out; none
    of a test of body measurements. Two queries, and one more where lengths were measured in hands
    or steps."""
    attempts = counting().filter(school_id=staff.school_id, protocol__test=version.test_id)
    # Body measurements are nobody's but their own class's teachers' to look at.
    attempts = seen(for_everybody(staff), attempts, "protocol__test")
    if since is not None:
        attempts = attempts.filter(on__gte=since)
    about = {
        pupil: (sex, born)
        for pupil, sex, born in staff.school.pupils.values_list("id", "sex", "born")
    }
    years = dict(
        attempts.values_list("activity_id", "activity__lesson__year_group_id").order_by().distinct()
    )
    slug, kind = version.test.slug, version.kind
    made = []
    for row in scores(rows(attempts), staff.school_id):
        if row.value is None or row.estimate:
            continue
        sex, born = about[row.pupil_id]
        age = age_in_years(born, row.on) if born and born <= row.on else None
        key = Key(slug, row.variant, row.seconds, row.meaning, key_conditions(kind, row.conditions))
        year = years[row.activity_id]
        made.append(Scored(row.pupil_id, year, sex, age, row.on, row.value, key))
    return made


def benchmarks_page(staff: Staff, test_id: UUID) -> dict[str, Any]:
    """Ladders with their findings, norm tables with their origin, and the school's own norm. Nine
    queries at most. Raises NotFound."""
    version = newest_protocol(staff, test_id)
    measure = version.measure
    scored = school_scores(staff, version)
    return {
        "test_id": version.test_id,
        "test": version.test.name,
        "version": version.number,
        "seconds": version.seconds,
        "course": None
        if (course := benchmark_key(version, "").condition(COURSE)) is None
        else condition_shown(COURSE, course),
        "unit": measure.unit,
        "better": measure.better.value,
        "variants": version.variants,
        "accepted": accepted_words(measure),
        "may_edit": may(staff, May.EDIT_TESTS),
        "year_groups": [dict(row) for row in staff.school.year_groups.values("id", "name", "age")],
        "ladders": ladder_rows(version, ladders_for([version.test_id])),
        "norms": [_norm_table(norm) for norm in norms_for([version.test_id])],
        "own": _own_norms(version, scored),
    }


def _norm_table(norm: Any) -> dict[str, Any]:
    table = norm.table
    if isinstance(table, LmsTable):
        columns = ["L", "M", "S"]
        cells = [
            (sex, row.age, [row.l, row.m, row.s])
            for sex, found in table.rows.items()
            for row in found
        ]
    else:
        columns = [f"P{mark:g}" for mark in table.percentiles]
        cells = [(sex, age, list(scores)) for (sex, age), scores in sorted(table.rows.items())]
    return {
        "id": norm.id,
        "name": norm.name,
        "source": norm.source,
        "population": norm.population,
        "year": norm.year,
        "standing": norm.standing,
        "unit": norm.unit,
        "columns": columns,
        "rows": [
            {"sex": sex, "age": age, "cells": [places(cell, 4) for cell in scores]}
            for sex, age, scores in cells[:: max(1, len(cells) // _SHOWN_ROWS)]
        ],
    }


def _own_norms(version: ProtocolVersion, scores: Sequence[Scored]) -> list[dict[str, Any]]:
    """Percentiles of the school's own scores by variant, age and sex: one value a child."""
    measure = version.measure
    keys = {
        variant["code"]: benchmark_key(version, variant["code"])
        for variant in version.variants or [{"code": "", "name": ""}]
    }
    groups: dict[tuple[str, int, str], dict[UUID, list[int]]] = defaultdict(
        lambda: defaultdict(list)
    )
    for score in scores:
        if score.age is None or keys.get(score.key.variant) != score.key:
            continue
        for sex in {"", score.sex}:
            groups[score.key.variant, score.age, sex][score.pupil_id].append(score.value)
    found = []
    for (variant, age, sex), children in sorted(groups.items()):
        norm = own_norm(list(children.values()), measure.better)
        cell: dict[str, Any] = {
            "variant": variant,
            "age": age,
            "sex": sex,
            "n": len(children),
            "why_not": None,
            "percentiles": [],
        }
        if isinstance(norm, str):
            cell["why_not"] = norm
        else:
            cell["percentiles"] = [
                {
                    "mark": f"P{mark}",
                    "shown": format_value(whole(score), measure),
                    "interval": _interval_words(list(children.values()), mark, measure),
                }
                for mark, score in zip(OWN_PERCENTILES, norm, strict=True)
                if len(children) >= OUTER_NEEDED or mark not in _OUTER
            ]
        found.append(cell)
    return found


def _interval_words(children: Sequence[Sequence[int]], mark: float, measure: Measure) -> str:
    """Between which scores a percentile of the school's own norm lies (90 %), "" if not known."""
    found = quantile_interval([median(one) for one in children], mark, measure.better)
    if found is None:
        return ""
    low, high = (format_value(whole(end), measure) for end in found)
    return f"{low} to {high}"


def _is_of(
    score: Scored, year_group_id: UUID | None, ages: tuple[int, int] | None, sex: str
) -> bool:
    """Whether a score is of the children that a ladder is for."""
    if year_group_id is not None and score.year_group_id != year_group_id:
        return False
    if ages is not None and (score.age is None or not ages[0] <= score.age <= ages[1]):
        return False
    return not sex or score.sex == sex


def _on_rungs(scores: Sequence[int], rungs: Sequence[Rung], measure: Measure) -> list[int]:
    """How many of the scores are below the first rung, and on each."""
    if not scores:
        return [0] * (len(rungs) + 1)
    values = np.array(scores, dtype=np.int64)
    one = np.zeros(len(values), dtype=np.int64)
    limits = thresholds([tuple(rungs)], measure)
    reached, _ = rungs_reached(values, one, limits, measure.better)
    return [int(n) for n in np.bincount(reached + 1, minlength=len(rungs) + 1)]


def _may_be_counted(
    latest: dict[UUID, int], of: Hashable, asked: Hashable
) -> tuple[dict[UUID, int], bool]:
    """The scores by child that may be counted, and whether it was refused (see `disclosure`)."""
    if len(latest) < FEWEST_TOLD:
        return latest, False
    group = COUNTED.group_to_count(of, asked, frozenset(latest), timezone.now())
    return {one: value for one, value in latest.items() if group and one in group}, group is None


def ladder_preview(
    staff: Staff,
    test_id: UUID,
    *,
    year_group_id: UUID | None,
    ages: tuple[int, int] | None,
    sex: str,
    variant: str,
    printed: str,
    rungs: list[dict[str, Any]],
    seconds: int | None,
    course: str,
    today: date,
) -> dict[str, Any]:
    """A ladder before it is kept: its rungs, what is wrong with it, its lane, and how many children
    of this school would have reached each rung last year, small numbers told together: no child can
    be read out of it, nor out of several of them (`disclosure`). Seven queries at most. Raises
    NotFound, or EntryError for ranges that cannot be read."""
    version = newest_protocol(staff, test_id)
    if year_group_id and not staff.school.year_groups.filter(pk=year_group_id).exists():
        raise NotFound("year group")
    measure, key = version.measure, ladder_key(version, variant, seconds, course)
    draft = draft_rungs(version, printed, rungs)
    kept, faults = draft.rungs, list(draft.findings)
    faults += ladder_findings(version, Benchmark(kept, key))
    in_order = not any(fault.fault is Fault.OUT_OF_ORDER for fault in faults)
    last_year = [
        score
        for score in school_scores(staff, version, today - LAST_YEAR)
        if _is_of(score, year_group_id, ages, sex)
    ]
    latest, nested = _may_be_counted(
        {score.pupil_id: score.value for score in last_year if score.key == key},
        (test_id, key), (year_group_id, ages, sex),
    )  # fmt: skip
    other = sum(s.key != key and s.key.variant == variant for s in last_year)
    reached = _on_rungs(list(latest.values()) if in_order else [], kept, measure)
    lane = {
        "better": measure.better.value,
        "variant": variant,
        "rungs": rung_marks(kept, measure),
        "earlier": [],
        "today": None,
        "best": None,
        "band": None,
    }
    put_to_scale([lane], measure.kind)
    return {
        "rungs": [
            {
                "name": rung.name,
                "typed": format_number(rung.threshold, measure),
                "shown": format_value(rung.threshold, measure),
                "beyond": rung.beyond,
            }
            for rung in kept
        ],
        "reached": [
            {"from_rung": first - 1, "to_rung": last - 1, "children": children}
            for first, last, children in told_together(reached)
        ],
        "scored": len(latest) if len(latest) >= FEWEST_TOLD else 0,
        "few": 0 < len(latest) < FEWEST_TOLD,
        "nested": nested,
        "other": other if other >= FEWEST_TOLD and not nested else 0,
        "findings": [{"fault": f.fault.value, "rung": f.rung, "words": f.words} for f in faults],
        "lane": lane,
    }
