"""What the pulses of a class say, of all together. Never of one child, and nothing about fitness: a
pulse is not better or lower."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import takewhile
from statistics import median
from typing import Final

from lauf.messages import say
from lauf.rules.body.pulse import MOMENT_WORDS, Moment, same
from lauf.rules.judging.spoken_summary import of_us
from lauf.rules.judging.summaries import FEWEST_TOLD
from lauf.rules.reading.rounding import whole


@dataclass(frozen=True, slots=True)
class ClassPulse:
    """The pulses of a class at one moment: beats a minute, one a child, and the shortest count in
    seconds that one of them rests on. `label` names the activity before it."""

    moment: Moment
    label: str = ""
    rates: tuple[int, ...] = ()
    seconds: int = 60

    @property
    def middle(self) -> int | None:
        """The median in whole beats a minute; None where nobody has one."""
        return whole(median(self.rates)) if self.rates else None

    @property
    def words(self) -> str:
        """When it was taken: "after star jumps"."""
        if self.moment is Moment.ACTIVITY and self.label:
            return say("after {label}", label=self.label)
        return say("after resting") if self.moment is Moment.RECOVERY else MOMENT_WORDS[self.moment]


#: Moments in which the pulse goes up.
_WORK: Final = (Moment.WARM_UP, Moment.ACTIVITY)


def raised_most(moments: Sequence[ClassPulse]) -> tuple[ClassPulse, ...]:
    """What raised the pulse of the class most: the highest median of those after work, and every
    other that one beat more or less makes the same (60 / seconds, the coarser of both). The highest
    comes first; empty where no pulse was taken after work."""
    worked = [one for one in moments if one.moment in _WORK and one.middle is not None]
    worked.sort(key=lambda one: -(one.middle or 0))
    return tuple(takewhile(lambda one: _same(one, worked[0]), worked))


def _same(one: ClassPulse, other: ClassPulse) -> bool:
    if one.middle is None or other.middle is None:
        return False
    return same(one.middle, one.seconds, other.middle, other.seconds)


def most_words(moments: Sequence[ClassPulse]) -> str | None:
    """What raised the pulse most, in a sentence; None where no pulse was taken after work.

    >>> most_words([ClassPulse(Moment.ACTIVITY, "burpees", (150,), 10)])
    'Burpees raised our pulse most. The class median was 150.'
    """
    most = raised_most(moments)
    if not most:
        return None
    top, low = most[0].middle, min(one.middle or 0 for one in most)
    middle = f"{top}" if low == top else say("{low} to {top}", low=low, top=top)
    return " ".join([_raised_words(most), say("The class median was {middle}.", middle=middle)])


def _raised_words(most: Sequence[ClassPulse]) -> str:
    *names, last = map(_raiser, most)
    if not names:
        return say("{what} raised our pulse most.", what=_first_up(last))
    return say(
        "{first} and {last} raised our pulse most, by about the same.",
        first=_first_up(", ".join(names)),
        last=last,
    )


def pulses_aloud(moments: Sequence[ClassPulse], counted: int, children: int) -> list[str]:
    """Sentences about the pulses of a lesson, fit to be read aloud. A moment with fewer than
    `FEWEST_TOLD` children is left out.

    moments   in the order they were taken
    counted   children with a pulse at all, of `children` in the class
    """
    told = [one for one in moments if len(one.rates) >= FEWEST_TOLD]
    if not told:
        return []
    sentences = [say("{of_us} counted our pulse.", of_us=of_us(counted, children))]
    middles = ", ".join(f"{one.middle} {one.words}" for one in told)
    sentences.append(say("The class median in beats a minute was {middles}.", middles=middles))
    rest = next((one for one in reversed(told) if one.moment is Moment.REST), None)
    most = raised_most(told)
    if most and (rest is None or not _same(most[0], rest)):
        sentences.append(_raised_words(most))
    end = told[-1]
    if most and end.moment is Moment.RECOVERY and (most[0].middle or 0) > (end.middle or 0):
        down = say("It came down again at the end.")
        if rest and _same(end, rest):
            down = say("At the end it was back to resting level.")
        if not _same(most[0], end):
            sentences.append(down)
    return sentences


def _raiser(one: ClassPulse) -> str:
    if one.label:
        return one.label
    return say("the warm-up") if one.moment is Moment.WARM_UP else say("an activity")


def _first_up(words: str) -> str:
    return words[:1].upper() + words[1:]
