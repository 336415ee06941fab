"""Children and classes by parts of their names."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.people import queries

router = Router(tags=["people"])


class Hit(Schema):
    id: UUID
    name: str
    where: str


class Hits(Schema):
    pupils: list[Hit]
    classes: list[Hit]


@router.get("/search", response=Hits)
def search(request: HttpRequest, q: Annotated[str, Query(max_length=100)]) -> dict[str, Any]:
    """Children and classes by any part of their names."""
    return queries.search(asker(request), q)
