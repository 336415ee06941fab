"""What a class might be tested in next: what is due, who is missing, and for whom another form
fits."""

from __future__ import annotations

from datetime import date
from typing import Any
from uuid import UUID

from lauf.lessons.queries import calendar_of
from lauf.people.models import Staff
from lauf.people.queries import class_of
from lauf.progress.board import class_board
from lauf.progress.stories import stories_of
from lauf.rules.judging.change import Verdict
from lauf.rules.planning.school_days import is_due_again


def next_up(staff: Staff, class_id: UUID, today: date) -> dict[str, Any]:
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
        harder, easier = [], []
        for one in pupils:
            place = stories.latest(one, test_id)
            if place is None:
                continue
            said = stories.said(one, stories.of(one, test_id), place)
            codes = list(said.judge.variants)
            at = codes.index(said.row.variant) if said.row.variant in codes else -1
            at_end = said.change.verdict in (Verdict.AT_THE_TOP, Verdict.REACHED_THE_TOP)
            top_rung = said.rungs > 1 and said.rung == said.rungs - 1
            if 0 <= at < len(codes) - 1 and (at_end or top_rung):
                form = said.judge.variants[codes[at + 1]].name
                why = "at the test's end" if at_end else f"at {said.rung_name}"
                harder.append({"pupil_id": one.id, "name": one.name, "form": form, "why": why})
            if at > 0 and said.rungs > 1 and not said.rung:
                form = said.judge.variants[codes[at - 1]].name
                easier.append(
                    {"pupil_id": one.id, "name": one.name, "form": form,
                     "why": "at the first rung or below"}
                )  # fmt: skip
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
                "harder": harder,
                "easier": easier,
                "try_instead": "" if place_now is None
                else board["tests"][place_now]["try_instead"],
            }
        )  # fmt: skip
    rows.sort(key=lambda row: (not row["due"], row["last"], row["test"]))
    return {"class_id": group.id, "class_name": group.name, "tests": rows}
