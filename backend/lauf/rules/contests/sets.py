"""A set: several challenges in one sitting against one rival, summed up for one child."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Final

from lauf.messages import say, say_many

#: Seconds between two exercises of a set to write the score down.
WRITE_DOWN: Final = 30
MOST_IN_A_SET: Final = 12


@dataclass(frozen=True, slots=True)
class SetScore:
    """One challenge of a set as a child did it.

    ahead     beside the rival's mark, in the better direction; None where they are not compared
    beaten    whether that beats (or reaches) it
    rungs     how many rungs of the benchmark were reached
    new_best  better than every earlier score under its key
    """

    ahead: int | None = None
    beaten: bool = False
    rungs: int = 0
    new_best: bool = False


@dataclass(frozen=True, slots=True)
class SetSum:
    """What a child's sheet says at its foot; `challenges` is how many the set has."""

    challenges: int
    done: int
    compared: int
    beaten: int
    level: int
    rungs: int
    new_bests: int

    @property
    def words(self) -> str:
        """ "beaten in 4 of 10, level in 1 · 12 rungs · 2 new bests"; "" before the first score."""
        if not self.done:
            return ""
        parts = []
        if self.compared:
            parts.append(
                say(
                    "beaten in {beaten} of {challenges}, level in {level}"
                    if self.level
                    else "beaten in {beaten} of {challenges}",
                    beaten=self.beaten,
                    challenges=self.challenges,
                    level=self.level,
                )
            )
        if self.done < self.challenges:
            parts.append(
                say("{done} of {challenges} done", done=self.done, challenges=self.challenges)
            )
        parts.append(say_many("{n} rung", "{n} rungs", self.rungs))
        if self.new_bests:
            parts.append(say_many("{n} new best", "{n} new bests", self.new_bests))
        return " · ".join(parts)


def sum_up(scores: Sequence[SetScore | None]) -> SetSum:
    """A child's set, a place for each challenge, None where nothing was scored. Level is not
    beaten (rules of rivals), and what is not compared is neither."""
    done = [one for one in scores if one is not None]
    return SetSum(
        challenges=len(scores),
        done=len(done),
        compared=sum(one.ahead is not None for one in done),
        beaten=sum(one.beaten for one in done),
        level=sum(one.ahead == 0 and not one.beaten for one in done),
        rungs=sum(one.rungs for one in done),
        new_bests=sum(one.new_best for one in done),
    )


_CLOCK: Final = re.compile(r"\bin \d+ ?s\b")


def name_in_seconds(name: str, seconds: int) -> str:
    """The name of a test as it is with another length of clock.

    >>> name_in_seconds("Sit-ups in 60 s, feet held", 30)
    'Sit-ups in 30 s, feet held'
    """
    clock = say("in {seconds} s", seconds=seconds)
    return _CLOCK.sub(clock, name) if _CLOCK.search(name) else f"{name[:66]} {clock}"


def words_in_seconds(text: str, before: int, seconds: int) -> str:
    """What is said of a test with another length of clock.

    >>> words_in_seconds("The count is how many you finish in 30 seconds.", 30, 60)
    'The count is how many you finish in 60 seconds.'
    """
    return re.sub(rf"\b{before}(?= ?(?:s|seconds?)\b)", str(seconds), text)


def names_a_time(text: str) -> bool:
    """Whether what is said of a test names so many seconds.

    >>> names_a_time("In 20 s"), names_a_time("On the knees")
    (True, False)
    """
    return re.search(r"\b\d+ ?s", text) is not None


def most_in_seconds(most: int, before: int, seconds: int) -> int:
    """The most that is believed of a count, with another length of clock.

    >>> most_in_seconds(100, 60, 30)
    50
    """
    return max(1, math.ceil(Fraction(most) * seconds / before))


#: Sets to begin with (our own): the ready tests in an order in which no load comes twice running.
READY_SETS: Final[dict[str, tuple[str, ...]]] = {
    "Ten in a row": (
        "star-jumps-30", "press-ups-30", "squats-30", "sit-ups-30-held", "speed-bounce-30",
        "dips-30", "calf-raises-30", "burpees-30", "arm-circles-30", "frog-jumps-30",
    ),
    "Five quick ones": (
        "high-knees-20", "arm-circles-30", "heel-flicks-20", "scissor-crunches-20",
        "speed-bounce-30",
    ),
    "Five skills": (
        "bat-bounces-30", "foot-keep-ups-30", "juggling-30", "racket-keep-ups-30",
        "speed-bounce-30",
    ),
}  # fmt: skip
