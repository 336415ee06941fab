"""The class board of one test: every child's score and lane."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date, datetime
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.protocol import VariantEntry
from lauf.catalogue.queries import for_everybody, sees
from lauf.errors import NotFound
from lauf.judgement.judge import Judge
from lauf.judgement.judges import judge_for
from lauf.judgement.picture import Lane, lane_of, put_to_scale, variant_of
from lauf.judgement.questions import Asked, ask, asked_in
from lauf.judgement.rows import by_pupil, scores
from lauf.judgement.statements import shown_of
from lauf.judgement.subject import Subject
from lauf.judgement.words import score_words
from lauf.lessons.models import Activity
from lauf.lessons.queries import (
    KeptFrom,
    ListedChild,
    OneTest,
    activity_of,
    conditions_of,
    day_of,
    one_test,
    suggested_wave,
)
from lauf.messages import say
from lauf.people.models import Staff
from lauf.records.queries import Row, class_history
from lauf.rules.judging.comparability import CONDITION_WORDS, condition_shown, course_mm
from lauf.rules.judging.tries import SPARE_TRIES
from lauf.rules.reading.entry import (
    Choice,
    EntryError,
    QuickCheck,
    accepted_words,
    entry_words,
    quick_check,
    read_entry,
    reason_keys,
)
from lauf.rules.reading.kinds import format_number, format_value
from lauf.rules.reading.laps import plan_laps
from lauf.rules.reading.quantities import Measure
from lauf.rules.reading.reasons import REASON_WORDS, NotDone


class Score(TypedDict):
    """A score as it is shown, beside what was typed."""

    id: UUID
    typed: str
    shown: str
    value: int | None
    reason: str | None
    estimate: bool
    variant: str
    wave: int | None
    conditions: dict[str, int | str]
    corrected: bool
    # Something is asked about it: it takes no part in anything until that is settled.
    open: bool


class TryRow(TypedDict):
    """One try of a test."""

    number: int
    head: UUID | None
    score: Score | None


class Flag(TypedDict):
    """A question about a score, settled or not."""

    code: str
    words: str
    settled: bool


class Child(TypedDict):
    """A child's row in a test: today's score, what is said of it, and its lane."""

    pupil_id: UUID
    number: int
    name: str
    medical_note: str
    wave: int
    variant: str
    head: UUID | None
    score: Score | None
    tries: list[TryRow]
    words: list[str]
    target: str | None
    flags: list[Flag]
    lane: Lane
    care: KeptFrom | None


class ConditionRow(TypedDict):
    """A free condition as it stands for the class."""

    code: str
    words: str
    value: int | str
    shown: str
    usual: str


class ReasonRow(TypedDict):
    """A reason for no score, with the key that says so."""

    key: str
    code: str
    words: str


class ClassLanes(TypedDict):
    """A class in one test."""

    activity_id: UUID
    lesson_id: UUID
    class_id: UUID
    class_name: str
    test: str
    private: bool
    kind: str
    unit: str
    seconds: int | None
    closed_at: datetime | None
    waves: int
    tries: int
    # How many goes of a child are kept at most.
    most_tries: int
    merge: str
    of: int | None
    better: str
    laps: int | None
    # The test's own maximum in canonical units, at which a hold ends; and as it is typed.
    cap: int | None
    cap_typed: str
    conditions: list[ConditionRow]
    variants: list[VariantEntry]
    accepted: str
    quick_check: QuickCheck
    reasons: list[ReasonRow]
    children: list[Child]


class WallScore(TypedDict):
    """What the hall's wall may show of a child."""

    name: str
    shown: str


class Reading(TypedDict):
    """How an entry would be kept, or what is wrong with it."""

    words: str
    problem: str
    accepted: str
    choices: list[Choice]


def class_lanes(staff: Staff, activity_id: UUID) -> ClassLanes:
    """Every child of the class with today's score and its lane, in list order.

    Seven queries, whatever the class size and the number of earlier occasions (one more where
    lengths were measured in hands or steps, and up to two where the test asks for something that
    children can be kept from). Raises NotFound.
    """
    return _lanes(one_test(staff, activity_id), anew=False)


