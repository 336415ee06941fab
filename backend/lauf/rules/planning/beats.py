"""Movements called to a beat or to a list of times: how many there can be is known beforehand."""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction
from typing import Final

from lauf.messages import say, say_many
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
        told = [fault for _, fault in faults[:_TOLD]]
        if more := len(faults) - len(told):
            told.append(
                say_many("{n} more line has a problem.", "{n} more lines have a problem.", more)
            )
        told.append(
            say(
                "Type a time from the start on each line, such as 12.5 or 1:04.25. "
                "A word to call can follow it."
            )
        )
        super().__init__(" ".join(told))
        self.lines = [line for line, _ in faults]


def on_the_beat(bpm: int, every: int, calls: int) -> tuple[Call, ...]:
    """So many calls, one every so many beats; the first after the beats of one call. Exact: the
    rounding of one call never moves the next.

    Raises ValueError for beats nobody can move to.

    >>> [call.at_ms for call in on_the_beat(120, 4, 3)]
    [2000, 4000, 6000]
    """
    if not SLOWEST <= bpm <= FASTEST:
        raise ValueError(
            say(
                "music must have {slowest} to {fastest} beats a minute.",
                slowest=SLOWEST,
                fastest=FASTEST,
            )
        )
    if not 1 <= every <= 64:
        raise ValueError(say("a movement must be called every 1 to 64 beats."))
    if not 1 <= calls <= MOST_CALLS:
        raise ValueError(
            say("there must be 1 to {most_calls} movements to call.", most_calls=MOST_CALLS)
        )
    apart = Fraction(60_000 * every, bpm)
    if apart < LEAST_APART_MS:
        raise ValueError(
            say(
                "calls must be at least {least_apart_ms} s apart.",
                least_apart_ms=f"{LEAST_APART_MS / 1000:g}",
            )
        )
    if apart * calls > LATEST_MS:
        raise ValueError(say("the last call must be within an hour."))
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
        line_text = raw.strip().removeprefix("\ufeff")
        if not line_text or line_text.startswith("#"):
            continue
        time, *words = line_text.split(maxsplit=1)
        at_ms = _milliseconds(time)
        if at_ms is None:
            faults.append(
                (
                    line,
                    say(
                        "Line {line} says “{line_text}”, which is not a time.",
                        line=line,
                        line_text=line_text[:20],
                    ),
                )
            )
            continue
        before = calls[-1].at_ms if calls else None
        word = words[0] if words else str(len(calls) + 1)
        if fault := _fault(line, at_ms, word, before, last_line):
            faults.append((line, fault))
            continue
        calls.append(Call(at_ms, word))
        last_line = line
    if len(calls) > MOST_CALLS:
        raise ValueError(
            say(
                "there are {calls} times, but only {most_calls} can be called.",
                calls=len(calls),
                most_calls=MOST_CALLS,
            )
        )
    if faults:
        raise FaultyTimes(faults)
    if not calls:
        raise ValueError(say("type one time on each line, such as 12.5 or 1:04.25."))
    return tuple(calls)


def _fault(line: int, at_ms: int, word: str, before: int | None, last_line: int) -> str:
    if at_ms > LATEST_MS:
        return say("Line {line} is more than an hour after the start.", line=line)
    if len(word) > _LONGEST_WORD:
        return say(
            "Line {line} calls more than {longest} letters.", line=line, longest=_LONGEST_WORD
        )
    if before is None:
        return ""
    if at_ms < before:
        return say("Line {line} comes before line {last_line}.", line=line, last_line=last_line)
    if at_ms - before < LEAST_APART_MS:
        return say(
            "Line {line} is less than {least_apart_ms} s after line {last_line}.",
            line=line,
            least_apart_ms=f"{LEAST_APART_MS / 1000:g}",
            last_line=last_line,
        )
    return ""


def _milliseconds(time: str) -> int | None:
    found = _TIME.fullmatch(time)
    if found is None:
        return None
    minutes, seconds, part = found[1], int(found[2]), found[3] or ""
    if minutes is not None and (seconds > 59 or len(found[2]) != 2):
        return None
    return (int(minutes or 0) * 60 + seconds) * 1000 + int(part.ljust(3, "0") or 0)
