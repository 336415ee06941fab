"""Who did what in a challenge, and what the rules give for it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any, NamedTuple
from uuid import UUID

from lauf.catalogue.queries import key_conditions, ladders_for
from lauf.challenges.models import Challenge
from lauf.challenges.queries.weeks import pupils_in
from lauf.judgement.bench import Judges
from lauf.judgement.judge import Judge
from lauf.judgement.rows import by_pupil, scores
from lauf.judgement.who import Who
from lauf.lessons.models import Activity
from lauf.people.models import Pupil, Staff
from lauf.records.queries import Row, counting, rows
from lauf.rules.comparability import Key, why_not_comparable
from lauf.rules.kinds import format_difference, format_value
from lauf.rules.points import Deeds, Earned, Missed, PointRule, missed_points, points_for
from lauf.rules.rivals import against_rival, window_gain


class Entrant(NamedTuple):
    """One child in a challenge; `last` is the entry of its last score in the window."""

    pupil: Pupil
    last: UUID | None
    first: str
    best: str
    tries: int
    gain: str
    rival: str
    beat_rival: bool
    earned: tuple[Earned, ...]
    missed: tuple[Missed, ...]


def standings(staff: Staff, challenge: Challenge) -> list[Entrant]:
    """Every child of a challenge's classes in scope: first and best of the window, the rival, and
    what was earned by the rules. Five queries, and one more for lengths in hands or steps."""
    week, protocol = challenge.week, challenge.protocol
    pupils = pupils_in(staff, week)
    found = rows(
        counting().filter(
            pupil__in=[pupil.id for pupil in pupils],
            protocol__test=protocol.test_id,
            on__lte=week.ends_on,
        )
    )
    bench = Judges({protocol.test_id: protocol}, ladders_for([protocol.test_id]), {}, ())
    by_child = by_pupil(scores(found, staff.school_id))
    # A week that is over is judged by the year groups of then.
    then = dict(
        Activity.objects.filter(pk__in={row.activity_id for row in found}).values_list(
            "id", "lesson__year_group_id"
        )
    )
    made = []
    for pupil in pupils:
        mine = by_child.get(pupil.id, [])
        now = pupil.last_class.year_group_id
        judge = bench.of(protocol.test_id, then[mine[-1].activity_id] if mine else now)
        made.append(_standing(pupil, mine, challenge, judge))
    return made


def _standing(pupil: Pupil, mine: list[Row], challenge: Challenge, judge: Judge) -> Entrant:
    """First and best are those under the key of the child's last try; a guess takes part but
    neither beats nor reaches anything."""
    valued = [row for row in mine if row.value is not None]
    inside = [row for row in valued if row.on >= challenge.on]
    sure = [row for row in inside if not row.estimate]
    rules = {PointRule(rule): points for rule, points in challenge.week.points.items()}
    if not sure:
        deeds = Deeds((), took_part=bool(inside))
        guess = inside[-1].value if inside else None
        missed = missed_points(deeds, rules, judge.measure, guess=guess)
        earned = points_for(deeds, rules)
        shown = f"{format_value(inside[-1].value or 0, judge.measure)} ~" if inside else ""
        last = inside[-1].id if inside else None
        return Entrant(pupil, last, shown, shown, len(inside), "", "", False, earned, missed)
    return _with_scores(pupil, challenge, judge, rules, inside, valued)


def _with_scores(
    pupil: Pupil,
    challenge: Challenge,
    judge: Judge,
    rules: dict[PointRule, int],
    inside: list[Row],
    valued: list[Row],
) -> Entrant:
    """`inside` are the child's scores of the window, `valued` all of them up to its end."""
    measure, sign = judge.measure, judge.measure.better.sign
    sure = [row for row in inside if not row.estimate]
    key = judge.key(sure[-1])
    same = [row for row in sure if judge.key(row) == key]
    values = [row.value for row in same if row.value is not None]
    best = max(values, key=lambda value: value * sign)
    before = [row for row in valued if row.on < challenge.on]
    earlier = judge.best(before, key)
    who = Who(pupil.sex, pupil.born)
    rival = _against_the_rival(best, key, judge, challenge)
    deeds = Deeds(
        values=tuple(values),
        took_part=True,
        sign=sign,
        best_before=earlier,
        rung_before=_rung(judge, before, key, who),
        rung_now=_rung(judge, same, key, who),
        rival=rival.mark,
    )
    guesses = [row.value for row in inside if row.estimate]
    gain = window_gain(values, measure) or 0
    words = f"{format_difference(gain, measure)} better than the first" if gain else ""
    return Entrant(
        pupil,
        same[-1].id,
        format_value(values[0], measure),
        format_value(best, measure),
        len(inside),
        words,
        rival.words,
        rival.beaten,
        points_for(deeds, rules),
        missed_points(deeds, rules, measure, guess=guesses[-1] if guesses else None),
    )


class _Against(NamedTuple):
    """A child's best beside the rival's mark, which is None where they are not compared."""

    mark: int | None = None
    words: str = ""
    beaten: bool = False


def _against_the_rival(best: int, key: Key, judge: Judge, challenge: Challenge) -> _Against:
    mark = challenge.rival_value
    if mark is None:
        return _Against()
    rival_key = rival_mark_key(judge, challenge)
    result = against_rival(best, key, mark, rival_key, judge.measure, challenge.rival)
    comparable = why_not_comparable(key, rival_key) is None
    return _Against(mark if comparable else None, result.words, (result.ahead or 0) > 0)


def rival_mark_key(judge: Judge, challenge: Challenge) -> Key:
    """The key a rival's mark was set under: its own course, and the test's usual way otherwise."""
    key = judge.usual_key(challenge.rival_variant)
    if not challenge.rival_conditions:
        return key
    held = key_conditions(challenge.protocol.kind, challenge.rival_conditions)
    return replace(key, conditions=held)


def _rung(judge: Judge, found: Sequence[Row], key: Any, who: Who) -> int:
    """The highest rung reached in scores under a key: its place, −1 for none."""
    places = [
        judge.rung(row, who).reached
        for row in found
        if row.value is not None and not row.estimate and judge.key(row) == key
    ]
    return max((place for place in places if place is not None), default=-1)
