"""Writes of norm tables."""

from __future__ import annotations

from fractions import Fraction
from uuid import UUID

from django.db import transaction

from lauf.catalogue.models import NormTable, ProtocolVersion, Test
from lauf.catalogue.norm_files import read_norm_file
from lauf.catalogue.queries import newest_protocol, norm_of
from lauf.errors import Refused
from lauf.messages import say
from lauf.people.actions import log
from lauf.people.models import Change, Staff
from lauf.people.permissions import May, demand
from lauf.rules.judging.norm_tables import ReadTable
from lauf.rules.reading.kinds import dimension_of
from lauf.rules.reading.quantities import UNITS, Kind


def import_norm(staff: Staff, test_id: UUID, *, text: str, name: str, source: str, population: str,
                year: int, standing: str, unit: str, at_points: bool,
                variant: str) -> NormTable:  # fmt: skip
    """Keep a norm table from a file for a test. Raises Denied, NotFound, or Refused when the
    file has a fault or its origin is not said."""
    demand(staff, May.EDIT_TESTS)
    version = newest_protocol(staff, test_id)
    # Before anything is held for it.
    table = read_norm_file(text, version.measure.better, at_points=at_points)
    with transaction.atomic():
        return _kept(
            staff, version, table, name=name, source=source, population=population, year=year,
            standing=standing, unit=unit, at_points=at_points, variant=variant,
        )  # fmt: skip


def _kept(staff: Staff, version: ProtocolVersion, table: ReadTable, *, name: str, source: str,
          population: str, year: int, standing: str, unit: str, at_points: bool,
          variant: str) -> NormTable:  # fmt: skip
    if table.faults:
        words = [
            say("row {row} {column}: {words}", row=f.row, column=f.column, words=f.words)
            for f in table.faults[:3]
        ]
        raise Refused(
            say(
                "The table has {faults} mistakes. {words}",
                faults=len(table.faults),
                words=" ".join(words),
            )
        )
    if not name.strip() or not source.strip() or not population.strip():
        raise Refused(say("Give the table's name, its source and the children it was measured on."))
    called = name.strip()[:120]
    Test.objects.select_for_update().get(pk=version.test_id)
    there = version.test.norm_tables.filter(variant=variant, name__iexact=called)
    if there.exists():
        raise Refused(
            say(
                "This test already has a table called {called}. Give this one another "
                "name, or delete the other first.",
                called=called,
            )
        )
    size = norm_unit_size(version, unit)
    if table.percentiles:
        form, percentiles = NormTable.Form.PERCENTILES, list(table.percentiles.percentiles)
        rows = [[sex, age, list(cells)] for (sex, age), cells in table.percentiles.rows.items()]
    else:
        assert table.lms is not None
        form, percentiles = NormTable.Form.LMS, []
        rows = [
            [sex, row.age, [row.l, row.m, row.s]]
            for sex, found in table.lms.rows.items()
            for row in found
        ]
    made = NormTable.objects.create(
        school_id=staff.school_id, test=version.test, variant=variant, seconds=version.seconds,
        meaning=version.meaning, name=called, source=source.strip()[:240],
        population=population.strip()[:120], year=year, standing=standing.strip()[:240] or
        say("not given"), form=form, unit=unit, unit_size=size, at_points=at_points or
        form == NormTable.Form.LMS, percentiles=percentiles, rows=rows,
    )  # fmt: skip
    log(
        staff,
        Change.What.NORM,
        say("Norm table {name} saved for {name2}", name=made.name, name2=version.test.name),
        made.id,
    )
    return made


def norm_unit_size(version: ProtocolVersion, unit: str) -> float:
    """One of a table's units in the test's canonical units. Raises Refused for one that the test
    does not measure in."""
    known = UNITS.get(dimension_of(Kind(version.kind)), {version.unit: Fraction(1)})
    if unit not in known:
        raise Refused(say("The unit of this table must be one of {known}.", known=", ".join(known)))
    return float(known[unit])


@transaction.atomic
def delete_norm(staff: Staff, norm_id: UUID) -> None:
    """Take a norm table away. Raises Denied or NotFound."""
    demand(staff, May.EDIT_TESTS)
    norm = norm_of(staff, norm_id)
    log(staff, Change.What.NORM, say("Norm table {name} deleted", name=norm.name), norm.id)
    norm.delete()
