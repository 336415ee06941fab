"""Times, and tries that were not finished. Canonical unit: the millisecond."""

from __future__ import annotations

import itertools
import math
import re
from fractions import Fraction
from typing import Final

from lauf.messages import say, say_many
from lauf.rules.reading.laps import SHORT_BIT
from lauf.rules.reading.quantities import Measure, to_step
from lauf.rules.reading.readers.laps import LAPS_FORM, read_laps
from lauf.rules.reading.readers.lengths import read_length
from lauf.rules.reading.readers.text import MIXED, NUMBER, Read, Unreadable, ask, fraction

_MIN: Final = "minutes|minute|mins|min|m|'"
_SEC: Final = 'seconds|second|secs|sec|s|"'
_CLOCK: Final = re.compile(rf"(\d+):(\d+(?:\.\d+)?)\s*(?:{_MIN})?\.?")
_LONG_CLOCK: Final = re.compile(r"(\d):(\d\d):(\d\d(?:\.\d+)?)")
_MINUTES: Final = re.compile(rf"({MIXED}|{NUMBER})\s*({_MIN})\.?")
_MINUTES_SECONDS: Final = re.compile(
    rf"({MIXED}|{NUMBER})\s*(?:{_MIN})\.?\s*(?:and )?({NUMBER})\s*({_SEC})?\.?"
)
_SECONDS: Final = re.compile(rf"({NUMBER}|{MIXED})\s*({_SEC})?\.?")
_TWO_DIGITS: Final = re.compile(r"(\d+)\.([0-5]\d)")


def read_time(body: str, measure: Measure) -> Fraction:
    """A time in milliseconds. Raises `Unreadable`, with choices for 1.05 when both can be."""
    if found := _LONG_CLOCK.fullmatch(body):
        if "." not in found[3]:
            raise _hours_or_hundredths(*found.groups())
        return _clock(int(found[1]) * 60 + _under_60(found[2], "minutes"), found[3])
    if found := _CLOCK.fullmatch(body):
        if len(found[2].partition(".")[0]) == 1:
            raise _one_digit(found[1], found[2])
        if len(found[2].partition(".")[0]) > 2:
            raise Unreadable("“{typed}” has three digits of seconds.")
        return _clock(Fraction(found[1]), found[2])
    if found := _MINUTES_SECONDS.fullmatch(body):
        minutes = fraction(found[1])
        if minutes.denominator != 1:
            raise Unreadable("“{typed}” has a part of a minute before the seconds.")
        if found[3] is None and len(found[2].partition(".")[0]) == 1:
            raise _one_digit(found[1], found[2])
        return _clock(minutes, found[2])
    if found := _MINUTES.fullmatch(body):
        if "." in found[1]:
            raise _part_of_a_minute(found[1])
        if found[2] == "m" and measure.target_mm and fraction(found[1]) * 60_000 > measure.ceiling:
            raise ask("“{typed}” is more minutes than anyone needs.",
                      (f"{found[1]}m run", f"{found[1]} m run"))  # fmt: skip
        return fraction(found[1]) * 60_000
    if pair := _TWO_DIGITS.fullmatch(body):
        _refuse_if_ambiguous(pair, measure)
    if found := _SECONDS.fullmatch(body):
        if "/" in found[1] and not found[2]:
            raise ask("“{typed}” is a fraction without its unit.",
                      (f"{found[1]} s", f"{found[1]} s"), (f"{found[1]} min", f"{found[1]} min"),
                      )  # fmt: skip
        if not found[2]:
            _ask_if_minutes_fit(found[1], measure)
        return fraction(found[1]) * 1000
    raise Unreadable("“{typed}” is not a time.")


def _ask_if_minutes_fit(number: str, measure: Measure) -> None:
    """Seconds that nobody could take so few of may have been meant as minutes."""
    exact = fraction(number) * 1000
    could_be = measure.lowest <= exact * 60 <= measure.ceiling
    if exact >= measure.lowest or "/" in number or not could_be:
        return
    if "." in number:
        raise _part_of_a_minute(number)
    raise ask(
        "“{typed}” is only a few seconds here.",
        (f"{number}:00", f"{number} min"),
    )


def _hours_or_hundredths(first: str, second: str, third: str) -> Unreadable:
    """0:05:30 are minutes and seconds behind an hour, or seconds and hundredths of a stopwatch."""
    minutes, seconds = int(first) * 60 + int(second), int(second)
    return ask(
        "“{typed}” could be hours, minutes and seconds, or minutes, seconds and hundredths.",
        (f"{minutes}:{third}", f"{minutes} min {third} s"),
        (
            f"{int(first)}:{second}.{third}",
            f"{int(first)} min {seconds}.{third} s",
        ),
    )


def _clock(minutes: Fraction | int, seconds: str) -> Fraction:
    return Fraction(minutes) * 60_000 + _under_60(seconds, "seconds") * 1000


def _under_60(text: str, what: str) -> Fraction:
    if Fraction(text) >= 60:
        raise Unreadable(
            "“{typed}” has 60 {what} or more after the sign for a larger unit.", what=what
        )
    return Fraction(text)


