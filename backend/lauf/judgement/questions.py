"""What is asked about scores: judged when one of an activity is kept, and kept beside it, so that
every page says the same of it. The only writes of this room."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from datetime import date, timedelta
from functools import reduce
from operator import or_
from typing import Final, NamedTuple
from uuid import UUID

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from lauf.catalogue.models import ProtocolVersion
from lauf.compiled import Compiled
from lauf.judgement.judge import Judge
from lauf.judgement.judges import judges_for
from lauf.judgement.rows import by_pupil, by_test, scores
from lauf.judgement.statements import shown_of
from lauf.judgement.subject import UNKNOWN, Subject
from lauf.lessons.models import Activity
from lauf.lessons.queries import day_of, longest_run_ms
from lauf.messages import say
from lauf.people.models import Pupil, School, SchoolClass
from lauf.records.models import Question, RepeatSummary, Settlement
from lauf.records.queries import Counted, Row, TwoCounts, counting, reason_words, rows, two_counts
from lauf.rules.judging.plausibility import Flag, FlagCode
from lauf.rules.reading.kinds import format_value
from lauf.rules.reading.quantities import Kind


class Asked(NamedTuple):
    """One question about a score, as it is kept."""

    flag: str
    words: str
    settled: bool


_ASKED = Compiled(
    lambda activity_id: Question.objects.filter(
        attempt__activity=activity_id, attempt__successor=None
    ).values_list("attempt_id", "flag", "words", "settled"),
    UUID,
)
_ORDER: Final = [code.value for code in FlagCode]
#: Letters of a question.
_LONGEST: Final = 200


def asked_in(activity_id: UUID) -> dict[UUID, list[Asked]]:
    """What is or was asked about the scores that count in an activity, by attempt. One query."""
    return _by_attempt((attempt, Asked(*asked)) for attempt, *asked in _ASKED.rows(activity_id))


def _by_attempt(asked: Iterable[tuple[UUID, Asked]]) -> dict[UUID, list[Asked]]:
    found: dict[UUID, list[Asked]] = defaultdict(list)
    for attempt, one in sorted(asked, key=lambda each: _ORDER.index(each[1].flag)):
        found[attempt].append(one)
    return found


@transaction.atomic
def ask(
    activity: Activity, judge: Judge, history: Sequence[Row], children: Mapping[UUID, Subject]
) -> tuple[list[Row], dict[UUID, list[Asked]]]:
    """Ask what is to be asked about the scores of an activity, and no longer what is not.

    activity    which the caller has in turn: of two scores that are kept at once the later one is
                judged beside both
    history     the scores of its class in it and before it
    children    what is known of each child

    Returns the history as it counts then, and what is or was asked, by attempt. One query (two
    of a test of times), and up to six more where that changes or a try was counted twice.
    """
    now = [row.put(is_open=False) for row in history if row.activity_id == activity.id]
    earlier = by_pupil(row for row in history if row.activity_id != activity.id)
    ran_ms = longest_run_ms(activity.id) if judge.measure.kind is Kind.TIME else None
    wanted = _flags(judge, now, earlier, children, ran_ms)
    counted_twice = two_counts(activity.id) if activity.counted_twice else {}
    for attempt, flag in _differences(judge, now, counted_twice):
        wanted[attempt] = (*wanted.get(attempt, ()), flag)
    there = asked_in(activity.id)
    asked = _keep(activity, wanted, there)
    open_now = {
        attempt
        for attempt, mine in asked.items()
        if any(FlagCode(one.flag).holds_out and not one.settled for one in mine)
    }
    counted = [
        row.put(is_open=row.id in open_now) if row.activity_id == activity.id else row
        for row in history
    ]
    return counted, asked


def _keep(
    activity: Activity,
    wanted: Mapping[UUID, Sequence[Flag]],
    there: Mapping[UUID, Sequence[Asked]],
) -> dict[UUID, list[Asked]]:
    """Bring what is kept to what is wanted; what is settled stays. Returns what is kept then."""
    kept = {(attempt, one.flag): one for attempt, all_ in there.items() for one in all_}
    after = {key: one for key, one in kept.items() if one.settled}
    for attempt, flags in wanted.items():
        for flag in flags:
            open_one = Asked(flag.code.value, flag.words, settled=False)
            after.setdefault((attempt, open_one.flag), open_one)
    gone = {key for key, one in kept.items() if after.get(key) != one}
    new = {key: one for key, one in after.items() if kept.get(key) != one}
    if gone:
        Question.objects.filter(
            reduce(or_, (Q(attempt=attempt, flag=flag) for attempt, flag in gone))
        ).delete()
    if new:
        Question.objects.bulk_create(
            [
                Question(attempt_id=attempt, flag=one.flag, words=one.words)
                for (attempt, _), one in new.items()
            ]
        )
    if new.keys() ^ gone:
        # What repeat tests added up to since may hold them, or lack them.
        RepeatSummary.objects.filter(
            test=activity.protocol.test_id, before__gt=day_of(activity.lesson)
        ).delete()
    return _by_attempt((attempt, one) for (attempt, _), one in after.items())


def _flags(
    judge: Judge,
    now: Sequence[Row],
    earlier: Mapping[UUID, Sequence[Row]],
    children: Mapping[UUID, Subject],
    ran_ms: int | None = None,
) -> dict[UUID, tuple[Flag, ...]]:
    """What is to be asked about the scores of one activity, by attempt. `ran_ms` is how long its
    clock ran."""
    z_scores = judge.class_z(now)
    found = {
        row.id: judge.flags(
            row,
            earlier.get(row.pupil_id, ()),
            z_scores.get(row.id),
            children.get(row.pupil_id, UNKNOWN),
            ran_ms,
        )
        for row in now
    }
    return {attempt: flags for attempt, flags in found.items() if flags}


def _differences(
    judge: Judge, now: Sequence[Row], counted: Mapping[UUID, TwoCounts]
) -> Iterator[tuple[UUID, Flag]]:
    """What is to be asked about scores of which somebody else counted something else."""
    if not counted:
        return
    for row in now:
        for one in row.tries or (row,):
            twice = counted.get(one.id)
            if twice is None:
                continue
            here = (one.kept, one.reason, one.variant)
            others = [
                say("{name}: {shown}", name=other.name, shown=_counted(judge, other))
                for other in twice.others
                if (other.value, other.reason, other.variant) != here
            ]
            if others:
                words = say(
                    "Two counts. {name}: {shown}. {others}.",
                    name=twice.name,
                    shown=shown_of(one, judge),
                    others=". ".join(others),
                )
                yield row.id, Flag(FlagCode.TWO_COUNTS, words[:_LONGEST])


def _counted(judge: Judge, other: Counted) -> str:
    """What a helper counted, as a score is shown."""
    if other.value is None:
        return reason_words(other.reason) or other.typed
    return format_value(other.value, judge.measure)


def ask_about_all(school: School, since: date) -> None:
    """Ask about the scores of a school that were kept without being asked about, from a day on: by
    the day-to-day variation of now. Some queries a class."""
    for school_class in SchoolClass.objects.filter(school=school):
        _ask_about_class(school_class, since)


@transaction.atomic
def _ask_about_class(school_class: SchoolClass, since: date) -> None:
    pupils = Pupil.objects.filter(school_class=school_class)
    children = {
        pupil: Subject(sex, born) for pupil, sex, born in pupils.values_list("id", "sex", "born")
    }
    mine = counting().filter(pupil__school_class=school_class)
    tested = set(mine.order_by().values_list("protocol_id", flat=True).distinct())
    versions: dict[UUID, ProtocolVersion] = {
        one.test_id: one
        for one in ProtocolVersion.objects.filter(id__in=tested)
        .select_related("test__school")
        .order_by("number")
    }
    judges = judges_for(versions, timezone.localdate() + timedelta(days=1))
    new: dict[tuple[UUID, str], str] = {}
    for test, history in by_test(scores(rows(mine), school_class.school_id)).items():
        judge = judges.of(test, school_class.year_group_id)
        for row_id, flag in _of_a_test(judge, history, children, since):
            new[row_id, flag.code.value] = flag.words
    settled = set(
        Settlement.objects.filter(attempt__in={attempt for attempt, _ in new}).values_list(
            "attempt_id", "flag"
        )
    )
    Question.objects.bulk_create(
        [
            Question(attempt_id=key[0], flag=key[1], words=words, settled=key in settled)
            for key, words in new.items()
        ],
        ignore_conflicts=True,
    )
    RepeatSummary.objects.filter(test__in=versions, before__gt=since).delete()


def _of_a_test(
    judge: Judge, history: Iterable[Row], children: Mapping[UUID, Subject], since: date
) -> Iterable[tuple[UUID, Flag]]:
    """A class's scores in a test, activity by activity as they were done: each beside the earlier
    ones that nothing is asked of."""
    together: dict[tuple[date, UUID], list[Row]] = defaultdict(list)
    for row in history:
        together[row.on, row.activity_id].append(row.put(is_open=False))
    earlier: dict[UUID, list[Row]] = defaultdict(list)
    for (on, _), now in sorted(together.items(), key=lambda one: one[0][0]):
        flags = _flags(judge, now, earlier, children) if on >= since else {}
        for row in now:
            asked = flags.get(row.id, ())
            yield from ((row.id, flag) for flag in asked)
            if not any(flag.code.holds_out for flag in asked):
                earlier[row.pupil_id].append(row)
