"""Who is kept from what in a lesson."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from typing import NamedTuple
from uuid import UUID

from django.db.models import Exists, OuterRef, Q

from lauf.catalogue.models import ProtocolVersion
from lauf.lessons.models import Allowed, Lesson
from lauf.lessons.queries.lessons import day_of
from lauf.messages import and_list, say
from lauf.people.models import Exclusion, Pupil
from lauf.rules.planning.care import CARE_WORDS, Care, asked_of


@dataclass(frozen=True, slots=True)
class KeptFrom:
    """What a child is not to do that a test asks of it. `words` say it after its name; `allowed`:
    the teacher has said that it does, in this lesson."""

    what: tuple[Care, ...]
    words: str
    allowed: bool


class _Excluded(NamedTuple):
    """One thing about one child."""

    care: Care
    until: date | None
    allowed: bool


class LessonCare:
    """What the children of a lesson's class are kept from, on its day. Read once, for all of its
    tests. One query, one more where one measures bodies; none where the tests ask for nothing of
    the kind."""

    def __init__(self, lesson: Lesson, protocols: Iterable[ProtocolVersion]) -> None:
        self._asked = {one.id: asked_by(one) for one in protocols}
        wanted = frozenset[Care]().union(*self._asked.values())
        self._exclusions: dict[UUID, list[_Excluded]] = {}
        if not wanted:
            return
        children = Pupil.objects.filter(school_class=lesson.school_class_id)
        day = day_of(lesson)
        excluded = Exclusion.objects.filter(
            Q(until=None) | Q(until__gte=day), pupil__in=children, what__in=wanted
        )
        rows = excluded.annotate(may=_allowed(lesson, OuterRef("pupil"), OuterRef("what")))
        found = [
            (pupil, _Excluded(Care(what), until, may))
            for pupil, what, until, may in rows.values_list("pupil_id", "what", "until", "may")
        ]
        if Care.MEASURING in wanted:
            refused = children.filter(measuring=Pupil.Consent.REFUSED)
            unless = refused.annotate(may=_allowed(lesson, OuterRef("pk"), Care.MEASURING.value))
            found += [
                (pupil, _Excluded(Care.MEASURING, None, may))
                for pupil, may in unless.values_list("id", "may")
            ]
        for pupil, exclusion in found:
            self._exclusions.setdefault(pupil, []).append(exclusion)

    def of(self, pupil: UUID, protocol: ProtocolVersion) -> KeptFrom | None:
        """What a child is kept from that a test asks of it."""
        asked = self._asked[protocol.id]
        exclusions = [one for one in self._exclusions.get(pupil, ()) if one.care in asked]
        if not exclusions:
            return None
        words = and_list(
            say("{what} (until {until})", what=CARE_WORDS[one.care], until=f"{one.until:%d %b}")
            if one.until
            else CARE_WORDS[one.care]
            for one in exclusions
        )
        return KeptFrom(
            tuple(one.care for one in exclusions),
            say("is not to {words}", words=words),
            all(one.allowed for one in exclusions),
        )

    def kept_from(self, protocol: ProtocolVersion) -> dict[UUID, KeptFrom]:
        """Every child that is kept from what a test asks."""
        found = ((pupil, self.of(pupil, protocol)) for pupil in self._exclusions)
        return {pupil: kept for pupil, kept in found if kept is not None}


def _allowed(lesson: Lesson, pupil: OuterRef, what: OuterRef | str) -> Exists:
    """Whether the teacher allows a child to do it in a lesson."""
    return Exists(Allowed.objects.filter(lesson=lesson, pupil=pupil, what=what))


def asked_by(protocol: ProtocolVersion) -> frozenset[Care]:
    """What a protocol asks of a child that some are kept from."""
    return asked_of(protocol.effort, protocol.loads, body_measure=protocol.test.private)
