"""When two scores may be compared at all."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Final, TypeAlias

from lauf.messages import say
from lauf.rules.reading.quantities import decimal

#: What may differ between attempts, by its code: lengths in millimetres, anything else as words.
FreeConditions: TypeAlias = dict[str, int | str]
#: The one condition across which counts are still compared, as metres.
COURSE: Final = "course_mm"
#: What a rep of each level counted in a total.
WEIGHTS: Final = "weights"
#: How many movements were called: nobody finishes more.
CALLS: Final = "calls"
#: What the free conditions are called on screen.
FREE_CONDITIONS: Final = {
    COURSE: say("course length"),
    "step_mm": say("step height"),
    "ball": say("ball"),
    "target_mm": say("distance to the target"),
    "beat": say("beat"),
    "movement": say("movement"),
    CALLS: say("movements called"),
}
#: These, and what a score says by itself.
CONDITION_WORDS: Final = {**FREE_CONDITIONS, WEIGHTS: say("weights of the levels")}

#: (code, value): lengths in millimetres, anything else as words.
Conditions = tuple[tuple[str, int | str], ...]


@dataclass(frozen=True, slots=True)
class Key:
    """What must be equal for two scores to mean the same thing.

    test        the test's own name (two schools of a press-up are two tests)
    variant     the form of the movement, "" where the test has only one
    seconds     how long the clock really ran, None where there is no clock
    meaning     counts the changes of a protocol after which a score means something else
    conditions  the free conditions of the attempt (course length, step height), sorted
    """

    test: str
    variant: str = ""
    seconds: int | None = None
    meaning: int = 1
    conditions: Conditions = ()

    def condition(self, code: str) -> int | str | None:
        return next((value for name, value in self.conditions if name == code), None)

    def without(self, code: str) -> Key:
        if self.condition(code) is None:
            return self
        return replace(self, conditions=tuple(c for c in self.conditions if c[0] != code))


def why_not_comparable(
    score: Key, other: Key, other_is: str = say("the other score")
) -> str | None:
    """None when equal keys allow a comparison; otherwise the reason, in words.

    A count in 30 s is never doubled to meet one for 60 s.
    """
    if score.test != other.test:
        return say("{other_is} is for another test", other_is=other_is)
    if score.seconds != other.seconds:
        return say(
            "{other_is} is for {clock_shown}, this was {clock_shown2}",
            other_is=other_is,
            clock_shown=clock_shown(other),
            clock_shown2=clock_shown(score),
        )
    if score.variant != other.variant:
        return say(
            "{other_is} is for another form ({variant})",
            other_is=other_is,
            variant=other.variant or say("plain"),
        )
    if score.meaning != other.meaning:
        return say("{other_is} was made under different rules", other_is=other_is)
    for code in sorted({name for name, _ in (*score.conditions, *other.conditions)}):
        here, there = score.condition(code), other.condition(code)
        if here != there:
            words = CONDITION_WORDS.get(code, code)
            then, now = condition_shown(code, there), condition_shown(code, here)
            return say(
                "{other_is} has {words} {then}, this was {now}",
                other_is=other_is,
                words=words,
                then=then,
                now=now,
            )
    return None


def as_metres(score: Key, other: Key) -> bool:
    """Whether two counts differ in nothing but the length of the course, so that what was run can
    be compared in metres instead (always to be labelled so)."""
    here, there = score.condition(COURSE), other.condition(COURSE)
    both = isinstance(here, int) and isinstance(there, int)
    return both and here != there and score.without(COURSE) == other.without(COURSE)


def metres_run(count: int, key: Key) -> int:
    """Millimetres run in so many lengths of the key's course. Raises ValueError without one."""
    course = key.condition(COURSE)
    if not isinstance(course, int):
        raise ValueError(say("there is no course length"))
    return count * course


def clock_shown(key: Key) -> str:
    """The clock of a key as it is read: "30 s", "no clock"."""
    return say("no clock") if key.seconds is None else f"{key.seconds} s"


def course_mm(conditions: Mapping[str, int | str]) -> int | None:
    """The length of the course an attempt was made on, None where it had none."""
    found = conditions.get(COURSE)
    return found if isinstance(found, int) else None


def condition_shown(code: str, value: int | str | None) -> str:
    """A condition as it is read: "10 m", "30 cm", "soft, size 3", "not said"."""
    if value is None:
        return say("not given")
    if code.endswith("_mm") and isinstance(value, int):
        return (
            f"{decimal(Fraction(value, 1000), 2)} m"
            if value >= 1000
            else say("{fraction} cm", fraction=decimal(Fraction(value, 10), 1))
        )
    return str(value)


def conditions_words(conditions: Mapping[str, int | str | None]) -> str:
    """The free conditions of a score in words: "course length 10 m"."""
    return ", ".join(
        f"{CONDITION_WORDS.get(code, code)} {condition_shown(code, value)}"
        for code, value in conditions.items()
    )