def _one_digit(minutes: str, seconds: str) -> Unreadable:
    """1:5 may be 1:05 or the beginning of 1:50."""
    choices = [(f"{minutes}:0{seconds}", f"{minutes} min {seconds} s")]
    if "." not in seconds and int(seconds) < 6:
        choices.append((f"{minutes}:{seconds}0", f"{minutes} min {seconds}0 s"))
    return ask("“{typed}” has one digit of seconds.", *choices)


def _part_of_a_minute(text: str) -> Unreadable:
    """1.5 min is a minute and a half, or was meant as 1 min 5 or 50 s."""
    whole, _, part = text.partition(".")
    whole = whole or "0"
    exact = to_step(Fraction(text) * 60_000, 1)
    minutes, rest = divmod(exact, 60_000)
    readings = {f"{minutes}:{rest // 1000:02d}": exact % 1000 == 0}
    if len(part) == 1:
        readings[f"{whole}:0{part}"] = True
        readings[f"{whole}:{part}0"] = int(part) < 6
    else:
        readings[f"{whole}:{part[:2]}"] = len(part) == 2 and int(part) < 60
    choices = [
        (typed, f"{typed.replace(':', ' min ')} s") for typed, can in readings.items() if can
    ]
    return ask("“{typed}” is a decimal of a minute.", *choices) if choices else Unreadable(
        "“{typed}” is a decimal of a minute. Type minutes and seconds.")  # fmt: skip


def _refuse_if_ambiguous(pair: re.Match[str], measure: Measure) -> None:
    """1.05 may be a decimal of seconds or minutes and seconds: ask when both can be, or when only
    the clock's reading can."""
    minutes, seconds = int(pair[1]), int(pair[2])
    as_clock = minutes * 60_000 + seconds * 1000
    as_decimal = Fraction(pair[0]) * 1000
    can_clock = as_clock > 0 and measure.lowest <= as_clock <= measure.ceiling
    can_decimal = measure.lowest <= as_decimal <= measure.ceiling
    # 0.45 is 45 s, with the point of a clock, as likely as not half a second.
    clock = (
        f"{minutes}:{pair[2]}",
        f"{minutes} min {pair[2]} s" if minutes else f"{seconds} s",
    )
    plain = (f"{pair[0]}s", f"{pair[0]} s")
    if can_clock and can_decimal:
        raise ask(
            "“{typed}” could be {clock} or {plain}.", clock, plain, clock=clock[1], plain=plain[1]
        )
    if can_clock:
        raise ask("“{typed}” cannot be {plain} here.", clock, plain=plain[1])


_METRES_RUN: Final = re.compile(r"(.+?)\s*run")


def read_time_entry(body: str, measure: Measure) -> Read:
    """A time; where a distance is set also an unfinished try (laps, metres run), or the times at
    the end of each lap, the last of which is the finish."""
    if not measure.target_mm:
        return Read(read_time(body, measure))
    if found := _METRES_RUN.fullmatch(body):
        return _unfinished(read_length(found[1], "m"), measure)
    if measure.lap_mm and ("lap" in body or "+" in body) and LAPS_FORM.fullmatch(body):
        return _unfinished(read_laps(body, measure).exact or Fraction(0), measure)
    times = body.split()
    if len(times) > 1 and all(_CLOCK.fullmatch(one) for one in times):
        splits = [to_step(read_time(one, measure), measure.resolution) for one in times]
        if any(late <= early for early, late in itertools.pairwise(splits)):
            raise Unreadable(
                "“{typed}” is not a list of lap times. Each must be later than the last."
            )
        _check_laps(len(splits), measure)
        return Read(Fraction(splits[-1]), {"splits": splits})
    return Read(read_time(body, measure))


def _check_laps(times: int, measure: Measure) -> None:
    """Fewer laps than the distance are no finish. The last time may be of a part lap, or of a lap
    and the few metres to the finish. Raises `Unreadable`."""
    if not measure.lap_mm or not measure.target_mm:
        return
    laps = Fraction(measure.target_mm, measure.lap_mm)
    # A course laid out to a few millimetres a lap is not a lap longer for it.
    most = math.ceil(laps - Fraction(1, 200))
    if times > most:
        raise Unreadable(
            "“{typed}” has {times} lap times, but the distance is only {laps}.",
            times=times,
            laps=say_many("{n} lap", "{n} laps", most),
        )
    if times < math.ceil(laps - SHORT_BIT):
        short = f"{times} lap" if times == 1 else f"{times} laps"
        raise ask(
            "“{typed}” has {lap_times}, but the distance is {laps}.",
            (short, say("not finished, {short} run", short=short)),
            lap_times=say_many("{n} lap time", "{n} lap times", times),
            laps=say_many("{n} lap", "{n} laps", most),
        )


def _unfinished(distance: Fraction, measure: Measure) -> Read:
    if measure.target_mm is not None and distance >= measure.target_mm:
        raise Unreadable("“{typed}” is the whole distance. Type the time it took.")
    return Read(None, {"distance_mm": to_step(distance, 100)})
