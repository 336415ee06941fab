"""Who did what in a challenge, and what the rules give for it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any, NamedTuple
from uuid import UUID

from lauf.catalogue.queries import ladders_for
from lauf.challenges.models import Challenge
from lauf.challenges.queries.rivals import mark_for
from lauf.challenges.queries.weeks import pupils_in
from lauf.judgement.judge import Judge
from lauf.judgement.judges import Judges
from lauf.judgement.rows import by_pupil, by_test, scores
from lauf.judgement.subject import Subject
from lauf.lessons.models import Activity
from lauf.messages import say
from lauf.people.models import Pupil, Staff
from lauf.records.queries import Row, counting, rows
from lauf.rules.contests.points import Deeds, Earned, Missed, PointRule, missed_points, points_for
from lauf.rules.contests.rivals import RivalResult, window_gain
from lauf.rules.contests.sets import SetScore
from lauf.rules.reading.kinds import format_difference, format_value


class Entrant(NamedTuple):
    """One child in a challenge; `last` is the entry of its last score in the window, `score` what
    a set sums up of it, None without a measured one."""

    pupil: Pupil
    last: UUID | None
    first: str
    best: str
    tries: int
    gain: str
    gained: bool
    rival: str
    beat_rival: bool
    rung: str
    score: SetScore | None
    earned: tuple[Earned, ...]
    missed: tuple[Missed, ...]


def standings(staff: Staff, challenge: Challenge) -> list[Entrant]:
    """Every child of a challenge's classes in scope: see `standings_of`."""
    return standings_of(staff, [challenge])[challenge.id]


def standings_of(
    staff: Staff, challenges: Sequence[Challenge], pupils: Sequence[Pupil] | None = None
) -> dict[UUID, list[Entrant]]:
    """By challenge, these children, or every child in scope of the classes of the one week they are
    of: first and best of the window, the rival, and what was earned by the rules. Five queries
    however many challenges, and one more for lengths in hands or steps."""
    if not challenges:
        return {}
    if pupils is None:
        pupils = pupils_in(staff, challenges[0].week)
    tests = {one.protocol.test_id for one in challenges}
    found = rows(
        counting().filter(
            pupil__in=[pupil.id for pupil in pupils],
            protocol__test__in=tests,
            on__lte=max(one.week.ends_on for one in challenges),
        )
    )
    ladders = ladders_for(tests)
    by_child = {
        pupil: by_test(mine) for pupil, mine in by_pupil(scores(found, staff.school_id)).items()
    }
    held = Activity.objects.filter(pk__in={row.activity_id for row in found})
    then = {
        activity: _Held(year_group, starts_at)
        for activity, year_group, starts_at in held.values_list(
            "id", "lesson__year_group_id", "lesson__starts_at"
        )
    }
    made: dict[UUID, list[Entrant]] = {}
    for challenge in challenges:
        test = challenge.protocol.test_id
        bench = Judges({test: challenge.protocol}, ladders, {}, ())
        made[challenge.id] = []
        for pupil in pupils:
            mine = _goes(by_child.get(pupil.id, {}).get(test, []), challenge, then)
            now = pupil.last_class.year_group_id
            # A week that is over is judged by the year groups of then.
            judge = bench.of(test, then[mine[-1].activity_id].year_group if mine else now)
            made[challenge.id].append(_standing(pupil, mine, challenge, judge))
    return made


class _Held(NamedTuple):
    """Of the lesson a score is of: the year group then, and when it began."""

    year_group: UUID
    starts_at: datetime


def _goes(mine: Sequence[Row], challenge: Challenge, held: Mapping[UUID, _Held]) -> list[Row]:
    """Every go of a child up to the end of the challenge's week, in the order in which they were
    made, whenever one was corrected. Where the protocol asks for one try, another one in the same
    lesson is another go; where it asks for several they are one."""
    till_then = sorted(
        (row for row in mine if row.on <= challenge.week.ends_on),
        key=lambda row: (row.on, held[row.activity_id].starts_at),
    )
    if challenge.protocol.tries > 1:
        return till_then
    return [one for row in till_then for one in row.tries or (row,)]


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
        return Entrant(
            pupil, last, shown, shown, len(inside), "", False, "", False, "", None, earned, missed
        )
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
    who = Subject(pupil.sex, pupil.born)
    mark = mark_for(challenge, judge, sure[-1], before, who)
    result = mark.against(best, key, judge) if mark else RivalResult(None, "")
    place = _rung(judge, same, key, who)
    deeds = Deeds(
        values=tuple(values),
        took_part=True,
        sign=sign,
        best_before=earlier,
        rung_before=_rung(judge, before, key, who),
        rung_now=place,
        rival=mark.value if mark and result.ahead is not None else None,
        level_counts=bool(mark and mark.level_counts),
    )
    guesses = [row.value for row in inside if row.estimate]
    gain = window_gain(values, measure) or 0
    words = (
        say("{gain} better than the first", gain=format_difference(gain, measure)) if gain else ""
    )
    new_best = earlier is not None and (best - earlier) * sign > 0
    return Entrant(
        pupil,
        same[-1].id,
        format_value(values[0], measure),
        format_value(best, measure),
        len(inside),
        words,
        gain > 0,
        result.words,
        result.beaten,
        _rung_name(judge, same[-1], place, who),
        SetScore(result.ahead, result.beaten, place + 1, new_best),
        points_for(deeds, rules),
        missed_points(deeds, rules, measure, guess=guesses[-1] if guesses else None),
    )


def _rung_name(judge: Judge, row: Row, place: int, who: Subject) -> str:
    ladder = judge.ladder(row.variant, who, row.on)
    return ladder.rungs[place].name if ladder and 0 <= place < len(ladder.rungs) else ""


def _rung(judge: Judge, found: Sequence[Row], key: Any, who: Subject) -> int:
    """The highest rung reached in scores under a key: its place, −1 for none."""
    places = [
        judge.rung(row, who).reached
        for row in found
        if row.value is not None and not row.estimate and judge.key(row) == key
    ]
    return max((place for place in places if place is not None), default=-1)
