"""Lanes: one child's scores in one test, judged. Pure assembly; the database is in `queries`."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from fractions import Fraction
from typing import Any, Final, NamedTuple
from uuid import UUID

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import Norm, key_conditions
from lauf.records.queries import Row, reason_words
from lauf.rules import laps, shuttle
from lauf.rules.ages import age_in_years, decimal_age
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
from lauf.rules.comparability import Key, as_metres, metres_run, why_not_comparable
from lauf.rules.groups import next_target
from lauf.rules.ladders import Judgement, Ladder, judge, pick_ladder
from lauf.rules.norms import Standing
from lauf.rules.plausibility import CLASS_NEEDED, Flag, flags_for, modified_z_scores
from lauf.rules.quantities import (
    Better,
    Kind,
    Measure,
    decimal,
    format_difference,
    format_number,
    format_value,
    to_step,
)
from lauf.rules.tries import Merge


@dataclass(frozen=True, slots=True)
class Variant:
    """One form of the movement; `level` grows with difficulty."""

    code: str
    name: str
    key: str
    level: int


class Who(NamedTuple):
    """What a benchmark may ask of a child."""

    sex: str = ""
    born: date | None = None

    def age(self, on: date) -> int | None:
        """Completed years on a day, None when the birth date is not known (or lies after it)."""
        return age_in_years(self.born, on) if self.born and self.born <= on else None

    def decimal_age(self, on: date) -> float | None:
        return decimal_age(self.born, on) if self.born and self.born <= on else None


#: A child of whom nothing is known.
NOBODY: Final = Who()


class Placed(NamedTuple):
    """A score's place in one published norm, with all that stands beside it."""

    norm: Norm
    standing: Standing