def one_child(staff: Staff, activity_id: UUID, pupil_id: UUID) -> Child:
    """A child of `class_lanes`, in as many queries; its lane is on its own scale, which those of
    the class go by together. Raises NotFound, also for a body measurement, whose every look is a
    look at the class."""
    board = _lanes(one_test(staff, activity_id), anew=False, only=pupil_id)
    if not board["children"] or board["private"]:
        raise NotFound(say("child in this class"))
    return board["children"][0]


def _lanes(taken: OneTest, *, anew: bool, only: UUID | None = None) -> ClassLanes:
    activity = taken.activity
    protocol, lesson = activity.protocol, activity.lesson
    day = day_of(lesson)
    judge = judge_for(protocol, lesson.year_group_id, day)
    found = class_history(lesson.school_class_id, activity.id, protocol.test_id, day)
    history = scores(found, lesson.school_id)
    heads = {(r.pupil_id, r.try_number): r.id for r in found if r.activity_id == activity.id}
    if anew:
        whos = {child.id: Subject(child.sex, child.born) for child in taken.children}
        history, asked = ask(activity, judge, history, whos)
    else:
        asked = asked_in(activity.id)
    grouped = by_pupil(history)
    lanes = [
        _child(
            index,
            child,
            grouped.get(child.id, []),
            activity,
            day,
            judge,
            asked,
            heads,
            taken.kept_from.get(child.id),
        )
        for index, child in enumerate(taken.children)
        if only in (None, child.id)
    ]
    put_to_scale([child["lane"] for child in lanes], judge.measure.kind)
    return {
        "activity_id": activity.id,
        "lesson_id": lesson.id,
        "class_id": lesson.school_class_id,
        "class_name": lesson.school_class.name,
        "test": protocol.test.name,
        "private": protocol.test.private,
        "kind": protocol.kind,
        "unit": protocol.unit,
        "seconds": protocol.seconds,
        "closed_at": lesson.closed_at,
        "waves": protocol.waves,
        "tries": protocol.tries,
        "most_tries": protocol.tries + SPARE_TRIES,
        "merge": protocol.merge,
        "of": protocol.of,
        "better": protocol.better,
        "laps": _laps_to_run(activity),
        "cap": protocol.cap,
        "cap_typed": "" if protocol.cap is None else format_number(protocol.cap, judge.measure),
        "conditions": condition_rows(activity),
        "variants": protocol.variants,
        "accepted": accepted_words(judge.measure),
        "quick_check": quick_check(judge.measure),
        "reasons": reason_rows(judge.measure),
        "children": lanes,
    }


def wall_scores(staff: Staff, activity_id: UUID) -> list[WallScore]:
    """What everybody in the hall may look at: each child's name and today's score, in list order;
    nobody's of a test that is not for everybody. Eight queries, as `class_lanes`. Raises
    NotFound."""
    activity = activity_of(staff, activity_id)
    if not sees(for_everybody(staff), activity.protocol.test):
        return []
    children = class_lanes(for_everybody(staff), activity_id)["children"]
    return [
        {"name": one["name"], "shown": one["score"]["shown"] if one["score"] else ""}
        for one in children
    ]


def reading(staff: Staff, activity_id: UUID, typed: str) -> Reading:
    """How an entry for the activity would be kept, in words, before it is. Raises NotFound. Two
    queries."""
    return reading_in(activity_of(staff, activity_id), typed)


def reading_in(activity: Activity, typed: str) -> Reading:
    """The same of an activity at hand."""
    return reading_of(activity.protocol.measure_with(conditions_of(activity, {})), typed)


def reading_of(measure: Measure, typed: str) -> Reading:
    """The same of a measure."""
    try:
        words = entry_words(read_entry(typed, measure), measure)
    except EntryError as error:
        return Reading(
            words="",
            problem=error.message,
            accepted=error.accepted,
            choices=list(error.choices),
        )
    return Reading(words=words, problem="", accepted="", choices=[])


