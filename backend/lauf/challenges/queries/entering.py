"""What a child sees of a challenge that is open to children: the tests, and its own goes alone."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Final
from uuid import UUID

from django.db.models import QuerySet
from django.utils import timezone
from typing_extensions import TypedDict

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.protocol import VariantEntry
from lauf.catalogue.queries import ladders_for
from lauf.challenges.models import Challenge, ChallengeCode, ChallengeWeek, Go, GoState, Slip
from lauf.challenges.pictures import Picture, picture
from lauf.challenges.queries.standing import goes_by
from lauf.errors import Locked, NotFound
from lauf.judgement.judges import Judges
from lauf.judgement.picture import Lane, lane_of, put_to_scale
from lauf.judgement.rows import by_test, scores
from lauf.judgement.subject import Subject
from lauf.messages import say
from lauf.people.models import Pupil, SchoolClass, Staff
from lauf.progress.lesson.lanes import Reading, reading_of
from lauf.records.queries import Row, counting, rows
from lauf.rules.judging.comparability import COURSE
from lauf.rules.judging.tries import Merge
from lauf.rules.reading.entry import (
    Entry,
    EntryError,
    QuickCheck,
    quick_check,
    read_entry,
)
from lauf.rules.reading.kinds import form_words, format_value
from lauf.rules.reading.quantities import Measure

#: Signs of the code of a slip: so many that nobody can guess one.
SLIP_SIGNS: Final = 10
#: Days after a week in which what was entered without network still comes in.
_LATE: Final = timedelta(days=3)
_OVER: Final = say("This challenge is closed. Ask your teacher.")


@dataclass(frozen=True, slots=True)
class Entrance:
    """What a device opens: the challenges of a week to a class, or to one child by its slip. `by`
    is the teacher who gave the code."""

    id: UUID
    week: ChallengeWeek
    school_class: SchoolClass
    by: Staff
    slip: Slip | None


class MyTest(TypedDict):
    """A challenge as a child takes it."""

    challenge_id: UUID
    test: str
    on: date
    seconds: int | None
    kind: str
    of: int | None
    variants: list[VariantEntry]
    say: list[str]
    counts: list[str]
    does_not_count: list[str]
    cautions: list[str]
    accepted: str
    quick_check: QuickCheck


class MyPicture(TypedDict):
    """A child of the class, by its picture alone; by its slip also the given name."""

    slip_id: UUID
    picture: Picture
    name: str


class MyWeek(TypedDict):
    """The challenges of a week on a child's device. `by_slip`: it is one child's own; else a
    picture is chosen first. `in_class`: tests that can only be done with the teacher."""

    entrance_id: UUID
    week: str
    starts_on: date
    ends_on: date
    by_slip: bool
    tests: list[MyTest]
    in_class: list[str]
    children: list[MyPicture]


class MyGo(TypedDict):
    """One of a child's own goes."""

    id: UUID
    challenge_id: UUID
    typed: str
    shown: str
    variant: str
    made_at: datetime
    state: GoState


class MyLane(TypedDict):
    """A child's own lane in a challenge; `best` is the best that counts."""

    challenge_id: UUID
    lane: Lane
    best: str


class MyGoes(TypedDict):
    """What a child has entered in a week, newest first, and its own lanes."""

    slip_id: UUID
    goes: list[MyGo]
    lanes: list[MyLane]


def opened_by_children(code: str, today: date) -> Entrance:
    """What the code of a class, or of a slip, opens. Raises NotFound for one that opens nothing.
    Three queries at most."""
    given = code.strip().upper()
    found: Entrance | None = None
    try:
        if len(given) == SLIP_SIGNS:
            found = _by_slip(Slip.objects.filter(code=given), today)
        elif given:
            found = _by_class(ChallengeCode.objects.filter(code=given), today)
    except Locked:
        found = None
    if found is None or today > found.week.ends_on:
        raise NotFound(say("code"))
    return found


def entrance_of(kind: str, row_id: UUID, today: date) -> Entrance | None:
    """What a device still opens that came in by a `slip` or by the code of a `class`; None for what
    is no more. Two queries at most. Raises Locked where the week is over or closed to the class."""
    if kind == "slip":
        return _by_slip(Slip.objects.filter(pk=row_id), today)
    return _by_class(ChallengeCode.objects.filter(pk=row_id), today)


