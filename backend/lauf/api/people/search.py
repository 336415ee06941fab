"""Children and classes by parts of their names."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router

from lauf.api.authentication import signed_in_staff
from lauf.people import queries
from lauf.people.queries.scope import Hits

router = Router(tags=["people"])


@router.get("/search", response=Hits)
def search(request: HttpRequest, q: Annotated[str, Query(max_length=100)]) -> Hits:
    """Children and classes by any part of their names."""
    return queries.search(signed_in_staff(request), q)
