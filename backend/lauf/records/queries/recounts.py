"""Reads of second counts: what helpers counted of tries that have a score of somebody else's."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime
from typing import NamedTuple
from uuid import UUID

from django.db.models import Max

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
    recorded_at: datetime
    received_at: datetime


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
        "reason", "variant", "recorded_at", "received_at",
    ),
    UUID,
)  # fmt: skip


#: A child's try.
Place = tuple[UUID, int]


def counts_beside(activity_id: UUID) -> dict[Place, list[Counted]]:
    """What helpers say of tries beside a score, by try, the newest last: of each the newest, unless
    it was taken back or has become a score of theirs since. One query, and one more where there are
    any."""
    rows = [Counted._make(row) for row in _COUNTED.rows(activity_id)]
    if not rows:
        return {}
    scored = Attempt.objects.filter(activity=activity_id, helper__isnull=False)
    entered = {
        (pupil, number, helper): last
        for pupil, number, helper, last in scored.order_by()
        .values_list("pupil_id", "try_number", "helper_id")
        .annotate(last=Max("received_at"))
    }
    newest = {(row.pupil_id, row.try_number, row.helper_id): row for row in rows}
    found: dict[Place, list[Counted]] = defaultdict(list)
    for key, row in newest.items():
        is_older = key in entered and entered[key] > row.received_at
        if row.reason != WITHDRAWN and not is_older:
            found[row.pupil_id, row.try_number].append(row)
    return {
        place: sorted(counts, key=lambda one: (one.received_at, one.id))
        for place, counts in found.items()
    }


def two_counts(activity_id: UUID) -> dict[UUID, TwoCounts]:
    """The scores of an activity that count and were counted by others too, by their ids. A
    correction by the teacher is the last word. One query, and two more where there is a second
    count."""
    beside = counts_beside(activity_id)
    if not beside:
        return {}
    heads = (
        Attempt.objects.filter(
            activity=activity_id, successor=None, pupil__in={pupil for pupil, _ in beside}
        )
        .exclude(reason=WITHDRAWN)
        .select_related("recorded_by", "helper")
    )
    found: dict[UUID, TwoCounts] = {}
    for head in heads:
        others = tuple(
            one
            for one in beside.get((head.pupil_id, head.try_number), ())
            if one.helper_id != head.helper_id
            and (head.helper_id is not None or one.beside_id == head.id)
        )
        if others:
            found[head.id] = TwoCounts(head.id, head.entered_by, others)
    return found
