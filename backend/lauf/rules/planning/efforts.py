"""Lists of efforts: seconds of work and of the rest after it, as typed."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Final

from lauf.messages import say

#: A count of three needs this much rest before the next effort.
LEAST_REST: Final = 3


@dataclass(frozen=True, slots=True)
class Effort:
    """Seconds of work and of the rest after it."""

    work: int
    rest: int = 0


_EFFORT: Final = re.compile(r"\s*\d{1,4}(\s*[/,\s]\s*\d{1,4})*\s*")


def read_efforts(text: str) -> tuple[Effort, ...]:
    """A list of seconds as typed: work, rest, work, rest, … "25/15/25" is 25 s of work, 15 s of
    rest, 25 s of work. Raises ValueError with what is accepted.

    >>> read_efforts("25/15/25")
    (Effort(work=25, rest=15), Effort(work=25, rest=0))
    """
    if not _EFFORT.fullmatch(text):
        raise ValueError(say("Type seconds of work and rest in turn, such as 25/15/25."))
    numbers = [int(found) for found in re.findall(r"\d+", text)]
    efforts = tuple(
        Effort(numbers[at], numbers[at + 1] if at + 1 < len(numbers) else 0)
        for at in range(0, len(numbers), 2)
    )
    check_efforts(efforts)
    return efforts


def check_efforts(efforts: tuple[Effort, ...]) -> None:
    """Raises ValueError for efforts that cannot be called."""
    if not 1 <= len(efforts) <= 60:
        raise ValueError(say("A movement has 1 to 60 efforts."))
    for effort in efforts:
        if not 1 <= effort.work <= 3600 or effort.rest > 3600:
            raise ValueError(
                say("An effort is 1 s to an hour of work, and a rest is at most an hour.")
            )
    if any(effort.rest < LEAST_REST for effort in efforts[:-1]):
        raise ValueError(
            say(
                "A rest is at least {least_rest} s, as it includes the count of three.",
                least_rest=LEAST_REST,
            )
        )
