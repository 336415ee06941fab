"""Routes for benchmarks beside the school's own scores."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import Sex
from lauf.catalogue.queries.ladders import RungEntry
from lauf.progress.school import benchmarks
from lauf.progress.school.benchmarks import BenchmarksPage
from lauf.progress.school.ladder_preview import LadderPreview, ladder_preview

router = Router(tags=["benchmarks"])


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
def get_benchmarks(request: HttpRequest, test_id: UUID) -> BenchmarksPage:
    return benchmarks.benchmarks_page(signed_in_staff(request), test_id)


@router.post("/tests/{test_id}/ladder-preview", response=LadderPreview)
def preview_ladder(request: HttpRequest, test_id: UUID, draft: LadderDraft) -> LadderPreview:
    """What a ladder would say of last year's scores; nothing is kept."""
    today = timezone.localdate()
    return ladder_preview(signed_in_staff(request), test_id, today=today, **draft.model_dump())
