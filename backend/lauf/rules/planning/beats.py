"""Movements called to a beat or to a list of times: how many there can be is known beforehand."""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction
from typing import Final

from lauf.rules.reading.rounding import whole

#: Nobody keeps up more than four movements a second (our choice; skipping is the fastest).
LEAST_APART_MS: Final = 250
#: More than a lesson of calls.
MOST_CALLS: Final = 600
#: The latest moment of a call: an hour after the start.
LATEST_MS: Final = 3_600_000
#: Beats a minute of music one can move to (common practice).
SLOWEST, FASTEST = 30, 240
#: How many faulty lines are told at once.
_TOLD: Final = 5
_LONGEST_WORD: Final = 30


@dataclass(frozen=True, slots=True)
class Call:
    """One movement called: milliseconds from the start, and what is said."""

    at_ms: int
    say: str


class FaultyTimes(ValueError):
    """Lines of a list of times that cannot be called; `lines` counts from 1."""

    def __init__(self, faults: list[tuple[int, str]]) -> None:
        told = " ".join(f"Line {line} {fault}." for line, fault in faults[:_TOLD])
        more = f" And {len(faults) - _TOLD} more." if len(faults) > _TOLD else ""
        super().__init__(
            f"{told}{more} A line is a time from the start such as 12.5 or 1:04.25, and a word to "
            "call where you like."
        )
        self.lines = [line for line, _ in faults]


def on_the_beat(bpm: int, every: int, calls: int) -> tuple[Call, ...]:
    """So many calls, one every so many beats; the first after the beats of one call. Exact: the
    rounding of one call never moves the next.

    Raises ValueError for beats nobody can move to.

    >>> [call.at_ms for call in on_the_beat(120, 4, 3)]
    [2000, 4000, 6000]
    """
    if not SLOWEST <= bpm <= FASTEST:
        raise ValueError(f"music has {SLOWEST} to {FASTEST} beats a minute.")
    if not 1 <= every <= 64:
        raise ValueError("a movement is called every 1 to 64 beats.")
    if not 1 <= calls <= MOST_CALLS:
        raise ValueError(f"there are 1 to {MOST_CALLS} movements to call.")
    apart = Fraction(60_000 * every, bpm)
    if apart < LEAST_APART_MS:
        raise ValueError(f"calls are {LEAST_APART_MS / 1000:g} s apart or more.")
    if apart * calls > LATEST_MS:
        raise ValueError("the last call is within an hour.")
    return tuple(Call(whole(apart * number), str(number)) for number in range(1, calls + 1))


_TIME: Final = re.compile(r"(?:(\d{1,2}):)?(\d{1,4})(?:[.,](\d{1,3}))?", re.ASCII)


def read_times(text: str) -> tuple[Call, ...]:
    """A list of times as typed, tapped or read from a text file: a line each, seconds or minutes
    and seconds, and after it what is called where that is not its number. Empty lines, and lines
    that begin with #, say nothing.

    Raises FaultyTimes naming each line that cannot be called, ValueError for no time at all.

    >>> read_times("2.0\\n# chorus\\n4,25 up\\n1:02").__len__()
    3
    >>> read_times("4\\n2")
    Traceback (most recent call last):
        ...
    lauf.rules.planning.beats.FaultyTimes: Line 2 comes before line 1. A line is a time from the \
start such as 12.5 or 1:04.25, and a word to call where you like.
    """
    calls: list[Call] = []
    faults: list[tuple[int, str]] = []
    last_line = 0
    for line, raw in enumerate(text.splitlines(), 1):
        said = raw.strip().removeprefix("\ufeff")
        if not said or said.startswith("#"):
            continue
        time, *words = said.split(maxsplit=1)
        at_ms = _milliseconds(time)
        if at_ms is None:
            faults.append((line, f"says “{said[:20]}”, which is not a time"))
            continue
        before = calls[-1].at_ms if calls else None
        say = words[0] if words else str(len(calls) + 1)
        if fault := _fault(at_ms, say, before, last_line):
            faults.append((line, fault))
            continue
        calls.append(Call(at_ms, say))
        last_line = line
    if len(calls) > MOST_CALLS:
        raise ValueError(f"there are {len(calls)} times: {MOST_CALLS} can be called.")
    if faults:
        raise FaultyTimes(faults)
    if not calls:
        raise ValueError("no time is given: type one a line, such as 12.5 or 1:04.25.")
    return tuple(calls)


def _fault(at_ms: int, say: str, before: int | None, last_line: int) -> str:
    if at_ms > LATEST_MS:
        return "is more than an hour after the start"
    if len(say) > _LONGEST_WORD:
        return f"calls more than {_LONGEST_WORD} letters"
    if before is None:
        return ""
    if at_ms < before:
        return f"comes before line {last_line}"
    if at_ms - before < LEAST_APART_MS:
        return f"is less than {LEAST_APART_MS / 1000:g} s after line {last_line}"
    return ""


def _milliseconds(time: str) -> int | None:
    found = _TIME.fullmatch(time)
    if found is None:
        return None
    minutes, seconds, part = found[1], int(found[2]), found[3] or ""
    if minutes is not None and (seconds > 59 or len(found[2]) != 2):
        return None
    return (int(minutes or 0) * 60 + seconds) * 1000 + int(part.ljust(3, "0") or 0)
