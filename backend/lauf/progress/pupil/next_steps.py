"""What a class might be tested in next: what is due, who is missing, and for whom another form
fits."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from lauf.judgement.statements import Statement
from lauf.lessons.queries import calendar_of
from lauf.people.models import Pupil, Staff
from lauf.people.queries import class_of
from lauf.progress.board import class_board
from lauf.progress.histories import histories_of
from lauf.rules.judging.forms import FormStep, Standing, easier_form, harder_form
from lauf.rules.planning.school_days import is_due_again


@dataclass(frozen=True, slots=True)
class FormFor:
    """A child for whom another form of a test fits, by its name, and why."""

    pupil_id: UUID
    name: str
    form: str
    why: str


@dataclass(frozen=True, slots=True)
class NextTest:
    """A test that most of a class has done: when it was last, and what is next in it."""

    test_id: UUID
    test: str
    last: date
    due: bool
    missing: int
    harder: list[FormFor]
    easier: list[FormFor]
    try_instead: str


@dataclass(frozen=True, slots=True)
class NextSteps:
    """What a class might be tested in next, what is due first."""

    class_id: UUID
    class_name: str
    tests: list[NextTest]


def next_steps(staff: Staff, class_id: UUID, today: date) -> NextSteps:
    """Each test that at least half of a class has done: when it was last, whether it is due, who
    has none in these weeks, and for whom a harder or an easier form fits, with why. Without any
    body measurement. As many queries as `class_board`, and nine. Raises NotFound."""
    group = class_of(staff, class_id)
    pupils = list(group.pupils.all())
    histories = histories_of(staff, pupils, today, group.id)
    terms = calendar_of(group.school).terms
    board = class_board(staff, class_id, today)
    this_term = {one["test_id"]: place for place, one in enumerate(board["tests"])}
    rows = []
    for test_id, protocol in histories.protocols.items():
        days = [
            histories.of(one, test_id)[place].on
            for one in pupils
            if (place := histories.latest(one, test_id)) is not None
        ]
        if 2 * len(days) < len(pupils):
            continue
        latest = [
            (one, histories.statement(one, histories.of(one, test_id), place))
            for one in pupils
            if (place := histories.latest(one, test_id)) is not None
        ]
        last = max(days)
        place_now = this_term.get(test_id)
        now = None if place_now is None else board["tests"][place_now]
        rows.append(
            NextTest(
                test_id=test_id,
                test=protocol.test.name,
                last=last,
                due=is_due_again(last, today, terms),
                missing=now["missing"] if now else len(pupils),
                harder=_moving(latest, harder_form),
                easier=_moving(latest, easier_form),
                try_instead=now["try_instead"] if now else "",
            )
        )
    rows.sort(key=lambda row: (not row.due, row.last, row.test))
    return NextSteps(group.id, group.name, rows)


def _moving(
    latest: Sequence[tuple[Pupil, Statement]],
    step: Callable[[Sequence[str], Standing], FormStep | None],
) -> list[FormFor]:
    """The children for whom another form fits, with its name and why."""
    found = []
    for pupil, statement in latest:
        forms = statement.judge.variants
        now = Standing(
            statement.row.variant,
            statement.change.verdict,
            statement.rung,
            statement.rungs,
            statement.rung_name,
        )
        if other := step(list(forms), now):
            found.append(FormFor(pupil.id, pupil.name, forms[other.form].name, other.why))
    return found
