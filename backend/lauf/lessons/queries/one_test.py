"""A class in one test of a lesson, each thing about it read once."""

from __future__ import annotations

from datetime import date
from functools import cached_property
from typing import NamedTuple
from uuid import UUID

from lauf.compiled import Compiled
from lauf.lessons.models import Activity
from lauf.lessons.queries.care import KeptFrom, LessonCare
from lauf.lessons.queries.lessons import activity_in_turn, activity_of
from lauf.people.models import Pupil, Staff

_CHILDREN = Compiled(
    lambda class_id: Pupil.objects.filter(school_class_id=class_id).values_list(
        "id", "given_name", "family_name", "medical_note", "sex", "born"
    ),
    UUID,
)


class ListedChild(NamedTuple):
    """A child as the list of its class has it."""

    id: UUID
    given_name: str
    family_name: str
    medical_note: str
    sex: str
    born: date | None

    @property
    def name(self) -> str:
        return f"{self.given_name} {self.family_name}".strip()


class OneTest:
    """The class of a lesson in one of its tests."""

    def __init__(self, activity: Activity) -> None:
        self.activity = activity

    @cached_property
    def children(self) -> list[ListedChild]:
        """The class in list order. One query."""
        return [*map(ListedChild._make, _CHILDREN.rows(self.activity.lesson.school_class_id))]

    @cached_property
    def kept_from(self) -> dict[UUID, KeptFrom]:
        """Who is kept from what the test asks. Queries as `LessonCare`."""
        protocol = self.activity.protocol
        return LessonCare(self.activity.lesson, [protocol]).kept_from(protocol)


def one_test(staff: Staff, activity_id: UUID) -> OneTest:
    """The class of an activity in scope in its test. Raises NotFound. One query."""
    return OneTest(activity_of(staff, activity_id))


def one_test_in_turn(staff: Staff, activity_id: UUID) -> OneTest:
    """The same, and until the transaction ends nobody else has it in turn: of two scores that are
    kept at once the later one is judged beside both. Raises NotFound. One query."""
    return OneTest(activity_in_turn(staff, activity_id))
