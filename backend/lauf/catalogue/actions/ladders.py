"""Writes of ladders."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from uuid import UUID

from django.db import IntegrityError, transaction

from lauf.catalogue.models import Ladder, LadderRung, ProtocolVersion
from lauf.catalogue.queries import (
    check_variant,
    draft_rungs,
    ladder_key,
    ladder_of,
    newest_protocol,
)
from lauf.catalogue.queries.ladders import RungEntry
from lauf.errors import NotFound, Refused
from lauf.messages import say, say_many
from lauf.people.actions import log
from lauf.people.models import Change, Staff
from lauf.people.permissions import May, demand
from lauf.rules.judging.comparability import Key
from lauf.rules.judging.ladders import Benchmark, Fault, Rung, findings


@transaction.atomic
def save_ladder(
    staff: Staff,
    test_id: UUID,
    *,
    ladder_id: UUID | None,
    year_group_id: UUID | None,
    ages: tuple[int, int] | None,
    sex: str,
    variant: str,
    source: str,
    rungs: Sequence[RungEntry],
    printed: str = "",
    seconds: int | None = None,
    course: str = "",
) -> Ladder:
    """Keep a ladder, new or changed; every earlier score is judged anew by it.

    printed   ranges as on a card: what cannot be read cannot be kept, whatever `rungs` hold
    seconds   the clock it was written for, and
    course    the course, as typed: the test's own where none is said
    Raises Denied, NotFound, EntryError for a threshold that cannot be read, or Refused for a fault
    that leaves a score without exactly one rung.
    """
    demand(staff, May.EDIT_TESTS)
    version = newest_protocol(staff, test_id)
    kept = draft_rungs(version, printed, rungs).rungs
    key = ladder_key(version, variant, seconds, course)
    _check_rungs(kept, key, version)
    _check_whose(staff, version, year_group_id, ages, variant)
    ladder = ladder_of(staff, ladder_id) if ladder_id else Ladder(test=version.test)
    if ladder.test_id != version.test_id:
        raise NotFound(say("ladder"))
    ladder.year_group_id = year_group_id
    ladder.from_age, ladder.to_age = ages or (None, None)
    ladder.sex, ladder.variant = sex, variant
    ladder.seconds, ladder.meaning = key.seconds, version.meaning
    ladder.conditions = dict(key.conditions)
    ladder.source = source.strip()[:120] or say("the school's own")
    try:
        with transaction.atomic():
            ladder.save()
    except IntegrityError as error:
        words = say("There is already a ladder for that year, sex and form. Change that one.")
        raise Refused(words) from error
    ladder.rungs.all().delete()
    _write_rungs(ladder, kept)
    words = say(
        "Ladder of {ladder} {value}",
        ladder=ladder,
        value=say("changed") if ladder_id else say("made"),
    )
    log(staff, Change.What.LADDER, words, ladder.id)
    return ladder


def _check_rungs(kept: Sequence[Rung], key: Key, version: ProtocolVersion) -> None:
    if not 1 <= len(kept) <= 12:
        raise Refused(say("A ladder must have 1 to 12 rungs."))
    for fault in findings(Benchmark(tuple(kept), key), version.measure, key):
        if fault.fault in (Fault.OUT_OF_ORDER, Fault.UNIT_MISMATCH):
            raise Refused(fault.words)


def _check_whose(
    staff: Staff,
    version: ProtocolVersion,
    year_group_id: UUID | None,
    ages: tuple[int, int] | None,
    variant: str,
) -> None:
    if year_group_id is not None and not staff.school.year_groups.filter(pk=year_group_id).exists():
        raise NotFound(say("year group"))
    if (year_group_id is None) == (ages is None):
        raise Refused(say("A ladder must be for a year group or for ages."))
    if ages is not None and not 3 <= ages[0] <= ages[1] <= 19:
        raise Refused(say("Ages must be whole years from 3 to 19, the younger one first."))
    check_variant(version, variant)


def _write_rungs(ladder: Ladder, rungs: Iterable[Rung]) -> None:
    LadderRung.objects.bulk_create(
        LadderRung(
            ladder=ladder,
            position=place,
            name=rung.name,
            threshold=rung.threshold,
            beyond=rung.beyond,
        )
        for place, rung in enumerate(rungs)
    )


@transaction.atomic
def copy_ladder(staff: Staff, ladder_id: UUID, year_group_ids: list[UUID]) -> list[Ladder]:
    """The same rungs for other year groups; a ladder that stands there is replaced. Raises
    Denied or NotFound."""
    demand(staff, May.EDIT_TESTS)
    source = ladder_of(staff, ladder_id)
    rungs = [Rung(one.name, one.threshold, one.beyond) for one in source.rungs.all()]
    years = set(staff.school.year_groups.values_list("id", flat=True))
    made = []
    for year in year_group_ids:
        if year not in years:
            raise NotFound(say("year group"))
        if year == source.year_group_id:
            continue
        Ladder.objects.filter(
            test=source.test, year_group=year, variant=source.variant, sex=source.sex
        ).delete()
        copy = Ladder.objects.create(
            test=source.test, year_group_id=year, variant=source.variant, sex=source.sex,
            seconds=source.seconds, meaning=source.meaning, conditions=source.conditions,
            source=source.source,
        )  # fmt: skip
        _write_rungs(copy, rungs)
        made.append(copy)
    words = say(
        "Ladder of {source} copied to {year_groups}",
        source=source,
        year_groups=say_many("{n} year group", "{n} year groups", len(made)),
    )
    log(staff, Change.What.LADDER, words, source.id)
    return made


@transaction.atomic
def delete_ladder(staff: Staff, ladder_id: UUID) -> None:
    """Take a ladder away; scores stay. Raises Denied or NotFound."""
    demand(staff, May.EDIT_TESTS)
    ladder = ladder_of(staff, ladder_id)
    log(staff, Change.What.LADDER, say("Ladder of {ladder} deleted", ladder=ladder), ladder.id)
    ladder.delete()
