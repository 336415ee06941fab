"""Every read about challenges: who did what, who beat whom, and the ledger."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from datetime import date
from typing import Any, NamedTuple
from uuid import UUID

from django.db.models import Count, QuerySet, Sum

from lauf.catalogue.queries import KeptLadder, ladders_for
from lauf.challenges.models import Challenge, ChallengeWeek, Point
from lauf.people.models import Pupil, Staff
from lauf.people.queries import NotFound, classes_of, pupil_of
from lauf.progress.lanes import Judge, Who
from lauf.records.queries import Row, calibrated, counting, merged, rows
from lauf.rules.challenges import against_rival, window_gain
from lauf.rules.comparability import why_not_comparable
from lauf.rules.points import RULE_WORDS, Earned, PointRule, Try, points_for
from lauf.rules.quantities import format_difference, format_value


def weeks_of(staff: Staff) -> QuerySet[ChallengeWeek]:
    """The weeks of the classes this person may see."""
    weeks = ChallengeWeek.objects.filter(school_id=staff.school_id)
    return weeks if staff.is_head else weeks.filter(classes__teachers=staff).distinct()


def week_of(staff: Staff, week_id: UUID) -> ChallengeWeek:
    """One week in scope. Raises NotFound. One query."""
    found = weeks_of(staff).filter(pk=week_id).first()
    if found is None:
        raise NotFound("challenge week")
    return found


def challenge_of(staff: Staff, challenge_id: UUID) -> Challenge:
    """One challenge in scope, with its week and protocol. Raises NotFound. One query."""
    found = (
        Challenge.objects.filter(pk=challenge_id, week__in=weeks_of(staff))
        .select_related("week", "protocol__test__school")
        .first()
    )
    if found is None or (found.protocol.test.private and not staff.may_see_growth):
        raise NotFound("challenge")
    return found


def week_list(staff: Staff) -> list[dict[str, Any]]:
    """The weeks in scope, newest first, with what was given in them. Three queries."""
    weeks = weeks_of(staff).prefetch_related("classes", "challenges__protocol__test")
    return [
        {
            "id": week.id,
            "name": week.name,
            "starts_on": week.starts_on,
            "ends_on": week.ends_on,
            "classes": [one.name for one in week.classes.all()],
            "tests": [one.protocol.test.name for one in week.challenges.all()],
        }
        for week in weeks
    ]


def week_page(staff: Staff, week_id: UUID) -> dict[str, Any]:
    """A week: its days, its rules, and the ledger by house and by child of the classes in scope.
    Six queries. Raises NotFound."""
    week = week_of(staff, week_id)
    challenges = week.challenges.select_related("protocol__test__school")
    pupils = _pupils(staff, week)
    totals: dict[UUID, int] = dict(
        Point.objects.filter(challenge__week=week, pupil__in=[p.id for p in pupils])
        .values_list("pupil")
        .annotate(sum=Sum("points"))
        .order_by()
    )
    given = dict(
        week.challenges.annotate(lines=Count("points")).values_list("id", "lines").order_by()
    )
    return {
        "id": week.id,
        "name": week.name,
        "starts_on": week.starts_on,
        "ends_on": week.ends_on,
        "classes": [
            {"id": one.id, "name": one.name} for one in week.classes.all() & classes_of(staff)
        ],
        "rules": _rules(week),
        "days": [
            {
                "id": one.id,
                "on": one.on,
                "test_id": one.protocol.test_id,
                "test": one.protocol.test.name,
                "rival": _rival(one),
                "begun": given.get(one.id, 0) > 0,
            }
            for one in challenges
        ],
        "houses": house_sums(pupils, totals),
        "children": [
            {
                "pupil_id": pupil.id,
                "name": pupil.name,
                "class_name": pupil.school_class.name,
                "house": pupil.house.name if pupil.house else "",
                "points": totals.get(pupil.id, 0),
            }
            for pupil in pupils
        ],
    }


def _pupils(staff: Staff, week: ChallengeWeek) -> list[Pupil]:
    """The children of a week's classes in scope, class by class in their own order."""
    mine = classes_of(staff).filter(challenge_weeks=week)
    found = Pupil.objects.filter(school_class__in=mine)
    related = ("school_class__year_group", "house")
    order = ("school_class__year_group__position", "school_class__name")
    return list(found.select_related(*related).order_by(*order, *Pupil._meta.ordering or ()))


def house_sums(pupils: Iterable[Pupil], totals: dict[UUID, int]) -> list[dict[str, Any]]:
    """Points by house, houses by name; a house's sum also by child, since houses differ in size."""
    sums: dict[str, list[int]] = defaultdict(list)
    for pupil in pupils:
        if pupil.house:
            sums[pupil.house.name].append(totals.get(pupil.id, 0))
    return [
        {
            "house": name,
            "points": sum(found),
            "children": len(found),
            "each": f"{sum(found) / len(found):.1f}",
        }
        for name, found in sorted(sums.items())
    ]


