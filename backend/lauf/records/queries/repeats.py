"""Repeat tests of a whole school: what they say of day-to-day variation.

Reading all of them takes as long as a school is old, and hardly any of them change: what they added
up to before a day is kept (`RepeatSummary`), and the next day goes on from there.
"""

from __future__ import annotations

import json
from collections import defaultdict
from collections.abc import Iterable
from datetime import date, timedelta
from typing import Any, Final, TypedDict
from uuid import UUID

from django.db import transaction
from django.db.models import QuerySet

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import key_conditions
from lauf.compiled import Compiled
from lauf.records.locks import no_score_is_being_kept
from lauf.records.models import Attempt, RepeatSummary
from lauf.records.queries.attempts import is_open, worked_seconds
from lauf.rules.judging.change import PAIR_WINDOW, Dated, PairSum, Start, couple_up, pair_up
from lauf.rules.judging.comparability import Key
from lauf.rules.reading.quantities import Better, Kind, Measure

#: Repeat tests older than this say little about how steady today's children are (our choice).
MONTHS: Final = 36

#: Sums of repeat tests by key.
Repeats = dict[Key, PairSum]

_KEPT = Compiled(
    lambda tests, before: (
        RepeatSummary.objects.filter(test__in=tests, before__lte=before)
        .order_by("test_id", "-before")
        .distinct("test_id")
        .values_list("test_id", "before", "state")
    ),
    [UUID],
    date,
)


def _scores(test: UUID, since: date, before: date) -> QuerySet[Any, Any]:
    return (
        Attempt.objects.filter(
            ~is_open(),
            protocol__test=test,
            successor=None,
            value__isnull=False,
            estimate=False,
            on__gte=since,
            on__lt=before,
        )
        .annotate(seconds=worked_seconds())
        .order_by("on", "recorded_at")
        .values_list(
            "pupil_id", "variant", "seconds", "protocol__meaning", "conditions", "on", "value"
        )
    )


class TallyState(TypedDict, total=False):
    """A tally as it is kept.

    keys   variant, seconds, meaning, conditions as text
    sums   key by its place, month, pairs, Σd², log pairs, Σd² of logs
    open   key by its place, pupil, day, value
    """

    keys: list[tuple[str, int | None, int, str]]
    sums: list[tuple[int, str, int, float, int, float]]
    open: list[tuple[int, str, str, int]]


_SCORES = Compiled(_scores, UUID, date, date)
_NOTHING: Final[tuple[date, TallyState]] = (date(1990, 1, 1), TallyState())


def repeats_of(versions: Iterable[ProtocolVersion], before: date) -> Repeats:
    """What the repeat tests of these tests add up to before a day, in the whole school. One query,
    and four more a test for which scores of a day are added for the first time; none for none."""
    asked = list(versions)
    found: Repeats = {}
    kept = _kept([version.test_id for version in asked], before)
    for version in asked:
        until, state = kept.get(version.test_id, _NOTHING)
        tally = _Tally(version, state) if until >= before else _caught_up(version, before)
        found |= tally.repeats(before)
    return found


def _kept(tests: list[UUID], before: date) -> dict[UUID, tuple[date, TallyState]]:
    """The newest summary of each test up to a day."""
    rows = _KEPT.rows(tests, before)
    return {test: (until, Compiled.json(state)) for test, until, state in rows}


def _caught_up(version: ProtocolVersion, before: date) -> _Tally:
    """The tally of the newest summary with the scores since; kept, unless a score is on its way
    that it does not hold."""
    with transaction.atomic():
        keep = no_score_is_being_kept(version.test_id)
        until, state = _kept([version.test_id], before).get(version.test_id, _NOTHING)
        tally = _Tally(version, state)
        tally.add(_SCORES.rows(version.test_id, until, before))
        tally.close(before)
        if keep:
            RepeatSummary.objects.bulk_create(
                [RepeatSummary(test_id=version.test_id, before=before, state=tally.state())],
                ignore_conflicts=True,
            )
    return tally


