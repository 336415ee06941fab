"""Reads of attempts: the ones that count, as plain rows for the rules."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from datetime import date, timedelta
from typing import Final, NamedTuple
from uuid import UUID

from django.db.models import F, OuterRef, QuerySet, Subquery, Window
from django.db.models.functions import Coalesce, Lag, Lead

from lauf.lessons.models import WaveRun
from lauf.people.models import Staff
from lauf.people.queries import NotFound
from lauf.records.models import WITHDRAWN, Attempt
from lauf.rules.change import PAIR_WINDOW, pair_differences
from lauf.rules.comparability import Key
from lauf.rules.entry import REASON_WORDS, NotDone

#: Repeat tests older than this say little about how steady today's children are.
PAIRS_SINCE: Final = timedelta(days=3 * 365)


def counting() -> QuerySet[Attempt]:
    """The attempts that count: nothing succeeds them and they were not taken back."""
    return Attempt.objects.filter(successor=None).exclude(reason=WITHDRAWN)


def attempt_of(staff: Staff, attempt_id: UUID) -> Attempt:
    """One attempt in scope. Raises NotFound. One query."""
    attempts = Attempt.objects.filter(pk=attempt_id, school_id=staff.school_id)
    if not staff.is_head:
        attempts = attempts.filter(pupil__school_class__teachers=staff)
    found = attempts.select_related("activity__lesson").first()
    if found is None:
        raise NotFound("score")
    return found


def worked_seconds() -> Coalesce:
    """How long the clock really ran for an attempt: the protocol's seconds, unless the wave's run
    that counts was stopped early. For annotating attempts."""
    early = WaveRun.objects.filter(
        activity=OuterRef("activity"), wave=OuterRef("wave"), ended=WaveRun.Ended.EARLY
    ).values("worked_seconds")[:1]
    return Coalesce(Subquery(early), F("protocol__seconds"))


class Row(NamedTuple):
    """One counting attempt as the rules see it; `seconds` is what the clock really ran."""

    id: UUID
    pupil_id: UUID
    activity_id: UUID
    test_id: UUID
    on: date
    typed: str
    value: int | None
    reason: str | None
    estimate: bool
    variant: str
    wave: int | None
    succeeds_id: UUID | None
    seconds: int | None


def reason_words(reason: str | None) -> str:
    """Why there is no score, as said on screen."""
    return REASON_WORDS[NotDone(reason)] if reason else ""


def rows(attempts: QuerySet[Attempt]) -> list[Row]:
    """The attempts as rows, oldest first. One query."""
    found = attempts.annotate(seconds=worked_seconds()).order_by("on", "recorded_at", "id")
    return [
        Row(*row)
        for row in found.values_list(
            "id",
            "pupil_id",
            "activity_id",
            "protocol__test_id",
            "on",
            "typed",
            "value",
            "reason",
            "estimate",
            "variant",
            "wave",
            "succeeds_id",
            "seconds",
        )
    ]


def repeat_differences(
    school_id: UUID, test_ids: Iterable[UUID], before: date
) -> dict[Key, list[int]]:
    """Differences of repeat tests in the whole school before a day, by key, for typical errors.

    Only rows with a neighbour of the same child and key within the window leave the database.
    One query.
    """
    same = [F("pupil_id"), F("protocol__test_id"), F("variant"), F("seconds")]
    order = [F("on").asc(), F("recorded_at").asc()]
    pairs = (
        counting()
        .filter(
            school_id=school_id,
            protocol__test__in=list(test_ids),
            value__isnull=False,
            estimate=False,
            on__lt=before,
            on__gte=before - PAIRS_SINCE,
        )
        .annotate(seconds=worked_seconds())
        .annotate(
            before_it=Window(Lag("on"), partition_by=same, order_by=order),
            after_it=Window(Lead("on"), partition_by=same, order_by=order),
        )
        .order_by("pupil_id", "on", "recorded_at")
        .values_list(
            "pupil_id",
            "protocol__test__slug",
            "variant",
            "seconds",
            "on",
            "value",
            "before_it",
            "after_it",
        )
    )
    series: dict[tuple[UUID, Key], list[tuple[date, int]]] = defaultdict(list)
    for pupil, slug, variant, seconds, on, value, earlier, later in pairs:
        near = (earlier and on - earlier <= PAIR_WINDOW) or (later and later - on <= PAIR_WINDOW)
        if near and value is not None:
            series[pupil, Key(slug, variant, seconds)].append((on, value))
    grouped: dict[Key, list[list[tuple[date, int]]]] = defaultdict(list)
    for (_, key), attempts in series.items():
        grouped[key].append(attempts)
    return {key: pair_differences(found) for key, found in grouped.items()}
