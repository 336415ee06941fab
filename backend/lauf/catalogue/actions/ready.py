"""What a school begins with: ready tests, starter ladders and shipped norms."""

from __future__ import annotations

import csv
from collections import defaultdict
from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any, Final

from django.db import transaction

from lauf.catalogue.models import Ladder, LadderRung, NormTable, ProtocolVersion, Test
from lauf.catalogue.queries import key_conditions
from lauf.catalogue.ready import READY, RUNG_NAMES, STARTER_SOURCE, Ready
from lauf.people.models import School, YearGroup
from lauf.rules.reading.quantities import to_step, unit_size

REFERENCE: Final = Path(__file__).parents[1] / "reference"


#: The survey's tests and the protocols that are held as it says.
SURVEY_TESTS: Final = {
    "curl-ups in 60 s": "curl-ups-60",
    "shuttle run 4 x 30 ft": "shuttle-4x30ft",
    "sit and reach, feet at 23 cm": "sit-reach-23",
    "one mile run": "mile-run",
    "pull-ups": "pull-ups",
    "flexed-arm hang": "flexed-arm-hang",
    "right-angle push-ups, to a beat": "push-ups-beat",
}


@transaction.atomic
def install_ready(school: School) -> None:
    """Give a school the ready tests, starter ladders and shipped norms it does not have yet."""
    known = set(school.tests.values_list("slug", flat=True))
    missing = [ready for ready in READY if ready.slug not in known]
    tests = {
        ready.slug: Test(
            school=school,
            name=ready.name,
            slug=ready.slug,
            family=ready.family,
            private=ready.private,
            ready=True,
        )
        for ready in missing
    }
    Test.objects.bulk_create(tests.values())
    versions = [ProtocolVersion(test=tests[ready.slug], **ready.protocol) for ready in missing]
    ProtocolVersion.objects.bulk_create(versions)
    ladders: list[Ladder] = []
    rungs: list[LadderRung] = []
    years = list(school.year_groups.all())
    for ready, version in zip(missing, versions, strict=True):
        _starter_ladders(ready, version, years, ladders, rungs)
    Ladder.objects.bulk_create(ladders)
    LadderRung.objects.bulk_create(rungs)
    NormTable.objects.bulk_create(_shipped_norms(school, tests))


def _starter_ladders(
    ready: Ready,
    version: ProtocolVersion,
    years: Sequence[YearGroup],
    ladders: list[Ladder],
    rungs: list[LadderRung],
) -> None:
    """Thresholds on the line between those of the youngest (age 4) and the oldest (age 10)."""
    unit = unit_size(version.unit)
    for given in ready.rungs:
        for year in years:
            ladder = Ladder(
                test=version.test,
                year_group=year,
                variant=given.variant or (version.variants[0]["code"] if version.variants else ""),
                seconds=version.seconds,
                conditions=dict(key_conditions(version.kind, version.conditions)),
                source=STARTER_SOURCE,
            )
            part = Fraction(min(6, max(0, year.age - 4)), 6)
            before: int | None = None
            place = 0
            for name, young, old in zip(RUNG_NAMES, given.young, given.old, strict=True):
                exact = Fraction(str(young)) + (Fraction(str(old)) - Fraction(str(young))) * part
                threshold = to_step(exact * unit, version.resolution or 1)
                if threshold == before:
                    continue  # a young year group may have fewer rungs
                rungs.append(
                    LadderRung(ladder=ladder, position=place, name=name, threshold=threshold)
                )
                before, place = threshold, place + 1
            ladders.append(ladder)


def _shipped_norms(school: School, tests: dict[str, Test]) -> list[NormTable]:
    """The survey of 1985 (from memory, and labelled so) and the CDC growth charts of 2000."""
    return [*_survey(school, tests), *_growth_charts(school, tests)]


def _survey(school: School, tests: dict[str, Test]) -> list[NormTable]:
    grouped: dict[str, list[dict[str, str]]] = defaultdict(list)
    with (REFERENCE / "survey-1985.csv").open() as file:
        for row in csv.DictReader(file):
            grouped[row["test"]].append(row)
    found = []
    for name, rows in grouped.items():
        slug = next(
            (s for n, s in SURVEY_TESTS.items() if n.split(",")[0] == name.split(",")[0]), ""
        )
        if slug not in tests:
            continue
        columns = [c for c in ("p50", "p85") if all(row[c] for row in rows)]
        found.append(
            NormTable(
                school=school,
                test=tests[slug],
                seconds=60 if slug == "curl-ups-60" else None,
                name="Survey of 1985, from memory",
                source="National School Population Fitness Survey (Reiff et al. 1986)",
                population="children in schools of the United States",
                year=1985,
                standing="values written from memory, not yet held against the publication",
                form=NormTable.Form.PERCENTILES,
                unit=rows[0]["unit"],
                unit_size=float(unit_size(rows[0]["unit"])),
                percentiles=[float(c[1:]) for c in columns],
                rows=[[r["sex"], float(r["age"]), [float(r[c]) for c in columns]] for r in rows],
            )
        )
    return found


def _growth_charts(school: School, tests: dict[str, Test]) -> list[NormTable]:
    grouped: dict[str, list[list[Any]]] = defaultdict(list)
    units: dict[str, str] = {}
    with (REFERENCE / "cdc2000-lms.csv").open() as file:
        for row in csv.DictReader(file):
            age = float(row["age_years"])
            if 3.5 <= age <= 13:
                cells = [float(row[name]) for name in ("L", "M", "S")]
                grouped[row["measure"]].append([row["sex"], age, cells])
                units[row["measure"]] = row["unit"]
    # The body mass index belongs to the weight: it is worked out from both.
    on = {"height": "height", "weight": "weight", "bmi": "weight"}
    return [
        NormTable(
            school=school,
            test=tests[on[measure]],
            variant="bmi" if measure == "bmi" else "",
            name="CDC growth charts 2000" + (": body mass index" if measure == "bmi" else ""),
            source="Centers for Disease Control and Prevention, growth charts 2000",
            population="children of the United States",
            year=2000,
            standing="public domain",
            form=NormTable.Form.LMS,
            unit=units[measure],
            unit_size=float(unit_size(units[measure])),
            at_points=True,
            rows=rows,
        )
        for measure, rows in grouped.items()
        if on[measure] in tests
    ]
