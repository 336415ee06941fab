"""Reads of attempts: the ones that count, as plain rows for the rules."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable
from datetime import date, timedelta
from typing import Any, Final, NamedTuple
from uuid import UUID

from django.core.cache import cache
from django.db.models import F, OuterRef, Q, QuerySet, Subquery, Window
from django.db.models.functions import Coalesce, Lag, Lead

from lauf.catalogue.queries import key_conditions
from lauf.compiled import Compiled
from lauf.lessons.models import WaveRun
from lauf.people.models import Staff
from lauf.people.queries import NotFound
from lauf.records.models import WITHDRAWN, Attempt, Calibration
from lauf.rules.change import PAIR_WINDOW, pair_differences
from lauf.rules.comparability import Key
from lauf.rules.entry import REASON_WORDS, NotDone
from lauf.rules.quantities import Better, Measure
from lauf.rules.tries import Merge, Try, merge_tries

#: Repeat tests older than this say little about how steady today's children are.
PAIRS_SINCE: Final = timedelta(days=3 * 365)


def counting() -> QuerySet[Attempt]:
    """The attempts that count: nothing succeeds them and they were not taken back."""
    return Attempt.objects.filter(successor=None).exclude(reason=WITHDRAWN)


def attempt_of(staff: Staff, attempt_id: UUID) -> Attempt:
    """One attempt in scope. Raises NotFound. One query."""
    attempts = Attempt.objects.filter(pk=attempt_id, school_id=staff.school_id)
    if not staff.may_see_growth:
        attempts = attempts.filter(protocol__test__private=False)
    if not staff.is_head:
        attempts = attempts.filter(pupil__school_class__teachers=staff)
    found = attempts.select_related("activity__lesson").first()
    if found is None:
        raise NotFound("score")
    return found


def worked_seconds() -> Coalesce:
    """How long the clock really ran for an attempt: the protocol's seconds, unless the wave's run
    that counts was stopped early. For annotating attempts."""
    early = WaveRun.objects.filter(
        activity=OuterRef("activity"), wave=OuterRef("wave"), ended=WaveRun.Ended.EARLY
    ).values("worked_seconds")[:1]
    return Coalesce(Subquery(early), F("protocol__seconds"))


class Row(NamedTuple):
    """One counting attempt as the rules see it; `seconds` is what the clock really ran.

    After `merged`, one row stands for all tries of a child in an activity, and `tries` holds them.
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
    parts: dict[str, Any]
    conditions: dict[str, Any]
    tries: tuple[Row, ...] = ()

    @property
    def informal(self) -> bool:
        return "informal" in self.parts


def merged(found: Iterable[Row], how: Callable[[UUID], tuple[Merge, Measure]]) -> list[Row]:
    """One row a child and activity from the rows of all tries; `how` tells a test's way of merging
    and its measure. The rows keep their order; a child with nothing measured keeps its last row."""
    groups: dict[tuple[UUID, UUID], list[Row]] = defaultdict(list)
    for row in found:
        groups[row.pupil_id, row.activity_id].append(row)
    return [
        group[0] if len(group) == 1 else _merged(group, *how(group[0].test_id))
        for group in groups.values()
    ]


def _merged(group: list[Row], how: Merge, measure: Measure) -> Row:
    tries = tuple(sorted(group, key=lambda row: row.try_number))
    # The best of several is the best under one key: the variant tried last.
    variant = tries[-1].variant
    same = [row if row.variant == variant else row._replace(value=None) for row in tries]
    score = merge_tries([Try(row.value, row.estimate) for row in same], how, measure)
    if score is None:
        return tries[-1]._replace(tries=tries)
    decided = tries[score.index] if score.index is not None else tries[-1]
    return decided._replace(
        value=score.value, reason=None, estimate=score.estimate, variant=variant, tries=tries
    )


def calibrated(found: list[Row], school_id: UUID) -> list[Row]:
    """Rows in hand spans or steps with the value that the child's, else the class's calibration
    gives them; without one they have no value. One query when there is such a row, else none."""
    children = {row.pupil_id for row in found if row.informal}
    if not children:
        return found
    own: dict[tuple[UUID, str], float] = {}
    shared: dict[tuple[UUID, str], float] = {}
    in_class = Q(school_class__pupils__in=children)
    rows = Calibration.objects.filter(Q(pupil__in=children) | in_class, school_id=school_id)
    for pupil, member, unit, length in rows.order_by("on", "made_at").values_list(
        "pupil_id", "school_class__pupils__id", "unit", "millimetres"
    ):
        if pupil:
            own[pupil, unit] = length
        else:
            shared[member, unit] = length

    def value(row: Row) -> Row:
        if not row.informal:
            return row
        asked = (row.pupil_id, row.parts["informal_unit"])
        length = own.get(asked, shared.get(asked))
        if length is None:
            return row
        return row._replace(value=round(row.parts["informal"] / 1000 * length))

    return [value(row) for row in found]


def reason_words(reason: str | None) -> str:
    """Why there is no score, as said on screen."""
    return REASON_WORDS[NotDone(reason)] if reason else ""


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
    "parts",
    "conditions",
)


