"""A lesson's pulses: every child's series and the class's, judged by the rules."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from typing import Final
from uuid import UUID

from lauf.judgement.subject import Subject
from lauf.lessons.models import Conduct, Lesson
from lauf.lessons.queries import day_of, lesson_of, really_done
from lauf.messages import mark, say
from lauf.people.models import Pupil, Staff
from lauf.records.models import WITHDRAWN, PulseReading
from lauf.records.queries import reason_words
from lauf.rules.body import pulse as rules
from lauf.rules.body.pulse import Formula, Moment, PulseFlag, Reading
from lauf.rules.judging.class_pulse import ClassPulse, most_words, pulses_aloud
from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.blocks import BlockKind
from lauf.rules.reading.quantities import decimal
from lauf.rules.reading.rounding import whole


@dataclass(frozen=True, slots=True)
class PulseRow:
    """A reading that stands: as it was typed, and in beats a minute."""

    id: UUID
    position: int
    typed: str
    seconds: int | None
    rate: int | None
    shown: str
    taken_back: bool
    reason: str | None
    confirmed: bool
    flags: list[PulseFlag]


@dataclass(frozen=True, slots=True)
class PulseChild:
    """A child's readings of a lesson, and what they say together."""

    pupil_id: UUID
    number: int
    name: str
    medical_note: str
    readings: list[PulseRow]
    words: list[str]


@dataclass(frozen=True, slots=True)
class PulseColumn:
    """A moment at which pulses are taken, and how many were; the median in beats a minute."""

    position: int
    moment: Moment
    label: str
    words: str
    n: int
    median: int | None


@dataclass(frozen=True, slots=True)
class PulsePage:
    """Every pulse of a lesson; `seconds` are those a count may last."""

    lesson_id: UUID
    closed_at: datetime | None
    formula: Formula
    caution: str
    seconds: list[int]
    columns: list[PulseColumn]
    most: str | None
    children: list[PulseChild]


def pulse_page(staff: Staff, lesson_id: UUID, formula: Formula = Formula.TANAKA) -> PulsePage:
    """Every pulse of a lesson by child and moment, with what the series says. Six queries. Raises
    NotFound."""
    lesson = lesson_of(staff, lesson_id)
    day = day_of(lesson)
    rows, columns = _taken_in(lesson)
    by_child: dict[UUID, list[PulseReading]] = defaultdict(list)
    for row in rows:
        by_child[row.pupil_id].append(row)
    named = {column.position: column.label for column in columns}
    children = [
        _child(number, pupil, by_child[pupil.id], named, day, formula)
        for number, pupil in enumerate(lesson.school_class.pupils.all(), 1)
    ]
    moments = _of_class(columns, rows)
    return PulsePage(
        lesson_id=lesson.id,
        closed_at=lesson.closed_at,
        formula=formula,
        caution=rules.CAUTION,
        seconds=list(rules.COUNT_SECONDS),
        columns=[
            replace(column, n=len(one.rates), median=one.middle)
            for column, one in zip(columns, moments, strict=True)
        ],
        most=most_words(moments),
        children=children,
    )


def pulses_found(lesson: Lesson, children: int) -> list[str]:
    """What the pulses of a lesson showed, of its class of so many children as a whole: sentences to
    be read aloud, none where few or none were taken. Four queries."""
    rows, columns = _taken_in(lesson)
    counted = {row.pupil_id for row in rows if row.beats is not None}
    return pulses_aloud(_of_class(columns, rows), len(counted), children)


def _taken_in(lesson: Lesson) -> tuple[list[PulseReading], list[PulseColumn]]:
    """The readings of a lesson that stand, and the moments they were taken at. Four queries."""
    rows = list(
        PulseReading.objects.filter(lesson=lesson, successor=None).order_by(
            "position", "recorded_at"
        )
    )
    conduct = Conduct.objects.filter(lesson=lesson).first()
    done = really_done(conduct)
    blocks = [
        (kind, done.get(str(block), label))
        for block, kind, label in lesson.blocks.values_list("id", "kind", "label")
    ]
    tests = lesson.activities.values_list("protocol__test__name", flat=True)
    return rows, _columns(blocks, tests, rows)


def pulse_child_after(
    staff: Staff, lesson_id: UUID, pupil_id: UUID, formula: Formula
) -> PulseChild:
    """One child of `pulse_page`, for the answer to a write. Same queries."""
    children = pulse_page(staff, lesson_id, formula).children
    return next(child for child in children if child.pupil_id == pupil_id)


def _columns(
    blocks: Sequence[tuple[str, str]], tests: Iterable[str], rows: Sequence[PulseReading]
) -> list[PulseColumn]:
    """The moments of the lesson in order: those of the plan's pulse checks, or the usual ones where
    it has hardly any; and those that were recorded besides."""
    planned = _planned_moments(blocks)
    usual = [(Moment.REST, ""), (Moment.WARM_UP, ""), *((Moment.ACTIVITY, n) for n in tests)]
    if len(planned) < _ENOUGH_CHECKS:
        planned = [*usual, (Moment.RECOVERY, "")]
    places: dict[int, tuple[str, str]] = dict(enumerate(planned))
    for row in rows:
        if row.reason == WITHDRAWN:
            continue
        here = places.get(row.position)
        # What was really done is named, whatever was planned when the pulse was taken.
        if here is None or here[0] != row.moment:
            places[row.position] = row.moment, row.label
    return [
        PulseColumn(position, Moment(moment), label, moment_words(Moment(moment), label), 0, None)
        for position, (moment, label) in sorted(places.items())
    ]


