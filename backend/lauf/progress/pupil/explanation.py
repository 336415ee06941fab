"""Why a score stands where it does: its own working, from what was typed to the next aim."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.queries import seen
from lauf.judgement.judges import judge_for
from lauf.judgement.picture import Lane, lane_of, put_to_scale
from lauf.judgement.rows import scores
from lauf.judgement.statements import Statement
from lauf.judgement.subject import Subject
from lauf.judgement.words import sure_words
from lauf.messages import say
from lauf.people.models import Staff
from lauf.records.models import Attempt, Question
from lauf.records.queries import attempt_of, counting, rows
from lauf.rules.judging.change import Verdict
from lauf.rules.judging.explanation import (
    change_working,
    error_words,
    kept_as,
    rung_working,
    target_working,
)
from lauf.rules.reading.kinds import format_value


@dataclass(frozen=True, slots=True)
class Step:
    """One line of a working: what it is about, its words, and where it comes from."""

    what: str
    words: str
    source: str = ""


class Why(TypedDict):
    """The working of a score, from what was typed to the next aim."""

    attempt_id: UUID
    pupil_id: UUID
    name: str
    test: str
    on: date
    shown: str
    words: list[str]
    lane: Lane | None
    steps: list[Step]


def explain(staff: Staff, attempt_id: UUID) -> Why:
    """The working of the score that an entry belongs to, in the order it is reasoned. Nine queries,
    and one more where lengths were measured in hands or steps. Raises NotFound."""
    asked = attempt_of(staff, attempt_id)
    kept = Attempt.objects.select_related(
        "recorded_by", "helper", "counted_by", "pupil__house", "protocol__test__school",
        "activity__lesson", "succeeds",
    ).get(pk=asked.pk)  # fmt: skip
    pupil, protocol, lesson = kept.pupil, kept.protocol, kept.activity.lesson
    found = seen(staff, counting().filter(pupil=pupil, on__lte=kept.on), "protocol__test")
    mine = scores(rows(found.filter(protocol__test=protocol.test_id)), staff.school_id)
    place = next((n for n, row in enumerate(mine) if row.activity_id == kept.activity_id), None)
    judge = judge_for(protocol, lesson.year_group_id, kept.on + timedelta(days=1))
    who = Subject(pupil.sex, pupil.born)
    answer: Why = {
        "attempt_id": kept.id, "pupil_id": pupil.id, "name": pupil.name,
        "test": protocol.test.name, "on": kept.on, "shown": "", "words": [], "lane": None,
        "steps": [],
    }  # fmt: skip
    steps = answer["steps"]
    steps.append(_entry(kept))
    if place is None:
        answer["shown"] = say("undone")
        return answer
    row, earlier = mine[place], mine[:place]
    statement = Statement(judge, row, earlier, who)
    answer["shown"], answer["words"] = statement.shown, statement.words
    if row.value is not None:
        steps += _measured(statement, protocol.number)
        answer["lane"] = lane = lane_of(judge, row, earlier, row.variant, who, row.on)
        put_to_scale([lane], judge.measure.kind)
    elif row.is_open:
        steps += [Step(say("Asked"), words) for words in _asked(row.id)]
    return answer


def _asked(attempt_id: UUID) -> list[str]:
    """What is asked about an entry that nobody has settled. One query."""
    asked = Question.objects.filter(attempt=attempt_id, settled=False).order_by("flag")
    return list(asked.values_list("words", flat=True))


def _entry(kept: Attempt) -> Step:
    words = say("“{typed}”", typed=kept.typed) if kept.typed else say("nothing typed")
    if kept.succeeds is not None and kept.succeeds.typed != kept.typed:
        words = say("{words}, before that “{typed}”", words=words, typed=kept.succeeds.typed)
    name = kept.entered_by
    return Step(
        say("Entry as typed"),
        words,
        say(
            "{child} counted, {name} wrote it down",
            child=kept.counted_by.given_name,
            name=name,
        )
        if kept.counted_by
        else say("written down by {name}", name=name),
    )


def _measured(statement: Statement, version: int) -> Iterator[Step]:
    judge, row, measure = statement.judge, statement.row, statement.judge.measure
    assert row.value is not None
    if len(row.tries) > 1:
        made = ", ".join(
            format_value(one.value, measure) if one.value is not None else (one.reason or one.typed)
            for one in row.tries
        )
        yield Step(
            say("Goes"),
            say("{made}, and the {how} counts", made=made, how=row.how),
            say("version {version} of the test", version=version),
        )
    kept = kept_as(row.value, measure)
    yield Step(
        say("Saved as"),
        say("{kept}, shown as {shown}", kept=kept, shown=statement.shown),
        say("version {version} of the test", version=version),
    )
    yield _rung(statement)
    for placed in judge.placed(row, statement.who):
        norm = placed.norm
        source = say(
            "{source}, {population}, {year}. Standing: {standing}",
            source=norm.source,
            population=norm.population,
            year=norm.year,
            standing=norm.standing,
        )
        where = placed.standing.words or say(
            "not judged: {why_not}", why_not=placed.standing.why_not
        )
        yield Step(norm.name, where, source)
    if judge.measures_only:
        return
    yield from _change(statement)
    yield from _next(statement)


def _rung(statement: Statement) -> Step:
    if statement.ladder is None:
        return Step(say("Rung"), say("not judged: {why_not}", why_not=statement.judged.why_not))
    value = statement.row.value or 0
    words = rung_working(value, statement.judged, statement.ladder, statement.judge.measure)
    return Step(say("Rung"), words or statement.rung_words, statement.ladder.source)


def _change(statement: Statement) -> Iterator[Step]:
    judge, row, change = statement.judge, statement.row, statement.change
    level = (statement.before or row).value or 0
    variation = error_words(statement.error, level, judge.measure)
    yield Step(say("Day-to-day variation"), variation, statement.error.source)
    if statement.before is None or statement.before.value is None:
        yield Step(say("Change"), statement.change_words)
        return
    if change.verdict in (Verdict.NOT_COMPARABLE, Verdict.MOVED_UP):
        yield Step(say("Change"), statement.change_words)
        return
    arithmetic = change_working(
        row.value or 0, statement.before.value, change, statement.error, judge.measure
    )
    words = f"{arithmetic}: {statement.change_words}"
    sure = sure_words(judge, row, statement.earlier, statement.who)
    source = say("MDC90 = 1.645 × √2 × typical error (Weir 2005)")
    yield Step(say("Change"), words, f"{source}. {sure}" if sure else source)


def _next(statement: Statement) -> Iterator[Step]:
    judge, row = statement.judge, statement.row
    best = judge.best([*statement.earlier, row], judge.key(row))
    if best is None:
        return
    words = format_value(best, judge.measure)
    if statement.best:
        words = say("{words}, new today", words=words)
    yield Step(say("Best so far"), words, say("estimates and void scores do not count"))
    if not statement.target:
        yield Step(
            say("Next target"), say("the maximum of this test is reached, so try a harder form")
        )
        return
    rung, band = judge.aim_from(best, row, statement.who)
    words = target_working(best, rung, band, judge.measure)
    yield Step(say("Next target"), f"{statement.target}: {words}")
