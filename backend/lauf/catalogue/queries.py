"""Every read about tests and benchmarks."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from typing import Any
from uuid import UUID

from lauf.catalogue.models import LadderRung, ProtocolVersion
from lauf.people.models import Staff
from lauf.people.queries import NotFound
from lauf.rules.comparability import Key
from lauf.rules.ladders import Ladder, Rung


def newest_protocol(staff: Staff, test_id: UUID) -> ProtocolVersion:
    """The version a new lesson uses. Raises NotFound outside the school. One query."""
    versions = ProtocolVersion.objects.filter(test_id=test_id, test__school_id=staff.school_id)
    newest = versions.select_related("test").order_by("-number").first()
    if newest is None:
        raise NotFound("test")
    return newest


def test_list(staff: Staff) -> list[dict[str, Any]]:
    """The school's tests by name. One query."""
    return [dict(row) for row in staff.school.tests.values("id", "name")]


#: (test, year group, variant) -> the ladder.
Ladders = dict[tuple[UUID, UUID, str], Ladder]


def ladders_for(test_ids: Iterable[UUID], year_group_id: UUID | None = None) -> Ladders:
    """The ladders of these tests, for one year group or all. One query."""
    rows = LadderRung.objects.filter(ladder__test__in=list(test_ids))
    if year_group_id is not None:
        rows = rows.filter(ladder__year_group=year_group_id)
    rungs: dict[tuple[UUID, UUID, str], list[Rung]] = defaultdict(list)
    keys: dict[tuple[UUID, UUID, str], tuple[Key, str]] = {}
    for (
        test_id,
        slug,
        year_group,
        variant,
        seconds,
        source,
        name,
        threshold,
        beyond,
    ) in rows.order_by("ladder_id", "position").values_list(
        "ladder__test_id",
        "ladder__test__slug",
        "ladder__year_group_id",
        "ladder__variant",
        "ladder__seconds",
        "ladder__source",
        "name",
        "threshold",
        "beyond",
    ):
        place = (test_id, year_group, variant)
        rungs[place].append(Rung(name, threshold, beyond))
        keys[place] = Key(slug, variant, seconds), source
    return {place: Ladder(tuple(found), *keys[place]) for place, found in rungs.items()}
