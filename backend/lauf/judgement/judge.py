"""Judges scores of one test for one year group: the same everywhere it is shown."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, NamedTuple
from uuid import UUID

import numpy as np

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import Norm, key_conditions
from lauf.judgement.subject import UNKNOWN, Subject
from lauf.messages import say
from lauf.records.queries import Row
from lauf.rules.judging.change import (
    Change,
    PairSum,
    TypicalError,
    Verdict,
    compare,
    personal_best,
    smallest_change,
    typical_error,
)
from lauf.rules.judging.comparability import CALLS, COURSE, WEIGHTS, Key
from lauf.rules.judging.ladders import Benchmark, Judgement, judge, pick_ladder
from lauf.rules.judging.norms import Standing
from lauf.rules.judging.plausibility import CLASS_NEEDED, Flag, flags_for, modified_z_scores
from lauf.rules.judging.targets import next_target
from lauf.rules.reading.quantities import Kind, Measure


@dataclass(frozen=True, slots=True)
class Variant:
    """One form of the movement; `level` grows with difficulty."""

    code: str
    name: str
    key: str
    level: int


class Placed(NamedTuple):
    """A score's place in one published norm, with all that stands beside it."""

    norm: Norm
    standing: Standing


def to_ladder(key: Key) -> Key:
    """The key a score meets a ladder under: what a rep of each level counts is the teacher's word,
    for the rungs too; two scores are compared under the same weights only."""
    return key.without(WEIGHTS)


