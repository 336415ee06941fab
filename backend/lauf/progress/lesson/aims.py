"""A class's targets of its own in one test: what was said, and how it went against it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple
from uuid import UUID

from typing_extensions import TypedDict

from lauf.errors import Refused
from lauf.judgement.judge import Judge
from lauf.judgement.judges import judge_for
from lauf.judgement.picture import variant_of
from lauf.judgement.rows import by_pupil, scores
from lauf.judgement.subject import Subject
from lauf.lessons.queries import activity_of, day_of
from lauf.messages import say
from lauf.people.models import Pupil, Staff
from lauf.records.models import Aim, GroupAim
from lauf.records.queries import Row, class_history
from lauf.rules.judging.aims import (
    ADDS_UP,
    judge_aim,
    judge_together,
    judgement_words,
    self_judgement,
)
from lauf.rules.reading.kinds import format_value


class _Child(NamedTuple):
    """A child beside its rows in the test, and what Lauf would propose to it."""

    pupil: Pupil
    now: Row | None
    earlier: Sequence[Row]
    variant: str
    proposed: int | None
    aim: Aim | None


class AimRow(TypedDict):
    """One child: what is proposed and what it said, of which form; `done` once it has an entry,
    `met` and `words` how that went against what was said."""

    pupil_id: UUID
    name: str
    variant: str
    variant_name: str
    proposed: str | None
    said: str
    done: bool
    shown: str
    met: bool | None
    words: str


class GroupAimRow(TypedDict):
    """A group, "" for the whole class: what it said it will do together, and how that goes."""

    group: str
    children: int
    said: int | None
    begun: bool
    met: bool | None
    words: str


class ClassAims(TypedDict):
    """Every child in list order, and how well the class knew itself."""

    activity_id: UUID
    test: str
    # Where the scores of the test add up.
    groups: list[GroupAimRow]
    children: list[AimRow]
    words: str


def class_aims(staff: Staff, activity_id: UUID) -> ClassAims:
    """Every child's target in list order: proposed, said, and once it has a score how that went;
    and how well the class knew itself; where its scores add up, the same of its groups. Ten
    queries, one more for lengths in hands or steps. Raises NotFound, or Refused for height and
    weight."""
    judge, children = _children(staff, activity_id)
    pairs, bands = [], []
    for one in children:
        if one.aim and _comparable(one) and one.now and one.now.value is not None:
            pairs.append((one.now.value, one.aim.value))
            age = Subject(one.pupil.sex, one.pupil.born).age(one.now.on)
            bands.append(judge.band(judge.key(one.now), one.now.value, age))
    return {
        "activity_id": activity_id,
        "test": judge.protocol.test.name,
        "groups": _groups(activity_id, judge, children),
        "children": [_row(one, judge) for one in children],
        "words": judgement_words(self_judgement(pairs, judge.measure, bands), judge.measure),
    }


def _groups(activity_id: UUID, judge: Judge, children: Sequence[_Child]) -> list[GroupAimRow]:
    """The groups of a class and the whole of it, with what they said and have done together. A
    guess is no part of a sum. One query at most."""
    if judge.measure.kind not in ADDS_UP or not children:
        return []
    said = dict(GroupAim.objects.filter(activity=activity_id).values_list("group", "value"))
    found: list[GroupAimRow] = []
    for name in ("", *sorted({one.pupil.group for one in children} - {""})):
        members = [one for one in children if name in ("", one.pupil.group)]
        scored = [one.now for one in members if one.now is not None]
        total = sum(row.value for row in scored if row.value is not None and not row.estimate)
        met, words = None, ""
        if name in said and scored:
            met, words = judge_together(total, said[name], len(members) - len(scored))
        found.append(
            {"group": name, "children": len(members), "said": said.get(name),
             "begun": bool(scored), "met": met, "words": words}
        )  # fmt: skip
    return found


def proposals(staff: Staff, activity_id: UUID) -> dict[UUID, tuple[str, int, str]]:
    """What is proposed to those who have said nothing: as shown, in canonical units, of which form.
    As many queries as `class_aims`. Raises NotFound."""
    judge, children = _children(staff, activity_id)
    return {
        one.pupil.id: (format_value(one.proposed, judge.measure), one.proposed, one.variant)
        for one in children
        if one.proposed is not None and one.aim is None
    }


def _children(staff: Staff, activity_id: UUID) -> tuple[Judge, list[_Child]]:
    activity = activity_of(staff, activity_id)
    protocol, lesson = activity.protocol, activity.lesson
    if protocol.test.private:
        raise Refused(say("Height and weight cannot be a target."))
    day = day_of(lesson)
    judge = judge_for(protocol, lesson.year_group_id, day)
    found = class_history(lesson.school_class_id, activity.id, protocol.test_id, day)
    rows = by_pupil(scores(found, staff.school_id))
    aims = {one.pupil_id: one for one in Aim.objects.filter(activity=activity)}
    made = []
    for pupil in Pupil.objects.filter(school_class=lesson.school_class_id):
        mine = rows.get(pupil.id, [])
        earlier = [row for row in mine if row.activity_id != activity.id]
        now = next((row for row in mine if row.activity_id == activity.id), None)
        aim = aims.get(pupil.id)
        who = Subject(pupil.sex, pupil.born)
        last = next((row for row in reversed(earlier) if row.value is not None), None)
        proposed = judge.target(last, [row for row in earlier if row is not last], who) if (
            last is not None
        ) else None  # fmt: skip
        variant = aim.variant if aim else variant_of(None, earlier, judge)
        made.append(_Child(pupil, now, earlier, variant, proposed, aim))
    return judge, made


def _comparable(one: _Child) -> bool:
    """A guess meets nothing, and what was said of one form is not held against another."""
    return bool(one.aim and one.now and not one.now.estimate and one.now.variant == one.aim.variant)


def _row(one: _Child, judge: Judge) -> AimRow:
    measure = judge.measure
    shown, words, met = "", "", None
    if one.now is not None and one.now.value is not None:
        shown = format_value(one.now.value, measure) + (" ~" if one.now.estimate else "")
        if one.aim and _comparable(one):
            result = judge_aim(one.now.value, one.aim.value, measure)
            words, met = result.words, result.met
        elif one.aim:
            words = (
                say("not compared, because it is an estimate")
                if one.now.estimate
                else say("done in another form")
            )
    variant = judge.variants.get(one.variant)
    return {
        "pupil_id": one.pupil.id,
        "name": one.pupil.name,
        "variant": one.variant,
        "variant_name": variant.name if variant else "",
        "proposed": None if one.proposed is None else format_value(one.proposed, measure),
        "said": "" if one.aim is None else format_value(one.aim.value, measure),
        "done": one.now is not None,
        "shown": shown,
        "met": met,
        "words": words,
    }
