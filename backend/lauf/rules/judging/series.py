"""Challenges week after week: a child's story, and what is like a test for a next one."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Final

from lauf.messages import say, say_many

#: So many others like a week's tests are proposed.
A_FEW: Final = 4


@dataclass(frozen=True, slots=True)
class WeekDone:
    """One week as a child did it: challenges taken part in, of which better with another go, and
    rivals beaten."""

    took_part: int
    gained: int
    beaten: int


def story(weeks: Sequence[WeekDone]) -> str:
    """A child's series in a sentence, fit to be read to it; never beside another child's.

    >>> story([WeekDone(2, 1, 0), WeekDone(0, 0, 0), WeekDone(1, 1, 1)])
    'took part in 2 of 3 weeks, better with another go 2 times, beat a rival once'
    """
    there = [week for week in weeks if week.took_part]
    if not there:
        return say("has not taken part yet")
    parts = [
        say(
            "took part in {there} of {weeks}",
            there=len(there),
            weeks=say_many("{n} week", "{n} weeks", len(weeks)),
        )
    ]
    if gained := sum(week.gained for week in there):
        parts.append(say("improved with another attempt {gained}", gained=_times(gained)))
    if beaten := sum(week.beaten for week in there):
        parts.append(say("beat a rival {beaten}", beaten=_times(beaten)))
    return ", ".join(parts)


def _times(number: int) -> str:
    return say("once") if number == 1 else say("{number} times", number=number)


def like(
    used: Iterable[str], tests: Mapping[str, tuple[str, frozenset[str]]], most: int = A_FEW
) -> list[str]:
    """Tests like those that were used and not used themselves, the most alike first: of the same
    family, with the more of their loads the better; by name where they are as much alike.

    tests  by name: the family, and the loads
    """
    done = set(used)
    pattern = [tests[name] for name in sorted(done) if name in tests]

    def alikeness(name: str) -> int:
        family, loads = tests[name]
        return max((1 + len(loads & other) for same, other in pattern if same == family), default=0)

    found = [name for name in tests if name not in done and alikeness(name) > 0]
    return sorted(found, key=lambda name: (-alikeness(name), name))[:most]
