"""Logs for whoever keeps Lauf running: what went wrong, and nothing about a child."""

from __future__ import annotations

import logging
import re
from typing import Final

#: PostgreSQL's details hold the values of the row that it would not take.
_VALUES: Final = re.compile(r"^(\s*)(DETAIL|CONTEXT):.*$", re.MULTILINE)


class WithoutRows(logging.Formatter):
    """A formatter that leaves the values of rows out of what a database error says."""

    def format(self, record: logging.LogRecord) -> str:
        return _VALUES.sub(r"\1\2: (left out)", super().format(record))
