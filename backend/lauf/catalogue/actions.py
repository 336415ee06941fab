"""Every write about tests and benchmarks."""

from __future__ import annotations

import csv
import re
import uuid
from collections import defaultdict
from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any, Final
from uuid import UUID

from django.db import IntegrityError, transaction
from django.utils.text import slugify

from lauf.catalogue.models import (
    FAMILIES,
    Battery,
    BatteryTest,
    Course,
    Ladder,
    LadderRung,
    NormTable,
    ProtocolVersion,
    Test,
)
from lauf.catalogue.queries import (
    benchmark_key,
    course_of,
    edit_effects,
    key_conditions,
    ladder_of,
    meaning_changes,
    newest_protocol,
    norm_of,
    read_condition,
    test_of,
    typed_rungs,
)
from lauf.catalogue.ready import READY, RUNG_NAMES, STARTER_SOURCE, Ready
from lauf.people.models import School, Staff, YearGroup
from lauf.people.queries import NotAllowed, NotFound, Refused
from lauf.rules.ladders import Ladder as Rungs
from lauf.rules.ladders import findings
from lauf.rules.quantities import DIMENSIONS, GRAMS, MILLIMETRES, Dimension, Kind, to_step
from lauf.rules.tables import read_table

REFERENCE: Final = Path(__file__).parent / "reference"
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
_UNITS: Final = {"s": 1000, "min": 60_000, "cm": 10, "m": 1000, "kg": 1000, "count": 1}


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
    unit = unit_size(version.kind, version.unit)
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


def unit_size(kind: str, unit: str) -> int:
    """One of a protocol's units in canonical units: 10 for cm, 1000 for s and kg, 1 for counts."""
    match DIMENSIONS[Kind(kind)]:
        case Dimension.MILLISECONDS:
            return 1000
        case Dimension.MILLIMETRES:
            return int(MILLIMETRES[unit])
        case Dimension.GRAMS:
            return int(GRAMS[unit])
        case _:
            return 1


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
                unit_size=_UNITS.get(rows[0]["unit"], 1),
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
            unit_size=_UNITS.get(units[measure], 1),
            at_points=True,
            rows=rows,
        )
        for measure, rows in grouped.items()
        if on[measure] in tests
    ]


def _head_only(staff: Staff) -> None:
    if not staff.is_head:
        raise NotAllowed("The head of PE changes tests and benchmarks.")


#: Fields of a protocol that a person edits; the rest follows from them.
EDITABLE: Final = (
    "kind", "better", "unit", "resolution", "lowest", "highest", "cap", "of", "schedule",
    "target_mm", "seconds", "waves", "tries", "merge", "conditions", "most_a_second",
    "default_typical_error", "variants", "say", "counts", "does_not_count", "cautions", "easier",
    "harder", "ends", "counted_by", "kit", "space", "places", "setup_seconds", "trial_seconds",
    "changeover_seconds", "at_once", "helpers", "from_age", "to_age", "loads", "effort",
)  # fmt: skip


@transaction.atomic
def make_test(
    staff: Staff, *, name: str, family: str, copy_of: UUID | None, protocol: dict[str, Any]
) -> ProtocolVersion:
    """An own test with its first version. `copy_of` names the test it was made from, whose ladders
    it takes along where they still fit. Raises NotAllowed, NotFound or Refused."""
    _head_only(staff)
    source = newest_protocol(staff, copy_of) if copy_of else None
    if source and not family:
        family = source.test.family
    name = name.strip()
    if not 3 <= len(name) <= 80:
        raise Refused("Name the test with 3 to 80 letters.")
    if family not in dict(FAMILIES):
        raise Refused(f"A family is one of {', '.join(code for code, _ in FAMILIES)}.")
    slug = slugify(name)[:70] or "test"
    taken = set(staff.school.tests.filter(slug__startswith=slug).values_list("slug", flat=True))
    number = 2
    while slug in taken:
        slug, number = f"{slugify(name)[:70]}-{number}", number + 1
    if staff.school.tests.filter(name__iexact=name).exists():
        raise Refused("There is a test of that name already; choose another name.")
    test = Test.objects.create(school_id=staff.school_id, name=name, slug=slug, family=family)
    version = ProtocolVersion(test=test, **_checked(protocol))
    version.save(force_insert=True)
    if source:
        _take_ladders(source, version)
    return version


