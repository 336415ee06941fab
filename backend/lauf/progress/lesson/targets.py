"""A rep target while it is on: total, rung, and the pace still needed. Reads only."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from typing import cast
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.queries import ladders_of
from lauf.errors import Refused
from lauf.judgement.judge import Judge
from lauf.judgement.rows import scores
from lauf.judgement.subject import Subject
from lauf.lessons.models import Activity, PlanBlock
from lauf.lessons.queries import activity_of, day_of
from lauf.messages import say
from lauf.people.models import Staff
from lauf.records.queries import Row, counting, rows
from lauf.rules.judging.ladders import Rung
from lauf.rules.judging.targets import MOST_A_SECOND, rep_target
from lauf.rules.planning.blocks import (
    USUAL_TARGET,
    BeatsEntry,
    BlockKind,
    RepTargetEntry,
    calls_of,
    weights_of,
)
from lauf.rules.reading.levels import Reps, moved_up, weights_typed
from lauf.rules.reading.quantities import Kind, decimal

#: What is counted where the plan names no movements.
ANY = "reps"


class Stands(TypedDict):
    """Where a child stands on the way to the rungs; `a_minute` is what is still needed for the next
    one."""

    carried: int
    reps: list[int]
    total: int
    reason: str | None
    rung: str | None
    next_rung: str | None
    needed: int | None
    a_minute: str | None
    projected: int | None


class TargetChild(Stands):
    """One child in a rep target; `offered` is what was counted before of the movement that is
    carried in, until it is."""

    pupil_id: UUID
    number: int
    name: str
    offered: int | None
    # Whether what is offered is a guess.
    offered_about: bool
    # Movements done at a higher level than ever before, in words.
    moved_up: list[str]


class TargetPage(TypedDict):
    """A rep target while it is on: seconds, and every child."""

    activity_id: UUID
    seconds: int
    left: int
    names: list[str]
    carries: str
    # How many of the movement that is carried in were called to a beat: no more can be carried in.
    called: int | None
    # Easier, usual and harder reps are counted apart, and what one of each counts.
    apart: bool
    weights: str
    # Reps a second that nobody beats: more in the time that passed are asked about.
    most_a_second: float
    children: list[TargetChild]


def target_page(staff: Staff, activity_id: UUID, elapsed: int) -> TargetPage:
    """Every child of a class in a rep target after `elapsed` seconds, with what was counted before
    of the movement carried in. Five queries, two more where something is carried in, two where
    levels are counted apart. Raises NotFound, or Refused for a test that is no total."""
    activity = activity_of(staff, activity_id)
    protocol, lesson = activity.protocol, activity.lesson
    if protocol.kind != Kind.TOTAL:
        raise Refused(
            say("{name} is not a test of a total over movements.", name=protocol.test.name)
        )
    block = PlanBlock.objects.filter(activity=activity, kind=BlockKind.REP_TARGET).first()
    kept: object = block.settings if block else {}
    settings = cast("RepTargetEntry", kept)
    seconds = settings.get("seconds") or protocol.seconds or USUAL_TARGET
    names = [name.strip() for name in settings.get("names") or () if name.strip()]
    carries = (settings.get("carries") or "").strip()
    rose = _Risen(activity, names, apart=bool(settings.get("apart")))
    called = _Called(staff.school_id, block, carries)
    ladders = ladders_of(protocol.test_id, lesson.year_group_id)
    judge = Judge(protocol, ladders, {})
    kept = scores(rows(counting().filter(activity=activity)), staff.school_id)
    found = {row.pupil_id: row for row in kept}
    children = []
    for number, pupil in enumerate(lesson.school_class.pupils.all(), 1):
        row = found.get(pupil.id)
        variant = row.variant if row else judge.protocol.usual_variant
        ladder = judge.ladder(variant, Subject(pupil.sex, pupil.born), day_of(lesson))
        stands = _stands(row, ladder.rungs if ladder else (), seconds, elapsed, carries or ANY)
        offered = None if stands["carried"] else called.counted.get(pupil.id)
        child: TargetChild = {
            **stands,
            "pupil_id": pupil.id,
            "number": number,
            "name": pupil.name,
            "offered": offered,
            "offered_about": offered is not None and pupil.id in called.about,
            "moved_up": rose.of(pupil.id, row),
        }
        children.append(child)
    return {
        "activity_id": activity.id,
        "seconds": seconds,
        "left": max(0, seconds - elapsed),
        "names": names or [ANY],
        "carries": carries,
        "called": called.most,
        "apart": bool(settings.get("apart")),
        "weights": weights_typed(weights_of(settings)),
        "most_a_second": protocol.most_a_second or MOST_A_SECOND,
        "children": children,
    }


class _Risen:
    """What children did at a lower level in earlier lessons of the same test; nothing
    where they are not counted `apart`. Two queries where they are."""

    def __init__(self, activity: Activity, names: Sequence[str], *, apart: bool) -> None:
        self._names = names
        self._before: dict[UUID, list[dict[str, Reps]]] = {}
        if not apart:
            return
        protocol = activity.protocol
        earlier = counting().filter(
            activity__protocol__test=protocol.test_id,
            activity__lesson__starts_at__lt=activity.lesson.starts_at,
            pupil__school_class=activity.lesson.school_class_id,
            parts__has_key="levels",
        )
        found = scores(rows(earlier), protocol.test.school_id)
        named = dict(
            PlanBlock.objects.filter(activity__in={row.activity_id for row in found}).values_list(
                "activity_id", "settings"
            )
        )
        for row in found:
            called = named.get(row.activity_id, {}).get("names") or []
            self._before.setdefault(row.pupil_id, []).append(_by_name(called, row))

    def of(self, pupil: UUID, row: Row | None) -> list[str]:
        if row is None:
            return []
        return list(moved_up(_by_name(self._names, row), self._before.get(pupil, [])))


def _by_name(names: Sequence[str], row: Row) -> dict[str, Reps]:
    """The levels of a kept total by the name of each movement."""
    levels: list[Reps] = [(one[0], one[1], one[2]) for one in row.parts.get("levels") or ()]
    return dict(zip((name.strip().lower() for name in names), levels, strict=False))


class _Called:
    """What was called to a beat before a target, of the movement that it carries in.

    most     how many movements were called, None where none of this one were
    counted  how many each child finished, by its id
    about    of whom that is a guess
    """

    def __init__(self, school_id: UUID, target: PlanBlock | None, carries: str) -> None:
        self.most: int | None = None
        self.counted: dict[UUID, int] = {}
        self.about: set[UUID] = set()
        if target is None or not carries:
            return
        before = PlanBlock.objects.filter(
            lesson_id=target.lesson_id, kind=BlockKind.BEATS, position__lt=target.position
        ).select_related("activity")
        same = [one for one in before if _movement(one) == carries.lower()]
        if not same:
            return
        self.most = sum(len(calls_of(cast("BeatsEntry", one.settings))) for one in same)
        activities = [one.activity for one in same if one.activity]
        for row in scores(rows(counting().filter(activity__in=activities)), school_id):
            if row.value is not None:
                self.counted[row.pupil_id] = self.counted.get(row.pupil_id, 0) + row.value
                if row.estimate:
                    self.about.add(row.pupil_id)


def _movement(block: PlanBlock) -> str:
    return str(block.settings.get("movement") or "").strip().lower()


def _stands(
    row: Row | None, rungs: Sequence[Rung], seconds: int, elapsed: int, carries: str
) -> Stands:
    """Where one child stands on the way to the rungs."""
    value = row.kept if row else None
    parts = row.parts if row else {}
    carried: int = parts.get("carried", 0)
    counted = 0 if value is None else value - carried
    reps: list[int] = parts.get("movements") or ([] if value is None else [counted])
    stands = rep_target(
        # As it was kept: what a rep of each level counts is in it.
        {ANY: counted},
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
        # One more in twenty minutes is not none a minute.
        "a_minute": None
        if stands.a_minute is None
        else decimal(max(stands.a_minute, Fraction(1, 10)), 1),
        "projected": stands.projected if reps else None,
    }
