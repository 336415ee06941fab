"""Every read about tests and benchmarks."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final
from uuid import UUID

from django.db.models import F, Max, Q, QuerySet

from lauf.catalogue import models
from lauf.catalogue.models import Battery, Course, LadderRung, NormTable, ProtocolVersion, Test
from lauf.compiled import Compiled
from lauf.people.models import Staff
from lauf.people.queries import NotFound, Refused
from lauf.rules.comparability import CONDITION_WORDS, COURSE, Conditions, Key
from lauf.rules.entry import EntryError, accepted_words
from lauf.rules.ladders import Ladder, Rung, findings, read_printed
from lauf.rules.norms import LmsRow, LmsTable, PercentileTable, Standing
from lauf.rules.plan import Kit, Planned, class_seconds, shares
from lauf.rules.quantities import Better, Kind, Measure, format_number, format_value
from lauf.rules.readers import Unreadable, read_length
from lauf.rules.tables import read_table

#: A change of one of these makes a score mean something else.
_MEANINGFUL: Final = ("kind", "better", "of", "schedule", "target_mm", "counts", "does_not_count")


def tests_of(staff: Staff) -> QuerySet[Test]:
    """The school's tests; growth only for staff who may see it."""
    tests = Test.objects.filter(school_id=staff.school_id)
    return tests if staff.may_see_growth else tests.filter(private=False)


def test_of(staff: Staff, test_id: UUID) -> Test:
    """One test in scope. Raises NotFound. One query."""
    found = tests_of(staff).filter(pk=test_id).first()
    if found is None:
        raise NotFound("test")
    return found


def newest_protocol(staff: Staff, test_id: UUID) -> ProtocolVersion:
    """The version a new lesson uses. Raises NotFound outside the scope. One query."""
    versions = ProtocolVersion.objects.filter(test_id=test_id, test__in=tests_of(staff))
    newest = versions.select_related("test__school").order_by("-number").first()
    if newest is None:
        raise NotFound("test")
    return newest


def newest_protocols(staff: Staff) -> QuerySet[ProtocolVersion]:
    """The newest version of every test in scope, with its test, by name."""
    newest = Max("test__versions__number")
    return (
        ProtocolVersion.objects.filter(test__in=tests_of(staff))
        .annotate(newest=newest)
        .filter(number=F("newest"))
        .select_related("test__school")
        .order_by("test__name")
    )


def test_list(staff: Staff) -> list[dict[str, Any]]:
    """The school's tests by name, with the kind and variants of their newest protocol. One
    query."""
    return [
        {
            "id": version.test_id,
            "name": version.test.name,
            "kind": version.kind,
            "variants": version.variants,
        }
        for version in newest_protocols(staff)
    ]


def ladder_of(staff: Staff, ladder_id: UUID) -> models.Ladder:
    """One ladder in scope, with its test. Raises NotFound. One query."""
    ladders = models.Ladder.objects.filter(pk=ladder_id, test__in=tests_of(staff))
    found = ladders.select_related("test").first()
    if found is None:
        raise NotFound("ladder")
    return found


def norm_of(staff: Staff, norm_id: UUID) -> NormTable:
    """One norm table in scope. Raises NotFound. One query."""
    found = NormTable.objects.filter(pk=norm_id, test__in=tests_of(staff)).first()
    if found is None:
        raise NotFound("norm table")
    return found


def battery_of(staff: Staff, battery_id: UUID) -> Battery:
    """One battery of the school. Raises NotFound. One query."""
    found = Battery.objects.filter(pk=battery_id, school_id=staff.school_id).first()
    if found is None:
        raise NotFound("battery")
    return found


def course_of(staff: Staff, course_id: UUID) -> Course:
    """One course of the school. Raises NotFound. One query."""
    found = Course.objects.filter(pk=course_id, school_id=staff.school_id).first()
    if found is None:
        raise NotFound("course")
    return found


def course_list(staff: Staff) -> list[dict[str, Any]]:
    """The school's courses. One query."""
    found = Course.objects.filter(school_id=staff.school_id)
    return [dict(row) for row in found.values("id", "name", "lap_mm", "steps", "step_mm")]


def battery_list(staff: Staff) -> list[dict[str, Any]]:
    """The school's batteries with their tests in order. Two queries."""
    shown = set(tests_of(staff).values_list("id", flat=True))
    batteries: dict[UUID, dict[str, Any]] = {}
    rows = Battery.objects.filter(school_id=staff.school_id).order_by("name", "places__position")
    for battery_id, name, test_id, test in rows.values_list(
        "id", "name", "places__test_id", "places__test__name"
    ):
        battery = batteries.setdefault(
            battery_id, {"id": battery_id, "name": name, "tests": [], "hidden": 0}
        )
        if test_id in shown:
            battery["tests"].append({"id": test_id, "name": test})
        elif test_id is not None:
            battery["hidden"] += 1
    return list(batteries.values())