def _take_ladders(source: ProtocolVersion, version: ProtocolVersion) -> None:
    """The source's ladders for a copy of it, where kind, clock and variant are still the same."""
    if (source.kind, source.seconds, source.unit) != (version.kind, version.seconds, version.unit):
        return
    codes = [variant["code"] for variant in version.variants] or [""]
    kept = Ladder.objects.filter(test=source.test, variant__in=codes, meaning=source.meaning)
    conditions = dict(benchmark_key(version, "").conditions)
    for ladder in kept.prefetch_related("rungs"):
        rungs = list(ladder.rungs.all())
        ladder.pk, ladder._state.adding = uuid.uuid4(), True
        ladder.test, ladder.meaning, ladder.conditions = version.test, 1, conditions
        ladder.save(force_insert=True)
        for rung in rungs:
            rung.pk, rung.ladder = uuid.uuid4(), ladder
        LadderRung.objects.bulk_create(rungs)


def preview_edit(staff: Staff, test_id: UUID, protocol: dict[str, Any]) -> dict[str, Any]:
    """Which fields an edit changes and what that does to comparisons; keeps nothing. Raises
    NotFound, or Refused for a protocol that does not fit together."""
    current = newest_protocol(staff, test_id)
    given = _checked(protocol)
    changed = {field: given[field] for field in EDITABLE if given[field] != getattr(current, field)}
    return {
        "changed": [field.replace("_", " ") for field in changed],
        "effects": edit_effects(current, changed) if changed else [],
    }


@transaction.atomic
def edit_protocol(
    staff: Staff, test_id: UUID, *, changes: dict[str, Any], why: str, based_on: int
) -> ProtocolVersion:
    """The next version of a protocol. `based_on` is the version the changes were made to: somebody
    else's edit in between is not lost. Raises NotAllowed, NotFound or Refused."""
    _head_only(staff)
    current = newest_protocol(staff, test_id)
    if current.number != based_on:
        raise Refused("Somebody has edited this test meanwhile: look at the new version first.")
    given = {field: getattr(current, field) for field in EDITABLE}
    changed = {field: value for field, value in changes.items() if value != given[field]}
    if not changed:
        raise Refused("Nothing was changed.")
    breaking = meaning_changes(changed)
    version = ProtocolVersion(
        test=current.test,
        number=current.number + 1,
        meaning=current.meaning + (1 if breaking else 0),
        changed=why.strip()[:240],
        **_checked({**given, **changed}),
    )
    try:
        with transaction.atomic():
            version.save(force_insert=True)
    except IntegrityError as error:
        raise Refused("Somebody has edited this test meanwhile: look at it first.") from error
    return version