class Judge:
    """Judges scores of one test for one year group.

    ladders   those of the year group and those by age
    repeats   sums of repeat tests by key, for the typical error
    norms     published norms of the test
    """

    def __init__(
        self,
        protocol: ProtocolVersion,
        ladders: Sequence[Benchmark],
        repeats: Mapping[Key, PairSum],
        norms: Sequence[Norm] = (),
    ) -> None:
        self.slug: str = protocol.test.slug
        self.protocol = protocol
        self.measure: Measure = protocol.measure
        self.seconds: int | None = protocol.seconds
        self.most_a_second: float | None = protocol.most_a_second
        #: Height, weight and pulse change as children grow: never better or lower, never a target.
        self.measures_only = protocol.test.private or self.measure.kind is Kind.PULSE
        self.variants = {
            entry["code"]: Variant(entry["code"], entry["name"], entry["key"], level)
            for level, entry in enumerate(protocol.variants)
        }
        self._usual = key_conditions(protocol.kind, protocol.conditions)
        self.ladders = ladders
        self._repeats = repeats
        self._norms = norms
        self._keys: dict[tuple[Any, ...], Key] = {}
        self._errors: dict[tuple[Key, int | None], TypicalError] = {}
        self._by_age = any(ladder.ages for ladder in ladders)
        self._picked: dict[tuple[str, str, int | None], Benchmark | None] = {}

    def key(self, row: Row) -> Key:
        """The key of a score: what it may be compared with. Most are of one of a few."""
        asked = (row.variant, row.seconds, row.meaning, *row.conditions.items())
        if asked not in self._keys:
            held = key_conditions(self.protocol.kind, row.conditions)
            self._keys[asked] = Key(self.slug, row.variant, row.seconds, row.meaning, held)
        return self._keys[asked]

    def usual_key(self, variant: str) -> Key:
        """The key of a score made now in the usual way."""
        return Key(self.slug, variant, self.seconds, self.protocol.meaning, self._usual)

    def error(self, key: Key, age: int | None = None) -> TypicalError:
        """The typical error under a key at an age: the school's repeat tests weighed with the
        protocol's own value."""
        asked = (key, age if self.protocol.errors_by_age else None)
        if asked not in self._errors:
            share = self.protocol.error_share is not None
            self._errors[asked] = typical_error(
                self._repeats.get(key, PairSum()),
                starting_error(self.protocol, age),
                self.measure,
                share=share,
            )
        return self._errors[asked]

    def band(self, key: Key, level: float, age: int | None = None) -> float:
        """MDC90 in canonical units at a level of score."""
        return smallest_change(self.error(key, age).at(level))

    def ladder(self, variant: str, who: Subject, on: date) -> Benchmark | None:
        """The ladder that fits a child on a day."""
        asked = (variant, who.sex, who.age(on) if self._by_age else None)
        if asked not in self._picked:
            self._picked[asked] = pick_ladder(self.ladders, *asked)
        return self._picked[asked]

    def rung(self, row: Row, who: Subject) -> Judgement:
        """The rung of a measured score, or why it cannot be judged."""
        if row.value is None:
            why = say("no hand or step measured yet") if row.informal else say("no score")
            if row.is_open:
                why = say("waiting for an answer")
            return Judgement(why_not=why)
        ladder = self.ladder(row.variant, who, row.on)
        if ladder is None:
            return Judgement(why_not=say("no ladder for this year group and form"))
        return judge(row.value, to_ladder(self.key(row)), ladder, self.measure)

    def placed(self, row: Row, who: Subject) -> list[Placed]:
        """The score in every norm of the test: a standing, or why there is none."""
        if row.value is None:
            return []
        found = []
        for norm in self._norms:
            variant, seconds, meaning = norm.key_parts
            if variant == "bmi":
                continue
            if seconds is not None and seconds != row.seconds:
                why = say("the norm is for {seconds} s", seconds=seconds)
                found.append(Placed(norm, Standing(why_not=why)))
            elif meaning != row.meaning or (variant and variant != row.variant):
                why = say("the norm is for another form of this test")
                found.append(Placed(norm, Standing(why_not=why)))
            else:
                standing = norm.of(row.value, who.decimal_age(row.on), who.sex)
                found.append(Placed(norm, standing))
        return found

    def change(self, row: Row, earlier: Sequence[Row], who: Subject = UNKNOWN) -> Change:
        """The score beside the last measured one under the same key; a harder variant than ever
        before counts as moved up, other keys are not compared."""
        if row.value is None or self.measures_only:
            return Change(Verdict.NOT_COMPARABLE)
        compared = self.before(row, earlier)
        measured = [] if compared else _measured(earlier)
        if compared or not measured:
            last = compared.value if compared else None
            level = row.value if last is None else last
            band = self.band(self.key(row), level, who.age(row.on))
            return compare(row.value, last, self.measure, band)
        now = self.variants.get(row.variant)
        # Of a form that the test has no more nobody can say whether it was easier.
        before = [self.variants.get(old.variant) for old in measured]
        if now and all(old is not None and old.level < now.level for old in before):
            return Change(Verdict.MOVED_UP)
        return Change(Verdict.NOT_COMPARABLE)

    def under(self, rows: Iterable[Row], key: Key) -> list[Row]:
        """Of these rows those under a key."""
        return [row for row in rows if self.key(row) == key]

    def ladder_source(self, variant: str, who: Subject, on: date) -> str:
        ladder = self.ladder(variant, who, on)
        return ladder.source if ladder else say("no ladder for this year group and form")

    def target(self, row: Row, earlier: Sequence[Row], who: Subject) -> int | None:
        """The child's next target after this score, None at the top or without one."""
        if row.value is None or self.measures_only:
            return None
        key = self.key(row)
        best = self.best([*earlier, row], key)
        if best is None:
            return None
        measure = self.measure
        if key.condition(CALLS) is not None:
            measure = self.protocol.measure_with(row.conditions)
        return next_target(best, *self.aim_from(best, row, who), measure)

    def aim_from(self, best: int, row: Row, who: Subject) -> tuple[int | None, float]:
        """What a next target is made from: where the next rung begins, None without one, and what
        counts as a change at the best so far."""
        key, ladder = self.key(row), self.ladder(row.variant, who, row.on)
        rung = None
        if ladder is not None:
            judged = judge(best, to_ladder(key), ladder, self.measure)
            if judged.why_not is None and judged.to_next is not None:
                rung = best + judged.to_next * self.measure.better.sign
        return rung, self.band(key, best, who.age(row.on))

    def best(self, rows: Iterable[Row], key: Key) -> int | None:
        """The personal best under a key. Estimates and voids never win."""
        values = [(r.value, r.estimate) for r in rows if r.value is not None and self.key(r) == key]
        return personal_best(values, self.measure.better)

    def is_new_best(self, row: Row, earlier: Sequence[Row]) -> bool:
        """Whether a measured score beats every earlier one under its key."""
        before = self.best(earlier, self.key(row))
        if before is None or row.value is None or row.estimate:
            return False
        return (row.value - before) * self.measure.better.sign > 0

    def before(self, row: Row, earlier: Sequence[Row]) -> Row | None:
        """The earlier score that `change` compares with: the last measured one of the key."""
        key = self.key(row)
        measured = (old for old in reversed(earlier) if old.value is not None and not old.estimate)
        return next((old for old in measured if self.key(old) == key), None)

    def flags(
        self,
        row: Row,
        earlier: Sequence[Row],
        class_z: float | None,
        who: Subject = UNKNOWN,
        ran_ms: int | None = None,
    ) -> tuple[Flag, ...]:
        """The soft flags on one score. `ran_ms` is how long the clock of its activity ran."""
        if row.value is None:
            return ()
        key = self.key(row)
        history = [old.value for old in self.under(_measured(earlier), key)]
        course = row.conditions.get(COURSE)
        return flags_for(
            row.value,
            self.measure,
            seconds=row.seconds,
            # Said to be right already, where it was more than anyone is known to do.
            most_a_second=None if row.parts.get("sure") else self.most_a_second,
            course_mm=course if isinstance(course, int) else None,
            age=who.decimal_age(row.on),
            bounds=self.protocol.bounds_by_age,
            ran_ms=None if row.parts.get("sure") else ran_ms,
            earlier=[value for value in history if value is not None],
            # A child that has grown is not asked about.
            band=None if self.measures_only else self.band(key, row.value, who.age(row.on)),
            class_z=class_z,
            estimate=row.estimate,
        )

    def class_z(self, rows: Iterable[Row]) -> dict[UUID, float]:
        """Modified z-score of each measured score among those of the same key, by attempt id."""
        groups: dict[Key, list[Row]] = defaultdict(list)
        for row in rows:
            if row.value is not None:
                groups[self.key(row)].append(row)
        found: dict[UUID, float] = {}
        for group in groups.values():
            if len(group) >= CLASS_NEEDED:
                scores = modified_z_scores([row.value or 0 for row in group])
                found.update((row.id, z) for row, z in zip(group, scores, strict=True))
        return found


def _measured(rows: Iterable[Row]) -> list[Row]:
    return [row for row in rows if row.value is not None and not row.estimate]


def starting_error(protocol: ProtocolVersion, age: int | None) -> float:
    """The protocol's own typical error at an age, linear between the ages it is given for: in
    canonical units, or a share of the score where it is one."""
    usual = protocol.error_share
    value: float = protocol.default_typical_error if usual is None else usual
    table = protocol.errors_by_age
    if not table or age is None:
        return value
    ages, values = zip(*table, strict=True)
    return float(np.interp(age, ages, values))
