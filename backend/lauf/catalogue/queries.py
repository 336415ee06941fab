"""Every read about tests and benchmarks."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from typing import Any, Final
from uuid import UUID

from django.db.models import QuerySet

from lauf.catalogue.models import LadderRung, ProtocolVersion
from lauf.compiled import Compiled
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


_RUNG_FIELDS: Final = (
    "ladder__test_id",
    "ladder__test__slug",
    "ladder__year_group_id",
    "ladder__variant",
    "ladder__seconds",
    "ladder__source",
    "name",
    "threshold",
    "beyond",
)


def _rungs(**where: Any) -> QuerySet[LadderRung, tuple[Any, ...]]:
    found = LadderRung.objects.filter(**where).order_by("ladder_id", "position")
    return found.values_list(*_RUNG_FIELDS)


_RUNGS_OF_ONE = Compiled(
    lambda test, year: _rungs(ladder__test=test, ladder__year_group=year), UUID, UUID
)


def ladders_for(test_ids: Iterable[UUID]) -> Ladders:
    """The ladders of these tests, for all year groups. One query."""
    return _ladders(_rungs(ladder__test__in=list(test_ids)))


def ladders_of(test_id: UUID, year_group_id: UUID) -> dict[str, Ladder]:
    """The ladders of one test for one year group, by variant. One query."""
    found = _ladders(_RUNGS_OF_ONE.rows(test_id, year_group_id))
    return {variant: ladder for (_, _, variant), ladder in found.items()}


def _ladders(rows: Iterable[tuple[Any, ...]]) -> Ladders:
    rungs: dict[tuple[UUID, UUID, str], list[Rung]] = defaultdict(list)
    keys: dict[tuple[UUID, UUID, str], tuple[Key, str]] = {}
    for test_id, slug, year, variant, seconds, source, name, threshold, beyond in rows:
        place = (test_id, year, variant)
        rungs[place].append(Rung(name, threshold, beyond))
        if place not in keys:
            keys[place] = Key(slug, variant, seconds), source
    return {place: Ladder(tuple(found), *keys[place]) for place, found in rungs.items()}
