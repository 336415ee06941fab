"""Reading a score as a person types it.

One function, `read_entry`. It never guesses: what it cannot read for certain it refuses with
a sentence that says what is accepted, and offers the readings where two are possible.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction
from typing import Any, Final

from lauf.rules import readers
from lauf.rules.quantities import Better, Kind, Measure, format_value, to_step

#: A hand on a stopwatch and a hand on a tablet differ by this much.
CLOCK_SLACK_MS: Final = 2_000


class NotDone(StrEnum):
    """Why there is no score. Blank is never zero."""

    ABSENT = "absent"
    SAT_OUT = "sat_out"
    NO_KIT = "no_kit"
    DID_NOT_WANT = "did_not_want"
    VOID = "void"
    UNFINISHED = "unfinished"


#: The one-letter keys, and what each is called on screen.
REASON_KEYS: Final[dict[str, NotDone]] = {
    "a": NotDone.ABSENT,
    "x": NotDone.SAT_OUT,
    "k": NotDone.NO_KIT,
    "r": NotDone.DID_NOT_WANT,
    "v": NotDone.VOID,
}
REASON_WORDS: Final[dict[NotDone, str]] = {
    NotDone.ABSENT: "absent",
    NotDone.SAT_OUT: "sat out",
    NotDone.NO_KIT: "no kit or helper",
    NotDone.DID_NOT_WANT: "did not want to",
    NotDone.VOID: "void",
    NotDone.UNFINISHED: "not finished",
}


#: What a score is made of, beside its value: plain numbers, words and lists, as JSON holds them.
Parts = dict[str, Any]


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
    parts: Parts = field(default_factory=dict)

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
    """

    def __init__(self, message: str, accepted: str, choices: tuple[Choice, ...] = ()) -> None:
        super().__init__(f"{message} {accepted}")
        self.message = message
        self.accepted = accepted
        self.choices = choices


_REASONS: Final = "a absent, x sat out, k no kit, r did not want to, v void"
#: Longer than any score (twenty lap times): stops a pasted page from reaching the patterns.
LONGEST_ENTRY: Final = 180


def accepted_words(measure: Measure) -> str:
    """One sentence saying what an entry for this measure may look like."""
    return f"Type {readers.form_words(measure)}; ~ after it for an estimate; or {_REASONS}."


@dataclass(frozen=True, slots=True)
class QuickCheck:
    """What a browser may compare an entry with before it is sent: a JavaScript and Python regular
    expression for the whole entry, upper or lower case, and for plain counts the limits. The reader
    stays the judge."""

    pattern: str
    lowest: int | None = None
    highest: int | None = None


_LENGTH_WORDS: Final = (
    "mm|cm|km|m|inch(?:es)?|in|ft|feet-lengths?|feet|foot|yds?|miles?|hands?|spans?|steps?|paces?"
)
_LENGTH_SIGNS: Final = ".,½'\"’′”″"
#: What may stand in an entry of each kind beside digits, blanks, dashes and ~: signs, and words.
_PIECES: Final[dict[Kind, tuple[str, str]]] = {
    Kind.TIME: (":.,½+", "mins?|m|secs?|s|laps?|km|yds?|miles?|run"),
    Kind.LENGTH: (_LENGTH_SIGNS, _LENGTH_WORDS),
    Kind.MARKS: (f"{_LENGTH_SIGNS}>/", f"{_LENGTH_WORDS}|to"),
    Kind.OFFSET: (f"{_LENGTH_SIGNS}+", _LENGTH_WORDS),
    Kind.SIDES: (".,;/✓✗×lryn", "yes|no|both|b|none|neither|x"),
    Kind.HITS: ("xo×/", "of|out of"),
    Kind.STAGE: (".,:/", ""),
    Kind.LAPS: (f"{_LENGTH_SIGNS}+", f"laps?|{_LENGTH_WORDS}"),
    Kind.TOTAL: ("c+", ""),
    Kind.MASS: (".,½", "kgs?|g|lbs?|stone|st"),
    Kind.PULSE: ("/", "bpm|in|secs?|s"),
}


