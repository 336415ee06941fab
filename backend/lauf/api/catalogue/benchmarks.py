"""Addresses of benchmarks beside the school's own scores."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router

from lauf.api.asker import asker
from lauf.api.catalogue.ladders import RungEntry
from lauf.api.lessons.scores import Lane
from lauf.api.shape import Schema
from lauf.api.shared import Sex, VariantRow
from lauf.progress import benchmarks

router = Router(tags=["benchmarks"])


class FindingRow(Schema):
    fault: str
    rung: int
    words: str


class KeptRung(Schema):
    name: str
    at: int
    typed: str
    shown: str
    beyond: bool


class LadderRow(Schema):
    id: UUID
    year_group_id: UUID | None
    ages: list[int] | None
    sex: str
    variant: str
    seconds: int | None
    course: str | None
    source: str
    rungs: list[KeptRung]
    findings: list[FindingRow]


class TableRow(Schema):
    sex: str
    age: float
    cells: list[float]


class NormTableRow(Schema):
    id: UUID
    name: str
    source: str
    population: str
    year: int
    standing: str
    unit: str
    columns: list[str]
    rows: list[TableRow]


class OwnMark(Schema):
    """A percentile of the school's own norm, and between which scores it lies (90 %)."""

    mark: str
    shown: str
    interval: str


class OwnNorm(Schema):
    variant: str
    age: int
    sex: str
    n: int
    why_not: str | None
    percentiles: list[OwnMark]


class YearGroupAge(Schema):
    id: UUID
    name: str
    age: int


class BenchmarksPage(Schema):
    test_id: UUID
    test: str
    version: int
    seconds: int | None
    # The usual length of the course, where scores are judged by it.
    course: str | None
    unit: str
    better: str
    variants: list[VariantRow]
    accepted: str
    may_edit: bool
    year_groups: list[YearGroupAge]
    ladders: list[LadderRow]
    norms: list[NormTableRow]
    own: list[OwnNorm]


class DraftRung(Schema):
    name: str
    typed: str
    shown: str
    beyond: bool


class Reached(Schema):
    """How many children stand on these rungs, by their places; −1 is below the first. Fewer than
    five are told with their neighbours."""

    from_rung: int
    to_rung: int
    children: int


class LadderPreview(Schema):
    rungs: list[DraftRung]
    reached: list[Reached]
    scored: int
    # There are some children, but too few to be told.
    few: bool
    # Not counted: with what was counted today, single children could be told apart.
    nested: bool
    other: int
    findings: list[FindingRow]
    lane: Lane


class LadderDraft(Schema):
    """A ladder being made: ranges as printed, or rungs one by one."""

    year_group_id: UUID | None = None
    ages: tuple[int, int] | None = None
    sex: Sex | Literal[""] = ""
    variant: str = Field("", max_length=20)
    printed: str = Field("", max_length=400)
    rungs: list[RungEntry] = Field(default_factory=list, max_length=20)
    seconds: Annotated[int, Field(ge=1, le=7200)] | None = None
    course: str = Field("", max_length=40)


@router.get("/tests/{test_id}/benchmarks", response=BenchmarksPage)
def get_benchmarks(request: HttpRequest, test_id: UUID) -> dict[str, Any]:
    return benchmarks.benchmarks_page(asker(request), test_id)


@router.post("/tests/{test_id}/ladder-preview", response=LadderPreview)
def preview_ladder(request: HttpRequest, test_id: UUID, draft: LadderDraft) -> dict[str, Any]:
    """What a ladder would say of last year's scores; nothing is kept."""
    today = timezone.localdate()
    return benchmarks.ladder_preview(asker(request), test_id, today=today, **draft.model_dump())
