"""Whatever happens in a set (goes, corrections, what is undone, points, another mark, targets):
points and sheet are what a plain count of the goes says, and the ledger adds up."""

from __future__ import annotations

from datetime import timedelta
from typing import Any, Final

from django.utils import timezone
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

from lauf.challenges.models import Point
from lauf.lessons.models import Activity
from lauf.people.models import Pupil
from tests.api.challenges.test_sets import new_set
from tests.api.conftest import MANY, World

SLUGS: Final = ("star-jumps-30", "frog-jumps-30")
WORTH: Final = {"took_part": 1, "beat_own_best": 2, "beat_rival": 3}
#: What may be typed, its value, and whether it is a guess; None is a reason.
TYPED: Final[dict[str, tuple[int | None, bool]]] = {
    "12": (12, False), "20": (20, False), "21": (21, False), "30": (30, False), "25~": (25, True),
    "a": (None, False),
}  # fmt: skip
CHILD = st.integers(0, 1)
WHICH = st.integers(0, 1)


class Go:
    """One go of a child: where it was made, and the entry that counts."""

    def __init__(self, activity: Activity, slot: int, head: str, typed: str) -> None:
        self.activity, self.slot, self.head, self.typed = activity, slot, head, typed
        self.order = (activity.lesson.starts_at, slot)


