"""Norms that a school imports."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import Made
from lauf.catalogue import actions, queries
from lauf.catalogue.queries.norms import NormPreview

router = Router(tags=["benchmarks"])


class NormFile(Schema):
    """A table from a file, and where it comes from."""

    text: str = Field(max_length=500_000)
    unit: str = Field("", max_length=12)
    at_points: bool = False
    name: str = Field("", max_length=120)
    source: str = Field("", max_length=240)
    population: str = Field("", max_length=120)
    year: int = Field(2000, ge=1850, le=2100)
    standing: str = Field("", max_length=240)
    variant: str = Field("", max_length=20)


@router.post("/tests/{test_id}/norms/preview", response=NormPreview)
def preview_norm(request: HttpRequest, test_id: UUID, file: NormFile) -> NormPreview:
    """What a file holds and every fault by row and column; nothing is kept."""
    return queries.norm_preview(
        signed_in_staff(request), test_id, file.text, at_points=file.at_points
    )


@router.post("/tests/{test_id}/norms", response={201: Made})
def import_norm(request: HttpRequest, test_id: UUID, file: NormFile) -> Any:
    return Status(201, actions.import_norm(signed_in_staff(request), test_id, **file.model_dump()))


@router.delete("/norms/{norm_id}", response={204: None})
def delete_norm(request: HttpRequest, norm_id: UUID) -> Any:
    actions.delete_norm(signed_in_staff(request), norm_id)
    return Status(204, None)
