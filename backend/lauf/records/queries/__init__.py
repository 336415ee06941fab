"""Every read of what was recorded, as plain rows for judgement and the rules."""

from lauf.records.queries.attempts import (
    Row,
    attempt_of,
    class_history,
    class_rows,
    counting,
    is_open,
    lesson_rows,
    reason_words,
    rows,
    worked_seconds,
)
from lauf.records.queries.recounts import Counted, TwoCounts, counts_beside, two_counts
from lauf.records.queries.repeats import Repeats, repeats_of

__all__ = [
    "Counted",
    "Repeats",
    "Row",
    "TwoCounts",
    "attempt_of",
    "class_history",
    "class_rows",
    "counting",
    "counts_beside",
    "is_open",
    "lesson_rows",
    "reason_words",
    "repeats_of",
    "rows",
    "two_counts",
    "worked_seconds",
]
