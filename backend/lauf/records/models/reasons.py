"""Why there is no score, as a column holds it."""

from __future__ import annotations

from lauf.messages import say
from lauf.rules.reading.reasons import REASON_WORDS

#: An entry taken back by undo: the child's row is empty again, the history is not.
WITHDRAWN = "withdrawn"
REASONS = [(reason.value, words) for reason, words in REASON_WORDS.items()] + [
    (WITHDRAWN, say("undone"))
]
