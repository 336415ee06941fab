"""The class board: a class over all its tests of a stretch of days, in one picture."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from datetime import date, datetime, timedelta
from typing import Final
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.models import ProtocolVersion, Test
from lauf.lessons.queries import calendar_of
from lauf.people.models import Pupil, Staff
from lauf.people.queries import class_of
from lauf.progress.board_columns import BoardCell, BoardTest, Column
from lauf.progress.histories import histories_of
from lauf.records.models import WITHDRAWN, PulseReading, SetAside
from lauf.rules.body.pulse import Moment, bpm
from lauf.rules.judging.attention import Need, Note, notes_on
from lauf.rules.planning.school_days import Span
from lauf.rules.reading.rounding import whole

#: What is shown where no term is on: a term's length.
_WEEKS: Final = 12


class Aside(TypedDict):
    """Somebody has looked and says why it is all right."""

    why: str
    by: str
    at: datetime


class BoardNote(TypedDict):
    """Whom to look after, or to praise, and why."""

    need: Need
    words: str
    next_step: str
    aside: Aside | None


class BoardChild(TypedDict):
    """A child's row of the board."""

    pupil_id: UUID
    number: int
    name: str
    house: str
    group: str
    cells: list[BoardCell]
    notes: list[BoardNote]


class BoardTerm(TypedDict):
    """A term of the school."""

    name: str
    starts: date
    ends: date


class BesideSpan(TypedDict):
    """The days that a board stands beside."""

    since: date
    until: date


class ClassBoard(TypedDict):
    """A class over all its tests of some days."""

    class_id: UUID
    class_name: str
    year_group: str
    since: date
    until: date
    beside: BesideSpan | None
    terms: list[BoardTerm]
    tests: list[BoardTest]
    children: list[BoardChild]


def class_board(
    staff: Staff, class_id: UUID, today: date, span: Span | None = None, beside: Span | None = None
) -> ClassBoard:
    """A row a child in the order of the list, a column a test that was given in these days (the
    term of today, if none are named): the latest score, its rung, and the change since the score
    before it, whenever that was, or since the last one of the days it is put beside; what each test
    says of the class; and whom to look after. Without any body measurement, and no order by score.
    Fourteen queries, one more where a test does not fit, and one where lengths were measured in
    hands or steps. Raises NotFound."""
    group = class_of(staff, class_id)
    span = span or term_of(today, calendar_of(group.school).terms)
    pupils = list(group.pupils.select_related("house"))
    histories = histories_of(staff, pupils, span.ends, group.id)
    columns = [
        Column(version, histories, span, beside)
        for version in histories.protocols.values()
        if any(span.holds(row.on) for one in pupils for row in histories.of(one, version.test_id))
    ]
    resting = _resting(pupils, span)
    aside = {
        (one.pupil_id, one.need): one
        for one in SetAside.objects.filter(pupil__in=pupils).select_related("by")
    }
    children = [
        _child(number, pupil, columns, resting[pupil.id], aside)
        for number, pupil in enumerate(pupils, 1)
    ]
    others = _without_end(staff, columns)
    return {
        "class_id": group.id,
        "class_name": group.name,
        "year_group": group.year_group.name,
        "since": span.starts,
        "until": span.ends,
        "beside": None if beside is None else {"since": beside.starts, "until": beside.ends},
        "terms": [
            {"name": one.name, "starts": one.starts, "ends": one.ends}
            for one in group.school.terms.filter(kind="term")
        ],
        "tests": [column.summary(others) for column in columns],
        "children": children,
    }


def term_of(today: date, terms: Sequence[Span]) -> Span:
    """The term that is on, up to today; where none is, as many weeks as a term has."""
    now = next((term for term in terms if term.holds(today)), None)
    return Span(now.starts if now else today - timedelta(weeks=_WEEKS), today)


def _resting(pupils: Sequence[Pupil], span: Span) -> dict[UUID, list[int]]:
    """Resting pulses of these days in beats a minute, one a lesson. One query."""
    found: dict[UUID, list[int]] = defaultdict(list)
    kept = (
        PulseReading.objects.filter(
            pupil__in=pupils, successor=None, moment=Moment.REST, beats__isnull=False,
            recorded_at__date__range=(span.starts, span.ends),
        )
        .exclude(reason=WITHDRAWN)
        .order_by("pupil", "lesson", "position", "recorded_at")
        .values_list("pupil_id", "lesson_id", "beats", "seconds")
    )  # fmt: skip
    lessons: dict[tuple[UUID, UUID], int] = {}
    for pupil, lesson, beats, seconds in kept:
        if beats is not None and seconds is not None:
            lessons[pupil, lesson] = whole(bpm(beats, seconds))
    for (pupil, _), rate in lessons.items():
        found[pupil].append(rate)
    return found


def _without_end(
    staff: Staff, columns: Sequence[Column]
) -> dict[str, list[tuple[UUID, str, int, int]]]:
    """Tests without an end of their own by family, for those of the columns that do not fit: id,
    name and ages. One query, none where all fit."""
    found: dict[str, list[tuple[UUID, str, int, int]]] = defaultdict(list)
    families = {column.version.test.family for column in columns if column.summed().misfit}
    if not families:
        return found
    newest = (
        ProtocolVersion.objects.filter(
            test__in=Test.objects.filter(
                school_id=staff.school_id, family__in=families, private=False
            )
        )
        .order_by("test_id", "-number")
        .distinct("test_id")
        .select_related("test__school")
    )
    for one in sorted(newest, key=lambda one: one.test.name):
        if one.measure.top is None:
            found[one.test.family].append((one.test_id, one.test.name, one.from_age, one.to_age))
    return found


def _child(
    number: int, pupil: Pupil, columns: Sequence[Column], resting: Sequence[int],
    aside: dict[tuple[UUID, str], SetAside],
) -> BoardChild:  # fmt: skip
    cells = []
    summaries = []
    for column in columns:
        cell, one = column.cell(pupil)
        cells.append(cell)
        summaries.append(one)
    notes: list[BoardNote] = []
    for note in notes_on(summaries, resting):
        settled = aside.get((pupil.id, note.need))
        holds = settled is not None and settled.words == note.words
        notes.append(_note(note, settled if holds else None))
    return {
        "pupil_id": pupil.id,
        "number": number,
        "name": pupil.name,
        "house": pupil.house.name if pupil.house else "",
        "group": pupil.group,
        "cells": cells,
        "notes": notes,
    }


def _note(one: Note, settled: SetAside | None) -> BoardNote:
    return {
        "need": one.need,
        "words": one.words,
        "next_step": one.next_step,
        "aside": None if settled is None else aside_row(settled),
    }


def aside_row(one: SetAside) -> Aside:
    """Why somebody set a note aside."""
    return {"why": one.why, "by": one.by.name, "at": one.at}
