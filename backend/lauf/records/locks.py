"""Two things that must not happen at once: a score is kept, and what scores add up to is kept."""

from __future__ import annotations

from typing import Final
from uuid import UUID

from django.db import connection

_BIGINT: Final = 2**63


def while_a_score_is_kept(test: UUID) -> None:
    """Until the transaction ends no sums over the test's scores are kept; other scores are."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock_shared(%s)", [test.int % _BIGINT])


def no_score_is_being_kept(test: UUID) -> bool:
    """Whether that is so; where it is, it stays so until the end of the transaction."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_try_advisory_xact_lock(%s)", [test.int % _BIGINT])
        (alone,) = cursor.fetchone() or (False,)
    return bool(alone)
