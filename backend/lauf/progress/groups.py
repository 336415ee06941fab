"""Groups for stations: by house, at random, or balanced on earlier scores. Reads only."""

from __future__ import annotations

from typing import Any, Literal
from uuid import UUID

from lauf.catalogue.queries import newest_protocol
from lauf.lessons.queries import lesson_of
from lauf.people.models import Staff
from lauf.people.queries import Refused
from lauf.records.queries import counting, rows
from lauf.rules.quantities import Better
from lauf.rules.rotation import balanced_groups, random_groups

How = Literal["house", "random", "balanced"]
MOST_GROUPS = 12


def propose_groups(
    staff: Staff, lesson_id: UUID, how: How, number: int, seed: int, test_id: UUID | None
) -> dict[str, Any]:
    """Groups for a lesson's class; nothing is kept. Balanced groups go by the last score of each
    child in a test. Five queries at most. Raises NotFound, or Refused for groups that cannot be."""
    lesson = lesson_of(staff, lesson_id)
    pupils = list(lesson.school_class.pupils.select_related("house"))
    if not pupils:
        raise Refused("There are no children in this class yet.")
    if how == "house":
        return _by_house(pupils)
    if not 2 <= number <= min(MOST_GROUPS, len(pupils)):
        most = min(MOST_GROUPS, len(pupils))
        raise Refused(f"Make 2 to {most} groups of this class.")
    names = [f"Group {n}" for n in range(1, number + 1)]
    ids = [pupil.id for pupil in pupils]
    if how == "random":
        return _answer(how, names, random_groups(ids, number, seed), "At random.")
    if test_id is None:
        raise Refused("Choose the test whose scores the groups are balanced on.")
    protocol = newest_protocol(staff, test_id)
    if protocol.test.private:
        raise Refused("Groups are not made by height or weight.")
    scores: dict[UUID, float] = {}
    found = counting().filter(pupil__in=ids, protocol__test=test_id, value__isnull=False)
    sign = 1 if protocol.better == Better.UP else -1
    for row in rows(found):
        if row.meaning == protocol.meaning and row.value is not None:
            scores[row.pupil_id] = sign * row.value
    if len(scores) < number:
        raise Refused(
            f"Only {len(scores)} of these children have a score in {protocol.test.name}: choose "
            "another test, or groups at random."
        )
    made = balanced_groups([(pupil, scores.get(pupil)) for pupil in ids], number)
    without = len(ids) - len(scores)
    words = f"Balanced on the last score in {protocol.test.name}"
    words += f"; {without} without one count as the middle." if without else "."
    return _answer(how, names, made, words)


def _by_house(pupils: list[Any]) -> dict[str, Any]:
    houses: dict[str, list[UUID]] = {}
    for pupil in sorted(pupils, key=lambda one: one.house.name if one.house else "￿"):
        houses.setdefault(pupil.house.name if pupil.house else "No house", []).append(pupil.id)
    if len(houses) < 2:
        raise Refused("This class has not two houses: make groups at random.")
    return _answer("house", list(houses), list(houses.values()), "By house.")


def _answer(how: How, names: list[str], members: list[list[UUID]], words: str) -> dict[str, Any]:
    return {"how": how, "names": names, "members": members, "words": words}
