"""The one way through the guards of append-only tables."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from uuid import UUID

from django.db import connection, transaction

from lauf.people.actions import log
from lauf.people.models import Change, Staff


@contextmanager
def rewriting(staff: Staff, words: str, about: UUID | None = None) -> Iterator[None]:
    """Within it rows of attempts, pulses, calibrations, settlements and points may change hands or
    go for good. Who opened it and why is on record, in the same transaction; nothing else in Lauf
    opens it."""
    with transaction.atomic(), connection.cursor() as cursor:
        log(staff, Change.What.CARE, words, about)
        cursor.execute("SET LOCAL lauf.door = 'open'")
        yield
        cursor.execute("SET LOCAL lauf.door = ''")


@contextmanager
def leaving() -> Iterator[None]:
    """Within it a whole school may go for good, and its log with it."""
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("SET LOCAL lauf.door = 'open'")
        yield
        cursor.execute("SET LOCAL lauf.door = ''")
