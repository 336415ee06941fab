"""Benchmarks with the school's own records beside them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from datetime import date, timedelta
from statistics import median
from typing import Any, Final, NamedTuple
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.protocol import VariantEntry
from lauf.catalogue.queries import (
    benchmark_key,
    for_everybody,
    key_conditions,
    ladder_rows,
    ladders_for,
    newest_protocol,
    norms_for,
    seen,
)
from lauf.catalogue.queries.ladders import LadderRow
from lauf.judgement.rows import scores
from lauf.messages import say
from lauf.people.models import Staff
from lauf.people.permissions import May, may
from lauf.records.queries import counting, rows
from lauf.rules.body.ages import age_in_years
from lauf.rules.judging.comparability import COURSE, Key, condition_shown
from lauf.rules.judging.norms import (
    OUTER_NEEDED,
    OWN_PERCENTILES,
    LmsTable,
    own_norm,
    quantile_interval,
)
from lauf.rules.reading.entry import accepted_words
from lauf.rules.reading.kinds import format_value
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


class TableRow(TypedDict):
    """A row of a norm's table."""

    sex: str
    age: float
    cells: list[float]


class NormTableRow(TypedDict):
    """A norm with its table."""

    id: UUID
    name: str
    source: str
    population: str
    year: int
    standing: str
    unit: str
    columns: list[str]
    rows: list[TableRow]


class OwnMark(TypedDict):
    """A percentile of the school's own norm, and between which scores it lies (90 %)."""

    mark: str
    shown: str
    interval: str


class OwnNorm(TypedDict):
    """The school's own norm of one form, age and sex."""

    variant: str
    age: int
    sex: str
    n: int
    why_not: str | None
    percentiles: list[OwnMark]


class YearGroupAge(TypedDict):
    """A year group and the age it is judged at."""

    id: UUID
    name: str
    age: int


class BenchmarksPage(TypedDict):
    """What the scores of a test are judged by."""

    test_id: UUID
    test: str
    version: int
    seconds: int | None
    # The usual length of the course, where scores are judged by it.
    course: str | None
    unit: str
    better: str
    variants: list[VariantEntry]
    accepted: str
    may_edit: bool
    year_groups: list[YearGroupAge]
    ladders: list[LadderRow]
    norms: list[NormTableRow]
    own: list[OwnNorm]


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


def benchmarks_page(staff: Staff, test_id: UUID) -> BenchmarksPage:
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
        "year_groups": [
            {"id": one.id, "name": one.name, "age": one.age}
            for one in staff.school.year_groups.all()
        ],
        "ladders": ladder_rows(version, ladders_for([version.test_id])),
        "norms": [_norm_table(norm) for norm in norms_for([version.test_id])],
        "own": _own_norms(version, scored),
    }


def _norm_table(norm: Any) -> NormTableRow:
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


def _own_norms(version: ProtocolVersion, scores: Sequence[Scored]) -> list[OwnNorm]:
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
    found: list[OwnNorm] = []
    for (variant, age, sex), children in sorted(groups.items()):
        norm = own_norm(list(children.values()), measure.better)
        cell: OwnNorm = {
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
    return say("{low} to {high}", low=low, high=high)
