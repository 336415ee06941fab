"""Belts and gates: the stand-ins speak as the real ones do, and the checks catch their troubles."""

from __future__ import annotations

from typing import Any

import pytest
from django.test import override_settings

from tests.api.conftest import World


def belts(world: World, **query: Any) -> list[dict[str, Any]]:
    """What the stand-in's belts send, read and checked as a real one's would be."""
    lesson = world.activity.lesson_id
    asked = "&".join(f"{name}={value}" for name, value in query.items())
    sent = world.teacher.ask("GET", f"/api/stand-ins/belts/{lesson}?{asked}").json()
    answer = world.teacher.ask("POST", f"/api/lessons/{lesson}/belts", {"messages": sent})
    assert answer.status_code == 200, answer.content
    found: list[dict[str, Any]] = answer.json()
    return found


def test_every_child_has_a_belt_and_its_pulse_rises_with_the_work(world: World) -> None:
    rest, work = (belts(world, second=100, effort=effort) for effort in (0, 90))
    assert [row["pupil_id"] for row in rest] == [str(pupil.id) for pupil in world.pupils]
    assert all(row["problem"] is None for row in rest + work)
    assert all(b["bpm"] > a["bpm"] + 50 for a, b in zip(rest, work, strict=True))
    assert belts(world, second=100, effort=0) == rest, "the same moment says the same"


@pytest.mark.parametrize(
    ("trouble", "says"),
    [
        ("contact", "does not touch the skin"),
        ("impossible", "not a pulse"),
        ("disagree", "its beats make"),
    ],
)
def test_a_misbehaving_belt_is_caught_and_the_others_are_taken(
    world: World, trouble: str, says: str
) -> None:
    found = belts(world, second=7, effort=60, trouble=trouble)
    odd = [row for row in found if row["problem"]]
    assert 1 <= len(odd) < len(found) / 2
    assert all(says in row["problem"] and row["bpm"] is None for row in odd)


def test_a_silent_belt_sends_nothing(world: World) -> None:
    found = belts(world, second=7, trouble="silent")
    assert 0 < len(found) < len(world.pupils)


@pytest.mark.parametrize("message", ["", "00", "0xyz", "104862", "0048ff"])
def test_a_message_that_is_cut_off_is_no_pulse(world: World, message: str) -> None:
    lesson = world.activity.lesson_id
    body = {"messages": [{"pupil_id": str(world.pupils[0].id), "hex": message}]}
    (row,) = world.teacher.ask("POST", f"/api/lessons/{lesson}/belts", body).json()
    assert row["bpm"] is None and row["problem"]


def gate(world: World, until: int, trouble: str = "none", since: int = 0) -> tuple[Any, Any]:
    activity = world.activity.id
    path = f"/api/stand-ins/gate/{activity}?since_ms={since}&until_ms={until}&trouble={trouble}"
    lines = world.teacher.ask("GET", path).json()["lines"]
    read = world.teacher.ask("POST", f"/api/activities/{activity}/gate", {"lines": lines}).json()
    return lines, read


def test_the_gate_tells_every_passage_once_and_in_time(world: World) -> None:
    lines, read = gate(world, 200_000)
    assert len(lines) == len(read)
    assert all(row["problem"] is None and row["pupil_id"] for row in read)
    times = [row["at_ms"] for row in read]
    assert times == sorted(times)
    laps = {str(p.id): sum(1 for row in read if row["pupil_id"] == str(p.id)) for p in world.pupils}
    assert all(4 <= count <= 8 for count in laps.values())
    # Asked for in pieces it says the same.
    first, later = gate(world, 90_000)[0], gate(world, 200_000, since=90_000)[0]
    assert first + later == lines


def test_a_misbehaving_gate_is_caught(world: World) -> None:
    well = [row["at_ms"] for row in gate(world, 200_000)[1]]
    lines, read = gate(world, 200_000, "doubled")
    assert len(lines) > len(well)
    assert [row["at_ms"] for row in read if row["problem"] is None] == well
    assert {"sent twice" in row["problem"] for row in read if row["problem"]} == {True}
    lines, read = gate(world, 200_000, "garbled")
    assert any("such as P,12,83250" in (row["problem"] or "") for row in read)
    lines, read = gate(world, 200_000, "unknown")
    nobody = [row for row in read if row["pupil_id"] is None]
    assert nobody and all(row["at_ms"] for row in nobody), "somebody passed, to be named later"


def test_the_stand_ins_come_with_the_demo_only(world: World) -> None:
    with override_settings(DEMO=False):
        for path in (
            f"/api/stand-ins/belts/{world.activity.lesson_id}",
            f"/api/stand-ins/gate/{world.activity.id}?until_ms=1000",
        ):
            assert world.teacher.ask("GET", path).status_code == 404
        assert world.teacher.ask("GET", "/api/session").json()["stand_ins"] is False
