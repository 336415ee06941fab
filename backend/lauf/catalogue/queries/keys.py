"""What makes scores of a test comparable, and what an edit does to that."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from typing import Any, Final

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.protocol import Protocol
from lauf.errors import Refused
from lauf.messages import say
from lauf.rules.judging.comparability import COURSE, FREE_CONDITIONS, Conditions, Key
from lauf.rules.reading.kinds import KINDS
from lauf.rules.reading.quantities import Kind
from lauf.rules.reading.readers.lengths import read_length
from lauf.rules.reading.readers.text import Unreadable
from lauf.rules.reading.rounding import whole

#: A change of one of these makes a score mean something else.
_MEANINGFUL: Final = ("kind", "better", "of", "schedule", "target_mm", "counts", "does_not_count")


def key_conditions(kind: str, conditions: Mapping[str, Any]) -> Conditions:
    """The conditions that belong to a score's key: for a distance run the course does not."""
    drop = KINDS[Kind(kind)].any_course
    return tuple(sorted(c for c in conditions.items() if not (drop and c[0] == COURSE)))


def benchmark_key(version: ProtocolVersion, variant: str) -> Key:
    """The key a ladder made now for this version is tied to."""
    held = key_conditions(version.kind, version.conditions)
    return Key(version.test.slug, variant, version.seconds, version.meaning, held)


def check_variant(version: ProtocolVersion, code: str) -> None:
    """Raises Refused for a variant the test does not have; "" is that of a test without any."""
    if code not in version.variant_codes:
        raise Refused(
            say(
                "This test has the forms {variant_codes}.",
                variant_codes=", ".join(version.variant_codes),
            )
        )


def meaning_changes(changed: Collection[str]) -> list[str]:
    """The changed fields after which a score means something else."""
    return [field for field in _MEANINGFUL if field in changed]


def edit_effects(current: ProtocolVersion, changed: Collection[str]) -> list[str]:
    """What an edit does to comparisons, in words."""
    effects = []
    if fields := meaning_changes(changed):
        names = ", ".join(field.replace("_", " ") for field in fields)
        effects.append(
            say(
                "Scores before and after will not be compared, because {names} change "
                "what a score means.",
                names=names,
            )
        )
    if "seconds" in changed:
        effects.append(
            say(
                "Scores before and after will not be compared, because the clock is "
                "different. Ladders for {seconds} s stay with the earlier scores.",
                seconds=current.seconds or "no",
            )
        )
    if "conditions" in changed:
        effects.append(
            say("Scores under the new usual conditions are only compared with each other.")
        )
    if "cap" in changed:
        effects.append(
            say("Scores stay comparable. Rungs above the new maximum cannot be reached.")
        )
    if "variants" in changed:
        effects.append(say("Scores stay comparable within each form that keeps its code."))
    return effects or [say("Scores before and after stay comparable.")]


def clock_questions(source: ProtocolVersion, given: Protocol) -> list[str]:
    """What a protocol says that may no longer fit, where it has another clock than the one it was
    made from: its sentences, limits and ladders, each as a question."""
    before, now = source.seconds, given.seconds
    if before == now:
        return []
    asked = []
    if before is not None:
        told = [
            sentence
            for lines in (given.say, given.counts, given.does_not_count)
            for sentence in lines
            if re.search(rf"\b{before}\b", sentence)
        ]
        told += [line for line in (given.ends, given.easier, given.harder)
                 if re.search(rf"\b{before}\b", line)]  # fmt: skip
        asked += [say("Is this still right? “{sentence}”", sentence=sentence) for sentence in told]
    if given.highest == source.highest and given.highest:
        asked.append(say("Is the highest possible score still the same with the new clock?"))
    if given.cap is not None and given.cap == source.cap:
        asked.append(say("Is the test's maximum still the same with the new clock?"))
    if given.trial_seconds == source.trial_seconds:
        asked.append(
            say(
                "Does a try still take {trial_seconds} s in total?",
                trial_seconds=source.trial_seconds,
            )
        )
    number = source.test.ladders.filter(seconds=before).count()
    if number:
        clock = f"{before} s" if before else say("no clock")
        asked.append(
            say(
                "A count is never scaled, so these ladders for {clock} are not copied: {number}.",
                clock=clock,
                number=number,
            )
        )
    return asked


def read_condition(code: str, value: int | str) -> int | str:
    """A free condition as kept: lengths in millimetres, from a number or as typed ("10m", "30cm";
    without a unit metres, and centimetres for a step). Raises Refused for one that is not known or
    a value that cannot be."""
    words = FREE_CONDITIONS.get(code)
    if words is None:
        raise Refused(
            say(
                "A free condition must be one of {values}.",
                values=", ".join(FREE_CONDITIONS.values()),
            )
        )
    if not code.endswith("_mm"):
        if not isinstance(value, str) or not 1 <= len(value.strip()) <= 40:
            raise Refused(say("The {words} must have 1 to 40 letters.", words=words))
        return value.strip()
    if isinstance(value, int):
        length = value
    else:
        unit = "cm" if code == "step_mm" else "m"
        try:
            length = whole(read_length(value.strip().lower(), unit))
        except Unreadable as problem:
            problem_words = say(
                "{problem} Type the {words} such as 10m or 30cm.",
                problem=problem.words(value.strip()[:40]),
                words=words,
            )
            raise Refused(problem_words) from problem
    if not 10 <= length <= 5_000_000:
        raise Refused(say("The {words} must be 1 cm to 5 km.", words=words))
    return length