def _row(cells: Iterable[Any]) -> Row:
    *plain, parts, conditions = cells
    return Row._make((*plain, Compiled.json(parts), Compiled.json(conditions), ()))


def _in_time(attempts: QuerySet[Attempt]) -> QuerySet[Attempt, tuple[Any, ...]]:
    found = attempts.annotate(seconds=worked_seconds()).order_by("on", "recorded_at", "id")
    return found.values_list(*_FIELDS)


def rows(attempts: QuerySet[Attempt]) -> list[Row]:
    """The attempts as rows, oldest first. One query."""
    return [_row(cells) for cells in _in_time(attempts)]


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


_OF_LESSONS = Compiled(
    lambda now, then: _in_time(
        Attempt.objects.filter(Q(activity__lesson=now) | Q(activity__lesson=then), successor=None)
    ),
    UUID,
    UUID,
)


def lesson_rows(now: UUID, then: UUID | None) -> list[Row]:
    """What counts in one lesson or two, those taken back with it; oldest first. One query."""
    return [_row(cells) for cells in _OF_LESSONS.rows(now, then or now)]


#: Differences of repeat tests by key, for typical errors.
Differences = dict[Key, list[int]]


def _repeats(tests: Q, school_id: UUID, before: date, since: date) -> QuerySet[Any, Any]:
    """Measured scores in time with the days of the neighbours under the same key."""
    same = [
        F(name)
        for name in (
            "pupil_id",
            "protocol__test_id",
            "variant",
            "seconds",
            "protocol__meaning",
            "conditions",
        )
    ]
    order = [F("on").asc(), F("recorded_at").asc()]
    return (
        Attempt.objects.filter(
            tests,
            successor=None,
            school_id=school_id,
            value__isnull=False,
            estimate=False,
            on__lt=before,
            on__gte=since,
        )
        .annotate(seconds=worked_seconds())
        .annotate(
            before_it=Window(Lag("on"), partition_by=same, order_by=order),
            after_it=Window(Lead("on"), partition_by=same, order_by=order),
        )
        .order_by("pupil_id", "on", "recorded_at")
        .values_list(
            "pupil_id",
            "protocol__test_id",
            "protocol__test__slug",
            "variant",
            "seconds",
            "protocol__meaning",
            "conditions",
            "protocol__kind",
            "protocol__better",
            "on",
            "value",
            "before_it",
            "after_it",
        )
    )


_REPEATS_OF_ONE = Compiled(
    lambda test_id, *rest: _repeats(Q(protocol__test=test_id), *rest), UUID, UUID, date, date
)


def repeat_differences(school_id: UUID, test_ids: Iterable[UUID], before: date) -> Differences:
    """Differences of repeat tests in the whole school before a day, at most a minute old: while a
    class is entered, every save asks for them and nothing of them changes. One query, or none."""
    names = {test: f"repeats:{school_id}:{test}:{before}" for test in test_ids}
    kept: dict[str, Differences] = cache.get_many(names.values())
    missing = [test for test, name in names.items() if name not in kept]
    if missing:
        since = before - PAIRS_SINCE
        if len(missing) == 1:
            by_test = _differences(_REPEATS_OF_ONE.rows(missing[0], school_id, before, since))
        else:
            among = Q(protocol__test__in=missing)
            by_test = _differences(_repeats(among, school_id, before, since))
        fresh = {names[test]: by_test.get(test, {}) for test in missing}
        cache.set_many(fresh, 60)
        kept |= fresh
    found: Differences = {}
    for differences in kept.values():
        found |= differences
    return found


def _differences(pairs: Iterable[tuple[Any, ...]]) -> dict[UUID, Differences]:
    """By test. Only rows with a neighbour of the same child and key within the window count; of
    several tries on a day the best one."""
    series: dict[tuple[UUID, Key], dict[date, int]] = defaultdict(dict)
    keys: dict[tuple[Any, ...], Key] = {}
    tests: dict[Key, UUID] = {}
    for (
        pupil,
        test,
        slug,
        variant,
        seconds,
        meaning,
        own,
        kind,
        better,
        on,
        value,
        earlier,
        later,
    ) in pairs:
        near = (earlier and on - earlier <= PAIR_WINDOW) or (later and later - on <= PAIR_WINDOW)
        if not near:
            continue
        parts = (slug, variant, seconds, meaning, str(own))
        key = keys.get(parts)
        if key is None:
            held = key_conditions(kind, Compiled.json(own))
            key = keys[parts] = Key(slug, variant, seconds, meaning, held)
            tests[key] = test
        days = series[pupil, key]
        best = max if better == Better.UP else min
        days[on] = value if on not in days else best(value, days[on])
    grouped: dict[Key, list[list[tuple[date, int]]]] = defaultdict(list)
    for (_, key), days in series.items():
        grouped[key].append(sorted(days.items()))
    by_test: dict[UUID, Differences] = defaultdict(dict)
    for key, found in grouped.items():
        by_test[tests[key]][key] = pair_differences(found)
    return dict(by_test)
