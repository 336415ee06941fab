"""A rep target while it is on: total, rung, and the pace still needed. Reads only."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from typing import Any
from uuid import UUID

from lauf.catalogue.queries import ladders_of
from lauf.errors import Refused
from lauf.judgement.judge import Judge
from lauf.judgement.rows import scores
from lauf.judgement.who import Who
from lauf.lessons.models import PlanBlock
from lauf.lessons.queries import activity_of, day_of
from lauf.people.models import Staff
from lauf.records.queries import Row, counting, rows
from lauf.rules.block_kinds import BLOCK_KINDS
from lauf.rules.blocks import BlockKind
from lauf.rules.ladders import Rung
from lauf.rules.quantities import Kind, decimal
from lauf.rules.targets import MOST_A_SECOND, rep_target

#: What is counted where the plan names no movements.
ANY = "reps"
#: How long a target lasts where neither plan nor test says so.
_USUAL: int = BLOCK_KINDS[BlockKind.REP_TARGET].defaults["seconds"]


def target_page(staff: Staff, activity_id: UUID, elapsed: int) -> dict[str, Any]:
    """Every child of a class in a rep target after `elapsed` seconds. Five queries. Raises
    NotFound, or Refused for a test that is no total."""
    activity = activity_of(staff, activity_id)
    protocol, lesson = activity.protocol, activity.lesson
    if protocol.kind != Kind.TOTAL:
        raise Refused(f"{protocol.test.name} is not a total over movements.")
    block = PlanBlock.objects.filter(activity=activity).values_list("settings", flat=True).first()
    settings: dict[str, Any] = block or {}
    seconds: int = settings.get("seconds") or protocol.seconds or _USUAL
    names: list[str] = [name.strip() for name in settings.get("names") or () if name.strip()]
    carries: str = (settings.get("carries") or "").strip()
    ladders = ladders_of(protocol.test_id, lesson.year_group_id)
    judge = Judge(protocol, ladders, {})
    kept = scores(rows(counting().filter(activity=activity)), staff.school_id)
    found = {row.pupil_id: row for row in kept}
    children = []
    for number, pupil in enumerate(lesson.school_class.pupils.all(), 1):
        row = found.get(pupil.id)
        variant = row.variant if row else judge.protocol.usual_variant
        ladder = judge.ladder(variant, Who(pupil.sex, pupil.born), day_of(lesson))
        stands = _stands(row, ladder.rungs if ladder else (), seconds, elapsed, carries or ANY)
        children.append({"pupil_id": pupil.id, "number": number, "name": pupil.name, **stands})
    return {
        "activity_id": activity.id,
        "seconds": seconds,
        "left": max(0, seconds - elapsed),
        "names": names or [ANY],
        "carries": carries,
        "most_a_second": protocol.most_a_second or MOST_A_SECOND,
        "children": children,
    }


def _stands(
    row: Row | None, rungs: Sequence[Rung], seconds: int, elapsed: int, carries: str
) -> dict[str, Any]:
    """Where one child stands on the way to the rungs."""
    value = row.value if row else None
    parts = row.parts if row else {}
    carried: int = parts.get("carried", 0)
    reps: list[int] = parts.get("movements") or ([] if value is None else [value - carried])
    stands = rep_target(
        {str(place): count for place, count in enumerate(reps)},
        [rung.threshold for rung in rungs],
        minutes=Fraction(seconds, 60),
        elapsed=Fraction(min(elapsed, seconds), 60),
        carried=carried,
        # Typed as carried in, it was taken as such; here it is offered where the plan says so.
        carried_from=carries,
        carries=carries,
    )
    above = 0 if stands.rung is None else stands.rung + 1
    return {
        "carried": carried,
        "reps": reps,
        "total": stands.total,
        "reason": row.reason if row and value is None else None,
        "rung": rungs[above - 1].name if above else None,
        "next_rung": rungs[above].name if above < len(rungs) else None,
        "needed": stands.needed,
        "a_minute": None if stands.a_minute is None else decimal(stands.a_minute, 1),
        "projected": stands.projected if reps else None,
    }
