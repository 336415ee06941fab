"""Whatever order files come in (newer, older, double, late, altered, of a stranger), whoever is
known or let in and whatever is undone: the table is what a plain count of the files says."""

from __future__ import annotations

from copy import deepcopy
from datetime import datetime, timedelta
from typing import Any
from unittest import mock

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

from tests.api.conftest import MANY, World
from tests.api.games import FarSchool, file_of, new_games, send

NAMES = ("Harbour School", "Quarry Hill", "Birch Lane")
WHO = st.integers(0, len(NAMES) - 1)
NUMBER = st.integers(1, 3)
TOOK_PART = st.integers(5, 20)


class AnyGames(RuleBasedStateMachine):
    """Three schools far away, and one organiser whose calendar may pass the last day."""

    world: World

    @initialize()
    def begin(self) -> None:
        self.games = new_games(self.world)
        file = file_of(self.world, self.games["id"])
        self.schools = [FarSchool(name, file) for name in NAMES]
        self.sent: dict[str, dict[str, Any]] = {}
        self.known: set[str] = set()
        self.notes = 0
        self.late = False

    @property
    def today(self) -> datetime:
        return timezone.now() + timedelta(days=30 if self.late else 0)

    def send(self, file: dict[str, Any]) -> Any:
        with mock.patch("lauf.exchange.actions.games.timezone", mock.Mock(now=lambda: self.today)):
            return send(self.world, self.games["id"], file)

    @rule(who=WHO, number=NUMBER, took_part=TOOK_PART)
    def a_file_comes(self, who: int, number: int, took_part: int) -> None:
        school = self.schools[who]
        made = f"2026-01-01T{number:02d}:{took_part:02d}:00+00:00"
        file = school.result(number, took_part, made_at=made)
        known = file["signature"] in self.sent
        assert self.send(file).status_code == 200
        if known:
            self.notes += 1
        else:
            self.sent[file["signature"]] = {
                "school": school.name, "number": number, "took_part": took_part, "late": self.late,
                "in": False, "made": made,
            }  # fmt: skip

    @rule(who=WHO, number=NUMBER)
    def one_is_altered(self, who: int, number: int) -> None:
        file = deepcopy(self.schools[who].result(number))
        file["body"]["tests"][0]["cells"][0]["took_part"] += 1
        assert self.send(file).status_code == 422
        self.notes += 1

    @rule()
    def the_last_day_passes(self) -> None:
        self.late = True

    @precondition(lambda self: self.sent)
    @rule(which=st.integers(0, 99), yes=st.booleans())
    def a_school_is_known(self, which: int, yes: bool) -> None:
        row = self.row(which)
        path = f"/api/games/{self.games['id']}/schools/{row['school_id']}"
        assert self.world.head.ask("PUT", path, {"yes": yes}).status_code == 200
        (self.known.add if yes else self.known.discard)(row["school"])

    @precondition(lambda self: self.sent)
    @rule(which=st.integers(0, 99), yes=st.booleans())
    def a_file_is_let_in(self, which: int, yes: bool) -> None:
        row = self.row(which)
        path = f"/api/games/{self.games['id']}/results/{row['id']}"
        assert self.world.head.ask("PUT", path, {"yes": yes}).status_code == 200
        mine = [one for one in self.sent.values() if one["school"] == row["school"]
                and one["number"] == row["number"]
                and f", {one['took_part']} children" in row["words"]]  # fmt: skip
        assert len(mine) == 1
        mine[0]["in"] = yes

    def row(self, which: int) -> dict[str, Any]:
        rows = self.page()["files"]
        found: dict[str, Any] = rows[which % len(rows)]
        return found

    def page(self) -> Any:
        return self.world.head.ask("GET", f"/api/games/{self.games['id']}").json()

    @invariant()
    def the_table_is_a_plain_count(self) -> None:
        if not hasattr(self, "games"):
            return
        page = self.page()
        expected = {}
        for name in self.known:
            mine = [one for one in self.sent.values()
                    if one["school"] == name and (one["in"] or not one["late"])]  # fmt: skip
            if mine:
                newest = max(mine, key=lambda one: (one["number"], one["made"]))
                # Two on the first rung and two on the second are six more.
                expected[name] = newest["took_part"] + 6
        assert {one["name"]: one["points"] for one in page["schools"]} == expected
        places = [one["points"] for one in page["schools"]]
        assert places == sorted(places, reverse=True)
        assert len(page["files"]) == len(self.sent), "each file once"
        assert len(page["notes"]) == min(50, self.notes)
        counted = [one for one in page["files"] if one["state"] == "counts"]
        assert sorted(one["school"] for one in counted) == sorted(expected)


def test_whatever_order_files_come_in(world: World) -> None:
    class Machine(AnyGames):
        pass

    Machine.world = world
    run_state_machine_as_test(  # type: ignore[no-untyped-call]
        Machine, settings=settings(MANY, max_examples=8, stateful_step_count=16)
    )
