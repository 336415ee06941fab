"""From stored rows to scores: counting → calibrated → merged → those that are asked about set
aside. What every page, ledger and file begins with."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from uuid import UUID

from django.db.models import Q

from lauf.records.models import WITHDRAWN, Calibration
from lauf.records.queries.attempts import Row
from lauf.rules.judging.tries import Merge, Try, merge_tries
from lauf.rules.reading.quantities import Better
from lauf.rules.reading.rounding import whole


def scores(found: Iterable[Row], school_id: UUID) -> list[Row]:
    """One row a child and activity, in the order of the rows: those taken back left out, lengths in
    hands and steps measured, several tries made into one as their protocol version says, and no
    value in those of which something is asked. One query where there is such a length, or none."""
    counted = [row for row in found if row.reason != WITHDRAWN]
    groups: dict[tuple[UUID, UUID], list[Row]] = defaultdict(list)
    for row in _calibrated(counted, school_id):
        groups[row.pupil_id, row.activity_id].append(row)
    return [
        _set_aside(group[0] if len(group) == 1 else _merged(group)) for group in groups.values()
    ]


def _set_aside(row: Row) -> Row:
    """Without its value where something is asked about it or one of its tries."""
    tries = tuple(one.put(is_open=True) if one.is_open else one for one in row.tries)
    asked = row.is_open or any(one.is_open for one in tries)
    return row._replace(tries=tries).put(is_open=True) if asked else row


def by_pupil(rows: Iterable[Row]) -> dict[UUID, list[Row]]:
    """The rows of each child, in their order."""
    grouped: dict[UUID, list[Row]] = defaultdict(list)
    for row in rows:
        grouped[row.pupil_id].append(row)
    return grouped


def by_test(rows: Iterable[Row]) -> dict[UUID, list[Row]]:
    """The rows of each test, in their order."""
    grouped: dict[UUID, list[Row]] = defaultdict(list)
    for row in rows:
        grouped[row.test_id].append(row)
    return grouped


def _merged(group: list[Row]) -> Row:
    """A child with nothing measured keeps its last row."""
    tries = tuple(sorted(group, key=lambda row: row.try_number))
    last = tries[-1]
    # The best of several is the best under one key: the variant tried last.
    same = [row if row.variant == last.variant else row._replace(value=None) for row in tries]
    score = merge_tries(
        [Try(row.value, row.estimate) for row in same],
        Merge(last.how),
        Better(last.better),
        last.step,
    )
    if score is None:
        return last._replace(tries=tries)
    decided = tries[score.index] if score.index is not None else last
    return decided._replace(
        value=score.value,
        reason=None,
        estimate=score.estimate,
        variant=last.variant,
        tries=tries,
    )


def _calibrated(found: list[Row], school_id: UUID) -> list[Row]:
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
        return row._replace(value=whole(row.parts["informal"] / 1000 * length))

    return [value(row) for row in found]
