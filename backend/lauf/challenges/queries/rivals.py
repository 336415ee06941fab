"""Rival marks: whose a challenge has, what it is for one child, and what a group's would be."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any, Final, NamedTuple
from uuid import UUID

from typing_extensions import TypedDict

from lauf.catalogue.queries import key_conditions
from lauf.challenges.models import Challenge
from lauf.errors import NotFound
from lauf.judgement.judge import Judge
from lauf.judgement.rows import by_pupil, scores
from lauf.judgement.subject import Subject
from lauf.messages import say
from lauf.people.models import House, Pupil, SchoolClass, Staff
from lauf.records.queries import Row, counting, rows
from lauf.rules.contests.rivals import RivalKind, RivalResult, against_rival
from lauf.rules.judging.comparability import COURSE, Key, condition_shown
from lauf.rules.reading.kinds import format_value


class ChildMark(NamedTuple):
    """The mark one child is held against, under which key, and whether to reach it is enough."""

    value: int
    key: Key
    name: str
    level_counts: bool = False

    def against(self, value: int, key: Key, judge: Judge) -> RivalResult:
        """A score beside it."""
        return against_rival(
            value, key, self.value, self.key, judge.measure, self.name,
            level_counts=self.level_counts,
        )  # fmt: skip


def mark_for(
    challenge: Challenge, judge: Judge, last: Row, before: Sequence[Row], who: Subject
) -> ChildMark | None:
    """The mark for a child whose last score in the challenge is `last` and whose earlier ones are
    `before`; None without a rival, while its mark is still to be made, and for a child without an
    earlier time or a ladder."""
    key = judge.key(last)
    match challenge.rival_kind:
        case RivalKind.PERSON | RivalKind.GROUP if challenge.rival_value is not None:
            return ChildMark(challenge.rival_value, _fixed_key(judge, challenge), challenge.rival)
        case RivalKind.SELF:
            return _last_time(judge, key, before, challenge.rival)
        case RivalKind.RUNG:
            ladder = judge.ladder(last.variant, who, last.on)
            if ladder is None or not ladder.rungs:
                return None
            place = min(challenge.rival_rung or 0, len(ladder.rungs) - 1)
            rung = ladder.rungs[place]
            return ChildMark(rung.threshold, ladder.key, rung.name, not rung.beyond)
    return None


def _last_time(judge: Judge, key: Key, before: Sequence[Row], name: str) -> ChildMark | None:
    """The best of the last day on which the child was scored under this key."""
    same = [row for row in judge.under(before, key) if row.value is not None and not row.estimate]
    day = max((row.on for row in same), default=None)
    best = judge.best([row for row in same if row.on == day], key)
    return None if best is None else ChildMark(best, key, name)


def _fixed_key(judge: Judge, challenge: Challenge) -> Key:
    """The key a mark was set under: its own course, and the test's usual way otherwise."""
    key = judge.usual_key(challenge.rival_variant)
    if not challenge.rival_conditions:
        return key
    held = key_conditions(challenge.protocol.kind, challenge.rival_conditions)
    return replace(key, conditions=held)


class Group(NamedTuple):
    """A class or a house of the school."""

    name: str
    pupil_ids: list[UUID]


def group_of(staff: Staff, class_id: UUID | None, house_id: UUID | None) -> Group:
    """Any class or house of the school: what is made of it names no child. Two queries. Raises
    NotFound."""
    model: Any = SchoolClass if class_id else House
    found = model.objects.filter(pk=class_id or house_id, school_id=staff.school_id).first()
    if found is None:
        raise NotFound(say("class or house"))
    pupils = Pupil.objects.filter(school_class__school_id=staff.school_id)
    mine = pupils.filter(school_class=class_id) if class_id else pupils.filter(house=house_id)
    return Group(found.name, list(mine.values_list("id", flat=True)))


def group_values(
    staff: Staff, group: Group, challenges: Iterable[Challenge]
) -> dict[UUID, list[int]]:
    """By challenge, the best so far of each child of a group in its usual form and course. Two
    queries, one more for lengths in hands or steps."""
    wanted = list(challenges)
    tests = {one.protocol.test_id for one in wanted}
    found = rows(counting().filter(pupil__in=group.pupil_ids, protocol__test__in=tests))
    by_child = by_pupil(scores(found, staff.school_id))
    made: dict[UUID, list[int]] = defaultdict(list)
    for challenge in wanted:
        judge = Judge(challenge.protocol, (), {})
        key = judge.usual_key(challenge.protocol.usual_variant)
        for mine in by_child.values():
            of_test = [row for row in mine if row.test_id == challenge.protocol.test_id]
            best = judge.best(of_test, key)
            if best is not None:
                made[challenge.id].append(best)
    return made


#: What is shown of a mark that is each child's own.
_OWN: Final = {RivalKind.SELF: say("their own"), RivalKind.RUNG: say("by their own ladder")}


class Rival(TypedDict):
    """Whose mark; `made` is false while a person's is still to be made, `rung` counts from 1."""

    kind: RivalKind
    name: str
    typed: str
    shown: str
    made: bool
    rung: int | None
    variant: str
    variant_name: str
    course: str | None


def rival_shown(challenge: Challenge) -> Rival | None:
    """Whose mark a challenge has, as shown; None without a rival."""
    if not challenge.rival_kind:
        return None
    kind, value = RivalKind(challenge.rival_kind), challenge.rival_value
    course = challenge.rival_conditions.get(COURSE)
    own = _OWN.get(kind, say("not set yet"))
    return {
        "kind": kind,
        "name": challenge.rival,
        "typed": challenge.rival_typed,
        "shown": own if value is None else format_value(value, challenge.protocol.measure),
        "made": value is not None or kind in _OWN,
        "rung": None if challenge.rival_rung is None else challenge.rival_rung + 1,
        "variant": challenge.rival_variant,
        "variant_name": challenge.protocol.form_name(challenge.rival_variant),
        "course": condition_shown(COURSE, course) if course else None,
    }
