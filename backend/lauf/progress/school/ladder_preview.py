"""What a ladder being made would say of last year's scores."""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from datetime import date
from uuid import UUID

import numpy as np
from django.utils import timezone
from typing_extensions import TypedDict

from lauf.catalogue.queries import (
    draft_rungs,
    ladder_findings,
    ladder_key,
    newest_protocol,
)
from lauf.catalogue.queries.ladders import FindingRow, RungEntry
from lauf.errors import NotFound
from lauf.judgement.picture import Lane, put_to_scale, rung_marks
from lauf.messages import say
from lauf.people.models import Staff
from lauf.progress.school.benchmarks import LAST_YEAR, Scored, school_scores
from lauf.progress.school.disclosure import group_to_count
from lauf.rules.judging.batch import rungs_reached, thresholds
from lauf.rules.judging.ladders import FAULT_WORDS, Benchmark, Fault, Rung
from lauf.rules.judging.summaries import FEWEST_TOLD, told_together
from lauf.rules.reading.kinds import format_number, format_value
from lauf.rules.reading.quantities import Measure


class DraftRung(TypedDict):
    """A rung of a ladder being made."""

    name: str
    typed: str
    shown: str
    beyond: bool


class Reached(TypedDict):
    """How many children stand on these rungs, by their places; −1 is below the first. Fewer than
    five are told with their neighbours."""

    from_rung: int
    to_rung: int
    children: int


class LadderPreview(TypedDict):
    """What a ladder would say of last year's scores."""

    rungs: list[DraftRung]
    reached: list[Reached]
    scored: int
    # There are some children, but too few to be told.
    few: bool
    # Not counted: with what was counted today, single children could be told apart.
    nested: bool
    other: int
    findings: list[FindingRow]
    lane: Lane


def _is_of(
    score: Scored, year_group_id: UUID | None, ages: tuple[int, int] | None, sex: str
) -> bool:
    """Whether a score is of the children that a ladder is for."""
    if year_group_id is not None and score.year_group_id != year_group_id:
        return False
    if ages is not None and (score.age is None or not ages[0] <= score.age <= ages[1]):
        return False
    return not sex or score.sex == sex


def _on_rungs(scores: Sequence[int], rungs: Sequence[Rung], measure: Measure) -> list[int]:
    """How many of the scores are below the first rung, and on each."""
    if not scores:
        return [0] * (len(rungs) + 1)
    values = np.array(scores, dtype=np.int64)
    one = np.zeros(len(values), dtype=np.int64)
    limits = thresholds([tuple(rungs)], measure)
    reached, _ = rungs_reached(values, one, limits, measure.better)
    return [int(n) for n in np.bincount(reached + 1, minlength=len(rungs) + 1)]


def _may_be_counted(
    latest: dict[UUID, int], of: Hashable, asked: Hashable
) -> tuple[dict[UUID, int], bool]:
    """The scores by child that may be counted, and whether it was refused (see `disclosure`)."""
    if len(latest) < FEWEST_TOLD:
        return latest, False
    group = group_to_count(of, asked, frozenset(latest), timezone.now())
    return {one: value for one, value in latest.items() if group and one in group}, group is None


def ladder_preview(
    staff: Staff,
    test_id: UUID,
    *,
    year_group_id: UUID | None,
    ages: tuple[int, int] | None,
    sex: str,
    variant: str,
    printed: str,
    rungs: Sequence[RungEntry],
    seconds: int | None,
    course: str,
    today: date,
) -> LadderPreview:
    """A ladder before it is kept: its rungs, what is wrong with it, its lane, and how many children
    of this school would have reached each rung last year, small numbers told together: no child can
    be read out of it, nor out of several of them (`disclosure`). Seven queries at most. Raises
    NotFound, or EntryError for ranges that cannot be read."""
    version = newest_protocol(staff, test_id)
    if year_group_id and not staff.school.year_groups.filter(pk=year_group_id).exists():
        raise NotFound(say("year group"))
    measure, key = version.measure, ladder_key(version, variant, seconds, course)
    draft = draft_rungs(version, printed, rungs)
    kept, faults = draft.rungs, list(draft.findings)
    faults += ladder_findings(version, Benchmark(kept, key))
    in_order = not any(fault.fault is Fault.OUT_OF_ORDER for fault in faults)
    last_year = [
        score
        for score in school_scores(staff, version, today - LAST_YEAR)
        if _is_of(score, year_group_id, ages, sex)
    ]
    latest, nested = _may_be_counted(
        {score.pupil_id: score.value for score in last_year if score.key == key},
        (test_id, key), (year_group_id, ages, sex),
    )  # fmt: skip
    other = sum(s.key != key and s.key.variant == variant for s in last_year)
    reached = _on_rungs(list(latest.values()) if in_order else [], kept, measure)
    lane: Lane = {
        "better": measure.better,
        "variant": variant,
        "rungs": rung_marks(kept, measure),
        "earlier": [],
        "today": None,
        "best": None,
        "band": None,
        "origin": 0,
        "scale": 0,
    }
    put_to_scale([lane], measure.kind)
    return {
        "rungs": [
            {
                "name": rung.name,
                "typed": format_number(rung.threshold, measure),
                "shown": format_value(rung.threshold, measure),
                "beyond": rung.beyond,
            }
            for rung in kept
        ],
        "reached": [
            {"from_rung": first - 1, "to_rung": last - 1, "children": children}
            for first, last, children in told_together(reached)
        ],
        "scored": len(latest) if len(latest) >= FEWEST_TOLD else 0,
        "few": 0 < len(latest) < FEWEST_TOLD,
        "nested": nested,
        "other": other if other >= FEWEST_TOLD and not nested else 0,
        "findings": [
            {"fault": FAULT_WORDS[f.fault], "rung": f.rung, "words": f.words} for f in faults
        ],
        "lane": lane,
    }
