"""Lanes: one child's scores in one test, judged. Pure assembly; the database is in `queries`."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from lauf.catalogue.models import ProtocolVersion
from lauf.records.queries import Row, reason_words
from lauf.rules.change import (
    Change,
    TypicalError,
    Verdict,
    compare,
    personal_best,
    smallest_change,
    typical_error,
    verdict_words,
)
from lauf.rules.comparability import Key
from lauf.rules.ladders import Judgement, Ladder, judge
from lauf.rules.plausibility import CLASS_NEEDED, Flag, flags_for, modified_z_scores
from lauf.rules.quantities import Better, Measure, format_difference, format_value


@dataclass(frozen=True, slots=True)
class Variant:
    """One form of the movement; `level` grows with difficulty."""

    code: str
    name: str
    key: str
    level: int


class Judge:
    """Judges scores of one test for one year group: the same everywhere it is shown.

    ladders      by variant
    differences  of repeat tests by key, for the typical error
    """

    def __init__(
        self,
        slug: str,
        protocol: ProtocolVersion,
        ladders: dict[str, Ladder],
        differences: dict[Key, list[int]],
    ) -> None:
        self.slug = slug
        self.measure: Measure = protocol.measure
        self.seconds: int | None = protocol.seconds
        self.most_a_second: float | None = protocol.most_a_second
        self.variants = {
            entry["code"]: Variant(entry["code"], entry["name"], entry["key"], level)
            for level, entry in enumerate(protocol.variants)
        }
        self._ladders = ladders
        self._default_error: float = protocol.default_typical_error
        self._differences = differences
        self._errors: dict[Key, TypicalError] = {}

    def key(self, row: Row) -> Key:
        return Key(self.slug, row.variant, row.seconds)

    def error(self, key: Key) -> TypicalError:
        """The typical error under a key: the school's own, or the protocol's default."""
        if key not in self._errors:
            found = self._differences.get(key, [])
            self._errors[key] = typical_error(found, self._default_error)
        return self._errors[key]

    def rung(self, row: Row) -> Judgement:
        """The rung of a measured score, or why it cannot be judged."""
        ladder = self._ladders.get(row.variant)
        if ladder is None:
            return Judgement(why_not="no ladder for this year group and variant")
        if row.value is None:
            return Judgement(why_not="no score")
        return judge(row.value, self.key(row), ladder, self.measure)

    def change(self, row: Row, earlier: Sequence[Row]) -> Change:
        """The score beside the last measured one under the same key; a harder variant than ever
        before counts as moved up, other keys are not compared."""
        key = self.key(row)
        band = smallest_change(self.error(key).value)
        measured = [old for old in earlier if old.value is not None and not old.estimate]
        same = [old for old in measured if self.key(old) == key]
        if row.value is None:
            return Change(Verdict.NOT_COMPARABLE)
        if same or not measured:
            return compare(row.value, same[-1].value if same else None, self.measure, band)
        level = self._level(row.variant)
        if row.variant != measured[-1].variant and all(
            self._level(old.variant) < level for old in measured
        ):
            return Change(Verdict.MOVED_UP, band=band)
        return Change(Verdict.NOT_COMPARABLE, band=band)

    def _level(self, code: str) -> int:
        variant = self.variants.get(code)
        return variant.level if variant else -1

    def ladder_source(self, variant: str) -> str:
        ladder = self._ladders.get(variant)
        return ladder.source if ladder else "no ladder for this year group and variant"

    def rung_words(self, found: Judgement, variant: str) -> list[str]:
        """ "Centre line", "3 more to Far line"; or why there is no rung."""
        if found.why_not:
            return [f"not judged: {found.why_not}"]
        rungs = self._ladders[variant].rungs
        words = [] if found.reached is None else [rungs[found.reached].name]
        if found.to_next is None:
            return [*words, "top rung"]
        amount = format_difference(found.to_next, self.measure)
        more = "more" if self.measure.better is Better.UP else "less"
        following = rungs[0 if found.reached is None else found.reached + 1].name
        return [*words, f"{amount} {more} to {following}"]

    def words(self, row: Row, earlier: Sequence[Row]) -> list[str]:
        """Everything said of one score, in the order it is read."""
        if row.value is None:
            return [reason_words(row.reason)]
        words = self.rung_words(self.rung(row), row.variant)
        change = self.change(row, earlier)
        words.append(verdict_words(change, self.measure))
        if change.verdict is Verdict.NOT_COMPARABLE:
            words[-1] = f"not compared: {self._why_not_compared(row, earlier)}"
        if row.estimate:
            words.append("estimate: wins no best")
        return words

    def _why_not_compared(self, row: Row, earlier: Sequence[Row]) -> str:
        measured = [old for old in earlier if old.value is not None and not old.estimate]
        other_clock = [old for old in measured if old.variant == row.variant]
        if other_clock:
            return f"the clock ran {row.seconds} s, last time {other_clock[-1].seconds} s"
        before = self.variants.get(measured[-1].variant) if measured else None
        return f"last time {before.name}" if before else "nothing to compare with"

    def best(self, rows: Iterable[Row], key: Key) -> int | None:
        """The personal best under a key. Estimates and voids never win."""
        values = [(r.value, r.estimate) for r in rows if r.value is not None and self.key(r) == key]
        return personal_best(values, self.measure.better)

    def flags(self, row: Row, earlier: Sequence[Row], class_z: float | None) -> tuple[Flag, ...]:
        """The soft flags on one score."""
        if row.value is None:
            return ()
        key = self.key(row)
        history = [
            old.value
            for old in earlier
            if old.value is not None and not old.estimate and self.key(old) == key
        ]
        return flags_for(
            row.value,
            self.measure,
            seconds=row.seconds,
            most_a_second=self.most_a_second,
            earlier=history,
            band=smallest_change(self.error(key).value),
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

    def lane(self, today: Row | None, earlier: Sequence[Row], variant: str) -> dict[str, Any]:
        """The picture of one lane in canonical units: rungs, marks, best and day-to-day band."""
        seconds = today.seconds if today else self.seconds
        key = Key(self.slug, variant, seconds)
        old = [row for row in earlier if row.value is not None and self.key(row) == key]
        shown = today if today and today.value is not None else None
        measured = [row for row in old if not row.estimate]
        last = measured[-1].value if measured else None
        band = smallest_change(self.error(key).value)
        ladder = self._ladders.get(variant)
        judged = ladder is not None and ladder.key == key
        return {
            "better": self.measure.better.value,
            "variant": variant,
            "rungs": [{"name": rung.name, "at": rung.threshold} for rung in ladder.rungs]
            if ladder and judged
            else [],
            "earlier": [self._mark(row) for row in old],
            "today": self._mark(shown) if shown else None,
            "best": self.best([*old, *([shown] if shown else [])], key),
            "band": None if last is None else [max(0, last - band), last + band],
        }

    def _mark(self, row: Row) -> dict[str, Any]:
        return {
            "at": row.value,
            "on": row.on,
            "shown": format_value(row.value or 0, self.measure),
            "estimate": row.estimate,
        }


def scale_end(lanes: Iterable[dict[str, Any]]) -> int:
    """One scale for many lanes, so that their rungs line up: a little past the furthest mark."""
    furthest = 1
    for lane in lanes:
        furthest = max(
            furthest,
            *(rung["at"] for rung in lane["rungs"]),
            *(mark["at"] for mark in lane["earlier"]),
            lane["today"]["at"] if lane["today"] else 0,
            round(lane["band"][1]) if lane["band"] else 0,
        )
    return round(furthest * 1.06) + 1


def variant_of(today: Row | None, earlier: Sequence[Row], judge: Judge) -> str:
    """Which variant a child's lane shows: today's, else the one last used, else the hardest."""
    if today and today.value is not None:
        return today.variant
    used = [row.variant for row in earlier if row.value is not None]
    if used:
        return used[-1]
    return next(reversed(judge.variants), "")


def by_pupil(rows: Iterable[Row]) -> dict[UUID, list[Row]]:
    grouped: dict[UUID, list[Row]] = defaultdict(list)
    for row in rows:
        grouped[row.pupil_id].append(row)
    return grouped
