"""Reading a score as a person types it.

One function, `read_entry`. It never guesses: what it cannot read for certain it refuses with
a sentence that says what is accepted, and offers the readings where two are possible.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from fractions import Fraction
from typing import Any, Final

from lauf.messages import or_list, say, say_many
from lauf.rules.reading.clocks import CLOCK_SLACK_MS
from lauf.rules.reading.kinds import KINDS, form_words, format_number, format_value
from lauf.rules.reading.quantities import SIDES_THERE_ARE, Better, Kind, Measure, decimal, to_step
from lauf.rules.reading.readers.text import Parts, Read, Unreadable, ask, comma_readings, plain
from lauf.rules.reading.reasons import REASON_KEYS, REASON_TYPED, REASON_WORDS, NotDone


@dataclass(frozen=True, slots=True)
class Entry:
    """What was typed, read: a canonical value, a reason, or an informal length; one of the three.

    parts     what the value is made of: the two marks, the sides, laps and metres beyond,
              movements, `distance_mm` of an unfinished try, `informal` and `informal_unit`
              (thousandths of a hand, a step) of a length without a calibration
    """

    typed: str
    value: int | None = None
    reason: NotDone | None = None
    estimate: bool = False
    parts: Parts = field(default_factory=Parts)

    @property
    def informal(self) -> bool:
        return "informal" in self.parts


@dataclass(frozen=True, slots=True)
class Choice:
    """One possible reading of an ambiguous entry: `typed` reads as exactly that."""

    typed: str
    words: str


class EntryError(ValueError):
    """The entry was refused.

    message   what is wrong with it
    accepted  what would be accepted instead
    choices   the readings to choose from, when it was ambiguous
    sure      true where only a clock, or a most that is our estimate, speaks against it: "it is
              right" keeps it as typed
    """

    def __init__(
        self,
        message: str,
        accepted: str,
        choices: tuple[Choice, ...] = (),
        *,
        sure: bool = False,
    ) -> None:
        super().__init__(f"{message} {accepted}")
        self.message = message
        self.accepted = accepted
        self.choices = choices
        self.sure = sure


#: Longer than any score (twenty lap times): stops a pasted page from reaching the patterns.
LONGEST_ENTRY: Final = 180


def accepted_words(measure: Measure) -> str:
    """One sentence saying what an entry for this measure may look like."""
    reasons = ", ".join(
        REASON_WORDS[reason] if len(typed) > 1 else f"{typed} {REASON_WORDS[reason]}"
        for typed, reason in reason_keys(measure).items()
    )
    return say(
        "Type {form_words}. Add ~ for an estimate. Or type a reason: {reasons}.",
        form_words=form_words(measure),
        reasons=reasons,
    )


def reason_keys(measure: Measure) -> dict[str, NotDone]:
    """What to type for each reason in this measure: its letter, or its words where the letter could
    also be a side, a hit or a variant."""
    return {
        REASON_WORDS[reason] if _also(letter, measure) else letter: reason
        for letter, reason in REASON_KEYS.items()
    }


def _also(letter: str, measure: Measure) -> tuple[Choice, ...]:
    """What else than a reason a letter could be; a variant cannot be chosen from here."""
    if measure.kind is Kind.SIDES and letter == "r":
        return (Choice("L n R y", say("right only")),)
    if measure.kind is Kind.SIDES and letter == "x":
        return (Choice("none", say("neither side")),)
    if measure.kind is Kind.HITS and letter == "x":
        return (Choice("1", say("one hit")),)
    if any(_names(letter, name.lower()) for name in measure.variants):
        return (Choice("", say("a form of this test")),)
    return ()


def _names(letter: str, variant: str) -> bool:
    """Whether somebody may type a letter for a variant: k for "on the knees". "and" and "arms" are
    in half of all names, and a child is absent every day: a is a variant called just that."""
    if letter == "a":
        return variant == letter
    return any(word.startswith(letter) for word in variant.split())


@dataclass(frozen=True, slots=True)
class QuickCheck:
    """What a browser may compare an entry with before it is sent: a JavaScript and Python regular
    expression for the whole entry, upper or lower case, and for plain counts the limits. The reader
    stays the judge."""

    pattern: str
    lowest: int | None = None
    highest: int | None = None


def quick_check(measure: Measure) -> QuickCheck:
    """A check that refuses no entry the reader accepts; for plain digits of a count it is exact."""
    kind = KINDS[measure.kind]
    words = "|".join(one for one in (kind.words, "about|approx|ca") if one)
    pieces = rf"[0-9\s~.,−–—‐‑{kind.signs}\-]|{words}"
    pattern = "|".join((f"(?:{pieces})+", *REASON_KEYS, *REASON_TYPED))
    if measure.kind is Kind.COUNT:
        return QuickCheck(pattern, measure.lowest, measure.cap or BEYOND * measure.highest)
    return QuickCheck(pattern)


_ABOUT: Final = re.compile(r"(?:~|about |approx\.? |ca\.? )\s*|\s*~")


def read_entry(
    text: str, measure: Measure, *, ran_ms: int | None = None, sure: bool = False
) -> Entry:
    """Read one typed score for the measure at hand.

    ran_ms   for times: how long the run it was taken by had gone when it was taken, in
             milliseconds; no time can be longer, unless the teacher is `sure`, and no score
             beyond the most of the test
    Returns an `Entry` whose value is in canonical units, rounded to the measure's resolution.
    Raises `EntryError` for anything that is not certainly a score or a reason.

    >>> read_entry("42~", Measure(Kind.COUNT)).estimate
    True
    >>> read_entry("4ft 2in", Measure(Kind.LENGTH, unit="cm", resolution=10)).value
    1270
    """
    typed = text.strip()
    accepted = accepted_words(measure)
    if sure and measure.cap is None and measure.kind not in _CERTAIN:
        measure = replace(measure, highest=BEYOND * measure.highest)
    if not typed:
        raise EntryError(say("Type a score or a reason."), accepted)
    if len(typed) > LONGEST_ENTRY:
        raise EntryError(say("That is too long to be a score."), accepted)
    if reason := _reason(typed, measure):
        return Entry(typed=typed, reason=reason)
    body = plain(typed)
    without = _ABOUT.sub("", body).strip()
    estimate = without != body
    if estimate and without in REASON_KEYS | REASON_TYPED:
        raise EntryError(say("A reason cannot be an estimate."), accepted)
    if not without.isascii():  # \d would also match digits of other scripts
        raise EntryError(say("“{typed}” is not a score.", typed=typed), accepted)
    try:
        read, value = _only_reading(typed, without, measure, accepted)
    except EntryError as error:
        if sure and error.sure:  # beyond what anybody is believed
            raise EntryError(error.message, accepted) from None
        raise
    if value is None:
        if "informal" in read.parts:
            return Entry(typed=typed, estimate=estimate, parts=read.parts)
        if estimate:
            read.parts["estimate"] = True
        return Entry(typed=typed, reason=NotDone.UNFINISHED, parts=read.parts)
    if measure.kind is Kind.TIME and not sure:
        _check_clock(value, typed, measure, accepted, ran_ms)
    return Entry(typed=typed, value=value, estimate=estimate, parts=read.parts)


def sides_words(parts: Mapping[str, Any]) -> str:
    """Which sides of a yes-or-no test were reached.

    >>> sides_words({"left": False, "right": True})
    'right'
    """
    sides = [side for side in ("left", "right") if parts.get(side)]
    return say("both") if len(sides) == SIDES_THERE_ARE else "".join(sides) or say("neither")


def entry_words(entry: Entry, measure: Measure) -> str:
    """How an entry is kept, as one would say it.

    >>> time = Measure(Kind.TIME, unit="s", resolution=100)
    >>> entry_words(read_entry("2:05~", time), time)
    '2 min 5 s, an estimate'
    """
    if entry.reason is NotDone.UNFINISHED and "distance_mm" in entry.parts:
        words = say(
            "not finished, {fraction} m",
            fraction=decimal(Fraction(entry.parts["distance_mm"], 1000), 1),
        )
    elif entry.reason:
        words = REASON_WORDS[entry.reason]
    elif entry.value is None:
        words = say("{typed}, not converted", typed=entry.typed.rstrip("~ "))
    elif measure.kind is Kind.TIME and entry.value >= 60_000:
        minutes, rest = divmod(entry.value, 60_000)
        words = say(
            "{minutes} min {fraction} s", minutes=minutes, fraction=decimal(Fraction(rest, 1000), 3)
        )
    elif measure.kind is Kind.SIDES and entry.parts:
        words = sides_words(entry.parts)
    elif measure.kind is Kind.COUNT:
        words = say_many("{n} rep", "{n} reps", entry.value)
    else:
        words = format_value(entry.value, measure)
    return say("{words}, an estimate", words=words) if entry.estimate else words


def _reason(typed: str, measure: Measure) -> NotDone | None:
    """The reason that was typed, if it is one. Raises EntryError where its letter could also be a
    side, a hit or a variant."""
    letter = typed.lower()  # as typed: × is a hit, not the key x
    if letter in REASON_TYPED:
        return REASON_TYPED[letter]
    reason = REASON_KEYS.get(letter)
    if reason is None:
        return None
    other = _also(letter, measure)
    if not other:
        return reason
    words = REASON_WORDS[reason]
    also = ", ".join(choice.words for choice in other)
    raise EntryError(
        say("“{typed}” could be {words} or {also}.", typed=typed, words=words, also=also),
        say("Type “{words}” for the reason. Each form has its own key.", words=words),
        (Choice(words, words), *(choice for choice in other if choice.typed)),
    )


def _only_reading(
    typed: str, body: str, measure: Measure, accepted: str
) -> tuple[Read, int | None]:
    """The one reading of an entry, whichever way its commas are meant. Raises EntryError for none,
    or for two that differ."""
    found: dict[int | None, tuple[Read, str]] = {}
    problem: EntryError | None = None
    asked: dict[str, Choice] = {}
    for reading in comma_readings(body, separates=KINDS[measure.kind].separates):
        try:
            read, value = _one_reading(typed, reading, measure, accepted)
        except EntryError as error:
            problem = problem or error
            asked |= {choice.typed: choice for choice in error.choices}
            continue
        found.setdefault(value, (read, reading))
    if not found:
        assert problem is not None
        raise problem
    others = [one for one in asked.values() if read_entry(one.typed, measure).value not in found]
    if len(found) > 1 or others:
        choices = (
            *(
                Choice(
                    reading, say("not a number") if value is None else format_value(value, measure)
                )
                for value, (_, reading) in found.items()
            ),
            *others,
        )
        ways = or_list(choice.words for choice in choices)
        raise EntryError(
            say("“{typed}” could be {ways}.", typed=typed, ways=ways),
            say("Type {typed}.", typed=choices[0].typed),
            choices,
        )
    ((value, (read, _)),) = found.items()
    return read, value


def _one_reading(typed: str, body: str, measure: Measure, accepted: str) -> tuple[Read, int | None]:
    try:
        if re.fullmatch(r"-\s*[\d.:]+.*", body) and measure.kind not in (Kind.OFFSET, Kind.SIDES):
            raise Unreadable("“{typed}” is below zero.")
        if re.search(r"\d\.$", body):
            raise ask("“{typed}” ends in a point.", (body[:-1], body[:-1]))
        read = KINDS[measure.kind].read(body, measure)
    except Unreadable as problem:
        choices = _fitting(problem.choices, measure)
        if choices:
            help_text = say("Type {typed}.", typed=or_list(choice.typed for choice in choices))
        else:
            help_text = accepted if problem.choices else problem.accepted or accepted
        raise EntryError(problem.words(typed), help_text, choices) from None
    if read.exact is None:
        return read, None
    value = to_step(read.exact, measure.resolution)
    _check_limits(value, typed, measure, accepted)
    return read, value


def _fitting(choices: tuple[tuple[str, str], ...], measure: Measure) -> tuple[Choice, ...]:
    """Of the readings to choose from those that this test takes, each once."""
    found = []
    for typed, words in dict(choices).items():
        try:
            read_entry(typed, measure)
        except EntryError:
            continue
        found.append(Choice(typed, words))
    return tuple(found)


#: Kinds whose most is certain, so many shots, two sides, so many shuttles; and times, of which a
#: clock says more.
_CERTAIN: Final = (Kind.HITS, Kind.SIDES, Kind.STAGE, Kind.PULSE, Kind.TIME)
#: What lies beyond the most of a test by no more than this is asked about, not refused: where that
#: most lies is our estimate.
BEYOND: Final = 2


def _check_limits(value: int, typed: str, measure: Measure, accepted: str) -> None:
    if measure.cap is not None and value > measure.cap:
        cap = format_value(measure.cap, measure)
        reached = Choice(
            format_number(measure.cap, measure), say("reached the maximum, {cap}", cap=cap)
        )
        # A hold is stopped a moment after its maximum: it was reached.
        choices = (reached,) if measure.kind is Kind.TIME and measure.better is Better.UP else ()
        raise EntryError(
            say("“{typed}” is above this test's maximum of {cap}.", typed=typed, cap=cap),
            accepted,
            choices,
        )
    if value > measure.highest:
        high = format_value(measure.highest, measure)
        if measure.kind in _CERTAIN or value > BEYOND * measure.highest:
            raise EntryError(
                say("“{typed}” is more than anyone can do here ({high}).", typed=typed, high=high),
                accepted,
            )
        raise EntryError(
            say(
                "“{typed}” is more than anyone here is known to do ({high}).",
                typed=typed,
                high=high,
            ),
            accepted,
            sure=True,
        )
    if value < measure.lowest:
        low = format_value(measure.lowest, measure)
        end = say("faster than anyone") if measure.better is Better.DOWN else say("too small")
        raise EntryError(
            say("“{typed}” is {end}. The lowest possible is {low}.", typed=typed, end=end, low=low),
            accepted,
        )


def _check_clock(
    value: int, typed: str, measure: Measure, accepted: str, ran_ms: int | None
) -> None:
    if ran_ms is not None and value > ran_ms + CLOCK_SLACK_MS:
        ran = format_value(to_step(Fraction(ran_ms), 1000), measure)
        raise EntryError(
            say("“{typed}” is longer than the clock ran ({ran}).", typed=typed, ran=ran),
            accepted,
            sure=True,
        )
