"""Counts of wrong guesses in the database: those of all processes that serve are one."""

from __future__ import annotations

from typing import Final

from django.db import DatabaseError, connection, transaction
from limits.storage import MovingWindowSupport, Storage

from lauf.web.models import Guess

#: Lets one count at a time of one key.
_ONE_BY_ONE: Final = "SELECT pg_advisory_xact_lock(hashtextextended(%s, 7))"
_WITHIN: Final = "key = %s AND at > clock_timestamp() - %s * interval '1 second'"


class DatabaseGuesses(Storage, MovingWindowSupport):
    """A store of the library of limits, for its moving windows alone."""

    STORAGE_SCHEME: Final = ["lauf"]  # type: ignore[misc]

    @property
    def base_exceptions(self) -> type[Exception]:
        return DatabaseError

    def acquire_entry(self, key: str, limit: int, expiry: int, amount: int = 1) -> bool:
        """Count one more, unless there are so many within `expiry` seconds already."""
        with transaction.atomic(), connection.cursor() as cursor:
            cursor.execute(_ONE_BY_ONE, [key])
            # What is too old for every key goes with it.
            cursor.execute(
                "DELETE FROM web_guess WHERE at < clock_timestamp() - %s * interval '1 second'",
                [expiry],
            )
            cursor.execute(f"SELECT count(*) FROM web_guess WHERE {_WITHIN}", [key, expiry])
            (counted,) = cursor.fetchone()
            if counted + amount > limit:
                return False
            Guess.objects.bulk_create(Guess(key=key) for _ in range(amount))
        return True

    def get_moving_window(self, key: str, limit: int, expiry: int) -> tuple[float, int]:  # noqa: ARG002
        """When the oldest within `expiry` seconds was, in seconds since 1970, and how many."""
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT coalesce(extract(epoch FROM min(at)), extract(epoch FROM now()))::float8,"
                f" count(*) FROM web_guess WHERE {_WITHIN}",
                [key, expiry],
            )
            oldest, counted = cursor.fetchone()
        return float(oldest), int(counted)

    def check(self) -> bool:
        return True

    def reset(self) -> int:
        return Guess.objects.all().delete()[0]

    def clear(self, key: str) -> None:
        Guess.objects.filter(key=key).delete()

    # Windows that do not move are counted nowhere.

    def incr(self, key: str, expiry: int, amount: int = 1) -> int:
        raise NotImplementedError

    def get(self, key: str) -> int:
        raise NotImplementedError

    def get_expiry(self, key: str) -> float:
        raise NotImplementedError
