"""Ladders: a school's own rungs for a test, and what rung a score reaches."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from itertools import pairwise
from typing import Final

from lauf.messages import mark, say
from lauf.rules.judging.comparability import Key, clock_shown, why_not_comparable
from lauf.rules.reading.entry import EntryError, read_entry
from lauf.rules.reading.kinds import format_difference, format_number, format_value
from lauf.rules.reading.quantities import UNLIMITED, Better, Kind, Measure
from lauf.rules.reading.rounding import whole


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
class Benchmark:
    """Rungs from the lowest to the highest, for scores under exactly one key, and where they
    come from. `sex` "" is for everybody; `ages` are completed years, both included, where the
    ladder goes by age and not by year group."""

    rungs: tuple[Rung, ...]
    key: Key
    source: str = ""
    sex: str = ""
    ages: tuple[int, int] | None = None


def pick_ladder(
    ladders: Iterable[Benchmark], variant: str, sex: str = "", age: int | None = None
) -> Benchmark | None:
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


def judge(value: int, key: Key, ladder: Benchmark, measure: Measure) -> Judgement:
    """The rung a score reaches and the distance to the next, or why it cannot be said."""
    if not ladder.rungs:
        return Judgement(why_not=say("the ladder has no rungs"))
    if reason := why_not_comparable(key, ladder.key, say("the ladder")):
        return Judgement(why_not=reason)
    return judge_comparable(value, ladder, measure)


def judge_comparable(value: int, ladder: Benchmark, measure: Measure) -> Judgement:
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
    BEYOND_THE_RATE = "beyond_the_rate"
    NOISE = "inside_day_to_day_variation"
    OUT_OF_ORDER = "out_of_order"
    BEYOND_THE_CAP = "beyond_the_cap"
    OTHER_CLOCK = "other_clock"
    OTHER_VARIANT = "other_variant"
    OTHER_COURSE = "other_conditions"
    UNIT_MISMATCH = "unit_mismatch"


FAULT_WORDS: Final[dict[Fault, str]] = {
    Fault.GAP: say("gap"), Fault.OVERLAP: say("overlap"), Fault.OUT_OF_ORDER: say("out of order"),
    Fault.BEYOND_THE_RATE: say("too fast"), Fault.BEYOND_THE_CAP: say("above the maximum"),
    Fault.NOISE: say("too narrow"), Fault.UNIT_MISMATCH: say("different unit"),
    Fault.OTHER_CLOCK: say("different clock"), Fault.OTHER_VARIANT: say("different form"),
    Fault.OTHER_COURSE: say("different conditions"),
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Finding:
    """One fault, the index of the rung it concerns, and a sentence for the teacher."""

    fault: Fault
    rung: int
    words: str


def findings(
    ladder: Benchmark,
    measure: Measure,
    test: Key,
    *,
    most_a_second: float | None = None,
    band: float | None = None,
) -> tuple[Finding, ...]:
    """Faults of a ladder against the test it is meant for.

    test           the test's own clock, course and the variant the ladder is offered for
    most_a_second  reps a second nobody beats: with the test's seconds, a rung nobody can reach
    band           MDC90 at the lowest rung: a ladder inside it says nothing
    """
    found = _other_test(ladder, test)
    for index, rung in enumerate(ladder.rungs):
        found += _of_rung(ladder, index, rung, measure, test.seconds, most_a_second)
    spread = abs(ladder.rungs[-1].threshold - ladder.rungs[0].threshold) if ladder.rungs else 0
    if band is not None and len(ladder.rungs) > 1 and band > spread:
        amount = format_difference(whole(band), measure)
        words = mark("Day-to-day variation (±{amount}) is wider than this whole ladder.")
        found.append(Finding(Fault.NOISE, 0, say(words, amount=amount)))
    return tuple(found)


def _other_test(ladder: Benchmark, test: Key) -> list[Finding]:
    """The ladder was written for another clock, variant or course."""
    found = []
    if ladder.key.seconds != test.seconds:
        words = say(
            "The ladder is for {clock_shown}, the test has {clock_shown2}.",
            clock_shown=clock_shown(ladder.key),
            clock_shown2=clock_shown(test),
        )
        found.append(Finding(Fault.OTHER_CLOCK, 0, words))
    if ladder.key.variant != test.variant:
        words = say(
            "The ladder is for “{variant}”, not “{variant2}”.",
            variant=ladder.key.variant,
            variant2=test.variant,
        )
        found.append(Finding(Fault.OTHER_VARIANT, 0, words))
    if (reason := why_not_comparable(test, ladder.key, say("the ladder"))) and not found:
        found.append(Finding(Fault.OTHER_COURSE, 0, f"{reason[0].upper()}{reason[1:]}."))
    return found


def _of_rung(
    ladder: Benchmark,
    index: int,
    rung: Rung,
    measure: Measure,
    seconds: int | None,
    most_a_second: float | None,
) -> list[Finding]:
    """What is wrong with one rung: the worst of it."""
    found = []
    shown = format_value(rung.threshold, measure)
    least, most = measure.lowest, measure.highest
    ceiling = measure.ceiling if measure.top is None else measure.top
    if measure.better is Better.UP and not rung.reached_by(ceiling, measure.better):
        words = say("“{name}” is above the test's maximum, so nobody can reach it.", name=rung.name)
        found.append(Finding(Fault.BEYOND_THE_CAP, index, words))
    elif not least <= rung.threshold <= most:
        words = say(
            "“{name}” at {shown} is not a score of this test ({least} to {most}). Is "
            "it in another unit?",
            name=rung.name,
            shown=shown,
            least=format_value(least, measure),
            most=format_value(most, measure),
        )
        found.append(Finding(Fault.UNIT_MISMATCH, index, words))
    elif (
        most_a_second
        and seconds
        and measure.kind is Kind.COUNT
        and not rung.reached_by(int(most_a_second * seconds), measure.better)
    ):
        words = say(
            "“{name}” at {shown} is faster than anyone can move in {seconds} s. Is "
            "it for a longer clock?",
            name=rung.name,
            shown=shown,
            seconds=seconds,
        )
        found.append(Finding(Fault.BEYOND_THE_RATE, index, words))
    if index and not _harder(rung, ladder.rungs[index - 1], measure.better):
        words = say(
            "“{name}” ({shown}) is not harder than the rung before it.", name=rung.name, shown=shown
        )
        found.append(Finding(Fault.OUT_OF_ORDER, index, words))
    return found


def _harder(rung: Rung, before: Rung, better: Better) -> bool:
    ahead = (rung.threshold - before.threshold) * better.sign
    return ahead > 0 or (ahead == 0 and rung.beyond and not before.beyond)


@dataclass(frozen=True, slots=True)
class Printed:
    """Ladder ranges as printed, turned into rungs, with what is wrong with them."""

    rungs: tuple[Rung, ...]
    findings: tuple[Finding, ...]


_RANGE = re.compile(r"(?P<low>\S.*?)\s*(?:–|—|\bto\b|(?<=[\w\"'])\s*-)\s*(?P<high>\S.*)")
#: Words for an open end, before or after its number: where it opens (1 to more, -1 to less, 0 to
#: the better, whichever that is), and whether the number itself is left out.
_OPEN: Final = tuple(
    (re.compile(pattern), opens, beyond)
    for pattern, opens, beyond in (
        (r"(?:more than|over|above|>(?!=))\s*(?P<end>\S.*)", 1, True),
        (r"(?:less than|under|below|<(?!=))\s*(?P<end>\S.*)", -1, True),
        (r"(?:faster than|better than)\s*(?P<end>\S.*)", 0, True),
        (r"(?:at least|≥|>=)\s*(?P<end>\S.*)", 1, False),
        (r"(?:at most|up to|≤|<=)\s*(?P<end>\S.*)", -1, False),
        (r"from\s*(?P<end>\S.*)", 0, False),
        (r"(?P<end>\S.*?)\s*(?:\+|(?:or|and) (?:more|over|above|up)|upwards)", 1, False),
        (r"(?P<end>\S.*?)\s*(?:or|and) (?:less|under|below)", -1, False),
        (r"(?P<end>\S.*?)\s*(?:or|and) (?:faster|better)", 0, False),
    )
)


def read_printed(text: str, names: Sequence[str], measure: Measure) -> Printed:
    """Turn ranges printed on a card into thresholds.

    "7–9, 11–15, more than 19" gives at least 7, at least 11, more than 19. A value in no range
    counts as having reached the lower rung, and a `gap` finding says so. A bare list of numbers is
    a list of lower bounds. "Under 7" of a test in which more is better is the range from the least
    there is. A rung beyond the test's maximum is read, for `findings` to report. Raises
    `EntryError` when a part is not a range, naming the part, or when a comma may be in a number or
    between two.

    `names` names the rungs from the lowest; missing names become "Rung 1", "Rung 2", …
    """
    parts = _apart(text, measure)
    if not parts:
        raise EntryError(say("Type at least one range."), _RANGES)
    read = [
        _read_part(
            part,
            names[index] if index < len(names) else say("Rung {index}", index=index + 1),
            measure,
        )
        for index, part in enumerate(parts)
    ]
    rungs = [rung for rung, _, _ in read]
    # Numbers alone are where rungs begin; beside ranges a number is a range of one.
    bare = not any(end is not None and not single for _, end, single in read)
    found: list[Finding] = []
    for index, (before, after) in enumerate(pairwise(read), 1):
        (lower, end, single), (rung, _, _) = before, after
        if single and bare:
            continue
        first = rung.threshold + (measure.resolution * measure.better.sign if rung.beyond else 0)
        if end is None:
            words = say(
                "The range before “{parts}” has no end, so the two overlap.", parts=parts[index]
            )
            found.append(Finding(Fault.OVERLAP, index, words))
        else:
            found += _between(end, first, index, measure, rung.name, lower.name)
    return Printed(tuple(rungs), tuple(found))


_RANGES: Final = say(
    "Type ranges such as 7–9, 10–15, more than 15. Or type the lowest of each, such as 7, 10, 16."
)


def read_rung(text: str, name: str, measure: Measure) -> Rung:
    """One rung by its threshold or its range. Raises `EntryError` for anything else."""
    rung, _, _ = _read_part(text, name, measure)
    return rung


#: Between two ranges, whatever a comma within a number is.
_CERTAIN: Final = re.compile(r"[;\n]|,(?!\d)|(?<!\d),")


def _apart(text: str, measure: Measure) -> list[str]:
    """The ranges of a card. A comma between two digits belongs to a number where another sign, or a
    comma and a blank, stands between the ranges."""
    whole = text.strip(" ,;\n")
    if _CERTAIN.search(whole):
        return [part.strip() for part in _CERTAIN.split(whole) if part.strip()]
    if "," in whole:
        try:
            _read_part(whole, "", measure)
        except EntryError as error:
            odd = error.__cause__
            if not (isinstance(odd, EntryError) and odd.choices):
                return [part.strip() for part in whole.split(",")]
        accepted = say("Type a space after the comma between two ranges.")
        raise EntryError(say("“{whole}” could be one number or two.", whole=whole), accepted)
    return [whole] if whole else []


def _read_part(part: str, name: str, measure: Measure) -> tuple[Rung, int | None, bool]:
    """One printed range: the rung, the far end of the range (None when open), and whether it is a
    single number."""
    low_part = part.strip().lower()
    for pattern, opens, beyond in _OPEN:
        if found := pattern.fullmatch(low_part):
            bound = _bound(found["end"], part, measure)
            if opens in (0, measure.better.sign):
                return Rung(name, bound, beyond), None, False
            # It opens to the worse end: a range from there.
            worst = measure.lowest if measure.better is Better.UP else measure.highest
            step = measure.resolution * measure.better.sign
            return Rung(name, worst), bound - step * beyond, False
    if found := _RANGE.fullmatch(low_part):
        ends = _bound(found["low"], part, measure), _bound(found["high"], part, measure)
        worse, best = sorted(ends, reverse=measure.better is Better.DOWN)
        return Rung(name, worse), best, False
    value = _bound(low_part, part, measure)
    return Rung(name, value), value, True


def _bound(text: str, part: str, measure: Measure) -> int:
    # What nobody can reach is a finding, not a misprint: read without the test's limits.
    wide = replace(measure, cap=None, of=None, highest=UNLIMITED, lowest=min(0, measure.lowest))
    problem: EntryError | None = None
    for limits in (replace(measure, cap=None, of=None), wide):
        try:
            entry = read_entry(text, limits)
        except EntryError as error:
            problem = problem or error
            if error.choices:
                break
            continue
        if entry.value is None or entry.estimate:
            break
        return entry.value
    accepted = problem.accepted if problem and problem.choices else _RANGES
    raise EntryError(say("“{part}” is not a range.", part=part), accepted) from problem


def _between(
    end: int, first: int, index: int, measure: Measure, name: str, lower: str
) -> list[Finding]:
    """The finding between the end of one range and the first value of the next, if any."""
    step = measure.resolution * measure.better.sign
    missing = Fraction(first - end, step) - 1
    if missing > 0:
        low, high = format_number(end + step, measure), format_number(first - step, measure)
        values = (
            say("{low} is", low=low)
            if low == high
            else say("{low} to {high} are", low=low, high=high)
        )
        words = say(
            "{values} in no range. A score there counts as “{lower}”.", values=values, lower=lower
        )
        return [Finding(Fault.GAP, index, words)]
    if missing < 0:
        words = say(
            "“{lower}” and “{name}” overlap at {first}.",
            lower=lower,
            name=name,
            first=format_number(first, measure),
        )
        return [Finding(Fault.OVERLAP, index, words)]
    return []
