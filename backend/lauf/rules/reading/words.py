"""Words with numbers."""

from __future__ import annotations

import re
from typing import Final

from lauf.messages import say

#: Signs that nobody types and no page shows: controls but the ends of lines and tabs, and those
#: that turn the direction of all that follows (Unicode's bidirectional embeddings and isolates).
CONTROLS: Final = re.compile(r"[\0-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\u202a-\u202e\u2066-\u2069]")


def fitting(text: str, longest: int, what: str) -> str:
    """A label as it is kept, without space around it. Raises ValueError for one that is longer than
    what is kept: it is not cut.

    >>> fitting(" Bean bags ", 40, "a station")
    'Bean bags'
    """
    kept = text.strip()
    if len(kept) > longest:
        raise ValueError(
            say(
                "{what} can have up to {longest} letters. This one has {kept}: “{kept2}…”.",
                what=what,
                longest=longest,
                kept=len(kept),
                kept2=kept[:30],
            )
        )
    return kept
