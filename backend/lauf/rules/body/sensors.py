"""What pulse belts and timing gates send, decoded.

Heart Rate Measurement characteristic (0x2A37) of the Bluetooth SIG's Heart Rate Service 1.0: a byte
of flags, the rate in 8 or 16 bits, perhaps energy in kJ, perhaps RR intervals of 1/1024 s; all
little-endian.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Final

from lauf.messages import say
from lauf.rules.body.pulse import HIGHEST_BPM, LOWEST_BPM
from lauf.rules.reading.rounding import whole

_WIDE: Final = 0x01
_CONTACT_KNOWN: Final = 0x04
_CONTACT: Final = 0x02
_ENERGY: Final = 0x08
_INTERVALS: Final = 0x10


@dataclass(frozen=True, slots=True)
class BeltReading:
    """One message of a belt.

    bpm         beats a minute
    contact     whether the belt touches the skin; None when it does not say
    energy_kj   energy since the reset, or None
    intervals   RR intervals in seconds, exact
    """

    bpm: int
    contact: bool | None = None
    energy_kj: int | None = None
    intervals: tuple[Fraction, ...] = ()


def read_belt(data: bytes) -> BeltReading:
    """Decode one Heart Rate Measurement. Raises ValueError for one that is cut off."""
    if len(data) < 2:
        raise ValueError(say("A heart rate measurement has at least two bytes."))
    flags, at = data[0], 1
    width = 2 if flags & _WIDE else 1
    needed = at + width + (2 if flags & _ENERGY else 0)
    rest = len(data) - needed
    if rest < 0 or rest % 2 or (rest and not flags & _INTERVALS):
        raise ValueError(say("The length of the heart rate measurement does not match its flags."))
    bpm = int.from_bytes(data[at : at + width], "little")
    at += width
    energy = None
    if flags & _ENERGY:
        energy = int.from_bytes(data[at : at + 2], "little")
        at += 2
    intervals = tuple(
        Fraction(int.from_bytes(data[place : place + 2], "little"), 1024)
        for place in range(at, len(data), 2)
    )
    contact = bool(flags & _CONTACT) if flags & _CONTACT_KNOWN else None
    return BeltReading(bpm, contact, energy, intervals)


def write_belt(reading: BeltReading) -> bytes:
    """Encode one Heart Rate Measurement, as a belt would send it."""
    wide = reading.bpm > 255
    flags = _WIDE if wide else 0
    if reading.contact is not None:
        flags |= _CONTACT_KNOWN | (_CONTACT if reading.contact else 0)
    data = reading.bpm.to_bytes(2 if wide else 1, "little")
    if reading.energy_kj is not None:
        flags |= _ENERGY
        data += reading.energy_kj.to_bytes(2, "little")
    if reading.intervals:
        flags |= _INTERVALS
        for interval in reading.intervals:
            data += round(interval * 1024).to_bytes(2, "little")
    return bytes([flags]) + data


#: A belt's rate and the beats it timed itself may differ by this share (our choice: the rate is a
#: mean over some seconds).
_DISAGREE: Final = Fraction(1, 4)


def belt_problem(reading: BeltReading) -> str | None:
    """Why a belt's message is not taken as a pulse, or None when it is."""
    if reading.contact is False:
        return say("the belt does not touch the skin")
    if not LOWEST_BPM <= reading.bpm <= HIGHEST_BPM:
        return say(
            "{bpm} is not a pulse. A pulse is {lowest_bpm} to {highest_bpm}.",
            bpm=reading.bpm,
            lowest_bpm=LOWEST_BPM,
            highest_bpm=HIGHEST_BPM,
        )
    if reading.intervals and all(reading.intervals):
        timed = 60 * len(reading.intervals) / sum(reading.intervals, Fraction(0))
        if abs(timed - reading.bpm) > _DISAGREE * reading.bpm:
            return say(
                "The belt reports {bpm}, but its beats make {timed} a minute.",
                bpm=reading.bpm,
                timed=whole(timed),
            )
    return None


@dataclass(frozen=True, slots=True)
class Passage:
    """One passage of a gate: which runner (None when the gate does not know) and when, in
    milliseconds of the gate's own clock."""

    runner: int | None
    at_ms: int


_LINE: Final = re.compile(r"P,(?P<runner>\d{1,4}|\?),(?P<at>\d{1,10})")
#: Nobody passes the same gate twice within this.
SAME_PASSAGE_MS: Final = 2_000


def read_passage(line: str) -> Passage:
    """One line of a gate: "P,runner,milliseconds", runner "?" when unknown. Raises ValueError."""
    found = _LINE.fullmatch(line.strip())
    if found is None:
        raise ValueError(say("A passage must be a line such as P,12,83250."))
    runner = None if found["runner"] == "?" else int(found["runner"])
    return Passage(runner, int(found["at"]))


def is_double(passage: Passage, earlier: Passage | None) -> bool:
    """Whether a passage is the same one, sent twice."""
    return (
        earlier is not None
        and passage.runner == earlier.runner
        and 0 <= passage.at_ms - earlier.at_ms < SAME_PASSAGE_MS
    )


@dataclass(frozen=True, slots=True)
class GateLine:
    """What became of one line: the passage, or why it is left out."""

    passage: Passage | None
    problem: str | None = None


def read_gate(lines: Sequence[str], runners: int) -> tuple[GateLine, ...]:
    """All the lines of a gate since the start, in the order they came: what cannot be read, comes
    twice, goes back in time or names a runner who is not there is left out, with the reason."""
    found: list[GateLine] = []
    last: dict[int | None, Passage] = {}
    for line in lines:
        try:
            passage = read_passage(line)
        except ValueError as problem:
            found.append(GateLine(None, str(problem)))
            continue
        earlier = last.get(passage.runner)
        if passage.runner is not None and not 1 <= passage.runner <= runners:
            found.append(GateLine(None, say("There is no runner {runner}.", runner=passage.runner)))
        elif passage.runner is not None and is_double(passage, earlier):
            found.append(
                GateLine(None, say("Runner {runner} was sent twice.", runner=passage.runner))
            )
        elif earlier is not None and passage.at_ms < earlier.at_ms:
            found.append(GateLine(None, say("It is older than the previous one.")))
        else:
            last[passage.runner] = passage
            found.append(GateLine(passage))
    return tuple(found)
