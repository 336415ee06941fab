"""The class board: a class over all its tests of a stretch of days, in one picture."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from statistics import median
from typing import Any, Final
from uuid import UUID

from lauf.catalogue.models import FAMILIES, ProtocolVersion, Test
from lauf.judgement.judge import Judge
from lauf.judgement.said import Said, shown_of
from lauf.judgement.words import OPEN_WORDS
from lauf.lessons.queries import calendar_of
from lauf.people.models import Pupil, Staff
from lauf.people.queries import class_of
from lauf.progress.stories import Stories, stories_of
from lauf.records.models import WITHDRAWN, PulseReading, SetAside
from lauf.records.queries import Row, reason_words
from lauf.rules.body.pulse import Moment, bpm
from lauf.rules.judging.attention import Note, Seen, notes_on
from lauf.rules.judging.change import Change, Verdict
from lauf.rules.judging.suggestions import Form, what_to_try
from lauf.rules.judging.summaries import ClassSummary, between_words, mean_words, summarise_class
from lauf.rules.planning.school_days import Span
from lauf.rules.reading.quantities import Measure
from lauf.rules.reading.rounding import percent, whole

#: What is shown where no term is on: a term's length.
_WEEKS: Final = 12


def class_board(
    staff: Staff, class_id: UUID, today: date, span: Span | None = None, beside: Span | None = None
) -> dict[str, Any]:
    """A row a child in the order of the list, a column a test that was given in these days (the
    term of today, if none are named): the latest score, its rung, and the change since the score
    before it, whenever that was, or since the last one of the days it is put beside; what each test
    says of the class; and whom to look after. Without any body measurement, and no order by score.
    Fourteen queries, one more where a test does not fit, and one where lengths were measured in
    hands or steps. Raises NotFound."""
    group = class_of(staff, class_id)
    span = span or term_of(today, calendar_of(group.school).terms)
    pupils = list(group.pupils.select_related("house"))
    stories = stories_of(staff, pupils, span.ends, group.id)
    columns = [
        _Column(version, stories, span, beside)
        for version in stories.protocols.values()
        if any(span.holds(row.on) for one in pupils for row in stories.of(one, version.test_id))
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
    staff: Staff, columns: Sequence[_Column]
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
    number: int, pupil: Pupil, columns: Sequence[_Column], resting: Sequence[int],
    aside: dict[tuple[UUID, str], SetAside],
) -> dict[str, Any]:  # fmt: skip
    cells = []
    said = []
    for column in columns:
        cell, one = column.cell(pupil)
        cells.append(cell)
        said.append(one)
    notes = []
    for note in notes_on(said, resting):
        settled = aside.get((pupil.id, note.need))
        holds = settled is not None and settled.words == note.words
        notes.append(_note(note) | {"aside": _aside(settled) if settled and holds else None})
    return {
        "pupil_id": pupil.id,
        "number": number,
        "name": pupil.name,
        "house": pupil.house.name if pupil.house else "",
        "group": pupil.group,
        "cells": cells,
        "notes": notes,
    }


def _note(one: Note) -> dict[str, Any]:
    return {"need": one.need.value, "words": one.words, "next_step": one.next_step}


def _aside(one: SetAside) -> dict[str, Any]:
    return {"why": one.why, "by": one.by.name, "at": one.at}


@dataclass(slots=True)
class _Column:
    """One test of the board, with what its cells have found so far."""

    version: ProtocolVersion
    stories: Stories
    span: Span
    beside: Span | None
    values: list[int] = field(default_factory=list)
    before: list[int] = field(default_factory=list)
    changes: list[Change] = field(default_factory=list)
    forms: Counter[str] = field(default_factory=Counter)
    missing: int = 0

    def cell(self, pupil: Pupil) -> tuple[dict[str, Any], Seen]:
        """The latest score of these days beside the one it is compared with, and what it says of
        the child."""
        mine = self.stories.of(pupil, self.version.test_id)
        here = [row for row in mine if row.on >= self.span.starts]
        now = next((row for row in reversed(here) if row.value is not None), None)
        cell: dict[str, Any] = {
            "attempt_id": None, "shown": "", "typed": "", "on": None, "activity_id": None,
            "form": "", "rung": None, "rungs": 0, "rung_name": "", "verdict": "", "words": "",
            "estimate": False, "then": "", "missing": "",
        }  # fmt: skip
        name = self.version.test.name
        if now is None:
            self.missing += 1
            cell["missing"] = _why_missing(here)
            return cell, Seen(name, None, None, 0, measured=False)
        said = self._said(pupil, mine, now)
        self._count(said)
        before = "" if said.before is None else shown_of(said.before, said.judge)
        cell |= {
            "attempt_id": now.id,
            "shown": said.shown,
            "typed": now.typed,
            "on": now.on,
            "activity_id": now.activity_id,
            "form": said.form,
            "estimate": now.estimate,
            "verdict": said.change.verdict.value,
            "words": said.change_words,
            "rung": said.rung,
            "rungs": said.rungs,
            "rung_name": said.rung_words,
            "then": before,
        }
        return cell, Seen(
            name, said.change.verdict, said.rung, said.rungs, measured=True,
            numbers=f"{before}, then {said.shown}" if before else said.shown,
            **_neighbours(said.judge, now.variant),
        )  # fmt: skip

    def _said(self, pupil: Pupil, mine: Sequence[Row], now: Row) -> Said:
        place = mine.index(now)
        if self.beside is None:
            return self.stories.said(pupil, mine, place)
        then = [row for row in mine[:place] if self.beside.holds(row.on)]
        return self.stories.said(pupil, [*then, now], len(then))

    def _count(self, said: Said) -> None:
        self.values.append(said.row.value or 0)
        self.changes.append(said.change)
        self.forms[said.row.variant] += 1
        if said.before is not None and said.change.verdict is not Verdict.NOT_COMPARABLE:
            self.before.append(said.before.value or 0)

    def summed(self) -> ClassSummary:
        """What the cells add up to; after those of every child."""
        return summarise_class(self.values, self.changes, self.version.measure)

    def summary(self, others: dict[str, list[tuple[UUID, str, int, int]]]) -> dict[str, Any]:
        """What the test says of the class; after the cells of every child."""
        version, measure = self.version, self.version.measure
        found = self.summed()
        then = summarise_class(self.before, [], measure)
        forms = [Form(variant["name"], self.forms[variant["code"]]) for variant in version.variants]
        instead = [
            name
            for test_id, name, from_age, to_age in others[version.test.family]
            if test_id != version.test_id
            and from_age <= version.to_age and to_age >= version.from_age
        ]  # fmt: skip
        return {
            "test_id": version.test_id,
            "test": version.test.name,
            "family": version.test.family,
            "family_words": dict(FAMILIES)[version.test.family],
            "n": found.n,
            "missing": self.missing,
            "median": _middle(self.values, measure),
            "half": _half(found.lower_quartile, found.upper_quartile, found.n, measure),
            "median_then": _middle(self.before, measure),
            "half_then": _half(then.lower_quartile, then.upper_quartile, then.n, measure),
            "compared": found.compared,
            "better": found.better,
            "steady": found.steady,
            "lower": found.lower,
            "mean_change": mean_words(found, measure) or "",
            "chance": found.chance_shown,
            "at_top": _share_words(found.at_top),
            "at_floor": _share_words(found.at_floor),
            "misfit": found.misfit or "",
            "try_instead": what_to_try(found.at_top, found.at_floor, forms, instead),
        }


def _why_missing(here: Sequence[Row]) -> str:
    """Why there is no score in these days."""
    if not here:
        return "no score yet"
    last = here[-1]
    if last.is_open:
        return f"{last.typed}: {OPEN_WORDS}"
    return reason_words(last.reason) if last.reason else last.typed


def _neighbours(judge: Judge, variant: str) -> dict[str, str]:
    """The next easier and the next harder form of a movement."""
    names = [one.name for one in judge.variants.values()]
    at = list(judge.variants).index(variant) if variant in judge.variants else None
    if at is None:
        return {"easier": "", "harder": ""}
    return {
        "easier": names[at - 1] if at else "",
        "harder": names[at + 1] if at + 1 < len(names) else "",
    }


def _middle(values: Sequence[int], measure: Measure) -> str:
    return between_words(median(values), measure) if values else ""


def _half(low: float | None, high: float | None, n: int, measure: Measure) -> str:
    """The quartiles: half of the children lie between them; "" for fewer than four."""
    if low is None or high is None or n < 4:
        return ""
    return f"{between_words(low, measure)} to {between_words(high, measure)}"


def _share_words(share: float | None) -> str:
    return "" if not share else percent(share)