def _laps_to_run(activity: Activity) -> int | None:
    """Whole laps of the activity's course for the distance of its test, None without a distance."""
    protocol = activity.protocol
    course = course_mm(conditions_of(activity, {}))
    if not protocol.target_mm or not course:
        return None
    return plan_laps(protocol.target_mm, course).whole


def condition_rows(activity: Activity) -> list[ConditionRow]:
    """The free conditions of an activity as they stand for the class."""
    held = conditions_of(activity, {})
    return [
        {
            "code": code,
            "words": CONDITION_WORDS.get(code, code),
            "value": value,
            "shown": condition_shown(code, value),
            "usual": condition_shown(code, activity.protocol.conditions[code]),
        }
        for code, value in held.items()
        if code in activity.protocol.conditions
    ]


def _child(
    index: int,
    child: ListedChild,
    history: list[Row],
    activity: Activity,
    day: date,
    judge: Judge,
    asked: Mapping[UUID, Sequence[Asked]],
    heads: dict[tuple[UUID, int], UUID],
    care: KeptFrom | None,
) -> Child:
    who = Subject(child.sex, child.born)
    earlier = [row for row in history if row.activity_id != activity.id]
    today = next((row for row in history if row.activity_id == activity.id), None)
    waves = activity.protocol.waves
    variant = today.variant if today else variant_of(None, earlier, judge)
    made = (today.tries or (today,)) if today else ()
    target = judge.target(today, earlier, who) if today else None
    return {
        "pupil_id": child.id,
        "number": index + 1,
        "name": child.name,
        "medical_note": child.medical_note,
        "wave": today.wave if today and today.wave else suggested_wave(index, waves),
        "variant": variant,
        "head": heads.get((child.id, 1)),
        "score": score_row(today, judge) if today else None,
        "tries": [
            {
                "number": number,
                "head": heads.get((child.id, number)),
                "score": next((score_row(r, judge) for r in made if r.try_number == number), None),
            }
            for number in _try_numbers(activity.protocol.tries, made)
        ],
        "words": score_words(judge, today, earlier, who) if today else [],
        "target": None if target is None else format_value(target, judge.measure),
        "flags": [
            {"code": one.flag, "words": one.words, "settled": one.settled}
            for one in (asked.get(today.id, ()) if today else ())
        ],
        "lane": lane_of(judge, today, earlier, variant, who, day),
        "care": care,
    }


def _try_numbers(tries: int, made: Sequence[Row]) -> range:
    """All tries there are, and one more while void ones leave room to jump again."""
    void = sum(1 for row in made if row.reason == NotDone.VOID)
    most = max((row.try_number for row in made), default=0)
    wanted = tries + void if len(made) - void < tries else most
    return range(1, max(tries, most, wanted if tries > 1 else 1) + 1)


def reason_rows(measure: Measure) -> list[ReasonRow]:
    """The reasons for no score, each with what to type for it."""
    return [
        {"key": typed, "code": reason.value, "words": REASON_WORDS[reason]}
        for typed, reason in reason_keys(measure).items()
    ]


def score_row(row: Row, judge: Judge) -> Score:
    """A score as it is shown, beside what was typed."""
    return {
        "id": row.id,
        "typed": row.typed,
        "shown": shown_of(row, judge),
        "value": row.kept,
        "reason": row.reason,
        "estimate": row.estimate,
        "variant": row.variant,
        "wave": row.wave,
        "conditions": row.conditions,
        "corrected": row.succeeds_id is not None,
        "open": row.is_open,
    }


def child_after(taken: OneTest, pupil_id: UUID) -> Child:
    """A child as `one_child` has it, for the answer to a write, which is in one transaction with it
    and has the test in turn: what is to be asked about the scores of the activity is asked. As many
    queries as `class_lanes` without what has been read, and up to three where that changes."""
    return _lanes(taken, anew=True, only=pupil_id)["children"][0]
