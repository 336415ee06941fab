"""A test as a column of the board: its cells, and what they add up to."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from statistics import median
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.models import FAMILIES, ProtocolVersion
from lauf.judgement.judge import Judge
from lauf.judgement.statements import Statement, shown_of
from lauf.judgement.words import OPEN_WORDS
from lauf.messages import say
from lauf.people.models import Pupil
from lauf.progress.histories import Histories
from lauf.records.queries import Row, reason_words
from lauf.rules.judging.attention import Seen
from lauf.rules.judging.change import Change, Verdict
from lauf.rules.judging.suggestions import Form, what_to_try
from lauf.rules.judging.summaries import ClassSummary, between_words, mean_words, summarise_class
from lauf.rules.planning.school_days import Span
from lauf.rules.reading.quantities import Measure
from lauf.rules.reading.rounding import percent


class BoardCell(TypedDict):
    """A child in a test: the latest score of these days, or why there is none (`missing`). `rung`
    counts from 0, None below the first; `rungs` is 0 without a ladder; `verdict` is the change
    since the score `then`, as `rules.change.Verdict`, empty without a score."""

    attempt_id: UUID | None
    shown: str
    typed: str
    on: date | None
    activity_id: UUID | None
    form: str
    rung: int | None
    rungs: int
    rung_name: str
    verdict: str
    words: str
    estimate: bool
    then: str
    missing: str


class BoardTest(TypedDict):
    """What a test says of the class: how many, middle and middle half now and of the scores before,
    arrows and how many of them chance alone would give, and whether it fits."""

    test_id: UUID
    test: str
    family: str
    family_words: str
    n: int
    missing: int
    median: str
    half: str
    median_then: str
    half_then: str
    compared: int
    better: int
    steady: int
    lower: int
    mean_change: str
    chance: int
    at_top: str
    at_floor: str
    misfit: str
    try_instead: str


@dataclass(slots=True)
class Column:
    """One test of the board, with what its cells have found so far."""

    version: ProtocolVersion
    histories: Histories
    span: Span
    beside: Span | None
    values: list[int] = field(default_factory=list)
    before: list[int] = field(default_factory=list)
    changes: list[Change] = field(default_factory=list)
    forms: Counter[str] = field(default_factory=Counter)
    missing: int = 0

    def cell(self, pupil: Pupil) -> tuple[BoardCell, Seen]:
        """The latest score of these days beside the one it is compared with, and what it says of
        the child."""
        mine = self.histories.of(pupil, self.version.test_id)
        here = [row for row in mine if row.on >= self.span.starts]
        now = next((row for row in reversed(here) if row.value is not None), None)
        cell: BoardCell = {
            "attempt_id": None, "shown": "", "typed": "", "on": None, "activity_id": None,
            "form": "", "rung": None, "rungs": 0, "rung_name": "", "verdict": "", "words": "",
            "estimate": False, "then": "", "missing": "",
        }  # fmt: skip
        name = self.version.test.name
        if now is None:
            self.missing += 1
            cell["missing"] = _why_missing(here)
            return cell, Seen(name, None, None, 0, measured=False)
        statement = self._statement(pupil, mine, now)
        self._count(statement)
        before = "" if statement.before is None else shown_of(statement.before, statement.judge)
        cell |= {
            "attempt_id": now.id,
            "shown": statement.shown,
            "typed": now.typed,
            "on": now.on,
            "activity_id": now.activity_id,
            "form": statement.form,
            "estimate": now.estimate,
            "verdict": statement.change.verdict.value,
            "words": statement.change_words,
            "rung": statement.rung,
            "rungs": statement.rungs,
            "rung_name": statement.rung_words,
            "then": before,
        }
        return cell, Seen(
            name, statement.change.verdict, statement.rung, statement.rungs, measured=True,
            numbers=say("{before}, then {shown}", before=before, shown=statement.shown)
            if before else statement.shown,
            **_neighbours(statement.judge, now.variant),
        )  # fmt: skip

    def _statement(self, pupil: Pupil, mine: Sequence[Row], now: Row) -> Statement:
        place = mine.index(now)
        if self.beside is None:
            return self.histories.statement(pupil, mine, place)
        then = [row for row in mine[:place] if self.beside.holds(row.on)]
        return self.histories.statement(pupil, [*then, now], len(then))

    def _count(self, statement: Statement) -> None:
        self.values.append(statement.row.value or 0)
        self.changes.append(statement.change)
        self.forms[statement.row.variant] += 1
        if statement.before is not None and statement.change.verdict is not Verdict.NOT_COMPARABLE:
            self.before.append(statement.before.value or 0)

    def summed(self) -> ClassSummary:
        """What the cells add up to; after those of every child."""
        return summarise_class(self.values, self.changes, self.version.measure)

    def summary(self, others: dict[str, list[tuple[UUID, str, int, int]]]) -> BoardTest:
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
        return say("no score yet")
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
    return say(
        "{between_words} to {between_words2}",
        between_words=between_words(low, measure),
        between_words2=between_words(high, measure),
    )


def _share_words(share: float | None) -> str:
    return "" if not share else percent(share)