class Judge:
    """Judges scores of one test for one year group: the same everywhere it is shown.

    ladders      those of the year group and those by age
    differences  of repeat tests by key, for the typical error
    norms        published norms of the test
    """

    def __init__(
        self,
        protocol: ProtocolVersion,
        ladders: Sequence[Ladder],
        differences: dict[Key, list[int]],
        norms: Sequence[Norm] = (),
    ) -> None:
        self.slug: str = protocol.test.slug
        self.protocol = protocol
        self.measure: Measure = protocol.measure
        self.merge = Merge(protocol.merge)
        self.seconds: int | None = protocol.seconds
        self.most_a_second: float | None = protocol.most_a_second
        self.variants = {
            entry["code"]: Variant(entry["code"], entry["name"], entry["key"], level)
            for level, entry in enumerate(protocol.variants)
        }
        self._usual = key_conditions(protocol.kind, protocol.conditions)
        self._ladders = ladders
        self._default_error: float = protocol.default_typical_error
        self._differences = differences
        self._norms = norms
        self._errors: dict[Key, TypicalError] = {}
        self._by_age = any(ladder.ages for ladder in ladders)
        self._picked: dict[tuple[str, str, int | None], Ladder | None] = {}

    def key(self, row: Row) -> Key:
        held = key_conditions(self.protocol.kind, row.conditions) if row.conditions else ()
        return Key(self.slug, row.variant, row.seconds, row.meaning, held)

    def usual_key(self, variant: str) -> Key:
        """The key of a score made now in the usual way."""
        return Key(self.slug, variant, self.seconds, self.protocol.meaning, self._usual)

    def error(self, key: Key) -> TypicalError:
        """The typical error under a key: the school's own, or the protocol's default."""
        if key not in self._errors:
            found = self._differences.get(key, [])
            self._errors[key] = typical_error(found, self._default_error)
        return self._errors[key]

    def ladder(self, variant: str, who: Who, on: date) -> Ladder | None:
        """The ladder that fits a child on a day."""
        asked = (variant, who.sex, who.age(on) if self._by_age else None)
        if asked not in self._picked:
            self._picked[asked] = pick_ladder(self._ladders, *asked)
        return self._picked[asked]

    def rung(self, row: Row, who: Who) -> Judgement:
        """The rung of a measured score, or why it cannot be judged."""
        if row.value is None:
            why = "no hand or step measured yet" if row.informal else "no score"
            return Judgement(why_not=why)
        ladder = self.ladder(row.variant, who, row.on)
        if ladder is None:
            return Judgement(why_not="no ladder for this year group and variant")
        return judge(row.value, self.key(row), ladder, self.measure)

    def placed(self, row: Row, who: Who) -> list[Placed]:
        """The score in every norm of the test: a standing, or why there is none."""
        if row.value is None:
            return []
        found = []
        for norm in self._norms:
            variant, seconds, meaning = norm.key_parts
            if variant == "bmi":
                continue
            if seconds is not None and seconds != row.seconds:
                why = f"the norm is for {seconds} s"
                found.append(Placed(norm, Standing(why_not=why)))
            elif meaning != row.meaning or (variant and variant != row.variant):
                why = "the norm is for another form of this test"
                found.append(Placed(norm, Standing(why_not=why)))
            else:
                standing = norm.of(row.value, who.decimal_age(row.on), who.sex)
                found.append(Placed(norm, standing))
        return found

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

    def ladder_source(self, variant: str, who: Who, on: date) -> str:
        ladder = self.ladder(variant, who, on)
        return ladder.source if ladder else "no ladder for this year group and variant"

    def rung_words(self, found: Judgement, ladder: Ladder | None) -> list[str]:
        """ "Centre line", "3 more to Far line"; or why there is no rung."""
        if found.why_not or ladder is None:
            return [f"not judged: {found.why_not}"]
        rungs = ladder.rungs
        words = [] if found.reached is None else [rungs[found.reached].name]
        if found.to_next is None:
            return [*words, "top rung"]
        amount = format_difference(found.to_next, self.measure)
        more = "more" if self.measure.better is Better.UP else "less"
        following = rungs[0 if found.reached is None else found.reached + 1].name
        return [*words, f"{amount} {more} to {following}"]

    def words(self, row: Row, earlier: Sequence[Row], who: Who = NOBODY) -> list[str]:
        """Everything said of one score, in the order it is read."""
        if row.reason:
            distance = row.parts.get("distance_mm")
            run = f", {decimal(Fraction(distance, 1000), 0)} m run" if distance else ""
            return [f"{reason_words(row.reason)}{run}"]
        if row.value is None:
            return ["kept as typed: measure the child's hand or step to compare it"]
        words = []
        if self._ladders:
            ladder = self.ladder(row.variant, who, row.on)
            words = self.rung_words(self.rung(row, who), ladder)
        words.append(self.change_words(row, earlier, self.change(row, earlier)))
        if row.estimate:
            words.append("estimate: wins no best")
        words += self._run_words(row, who)
        words += [f"{p.standing.words} ({p.norm.name})" for p in self.placed(row, who)
                  if p.standing.words]  # fmt: skip
        return words

    def _run_words(self, row: Row, who: Who) -> list[str]:
        """What a run says besides its score: pace and halves of a time over a set distance; metres,
        speed and estimate of a staged run."""
        if row.value is None:
            return []
        if self.measure.kind is Kind.STAGE:
            return self._stage_words(row.value, who.age(row.on))
        target = self.measure.target_mm
        if not target:
            return []
        per_km = to_step(laps.pace(row.value, target, laps.KM_MM), 1000)
        words = [f"{format_value(per_km, self.measure)} a km"]
        if splits := row.parts.get("splits"):
            words.append(f"halves: {laps.read_splits(splits).words}")
        return words

    def _stage_words(self, shuttles: int, age: int | None) -> list[str]:
        schedule = self.measure.schedule
        words = [f"{shuttles} shuttles, {shuttles * shuttle.SHUTTLE_MM // 1000} m"]
        speed = shuttle.last_speed(shuttles, schedule)
        if speed is None:
            return words
        words.append(f"last full stage at {speed:g} km/h")
        if age is not None and shuttle.ESTIMATE_AGES[0] <= age <= shuttle.ESTIMATE_AGES[1]:
            estimate = shuttle.estimated_vo2max(speed, age)
            words.append(f"VO₂max about {estimate:.1f} ml/kg/min, an estimate (Léger 1988)")
        return words

    def change_words(self, row: Row, earlier: Sequence[Row], change: Change) -> str:
        """A change of `row` against `earlier` in words; or why they are not compared."""
        if change.verdict is Verdict.NOT_COMPARABLE:
            return self._in_metres(row, earlier) or self._not_compared(row, earlier)
        return verdict_words(change, self.measure)

    def _not_compared(self, row: Row, earlier: Sequence[Row]) -> str:
        measured = [old for old in earlier if old.value is not None and not old.estimate]
        if not measured:
            return "not compared: nothing to compare with"
        same_form = [old for old in measured if old.variant == row.variant]
        if not same_form:
            before = self.variants.get(measured[-1].variant)
            return f"not compared: last time {before.name if before else 'another variant'}"
        last = same_form[-1]
        if last.seconds != row.seconds:
            return f"not compared: the clock ran {row.seconds} s, last time {last.seconds} s"
        return f"not compared: {why_not_comparable(self.key(row), self.key(last), 'last time')}"

    def _in_metres(self, row: Row, earlier: Sequence[Row]) -> str | None:
        """Counts on courses of other lengths, compared as metres; None when they cannot be."""
        key = self.key(row)
        for old in reversed(earlier):
            if old.value is None or old.estimate or not as_metres(key, self.key(old)):
                continue
            now, then = metres_run(row.value or 0, key), metres_run(old.value, self.key(old))
            shown, before = (decimal(Fraction(mm, 1000), 1) for mm in (now, then))
            return f"as metres, on another course: {shown} m, last time {before} m"
        return None

    def target(self, row: Row, earlier: Sequence[Row], who: Who) -> int | None:
        """The child's next target after this score, None at the top or without one."""
        if row.value is None:
            return None
        key = self.key(row)
        best = self.best([*earlier, row], key)
        if best is None:
            return None
        ladder = self.ladder(row.variant, who, row.on)
        rung = None
        if ladder is not None:
            judged = judge(best, key, ladder, self.measure)
            if judged.why_not is None and judged.to_next is not None:
                rung = best + judged.to_next * self.measure.better.sign
        return next_target(best, rung, smallest_change(self.error(key).value), self.measure)

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

    def lane(
        self, today: Row | None, earlier: Sequence[Row], variant: str, who: Who, on: date
    ) -> dict[str, Any]:
        """The picture of one lane in canonical units: rungs, marks, best and day-to-day band."""
        shown = today if today and today.value is not None else None
        key = self.key(shown) if shown else self._latest_key(earlier, variant)
        old = [row for row in earlier if row.value is not None and self.key(row) == key]
        measured = [row for row in old if not row.estimate]
        last = measured[-1].value if measured else None
        band = smallest_change(self.error(key).value)
        ladder = self.ladder(variant, who, on)
        judged = ladder is not None and ladder.key == key
        return {
            "better": self.measure.better.value,
            "variant": variant,
            "rungs": [
                {
                    "name": rung.name,
                    "at": rung.threshold,
                    "shown": format_number(rung.threshold, self.measure),
                }
                for rung in ladder.rungs
            ]
            if ladder and judged
            else [],
            "earlier": [self._mark(row) for row in old],
            "today": self._mark(shown) if shown else None,
            "best": self.best([*old, *([shown] if shown else [])], key),
            "band": None
            if last is None
            else [max(float(self.measure.lowest), last - band), last + band],
        }

    def _latest_key(self, earlier: Sequence[Row], variant: str) -> Key:
        """What a child would be compared with: the usual key, or the one last used if none is."""
        usual = self.usual_key(variant)
        used = [self.key(r) for r in earlier if r.value is not None and r.variant == variant]
        return usual if usual in used or not used else used[-1]

    def _mark(self, row: Row) -> dict[str, Any]:
        return {
            "at": row.value,
            "on": row.on,
            "shown": format_value(row.value or 0, self.measure),
            "estimate": row.estimate,
        }


def put_to_scale(lanes: Sequence[dict[str, Any]], kind: Kind) -> None:
    """One scale for many lanes, so that their rungs line up: counts from nought to a little past
    the furthest mark; times, measures and offsets over the stretch that is used."""
    marks: list[float] = []
    for lane in lanes:
        marks += [rung["at"] for rung in lane["rungs"]]
        marks += [mark["at"] for mark in lane["earlier"]]
        marks += [lane["today"]["at"]] if lane["today"] else []
        marks += lane["band"] or []
    low, high = min(marks, default=0), max(marks, default=1)
    from_zero = kind not in (Kind.OFFSET, Kind.MASS, Kind.PULSE) and not any(
        lane["better"] == Better.DOWN for lane in lanes
    )
    if from_zero:
        origin, scale = 0, round(max(high, 1) * 1.06) + 1
    else:
        room = max(1, (high - low) * 0.12)
        origin, scale = math.floor(low - room), math.ceil(high + room)
    for lane in lanes:
        lane["origin"], lane["scale"] = origin, scale


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