def battery_protocols(battery: Battery) -> list[ProtocolVersion]:
    """The newest version of each test of a battery, in its order. One query."""
    versions = (
        ProtocolVersion.objects.filter(test__batterytest__battery=battery)
        .annotate(newest=Max("test__versions__number"), place=F("test__batterytest__position"))
        .filter(number=F("newest"))
    )
    return list(versions.order_by("place"))


# Keys


#: Kinds whose score is a distance, or a time over a fixed one, whatever the course. (A course is a
#: free condition of shuttle counts and of these alone.)
_ANY_COURSE: Final = (Kind.LAPS, Kind.STAGE, Kind.TIME)


def key_conditions(kind: str, conditions: Mapping[str, Any]) -> Conditions:
    """The conditions that belong to a score's key: for a distance run the course does not."""
    drop = Kind(kind) in _ANY_COURSE
    return tuple(sorted(c for c in conditions.items() if not (drop and c[0] == COURSE)))


def benchmark_key(version: ProtocolVersion, variant: str) -> Key:
    """The key a ladder made now for this version is tied to."""
    held = key_conditions(version.kind, version.conditions)
    return Key(version.test.slug, variant, version.seconds, version.meaning, held)


def meaning_changes(changed: Mapping[str, Any]) -> list[str]:
    """The changed fields after which a score means something else."""
    return [field for field in _MEANINGFUL if field in changed]


def edit_effects(current: ProtocolVersion, changed: Mapping[str, Any]) -> list[str]:
    """What an edit does to comparisons, in words."""
    effects = []
    if fields := meaning_changes(changed):
        names = ", ".join(field.replace("_", " ") for field in fields)
        effects.append(
            f"Scores before and after will not be compared: {names} change what a score means."
        )
    if "seconds" in changed:
        effects.append(
            "Scores before and after will not be compared: the clock runs another time. Ladders "
            f"for {current.seconds or 'no'} s stay with the earlier scores."
        )
    if "conditions" in changed:
        effects.append("Scores under the new usual conditions are compared with their like only.")
    if "cap" in changed:
        effects.append("Scores stay comparable; rungs beyond the new maximum cannot be reached.")
    if "variants" in changed:
        effects.append("Scores stay comparable within each variant that keeps its code.")
    return effects or ["Scores before and after stay comparable."]


def read_condition(code: str, value: int | str) -> int | str:
    """A free condition as kept: lengths in millimetres, from a number or as typed ("10m", "30cm";
    without a unit metres, and centimetres for a step). Raises Refused for one that is not known or
    a value that cannot be."""
    words = CONDITION_WORDS.get(code)
    if words is None:
        raise Refused(f"A free condition is one of {', '.join(CONDITION_WORDS.values())}.")
    if not code.endswith("_mm"):
        if not isinstance(value, str) or not 1 <= len(value.strip()) <= 40:
            raise Refused(f"The {words} is said in 1 to 40 letters.")
        return value.strip()
    if isinstance(value, int):
        length = value
    else:
        unit = "cm" if code == "step_mm" else "m"
        try:
            length = round(read_length(value.strip().lower(), Measure(Kind.LENGTH, unit=unit)))
        except Unreadable as problem:
            said = f"“{value.strip()[:40]}” {problem} Type the {words} such as 10m or 30cm."
            raise Refused(said) from problem
    if not 10 <= length <= 5_000_000:
        raise Refused(f"The {words} is 1 cm to 5 km.")
    return length


# Ladders

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
    ladder: Ladder


def _rungs(*args: Q, **where: Any) -> QuerySet[LadderRung, tuple[Any, ...]]:
    found = LadderRung.objects.filter(*args, **where).order_by("ladder_id", "position")
    return found.values_list(*_RUNG_FIELDS)


_RUNGS_OF_ONE = Compiled(
    lambda test, year: _rungs(
        Q(ladder__year_group=year) | Q(ladder__year_group=None), ladder__test=test
    ),
    UUID,
    UUID,
)


def ladders_for(test_ids: Iterable[UUID], year_group: UUID | None = None) -> list[KeptLadder]:
    """The ladders of these tests, for all year groups and ages, or for one year group and the
    ages. One query."""
    years = Q()
    if year_group is not None:
        years = Q(ladder__year_group=year_group) | Q(ladder__year_group=None)
    return _ladders(_rungs(years, ladder__test__in=list(test_ids)))


