"""Reads of norm tables."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Final
from uuid import UUID

from django.db.models import Max
from typing_extensions import TypedDict

from lauf.catalogue.models import NormTable
from lauf.catalogue.norm_files import read_norm_file
from lauf.catalogue.queries.tests import newest_protocol, tests_of
from lauf.compiled import Compiled
from lauf.errors import NotFound
from lauf.messages import say
from lauf.people.models import Staff
from lauf.rules.judging.norms import LmsRow, LmsTable, PercentileTable, Standing
from lauf.rules.reading.quantities import Better


def norm_of(staff: Staff, norm_id: UUID) -> NormTable:
    """One norm table in scope. Raises NotFound. One query."""
    found = NormTable.objects.filter(pk=norm_id, test__in=tests_of(staff)).first()
    if found is None:
        raise NotFound(say("norm table"))
    return found


@dataclass(frozen=True, slots=True)
class Norm:
    """A norm ready to judge by: its table, its unit in canonical units, and where it comes from."""

    id: UUID
    test_id: UUID
    key_parts: tuple[str, int | None, int]
    name: str
    source: str
    population: str
    year: int
    standing: str
    unit: str
    unit_size: float
    table: PercentileTable | LmsTable

    def of(self, value: int, age: float | None, sex: str) -> Standing:
        """Where a canonical value stands."""
        return self.table.standing(value / self.unit_size, age, sex)

    def score_of(self, z: float, age: float | None, sex: str) -> float | None:
        """The canonical value of a standing, None without one."""
        score = self.table.score_at(z, age, sex)
        return None if score is None else score * self.unit_size


_NORM_FIELDS: Final = (
    "id", "test_id", "variant", "seconds", "meaning", "name", "source", "population", "year",
    "standing", "unit", "unit_size", "form", "at_points", "percentiles", "rows", "better",
)  # fmt: skip


_NORMS = Compiled(
    lambda tests: (
        NormTable.objects.filter(test__in=tests)
        .annotate(better=Max("test__versions__better"))
        .order_by("name")
        .values_list(*_NORM_FIELDS)
    ),
    [UUID],
)


def norms_for(test_ids: Iterable[UUID]) -> list[Norm]:
    """The published norms of these tests. One query."""
    return [_norm(row) for row in _NORMS.rows(list(test_ids))]


def norms_of(test_id: UUID) -> list[Norm]:
    """The published norms of one test. One query."""
    return norms_for([test_id])


def _norm(row: tuple[Any, ...]) -> Norm:
    (norm_id, test_id, variant, seconds, meaning, name, source, population, year, standing,
     unit, unit_size, form, at_points, percentiles, held, better) = row  # fmt: skip
    cells = Compiled.json(held)
    table: PercentileTable | LmsTable
    if form == NormTable.Form.LMS:
        by_sex: dict[str, list[LmsRow]] = defaultdict(list)
        for sex, age, lms in cells:
            by_sex[sex].append(LmsRow(age, *lms))
        table = LmsTable({sex: tuple(rows) for sex, rows in by_sex.items()})
    else:
        scores = {(sex, float(age)): tuple(marks) for sex, age, marks in cells}
        marks = tuple(Compiled.json(percentiles))
        table = PercentileTable(marks, scores, Better(better), at_points)
    return Norm(norm_id, test_id, (variant, seconds, meaning), name, source, population, year,
                standing, unit, unit_size, table)  # fmt: skip


#: Rows of a table shown before it is kept.
_PREVIEW_ROWS: Final = 60


class FaultRow(TypedDict):
    """What is wrong in a file, by row and column."""

    row: int
    column: str
    words: str


class PreviewRow(TypedDict):
    """A row of a table from a file."""

    sex: str
    age: float
    cells: list[float]


class NormPreview(TypedDict):
    """What a file holds, with every fault."""

    form: str
    columns: list[str]
    rows: list[PreviewRow]
    faults: list[FaultRow]


def norm_preview(staff: Staff, test_id: UUID, text: str, *, at_points: bool) -> NormPreview:
    """What the file of a norm table holds, with every fault by row and column. Two queries at
    most. Raises NotFound."""
    version = newest_protocol(staff, test_id)
    table = read_norm_file(text, version.measure.better, at_points=at_points)
    rows: list[PreviewRow] = []
    columns: list[str] = []
    if table.percentiles:
        columns = [f"P{mark:g}" for mark in table.percentiles.percentiles]
        rows = [
            {"sex": sex, "age": age, "cells": list(cells)}
            for (sex, age), cells in sorted(table.percentiles.rows.items())
        ]
    elif table.lms:
        columns = ["L", "M", "S"]
        rows = [
            {"sex": sex, "age": row.age, "cells": [row.l, row.m, row.s]}
            for sex, found in sorted(table.lms.rows.items())
            for row in found
        ]
    form = "" if table.faults else "percentiles" if table.percentiles else "lms"
    faults: list[FaultRow] = [
        {"row": f.row, "column": f.column, "words": f.words} for f in table.faults
    ]
    return {"form": form, "columns": columns, "rows": rows[:_PREVIEW_ROWS], "faults": faults}
