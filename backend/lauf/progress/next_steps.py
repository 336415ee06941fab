"""What a class might be tested in next: what is due, who is missing, and for whom another form
fits."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import date
from typing import Any
from uuid import UUID

from lauf.judgement.said import Said
from lauf.lessons.queries import calendar_of
from lauf.people.models import Pupil, Staff
from lauf.people.queries import class_of
from lauf.progress.board import class_board
from lauf.progress.stories import stories_of
from lauf.rules.judging.forms import FormStep, Standing, easier_form, harder_form
from lauf.rules.planning.school_days import is_due_again


def next_steps(staff: Staff, class_id: UUID, today: date) -> dict[str, Any]:
    """Each test that at least half of a class has done: when it was last, whether it is due, who
    has none in these weeks, and for whom a harder or an easier form fits, with why. Without any
    body measurement. As many queries as `class_board`, and nine. Raises NotFound."""
    group = class_of(staff, class_id)
    pupils = list(group.pupils.all())
    stories = stories_of(staff, pupils, today, group.id)
    terms = calendar_of(group.school).terms
    board = class_board(staff, class_id, today)
    this_term = {one["test_id"]: place for place, one in enumerate(board["tests"])}
    rows = []
    for test_id, protocol in stories.protocols.items():
        days = [
            stories.of(one, test_id)[place].on
            for one in pupils
            if (place := stories.latest(one, test_id)) is not None
        ]
        if 2 * len(days) < len(pupils):
            continue
        latest = [
            (one, stories.said(one, stories.of(one, test_id), place))
            for one in pupils
            if (place := stories.latest(one, test_id)) is not None
        ]
        last = max(days)
        place_now = this_term.get(test_id)
        rows.append(
            {
                "test_id": test_id,
                "test": protocol.test.name,
                "last": last,
                "due": is_due_again(last, today, terms),
                "missing": len(pupils) if place_now is None
                else board["tests"][place_now]["missing"],
                "harder": _moving(latest, harder_form),
                "easier": _moving(latest, easier_form),
                "try_instead": "" if place_now is None
                else board["tests"][place_now]["try_instead"],
            }
        )  # fmt: skip
    rows.sort(key=lambda row: (not row["due"], row["last"], row["test"]))
    return {"class_id": group.id, "class_name": group.name, "tests": rows}


def _moving(
    latest: Sequence[tuple[Pupil, Said]],
    step: Callable[[Sequence[str], Standing], FormStep | None],
) -> list[dict[str, Any]]:
    """The children for whom another form fits, with its name and why."""
    found = []
    for pupil, said in latest:
        forms = said.judge.variants
        now = Standing(said.row.variant, said.change.verdict, said.rung, said.rungs, said.rung_name)
        if other := step(list(forms), now):
            form = forms[other.form].name
            found.append({"pupil_id": pupil.id, "name": pupil.name, "form": form,
                          "why": other.why})  # fmt: skip
    return found
