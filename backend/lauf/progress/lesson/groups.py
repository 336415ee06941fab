"""Groups for stations: by house, the class's own, at random, or balanced on earlier scores. Reads
only."""

from __future__ import annotations

from collections import defaultdict
from typing import Any
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import newest_protocol
from lauf.errors import Refused
from lauf.judgement.judge import Judge
from lauf.judgement.rows import scores
from lauf.lessons.queries import lesson_of
from lauf.messages import say, say_many
from lauf.people.models import Staff
from lauf.records.queries import counting, rows
from lauf.rules.judging.comparability import Key
from lauf.rules.planning.rotation import GroupsBy, balanced_groups, random_groups

MOST_GROUPS = 12


class GroupProposal(TypedDict):
    """Groups for stations, as a plan's block takes them, and what they were made by."""

    how: GroupsBy
    names: list[str]
    members: list[list[UUID]]
    words: str


def propose_groups(
    staff: Staff, lesson_id: UUID, how: GroupsBy, number: int, seed: int, test_id: UUID | None
) -> GroupProposal:
    """Groups for a lesson's class; nothing is kept. Balanced groups go by the last score of each
    child in a test. Five queries at most. Raises NotFound, or Refused for groups that cannot be."""
    lesson = lesson_of(staff, lesson_id)
    pupils = list(lesson.school_class.pupils.select_related("house"))
    if not pupils:
        raise Refused(say("There are no children in this class yet."))
    if how is GroupsBy.HOUSE:
        return _by_house(pupils)
    if how is GroupsBy.OWN:
        return _by_own(pupils)
    if not 2 <= number <= min(MOST_GROUPS, len(pupils)):
        most = min(MOST_GROUPS, len(pupils))
        raise Refused(say("Make 2 to {most} groups of this class.", most=most))
    names = [say("Group {n}", n=n) for n in range(1, number + 1)]
    ids = [pupil.id for pupil in pupils]
    if how is GroupsBy.RANDOM:
        return _answer(how, names, random_groups(ids, number, seed), say("At random."))
    if test_id is None:
        raise Refused(say("Choose the test whose scores the groups are balanced on."))
    protocol = newest_protocol(staff, test_id)
    if protocol.test.private:
        raise Refused(say("Groups cannot be made by height or weight."))
    last, form = _last_scores(staff, protocol, ids)
    if len(last) < number:
        raise Refused(
            say(
                "Only {child_hass} a comparable score in {name}. Choose another test, or "
                "make random groups.",
                child_hass=say_many("{n} child has", "{n} children have", len(last)),
                name=protocol.test.name,
            )
        )
    made = balanced_groups([(pupil, last.get(pupil)) for pupil in ids], number)
    without = len(ids) - len(last)
    words = [say("Balanced on the last score in {name}{form}.", name=protocol.test.name, form=form)]
    if without:
        words.append(
            say_many(
                "{n} child without one counts as average.",
                "{n} children without one count as average.",
                without,
            )
        )
    return _answer(how, names, made, " ".join(words))


def _last_scores(
    staff: Staff, protocol: ProtocolVersion, ids: list[UUID]
) -> tuple[dict[UUID, float], str]:
    """The last score of each child under one key, in the better direction: the key that most of
    them have, since scores under different ones are not compared. And that variant in words."""
    found = counting().filter(pupil__in=ids, protocol__test=protocol.test_id)
    judge = Judge(protocol, (), {})
    by_key: dict[Key, dict[UUID, float]] = defaultdict(dict)
    for row in scores(rows(found), staff.school_id):
        if row.value is not None:
            by_key[judge.key(row)][row.pupil_id] = judge.measure.better.sign * row.value
    if not by_key:
        return {}, ""
    usual = {judge.usual_key(code) for code in (*judge.variants, "")}
    key = max(by_key, key=lambda one: (len(by_key[one]), one in usual))
    variant = judge.variants.get(key.variant)
    return by_key[key], f" ({variant.name})" if variant else ""


def _by_house(pupils: list[Any]) -> GroupProposal:
    houses: dict[str, list[UUID]] = {}
    for pupil in sorted(pupils, key=lambda one: one.house.name if one.house else "￿"):
        houses.setdefault(pupil.house.name if pupil.house else say("No house"), []).append(pupil.id)
    if len(houses) < 2:
        raise Refused(say("This class does not have two houses. Make random groups."))
    return _answer(GroupsBy.HOUSE, list(houses), list(houses.values()), say("By house."))


def _by_own(pupils: list[Any]) -> GroupProposal:
    groups: dict[str, list[UUID]] = {}
    for pupil in sorted(pupils, key=lambda one: one.group or "\uffff"):
        groups.setdefault(pupil.group or say("No group"), []).append(pupil.id)
    if len(groups) < 2:
        raise Refused(say("This class has no groups yet. Add them on the class page."))
    words = say("The class's own groups.")
    return _answer(GroupsBy.OWN, list(groups), list(groups.values()), words)


def _answer(
    how: GroupsBy, names: list[str], members: list[list[UUID]], words: str
) -> GroupProposal:
    return {"how": how, "names": names, "members": members, "words": words}