class AnySet(RuleBasedStateMachine):
    """Two children, two challenges of one day against one rival."""

    world: World

    @initialize()
    def begin(self) -> None:
        # Children of its own: what another example's have scored today is no go of theirs.
        school_class = self.world.school_class
        self.pupils = [
            Pupil.objects.create(
                school=self.world.school, school_class=school_class, given_name=f"New {number}"
            )
            for number in range(2)
        ]
        week = new_set(self.world, SLUGS, points=WORTH)
        self.week = f"/api/weeks/{week['id']}"
        self.ids = [one["id"] for one in week["challenges"]]
        self.marks: list[int | None] = [None, None]
        self.lessons = [[self.world.lesson_on(0, slug)] for slug in SLUGS]
        self.goes: dict[tuple[int, int], list[Go]] = {}
        self.said: dict[int, str] = {}
        #: Points given: what stands of each rule of each child in each challenge.
        self.ledger: dict[tuple[int, int, str], int] = {}

    def ask(self, method: str, path: str, body: Any = None) -> Any:
        answer = self.world.teacher.ask(method, path, body)
        assert answer.status_code in (200, 201), answer.content
        return answer.json()

    def send(self, child: int, activity: Activity, slot: int, typed: str, **more: Any) -> str:
        body = self.world.body(
            self.pupils[child], typed, variant="", wave=None, try_number=slot, **more
        )
        self.ask("POST", f"/api/activities/{activity.id}/attempts", body)
        return str(body["id"])

    @rule(child=CHILD, which=WHICH, typed=st.sampled_from(sorted(TYPED)), anew=st.booleans())
    def go(self, child: int, which: int, typed: str, anew: bool) -> None:
        """In the lesson that is open, or in another one of the same day."""
        if anew and len(self.lessons[which]) < 3:
            made = self.world.lesson_on(0, SLUGS[which])
            made.lesson.starts_at += timedelta(seconds=len(self.lessons[which]))
            made.lesson.save()
            self.lessons[which].append(made)
        activity = self.lessons[which][-1]
        mine = self.goes.setdefault((child, which), [])
        slot = 1 + max((one.slot for one in mine if one.activity == activity), default=0)
        if slot > 4:
            return
        mine.append(Go(activity, slot, self.send(child, activity, slot, typed), typed))

    @precondition(lambda self: any(self.goes.values()))
    @rule(data=st.data(), typed=st.sampled_from(["", *sorted(TYPED)]))
    def correct(self, data: st.DataObject, typed: str) -> None:
        """Or take back, where nothing is typed."""
        key = data.draw(st.sampled_from(sorted(key for key, goes in self.goes.items() if goes)))
        one = data.draw(st.sampled_from(self.goes[key]))
        more = {} if typed else {"withdrawn": True}
        why = "looked again"
        one.head = self.send(
            key[0], one.activity, one.slot, typed, succeeds=one.head, why=why, **more
        )
        one.typed = typed

    @rule(which=WHICH, mark=st.sampled_from(["", "20", "25"]))
    def another_mark(self, which: int, mark: str) -> None:
        row = {
            "kind": "person", "name": "Brook",
            "marks": [{"challenge_id": self.ids[which], "typed": mark}],
        }  # fmt: skip
        self.ask("PUT", f"{self.week}/rival", row)
        self.marks[which] = int(mark) if mark else None

    @rule(which=st.none() | WHICH)
    def give(self, which: int | None) -> None:
        """For one challenge or all; a second press gives nothing."""
        path = self.week if which is None else f"/api/challenges/{self.ids[which]}"
        for _ in range(2):
            self.ask("POST", f"{path}/points")
        for child in (0, 1):
            for place in (0, 1) if which is None else (which,):
                for name in self.earned(child, place):
                    self.ledger.setdefault((child, place, name), WORTH[name])

    @precondition(lambda self: self.ledger)
    @rule(data=st.data())
    def reverse(self, data: st.DataObject) -> None:
        """Take back, or give again."""
        child, which, name = key = data.draw(st.sampled_from(sorted(self.ledger)))
        given = self.row(child, which)["given"]
        point = next(one for one in given if one["rule"] == name)
        self.ask("POST", f"/api/points/{point['id']}/reverse", {"why": "looked again"})
        self.ledger[key] = 0 if self.ledger[key] else WORTH[name]

    @rule(child=CHILD, typed=st.sampled_from(["", "18", "33"]))
    def say(self, child: int, typed: str) -> None:
        """A target for the first lesson: before any score of it, and not after."""
        first = self.lessons[0][0]
        done = any(one.activity == first and one.typed for one in self.goes.get((child, 0), []))
        path = f"/api/activities/{first.id}/aims/{self.pupils[child].id}"
        answer = self.world.teacher.ask("PUT", path, {"typed": typed})
        assert answer.status_code == (422 if done else 200), answer.content
        if not done:
            self.said[child] = typed

    def counted(self, child: int, which: int) -> list[tuple[int, bool]]:
        goes = sorted(self.goes.get((child, which), []), key=lambda one: one.order)
        found = [TYPED[one.typed] for one in goes if one.typed]
        return [(value, guess) for value, guess in found if value is not None]

    def earned(self, child: int, which: int) -> set[str]:
        """By plain count."""
        goes, mark = self.counted(child, which), self.marks[which]
        sure = [value for value, guess in goes if not guess]
        better = any(value > max(sure[:place]) for place, value in enumerate(sure) if place)
        beaten = mark is not None and any(value > mark for value in sure)
        return {
            name
            for name, holds in (
                ("took_part", bool(goes)), ("beat_own_best", better), ("beat_rival", beaten),
            )
            if holds
        }  # fmt: skip

    def row(self, child: int, which: int) -> dict[str, Any]:
        return self.rows(which)[child]

    def rows(self, which: int) -> list[dict[str, Any]]:
        """The two children's rows of a challenge, in one reading."""
        page = self.ask("GET", f"/api/challenges/{self.ids[which]}")
        found = {one["pupil_id"]: one for one in page["children"]}
        return [found[str(pupil.id)] for pupil in self.pupils]

    @invariant()
    def the_pages_say_what_was_done(self) -> None:
        if not hasattr(self, "ids"):
            return
        for which in (0, 1):
            for child, row in enumerate(self.rows(which)):
                self.points_are_those_earned(row, child, which)
                self.goes_are_those_made(row, child, which)
        sheet = self.ask("GET", f"{self.week}/sheet?on={timezone.localdate()}")
        beaten = {one["pupil_id"]: one["beaten"] for one in sheet["children"]}
        for child in (0, 1):
            won = sum("beat_rival" in self.earned(child, which) for which in (0, 1))
            assert beaten[str(self.pupils[child].id)] == won

    def points_are_those_earned(self, row: dict[str, Any], child: int, which: int) -> None:
        earned = self.earned(child, which)
        given = {
            name: points for (c, w, name), points in self.ledger.items() if (c, w) == (child, which)
        }
        assert {one["rule"]: one["points"] for one in row["given"]} == given
        assert {one["rule"] for one in row["waiting"]} == earned - set(given)
        assert {one["rule"] for one in row["missed"]} == set(WORTH) - earned - set(given)
        for one in row["given"]:
            assert one["no_longer"] == (one["points"] > 0 and one["rule"] not in earned)
        assert row["points"] == sum(given.values())

    def goes_are_those_made(self, row: dict[str, Any], child: int, which: int) -> None:
        goes = self.counted(child, which)
        sure = [value for value, guess in goes if not guess]
        assert row["tries"] == len(goes)
        if sure:
            assert (row["first"], row["best"]) == (str(sure[0]), str(max(sure)))

    @invariant()
    def the_ledger_adds_up_and_what_was_said_stands(self) -> None:
        if not hasattr(self, "ids"):
            return
        lines = Point.objects.filter(challenge__in=self.ids, pupil__in=self.pupils)
        assert sum(lines.values_list("points", flat=True)) == sum(self.ledger.values())
        aims = self.ask("GET", f"/api/activities/{self.lessons[0][0].id}/aims")["children"]
        said = {one["pupil_id"]: one["said"] for one in aims}
        for child, typed in self.said.items():
            assert said[str(self.pupils[child].id)] == typed


def test_whatever_happens_in_a_set(world: World) -> None:
    class Here(AnySet):
        pass

    Here.world = world
    run_state_machine_as_test(Here, settings=settings(MANY, max_examples=6, stateful_step_count=14))
