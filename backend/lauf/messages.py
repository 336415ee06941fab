"""What Lauf says to people, in the one language of this installation.

The English sentence in the code is the message itself; a translation is a file of GNU gettext,
`locale/<language>/LC_MESSAGES/lauf.mo`, chosen by `LAUF_LANGUAGE`. `lauf.pot` lists every message.
Beside it lies `pages.json` with the messages of the pages, by part and key as in the front end's
`messages/en-GB`.
"""

from __future__ import annotations

import gettext
import os
from collections.abc import Iterable
from pathlib import Path
from typing import Final

#: British English is what the code is written in, and needs no file.
SOURCE: Final = "en-GB"
#: Where translations are looked for first, for those that do not come with Lauf.
_ELSEWHERE: Final = os.environ.get("LAUF_LOCALE", "")
_HERE: Final = str(Path(__file__).parent / "locale")
LANGUAGE: Final = os.environ.get("LAUF_LANGUAGE", SOURCE)


_PLACE: Final = Path(_ELSEWHERE or _HERE)
_NAME: Final = LANGUAGE.replace("-", "_")


def _catalogue() -> gettext.NullTranslations:
    if LANGUAGE == SOURCE:
        return gettext.NullTranslations()
    return gettext.translation("lauf", str(_PLACE), [_NAME])


_MESSAGES: Final = _catalogue()


def say(message: str, /, **named: object) -> str:
    """A message with what stands in its braces, by name."""
    translated = _MESSAGES.gettext(message)
    return translated.format(**named) if named else translated


def say_many(one: str, many: str, n: int, /, **named: object) -> str:
    """A message for one, or for as many as `n`, which both may name."""
    return _MESSAGES.ngettext(one, many, n).format(n=n, **named)


def and_list(words: Iterable[str]) -> str:
    """ "a", "a and b", "a, b and c"."""
    *most, last = list(words) or [""]
    return say("{most} and {last}", most=", ".join(most), last=last) if most else last


def or_list(words: Iterable[str]) -> str:
    """ "a", "a or b", "a, b or c"."""
    *most, last = list(words) or [""]
    return say("{most} or {last}", most=", ".join(most), last=last) if most else last


def mark(message: str) -> str:
    """A message that is put into the catalogue here, and said by somebody else."""
    return message


def messages_of_pages() -> str | None:
    """What the pages say in another language, as JSON; None in the language of the code. Raises
    OSError where the file is missing."""
    if LANGUAGE == SOURCE:
        return None
    return (_PLACE / _NAME / "LC_MESSAGES" / "pages.json").read_text()
