"""What a lesson found: for its last block, and for whoever closes it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from lauf.catalogue.queries import for_everybody, sees
from lauf.judgement.statements import Statement
from lauf.lessons.models import Activity
from lauf.lessons.queries import activities_of, day_of, lesson_of
from lauf.messages import say, say_many
from lauf.people.models import Pupil, Staff
from lauf.progress.histories import Histories, histories_of
from lauf.progress.lesson.pulse import pulses_found
from lauf.rules.judging.aims import ADDS_UP
from lauf.rules.judging.change import Verdict
from lauf.rules.judging.spoken_summary import aloud
from lauf.rules.judging.summaries import ClassSummary, mean_words, summarise_class
from lauf.rules.reading.kinds import format_value
from lauf.rules.reading.quantities import Measure

#: Kinds whose scores a class can add up to something.
_BETTER = (Verdict.BETTER, Verdict.REACHED_THE_TOP, Verdict.MOVED_UP)


@dataclass(frozen=True, slots=True)
class TestSummary:
    """What a lesson showed in one test: sentences to read aloud, one for the teacher, and whether
    the test fits the class."""

    activity_id: UUID
    test: str
    aloud: list[str]
    teacher: str
    misfit: str


@dataclass(frozen=True, slots=True)
class LessonSummary:
    """What a lesson showed: a test each, and sentences about its pulses to read aloud."""

    lesson_id: UUID
    tests: list[TestSummary]
    pulses: list[str]


def lesson_summary(staff: Staff, lesson_id: UUID) -> LessonSummary:
    """Every test of a lesson in sentences: some for the class, read aloud, and one for the teacher;
    and what its pulses showed. Without any body measurement. Sixteen queries, and one more where
    lengths were measured in hands or steps. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    pupils = list(lesson.school_class.pupils.select_related("school_class"))
    histories = histories_of(staff, pupils, day_of(lesson), lesson.school_class_id)
    public = for_everybody(staff)
    tests = [
        _test(activity, _statements(histories, pupils, activity), len(pupils))
        for activity in activities_of(lesson)
        if sees(public, activity.protocol.test)
    ]
    pulses = pulses_found(lesson, len(pupils))
    return LessonSummary(lesson.id, [one for one in tests if one.aloud], pulses)


def _statements(
    histories: Histories, pupils: Sequence[Pupil], activity: Activity
) -> list[Statement]:
    """The measured scores of an activity, judged."""
    found = []
    for pupil in pupils:
        mine = histories.of(pupil, activity.protocol.test_id)
        for place, row in enumerate(mine):
            if row.activity_id == activity.id and row.value is not None:
                found.append(histories.statement(pupil, mine, place))
    return found


def _test(activity: Activity, found: Sequence[Statement], children: int) -> TestSummary:
    protocol = activity.protocol
    measure, name = protocol.measure, protocol.test.name
    changes = [statement.change for statement in found]
    values = [statement.row.value or 0 for statement in found]
    summary = summarise_class(values, changes, measure)
    together = ""
    if measure.kind in ADDS_UP and len(values) > 1:
        together = format_value(sum(values), measure)
        together = say_many("{n} rep", "{n} reps", sum(values)) if together.isdigit() else together
    names: dict[str, int] = {}
    for statement in found:
        ladder = statement.ladder
        for rung in (
            ladder.rungs[: (-1 if statement.rung is None else statement.rung) + 1] if ladder else ()
        ):
            names[rung.name] = names.get(rung.name, 0) + 1
    order = next((statement.ladder for statement in found if statement.ladder), None)
    rungs = [(rung.name, names.get(rung.name, 0)) for rung in order.rungs] if order else []
    return TestSummary(
        activity.id,
        name,
        aloud(
            name, took_part=len(found), children=children,
            better=sum(1 for one in changes if one.verdict in _BETTER),
            bests=sum(1 for statement in found if statement.best), together=together, rungs=rungs,
        ),
        _teacher_words(summary, measure),
        summary.misfit or "",
    )  # fmt: skip


def _teacher_words(summary: ClassSummary, measure: Measure) -> str:
    if not summary.compared:
        return say("nothing to compare with yet")
    words = say(
        "{better} better, {steady} steady, {lower} lower",
        better=summary.better,
        steady=summary.steady,
        lower=summary.lower,
    )
    mean = mean_words(summary, measure)
    arrows = say_many("{n} arrow", "{n} arrows", summary.chance_shown)
    return say(
        "{words}. Class average: {mean}. About {arrows} could be chance",
        words=words,
        mean=mean,
        arrows=arrows,
    )
