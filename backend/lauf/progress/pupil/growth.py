"""Height and weight of one child, for staff with the growth permission only."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from fractions import Fraction
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import Norm, norms_for
from lauf.judgement.rows import scores
from lauf.judgement.subject import Subject
from lauf.messages import say
from lauf.people.models import Staff
from lauf.people.permissions import May, demand
from lauf.people.queries import pupil_of
from lauf.records.queries import Row, counting, rows
from lauf.rules.body.growth import body_mass_index, growth_a_year
from lauf.rules.judging.norms import change_of_standing
from lauf.rules.reading.kinds import format_value
from lauf.rules.reading.quantities import decimal
from lauf.rules.reading.rounding import whole

#: Body mass index belongs to a height and a weight of about the same time.
_SAME_TIME_DAYS = 60


class Measured(TypedDict):
    """A measurement on a day."""

    on: date
    shown: str
    centile: str


class MeasuredTest(TypedDict):
    """A child's measurements in one test."""

    test: str
    readings: list[Measured]
    yearly: str | None
    moved: str | None


class GrowthRecord(TypedDict):
    """A child's height and weight."""

    pupil_id: UUID
    tests: list[MeasuredTest]
    bmi: list[Measured]
    sources: list[str]
    caution: str


def growth_record(staff: Staff, pupil_id: UUID) -> GrowthRecord:
    """Heights and weights with growth a year, body mass index and centiles. Five queries. Raises
    NotFound, or Denied without the growth permission."""
    pupil = pupil_of(staff, pupil_id)
    demand(staff, May.SEE_GROWTH)
    attempts = counting().filter(pupil=pupil, protocol__test__private=True)
    found = [row for row in scores(rows(attempts), pupil.school_id) if row.value is not None]
    versions = ProtocolVersion.objects.filter(test__in={row.test_id for row in found})
    protocols = {
        version.test_id: version
        for version in versions.select_related("test__school").order_by("number")
    }
    norms = norms_for(protocols)
    who = Subject(pupil.sex, pupil.born)
    tests = []
    by_slug: dict[str, list[Row]] = {}
    for test_id, protocol in sorted(protocols.items(), key=lambda item: item[1].test.name):
        mine = [row for row in found if row.test_id == test_id]
        by_slug[protocol.test.slug] = mine
        chart = next((n for n in norms if n.test_id == test_id and n.key_parts[0] != "bmi"), None)
        tests.append(_measured(protocol, mine, chart, who))
    bmi_chart = next((norm for norm in norms if norm.key_parts[0] == "bmi"), None)
    return {
        "pupil_id": pupil.id,
        "tests": tests,
        "bmi": _bmi(by_slug.get("height", []), by_slug.get("weight", []), bmi_chart, who),
        "sources": sorted({f"{n.source}; {n.population}, {n.year}; {n.standing}" for n in norms}),
        "caution": say("Private. One measurement shows little. Ask the school nurse or a doctor."),
    }


def _measured(
    protocol: ProtocolVersion, mine: Sequence[Row], chart: Norm | None, who: Subject
) -> MeasuredTest:
    measure = protocol.measure
    last = mine[-1]
    earlier = next((r for r in mine if growth_a_year((r.on, 0), (last.on, 0)) is not None), None)
    yearly = None
    if earlier is not None:
        grown = growth_a_year((earlier.on, earlier.value or 0), (last.on, last.value or 0))
        if grown is not None:
            sign = "+" if grown >= 0 else "−"
            yearly = say(
                "{sign}{grown} a year", sign=sign, grown=format_value(abs(whole(grown)), measure)
            )
    standings = [_standing(chart, row.value or 0, row.on, who) for row in mine]
    moved = None
    if chart is not None and len(mine) > 1:
        first, now = (
            chart.of(row.value or 0, who.decimal_age(row.on), who.sex) for row in (mine[0], last)
        )
        moved = change_of_standing(first, now)
    return {
        "test": protocol.test.name,
        "readings": [
            {"on": row.on, "shown": format_value(row.value or 0, measure), "centile": words}
            for row, words in zip(mine, standings, strict=True)
        ],
        "yearly": yearly,
        "moved": moved,
    }


def _standing(chart: Norm | None, value: int, on: date, who: Subject) -> str:
    if chart is None:
        return ""
    found = chart.of(value, who.decimal_age(on), who.sex)
    return found.words or say("no centile: {why_not}", why_not=found.why_not)


def _bmi(
    heights: Sequence[Row], weights: Sequence[Row], chart: Norm | None, who: Subject
) -> list[Measured]:
    """kg/m² of each weight with the height nearest in time, within two months."""
    found: list[Measured] = []
    for weight in weights:
        near = min(heights, key=lambda row: abs((row.on - weight.on).days), default=None)
        if near is None or abs((near.on - weight.on).days) > _SAME_TIME_DAYS:
            continue
        index = body_mass_index(weight.value or 0, near.value or 0)
        words = ""
        if chart is not None:
            standing = chart.table.standing(float(index), who.decimal_age(weight.on), who.sex)
            words = standing.words or say("no centile: {why_not}", why_not=standing.why_not)
        shown = say("{fraction} kg/m²", fraction=decimal(Fraction(index), 1))
        found.append({"on": weight.on, "shown": shown, "centile": words})
    return found
