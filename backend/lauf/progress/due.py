"""Which tests are due again, by when they were given last."""

from __future__ import annotations

from datetime import date
from typing import Any, Final
from uuid import UUID

from django.db.models import Count, Max
from typing_extensions import TypedDict

from lauf.catalogue.queries import seen
from lauf.lessons.queries import Calendar
from lauf.people.models import Staff
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
    last so long ago. Two queries."""
    classes = {
        one.id: one
        for one in classes_of(staff)
        .filter(closed_on=None)
        .annotate(children=Count("pupils", distinct=True))
    }
    given = (
        seen(staff, counting(), "protocol__test")
        .filter(pupil__school_class__in=classes, value__isnull=False)
        .values_list("pupil__school_class_id", "protocol__test_id", "protocol__test__name")
        .annotate(last=Max("on"), children=Count("pupil", distinct=True))
        .order_by("last", "protocol__test__name")
    )
    by_class: dict[Any, DueAgain] = {}
    for class_id, test_id, name, last, children in given:
        group: Any = classes[class_id]
        if 2 * children < group.children or not is_due_again(last, today, calendar.terms):
            continue
        row = by_class.setdefault(
            class_id, {"class_id": class_id, "class_name": group.name, "last": last, "tests": []}
        )
        row["tests"].append({"id": test_id, "name": name, "last": last})
    rows = sorted(by_class.values(), key=lambda row: (row["last"], row["class_name"]))
    return rows[:_SHOWN]