class _Tally:
    """Sums by key and month, and the attempts that may still be the first of a pair."""

    def __init__(self, version: ProtocolVersion, state: TallyState) -> None:
        self._version = version
        self._better = Better(version.better)
        self._measure = Measure(
            Kind(version.kind), self._better, resolution=version.resolution, cap=version.cap,
            of=version.of, lowest=version.lowest,
        )  # fmt: skip
        self._start = Start(version.default_typical_error, version.error_share, self._measure)
        # JSON has no tuples.
        self._keys = [(key[0], key[1], key[2], key[3]) for key in state.get("keys", ())]
        self._place = {key: place for place, key in enumerate(self._keys)}
        self._sums: dict[tuple[int, str], PairSum] = defaultdict(PairSum)
        for place, month, pairs, squares, log_pairs, log_squares in state.get("sums", ()):
            self._sums[place, month] = PairSum(pairs, squares, log_pairs, log_squares)
        self._totals: dict[int, PairSum] = defaultdict(PairSum)
        for (place, _), one in self._sums.items():
            self._totals[place] += one
        self._open: dict[tuple[int, str], Dated] = {
            (place, pupil): (date.fromisoformat(day), value)
            for place, pupil, day, value in state.get("open", ())
        }

    def add(self, rows: Iterable[tuple[Any, ...]]) -> None:
        """More scores, in order of time; of several of a child on a day the best counts."""
        days: dict[tuple[int, str], dict[date, int]] = defaultdict(dict)
        best = max if self._better is Better.UP else min
        for pupil, variant, seconds, meaning, conditions, on, value in rows:
            key = (variant, seconds, meaning, _plain(conditions))
            if key not in self._place:
                self._place[key] = len(self._keys)
                self._keys.append(key)
            mine = days[self._place[key], str(pupil)]
            mine[on] = value if on not in mine else best(value, mine[on])
        pairs: list[tuple[date, int, str, int, int]] = []
        for who, mine in days.items():
            series = sorted(mine.items())
            if who in self._open:
                series.insert(0, self._open.pop(who))
            for day, earlier, value in pair_up(series, self._measure):
                pairs.append((day, *who, earlier, value))
            if (last := couple_up(series)[1]) is not None:
                self._open[who] = last
        # What a pair counts for goes by those before it: the same order, however many days at once.
        for day, place, _, earlier, value in sorted(pairs):
            one = self._start.pair(earlier, value, self._totals[place])
            self._totals[place] += one
            self._sums[place, f"{day:%Y-%m}"] += one

    def close(self, before: date) -> None:
        """Forget attempts too old to be the first of a pair."""
        since = before - PAIR_WINDOW
        self._open = {who: one for who, one in self._open.items() if one[0] >= since}

    def state(self) -> TallyState:
        return {
            "keys": list(self._keys),
            "sums": [
                (place, month, one.pairs, one.squares, one.log_pairs, one.log_squares)
                for (place, month), one in self._sums.items()
            ],
            "open": [
                (place, pupil, day.isoformat(), value)
                for (place, pupil), (day, value) in self._open.items()
            ],
        }

    def repeats(self, before: date) -> Repeats:
        since = f"{before - timedelta(days=MONTHS * 30.4375):%Y-%m}"
        found: Repeats = {}
        for (place, month), one in self._sums.items():
            if month < since:
                continue
            variant, seconds, meaning, conditions = self._keys[place]
            held = key_conditions(self._version.kind, json.loads(conditions))
            key = Key(self._version.test.slug, variant, seconds, meaning, held)
            found[key] = found.get(key, PairSum()) + one
        return found


def _plain(conditions: Any) -> str:
    """A JSON column, read by a model or not, as one text for equal conditions."""
    return json.dumps(Compiled.json(conditions), sort_keys=True)