def _checked(given: dict[str, Any]) -> dict[str, Any]:
    """A protocol's fields after a look at what must fit together. Raises Refused."""
    kind = Kind(given["kind"])
    dimension = DIMENSIONS[kind]
    units = {
        Dimension.MILLISECONDS: ("s",),
        Dimension.MILLIMETRES: tuple(MILLIMETRES),
        Dimension.GRAMS: tuple(GRAMS),
        Dimension.BEATS: ("bpm",),
    }.get(dimension)
    if units and given["unit"] not in units:
        raise Refused(f"The unit of this kind of score is one of {', '.join(units)}.")
    if given["highest"] <= given["lowest"]:
        raise Refused("The highest score lies above the lowest.")
    if given["cap"] is not None and not given["lowest"] < given["cap"] <= given["highest"]:
        raise Refused("The maximum of the test lies between its lowest and highest score.")
    if kind is Kind.HITS and not given["of"]:
        raise Refused("Say out of how many the hits are.")
    if not 1 <= given["tries"] <= 10 or not 1 <= given["waves"] <= 8:
        raise Refused("A test has 1 to 10 tries and 1 to 8 waves.")
    if given["from_age"] > given["to_age"]:
        raise Refused("The youngest age is not above the oldest.")
    if given["default_typical_error"] <= 0:
        raise Refused("Day-to-day variation is more than nothing; a guess will do.")
    keys = [variant.get("key", "") for variant in given["variants"]]
    codes = [variant.get("code", "") for variant in given["variants"]]
    if len(set(keys)) < len(keys) or len(set(codes)) < len(codes) or not all(codes):
        raise Refused("Each variant needs a code and a key of its own.")
    if not all(re.fullmatch(r"[b-z]", key) for key in keys) or set(keys) & set("axkrvw"):
        raise Refused("A variant's key is a small letter; a, x, k, r, v and w are taken.")
    if kind is Kind.STAGE and not given["schedule"]:
        raise Refused("Say which schedule of stages: even or jump.")
    if given["resolution"] > given["highest"] - given["lowest"]:
        raise Refused("The smallest step is smaller than the range of scores.")
    held = {code: read_condition(code, value) for code, value in given["conditions"].items()}
    return {**given, "conditions": held}


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
    rungs: list[dict[str, Any]],
) -> Ladder:
    """Keep a ladder, new or changed; every earlier score is judged anew by it. Raises NotAllowed,
    NotFound, EntryError for a threshold that cannot be read, or Refused for a fault that leaves a
    score without exactly one rung."""
    _head_only(staff)
    version = newest_protocol(staff, test_id)
    kept = typed_rungs(version, rungs)
    if not 1 <= len(kept) <= 12:
        raise Refused("A ladder has 1 to 12 rungs.")
    key = benchmark_key(version, variant)
    for fault in findings(Rungs(kept, key), version.measure, key):
        if fault.fault.value in ("out of order", "unit mismatch"):
            raise Refused(fault.words)
    if year_group_id is not None and not staff.school.year_groups.filter(pk=year_group_id).exists():
        raise NotFound("year group")
    if (year_group_id is None) == (ages is None):
        raise Refused("A ladder is for a year group or for ages.")
    if ages is not None and not 3 <= ages[0] <= ages[1] <= 19:
        raise Refused("Ages are completed years from 3 to 19, the younger one first.")
    codes = [entry["code"] for entry in version.variants] or [""]
    if variant not in codes:
        raise Refused(f"This test has the variants {', '.join(codes)}.")
    ladder = ladder_of(staff, ladder_id) if ladder_id else Ladder(test=version.test)
    if ladder.test_id != version.test_id:
        raise NotFound("ladder")
    ladder.year_group_id = year_group_id
    ladder.from_age, ladder.to_age = ages or (None, None)
    ladder.sex, ladder.variant = sex, variant
    ladder.seconds, ladder.meaning = version.seconds, version.meaning
    ladder.conditions = dict(key.conditions)
    ladder.source = source.strip()[:120] or "the school's own"
    try:
        with transaction.atomic():
            ladder.save()
    except IntegrityError as error:
        words = "There is a ladder for that year, sex and variant already: change that one."
        raise Refused(words) from error
    ladder.rungs.all().delete()
    LadderRung.objects.bulk_create(
        LadderRung(
            ladder=ladder,
            position=place,
            name=rung.name,
            threshold=rung.threshold,
            beyond=rung.beyond,
        )
        for place, rung in enumerate(kept)
    )
    return ladder


@transaction.atomic
def copy_ladder(staff: Staff, ladder_id: UUID, year_group_ids: list[UUID]) -> list[Ladder]:
    """The same rungs for other year groups; a ladder that stands there is replaced. Raises
    NotAllowed or NotFound."""
    _head_only(staff)
    source = ladder_of(staff, ladder_id)
    rungs = list(source.rungs.all())
    years = set(staff.school.year_groups.values_list("id", flat=True))
    made = []
    for year in year_group_ids:
        if year not in years:
            raise NotFound("year group")
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
        LadderRung.objects.bulk_create(
            LadderRung(
                ladder=copy,
                position=rung.position,
                name=rung.name,
                threshold=rung.threshold,
                beyond=rung.beyond,
            )
            for rung in rungs
        )
        made.append(copy)
    return made


def delete_ladder(staff: Staff, ladder_id: UUID) -> None:
    """Take a ladder away; scores stay. Raises NotAllowed or NotFound."""
    _head_only(staff)
    ladder_of(staff, ladder_id).delete()