def _rules(week: ChallengeWeek) -> list[dict[str, Any]]:
    return [
        {"rule": rule.value, "words": RULE_WORDS[rule], "points": week.points.get(rule.value, 0)}
        for rule in PointRule
    ]


def _rival(challenge: Challenge) -> dict[str, Any] | None:
    if challenge.rival_value is None:
        return None
    return {
        "name": challenge.rival,
        "typed": challenge.rival_typed,
        "shown": format_value(challenge.rival_value, challenge.protocol.measure),
        "variant": challenge.rival_variant,
        "variant_name": next(
            (v["name"] for v in challenge.protocol.variants
             if v["code"] == challenge.rival_variant), ""
        ),
    }  # fmt: skip


class Standing(NamedTuple):
    """One child in a challenge."""

    pupil: Pupil
    first: str
    best: str
    tries: int
    gain: str
    rival: str
    beat_rival: bool
    earned: tuple[Earned, ...]


def standings(staff: Staff, challenge: Challenge) -> list[Standing]:
    """Every child of a challenge's classes in scope: first and best of the window, the rival, and
    what was earned by the rules. Four queries, and one more for lengths in hands or steps."""
    week, protocol = challenge.week, challenge.protocol
    pupils = _pupils(staff, week)
    found = rows(
        counting().filter(
            pupil__in=[pupil.id for pupil in pupils],
            protocol__test=protocol.test_id,
            on__lte=week.ends_on,
        )
    )
    kept = ladders_for([protocol.test_id])
    judges: dict[UUID, Judge] = {}
    by_child: dict[UUID, list[Row]] = defaultdict(list)
    first = Judge(protocol, (), {})
    for row in merged(calibrated(found, staff.school_id), lambda _: (first.merge, first.measure)):
        by_child[row.pupil_id].append(row)
    made = []
    for pupil in pupils:
        year = pupil.school_class.year_group_id
        if year not in judges:
            judges[year] = Judge(protocol, _fitting(kept, year), {})
        made.append(_standing(pupil, by_child[pupil.id], challenge, judges[year]))
    return made


def _fitting(kept: Sequence[KeptLadder], year: UUID) -> list[Any]:
    return [one.ladder for one in kept if one.year_group_id in (None, year)]


def _standing(pupil: Pupil, mine: list[Row], challenge: Challenge, judge: Judge) -> Standing:
    """First and best are those under the key of the child's last try; a guess takes part but
    neither beats nor reaches anything."""
    inside = [row for row in mine if row.on >= challenge.on and row.value is not None]
    sure = [row for row in inside if not row.estimate]
    rules = {PointRule(rule): points for rule, points in challenge.week.points.items()}
    measure, sign = judge.measure, judge.measure.better.sign
    if not sure:
        earned = points_for(Try((), took_part=bool(inside)), rules)
        shown = f"{format_value(inside[-1].value or 0, measure)} ~" if inside else ""
        return Standing(pupil, shown, shown, len(inside), "", "", False, earned)
    key = judge.key(sure[-1])
    same = [row for row in sure if judge.key(row) == key]
    values = [row.value for row in same if row.value is not None]
    best = max(values, key=lambda value: value * sign)
    before = [row for row in mine if row.on < challenge.on and row.value is not None]
    earlier = judge.best(before, key)
    who = Who(pupil.sex, pupil.born)
    rival, rival_words, beaten = None, "", False
    if challenge.rival_value is not None:
        rival_key = judge.usual_key(challenge.rival_variant)
        result = against_rival(
            best, key, challenge.rival_value, rival_key, measure, challenge.rival
        )
        rival_words, beaten = result.words, (result.ahead or 0) > 0
        if why_not_comparable(key, rival_key) is None:
            rival = challenge.rival_value
    earned = points_for(
        Try(
            values=tuple(values),
            took_part=True,
            sign=sign,
            best_before=earlier,
            rung_before=_rung(judge, before, key, who),
            rung_now=_rung(judge, same, key, who),
            rival=rival,
        ),
        rules,
    )
    gain = window_gain(values, measure) or 0
    words = f"{format_difference(gain, measure)} better than the first" if gain else ""
    return Standing(
        pupil,
        format_value(values[0], measure),
        format_value(best, measure),
        len(inside),
        words,
        rival_words,
        beaten,
        earned,
    )


def _rung(judge: Judge, found: Sequence[Row], key: Any, who: Who) -> int:
    """The highest rung reached in scores under a key: its place, −1 for none."""
    places = [
        judge.rung(row, who).reached
        for row in found
        if row.value is not None and not row.estimate and judge.key(row) == key
    ]
    return max((place for place in places if place is not None), default=-1)


