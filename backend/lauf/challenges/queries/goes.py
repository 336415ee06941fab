"""The goes that children have entered, as their teachers see them."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from datetime import date, datetime, timedelta
from typing import Final
from uuid import UUID

from django.db.models import QuerySet
from django.utils import timezone
from typing_extensions import TypedDict

from lauf.catalogue.queries import for_everybody, seen
from lauf.challenges.models import ChallengeCode, ChallengeWeek, Go, GoState, Slip
from lauf.challenges.pictures import Picture, picture
from lauf.challenges.queries.entering import go_row, go_shown, takes_goes
from lauf.challenges.queries.weeks import week_of, weeks_of
from lauf.judgement.judge import Judge
from lauf.judgement.judges import judges_for
from lauf.judgement.rows import by_pupil, by_test, scores
from lauf.judgement.subject import Subject
from lauf.lessons.queries import day_of, lesson_of
from lauf.people.models import Pupil, SchoolClass, Staff
from lauf.people.queries import classes_of
from lauf.records.queries import Row, counting, rows
from lauf.rules.judging.plausibility import Flag

#: Goes that were decided about, newest first, so that a decision can be undone.
_DECIDED: Final = 40


class SlipRow(TypedDict):
    """A child of a class in a week: its picture, and whether its slip opens anything."""

    pupil_id: UUID
    name: str
    picture: Picture | None
    has_slip: bool
    goes: int


class PublishedClass(TypedDict):
    """A class of a week: the code its children come in by, None while it is not open to them."""

    class_id: UUID
    name: str
    code: str | None
    children: list[SlipRow]


class GoRow(TypedDict):
    """A go: what was entered and what is odd about it, for a teacher to accept."""

    id: UUID
    challenge_id: UUID
    test: str
    pupil_id: UUID
    name: str
    class_name: str
    shown: str
    variant: str
    on: date
    made_at: datetime
    by_slip: bool
    counted_by: str
    flags: list[str]
    state: GoState
    decided_by: str


class GoesPage(TypedDict):
    """What children enter in a week: how they come in, what waits, what was decided."""

    week_id: UUID
    week: str
    ends_on: date
    # Tests that children can enter goes of themselves, and those that need the teacher.
    tests: list[str]
    in_class: list[str]
    classes: list[PublishedClass]
    waiting: list[GoRow]
    decided: list[GoRow]


class WaitingGoes(TypedDict):
    """How many goes of a class wait in a week."""

    week_id: UUID
    week: str
    waiting: int


def goes_of(staff: Staff, week: ChallengeWeek) -> QuerySet[Go]:
    """The goes of a week by children of the classes in scope."""
    found = Go.objects.filter(challenge__week=week, pupil__school_class__in=classes_of(staff))
    return seen(staff, found, "challenge__protocol__test").select_related(
        "challenge__protocol__test__school", "pupil__school_class", "counted_by", "decided_by"
    )


def goes_page(staff: Staff, week_id: UUID) -> GoesPage:
    """A week's codes, slips and goes. Eleven queries at most whatever the number of children and
    goes, and one a test of which goes wait. Raises NotFound."""
    week = week_of(staff, week_id)
    challenges = list(week.challenges.select_related("protocol__test__school"))
    classes = list(week.classes.all() & classes_of(staff))
    codes = dict(ChallengeCode.objects.filter(week=week).values_list("school_class_id", "code"))
    goes = goes_of(staff, week)
    waiting = list(goes.filter(state=GoState.WAITING))
    decided = goes.filter(state__in=(GoState.ACCEPTED, GoState.DECLINED)).order_by("-decided_at")
    flags = odd(waiting)
    children = _children(week, classes)
    return {
        "week_id": week.id,
        "week": week.name,
        "ends_on": week.ends_on,
        "tests": [one.protocol.test.name for one in challenges if takes_goes(one.protocol)],
        "in_class": [one.protocol.test.name for one in challenges if not takes_goes(one.protocol)],
        "classes": [
            {
                "class_id": one.id,
                "name": one.name,
                "code": codes.get(one.id),
                "children": children.get(one.id, []),
            }
            for one in classes
        ],
        "waiting": [_row(go, flags.get(go.id, ())) for go in waiting],
        "decided": [_row(go, ()) for go in decided[:_DECIDED]],
    }


def _children(
    week: ChallengeWeek, classes: Sequence[SchoolClass]
) -> dict[UUID | None, list[SlipRow]]:
    """By class, its children in their order with their pictures. Three queries."""
    # The newest of each.
    slips = {one.pupil_id: one for one in Slip.objects.filter(week=week).order_by("made_at")}
    entered = Go.objects.filter(challenge__week=week).exclude(state=GoState.UNDONE)
    made = Counter(entered.values_list("pupil", flat=True))
    found: dict[UUID | None, list[SlipRow]] = defaultdict(list)
    for pupil in Pupil.objects.filter(school_class__in=classes):
        slip = slips.get(pupil.id)
        found[pupil.school_class_id].append(
            {
                "pupil_id": pupil.id,
                "name": pupil.name,
                "picture": picture(slip.picture) if slip else None,
                "has_slip": slip is not None and slip.withdrawn_at is None,
                "goes": made[pupil.id],
            }
        )
    return found


def odd(waiting: Sequence[Go]) -> dict[UUID, tuple[Flag, ...]]:
    """What is odd about goes, by the same rules as about any score, each beside what the child has
    done before. Five queries and one a test, none without a go; one more for lengths in hands or
    steps."""
    if not waiting:
        return {}
    versions = {go.challenge.protocol.test_id: go.challenge.protocol for go in waiting}
    first = waiting[0].pupil
    done = counting().filter(pupil__in={go.pupil_id for go in waiting}, protocol__test__in=versions)
    judges = judges_for(versions, timezone.localdate() + timedelta(days=1))
    found: dict[UUID, tuple[Flag, ...]] = {}
    by_child = {
        pupil: by_test(mine)
        for pupil, mine in by_pupil(scores(rows(done), first.school_id)).items()
    }
    for go in waiting:
        protocol, group = go.challenge.protocol, go.pupil.school_class
        row = go_row(go, protocol)
        if row is None or group is None:
            continue
        judge = judges.of(protocol.test_id, group.year_group_id)
        earlier = by_child.get(go.pupil_id, {}).get(protocol.test_id, [])
        flags = tuple(one for one in _flags(judge, row, earlier, go) if one.code.holds_out)
        if flags:
            found[go.id] = flags
    return found


def _flags(judge: Judge, row: Row, earlier: Sequence[Row], go: Go) -> tuple[Flag, ...]:
    before = [old for old in earlier if old.on <= row.on]
    return judge.flags(row, before, None, Subject(go.pupil.sex, go.pupil.born))


def _row(go: Go, flags: Sequence[Flag]) -> GoRow:
    protocol = go.challenge.protocol
    return {
        "id": go.id,
        "challenge_id": go.challenge_id,
        "test": protocol.test.name,
        "pupil_id": go.pupil_id,
        "name": go.pupil.name,
        "class_name": go.pupil.last_class.name,
        "shown": go_shown(go, protocol),
        "variant": protocol.form_name(go.variant),
        "on": timezone.localdate(go.made_at),
        "made_at": go.made_at,
        "by_slip": go.by_slip,
        "counted_by": go.counted_by.given_name if go.counted_by else "",
        "flags": [flag.words for flag in flags],
        "state": GoState(go.state),
        "decided_by": go.decided_by.name if go.decided_by else "",
    }


def waiting_in_lesson(staff: Staff, lesson_id: UUID) -> list[WaitingGoes]:
    """The weeks of which goes of a lesson's class wait, on its day. Two queries. Raises
    NotFound."""
    lesson = lesson_of(staff, lesson_id)
    day = day_of(lesson)
    found: dict[UUID, WaitingGoes] = {}
    goes = seen(for_everybody(staff), Go.objects.all(), "challenge__protocol__test").filter(
        challenge__week__in=weeks_of(staff),
        challenge__week__starts_on__lte=day,
        challenge__week__ends_on__gte=day,
        pupil__school_class=lesson.school_class_id,
        state=GoState.WAITING,
    )
    for week, name in goes.values_list("challenge__week", "challenge__week__name"):
        there = found.setdefault(week, WaitingGoes(week_id=week, week=name, waiting=0))
        there["waiting"] += 1
    return list(found.values())
