"""Which tests are due again, by when they were given last."""

from __future__ import annotations

from collections import Counter, defaultdict
from datetime import date
from typing import Final
from uuid import UUID

from django.db.models import Max
from typing_extensions import TypedDict

from lauf.catalogue.models import ProtocolVersion, Test
from lauf.catalogue.queries import seen
from lauf.lessons.queries import Calendar
from lauf.people.models import Pupil, SchoolClass, Staff
from lauf.people.queries import classes_of
from lauf.records.queries import counting
from lauf.rules.planning.school_days import is_due_again

#: How many are proposed at once: the longest ago first.
_SHOWN: Final = 6


class DueTest(TypedDict):
    """A test and when it was last taken."""

    id: UUID
    name: str
    last: date


class DueAgain(TypedDict):
    """What a class has not been tested in for so long."""

    class_id: UUID
    class_name: str
    last: date
    tests: list[DueTest]


def due_again(staff: Staff, today: date, calendar: Calendar) -> list[DueAgain]:
    """A class's tests that are due, by class: those that most of the class has scores in, given
    last so long ago. Three queries."""
    groups = classes_of(staff).filter(closed_on=None)
    pupils = Pupil.objects.filter(school_class__in=groups).select_related("school_class")
    class_of = {one.id: one.last_class for one in pupils}
    sizes = Counter(class_of.values())
    # Child by child: not by looking through the scores of all who ever were at the school.
    scores = counting().filter(pupil__in=list(class_of), value__isnull=False)
    lasts = list(scores.values_list("pupil", "protocol").annotate(last=Max("on")))
    protocols = ProtocolVersion.objects.filter(id__in={protocol for _, protocol, _ in lasts})
    tests = {one.id: one.test for one in seen(staff, protocols, "test").select_related("test")}
    given: dict[SchoolClass, dict[Test, dict[UUID, date]]] = defaultdict(lambda: defaultdict(dict))
    for pupil_id, protocol, last in lasts:
        if protocol in tests:
            days = given[class_of[pupil_id]][tests[protocol]]
            days[pupil_id] = max(last, days.get(pupil_id, last))
    rows: list[DueAgain] = []
    for group, taken in given.items():
        found: list[DueTest] = [
            {"id": test.id, "name": test.name, "last": max(days.values())}
            for test, days in taken.items()
            if 2 * len(days) >= sizes[group]
        ]
        found = [one for one in found if is_due_again(one["last"], today, calendar.terms)]
        if found:
            found.sort(key=lambda one: (one["last"], one["name"]))
            rows.append(
                {
                    "class_id": group.id,
                    "class_name": group.name,
                    "last": found[0]["last"],
                    "tests": found,
                }
            )
    return sorted(rows, key=lambda row: (row["last"], row["class_name"]))[:_SHOWN]