def _by_slip(slips: QuerySet[Slip], today: date) -> Entrance | None:
    slip = (
        slips.filter(withdrawn_at=None, pupil__school_class__isnull=False)
        .select_related("week", "pupil__school_class__year_group", "by__school")
        .first()
    )
    if slip is None or slip.pupil.school_class is None:
        return None
    group = slip.pupil.school_class
    if not ChallengeCode.objects.filter(week=slip.week_id, school_class=group).exists():
        raise Locked(_OVER)
    return _open(Entrance(slip.id, slip.week, group, slip.by, slip), today)


def _by_class(codes: QuerySet[ChallengeCode], today: date) -> Entrance | None:
    code = codes.select_related("week", "school_class__year_group", "by__school").first()
    if code is None:
        return None
    return _open(Entrance(code.id, code.week, code.school_class, code.by, None), today)


def _open(found: Entrance, today: date) -> Entrance:
    is_open = found.by.is_active and found.by.school.paused_at is None
    if not is_open or today > found.week.ends_on + _LATE:
        raise Locked(_OVER)
    return found


def takes_goes(protocol: ProtocolVersion) -> bool:
    """Whether children can enter goes of a test themselves: not a body measurement, nothing that
    depends on the length of a course that only the class has, and no test of which several tries
    make one score together."""
    one_is_enough = protocol.tries == 1 or protocol.merge == Merge.BEST
    return one_is_enough and COURSE not in protocol.conditions and not protocol.test.private


def my_week(entrance: Entrance) -> MyWeek:
    """What is done this week, and who may enter goes on this device. Two queries, one by a slip."""
    challenges = list(_challenges(entrance.week))
    return {
        "entrance_id": entrance.id,
        "week": entrance.week.name,
        "starts_on": entrance.week.starts_on,
        "ends_on": entrance.week.ends_on,
        "by_slip": entrance.slip is not None,
        "tests": [_test(one) for one in challenges if takes_goes(one.protocol)],
        "in_class": [one.protocol.test.name for one in challenges if not takes_goes(one.protocol)],
        "children": [
            {
                "slip_id": slip.id,
                "picture": picture(slip.picture),
                "name": slip.pupil.given_name if entrance.slip else "",
            }
            for slip in slips_of(entrance)
        ],
    }


def _challenges(week: ChallengeWeek) -> QuerySet[Challenge]:
    return week.challenges.select_related("protocol__test__school")


def slips_of(entrance: Entrance) -> Sequence[Slip]:
    """Whose goes may be entered on a device. One query, none by a slip."""
    if entrance.slip is not None:
        return [entrance.slip]
    found = Slip.objects.filter(
        week=entrance.week, withdrawn_at=None, pupil__school_class=entrance.school_class
    )
    return list(found.select_related("pupil__school_class"))


def pupil_by(entrance: Entrance, slip_id: UUID) -> Pupil:
    """The child of a slip that a device may enter goes of. Raises NotFound. One query, none by a
    slip."""
    found = next((one.pupil for one in slips_of(entrance) if one.id == slip_id), None)
    if found is None:
        raise NotFound(say("picture"))
    return found


def _test(challenge: Challenge) -> MyTest:
    protocol = challenge.protocol
    return {
        "challenge_id": challenge.id,
        "test": protocol.test.name,
        "on": challenge.on,
        "seconds": protocol.seconds,
        "kind": protocol.kind,
        "of": protocol.of,
        "variants": protocol.variants,
        "say": protocol.say,
        "counts": protocol.counts,
        "does_not_count": protocol.does_not_count,
        "cautions": protocol.cautions,
        "accepted": child_accepted(protocol.measure),
        "quick_check": quick_check(protocol.measure),
    }


def challenge_for(entrance: Entrance, challenge_id: UUID) -> Challenge:
    """A challenge of the week that children can enter goes of. Raises NotFound. One query."""
    found = _challenges(entrance.week).filter(pk=challenge_id).first()
    if found is None or not takes_goes(found.protocol):
        raise NotFound(say("challenge"))
    return found


def child_accepted(measure: Measure) -> str:
    """What a child may type: no reason why there is no score."""
    return say("Type {form_words}. Add ~ if you are not sure.", form_words=form_words(measure))


def read_go(typed: str, measure: Measure) -> Entry:
    """Read what a child typed. Raises EntryError, also for a reason why there is no score."""
    try:
        entry = read_entry(typed, measure)
    except EntryError as error:
        raise EntryError(error.message, child_accepted(measure), error.choices) from None
    if entry.reason is not None:
        raise EntryError(say("Type what you did."), child_accepted(measure))
    return entry


