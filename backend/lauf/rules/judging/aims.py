"""A target of one's own, said before the clock, and how it went against it."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from statistics import median
from typing import Final

from lauf.messages import say, say_many
from lauf.rules.reading.kinds import format_difference
from lauf.rules.reading.quantities import Kind, Measure

#: Kinds whose scores say something as a sum over children.
ADDS_UP: Final = (Kind.COUNT, Kind.TOTAL)
_TOGETHER: Final = re.compile(r"[1-9]\d{0,5}", re.ASCII)


@dataclass(frozen=True, slots=True)
class AimResult:
    """A score beside what was said before: `ahead` is positive in the better direction."""

    ahead: int
    met: bool
    words: str


def judge_aim(value: int, aim: int, measure: Measure) -> AimResult:
    """Met by how much, or short by how much; exactly what was said is met.

    >>> from lauf.rules.reading.quantities import Kind
    >>> judge_aim(26, 24, Measure(Kind.COUNT, highest=99)).words
    'met, 2 more than the target'
    """
    ahead = (value - aim) * measure.better.sign
    amount = format_difference(abs(ahead), measure)
    if ahead == 0:
        return AimResult(0, True, say("met, exactly on target"))
    if ahead > 0:
        # Less is better in a race: "more" would be the wrong word.
        words = say(
            "met, {amount} more than the target"
            if measure.better.sign > 0
            else "met, {amount} better than the target",
            amount=amount,
        )
        return AimResult(ahead, True, words)
    return AimResult(ahead, False, say("{amount} short of the target", amount=amount))


def read_together(typed: str) -> int:
    """What a group says it will do together, as typed. Raises ValueError with what is accepted."""
    if not _TOGETHER.fullmatch(typed.strip()):
        raise ValueError(
            say("A group target is one whole number for the whole group, such as 240.")
        )
    return int(typed)


def judge_together(total: int, said: int, missing: int) -> tuple[bool | None, str]:
    """Whether a group has met what it said, None while it still can; and a sentence.

    total    of its measured scores so far
    missing  children of it who have no entry yet

    >>> judge_together(180, 240, 2)
    (None, '180 so far, 60 to go, 2 children still to come')
    """
    if total >= said:
        if total == said:
            return True, say("met: {total} together, exactly on target", total=total)
        return True, say(
            "met: {total} together, {more} above the target", total=total, more=total - said
        )
    if missing:
        still = say_many("{n} child", "{n} children", missing)
        return None, say(
            "{total} so far, {said} to go, {still} still to come",
            total=total,
            said=said - total,
            still=still,
        )
    return False, say(
        "{total} together, {said} short of the target", total=total, said=said - total
    )


@dataclass(frozen=True, slots=True)
class SelfJudgement:
    """How well a class knew itself.

    off     the middle of how far scores were from what was said, in the test's unit
    within  how many were no further off than day-to-day variation explains
    """

    said: int
    met: int
    off: Fraction | None
    within: int
    too_high: int
    too_low: int


def self_judgement(
    pairs: Sequence[tuple[int, int]], measure: Measure, bands: Sequence[float]
) -> SelfJudgement:
    """Scores beside aims, each with the band of day-to-day variation at its level (in the unit of
    the score): an aim inside it was as good as can be known. Raises ValueError for lists that do
    not fit together."""
    results = [judge_aim(value, aim, measure) for value, aim in pairs]
    outside = [one.ahead for one, band in zip(results, bands, strict=True) if abs(one.ahead) > band]
    return SelfJudgement(
        said=len(results),
        met=sum(one.met for one in results),
        off=Fraction(median(abs(one.ahead) for one in results)) if results else None,
        within=len(results) - len(outside),
        too_high=sum(ahead < 0 for ahead in outside),
        too_low=sum(ahead > 0 for ahead in outside),
    )


def judgement_words(found: SelfJudgement, measure: Measure) -> str:
    """The class's sentence, fit to be read aloud; "" before anybody has both."""
    if found.off is None:
        return ""
    words = [say("{met} of {said} met their target.", met=found.met, said=found.said)]
    if found.said > 1:
        # The middle of two differences may lie between what the test can measure.
        off = math.ceil(found.off / measure.resolution) * measure.resolution
        words.append(say("Half of them were within {off}.", off=format_difference(off, measure)))
    words.append(
        say_many(
            "{n} was as close as day-to-day variation allows.",
            "{n} were as close as day-to-day variation allows.",
            found.within,
        )
        if found.within
        else say("Nobody was as close as day-to-day variation allows.")
    )
    if found.too_high:
        words.append(
            say_many(
                "{n} child set the target too high.",
                "{n} children set the target too high.",
                found.too_high,
            )
        )
    if found.too_low:
        words.append(
            say_many(
                "{n} child could have set a higher target.",
                "{n} children could have set a higher target.",
                found.too_low,
            )
        )
    return " ".join(words)