@transaction.atomic
def import_norm(staff: Staff, test_id: UUID, *, text: str, name: str, source: str, population: str,
                year: int, standing: str, unit: str, at_points: bool,
                variant: str) -> NormTable:  # fmt: skip
    """Keep a norm table from a file for a test. Raises NotAllowed, NotFound, or Refused when the
    file has a fault or its origin is not said."""
    _head_only(staff)
    version = newest_protocol(staff, test_id)
    table = read_table(text, version.measure.better, at_points=at_points)
    if table.faults:
        words = [f"row {f.row} {f.column}: {f.words}" for f in table.faults[:3]]
        raise Refused(f"The table has {len(table.faults)} faults. {' '.join(words)}")
    if not name.strip() or not source.strip() or not population.strip():
        raise Refused("Say the table's name, where it comes from and whom it was measured on.")
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
    return NormTable.objects.create(
        school_id=staff.school_id, test=version.test, variant=variant, seconds=version.seconds,
        meaning=version.meaning, name=name.strip()[:120], source=source.strip()[:240],
        population=population.strip()[:120], year=year, standing=standing.strip()[:240] or
        "not said", form=form, unit=unit, unit_size=size, at_points=at_points or
        form == NormTable.Form.LMS, percentiles=percentiles, rows=rows,
    )  # fmt: skip


def norm_unit_size(version: ProtocolVersion, unit: str) -> int:
    """One of a table's units in the test's canonical units. Raises Refused for one that the test
    does not measure in."""
    dimension = DIMENSIONS[Kind(version.kind)]
    known: dict[str, Fraction] = {
        Dimension.MILLIMETRES: MILLIMETRES,
        Dimension.GRAMS: GRAMS,
        Dimension.MILLISECONDS: {"s": Fraction(1000), "min": Fraction(60_000)},
    }.get(dimension, {version.unit: Fraction(1)})
    if unit not in known:
        raise Refused(f"The unit of this table is one of {', '.join(known)}.")
    return max(1, int(known[unit]))


def delete_norm(staff: Staff, norm_id: UUID) -> None:
    """Take a norm table away. Raises NotAllowed or NotFound."""
    _head_only(staff)
    norm_of(staff, norm_id).delete()


@transaction.atomic
def make_battery(staff: Staff, name: str, test_ids: list[UUID]) -> Battery:
    """A named set of tests in order. Raises NotAllowed, NotFound or Refused."""
    _head_only(staff)
    if not 3 <= len(name.strip()) <= 80:
        raise Refused("Name the battery with 3 to 80 letters.")
    if not 1 <= len(set(test_ids)) <= 16 or len(set(test_ids)) != len(test_ids):
        raise Refused("A battery has 1 to 16 tests, each once.")
    tests = [test_of(staff, test_id) for test_id in test_ids]
    try:
        with transaction.atomic():
            battery = Battery.objects.create(school_id=staff.school_id, name=name.strip())
    except IntegrityError as error:
        raise Refused("There is a battery of that name already.") from error
    BatteryTest.objects.bulk_create(
        BatteryTest(battery=battery, test=test, position=place) for place, test in enumerate(tests)
    )
    return battery


def save_course(staff: Staff, *, course_id: UUID | None, name: str, lap_mm: int,
                steps: float | None, step_mm: int | None) -> Course:  # fmt: skip
    """A measured course of the school. With steps, the lap is steps × step. Raises NotFound or
    Refused."""
    if not 2 <= len(name.strip()) <= 60:
        raise Refused("Name the course with 2 to 60 letters.")
    if steps is not None:
        if not step_mm or not 100 <= step_mm <= 2500 or not 1 <= steps <= 20_000:
            raise Refused("A step is 10 cm to 2.5 m, and a course 1 step at least.")
        lap_mm = round(steps * step_mm)
    if not 1000 <= lap_mm <= 5_000_000:
        raise Refused("A lap is 1 m to 5 km long.")
    course = course_of(staff, course_id) if course_id else Course(school_id=staff.school_id)
    course.name, course.lap_mm = name.strip(), lap_mm
    course.steps, course.step_mm = steps, step_mm if steps is not None else None
    try:
        with transaction.atomic():
            course.save()
    except IntegrityError as error:
        raise Refused("There is a course of that name already.") from error
    return course


def delete_course(staff: Staff, course_id: UUID) -> None:
    """Take a course away; scores keep the length they were run on. Raises NotFound."""
    course_of(staff, course_id).delete()
