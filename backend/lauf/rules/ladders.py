"""Ladders: a school's own rungs for a test, and what rung a score reaches."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from lauf.rules.comparability import Key, why_not_comparable
from lauf.rules.entry import EntryError, read_entry
from lauf.rules.quantities import Better, Measure, format_number, format_value


@dataclass(frozen=True, slots=True)
class Rung:
    """One rung: reached at the threshold, or only beyond it when `beyond` is set.

    For a higher-is-better test that reads "at least" or "more than"; for a lower-is-better
    test "at most" or "less than".
    """

    name: str
    threshold: int
    beyond: bool = False

    def reached_by(self, value: int, better: Better) -> bool:
        ahead = (value - self.threshold) * better.sign
        return ahead > 0 if self.beyond else ahead >= 0


@dataclass(frozen=True, slots=True)
class Ladder:
    """Rungs from the lowest to the highest, for scores under exactly one key, and where they
    come from. `sex` "" is for everybody; `ages` are completed years, both included, where the
    ladder goes by age and not by year group."""

    rungs: tuple[Rung, ...]
    key: Key
    source: str = ""
    sex: str = ""
    ages: tuple[int, int] | None = None


def pick_ladder(
    ladders: Iterable[Ladder], variant: str, sex: str = "", age: int | None = None
) -> Ladder | None:
    """The ladder that fits a child best among those of its year group and those by age: the year
    group's before one by age, one for its sex before one for everybody."""
    fitting = [
        ladder
        for ladder in ladders
        if ladder.key.variant == variant
        and ladder.sex in ("", sex)
        and (ladder.ages is None or (age is not None and ladder.ages[0] <= age <= ladder.ages[1]))
    ]
    return min(fitting, key=lambda ladder: (ladder.ages is not None, not ladder.sex), default=None)


@dataclass(frozen=True, slots=True)
class Judgement:
    """What a ladder says of one score.

    reached   index of the highest rung reached, None for none yet
    to_next   canonical amount to the next rung, None at the top
    why_not   why the ladder cannot judge this score; the rest is then None
    """

    reached: int | None = None
    to_next: int | None = None
    why_not: str | None = None


def judge(value: int, key: Key, ladder: Ladder, measure: Measure) -> Judgement:
    """The rung a score reaches and the distance to the next, or why it cannot be said."""
    if not ladder.rungs:
        return Judgement(why_not="the ladder has no rungs")
    if reason := why_not_comparable(key, ladder.key, "the ladder"):
        return Judgement(why_not=reason)
    return judge_comparable(value, ladder, measure)


def judge_comparable(value: int, ladder: Ladder, measure: Measure) -> Judgement:
    """As `judge`, for a score already known to share the ladder's key."""
    reached: int | None = None
    for index, rung in enumerate(ladder.rungs):
        if not rung.reached_by(value, measure.better):
            short = (rung.threshold - value) * measure.better.sign
            return Judgement(reached, short + (measure.resolution if rung.beyond else 0))
        reached = index
    return Judgement(reached, None)


class Fault(StrEnum):
    """What can be wrong with a ladder."""

    GAP = "gap"
    OVERLAP = "overlap"
    OUT_OF_ORDER = "out of order"
    BEYOND_THE_CAP = "beyond the cap"
    OTHER_CLOCK = "other clock"
    OTHER_VARIANT = "other variant"
    OTHER_COURSE = "other conditions"
    UNIT_MISMATCH = "unit mismatch"


@dataclass(frozen=True, slots=True)
class Finding:
    """One fault, the index of the rung it concerns, and a sentence for the teacher."""

    fault: Fault
    rung: int
    words: str


def findings(ladder: Ladder, measure: Measure, test: Key) -> tuple[Finding, ...]:
    """Faults of a ladder against the test it is meant for.

    `test` holds the test's own clock and the variant the ladder is offered for.
    """
    found: list[Finding] = []
    if ladder.key.seconds != test.seconds:
        words = f"The ladder is for {ladder.key.seconds} s, the test lasts {test.seconds} s."
        found.append(Finding(Fault.OTHER_CLOCK, 0, words))
    if ladder.key.variant != test.variant:
        words = f"The ladder is for “{ladder.key.variant}”, not “{test.variant}”."
        found.append(Finding(Fault.OTHER_VARIANT, 0, words))
    if (reason := why_not_comparable(test, ladder.key, "the ladder")) and not found:
        found.append(Finding(Fault.OTHER_COURSE, 0, f"{reason[0].upper()}{reason[1:]}."))
    for index, rung in enumerate(ladder.rungs):
        shown = format_number(rung.threshold, measure)
        if not measure.lowest <= rung.threshold <= max(measure.highest, measure.ceiling):
            low, high = (
                format_value(measure.lowest, measure),
                format_value(measure.highest, measure),
            )
            words = (
                f"“{rung.name}” at {format_value(rung.threshold, measure)} is not a score of this"
            )
            words += f" test ({low} to {high}): is it in another unit?"
            found.append(Finding(Fault.UNIT_MISMATCH, index, words))
        if measure.better is Better.UP and not rung.reached_by(measure.ceiling, measure.better):
            words = f"“{rung.name}” asks for more than the test's maximum: nobody can reach it."
            found.append(Finding(Fault.BEYOND_THE_CAP, index, words))
        if index and not _harder(rung, ladder.rungs[index - 1], measure.better):
            words = f"“{rung.name}” ({shown}) is not harder than the rung before it."
            found.append(Finding(Fault.OUT_OF_ORDER, index, words))
    return tuple(found)


