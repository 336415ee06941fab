"""Routes for lists of people: read, looked at, kept."""

from __future__ import annotations

import base64
from typing import Literal
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.errors import Refused
from lauf.exchange import actions, queries
from lauf.exchange.lists.columns import Column
from lauf.exchange.lists.dates import Order
from lauf.exchange.queries import ListWish
from lauf.exchange.queries.list_preview import ListPreview
from lauf.messages import say
from lauf.people.models import Staff

router = Router(tags=["exchange"])


class PeopleList(Schema):
    """A list as pasted (`text`) or as a file (`data`, base64), and what was put right about it."""

    text: str = Field("", max_length=900_000)
    data: str = Field("", max_length=3_900_000)
    file_name: str = Field("", max_length=200)
    sheet: int = Field(0, ge=0, le=200)
    columns: list[Column] | None = Field(None, max_length=60)
    order: Order | None = None
    class_id: UUID | None = None
    # The name of a new class, where rows that name none go to one.
    new_class: str = Field("", max_length=40)
    years: dict[str, UUID] = Field(default_factory=dict)
    # By row: the id of a child it is, "new", or "out".
    decisions: dict[int, UUID | Literal["new", "out"]] = Field(default_factory=dict)


class AgreedList(PeopleList):
    """The same once it was looked at: `agreement` as the preview said it."""

    agreement: str = Field(max_length=64)
    leavers: list[UUID] = Field(default_factory=list, max_length=2000)


class ListKept(Schema):
    new: int
    changed: int
    left: int


def _wish(given: PeopleList) -> ListWish:
    try:
        data = base64.b64decode(given.data, validate=True)
    except ValueError as error:
        raise Refused(say("The file did not arrive completely. Choose it again.")) from error
    return ListWish(
        text=given.text, data=data, file_name=given.file_name, sheet=given.sheet,
        columns=given.columns, order=given.order, class_id=given.class_id,
        new_class=given.new_class, years=given.years, decisions=given.decisions,
    )  # fmt: skip


@router.post("/lists/preview", response=ListPreview)
def preview_list(request: HttpRequest, given: PeopleList) -> ListPreview:
    """What a list would do, row by row; nothing is kept."""
    return queries.preview_list(signed_in_staff(request), _wish(given), timezone.localdate())


@router.post("/lists", response=ListKept)
def keep_list(request: HttpRequest, given: AgreedList) -> dict[str, int]:
    """Keep what was shown, in one go."""
    staff: Staff = signed_in_staff(request)
    return actions.keep_list(
        staff, _wish(given), timezone.localdate(), agreement=given.agreement,
        leavers=given.leavers,
    )  # fmt: skip
