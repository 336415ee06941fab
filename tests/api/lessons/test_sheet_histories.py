"""Whatever is typed, undone, sent twice or sent by two devices: what the screen says is what
the database holds, entry by entry, and nothing that was kept is gone."""

from __future__ import annotations

from typing import Any

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import (
    RuleBasedStateMachine,
    initialize,
    invariant,
    precondition,
    rule,
    run_state_machine_as_test,
)

from lauf.records.models import Attempt
from tests.api.conftest import MANY, World

#: What may be typed, and how it is shown once it is kept; None is refused.
TYPED = {
    "1": "1", "18": "18", "60": "60", "22~": "22", "a": "absent", "x": "sat out", "v": "void",
    "61": None, "4o": None, "-3": None, "": None,
}  # fmt: skip
CELLS = st.tuples(st.integers(0, 2), st.integers(1, 2))
Cell = tuple[int, int]
#: An entry as it stands: its id, what was typed, under which form.
Entry = tuple[str, str, str]


class AnySheet(RuleBasedStateMachine):
    """A few children with two goes each; what each device believes, and what is true."""

    world: World

    @initialize()
    def begin(self) -> None:
        self.activity = self.world.lesson_on(0)
        self.path = f"/api/activities/{self.activity.id}/attempts"
        self.heads: dict[Cell, str | None] = {}
        self.stands: dict[Cell, Entry | None] = {}
        #: What the second device believes of heads: as they were when it looked last.
        self.other: dict[Cell, str | None] = {}
        #: What can be undone, newest last: where, what was written, and what stood before.
        self.undo: list[tuple[Cell, str, Entry | None]] = []
        self.sent: list[dict[str, Any]] = []

    def send(self, cell: Cell, typed: str, head: str | None, **more: Any) -> tuple[Any, str]:
        child, slot = cell
        body = self.world.body(
            self.world.pupils[child], typed, try_number=slot, succeeds=head, **more
        )
        answer = self.world.teacher.ask("POST", self.path, body)
        if answer.status_code == 200:
            self.sent.append(body)
        return answer, body["id"]

    @rule(cell=CELLS, typed=st.sampled_from(sorted(TYPED)), form=st.sampled_from(["knees", "full"]))
    def type_in(self, cell: Cell, typed: str, form: str) -> None:
        answer, made = self.send(cell, typed, self.heads.get(cell), variant=form)
        if TYPED[typed] is None:
            assert answer.status_code == 422 and answer.json()["message"]
            return
        assert answer.status_code == 200, answer.content
        self.undo.append((cell, made, self.stands.get(cell)))
        self.heads[cell], self.stands[cell] = made, (made, typed, form)

    @precondition(lambda self: self.undo)
    @rule()
    def take_back(self) -> None:
        """Exactly the last thing kept; refused where somebody else has entered it since."""
        cell, wrote, before = self.undo.pop()
        if self.heads[cell] != wrote:
            return  # the page says so and sends nothing
        more = {"restores": before[0]} if before else {"withdrawn": True}
        answer, made = self.send(cell, "", wrote, why="undone", **more)
        assert answer.status_code == 200, answer.content
        self.heads[cell] = made
        self.stands[cell] = (made, before[1], before[2]) if before else None
        # Earlier steps at this place wrote what stands again now.
        self.undo = [
            (where, made if before and written == before[0] else written, stood)
            for where, written, stood in self.undo
        ]

    @rule()
    def the_other_device_looks(self) -> None:
        self.other = dict(self.heads)

    @rule(cell=CELLS)
    def the_other_device_types(self, cell: Cell) -> None:
        """With what it knew; where that is old, it is told and nothing is kept."""
        answer, made = self.send(cell, "33", self.other.get(cell), variant="full")
        if self.other.get(cell) == self.heads.get(cell):
            assert answer.status_code == 200
            self.heads[cell], self.stands[cell] = made, (made, "33", "full")
            self.other[cell] = made
        else:
            assert answer.status_code == 409
            assert answer.json()["current"]["id"] == self.heads[cell]

    @precondition(lambda self: self.sent)
    @rule(pick=st.randoms(use_true_random=False))
    def an_answer_is_lost_and_it_is_sent_again(self, pick: Any) -> None:
        """After a dead network, a reload or a restarted server: the same entry, at any time."""
        before = Attempt.objects.filter(activity=self.activity).count()
        answer = self.world.teacher.ask("POST", self.path, pick.choice(self.sent))
        assert answer.status_code == 200
        assert Attempt.objects.filter(activity=self.activity).count() == before

    @invariant()
    def the_screen_says_what_is_kept(self) -> None:
        board = self.world.teacher.ask("GET", f"/api/activities/{self.activity.id}/lanes").json()[
            "children"
        ]
        shown = {
            (child, one["number"]): one["score"] and (one["score"]["id"], one["score"]["typed"],
                                                      one["score"]["variant"])
            for child in range(3)
            for one in board[child]["tries"]
        }  # fmt: skip
        for cell, entry in self.stands.items():
            assert shown.get(cell) == entry, cell
        heads = {(c, one["number"]): one["head"] for c in range(3) for one in board[c]["tries"]}
        for cell, head in self.heads.items():
            assert heads.get(cell) == head or self.stands.get(cell) is None
        # Append-only: every acknowledged entry is there once.
        assert Attempt.objects.filter(activity=self.activity).count() == len(
            {body["id"] for body in self.sent}
        )


def test_any_series_of_entries_leaves_what_the_screen_says(world: World) -> None:
    class Here(AnySheet):
        pass

    Here.world = world
    run_state_machine_as_test(
        Here,
        settings=settings(MANY, max_examples=9, stateful_step_count=24),
    )