def _harder(rung: Rung, before: Rung, better: Better) -> bool:
    ahead = (rung.threshold - before.threshold) * better.sign
    return ahead > 0 or (ahead == 0 and rung.beyond and not before.beyond)


@dataclass(frozen=True, slots=True)
class Printed:
    """Ladder ranges as printed, turned into rungs, with what is wrong with them."""

    rungs: tuple[Rung, ...]
    findings: tuple[Finding, ...]


_RANGE = re.compile(r"(?P<low>\S.*?)\s*(?:–|—|\bto\b|(?<=[\w\"'])\s*-)\s*(?P<high>\S.*)")
_OPEN = re.compile(
    r"(?:(?P<beyond>more than|over|above|less than|under|below|>|<)|(?:at least|at most|≥|≤|>=|<=))"
    r"\s*(?P<end>\S.*)"
)


def read_printed(text: str, names: Sequence[str], measure: Measure) -> Printed:
    """Turn ranges printed on a card into thresholds.

    "8–10, 12–17, more than 18" gives at least 8, at least 12, more than 18. A value in no range
    counts as having reached the lower rung, and a `gap` finding says so.
    Raises `EntryError` when a part is not a range, naming the part.

    `names` names the rungs from the lowest; missing names become "Rung 1", "Rung 2", …
    """
    parts = [part.strip() for part in re.split(r"[,;\n]", text) if part.strip()]
    if not parts:
        raise EntryError("No ranges were typed.", "Type ranges such as 8–10, 11–17, more than 17.")
    rungs: list[Rung] = []
    found: list[Finding] = []
    end_before: int | None = None  # the last value inside the range before
    for index, part in enumerate(parts):
        name = names[index] if index < len(names) else f"Rung {index + 1}"
        rung, end = _read_part(part, name, measure)
        first = rung.threshold + (measure.resolution * measure.better.sign if rung.beyond else 0)
        if index:
            if end_before is None:
                words = f"The range before “{part}” has no end, so the two overlap."
                found.append(Finding(Fault.OVERLAP, index, words))
            else:
                found.extend(_between(end_before, first, index, measure, name, rungs[-1].name))
        rungs.append(rung)
        end_before = end
    return Printed(tuple(rungs), tuple(found))


def _read_part(part: str, name: str, measure: Measure) -> tuple[Rung, int | None]:
    """One printed range: the rung, and the far end of the range (None when open)."""
    low_part = part.strip().lower()
    if found := _OPEN.fullmatch(low_part):
        return Rung(name, _bound(found["end"], part, measure), bool(found["beyond"])), None
    if found := _RANGE.fullmatch(low_part):
        ends = _bound(found["low"], part, measure), _bound(found["high"], part, measure)
        worse, best = sorted(ends, reverse=measure.better is Better.DOWN)
        return Rung(name, worse), best
    value = _bound(low_part.removesuffix("+").strip(), part, measure)
    return Rung(name, value), None if low_part.endswith("+") else value


def _bound(text: str, part: str, measure: Measure) -> int:
    try:
        value = read_entry(text, measure).value
    except EntryError as error:
        raise EntryError(f"“{part}” cannot be read as a range.", error.accepted) from error
    if value is None:
        raise EntryError(
            f"“{part}” cannot be read as a range.", "Type ranges such as 8–10 or more than 17."
        )
    return value


def _between(
    end: int, first: int, index: int, measure: Measure, name: str, lower: str
) -> list[Finding]:
    """The finding between the end of one range and the first value of the next, if any."""
    step = measure.resolution * measure.better.sign
    missing = Fraction(first - end, step) - 1
    if missing > 0:
        low, high = format_number(end + step, measure), format_number(first - step, measure)
        values = f"{low} is" if low == high else f"{low} to {high} are"
        words = f"{values} in no range; counted as “{lower}” reached."
        return [Finding(Fault.GAP, index, words)]
    if missing < 0:
        words = f"“{lower}” and “{name}” overlap at {format_number(first, measure)}."
        return [Finding(Fault.OVERLAP, index, words)]
    return []
