"""Reads of ladders."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Any, Final, NotRequired
from uuid import UUID

from annotated_types import MaxLen
from django.db.models import Q, QuerySet
from typing_extensions import TypedDict

from lauf.catalogue import models
from lauf.catalogue.models import LadderRung, ProtocolVersion
from lauf.catalogue.queries.keys import benchmark_key, read_condition
from lauf.catalogue.queries.tests import tests_of
from lauf.compiled import Compiled
from lauf.errors import NotFound, Refused
from lauf.messages import say
from lauf.people.models import Staff
from lauf.rules.judging.change import smallest_change
from lauf.rules.judging.comparability import COURSE, Key, condition_shown
from lauf.rules.judging.ladders import (
    FAULT_WORDS,
    Benchmark,
    Finding,
    Printed,
    Rung,
    findings,
    read_printed,
    read_rung,
)
from lauf.rules.reading.entry import EntryError
from lauf.rules.reading.kinds import format_number, format_value


def ladder_of(staff: Staff, ladder_id: UUID) -> models.Ladder:
    """One ladder in scope, with its test. Raises NotFound. One query."""
    ladders = models.Ladder.objects.filter(pk=ladder_id, test__in=tests_of(staff))
    found = ladders.select_related("test").first()
    if found is None:
        raise NotFound(say("ladder"))
    return found


_RUNG_FIELDS: Final = (
    "ladder__test_id",
    "ladder__test__slug",
    "ladder__year_group_id",
    "ladder__from_age",
    "ladder__to_age",
    "ladder__sex",
    "ladder__variant",
    "ladder__seconds",
    "ladder__meaning",
    "ladder__conditions",
    "ladder__source",
    "ladder_id",
    "name",
    "threshold",
    "beyond",
)


@dataclass(frozen=True, slots=True)
class KeptLadder:
    """A ladder as kept: whose it is, beside the rungs the rules judge by."""

    id: UUID
    test_id: UUID
    year_group_id: UUID | None
    ladder: Benchmark


def _rungs(*args: Q, **where: Any) -> QuerySet[LadderRung, tuple[Any, ...]]:
    found = LadderRung.objects.filter(*args, **where).order_by("ladder_id", "position")
    return found.values_list(*_RUNG_FIELDS)


_RUNGS_OF_SOME = Compiled(
    lambda tests, years: _rungs(
        Q(ladder__year_group__in=years) | Q(ladder__year_group=None), ladder__test__in=tests
    ),
    [UUID],
    [UUID],
)
_RUNGS_OF_ALL_YEARS = Compiled(lambda tests: _rungs(ladder__test__in=tests), [UUID])


def ladders_for(
    test_ids: Iterable[UUID], year_groups: Collection[UUID] | None = None
) -> list[KeptLadder]:
    """The ladders of these tests, for all year groups and ages, or for some year groups and the
    ages. One query."""
    tests = list(test_ids)
    if year_groups is None:
        return _ladders(_RUNGS_OF_ALL_YEARS.rows(tests))
    # A list that holds nothing asks for nothing; the ladders by age are asked for all the same.
    return _ladders(_RUNGS_OF_SOME.rows(tests, [*year_groups] or [UUID(int=0)]))


def ladders_of(test_id: UUID, year_group_id: UUID) -> list[Benchmark]:
    """The ladders of one test for one year group, and those by age. One query."""
    return [kept.ladder for kept in ladders_for([test_id], [year_group_id])]


def _ladders(rows: Iterable[tuple[Any, ...]]) -> list[KeptLadder]:
    rungs: dict[UUID, list[Rung]] = defaultdict(list)
    heads: dict[UUID, tuple[Any, ...]] = {}
    for *head, ladder_id, name, threshold, beyond in rows:
        rungs[ladder_id].append(Rung(name, threshold, beyond))
        heads.setdefault(ladder_id, tuple(head))
    return [_kept(ladder_id, tuple(rungs[ladder_id]), *head) for ladder_id, head in heads.items()]


def _kept(
    ladder_id: UUID,
    rungs: tuple[Rung, ...],
    test_id: UUID,
    slug: str,
    year_group_id: UUID | None,
    from_age: int | None,
    to_age: int | None,
    sex: str,
    variant: str,
    seconds: int | None,
    meaning: int,
    conditions: Any,
    source: str,
) -> KeptLadder:
    held = Compiled.json(conditions)
    key = Key(slug, variant, seconds, meaning, tuple(sorted(held.items())))
    ages = None if from_age is None or to_age is None else (from_age, to_age)
    return KeptLadder(ladder_id, test_id, year_group_id, Benchmark(rungs, key, source, sex, ages))


class RungEntry(TypedDict):
    """A rung as typed; `beyond`: only more than that reaches it."""

    name: NotRequired[Annotated[str, MaxLen(80)]]
    at: Annotated[str, MaxLen(60)]
    beyond: NotRequired[bool]


class FindingRow(TypedDict):
    """What is odd about a rung."""

    fault: str
    rung: int
    words: str


class KeptRung(TypedDict):
    """A rung of a ladder, in canonical units, as typed and as shown."""

    name: str
    at: int
    typed: str
    shown: str
    beyond: bool


class LadderRow(TypedDict):
    """A ladder of a test, with its findings."""

    id: UUID
    year_group_id: UUID | None
    ages: list[int] | None
    sex: str
    variant: str
    seconds: int | None
    course: str | None
    source: str
    rungs: list[KeptRung]
    findings: list[FindingRow]


def typed_rungs(version: ProtocolVersion, rungs: Sequence[RungEntry]) -> tuple[Rung, ...]:
    """Rungs as typed one by one, those without a threshold left out. Raises EntryError naming the
    rung."""
    measure = version.measure
    found = []
    for place, given in enumerate(rungs, 1):
        if not given["at"].strip():
            continue
        name = given.get("name", "").strip() or say("Rung {place}", place=place)
        try:
            read = read_rung(given["at"], name, measure)
        except EntryError as error:
            raise EntryError(f"{name}: {error.message}", error.accepted) from error
        found.append(Rung(name[:40], read.threshold, given.get("beyond", False) or read.beyond))
    return tuple(found)


def draft_rungs(version: ProtocolVersion, printed: str, rungs: Sequence[RungEntry]) -> Printed:
    """A ladder being made: ranges as printed with the names that were given, or rungs one by one.
    Raises EntryError naming what cannot be read."""
    if not printed.strip():
        return Printed(typed_rungs(version, rungs), ())
    names = [rung.get("name", "").strip() for rung in rungs]
    return read_printed(printed, [name[:40] for name in names if name], version.measure)


def ladder_key(version: ProtocolVersion, variant: str, seconds: int | None, course: str) -> Key:
    """The key a ladder is written for: the test's own, with another clock or course where one is
    said. Raises Refused for a course that cannot be read or that the test does not have."""
    key = benchmark_key(version, variant)
    if seconds is not None:
        key = replace(key, seconds=seconds)
    if course.strip():
        if key.condition(COURSE) is None:
            raise Refused(say("This test is judged on any course, so leave the course out."))
        held = {**dict(key.conditions), COURSE: read_condition(COURSE, course)}
        key = replace(key, conditions=tuple(sorted(held.items())))
    return key


def ladder_findings(version: ProtocolVersion, ladder: Benchmark) -> tuple[Finding, ...]:
    """The findings of a ladder against its test: clock, course, limits, and its starting noise."""
    measure = version.measure
    lowest = ladder.rungs[0].threshold if ladder.rungs else 0
    share = version.error_share
    error = version.default_typical_error if share is None else share * abs(lowest)
    return findings(
        ladder,
        measure,
        benchmark_key(version, ladder.key.variant),
        most_a_second=version.most_a_second,
        band=smallest_change(max(error, measure.resolution / 2)),
    )


def ladder_rows(version: ProtocolVersion, kept: list[KeptLadder]) -> list[LadderRow]:
    """The ladders of a test as the editor shows them, each with its findings."""
    measure = version.measure
    return [
        {
            "id": one.id,
            "year_group_id": one.year_group_id,
            "ages": None if one.ladder.ages is None else list(one.ladder.ages),
            "sex": one.ladder.sex,
            "variant": one.ladder.key.variant,
            "seconds": one.ladder.key.seconds,
            "course": None
            if (held := one.ladder.key.condition(COURSE)) is None
            else condition_shown(COURSE, held),
            "source": one.ladder.source,
            "rungs": [
                {
                    "name": rung.name,
                    "at": rung.threshold,
                    "typed": format_number(rung.threshold, measure),
                    "shown": format_value(rung.threshold, measure),
                    "beyond": rung.beyond,
                }
                for rung in one.ladder.rungs
            ],
            "findings": [
                {"fault": FAULT_WORDS[found.fault], "rung": found.rung, "words": found.words}
                for found in ladder_findings(version, one.ladder)
            ],
        }
        for one in kept
    ]