def go_reading(entrance: Entrance, challenge_id: UUID, typed: str) -> Reading:
    """How a go would be kept, in words, before it is. Raises NotFound. One query."""
    measure = challenge_for(entrance, challenge_id).protocol.measure
    found = reading_of(measure, typed)
    return {**found, "accepted": child_accepted(measure) if found["problem"] else ""}


def my_goes(entrance: Entrance, slip_id: UUID) -> MyGoes:
    """A child's own goes of a week and its own lanes: with earlier scores by its slip, without by a
    picture, which somebody else may choose. Five queries, and one more for lengths in hands or
    steps. Raises NotFound."""
    pupil = pupil_by(entrance, slip_id)
    challenges = [one for one in _challenges(entrance.week) if takes_goes(one.protocol)]
    goes = goes_by(pupil, challenges)
    tests = {one.protocol.test_id for one in challenges}
    counted = counting().filter(
        pupil=pupil, protocol__test__in=tests, on__lte=entrance.week.ends_on
    )
    if entrance.slip is None:
        counted = counted.filter(on__gte=entrance.week.starts_on)
    done = by_test(scores(rows(counted), entrance.week.school_id))
    judges = Judges({one.protocol.test_id: one.protocol for one in challenges},
                    ladders_for(tests), {}, ())  # fmt: skip
    lanes = [
        _lane(one, judges, pupil, entrance.school_class, goes, done.get(one.protocol.test_id, ()))
        for one in challenges
    ]
    by_id = {one.id: one for one in challenges}
    return {
        "slip_id": slip_id,
        "goes": [
            {
                "id": go.id,
                "challenge_id": go.challenge_id,
                "typed": go.typed,
                "shown": go_shown(go, by_id[go.challenge_id].protocol),
                "variant": go.variant,
                "made_at": go.made_at,
                "state": GoState(go.state),
            }
            for go in reversed(goes)
        ],
        "lanes": [one for one in lanes if one is not None],
    }


def _lane(
    challenge: Challenge,
    judges: Judges,
    pupil: Pupil,
    group: SchoolClass,
    goes: Iterable[Go],
    done: Iterable[Row],
) -> MyLane | None:
    """What is done beside what waits, on one lane; None where there is nothing yet."""
    judge = judges.of(challenge.protocol.test_id, group.year_group_id)
    counted = [one for row in done for one in row.tries or (row,)]
    waiting = [
        row
        for go in goes
        if go.challenge_id == challenge.id and go.state == GoState.WAITING
        and (row := go_row(go, challenge.protocol)) is not None
    ]  # fmt: skip
    marks = [row for row in [*counted, *waiting] if row.kept is not None]
    if not marks:
        return None
    who, last = Subject(pupil.sex, pupil.born), marks[-1]
    lane = lane_of(judge, last, marks[:-1], last.variant, who, last.on)
    put_to_scale([lane], judge.measure.kind)
    best = judge.best(counted, judge.key(last))
    return {
        "challenge_id": challenge.id,
        "lane": lane,
        "best": "" if best is None else format_value(best, judge.measure),
    }


def entry_of_go(go: Go, protocol: ProtocolVersion) -> Entry | None:
    """What was typed, read under the usual conditions of the test; None where that is no longer a
    score of it."""
    try:
        return read_entry(go.typed, protocol.measure)
    except EntryError:
        return None


def go_shown(go: Go, protocol: ProtocolVersion) -> str:
    """A go as a score is shown."""
    entry = entry_of_go(go, protocol)
    if entry is None or entry.value is None:
        return go.typed
    shown = format_value(entry.value, protocol.measure)
    return f"{shown} ~" if entry.estimate else shown


def go_row(go: Go, protocol: ProtocolVersion) -> Row | None:
    """A go as the rules see a score; None without a measured one."""
    entry = entry_of_go(go, protocol)
    if entry is None or entry.value is None:
        return None
    return Row(
        id=go.id,
        pupil_id=go.pupil_id,
        activity_id=go.challenge_id,
        test_id=protocol.test_id,
        on=timezone.localdate(go.made_at),
        typed=go.typed,
        value=entry.value,
        reason=None,
        estimate=entry.estimate,
        variant=go.variant,
        wave=None,
        succeeds_id=None,
        seconds=protocol.seconds,
        try_number=1,
        meaning=protocol.meaning,
        how=protocol.merge,
        better=protocol.better,
        step=protocol.resolution,
        parts=entry.parts,
        conditions={**protocol.conditions},
    )
