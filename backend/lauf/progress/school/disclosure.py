"""Disclosure control of counts that any of the staff may ask for over groups of their own choice.

Two counts over groups that differ by one child tell that child's score: the difference is the
child. So a group is counted only where, together with all groups of the same scores that were
counted in the last day, no set of one to four children can be told apart. Every combination of the
counts is then a sum over sets of five or more. (Statistical disclosure control: differencing.)

What was counted is remembered by this process, for a day; a restart forgets it.
"""

from __future__ import annotations

import threading
from collections import Counter, defaultdict
from collections.abc import Hashable
from datetime import datetime, timedelta
from typing import Final
from uuid import UUID

from lauf.rules.judging.summaries import FEWEST_TOLD

_REMEMBERED: Final = timedelta(days=1)
#: Groups that are remembered of the same scores: there are not that many ways to ask for a ladder.
_MOST: Final = 200

Group = frozenset[UUID]


class Counted:
    """Which groups were counted, by which scores of them were counted."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._held: dict[Hashable, list[tuple[datetime, Hashable, Group]]] = defaultdict(list)

    def group_to_count(
        self, of: Hashable, asked: Hashable, group: Group, now: datetime
    ) -> Group | None:
        """The children to count: the group that was asked for; or, where a few have come since the
        same was asked, as it was then; or None where single children could be told apart.

        of     which scores: a test, and the conditions they were made under
        asked  how the group was asked for
        """
        with self._lock:
            kept = [one for one in self._held[of] if now - one[0] < _REMEMBERED]
            self._held[of] = kept
            groups = [before for _, _, before in kept]
            if group in groups:
                return group
            if len(groups) < _MOST and tells_nobody([*groups, group]):
                kept.append((now, asked, group))
                return group
            return next((before for _, said, before in reversed(kept) if said == asked), None)


def tells_nobody(groups: list[Group]) -> bool:
    """Whether no set of fewer than five children can be told apart by which groups they are in."""
    everybody = frozenset[UUID]().union(*groups)
    sets = Counter(tuple(child in group for group in groups) for child in everybody)
    return all(size >= FEWEST_TOLD for size in sets.values())


COUNTED: Final = Counted()
