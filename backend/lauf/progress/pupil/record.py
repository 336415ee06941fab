"""One child: a lane a test, and the history of every test."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, datetime
from uuid import UUID

from django.utils import timezone
from typing_extensions import TypedDict

from lauf.catalogue.models import FAMILIES, ProtocolVersion
from lauf.judgement.statements import shown_of
from lauf.lessons.queries import Calendar, calendar_of
from lauf.messages import say
from lauf.people.models import Pupil, School, Staff
from lauf.people.queries import pupil_of
from lauf.progress.histories import Histories, histories_of
from lauf.progress.lesson.lanes import Score, score_row
from lauf.progress.pupil.lanes import PupilLane, lanes_of
from lauf.records.models import WITHDRAWN, Attempt, PulseReading
from lauf.rules.body.ages import decimal_age, school_year
from lauf.rules.body.pulse import Moment, bpm
from lauf.rules.contests.schemes import Standing, overall, read_scheme, scheme_words
from lauf.rules.judging.comparability import conditions_words
from lauf.rules.planning.school_days import Span, is_due_again
from lauf.rules.reading.rounding import places, whole


class HistoryCorrection(TypedDict):
    """What an entry was before, and why it was corrected."""

    was: str
    why: str
    by: str
    at: datetime


class HistoryEntry(TypedDict):
    """A score of a child's history."""

    id: UUID
    on: date
    score: Score
    variant: str
    # The conditions it was made under, and all goes of it where there were several.
    conditions: str
    goes: list[str]
    words: list[str]
    correction: HistoryCorrection | None


class TestRecord(TypedDict):
    """A child in one test: a lane a form, and its history."""

    test_id: UUID
    test: str
    family_words: str
    due: bool
    lanes: list[PupilLane]
    history: list[HistoryEntry]


class ChildPulses(TypedDict):
    """A child's pulses in one lesson, in beats a minute: never better or lower."""

    lesson_id: UUID
    on: date
    rest: int | None
    most: int | None
    after: str
    recovery: int | None


class OverallStatement(TypedDict):
    """The school's own statement over several tests, or why there is none, and its working."""

    words: str
    why_not: str
    working: list[str]
    scheme: str


class PupilRecord(TypedDict):
    """All that is known of a child's fitness."""

    id: UUID
    name: str
    class_id: UUID
    class_name: str
    year_group: str
    house: str
    age: float | None
    medical_note: str
    tests: list[TestRecord]
    pulses: list[ChildPulses]
    overall: OverallStatement | None


def pupil_record(staff: Staff, pupil_id: UUID, today: date) -> PupilRecord:
    """One child's lanes and the history of every test in time, its pulses, and the overall
    statement where the school wants one. Ten queries. Raises NotFound."""
    pupil = pupil_of(staff, pupil_id)
    histories = histories_of(staff, [pupil], today)
    corrected = _corrections(pupil)
    calendar = calendar_of(pupil.school)
    tests = [
        _test_record(pupil, protocol, histories, corrected, today, calendar)
        for protocol in histories.protocols.values()
    ]
    # What was done last comes first.
    tests.sort(key=lambda test: (-max(e["on"].toordinal() for e in test["history"]), test["test"]))
    return {
        "id": pupil.id,
        "name": pupil.name,
        "class_id": pupil.last_class.id,
        "class_name": pupil.last_class.name,
        "year_group": pupil.last_class.year_group.name,
        "house": pupil.house.name if pupil.house else "",
        "age": places(decimal_age(pupil.born, today), 1) if pupil.born else None,
        "medical_note": pupil.medical_note,
        "tests": tests,
        "pulses": pulses_of(pupil),
        "overall": overall_of(pupil, histories, year_so_far(pupil.school, today)),
    }


def year_so_far(school: School, today: date) -> Span:
    """The school year up to today."""
    cut_off = school.cut_off
    return Span(date(school_year(today, cut_off), cut_off.month, cut_off.day), today)


def overall_of(pupil: Pupil, histories: Histories, span: Span) -> OverallStatement | None:
    """The school's own statement over a child's latest scores of these days, with its working; None
    where the school wants none. No query."""
    scheme = read_scheme(pupil.school.scheme)
    if scheme is None:
        return None
    standings = []
    for test_id, protocol in histories.protocols.items():
        place = histories.latest(pupil, test_id, span.starts)
        if place is None:
            continue
        statement = histories.statement(pupil, histories.of(pupil, test_id), place)
        if statement.ladder is not None:
            standings.append(Standing(protocol.test.name, statement.rung, statement.rung_name))
    found = overall(scheme, standings)
    return {
        "words": found.words,
        "why_not": found.why_not,
        "working": list(found.working),
        "scheme": scheme_words(scheme),
    }


def pulses_of(pupil: Pupil) -> list[ChildPulses]:
    """A child's pulses, a row a lesson, newest first: at rest, the highest after work, recovery.
    One query."""
    kept = (
        PulseReading.objects.filter(pupil=pupil, successor=None, beats__isnull=False)
        .order_by("lesson__starts_at", "position", "recorded_at")
        .values_list("lesson_id", "lesson__starts_at", "moment", "label", "beats", "seconds")
    )
    lessons: dict[UUID, ChildPulses] = {}
    for lesson, starts_at, moment, label, beats, seconds in kept:
        row = lessons.setdefault(
            lesson,
            {"lesson_id": lesson, "on": timezone.localdate(starts_at), "rest": None, "most": None,
             "after": "", "recovery": None},
        )  # fmt: skip
        rate = whole(bpm(beats or 0, seconds or 60))
        if moment == Moment.REST:
            row["rest"] = rate
        elif moment == Moment.RECOVERY:
            row["recovery"] = rate
        elif row["most"] is None or rate > row["most"]:
            row["most"] = rate
            row["after"] = label or (say("the warm-up") if moment == Moment.WARM_UP else "")
    return list(lessons.values())[::-1]


def _corrections(pupil: Pupil) -> dict[UUID, HistoryCorrection]:
    """What the entry before a correction said, by the id of the correction. One query."""
    found = (
        Attempt.objects.filter(pupil=pupil, succeeds__isnull=False)
        .exclude(succeeds__reason=WITHDRAWN)
        .values_list("id", "succeeds__typed", "why", "recorded_by__name", "recorded_at")
    )
    return {
        attempt_id: {"was": was, "why": why, "by": by, "at": at}
        for attempt_id, was, why, by, at in found
    }


def _test_record(
    pupil: Pupil,
    protocol: ProtocolVersion,
    histories: Histories,
    corrected: Mapping[UUID, HistoryCorrection],
    today: date,
    calendar: Calendar,
) -> TestRecord:
    mine = histories.of(pupil, protocol.test_id)
    entries: list[HistoryEntry] = []
    for place, row in enumerate(mine):
        statement = histories.statement(pupil, mine, place)
        entries.append(
            {
                "id": row.id,
                "on": row.on,
                "score": score_row(row, statement.judge),
                "variant": statement.form,
                "conditions": conditions_words(row.conditions),
                "goes": [shown_of(one, statement.judge) for one in row.tries],
                "words": statement.words,
                "correction": corrected.get(row.id),
            }
        )
    return {
        "test_id": protocol.test_id,
        "test": protocol.test.name,
        "family_words": dict(FAMILIES)[protocol.test.family],
        "due": is_due_again(mine[-1].on, today, calendar.terms),
        "lanes": lanes_of(pupil, protocol, histories),
        "history": entries[::-1],
    }
