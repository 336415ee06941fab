"""Whether this Lauf can do its work."""

from __future__ import annotations

import threading
import time
from typing import Final

from django.db import DatabaseError, connection, transaction
from django.db.migrations.executor import MigrationExecutor

#: Anybody may ask, often: the database is asked once in so many seconds.
_HOLDS_S: Final = 5.0
_lock: Final = threading.Lock()
_last: dict[str, tuple[float, dict[str, bool]]] = {}


def health() -> dict[str, bool]:
    """Whether the database answers, and whether it has room and leave to write: a table that is
    gone at the end of its transaction is made. One look for all who ask within five seconds."""
    with _lock:
        at, found = _last.get("health", (0.0, {}))
        if not found.get("writing") or time.monotonic() - at > _HOLDS_S:
            found = {"database": _works("SELECT 1"), "writing": _works(_WRITE)}
            _last["health"] = (time.monotonic(), found)
    return found


def ready() -> bool:
    """Whether requests can be sent here: the database answers, can be written to, and is of this
    version. One look for all who ask within five seconds."""
    return health()["writing"] and _is_of_this_version()


def _is_of_this_version() -> bool:
    with _lock:
        at, found = _last.get("version", (0.0, {}))
        if not found.get("same") or time.monotonic() - at > _HOLDS_S:
            try:
                executor = MigrationExecutor(connection)
                missing = executor.migration_plan(executor.loader.graph.leaf_nodes())
                found = {"same": not missing}
            except DatabaseError:
                found = {"same": False}
            _last["version"] = (time.monotonic(), found)
    return found["same"]


_WRITE: Final = "CREATE TEMP TABLE lauf_health ON COMMIT DROP AS SELECT repeat('x', 8000) AS x"


def _works(question: str) -> bool:
    try:
        with transaction.atomic(), connection.cursor() as cursor:
            cursor.execute("SET LOCAL statement_timeout = '3s'")
            cursor.execute(question)
            # A transaction that this one is a part of would keep the three seconds.
            cursor.execute("SET LOCAL statement_timeout TO DEFAULT")
    except DatabaseError:
        return False
    return True