def ladders_of(test_id: UUID, year_group_id: UUID) -> list[Ladder]:
    """The ladders of one test for one year group, and those by age. One query."""
    return [kept.ladder for kept in _ladders(_RUNGS_OF_ONE.rows(test_id, year_group_id))]


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
    return KeptLadder(ladder_id, test_id, year_group_id, Ladder(rungs, key, source, sex, ages))


def typed_rungs(version: ProtocolVersion, rungs: Sequence[dict[str, Any]]) -> tuple[Rung, ...]:
    """Rungs as typed one by one, those without a threshold left out. Raises EntryError naming the
    rung."""
    measure = version.measure
    found = []
    for place, given in enumerate(rungs, 1):
        if not given["at"].strip():
            continue
        name = given["name"].strip() or f"Rung {place}"
        try:
            read = read_printed(given["at"], [name], measure).rungs[0]
        except EntryError as error:
            raise EntryError(f"{name}: {error.message}", error.accepted) from error
        found.append(Rung(name[:40], read.threshold, given["beyond"] or read.beyond))
    return tuple(found)


# Norms


@dataclass(frozen=True, slots=True)
class Norm:
    """A norm ready to judge by: its table, its unit in canonical units, and where it comes from."""

    id: UUID
    test_id: UUID
    key_parts: tuple[str, int | None, int]
    name: str
    source: str
    population: str
    year: int
    standing: str
    unit: str
    unit_size: int
    table: PercentileTable | LmsTable

    def of(self, value: int, age: float | None, sex: str) -> Standing:
        """Where a canonical value stands."""
        return self.table.standing(value / self.unit_size, age, sex)


def norms_for(test_ids: Iterable[UUID]) -> list[Norm]:
    """The published norms of these tests. One query."""
    tables = NormTable.objects.filter(test__in=list(test_ids)).order_by("name")
    betters = tables.annotate(better=Max("test__versions__better"))
    return [_norm(row) for row in betters.values_list(*_NORM_FIELDS)]


_NORM_FIELDS: Final = (
    "id", "test_id", "variant", "seconds", "meaning", "name", "source", "population", "year",
    "standing", "unit", "unit_size", "form", "at_points", "percentiles", "rows", "better",
)  # fmt: skip
_NORMS_OF_ONE = Compiled(
    lambda test: (
        NormTable.objects.filter(test=test)
        .annotate(better=Max("test__versions__better"))
        .order_by("name")
        .values_list(*_NORM_FIELDS)
    ),
    UUID,
)


def norms_of(test_id: UUID) -> list[Norm]:
    """The published norms of one test. One query."""
    return [_norm(row) for row in _NORMS_OF_ONE.rows(test_id)]


def _norm(row: tuple[Any, ...]) -> Norm:
    (norm_id, test_id, variant, seconds, meaning, name, source, population, year, standing,
     unit, unit_size, form, at_points, percentiles, held, better) = row  # fmt: skip
    cells = Compiled.json(held)
    table: PercentileTable | LmsTable
    if form == NormTable.Form.LMS:
        by_sex: dict[str, list[LmsRow]] = defaultdict(list)
        for sex, age, lms in cells:
            by_sex[sex].append(LmsRow(age, *lms))
        table = LmsTable({sex: tuple(rows) for sex, rows in by_sex.items()})
    else:
        scores = {(sex, float(age)): tuple(marks) for sex, age, marks in cells}
        marks = tuple(Compiled.json(percentiles))
        table = PercentileTable(marks, scores, Better(better), at_points)
    return Norm(norm_id, test_id, (variant, seconds, meaning), name, source, population, year,
                standing, unit, unit_size, table)  # fmt: skip


# Pages

#: The class that kit and minutes are first worked out for.
CLASS_SIZE: Final = 28


def catalogue_page(staff: Staff) -> dict[str, Any]:
    """Every test as a card, with what it can be found by. One query."""
    return {
        "families": [{"code": code, "words": words} for code, words in models.FAMILIES],
        "may_edit": staff.is_head,
        "tests": [
            {
                "id": version.test_id,
                "name": version.test.name,
                "family": version.test.family,
                "ready": version.test.ready,
                "kind": version.kind,
                "seconds": version.seconds,
                "from_age": version.from_age,
                "to_age": version.to_age,
                "minutes": class_minutes(version, CLASS_SIZE),
                "places": version.places,
                "loads": version.loads,
                "effort": version.effort,
                "kit": [item["item"] for item in version.kit],
                "version": version.number,
            }
            for version in newest_protocols(staff)
        ],
    }


