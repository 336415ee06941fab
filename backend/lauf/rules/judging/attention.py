"""Whom a teacher may want to look after, and who deserves a word of praise: from what several tests
said of one child, never from one of them alone."""

from __future__ import annotations

from collections.abc import Sequence
from enum import StrEnum
from typing import Final, NamedTuple

from lauf.messages import and_list, say, say_many
from lauf.rules.body.pulse import RESTING_BPM
from lauf.rules.judging.change import Verdict

#: In so many tests a thing is said of a child, not of a day (our choice).
_SEVERAL: Final = 2


class Need(StrEnum):
    """Why somebody may want to look at a child."""

    LOWER = "lower"
    NEVER = "never"
    FIRST_RUNG = "first_rung"
    AT_END = "at_end"
    PULSE = "pulse"
    PRAISE = "praise"


class Seen(NamedTuple):
    """What one test says of a child.

    verdict   beside the score before, None without one
    rung      the rung reached, from 0; None below the first, or without a ladder
    rungs     how many there are; 0 without a ladder
    measured  whether there is a score
    numbers   "30, then 12", or the score alone
    easier    the next easier and the next harder form of it, "" without one
    """

    test: str
    verdict: Verdict | None
    rung: int | None
    rungs: int
    measured: bool
    numbers: str = ""
    easier: str = ""
    harder: str = ""


class Note(NamedTuple):
    """Why to look at a child, the tests it rests on, and what may help."""

    need: Need
    words: str
    next_step: str


_BETTER: Final = (Verdict.BETTER, Verdict.REACHED_THE_TOP, Verdict.MOVED_UP)


def notes_on(seen: Sequence[Seen], resting: Sequence[int] = ()) -> list[Note]:
    """What several tests say together of one child, what needs a look first.

    Lower than before by more than day-to-day variation in two tests or more; no score in any of two
    tests or more; at the first rung or below it in every test that has rungs; at a test's end
    already, where no progress can be seen; a resting pulse out of the usual range twice; better
    beyond variation in two tests or more.

    resting   resting pulses in beats a minute, one a lesson
    """
    found = (
        _lower(seen), _pulse(resting), _never(seen), _first_rung(seen), _at_end(seen),
        _praise(seen),
    )  # fmt: skip
    return [note for note in found if note is not None]


def _those(seen: Sequence[Seen], *verdicts: Verdict) -> list[Seen]:
    return [one for one in seen if one.verdict in verdicts]


def _lower(seen: Sequence[Seen]) -> Note | None:
    lower = _those(seen, Verdict.LOWER)
    if len(lower) < _SEVERAL:
        return None
    words = say("lower than before in {lower}", lower=_listed(lower))
    return Note(Need.LOWER, words, say("ask how the child is and test again"))


def _pulse(resting: Sequence[int]) -> Note | None:
    low, high = RESTING_BPM
    out = [rate for rate in resting if not low <= rate <= high]
    if len(out) < _SEVERAL:
        return None
    rates = and_list([str(rate) for rate in out])
    words = say(
        "resting pulse outside {low} to {high} in {lessons}: {rates}",
        low=low,
        high=high,
        lessons=say_many("{n} lesson", "{n} lessons", len(out)),
        rates=rates,
    )
    return Note(Need.PULSE, words, say("tell the school nurse, as a count may also be wrong"))


def _never(seen: Sequence[Seen]) -> Note | None:
    if len(seen) < _SEVERAL or any(one.measured for one in seen):
        return None
    words = say("no score in any of {tests}", tests=say_many("{n} test", "{n} tests", len(seen)))
    return Note(Need.NEVER, words, say("find a quiet moment to catch up"))


def _first_rung(seen: Sequence[Seen]) -> Note | None:
    ladders = [one for one in seen if one.measured and one.rungs > 1]
    if len(ladders) < _SEVERAL or any(one.rung for one in ladders):
        return None
    words = say("at the first rung or below in {ladders}", ladders=_listed(ladders))
    forms = [f"{one.easier} ({one.test})" for one in ladders if one.easier]
    easier = say("start with an easier form: {forms}", forms=and_list(forms)) if forms else (
        say("start with an easier form and its own target")
    )  # fmt: skip
    return Note(Need.FIRST_RUNG, words, easier)


def _at_end(seen: Sequence[Seen]) -> Note | None:
    at_end = _those(seen, Verdict.AT_THE_TOP)
    if not at_end:
        return None
    words = say("at the maximum of {at_end}, which cannot show more", at_end=_listed(at_end))
    forms = [f"{one.harder} ({one.test})" for one in at_end if one.harder]
    harder = (
        say("try a harder form: {forms}", forms=and_list(forms))
        if forms
        else say("choose a similar test without a maximum")
    )
    return Note(Need.AT_END, words, harder)


def _praise(seen: Sequence[Seen]) -> Note | None:
    better = _those(seen, *_BETTER)
    if len(better) < _SEVERAL or _those(seen, Verdict.LOWER):
        return None
    words = say("better in {better} by more than day-to-day variation", better=_listed(better))
    return Note(Need.PRAISE, words, say("tell the child"))


def _listed(tests: Sequence[Seen]) -> str:
    return and_list([f"{one.test} ({one.numbers})" if one.numbers else one.test for one in tests])
