"""The database engine that the settings name (`lauf.web.database`)."""

from __future__ import annotations

from functools import partial
from typing import Any

import psycopg
from django.db.backends.postgresql import base
from psycopg_pool import ConnectionPool


class DatabaseWrapper(base.DatabaseWrapper):
    """When the database was started again, every connection of the pool is broken. The pool finds
    that out one by one, and waits ever longer in between: the first to ask waited for ten seconds
    and got nothing. Here, who finds one broken has all the others looked at."""

    @property
    def pool(self) -> Any:
        pool = super().pool
        # The pool takes its check when it is made, and Django makes it.
        if pool is not None and pool._check is ConnectionPool.check_connection:
            pool._check = partial(_check, pool)
        return pool


def _check(pool: ConnectionPool, connection: psycopg.Connection) -> None:
    try:
        ConnectionPool.check_connection(connection)
    except psycopg.Error:
        pool.check()
        raise


def pool_numbers() -> dict[str, int]:
    """Connections of this process: open, free, and how many requests wait for one."""
    pool = base.DatabaseWrapper._connection_pools.get("default")  # type: ignore[attr-defined]
    found = pool.get_stats() if pool is not None else {}
    return {
        "open": found.get("pool_size", 0),
        "free": found.get("pool_available", 0),
        "waiting": found.get("requests_waiting", 0),
    }
