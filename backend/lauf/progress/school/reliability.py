"""How far a test repeats itself in a school, for its card and the class board."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from datetime import date
from fractions import Fraction
from uuid import UUID

from django.db.models import F, Q
from typing_extensions import TypedDict

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import for_everybody, newest_protocol, seen
from lauf.judgement.judge import Judge
from lauf.messages import say
from lauf.people.models import Staff
from lauf.progress.school.benchmarks import school_scores
from lauf.records.models import Attempt, Recount
from lauf.rules.judging.change import pair_up
from lauf.rules.judging.comparability import Key
from lauf.rules.judging.reliability import (
    PAIRS_NEEDED,
    Reliability,
    agreement,
    reliability,
    reliability_words,
)
from lauf.rules.reading.kinds import format_difference
from lauf.rules.reading.quantities import Better, Measure, decimal, to_step
from lauf.rules.reading.rounding import fixed, percent


class FormReliability(TypedDict):
    """How far a form of a test repeats itself in this school; `why_not` where too few did it twice
    within two weeks."""

    form: str
    pairs: int
    icc: str
    error: str
    cv: str
    learning: str
    words: str
    why_not: str
    # What two counters say of the same child, "" where too few were counted twice.
    counters: str


def test_reliability(staff: Staff, test_id: UUID) -> list[FormReliability]:
    """Each form of a test with what children say of it who did it twice within two weeks, and what
    two counters say of the same child, in the whole school; none of a body measurement. Six
    queries. Raises NotFound."""
    version = newest_protocol(staff, test_id)
    best = max if version.measure.better is Better.UP else min
    days: dict[Key, dict[UUID, dict[date, int]]] = defaultdict(lambda: defaultdict(dict))
    for score in school_scores(staff, version):
        mine = days[score.key][score.pupil_id]
        mine[score.on] = best(score.value, mine.get(score.on, score.value))
    judge = Judge(version, (), {})
    counted = _counted_twice(staff, version)
    rows: list[FormReliability] = []
    for code in version.variant_codes:
        children = days.get(judge.usual_key(code), {})
        pairs = [
            (earlier, later)
            for mine in children.values()
            for _, earlier, later in pair_up(sorted(mine.items()), version.measure)
        ]
        form = judge.variants[code].name if code in judge.variants else ""
        counters = _counters_words(version, counted.get(code, ()))
        rows.append(_row(version, form, pairs, counters))
    return rows


def _counted_twice(staff: Staff, version: ProtocolVersion) -> dict[str, list[tuple[int, int]]]:
    """By form, what was said of the same go by one counter and then by another. Two
    queries."""
    entries = seen(for_everybody(staff), Attempt.objects.all(), "protocol__test").filter(
        Q(counted_by__isnull=False) | Q(succeeds__counted_by__isnull=False),
        school_id=staff.school_id,
        protocol__test=version.test_id,
        value__isnull=False,
        succeeds__value__isnull=False,
    )
    found: dict[str, list[tuple[int, int]]] = defaultdict(list)
    fields = ("variant", "counted_by", "succeeds__counted_by", "succeeds__value", "value")
    for form, by, before_by, before, value in entries.values_list(*fields):
        if by != before_by:
            found[form].append((before, value))
    beside = seen(for_everybody(staff), Recount.objects.all(), "activity__protocol__test").filter(
        school_id=staff.school_id,
        activity__protocol__test=version.test_id,
        variant=F("beside__variant"),
    )
    for form, before, value in beside.values_list("variant", "beside__value", "value"):
        if before is not None and value is not None:
            found[form].append((before, value))
    return found


def _counters_words(version: ProtocolVersion, pairs: Sequence[tuple[int, int]]) -> str:
    """What two counters of a child say; "" where too few were counted twice."""
    found = agreement(pairs)
    if found is None:
        return ""
    measure = version.measure

    words = say(
        "{same} of {pairs} the same, the others mostly within {spread}",
        same=percent(found.same),
        pairs=found.pairs,
        spread=_amount(found.spread, measure),
    )
    if found.icc is None:
        return words
    return say("{words}, ICC(A,1) {icc}", words=words, icc=fixed(found.icc, 2))


def _amount(exact: float, measure: Measure) -> str:
    """A size in the unit of a test, in whole steps of it."""
    return format_difference(to_step(Fraction(abs(exact)), measure.resolution), measure)


def _row(
    version: ProtocolVersion, form: str, pairs: Sequence[tuple[int, int]], counters: str
) -> FormReliability:
    found: Reliability | None = reliability(pairs)
    row: FormReliability = {
        "form": form, "pairs": len(pairs), "counters": counters, "icc": "", "error": "", "cv": "",
        "learning": "", "words": "", "why_not": "",
    }  # fmt: skip
    if found is None:
        row["why_not"] = say(
            "{pairs_needed} pairs within two weeks are needed", pairs_needed=PAIRS_NEEDED
        )
        return row
    measure = version.measure

    icc = found.icc
    gained = found.learning * measure.better.sign
    step = to_step(Fraction(abs(gained)), measure.resolution)
    learning = (
        say("no different")
        if not step
        else (f"{_amount(gained, measure)} {'better' if gained > 0 else 'lower'}")
    )
    return {
        **row,
        "icc": "" if icc is None else decimal(Fraction(icc), 2).replace("-", "−"),
        "error": _amount(found.typical_error, measure),
        "cv": "" if found.cv is None else f"{decimal(Fraction(found.cv * 100), 1)} %",
        "learning": learning,
        "words": "" if icc is None else reliability_words(icc),
    }