#: From so many pulse checks on, a plan says itself when pulses are taken.
_ENOUGH_CHECKS: Final = 2


def _planned_moments(blocks: Sequence[tuple[str, str]]) -> list[tuple[Moment, str]]:
    """What each pulse check of a plan follows: rest, the warm-up, an activity, recovery."""
    found: list[tuple[Moment, str]] = []
    moment, label = Moment.REST, ""
    for kind, name in blocks:
        after = BLOCK_KINDS[BlockKind(kind)].after
        if kind == BlockKind.PULSE:
            found.append((moment, label))
        elif after is Moment.RECOVERY:
            moment, label = (after, "") if found else (moment, label)
        elif after is not None:
            moment, label = after, name if after is Moment.ACTIVITY else ""
    return found


def _of_class(columns: Sequence[PulseColumn], rows: Sequence[PulseReading]) -> list[ClassPulse]:
    """The pulses of the class in every column."""
    found = []
    for column in columns:
        taken = [
            row for row in rows
            if row.position == column.position and row.beats is not None
        ]  # fmt: skip
        rates = tuple(whole(rules.bpm(row.beats or 0, row.seconds or 60)) for row in taken)
        shortest = min((row.seconds or 60 for row in taken), default=60)
        found.append(ClassPulse(column.moment, column.label, rates, shortest))
    return found


def moment_words(moment: Moment, label: str) -> str:
    """When a pulse was taken, as it is said."""
    if moment is Moment.ACTIVITY and label:
        return say("After {label}", label=label)
    return rules.MOMENT_WORDS[moment].capitalize()


def _child(
    number: int,
    pupil: Pupil,
    rows: Sequence[PulseReading],
    named: Mapping[int, str],
    day: date,
    formula: Formula,
) -> PulseChild:
    age = Subject(pupil.sex, pupil.born).decimal_age(day)
    made: list[Reading] = []
    readings = []
    for row in rows:
        taken = None
        if row.beats is not None:
            label = named.get(row.position, "")
            taken = Reading(Moment(row.moment), row.beats, row.seconds or 60, label, row.waited)
        flags = () if taken is None or row.confirmed else rules.flags(taken, made)
        readings.append(
            PulseRow(
                id=row.id,
                position=row.position,
                typed=row.typed,
                seconds=row.seconds,
                rate=whole(taken.rate) if taken else None,
                shown=_shown(taken, row.reason),
                taken_back=row.reason == WITHDRAWN,
                reason=row.reason,
                confirmed=row.confirmed,
                flags=list(flags),
            )
        )
        if taken:
            made.append(taken)
    return PulseChild(
        pupil_id=pupil.id,
        number=number,
        name=pupil.name,
        medical_note=pupil.medical_note,
        readings=readings,
        words=_words(made, age, formula),
    )


def _shown(taken: Reading | None, reason: str | None) -> str:
    if taken:
        return taken.shown
    return "" if reason == WITHDRAWN else reason_words(reason)


def _words(readings: Sequence[Reading], age: float | None, formula: Formula) -> list[str]:
    """What a child's series says, in the order it is read."""
    summary = rules.summarise(readings, age, formula)
    words = []
    if summary.peak is not None:
        words.append(
            say(
                "peak {peak} {after}",
                peak=decimal(summary.peak, 0),
                after=summary.peak_after,
            )
        )
    if summary.rise is not None and summary.resting is not None:
        rest = next(r for r in reversed(readings) if r.moment is Moment.REST)
        top = next(r for r in readings if r.rate == summary.peak)
        if rules.same(top.rate, top.seconds, rest.rate, rest.seconds):
            step = max(rules.resolution(top.seconds), rules.resolution(rest.seconds))
            words.append(say("the same as at rest, within ±{step}", step=decimal(step, 0)))
        else:
            words.append(say("{rise} above rest", rise=decimal(summary.rise, 0)))
    if summary.recovery_drop is not None:
        by, waited = decimal(abs(summary.recovery_drop), 0), summary.recovery_seconds
        if summary.recovery_drop >= 0:
            message = mark("down {by} after {waited} s" if waited else "down {by}")
        else:
            message = mark("up {by} after {waited} s" if waited else "up {by}")
        words.append(say(message, by=by, waited=waited))
    if summary.percent_of_maximum is not None:
        words.append(
            say(
                "{percent_of_maximum} % of the estimated maximum",
                percent_of_maximum=whole(summary.percent_of_maximum),
            )
        )
    if summary.reserve is not None:
        words.append(say("{reserve} % of the reserve", reserve=whole(summary.reserve)))
    return words
