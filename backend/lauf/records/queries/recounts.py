"""Reads of second counts: what helpers counted of tries that have a score of somebody else's."""

from __future__ import annotations

from collections import defaultdict
from typing import NamedTuple
from uuid import UUID

from lauf.compiled import Compiled
from lauf.records.models import WITHDRAWN, Attempt, Recount


class Counted(NamedTuple):
    """What one helper counted of a try."""

    id: UUID
    pupil_id: UUID
    try_number: int
    beside_id: UUID
    helper_id: UUID
    name: str
    typed: str
    value: int | None
    reason: str | None
    variant: str


class TwoCounts(NamedTuple):
    """A try that was counted by two people: who entered the score that counts, and what others
    counted of it."""

    attempt_id: UUID
    name: str
    others: tuple[Counted, ...]


_COUNTED = Compiled(
    lambda activity_id: Recount.objects.filter(activity=activity_id)
    .order_by("received_at", "id")
    .values_list(
        "id", "pupil_id", "try_number", "beside_id", "helper_id", "helper__name", "typed", "value",
        "reason", "variant",
    ),
    UUID,
)  # fmt: skip


def two_counts(activity_id: UUID) -> dict[UUID, TwoCounts]:
    """The scores of an activity that count and were counted by others too, by their ids: of each
    helper the newest that was not taken back. A correction by the teacher is the last word. One
    query, and one more where there is a second count."""
    rows = [Counted._make(row) for row in _COUNTED.rows(activity_id)]
    if not rows:
        return {}
    newest: dict[tuple[UUID, int], dict[UUID, Counted]] = defaultdict(dict)
    for row in rows:
        newest[row.pupil_id, row.try_number][row.helper_id] = row
    heads = (
        Attempt.objects.filter(
            activity=activity_id, successor=None, pupil__in={row.pupil_id for row in rows}
        )
        .exclude(reason=WITHDRAWN)
        .select_related("recorded_by", "helper")
    )
    found: dict[UUID, TwoCounts] = {}
    for head in heads:
        others = tuple(
            one
            for one in newest.get((head.pupil_id, head.try_number), {}).values()
            if one.reason != WITHDRAWN
            and one.helper_id != head.helper_id
            and (head.helper_id is not None or one.beside_id == head.id)
        )
        if others:
            found[head.id] = TwoCounts(head.id, head.entered_by, others)
    return found
