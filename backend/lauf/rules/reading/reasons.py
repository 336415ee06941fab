"""Why there is no score, and what a teacher types for it."""

from __future__ import annotations

from enum import StrEnum
from typing import Final

from lauf.messages import say


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
    NotDone.ABSENT: say("absent"),
    NotDone.SAT_OUT: say("sat out"),
    NotDone.NO_KIT: say("no kit or helper"),
    NotDone.DID_NOT_WANT: say("did not want to"),
    NotDone.VOID: say("void"),
    NotDone.UNFINISHED: say("not finished"),
}
#: The words that a reason may be typed as, whatever a letter could also mean.
REASON_TYPED: Final[dict[str, NotDone]] = {
    **{words: one for one, words in REASON_WORDS.items() if one is not NotDone.UNFINISHED},
    "no kit": NotDone.NO_KIT,
}