def planned(version: ProtocolVersion, children: int) -> Planned:
    """A protocol as planning sees it. Where so many go at once at a set of kit, every group has a
    set if the kit is counted by groups."""
    sets = max((shares(children)[item["of"]] for item in version.kit), default=1)
    return Planned(
        name=version.test.name,
        setup=version.setup_seconds,
        trial=version.trial_seconds,
        changeover=version.changeover_seconds,
        tries=version.tries,
        waves=version.waves,
        at_once=version.at_once,
        sets=sets,
        helpers=version.helpers,
        family=version.test.family,
        effort=version.effort,
        loads=tuple(version.loads),
        ages=(version.from_age, version.to_age),
        kit=tuple(Kit(item["item"], item["each"], item["of"]) for item in version.kit),
    )


def class_minutes(version: ProtocolVersion, children: int) -> int:
    """About how many minutes a test takes a class."""
    return round(class_seconds(planned(version, children), children) / 60)


def protocol_card(staff: Staff, test_id: UUID, children: int = CLASS_SIZE) -> dict[str, Any]:
    """One test whole: how to show it, what counts, kit for a class, its versions. Three queries.
    Raises NotFound."""
    version = newest_protocol(staff, test_id)
    versions = list(
        version.test.versions.order_by("-number").values("number", "changed", "meaning")
    )
    used = version.attempts.exists()
    measure = version.measure
    fields = (
        "kind", "better", "unit", "resolution", "lowest", "highest", "cap", "of", "schedule",
        "target_mm", "seconds", "waves", "tries", "merge", "conditions", "most_a_second",
        "default_typical_error", "variants", "say", "counts", "does_not_count", "cautions",
        "easier", "harder", "ends", "counted_by", "space", "places", "setup_seconds",
        "trial_seconds", "changeover_seconds", "at_once", "helpers", "from_age", "to_age",
        "loads", "effort", "kit",
    )  # fmt: skip
    return {
        "id": version.test_id,
        "name": version.test.name,
        "family": version.test.family,
        "family_words": dict(models.FAMILIES)[version.test.family],
        "ready": version.test.ready,
        "private": version.test.private,
        "may_edit": staff.is_head,
        "version": version.number,
        "used": used,
        "protocol": {name: getattr(version, name) for name in fields},
        "accepted": accepted_words(measure),
        "cap_shown": None if version.cap is None else format_value(version.cap, measure),
        "kit_for_class": [
            {"item": item.item, "number": item.needed(children)}
            for item in planned(version, children).kit
        ],
        "children": children,
        "minutes": class_minutes(version, children),
        "versions": versions,
    }


def ladder_rows(version: ProtocolVersion, kept: list[KeptLadder]) -> list[dict[str, Any]]:
    """The ladders of a test as the editor shows them, each with its findings."""
    measure = version.measure
    return [
        {
            "id": one.id,
            "year_group_id": one.year_group_id,
            "ages": one.ladder.ages,
            "sex": one.ladder.sex,
            "variant": one.ladder.key.variant,
            "seconds": one.ladder.key.seconds,
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
                {"fault": found.fault.value, "rung": found.rung, "words": found.words}
                for found in findings(
                    one.ladder, measure, benchmark_key(version, one.ladder.key.variant)
                )
            ],
        }
        for one in kept
    ]


#: Rows of a table shown before it is kept.
_PREVIEW_ROWS: Final = 60


def norm_preview(staff: Staff, test_id: UUID, text: str, *, at_points: bool) -> dict[str, Any]:
    """What the file of a norm table holds, with every fault by row and column. Two queries at
    most. Raises NotFound."""
    version = newest_protocol(staff, test_id)
    table = read_table(text, version.measure.better, at_points=at_points)
    rows: list[dict[str, Any]] = []
    columns: list[str] = []
    if table.percentiles:
        columns = [f"P{mark:g}" for mark in table.percentiles.percentiles]
        rows = [
            {"sex": sex, "age": age, "cells": list(cells)}
            for (sex, age), cells in sorted(table.percentiles.rows.items())
        ]
    elif table.lms:
        columns = ["L", "M", "S"]
        rows = [
            {"sex": sex, "age": row.age, "cells": [row.l, row.m, row.s]}
            for sex, found in sorted(table.lms.rows.items())
            for row in found
        ]
    form = "" if table.faults else "percentiles" if table.percentiles else "lms"
    faults = [{"row": f.row, "column": f.column, "words": f.words} for f in table.faults]
    return {"form": form, "columns": columns, "rows": rows[:_PREVIEW_ROWS], "faults": faults}