def ledger(challenge: Challenge, pupil_ids: Iterable[UUID]) -> dict[UUID, list[Point]]:
    """The lines of a challenge by child, oldest first. One query."""
    found: dict[UUID, list[Point]] = defaultdict(list)
    lines = Point.objects.filter(challenge=challenge, pupil__in=list(pupil_ids))
    for line in lines.select_related("by"):
        found[line.pupil_id].append(line)
    return found


def challenge_page(staff: Staff, challenge_id: UUID) -> dict[str, Any]:
    """A challenge with everybody's standing and points: given, waiting to be given, and given but
    no longer earned. Seven queries. Raises NotFound."""
    challenge = challenge_of(staff, challenge_id)
    week = challenge.week
    found = standings(staff, challenge)
    lines = ledger(challenge, (one.pupil.id for one in found))
    children = [_child(one, lines.get(one.pupil.id, [])) for one in found]
    totals = {one.pupil.id: sum(line.points for line in lines.get(one.pupil.id, []))
              for one in found}  # fmt: skip
    return {
        "id": challenge.id,
        "week_id": week.id,
        "week": week.name,
        "on": challenge.on,
        "until": week.ends_on,
        "test_id": challenge.protocol.test_id,
        "test": challenge.protocol.test.name,
        "rival": _rival(challenge),
        "rules": _rules(week),
        "classes": [
            {"id": class_id, "name": name}
            for class_id, name in {
                one.pupil.school_class_id: one.pupil.school_class.name for one in found
            }.items()
        ],
        "waiting": sum(e["points"] for child in children for e in child["waiting"]),
        "took_part": sum(1 for one in found if one.tries),
        "beat_rival": sum(1 for one in found if one.beat_rival),
        "houses": house_sums([one.pupil for one in found], totals),
        "children": children,
    }


class Given(NamedTuple):
    """The lines of one rule in one challenge, oldest first: the first says why it was given."""

    lines: list[Point]

    @property
    def points(self) -> int:
        """What stands of it: nothing once it was taken back."""
        return sum(line.points for line in self.lines)


def _given(lines: Iterable[Point]) -> list[Given]:
    """A child's ledger, put together by challenge and rule in the order of the lines."""
    found: dict[tuple[UUID, str], Given] = {}
    for line in lines:
        found.setdefault((line.challenge_id, line.rule), Given([])).lines.append(line)
    return list(found.values())


def _child(one: Standing, lines: list[Point]) -> dict[str, Any]:
    given = _given(lines)
    rules = {each.lines[0].rule for each in given}
    earned = {each.rule.value for each in one.earned}
    return {
        "pupil_id": one.pupil.id,
        "name": one.pupil.name,
        "class_id": one.pupil.school_class_id,
        "class_name": one.pupil.school_class.name,
        "house": one.pupil.house.name if one.pupil.house else "",
        "first": one.first,
        "best": one.best,
        "tries": one.tries,
        "gain": one.gain,
        "rival": one.rival,
        "points": sum(each.points for each in given),
        "waiting": [
            {"rule": each.rule.value, "points": each.points, "why": each.why}
            for each in one.earned
            if each.rule.value not in rules
        ],
        "given": [_shown(each, earned) for each in given],
    }


def _shown(given: Given, earned: set[str]) -> dict[str, Any]:
    first, newest, points = given.lines[0], given.lines[-1], given.points
    return {
        "id": newest.id,
        "rule": first.rule,
        "points": points,
        "why": first.why,
        "back": newest.why if points == 0 else "",
        "by": newest.by.name,
        "at": newest.at,
        "no_longer": points > 0 and first.rule not in earned,
    }


def pupil_points(staff: Staff, pupil_id: UUID) -> dict[str, Any]:
    """A child's points: what stands of each rule in each challenge, the newest first, and the sum.
    Two queries. Raises NotFound."""
    pupil = pupil_of(staff, pupil_id)
    lines = Point.objects.filter(pupil=pupil).select_related("challenge__week")
    lines = lines.order_by("-challenge__on", "at")
    standing = [each for each in _given(lines) if each.points]
    return {
        "points": sum(each.points for each in standing),
        "lines": [
            {
                "challenge_id": each.lines[0].challenge_id,
                "week": each.lines[0].challenge.week.name,
                "on": each.lines[0].challenge.on,
                "why": each.lines[0].why,
                "points": each.points,
            }
            for each in standing
        ],
    }


def due_today(staff: Staff, today: date) -> list[dict[str, Any]]:
    """The challenges that are open today, for the first page. One query."""
    found = (
        Challenge.objects.filter(week__in=weeks_of(staff), on__lte=today, week__ends_on__gte=today)
        .select_related("week", "protocol__test")
        .order_by("-on")
    )
    return [
        {
            "id": one.id,
            "week": one.week.name,
            "test": one.protocol.test.name,
            "until": one.week.ends_on,
            "new": one.on == today,
        }
        for one in found
    ]
