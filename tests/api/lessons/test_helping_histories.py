"""A teacher and two helpers over the same children, in whatever order, with entries that come late,
twice or to a lesson that is not open just now: nothing acknowledged is lost or doubled, nobody's
count takes another's place, and every difference is asked about until the teacher says which."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final

from django.db import transaction
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

from lauf.records.models import WITHDRAWN, Attempt, Recount
from tests.api.asking import get
from tests.api.conftest import MANY, Person, World, a_client

TEACHER: Final = "teacher"
HELPERS: Final = ("Kim", "Alex")
HELPER = st.sampled_from(HELPERS)
CHILDREN: Final = 2
CHILD = st.integers(0, CHILDREN - 1)
COUNTS = st.sampled_from(["20", "21", "22"])


@dataclass(frozen=True)
class Count:
    """What somebody counted; `beside` is the score that stood there then."""

    id: str
    by: str
    typed: str
    beside: str = ""


class AnyHelp(RuleBasedStateMachine):
    world: World

    @initialize()
    def begin(self) -> None:
        self.undone = transaction.atomic()
        self.undone.__enter__()
        self.lesson = f"/api/lessons/{self.world.activity.lesson_id}"
        self.code = self.open()["code"]
        self.helpers = {name: self.come(name) for name in HELPERS}
        self.is_open = True
        #: By child, the score that counts; by child and helper, what was counted beside it.
        self.scores: dict[int, Count] = {}
        self.counts: dict[tuple[int, str], Count] = {}
        self.settled: set[str] = set()
        self.acknowledged: set[str] = set()
        self.sent: list[tuple[str, dict[str, Any]]] = []
        #: What waits on a helper's phone, oldest first.
        self.waiting: list[tuple[str, int, dict[str, Any]]] = []

    def teardown(self) -> None:
        transaction.set_rollback(True)
        self.undone.__exit__(None, None, None)

    def open(self) -> Any:
        return self.world.teacher.ask("POST", f"{self.lesson}/helpers").json()

    def come(self, name: str) -> Person:
        person = Person(None, a_client())
        body = {"code": self.code, "name": name}
        assert person.ask("POST", "/api/help", body).status_code == 200
        return person

    def body(self, child: int, typed: str, **more: Any) -> dict[str, Any]:
        return self.world.body(self.world.pupils[child], typed, **more)

    # What they do

    @rule(name=HELPER, child=CHILD, typed=COUNTS)
    def helper_counts(self, name: str, child: int, typed: str) -> None:
        self.waiting.append((name, child, self.body(child, typed)))

    @rule(name=HELPER, child=CHILD)
    def helper_takes_back(self, name: str, child: int) -> None:
        self.waiting.append((name, child, self.body(child, "", withdrawn=True)))

    @precondition(lambda self: self.waiting)
    @rule()
    def network_is_back(self) -> None:
        """All that waits is sent, in order; it stays where the lesson is not open."""
        rest = []
        for name, child, body in self.waiting:
            if self.post(name, body) == 200:
                self.hear(name, child, body)
            else:
                rest.append((name, child, body))
        assert bool(rest) is not self.is_open
        self.waiting = rest

    @precondition(lambda self: self.sent and self.is_open)
    @rule(which=st.integers(0, 30))
    def an_answer_was_lost(self, which: int) -> None:
        """What was acknowledged comes once more."""
        name, body = self.sent[which % len(self.sent)]
        assert self.post(name, body) == 200

    @rule(child=CHILD, typed=COUNTS)
    def teacher_enters(self, child: int, typed: str) -> None:
        there = self.scores.get(child)
        body = self.body(child, typed, succeeds=there.id if there else None)
        assert self.post(TEACHER, body) == 200
        self.acknowledged.add(body["id"])
        self.scores[child] = Count(body["id"], TEACHER, typed)

    @precondition(lambda self: self.scores)
    @rule()
    def teacher_takes_back(self) -> None:
        child, there = next(iter(self.scores.items()))
        body = self.body(child, "", succeeds=there.id, withdrawn=True)
        assert self.post(TEACHER, body) == 200
        self.acknowledged.add(body["id"])
        self.is_taken_back(child, TEACHER)

    def is_taken_back(self, child: int, name: str) -> None:
        """What another helper has counted of it, the newest, is the score then."""
        self.scores.pop(child, None)
        others = [
            one for (at, by), one in self.counts.items() if at == child and by != name
        ]  # fmt: skip
        if others:
            head = Attempt.objects.get(
                activity=self.world.activity, pupil=self.world.pupils[child], successor=None
            )
            self.acknowledged.add(str(head.id))
            self.scores[child] = Count(str(head.id), others[-1].by, others[-1].typed)
            del self.counts[child, others[-1].by]

    @precondition(lambda self: self.scores)
    @rule(typed=COUNTS)
    def teacher_has_not_heard_of_a_score(self, typed: str) -> None:
        """Both are shown, and neither takes the other's place by itself."""
        child, there = next(iter(self.scores.items()))
        answer = self.ask(TEACHER, self.body(child, typed))
        assert answer.status_code == 409
        current = answer.json()["current"]
        assert (current["id"], current["typed"]) == (there.id, there.typed)
        assert current["by"] in (there.by, "Teacher")

    @precondition(lambda self: self.scores)
    @rule()
    def teacher_says_that_it_stands(self) -> None:
        there = next(iter(self.scores.values()))
        path = f"/api/attempts/{there.id}/confirm"
        asked = {"flag": "two_counts"}
        assert self.world.teacher.ask("POST", path, asked).status_code == 200
        if self.differing(there):
            self.settled.add(there.id)

    @rule()
    def closes_or_opens(self) -> None:
        if self.is_open:
            assert self.world.teacher.ask("DELETE", f"{self.lesson}/helpers").status_code == 200
        else:
            self.code = self.open()["code"]
        self.is_open = not self.is_open

    # What becomes of it

    def ask(self, name: str, body: dict[str, Any]) -> Any:
        activity = self.world.activity.id
        if name == TEACHER:
            return self.world.teacher.ask("POST", f"/api/activities/{activity}/attempts", body)
        sent = {key: held for key, held in body.items() if key != "wave"}
        return self.helpers[name].ask("POST", f"/api/help/activities/{activity}/attempts", sent)

    def post(self, name: str, body: dict[str, Any]) -> int:
        return int(self.ask(name, body).status_code)

    def hear(self, name: str, child: int, body: dict[str, Any]) -> None:
        """The model of an acknowledged entry of a helper."""
        self.acknowledged.add(body["id"])
        self.sent.append((name, body))
        there = self.scores.get(child)
        is_gone = body.get("withdrawn", False)
        if (there is None or there.by == name) and is_gone:
            self.is_taken_back(child, name)
        elif there is None or there.by == name:
            self.scores[child] = Count(body["id"], name, body["typed"])
            self.counts.pop((child, name), None)
        elif is_gone:
            self.counts.pop((child, name), None)
        else:
            self.counts.pop((child, name), None)  # the newest stands last
            self.counts[child, name] = Count(body["id"], name, body["typed"], there.id)

    def differing(self, there: Count) -> list[Count]:
        child = next(child for child, one in self.scores.items() if one == there)
        return [
            one
            for (at, name), one in self.counts.items()
            if at == child
            and name != there.by
            and (there.by != TEACHER or one.beside == there.id)
            and one.typed != there.typed
        ]

    # What is so at all times

    @invariant()
    def nothing_is_lost_or_doubled(self) -> None:
        kept = [str(one) for one in Attempt.objects.filter(
            activity=self.world.activity).values_list("id", flat=True)]  # fmt: skip
        kept += [str(one) for one in Recount.objects.values_list("id", flat=True)]
        assert sorted(kept) == sorted(self.acknowledged)

    @invariant()
    def the_teacher_sees_each_score_and_each_difference(self) -> None:
        rows = get(self.world.teacher, f"/api/activities/{self.world.activity.id}/lanes")
        by_id = {row["pupil_id"]: row for row in rows["children"]}
        for child in range(CHILDREN):
            row = by_id[str(self.world.pupils[child].id)]
            there = self.scores.get(child)
            assert (row["score"] or {}).get("typed") == (there.typed if there else None)
            open_now = [
                one["words"] for one in row["flags"]
                if one["code"] == "two_counts" and not one["settled"]
            ]  # fmt: skip
            if there is None:
                assert open_now == []
                continue
            others = self.differing(there) if there.id not in self.settled else []
            assert bool(open_now) is bool(others), (open_now, others)
            for one in others:
                assert f"{one.by}: {one.typed}" in open_now[0]

    @invariant()
    def a_helper_sees_the_own_count_and_no_other(self) -> None:
        if not self.is_open:
            return
        for name, person in self.helpers.items():
            (test,) = get(person, "/api/help")["tests"]
            found = {one["pupil_id"]: one for one in test["entries"]}
            for child in range(CHILDREN):
                there = self.scores.get(child)
                mine = there if there and there.by == name else self.counts.get((child, name))
                row = found.get(str(self.world.pupils[child].id))
                if there is None:
                    assert row is None
                else:
                    assert row is not None
                    assert row["typed"] == (mine.typed if mine else "")

    @invariant()
    def no_score_of_nobody_counts(self) -> None:
        heads = Attempt.objects.filter(activity=self.world.activity, successor=None)
        assert heads.exclude(reason=WITHDRAWN).count() == len(self.scores)


def test_whatever_helpers_and_teacher_do_every_count_is_kept_once(world: World) -> None:
    class Here(AnyHelp):
        pass

    Here.world = world
    run_state_machine_as_test(  # type: ignore[no-untyped-call]
        Here, settings=settings(MANY, max_examples=25, stateful_step_count=20)
    )