def quick_check(measure: Measure) -> QuickCheck:
    """A check that refuses no entry the reader accepts; for counts it is exact but for reasons."""
    if measure.kind is Kind.COUNT:
        return QuickCheck(r"~?\s*[0-9]+\s*~?", measure.lowest, measure.ceiling)
    signs, words = _PIECES[measure.kind]
    pieces = rf"[0-9\s~−–{signs}\-]" + (f"|{words}" if words else "")
    return QuickCheck(f"(?:{pieces})+")


def read_entry(text: str, measure: Measure, *, ran_ms: int | None = None) -> Entry:
    """Read one typed score for the measure at hand.

    ran_ms   for times: how long the clock had run when the score was taken, in milliseconds; no
             time can be longer
    Returns an `Entry` whose value is in canonical units, rounded to the measure's resolution.
    Raises `EntryError` for anything that is not certainly a score or a reason.

    >>> read_entry("42~", Measure(Kind.COUNT)).estimate
    True
    >>> read_entry("4ft 2in", Measure(Kind.LENGTH, unit="cm", resolution=10)).value
    1270
    """
    typed = text.strip()
    accepted = accepted_words(measure)
    if not typed:
        raise EntryError("Nothing was typed.", accepted)
    if len(typed) > LONGEST_ENTRY:
        raise EntryError("That is too long to be a score.", accepted)
    plain = typed.translate(readers.PLAIN).lower()
    if typed.lower() in REASON_KEYS:  # as typed: × is a hit, not the key x
        return Entry(typed=typed, reason=REASON_KEYS[typed.lower()])
    estimate = plain.endswith("~") or plain.startswith("~")
    body = plain.strip("~").strip()
    if estimate and body in REASON_KEYS:
        raise EntryError("A reason cannot be an estimate.", accepted)
    if not body.isascii():  # \d would also match digits of other scripts
        raise EntryError(f"“{typed}” is not a score.", accepted)
    try:
        read = readers.read(body, measure)
    except readers.Unreadable as problem:
        choices = tuple(Choice(*choice) for choice in problem.choices)
        said = problem.accepted or accepted
        raise EntryError(f"“{typed}” {problem}", said, choices) from None
    if "informal" in read.parts:
        return Entry(typed=typed, estimate=estimate, parts=read.parts)
    if "distance_mm" in read.parts and read.exact is None:
        if estimate:
            read.parts["estimate"] = True
        return Entry(typed=typed, reason=NotDone.UNFINISHED, parts=read.parts)
    assert read.exact is not None
    value = to_step(read.exact, measure.resolution)
    _check_limits(value, typed, measure, accepted, ran_ms)
    return Entry(typed=typed, value=value, estimate=estimate, parts=read.parts)


def _check_limits(
    value: int, typed: str, measure: Measure, accepted: str, ran_ms: int | None
) -> None:
    if measure.cap is not None and value > measure.cap:
        cap = format_value(measure.cap, measure)
        raise EntryError(f"“{typed}” is over this test's own maximum of {cap}.", accepted)
    if value > measure.highest:
        high = format_value(measure.highest, measure)
        raise EntryError(f"“{typed}” is more than anyone can do here ({high}).", accepted)
    if value < measure.lowest:
        low = format_value(measure.lowest, measure)
        end = "faster than anyone" if measure.better is Better.DOWN else "too small"
        raise EntryError(f"“{typed}” is {end}: the least is {low}.", accepted)
    if measure.kind is Kind.TIME and ran_ms is not None and value > ran_ms + CLOCK_SLACK_MS:
        ran = format_value(to_step(Fraction(ran_ms), 1000), measure)
        raise EntryError(f"“{typed}” is longer than the clock had run ({ran}).", accepted)
