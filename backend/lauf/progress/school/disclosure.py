"""Disclosure control of counts that any of the staff may ask for over groups of their own choice.

Two counts over groups that differ by one child tell that child's score: the difference is the
child. So a group is counted only where, together with all groups of the same scores that were
counted in the last day, no set of one to four children can be told apart. Every combination of the
counts is then a sum over sets of five or more. (Statistical disclosure control: differencing.)

What was counted is remembered in the database for a day, by whichever process counted.
"""

from __future__ import annotations

import hashlib
from collections import Counter
from collections.abc import Hashable, Sequence
from datetime import datetime, timedelta
from typing import Final
from uuid import UUID

from django.db import connection, transaction

from lauf.people.models import CountedGroup
from lauf.rules.judging.summaries import FEWEST_TOLD

_REMEMBERED: Final = timedelta(days=1)
#: Groups that are remembered of the same scores: there are not that many ways to ask for a ladder.
_MOST: Final = 200

Group = frozenset[UUID]


@transaction.atomic
def group_to_count(of: Hashable, asked: Hashable, group: Group, now: datetime) -> Group | None:
    """The children to count: the group that was asked for; or, where a few have come since the same
    was asked, as it was then; or None where single children could be told apart. Five queries.

    of     which scores: a test, and the conditions they were made under
    asked  how the group was asked for
    """
    which, how = _digest(of), _digest(asked)
    with connection.cursor() as cursor:
        # Two who ask at the same moment are counted one after the other.
        cursor.execute("SELECT pg_advisory_xact_lock(hashtextextended(%s, 11))", [which])
    CountedGroup.objects.filter(at__lte=now - _REMEMBERED).delete()
    found = CountedGroup.objects.filter(of=which)
    kept = [(one.asked, frozenset(one.children)) for one in found]
    answer, is_new = answered(kept, how, group)
    if is_new:
        CountedGroup.objects.create(of=which, asked=how, children=sorted(group), at=now)
    return answer


def answered(
    kept: Sequence[tuple[str, Group]], asked: str, group: Group
) -> tuple[Group | None, bool]:
    """The children to count by what was counted before, and whether that is new and to be kept."""
    groups = [before for _, before in kept]
    if group in groups:
        return group, False
    if len(groups) < _MOST and tells_nobody([*groups, group]):
        return group, True
    return next((before for said, before in reversed(kept) if said == asked), None), False


def _digest(what: Hashable) -> str:
    return hashlib.sha256(repr(what).encode()).hexdigest()


def tells_nobody(groups: list[Group]) -> bool:
    """Whether no set of fewer than five children can be told apart by which groups they are in."""
    everybody = frozenset[UUID]().union(*groups)
    sets = Counter(tuple(child in group for group in groups) for child in everybody)
    return all(size >= FEWEST_TOLD for size in sets.values())
