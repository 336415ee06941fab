"""Whatever happens to a lesson, in whatever order: one version is used throughout, every time is
held against its own run, and what was done points to the blocks that were done."""

from __future__ import annotations

import uuid
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
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

from lauf.lessons.models import Activity
from lauf.records.models import Attempt
from tests.api.conftest import MANY, World
from tests.support.plans import as_entry

BASE = datetime(2026, 11, 2, 9, 0, tzinfo=UTC)
SLACK_MS = 1_000
#: How far a time that is typed lies off what its clock shows.
OFF_THE_CLOCK = st.sampled_from([-20_000, -500, 0, 900, 1_200, 3_000, 15_000, 90_000])


@dataclass
class Clock:
    """A run as the device holds it: simulated milliseconds since the lesson's own nought."""

    anchor: int
    revision: int = 1
    paused: int | None = None
    pauses: list[tuple[int, int]] = field(default_factory=list)
    ended: str = ""

    def shown(self, now: int) -> int:
        return self.paused if self.paused is not None else now - self.anchor


class AnyLesson(RuleBasedStateMachine):
    """One lesson with a count against the clock and a hold, and everything that can befall it."""

    world: World

    @initialize()
    def begin(self) -> None:
        world = self.world
        self.reps = world.lesson_on(0, "press-ups-60")
        hold = world.lesson_on(0, "plank-limit")
        Activity.objects.filter(pk=hold.pk).update(lesson=self.reps.lesson, position=1)
        self.hold = Activity.objects.select_related("lesson", "protocol__test").get(pk=hold.pk)
        self.path = f"/api/lessons/{self.reps.lesson_id}"
        self.pinned = {str(one.id): one.protocol_id for one in (self.reps, self.hold)}
        self.seconds = self.reps.protocol.seconds
        self.now = 0
        self.clocks: dict[uuid.UUID, Clock] = {}
        self.heads: dict[tuple[str, int], tuple[str, int | None]] = {}
        self.conduct: dict[str, Any] | None = None
        self.page: dict[str, Any] = {}
        self.done: list[dict[str, Any]] = []
        self.plan([{"kind": "briefing", "label": "Talk", "seconds": 30}], keep_tests=True)

    # Helpers

    def ask(self, method: str, path: str, body: Any = None, who: str = "teacher") -> Any:
        return getattr(self.world, who).ask(method, path, body)

    def blocks(self) -> list[dict[str, Any]]:
        return [as_entry(one) for one in self.ask("GET", f"{self.path}/plan").json()["blocks"]]

    def plan(self, blocks: list[dict[str, Any]], *, keep_tests: bool = False) -> None:
        revision = self.ask("GET", f"{self.path}/plan").json()["revision"]
        if keep_tests:
            blocks = [*blocks, *self.blocks()]
        answer = self.ask("PUT", f"{self.path}/plan", {"based_on": revision, "blocks": blocks})
        assert answer.status_code == 200, answer.content

    def stamp(self, moment: int) -> str:
        return (BASE + timedelta(milliseconds=moment)).isoformat()

    def wall(self, moment: int) -> int:
        return int(BASE.timestamp() * 1000) + moment

    def tell(self, run: uuid.UUID) -> None:
        one = self.clocks[run]
        state = {
            "way": "taps", "revision": one.revision, "anchor_ms": self.wall(one.anchor),
            "paused_ms": one.paused, "ended": one.ended,
            "pauses": [{"from_ms": self.wall(a), "to_ms": self.wall(b)} for a, b in one.pauses],
        }  # fmt: skip
        told = self.ask("PUT", f"/api/activities/{self.hold.id}/runs/{run}", state)
        assert told.status_code == 200, told.content

    # What befalls it

    @rule(seconds=st.integers(1, 90))
    def time_passes(self, seconds: int) -> None:
        self.now += seconds * 1000

    @rule(test=st.sampled_from(["reps", "hold"]), what=st.sampled_from(["seconds", "easier"]),
          number=st.integers(20, 120))  # fmt: skip
    def a_protocol_is_edited(self, test: str, what: str, number: int) -> None:
        one = self.reps if test == "reps" else self.hold
        path = f"/api/tests/{one.protocol.test_id}"
        card = self.ask("GET", path, who="head").json()
        value = number if what == "seconds" and test == "reps" else f"Only {number}."
        name = "seconds" if isinstance(value, int) else "easier"
        body = {"based_on": card["version"], "protocol": {**card["protocol"], name: value}}
        answer = self.ask("POST", f"{path}/versions", body, who="head")
        assert answer.status_code in (201, 422)

    @rule(change=st.sampled_from(["add", "turn", "drop", "rename"]), where=st.integers(0, 9))
    def the_plan_is_edited(self, change: str, where: int) -> None:
        blocks = self.blocks()
        place = where % len(blocks)
        if change == "add":
            blocks.insert(place, {"kind": "briefing", "label": "Talk", "seconds": 20 + where})
        elif change == "turn":
            blocks.reverse()
        elif change == "rename":
            blocks[place]["label"] = f"Now {where}"
        elif blocks[place]["kind"] != "test":
            blocks.pop(place)
        self.plan(blocks)

    @rule()
    def a_clock_is_started(self) -> None:
        run = uuid.uuid4()
        self.clocks[run] = Clock(self.now)
        self.tell(run)

    @precondition(lambda self: self.clocks)
    @rule(which=st.integers(0, 9), what=st.sampled_from(["pause", "go on", "restart"]))
    def a_clock_is_handled(self, which: int, what: str) -> None:
        run = list(self.clocks)[which % len(self.clocks)]
        one = self.clocks[run]
        if what == "pause" and one.paused is None:
            one.paused = one.shown(self.now)
        elif what == "go on" and one.paused is not None:
            one.pauses.append((one.anchor + one.paused, self.now))
            one.anchor, one.paused = self.now - one.paused, None
        elif what == "restart":
            one.ended = "restarted"
        else:
            return
        one.revision += 1
        self.tell(run)

    @precondition(lambda self: self.clocks)
    @rule(child=st.integers(0, 5), which=st.integers(0, 9), off_ms=OFF_THE_CLOCK,
          sure=st.booleans())  # fmt: skip
    def a_time_is_taken(self, child: int, which: int, off_ms: int, sure: bool) -> None:
        run = list(self.clocks)[which % len(self.clocks)]
        shown = self.clocks[run].shown(self.now)
        typed_ms = max(100, (shown + off_ms) // 100 * 100)
        answer = self.enter(self.hold, child, f"{typed_ms / 1000:.1f}s", str(run), sure)
        if typed_ms > 600_000:
            assert answer.status_code == 422
        elif sure or typed_ms <= shown + SLACK_MS:
            assert answer.status_code == 200, answer.content
        else:
            assert answer.status_code == 422 and answer.json()["sure"]

    @rule(child=st.integers(0, 5), reps=st.integers(0, 60))
    def a_count_is_taken(self, child: int, reps: int) -> None:
        assert self.enter(self.reps, child, str(reps), None, False).status_code == 200

    def enter(self, one: Activity, child: int, typed: str, run: str | None, sure: bool) -> Any:
        """A score, or the correction of the one that is there."""
        pupil = self.world.pupils[child]
        codes = [variant["code"] for variant in one.protocol.variants] or [""]
        head = self.heads.get((str(one.id), child))
        body = self.world.body(
            pupil, typed, variant=codes[0], wave=None, recorded_at=self.stamp(self.now),
            run_id=run, sure=sure, succeeds=head[0] if head else None,
        )  # fmt: skip
        answer = self.ask("POST", f"/api/activities/{one.id}/attempts", body)
        if answer.status_code == 200:
            score = answer.json()["score"]
            self.heads[str(one.id), child] = (score["id"], score["value"])
        return answer

    @rule()
    def the_conductor_starts(self) -> None:
        self.page = self.ask("GET", f"{self.path}/timeline?fresh=true").json()
        self.conduct = {
            "run_id": str(uuid.uuid4()), "revision": 1, "anchor_ms": self.wall(self.now),
            "plan_revision": self.page["plan_revision"], "done": [], "swaps": [],
        }  # fmt: skip
        self.now += 1
        self.report()

    @precondition(lambda self: self.conduct)
    @rule(seconds=st.integers(0, 70))
    def a_part_is_done(self, seconds: int) -> None:
        assert self.conduct is not None
        place = len(self.conduct["done"])
        if place >= len(self.page["segments"]):
            return
        one = self.page["segments"][place]
        block = self.page["blocks"][one["block"]]
        label = next((swap["label"] for swap in self.conduct["swaps"]
                      if swap["was"] == one["label"] and swap["block"] == one["block"]),
                     one["label"])  # fmt: skip
        self.conduct["done"].append({
            "segment": one["id"], "seconds": seconds, "block": block["label"], "label": label,
            "planned": (one["to_ms"] - one["from_ms"]) // 1000,
        })  # fmt: skip
        self.report()

    @precondition(lambda self: self.conduct)
    @rule(name=st.sampled_from(["hopping", "crawling"]))
    def something_else_is_done(self, name: str) -> None:
        assert self.conduct is not None
        place = min(len(self.conduct["done"]), len(self.page["segments"]) - 1)
        one = self.page["segments"][place]
        self.conduct["swaps"].append(
            {"segment": one["id"], "was": one["label"], "label": name, "block": one["block"]}
        )
        self.report()

    def report(self) -> None:
        assert self.conduct is not None
        swaps = [{k: v for k, v in one.items() if k != "block"} for one in self.conduct["swaps"]]
        told = self.ask("PUT", f"{self.path}/conduct", {**self.conduct, "swaps": swaps})
        assert told.status_code == 200, told.content
        self.conduct["revision"] += 1

    @rule(what=st.sampled_from(["close", "reopen"]))
    def it_is_closed_or_opened(self, what: str) -> None:
        assert self.ask("POST", f"{self.path}/{what}").status_code == 200

    # What holds throughout

    @invariant()
    def one_version_is_used(self) -> None:
        kept = Attempt.objects.filter(activity__in=self.pinned)
        assert all(self.pinned[str(one.activity_id)] == one.protocol_id for one in kept)
        called = self.ask("GET", f"{self.path}/timeline?fresh=true").json()
        reps = [n for n, one in enumerate(called["blocks"])
                if one["activity_id"] == str(self.reps.id)]  # fmt: skip
        worked = {one["to_ms"] - one["from_ms"] for one in called["segments"]
                  if one["block"] in reps and one["phase"] == "work"}  # fmt: skip
        assert worked == {(self.seconds or 0) * 1000}
        shown = self.ask("GET", f"/api/activities/{self.reps.id}/lanes").json()
        assert shown["seconds"] == self.seconds

    @invariant()
    def what_the_screen_says_is_what_is_kept(self) -> None:
        for (activity, child), (attempt, value) in self.heads.items():
            head = Attempt.objects.get(activity=activity, successor=None,
                                       pupil=self.world.pupils[child])  # fmt: skip
            assert (str(head.id), head.value) == (attempt, value)

    @invariant()
    def what_was_done_points_to_the_blocks_that_were_done(self) -> None:
        if self.conduct is None:
            return
        assert self.ask("GET", f"{self.path}/timeline").json()["segments"] == self.page["segments"]
        rows = self.ask("GET", f"{self.path}/record").json()
        block_of = {one["id"]: self.page["blocks"][one["block"]]["id"]
                    for one in self.page["segments"]}  # fmt: skip
        expected: dict[str, int] = {}
        for one in self.conduct["done"]:
            block = block_of[one["segment"]]
            expected[block] = expected.get(block, 0) + one["seconds"]
        found: dict[str, int] = {}
        for row in rows:
            found[row["block_id"]] = found.get(row["block_id"], 0) + row["seconds"]
        assert found == expected


def test_whatever_happens_to_a_lesson(world: World) -> None:
    class Here(AnyLesson):
        pass

    Here.world = world
    run_state_machine_as_test(
        Here,
        settings=settings(MANY, max_examples=6, stateful_step_count=25),
    )
