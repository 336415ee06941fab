"""When two scores may be compared at all."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Key:
    """What must be equal for two scores to mean the same thing.

    test     the test's own name (two schools of a press-up are two tests)
    variant  the form of the movement, "" where the test has only one
    seconds  how long the clock really ran, None where there is no clock
    """

    test: str
    variant: str = ""
    seconds: int | None = None


def why_not_comparable(score: Key, other: Key, other_is: str = "the other score") -> str | None:
    """None when equal keys allow a comparison; otherwise the reason, in words.

    A count in 30 s is never doubled to meet one for 60 s.
    """
    if score.test != other.test:
        return f"{other_is} is for another test"
    if score.seconds != other.seconds:
        return f"{other_is} is for {_clock(other)}, this was {_clock(score)}"
    if score.variant != other.variant:
        return f"{other_is} is for another variant ({other.variant or 'plain'})"
    return None


def _clock(key: Key) -> str:
    return "no clock" if key.seconds is None else f"{key.seconds} s"
