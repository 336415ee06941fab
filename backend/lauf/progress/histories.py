"""The scores of some children in every test, oldest first, ready to be judged: what the class
board, a child's page and every handout are made from."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import for_everybody, seen
from lauf.compiled import Compiled, CompiledModel
from lauf.judgement.judge import Judge
from lauf.judgement.judges import Judges, judges_for
from lauf.judgement.rows import scores
from lauf.judgement.statements import Statement
from lauf.judgement.subject import Subject
from lauf.lessons.models import Activity
from lauf.people.models import Pupil, Staff
from lauf.records.queries import Row, class_rows, counting, rows


@dataclass(frozen=True, slots=True)
class Histories:
    """Scores by child and test, and what judges them.

    protocols   the newest version of each test that there is a score in, in order of their names
    """

    protocols: dict[UUID, ProtocolVersion]
    _judges: Judges
    _years: dict[UUID, UUID]
    _rows: dict[tuple[UUID, UUID], list[Row]]

    def of(self, pupil: Pupil, test_id: UUID) -> list[Row]:
        """A child's scores in a test, oldest first."""
        return self._rows.get((pupil.id, test_id), [])

    def judge(self, pupil: Pupil, row: Row) -> Judge:
        """By the year group the score was made in."""
        year = self._years.get(row.activity_id, pupil.last_class.year_group_id)
        return self._judges.of(row.test_id, year)

    def statement(self, pupil: Pupil, mine: Sequence[Row], place: int) -> Statement:
        """What is said of one of a child's scores in a test beside those before it."""
        row = mine[place]
        return Statement(self.judge(pupil, row), row, mine[:place], Subject(pupil.sex, pupil.born))

    def latest(self, pupil: Pupil, test_id: UUID, since: date | None = None) -> int | None:
        """The place of the latest measured score (since a day), None without one."""
        mine = self.of(pupil, test_id)
        for place in range(len(mine) - 1, -1, -1):
            if since is not None and mine[place].on < since:
                return None
            if mine[place].value is not None:
                return place
        return None


def histories_of(
    staff: Staff, pupils: Collection[Pupil], until: date, class_id: UUID | None = None
) -> Histories:
    """What counts of these children up to a day, without any body measurement; `class_id` where
    they are a whole class. Six queries (eight for a class), one more where lengths were measured in
    hands or steps, and up to four a test on the first read of a day (`records.queries`)."""
    if class_id is not None:
        history = scores(class_rows(class_id, until), staff.school_id)
    else:
        ids = [one.id for one in pupils]
        asked = counting().filter(pupil__in=ids, on__lte=until)
        history = scores(rows(seen(for_everybody(staff), asked, "protocol__test")), staff.school_id)
    protocols = _newest({row.test_id for row in history})
    years = dict(_YEARS.rows({row.activity_id for row in history}))
    by_place: dict[tuple[UUID, UUID], list[Row]] = defaultdict(list)
    for row in history:
        by_place[row.pupil_id, row.test_id].append(row)
    judged = {*years.values(), *(one.last_class.year_group_id for one in pupils)}
    judges = judges_for(protocols, until + timedelta(days=1), judged)
    return Histories(protocols, judges, years, dict(by_place))


_YEARS = Compiled(
    lambda activities: Activity.objects.filter(pk__in=activities).values_list(
        "id", "lesson__year_group_id"
    ),
    [UUID],
)
_NEWEST = CompiledModel(
    ProtocolVersion,
    lambda tests: (
        ProtocolVersion.objects.filter(test__in=tests)
        .order_by("test_id", "-number")
        .distinct("test_id")
    ),
    [UUID],
    related=("test", "test__school"),
)


def _newest(test_ids: set[UUID]) -> dict[UUID, ProtocolVersion]:
    """The newest version of each test, in order of their names. One query."""
    versions = sorted(_NEWEST.all(test_ids), key=lambda one: one.test.name)
    return {one.test_id: one for one in versions}
