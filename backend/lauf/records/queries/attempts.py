"""Reads of attempts: the ones that count, as plain rows for the rules."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date
from typing import Any, Final, NamedTuple
from uuid import UUID

from django.db.models import Exists, F, OuterRef, Q, QuerySet, Subquery
from django.db.models.functions import Coalesce

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import seen
from lauf.compiled import Compiled, plain_rows
from lauf.errors import NotFound
from lauf.lessons.models import Run
from lauf.messages import say
from lauf.people.models import Staff
from lauf.records.models import WITHDRAWN, Attempt, Question
from lauf.rules.judging.comparability import FreeConditions
from lauf.rules.judging.plausibility import FlagCode
from lauf.rules.reading.readers.text import Parts
from lauf.rules.reading.reasons import REASON_WORDS, NotDone


def counting() -> QuerySet[Attempt]:
    """The attempts that count: nothing succeeds them and they were not taken back."""
    return Attempt.objects.filter(successor=None).exclude(reason=WITHDRAWN)


def attempt_of(staff: Staff, attempt_id: UUID) -> Attempt:
    """One attempt in scope. Raises NotFound. One query."""
    attempts = Attempt.objects.filter(pk=attempt_id, school_id=staff.school_id)
    attempts = seen(staff, attempts, "protocol__test")
    if not staff.sees_school:
        attempts = attempts.filter(pupil__school_class__teachers=staff)
    found = attempts.select_related("activity__lesson", "protocol").first()
    if found is None:
        raise NotFound(say("score"))
    return found


def worked_seconds() -> Coalesce:
    """How long the clock really ran for an attempt: the protocol's seconds, unless the wave's run
    that counts was stopped early. For annotating attempts."""
    early = Run.objects.filter(
        activity=OuterRef("activity"), wave=OuterRef("wave"), ended=Run.Ended.EARLY
    ).values("worked_seconds")[:1]
    return Coalesce(Subquery(early), F("protocol__seconds"))


def is_open() -> Exists:
    """Whether something is asked about an attempt that nobody has settled. For annotating
    attempts."""
    holding = [code.value for code in FlagCode if code.holds_out]
    asked = Question.objects.filter(attempt=OuterRef("pk"), settled=False, flag__in=holding)
    return Exists(asked)


class Row(NamedTuple):
    """One counting attempt as the rules see it; `seconds` is what the clock really ran, `how`,
    `better` and `step` are of the protocol version it was made under.

    While a question about it is open it has no `value`, so that it takes no part in anything, and
    is shown by what it is `kept` as (see `lauf.judgement.rows`).

    Once merged (`lauf.judgement.rows`), one row stands for all tries of a child in an activity, and
    `tries` holds them.
    """

    id: UUID
    pupil_id: UUID
    activity_id: UUID
    test_id: UUID
    on: date
    typed: str
    value: int | None
    reason: str | None
    estimate: bool
    variant: str
    wave: int | None
    succeeds_id: UUID | None
    seconds: int | None
    try_number: int
    meaning: int
    how: str
    better: str
    step: int
    parts: Parts
    conditions: FreeConditions
    is_open: bool = False
    tries: tuple[Row, ...] = ()
    #: The value of one that is open.
    asked: int | None = None

    @property
    def kept(self) -> int | None:
        """The value as it was kept, whether it takes part or not."""
        return self.value if self.asked is None else self.asked

    def put(self, *, is_open: bool) -> Row:
        """The same score, in question or not."""
        if is_open:
            return self._replace(is_open=True, value=None, asked=self.kept)
        return self._replace(is_open=False, value=self.kept, asked=None)

    @property
    def informal(self) -> bool:
        return "informal" in self.parts


def reason_words(reason: str | None) -> str:
    """Why there is no score, as said on screen."""
    return REASON_WORDS[NotDone(reason)] if reason else ""


_IN_TIME: Final = ("on", "recorded_at", "id")
_FIELDS: Final = (
    "id",
    "pupil_id",
    "activity_id",
    "protocol__test_id",
    "on",
    "typed",
    "value",
    "reason",
    "estimate",
    "variant",
    "wave",
    "succeeds_id",
    "seconds",
    "try_number",
    "protocol__meaning",
    "protocol__merge",
    "protocol__better",
    "protocol__resolution",
    "parts",
    "conditions",
    "is_open",
)


def _row(cells: Iterable[Any]) -> Row:
    *plain, parts, conditions, asked = cells
    return Row._make((*plain, Compiled.json(parts), Compiled.json(conditions), asked, (), None))


def _in_time(attempts: QuerySet[Attempt]) -> QuerySet[Attempt, tuple[Any, ...]]:
    found = attempts.annotate(seconds=worked_seconds(), is_open=is_open()).order_by(*_IN_TIME)
    return found.values_list(*_FIELDS)


def rows(attempts: QuerySet[Attempt]) -> list[Row]:
    """The attempts as rows, oldest first. One query."""
    return [_row(cells) for cells in plain_rows(_in_time(attempts))]


_CLASS_HISTORY = Compiled(
    lambda class_id, activity_id, test_id, day: _in_time(
        Attempt.objects.filter(
            Q(activity=activity_id) | Q(on__lt=day, protocol__test=test_id),
            successor=None,
            pupil__school_class=class_id,
        )
    ),
    UUID,
    UUID,
    UUID,
    date,
)


def class_history(class_id: UUID, activity_id: UUID, test_id: UUID, day: date) -> list[Row]:
    """What counts of a class's children in one activity, those taken back with it, and in the same
    test on the days before; oldest first. One query."""
    found = map(_row, _CLASS_HISTORY.rows(class_id, activity_id, test_id, day))
    return [r for r in found if r.reason != WITHDRAWN or r.activity_id == activity_id]


_OF_CLASS = Compiled(
    lambda class_id, until: (
        counting()
        .filter(pupil__school_class=class_id, on__lte=until)
        .annotate(is_open=is_open())
        .order_by(*_IN_TIME)
        .values_list(
            "protocol_id", "id", "pupil_id", "activity_id", "on", "typed", "value", "reason",
            "estimate", "variant", "wave", "succeeds_id", "try_number", "parts", "conditions",
            "is_open",
        )
    ),
    UUID,
    date,
)  # fmt: skip
_VERSIONS = Compiled(
    lambda class_id: ProtocolVersion.objects.filter(
        test__school__classes=class_id, test__private=False
    ).values_list("id", "test_id", "seconds", "meaning", "merge", "better", "resolution"),
    UUID,
)


def _early(**where: Any) -> QuerySet[Run, tuple[Any, ...]]:
    runs = Run.objects.filter(ended=Run.Ended.EARLY, **where).order_by("-anchor_ms")
    return runs.values_list("activity_id", "wave", "worked_seconds")


def _shortened(rows: Iterable[tuple[Any, ...]]) -> dict[tuple[UUID, int | None], int]:
    """What `worked_seconds` says, read once for many attempts: seconds by activity and wave."""
    return {(activity, wave): seconds for activity, wave, seconds in rows}


_EARLY = Compiled(lambda class_id: _early(activity__lesson__school_class=class_id), UUID)


def class_rows(class_id: UUID, until: date) -> list[Row]:
    """What counts of a class's children up to a day in every test but body measurements, oldest
    first: as `rows`, with what belongs to versions and clocks read once. Three queries."""
    versions = {version: facts for version, *facts in _VERSIONS.rows(class_id)}
    early = _shortened(_EARLY.rows(class_id))
    found = []
    for protocol, *plain, try_number, parts, conditions, asked in _OF_CLASS.rows(class_id, until):
        facts = versions.get(protocol)
        if facts is None:
            continue
        attempt, pupil, activity, on, typed, value, reason, estimate, variant, wave, before = plain
        test, seconds, meaning, how, better, step = facts
        seconds = early.get((activity, wave), seconds) if early else seconds
        cells = (
            attempt, pupil, activity, test, on, typed, value, reason, estimate, variant, wave,
            before, seconds, try_number, meaning, how, better, step,
            Compiled.json(parts), Compiled.json(conditions), asked,
        )  # fmt: skip
        found.append(Row._make((*cells, (), None)))
    return found


_OF_LESSONS = Compiled(
    lambda lessons: (
        Attempt.objects.filter(activity__lesson__in=lessons, successor=None)
        .annotate(seconds=F("protocol__seconds"), is_open=is_open())
        .order_by(*_IN_TIME)
        .values_list(*_FIELDS)
    ),
    [UUID],
)
_EARLY_OF_LESSONS = Compiled(lambda lessons: _early(activity__lesson__in=lessons), [UUID])


def lesson_rows(now: UUID, then: UUID | None) -> list[Row]:
    """What counts in one lesson or two, those taken back with it; oldest first. Two queries."""
    lessons = [now, then or now]
    early = _shortened(_EARLY_OF_LESSONS.rows(lessons))
    found = [_row(cells) for cells in _OF_LESSONS.rows(lessons)]
    if not early:
        return found
    return [
        row._replace(seconds=early.get((row.activity_id, row.wave), row.seconds)) for row in found
    ]
