"""The ledger of points."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from datetime import date, datetime
from typing import NamedTuple
from uuid import UUID

from typing_extensions import TypedDict

from lauf.challenges.models import Point
from lauf.challenges.queries.entrants import Entrant, standings
from lauf.challenges.queries.rivals import Rival, rival_shown
from lauf.challenges.queries.weeks import HouseSum, RuleRow, challenge_of, house_sums, rules_shown
from lauf.people.models import Staff
from lauf.people.queries import pupil_of
from lauf.people.shapes import Named


def ledgers(challenge_ids: Iterable[UUID]) -> dict[tuple[UUID, UUID], list[Point]]:
    """The lines of challenges by challenge and child, oldest first. One query."""
    found: dict[tuple[UUID, UUID], list[Point]] = defaultdict(list)
    for line in Point.objects.filter(challenge__in=list(challenge_ids)).select_related("by"):
        found[line.challenge_id, line.pupil_id].append(line)
    return found


class WaitingPoint(TypedDict):
    """What a child has earned and was not given yet."""

    rule: str
    points: int
    why: str


class GivenPoint(TypedDict):
    """What stands of one rule; `back` is why it was taken back, `no_longer` says that the scores
    of today do not earn it any more."""

    id: UUID
    rule: str
    points: int
    why: str
    back: str
    by: str
    at: datetime
    no_longer: bool


class MissedPoint(TypedDict):
    """A rule that gave a child nothing yet, and why."""

    rule: str
    why: str


class ChallengeChild(TypedDict):
    """A child in a challenge."""

    pupil_id: UUID
    name: str
    class_id: UUID
    class_name: str
    house: str
    # The entry of the last score, whose working can be asked for.
    last: UUID | None
    first: str
    best: str
    tries: int
    gain: str
    rival: str
    points: int
    waiting: list[WaitingPoint]
    given: list[GivenPoint]
    missed: list[MissedPoint]


class ChallengePage(TypedDict):
    """A challenge, every child's best and points."""

    id: UUID
    week_id: UUID
    week: str
    on: date
    until: date
    test_id: UUID
    test: str
    rival: Rival | None
    rules: list[RuleRow]
    classes: list[Named]
    waiting: int
    took_part: int
    beat_rival: int
    houses: list[HouseSum]
    children: list[ChallengeChild]


class PupilPoint(TypedDict):
    """What stands of one rule in one challenge."""

    challenge_id: UUID
    week: str
    on: date
    why: str
    points: int


class PupilPoints(TypedDict):
    """A child's points over all challenges."""

    points: int
    lines: list[PupilPoint]


def challenge_page(staff: Staff, challenge_id: UUID) -> ChallengePage:
    """A challenge with everybody's standing and points: given, waiting to be given, and given but
    no longer earned. Seven queries. Raises NotFound."""
    challenge = challenge_of(staff, challenge_id)
    week = challenge.week
    found = standings(staff, challenge)
    lines = ledgers([challenge.id])
    children = [_child(one, lines[challenge.id, one.pupil.id]) for one in found]
    totals = {one.pupil.id: sum(line.points for line in lines[challenge.id, one.pupil.id])
              for one in found}  # fmt: skip
    return {
        "id": challenge.id,
        "week_id": week.id,
        "week": week.name,
        "on": challenge.on,
        "until": week.ends_on,
        "test_id": challenge.protocol.test_id,
        "test": challenge.protocol.test.name,
        "rival": rival_shown(challenge),
        "rules": rules_shown(week),
        "classes": [
            {"id": class_id, "name": name}
            for class_id, name in {
                one.pupil.last_class.id: one.pupil.last_class.name for one in found
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


def _child(one: Entrant, lines: list[Point]) -> ChallengeChild:
    given = _given(lines)
    rules = {each.lines[0].rule for each in given}
    earned = {each.rule.value for each in one.earned}
    return {
        "pupil_id": one.pupil.id,
        "name": one.pupil.name,
        "class_id": one.pupil.last_class.id,
        "class_name": one.pupil.last_class.name,
        "house": one.pupil.house.name if one.pupil.house else "",
        "last": one.last,
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
        "missed": [
            {"rule": each.rule.value, "why": each.why}
            for each in one.missed
            if each.rule.value not in rules
        ],
    }


def _shown(given: Given, earned: set[str]) -> GivenPoint:
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


def pupil_points(staff: Staff, pupil_id: UUID) -> PupilPoints:
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
