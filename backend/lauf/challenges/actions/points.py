"""Every write about challenges."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, timedelta
from typing import Any, Final
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import check_variant, newest_protocol, read_condition
from lauf.challenges.models import Challenge, ChallengeWeek, Point
from lauf.challenges.queries import challenge_of, ledger, standings, week_of
from lauf.errors import NotFound, Refused
from lauf.lessons.models import Activity, Lesson
from lauf.people.actions import log
from lauf.people.models import Change, Staff
from lauf.people.permissions import demand_own
from lauf.people.queries import class_of, classes_of
from lauf.rules.comparability import COURSE
from lauf.rules.entry import read_entry
from lauf.rules.kinds import plural
from lauf.rules.points import MOST_POINTS, PointRule

LONGEST_WEEK: Final = timedelta(days=28)


@transaction.atomic
def make_week(
    staff: Staff,
    *,
    name: str,
    starts_on: date,
    ends_on: date,
    class_ids: list[UUID],
    points: Mapping[PointRule, int],
) -> ChallengeWeek:
    """A week of challenges for some classes, with what each rule gives. Raises NotFound for a class
    out of scope, or Refused."""
    label = name.strip()
    if not label or len(label) > 60:
        raise Refused("Give the week a name of up to 60 letters.")
    if not starts_on <= ends_on <= starts_on + LONGEST_WEEK:
        raise Refused("The last day is on or after the first, within four weeks.")
    if not class_ids:
        raise Refused("Choose at least one class.")
    if any(not 0 <= given <= MOST_POINTS for given in points.values()):
        raise Refused(f"A rule gives 0 to {MOST_POINTS} points.")
    classes = [class_of(staff, class_id) for class_id in dict.fromkeys(class_ids)]
    week = ChallengeWeek.objects.create(
        school_id=staff.school_id,
        name=label,
        starts_on=starts_on,
        ends_on=ends_on,
        points={rule.value: given for rule, given in points.items()},
        by=staff,
    )
    week.classes.set(classes)
    log(staff, Change.What.CHALLENGE, f"Challenge week {label} made", week.id)
    return week


@transaction.atomic
def set_day(
    staff: Staff,
    week_id: UUID,
    *,
    on: date,
    test_id: UUID,
    rival: str,
    rival_typed: str,
    rival_variant: str,
    rival_course: str = "",
) -> Challenge:
    """The challenge of one day of a week, with the rival's mark if there is one: read as any score
    of that test is. Raises NotFound, EntryError for an unreadable mark, or Refused, so for a day
    whose points were given already when it is to be another test."""
    week = _own_week(staff, week_id)
    if not week.starts_on <= on <= week.ends_on:
        raise Refused(f"The week is from {week.starts_on:%d %b} to {week.ends_on:%d %b}.")
    protocol = newest_protocol(staff, test_id)
    if protocol.test.private:
        raise Refused("Growth is no challenge.")
    found = Challenge.objects.filter(week=week, on=on).select_related("protocol").first()
    if found is not None and found.points.exists():
        if found.protocol.test_id != protocol.test_id:
            raise Refused("Points were given for this day already: its test stays.")
        protocol = ProtocolVersion.objects.select_related("test__school").get(pk=found.protocol_id)
    made = found or Challenge(week=week, on=on)
    made.protocol = protocol
    made.rival = rival.strip()[:60]
    made.rival_typed, made.rival_value, made.rival_variant = "", None, ""
    made.rival_conditions = {}
    if made.rival:
        _set_mark(made, rival_typed, rival_variant, rival_course)
    elif rival_typed.strip():
        raise Refused("Say whose mark it is.")
    made.save()
    words = f"{week.name}, {on:%d %b}: {protocol.test.name}"
    words += f" against {made.rival}'s {made.rival_typed}" if made.rival else ""
    log(staff, Change.What.CHALLENGE, words, made.id)
    return made


def _set_mark(challenge: Challenge, typed: str, variant: str, course: str) -> None:
    """The rival's mark, with the course it was set on: the test's usual one where none is said."""
    protocol = challenge.protocol
    check_variant(protocol, variant)
    conditions = dict(protocol.conditions)
    if course.strip():
        if COURSE not in conditions:
            raise Refused("This test has no course: leave the course out.")
        conditions[COURSE] = read_condition(COURSE, course)
    entry = read_entry(typed, protocol.measure_with(conditions))
    if entry.value is None or entry.estimate:
        raise Refused(f"{challenge.rival}'s mark is a score, and not a guess.")
    challenge.rival_typed = entry.typed[:180]
    challenge.rival_value = entry.value
    challenge.rival_variant = variant
    challenge.rival_conditions = conditions


@transaction.atomic
def clear_day(staff: Staff, week_id: UUID, on: date) -> ChallengeWeek:
    """Take the challenge of a day out. Raises NotFound, or Refused once points were given."""
    week = _own_week(staff, week_id)
    found = Challenge.objects.filter(week=week, on=on).first()
    if found is None:
        raise NotFound("challenge on that day")
    if found.points.exists():
        raise Refused("Points were given for this day: it stays.")
    words = f"{week.name}, {on:%d %b}: {found.protocol.test.name} taken out"
    log(staff, Change.What.CHALLENGE, words, found.id)
    found.delete()
    return week


@transaction.atomic
def delete_week(staff: Staff, week_id: UUID) -> None:
    """Take a week away. Scores stay. Raises NotFound, or Refused once points were given."""
    week = _own_week(staff, week_id)
    if Point.objects.filter(challenge__week=week).exists():
        raise Refused("Points were given in this week: it stays.")
    log(staff, Change.What.CHALLENGE, f"Challenge week {week.name} taken away", week.id)
    week.delete()


def _own_week(staff: Staff, week_id: UUID) -> ChallengeWeek:
    """A week to be changed: by who made it or the head of PE."""
    week = week_of(staff, week_id)
    demand_own(staff, week.by_id, "week")
    return ChallengeWeek.objects.select_for_update().get(pk=week.pk)


@transaction.atomic
def open_challenge(staff: Staff, challenge_id: UUID, class_id: UUID) -> Activity:
    """Where a class's scores of a challenge are taken today: today's lesson that has the test under
    the same protocol, or a new one. Raises NotFound, or Refused outside the window."""
    challenge = challenge_of(staff, challenge_id)
    today = timezone.localdate()
    if not challenge.on <= today <= challenge.week.ends_on:
        raise Refused(
            f"This challenge is open from {challenge.on:%d %b} to {challenge.week.ends_on:%d %b}."
        )
    school_class = classes_of(staff).filter(pk=class_id, challenge_weeks=challenge.week).first()
    if school_class is None:
        raise NotFound("class in this week")
    type(school_class).objects.select_for_update().get(pk=class_id)
    found = Activity.objects.filter(
        lesson__school_class=school_class,
        lesson__starts_at__date=today,
        lesson__battery=None,
        protocol_id=challenge.protocol_id,
    ).first()
    if found is not None:
        return found
    lesson = Lesson.objects.create(
        school_id=staff.school_id,
        school_class=school_class,
        teacher=staff,
        place="challenge",
        starts_at=timezone.now(),
        minutes=20,
    )
    return Activity.objects.create(lesson=lesson, protocol_id=challenge.protocol_id)


@transaction.atomic
def try_all_again(staff: Staff, week_id: UUID, class_id: UUID) -> Lesson:
    """Where a class tries all of a week's challenges again today, each under its own protocol: a
    new lesson, or the one that was begun for it. Goes made in it stand beside the earlier ones.
    Raises NotFound, or Refused outside the week or without a challenge."""
    week = week_of(staff, week_id)
    today = timezone.localdate()
    days = list(week.challenges.filter(on__lte=today).select_related("protocol"))
    if not days or today > week.ends_on:
        raise Refused(
            f"There is nothing to try again today: the week is from {week.starts_on:%d %b} to "
            f"{week.ends_on:%d %b}."
        )
    school_class = classes_of(staff).filter(pk=class_id, challenge_weeks=week).first()
    if school_class is None:
        raise NotFound("class in this week")
    type(school_class).objects.select_for_update().get(pk=class_id)
    protocols = list(dict.fromkeys(one.protocol_id for one in days))
    begun = Lesson.objects.filter(
        school_class=school_class, starts_at__date=today, battery=None, closed_at=None
    )
    for lesson in begun.prefetch_related("activities"):
        if {one.protocol_id for one in lesson.activities.all()} >= set(protocols):
            return lesson
    lesson = Lesson.objects.create(
        school_id=staff.school_id, school_class=school_class, teacher=staff, place="challenge",
        starts_at=timezone.now(), minutes=max(20, 10 * len(protocols)),
    )  # fmt: skip
    Activity.objects.bulk_create(
        Activity(lesson=lesson, position=place, protocol_id=protocol)
        for place, protocol in enumerate(protocols)
    )
    return lesson


@transaction.atomic
def give_points(staff: Staff, challenge_id: UUID) -> int:
    """Give what was earned and not given yet, each rule at most once a child; returns how many
    lines were written. Twice gives nothing more. Raises NotFound."""
    challenge = challenge_of(staff, challenge_id)
    Challenge.objects.select_for_update().get(pk=challenge.pk)
    found = standings(staff, challenge)
    lines = ledger(challenge, (one.pupil.id for one in found))
    made = [
        Point(
            school_id=staff.school_id,
            challenge=challenge,
            pupil=one.pupil,
            rule=earned.rule.value,
            points=earned.points,
            why=_why(challenge, one, earned.rule, earned.why),
            by=staff,
        )
        for one in found
        for earned in one.earned
        if earned.rule.value not in {line.rule for line in lines.get(one.pupil.id, [])}
    ]
    Point.objects.bulk_create(made)
    if made:
        words = f"{challenge}: {plural(len(made), 'line')} of points given"
        log(staff, Change.What.POINTS, words, challenge.id)
    return len(made)


def _why(challenge: Challenge, one: Any, rule: PointRule, words: str) -> str:
    """The reason with the score it was given for: a ledger can be read alone."""
    test = challenge.protocol.test.name
    match rule:
        case PointRule.TOOK_PART:
            return f"{words}: {test}"
        case PointRule.BEAT_RIVAL:
            return f"{one.rival}: {one.best} in {test}"
        case _:
            return f"{words}: {one.best} in {test}"


@transaction.atomic
def reverse_point(staff: Staff, point_id: UUID, why: str) -> Point:
    """Take the newest line of a child's rule back (or give it again, where that was a taking
    back), with a reason. The same line twice is reversed once. Raises NotFound or Refused."""
    line = Point.objects.filter(pk=point_id, school_id=staff.school_id).first()
    if line is None:
        raise NotFound("points")
    challenge_of(staff, line.challenge_id)
    if not classes_of(staff).filter(pupils=line.pupil_id).exists():
        raise NotFound("points")
    reason = why.strip()[:240]
    if not reason:
        raise Refused("Say why, in a few words.")
    Challenge.objects.select_for_update().get(pk=line.challenge_id)
    found = Point.objects.filter(reverses=line).first()
    if found is not None:
        return found
    done = "taken back" if line.points > 0 else "given again"
    words = f"{abs(line.points)} for {line.pupil.name} {done}: {reason}"
    log(staff, Change.What.POINTS, words, line.pupil_id)
    return Point.objects.create(
        school_id=line.school_id,
        challenge_id=line.challenge_id,
        pupil_id=line.pupil_id,
        rule=line.rule,
        points=-line.points,
        why=reason,
        reverses=line,
        by=staff,
    )
