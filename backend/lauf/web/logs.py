"""Logs for whoever keeps Lauf running: what went wrong, what was asked for, no child."""

from __future__ import annotations

import logging
import re
from typing import Final

from pythonjsonlogger.json import JsonFormatter

#: PostgreSQL's details hold the values of the row that it would not take.
_VALUES: Final = re.compile(r"^(\s*)(DETAIL|CONTEXT):.*$", re.MULTILINE)
_LEFT_OUT: Final = r"\1\2: (left out)"


class WithoutRows(logging.Formatter):
    """A formatter that leaves the values of rows out of what a database error says."""

    def format(self, record: logging.LogRecord) -> str:
        return _VALUES.sub(_LEFT_OUT, super().format(record))


class Json(JsonFormatter):
    """The same as a line of JSON: `time`, `level`, `message`, and what a request's line has."""

    def __init__(self) -> None:
        super().__init__(
            "%(asctime)s %(levelname)s %(message)s",
            rename_fields={"asctime": "time", "levelname": "level"},
        )

    def process_log_record(self, log_data: dict[str, object]) -> dict[str, object]:
        # Django hands on the request itself, whose address says what was searched for.
        log_data.pop("request", None)
        return {
            name: _VALUES.sub(_LEFT_OUT, held) if isinstance(held, str) else held
            for name, held in super().process_log_record(log_data).items()
        }


def configured(kind: str) -> dict[str, object]:
    """What Django's LOGGING is for a LAUF_LOG."""
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "formatters": {
            "quiet": {"()": WithoutRows},
            "text": {"()": WithoutRows, "format": "%(asctime)s %(levelname)s %(message)s"},
            "json": {"()": Json},
        },
        "handlers": {"console": {"class": "logging.StreamHandler", "formatter": kind}},
        "root": {"handlers": ["console"], "level": "WARNING"},
        "loggers": {
            # That connections are renewed is no news.
            "psycopg.pool": {"level": "ERROR"},
            "lauf.requests": {"level": "WARNING" if kind == "quiet" else "INFO"},
        },
    }
