"""What Lauf does by itself while it serves: a backup every night."""

from __future__ import annotations

import threading
import time
from datetime import datetime
from typing import Final

from ops import backup
from ops.databases import Database
from ops.machine import Lacking, say

#: How often is looked whether one is due, and how long is waited after one that failed, in seconds.
_LOOKS: Final = 60.0
_AFTER_A_FAILURE: Final = 1800.0


class Nights:
    """Makes the nightly backups of a database, beside the serving. The first is made at once, so
    that the first day is not without."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._next = 0.0
        self._thread: threading.Thread | None = None

    def look(self) -> None:
        """Begin a backup if one is due; returns at once."""
        if time.monotonic() < self._next or (self._thread and self._thread.is_alive()):
            return
        self._next = time.monotonic() + _LOOKS
        if not backup.is_due(self._database.name, datetime.now()):
            return
        self._thread = threading.Thread(target=self._make, daemon=True)
        self._thread.start()

    def _make(self) -> None:
        try:
            backup.nightly(self._database, datetime.now())
        except (Lacking, OSError) as problem:
            self._next = time.monotonic() + _AFTER_A_FAILURE
            say(f"the nightly backup did not work: {problem}")
